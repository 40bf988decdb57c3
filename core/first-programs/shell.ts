/** The shell programs: POSIX shell with the tools that an image has or that are a package away. */
import type { ResolvedPart } from '../facts/types'
import { HWMON, IIO, QUANTITIES } from '../bringup/readings'
import type { Access, LineChipOf } from './access'
import { FRAMES } from './serial'
import type { ProgramText } from './types'
import { biasOf, hex, spoken } from './words'

const quoted = (text: string) => `'${text.replaceAll('\'', '\'\\\'\'')}'`
const head = (owner: ResolvedPart, file: string, does: string, args = '') => `#!/bin/sh
# ${spoken(owner.name)}: ${does}
# Start it: sh ${file}${args && ` ${args}`}
set -u
`
const EACH_SECOND = (command: string) => `nth=0
while [ "$nth" -lt "\${1:-1}" ]; do
  [ "$nth" -eq 0 ] || sleep 1
  ${command}
  nth=$((nth + 1))
done
`
/** Either version of the tools for lines; the first word of a line is the tool's version. */
const lineTools = ({ node, expander }: LineChipOf) => `# gpiodetect tells ${expander === null
  ? 'which chip has the header\'s lines.'
  : `the number of ${spoken(expander)}, which other chips can change.`}
CHIP=${node.replace('/dev/', '')}
version=1
gpiodetect --version | head -n 1 | grep -q 'v2' && version=2
`

/** The card that came last: what the board has itself stands before it. */
const CARD = (tool: string) => `LC_ALL=C
export LC_ALL
card=$(${tool} -l | sed -n 's/^card \\([0-9]*\\):.*/\\1/p' | tail -n 1)
if [ -z "$card" ]; then
  echo 'no card of its kind: look at dmesg and at its line in the boot file' >&2
  exit 1
fi
echo "card $card"
`

function filesProgram(owner: ResolvedPart, access: Extract<Access, { by: 'files' }>, file: string): string | null {
  const table = access.folder === 'iio' ? IIO : HWMON
  const rows = access.quantities.flatMap((what) => {
    const entry = table[what]
    if (!entry || entry.isRaw) return []
    const { name, unit, digits } = QUANTITIES[what]
    const scale = entry.scaleFile ? ` -v scale="$(cat "$folder/${entry.scaleFile}")"` : ''
    const figure = entry.scaleFile ? '$1 * scale / 1000' : `$1 / ${entry.per}`
    return [`  awk${scale} '{ printf "${name} %.${digits}f ${unit.replaceAll('%', '%%')}\\n", ${figure} }' "$folder/${entry.name}"`]
  })
  if (!rows.length) return null
  const pattern = access.folder === 'iio' ? '/sys/bus/iio/devices/iio:device*' : '/sys/class/hwmon/hwmon*'
  return `${head(owner, file, 'reads it once, or so many times, each second.', '10')}folder=
nth=0
for found in ${pattern}; do
  [ "$(cat "$found/name")" = ${quoted(access.name)} ] || continue
  [ "$nth" -eq ${access.nth} ] && folder=$found
  nth=$((nth + 1))
done
if [ -z "$folder" ]; then
  echo "no ${access.name} among ${pattern.replaceAll('*', '…')}: look at dmesg, the boot file and the wires" >&2
  exit 1
fi
show() {
${rows.join('\n')}
}
${EACH_SECOND('show')}`
}

/** The shell programs of one part. */
export function shellPrograms(owner: ResolvedPart, access: Access, file: (aim: string) => string): ProgramText[] {
  switch (access.by) {
    case 'files': {
      const text = filesProgram(owner, access, file('read'))
      return text ? [{ aim: 'read', arguments: '10', text }] : []
    }
    case 'probes': return [{ aim: 'read', arguments: '10', text: `${head(owner, file('read'),
      'reads every probe once, or so many times, each second.', '10')}show() {
  for probe in /sys/bus/w1/devices/28-*; do
    if [ ! -r "$probe/temperature" ]; then
      echo 'no probe answers: the line in the boot file, the wires, the pull-up of 4.7 kΩ' >&2
      exit 1
    fi
    awk -v name="$(basename "$probe")" '{ printf "%s %.1f °C\\n", name, $1 / 1000 }' "$probe/temperature"
  done
}
${EACH_SECOND('show')}` }]
    case 'clock': return [{ aim: 'read', arguments: '', text: `${head(
      owner, file('read'), 'what it says, beside the system\'s own time.')}clock=/sys/class/rtc/${access.rtc}
echo "$(cat "$clock/date") $(cat "$clock/time") UTC"
date -u '+%Y-%m-%d %H:%M:%S UTC, the system'
` }]
    case 'i2c': {
      const { number, address, recipe } = access
      return [{ aim: 'read', arguments: '', text: recipe?.who
        ? `${head(owner, file('read'), 'asks it who it is.')}address=${hex(address)}
found=$(i2cget -y ${number} "$address" ${hex(recipe.who.register)}) || exit 1
if [ "$found" = ${hex(recipe.who.value)} ]; then
  echo "it is there: register ${hex(recipe.who.register)} says $found"
else
  echo "register ${hex(recipe.who.register)} says $found, not ${hex(recipe.who.value)}: another part answers there" >&2
  exit 1
fi
`
        : `${head(owner, file('read'), 'asks whether it is there.')}i2cdetect -y ${number} ${hex(address)} ${hex(address)}
if i2cdetect -y ${number} ${hex(address)} ${hex(address)} | tail -n +2 | grep -q ' ${address.toString(16).padStart(2, '0')}'; then
  echo 'it answers at ${hex(address)}'
else
  echo 'nothing answers at ${hex(address)}: the wires, the address strap' >&2
  exit 1
fi
` }]
    }
    case 'out': return [{ aim: 'move', arguments: '', text: `${head(owner, file('move'),
      'each of its lines goes on for a second, one after the other, and rests again.')}${lineTools(access.chip)}put() {
  if [ "$version" -eq 2 ]; then gpioset -t 0 -c "$CHIP" "$1=$2"; else gpioset "$CHIP" "$1=$2"; fi || exit 1
}
${access.lines.map(({ line, rest }) => `put ${line} ${rest}`).join('\n')}
${access.lines.map(({ label, line, where, rest }) =>
  `echo ${quoted(`${label}, line ${line}, ${where}: on`)}\nput ${line} ${1 - rest}\nsleep 1\nput ${line} ${rest}`).join('\n')}
echo 'all at rest'
` }]
    case 'in': return [{ aim: 'watch', arguments: '20', text: `${head(owner, file('watch'),
      'its lines now, then so many times, each second.', '20')}${lineTools(access.chip)}look() {
  if [ "$version" -eq 2 ]; then
    gpioget -b ${biasOf(access.lines) === 'none' ? 'disabled' : biasOf(access.lines)} --numeric -c "$CHIP" "$@"
  else
    gpioget -B ${biasOf(access.lines) === 'none' ? 'disable' : biasOf(access.lines)} "$CHIP" "$@"
  fi || exit 1
}
echo ${quoted(`${access.lines.map(({ label }) => label).join(' ')}, each ${access.lines.every(({ active }) => active === 0)
  ? '0 when something is up'
  : access.lines.every(({ active }) => active === 1) ? '1 when something is up' : 'as it stands in the plan'}`)}
${EACH_SECOND(`look ${access.lines.map(({ line }) => line).join(' ')}`)}` }]
    case 'pulses': return [{ aim: 'move', arguments: '', text: `${head(owner, file('move'),
      'goes through its settings, two seconds each, and rests.')}chip=${access.chip}
channel=$chip/pwm${access.channel}
[ -d "$channel" ] || echo ${access.channel} > "$chip/export" || exit 1
sleep 0.2
# Nothing can be set before there is a period, and a period cannot be shorter than the pulse that was set.
[ "$(cat "$channel/period")" = 0 ] || echo 0 > "$channel/duty_cycle"
echo ${access.periodNs} > "$channel/period"
echo 1 > "$channel/enable"
${access.duties.map(({ label, ns }) => `echo ${ns} > "$channel/duty_cycle"\necho ${quoted(`${label}: ${Math.round(ns / 1000)} of ${
  Math.round(access.periodNs / 1000)} µs`)}\nsleep 2`).join('\n')}
echo 0 > "$channel/enable"
echo 'it rests'
` }]
    case 'serial': {
      const greeting = owner.part.hello?.send ?? null
      return [{ aim: 'link', arguments: '5',
        text: `${head(owner, file('link'), 'says something and prints what comes for so many seconds.',
          '5')}port=${access.device}
stty -F "$port" ${access.baud} raw -echo ${FRAMES.shell(access.frame)} || exit 1
${greeting ? `printf ${quoted(JSON.stringify(greeting).slice(1, -1))} > "$port"\n` : ''}timeout "\${1:-5}" cat "$port"
` }]
    }
    case 'sound': return [{ aim: access.plays ? 'show' : 'watch', arguments: '',
      text: `${head(owner, file(access.plays ? 'show' : 'watch'),
        access.plays ? 'a voice left and right, once.' : 'records four seconds and tells how loud they were.')}${access.plays
        ? `${CARD('aplay')}speaker-test -D "plughw:$card" -t wav -c 2 -l 1\n`
        : `${CARD('arecord')}arecord -D "plughw:$card" -f S32_LE -r 48000 -c 2 -d 4 -V stereo /tmp/first-program.wav\n`}` }]
    default: return []
  }
}
