/**
 * What the kernel's messages, the tools for lines and USB, and readings of probes say, out of a text that was copied
 * from the screen. Formats: libgpiod 1.6 (Debian) and 2 (memory), Linux drivers/w1/slaves/w1_therm.c, util-linux dmesg,
 * usbutils; what the kernel's error numbers mean is published: Linux, include/uapi/asm-generic/errno.h.
 */
import { pathOfProbe } from '../../plan/ids'
import type { Probe } from '../types'
import type { Found, Passage } from './types'

const said = (words: string): Found => ({ kind: 'said', words })
const seen = (probe: Probe,
  outcome: string): Found => ({ kind: 'seen', probe: probe.id, outcome, words: `${probe.title}: ${outcome}` })
const nodeProbe = (probes: readonly Probe[], path: string) => probes.find(({ id }) => {
  const asked = pathOfProbe(id)
  return asked !== null && (asked === path || (asked.endsWith('*') && path.startsWith(asked.slice(0, -1))))
})

/** All that is found in one passage beside grids, nodes and the throttle word. */
export const systemIn = (passage: Passage, probes: readonly Probe[]): Found[] => [
  ...messagesIn(passage, probes), ...linesIn(passage, probes), ...probesOnWire(passage, probes), ...usbIn(passage),
  ...portIn(passage),
  ...upIn(passage), ...cardsIn(passage), ...refusals(passage),
]

/** What the kernel means by a number when it gives up. */
const ERRORS: Readonly<Record<string, string>> = {
  121: 'nobody answered on the bus', 5: 'the transfer failed', 110: 'it waited too long', 16: 'somebody else has it',
  6: 'nobody answered on the bus', 19: 'there is no such thing there',
  22: 'what the tree says of it makes no sense to the driver',
}

function messagesIn({ lines }: Passage, probes: readonly Probe[]): Found[] {
  const found: Found[] = []
  for (const line of lines) {
    const [, message] = /^\[\s*\d+\.\d+\]\s+(.*)$/.exec(line) ?? /^\[\w{3} \w{3} [ \d:]+\d{4}\]\s+(.*)$/.exec(line)
      ?? []
    if (message === undefined) continue
    const error = /(?:probe (?:of (\S+) )?failed|failed) with error -(\d+)/.exec(message)
    const port = /\b(tty(?:ACM|USB)\d+)\b/.exec(message)
    if (/under-?voltage detected/i.test(message)) {
      const load = probes.find(({ id }) => id === 'load')
      found.push(load ? seen(load, 'under-voltage, or it starts anew') : said('The kernel saw under-voltage'))
    }
    else if (/EXT4-fs \(\S+\): recovery complete/.test(message)) {
      found.push(said('A disk was not left in order last time and was mended at this start: the supply was pulled, or '
        + 'the system fell over. Shut down before pulling it'))
    }
    else if (error) found.push(said(`A driver gave up (${message.slice(0, 80)}): `
      + `${ERRORS[error[2]!] ?? `error ${error[2]}`}`))
    else if (port && /ACM device|now attached/.test(message)) {
      const probe = nodeProbe(probes, `/dev/${port[1]}`)
      found.push(probe ? seen(probe, 'it is there') : said(`A serial thing was plugged in: /dev/${port[1]}`))
    }
    else if (/USB disconnect/.test(message)) found.push(said(`Something on USB went away: ${message.slice(0, 80)}`))
    else if (/already requested by|already in use/.test(message)) found.push(said(`Two want the same: ${message.slice(0, 120)}`))
  }
  // A passage of messages that complains of nothing was read all the same.
  const isMessages = lines.filter(line => line.trim()).length > 0
    && lines.every(line => !line.trim() || /^\[\s*[\d\w]/.test(line))
  return found.length || !isMessages ? found : [said('Messages of the kernel: nothing in them complains')]
}

/** Lines that a driver has, and lines that moved while they were watched. */
function linesIn({ command, lines }: Passage, probes: readonly Probe[]): Found[] {
  const found: Found[] = []
  const used = lines.flatMap((line) => {
    const match = /^\s*line\s+(\d+):.*?"([^"]+)"\s+(?:input|output).*\[used/.exec(line)
      ?? /^\s*line\s+(\d+):.*consumer="?([^"\s]+)"?/.exec(line)
    return match ? [`G${match[1]} (${match[2]})`] : []
  })
  if (lines.some(line => /^\s*line\s+\d+:/.test(line))) {
    found.push(said(used.length ? `Drivers have the lines ${used.join(', ')}` : 'No driver has a line of the header'))
  }
  const chips = lines.flatMap(line => /^gpiochip\d+ \[.*\] \((\d+) lines\)$/.exec(line)?.[0] ?? [])
  if (chips.length) found.push(said(`Chips of lines: ${chips.join('; ')}`))
  const moved = [...new Set(lines.flatMap(line =>
    /^event:\s+(?:RISING|FALLING) EDGE offset:\s*(\d+)/.exec(line)?.[1]
    ?? /^\d+\.\d+\s+(?:rising|falling)\s+\S+\s+(\d+)/.exec(line)?.[1] ?? []))]
  if (moved.length) {
    const asked = /gpiomon\b(.*)/.exec(command ?? '')?.[1]?.split(/\s+/).filter(word => /^\d+$/.test(word)) ?? []
    const chip = /\bgpiochip\d+\b/.exec(command ?? '')?.[0] ?? 'gpiochip0'
    const probe = asked.length === 1
      ? probes.find(({ id, command: own }) => id.startsWith('line:') && own === `gpiomon ${chip} ${asked[0]}`)
      : undefined
    found.push(probe && moved.length === 1 && moved[0] === asked[0]
      ? seen(probe, 'it moves')
      : said(`Moved: ${moved.map(line => chip === 'gpiochip0' ? `G${line}` : `line ${line} of ${chip}`).join(', ')}`))
  }
  const levels = /gpioget\b/.test(command ?? '')
    ? lines.filter(line => /^[01](?: [01])*$/.test(line.trim()) || /^"?\w+"?=(?:in)?active/.test(line.trim()))
    : []
  if (levels.length) found.push(said(`Levels: ${levels.map(line => line.trim()).join('; ')}`))
  return found
}

/** What a probe has in its place before it has measured. Published: data sheets of the family; memory. */
const UNMEASURED = '85000'

function probesOnWire({ lines }: Passage, probes: readonly Probe[]): Found[] {
  const node = nodeProbe(probes, '/sys/bus/w1/devices/28-0')
  const found: Found[] = []
  if (lines.some(line => /: crc=[0-9a-f]{2} NO\s*$/.test(line))) {
    found.push(said('A probe on 1-Wire answers, and its sum does not fit: a bad contact, a long wire, or a pull-up '
      + 'that is too weak'))
  }
  const figures = lines.flatMap(line => /^(?:[0-9a-f]{2} ){9}t=(-?\d+)\s*$/.exec(line)?.[1] ?? [])
  if (!figures.length) return found
  if (node) found.push(seen(node, 'it is there'))
  const measured = figures.filter(figure => figure !== UNMEASURED)
  const degrees = measured.map(figure => `${(Number(figure) / 1000).toFixed(1)} °C`)
  if (measured.length) found.push(said(`Probes on 1-Wire: ${degrees.join(', ')}`))
  if (measured.length < figures.length) {
    found.push(said('85 °C is what a probe has before it measures: read again; if it stays, its supply does '
      + 'not carry it'))
  }
  return found
}

function usbIn({ lines }: Passage): Found[] {
  const rows = lines.flatMap(line =>
    /^Bus \d{3} Device \d{3}: ID [0-9a-f]{4}:[0-9a-f]{4}\s*(.*)$/.exec(line)?.[1] ?? [])
  if (!rows.length) return []
  const things = rows.filter(name => !/root hub/i.test(name))
  return [said(things.length
    ? `On USB: ${things.map(name => name || 'a thing without a name').join(', ')}`
    : 'On USB there is nothing but the board\'s own hub')]
}

function portIn({ command, lines }: Passage): Found[] {
  if (!/\bstty\b/.test(command ?? '')) return []
  const speed = lines.flatMap(line => /^speed (\d+) baud/.exec(line)?.[1] ?? [])[0]
  return speed === undefined ? [] : [said(`The port is set to ${speed} bits a second`)]
}

function upIn({ command, lines }: Passage): Found[] {
  if (!/\buptime\b/.test(command ?? '')) return []
  const match = lines.map(line => /up\s+(.+?),\s+\d+ users?,\s+load average:\s*([\d.]+)/.exec(line))
    .find(found => found)
  return match ? [said(`Up for ${match[1]!.trim()}, ${match[2]} cores busy on average`)] : []
}

function cardsIn({ lines }: Passage): Found[] {
  if (lines.some(line => /no soundcards/i.test(line))) return [said('There is no sound card')]
  const cards = [...new Set(lines.flatMap(line => /^card \d+: \S+ \[(.*?)\]/.exec(line)?.[1] ?? []))]
  return cards.length ? [said(`Sound cards: ${cards.join(', ')}`)] : []
}

function refusals({ command, lines }: Passage): Found[] {
  const missing = lines.flatMap(line => /(?:^|: )([\w.-]+): (?:command )?not found$/.exec(line.trim())?.[1] ?? [])[0]
  if (missing) return [{ kind: 'refused',
    words: `${missing} is not installed there; the check script says what it skips and goes on` }]
  const isDenied = !/i2cdetect/.test(command ?? '') && lines.some(line => /permission denied/i.test(line))
  const what = command ?? 'A command'
  return isDenied
    ? [{ kind: 'refused',
        words: `${what} was refused: put "sudo" before it, or join the group of the node and log in anew.` }]
    : []
}

/** Names in the output of a command that lists things. */
const namesIn = ({ command, lines }: Passage): string[] | null => {
  const what = (command ?? '').replace(/^sudo\s+/, '')
  if (/^ls\b(?!.*\s-\w*l)/.test(what)) {
    return lines.filter(line => !/cannot access|^total /.test(line)).flatMap(line => line.trim().split(/\s+/))
      .filter(Boolean)
  }
  if (/^lsusb\s*$/.test(what)) return lines.flatMap(line =>
    /ID ([0-9a-f]{4}:[0-9a-f]{4}.*)$/.exec(line)?.[1]?.trim() ?? [])
  return null
}

/** Two lists by the same command in one text are one before and one after: what came and what went. */
export function changesIn(passages: readonly Passage[]): Found[] {
  const found: Found[] = []
  const before = new Map<string, string[]>()
  for (const passage of passages) {
    const names = namesIn(passage)
    if (!names || passage.command === null) continue
    const last = before.get(passage.command)
    if (last) {
      const [came, went] = [names.filter(name => !last.includes(name)), last.filter(name => !names.includes(name))]
      const words = [came.length && `new: ${came.join(', ')}`, went.length
        && `gone: ${went.join(', ')}`].filter(Boolean)
      found.push(said(`${passage.command}, before and after: ${words.length ? words.join('; ') : 'the same'}`))
    }
    before.set(passage.command, names)
  }
  return found
}
