/**
 * What the kernel and the system say: messages, modules, sound cards, USB, network, services, temperature. Formats
 * are from memory.
 */
import { INFO } from '../info'
import { messagesOf } from '../messages'
import { START_S, type Machine } from '../machine'
import { optionsOf, type Command } from './types'

export const dmesg: Command = ({ machine, args }) => {
  const { flags } = optionsOf(args, ['l', 'level'])
  const level = flags.get('l') ?? flags.get('level')
  const wanted = level ? level.split(',') : null
  const clock = flags.has('T') || flags.has('ctime')
  return { out: messagesOf(machine).filter(entry => !wanted || wanted.includes(entry.level))
    .map(({ atS, text }) => clock
      ? `[${ctime(new Date(machine.startedAt.getTime() + atS * 1000))}] ${text}\n`
      : `[${atS.toFixed(6).padStart(12)}] ${text}\n`).join('') }
}

const DAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat']
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const two = (value: number) => String(value).padStart(2, '0')
const timeOf = (date: Date) => [date.getUTCHours(), date.getUTCMinutes(), date.getUTCSeconds()].map(two).join(':')
const ctime = (date: Date) => `${DAYS[date.getUTCDay()]} ${MONTHS[date.getUTCMonth()]} `
  + `${String(date.getUTCDate()).padStart(2)} ${timeOf(date)} ${date.getUTCFullYear()}`

export const lsmod: Command = ({ machine }) => {
  const modules = [...new Set(['i2c_dev',
    ...machine.drivers.filter(({ refused }) => !refused).map(({ module }) => module)])]
  const rows = modules.map((name, i) => `${name.padEnd(23)} ${String(16384 * (1 + i % 3)).padStart(6)}  0`)
  return { out: `${'Module'.padEnd(23)} ${'Size'.padStart(6)}  Used by\n${rows.join('\n')}\n` }
}

export const uname: Command = ({ args }) => {
  const { flags } = optionsOf(args)
  const all = flags.has('a')
  const parts = [
    [all || flags.has('s') || !flags.size, 'Linux'], [all || flags.has('n'), INFO.host],
    [all || flags.has('r'), INFO.kernel],
    [all || flags.has('v'), '#1 SMP PREEMPT'], [all || flags.has('m'), 'aarch64'], [all || flags.has('o'), 'GNU/Linux'],
  ] as const
  return { out: `${parts.filter(([shown]) => shown).map(([, word]) => word).join(' ')}\n` }
}

export const uptime: Command = ({ machine, args }) => {
  const minutes = Math.floor(machine.nowS / 60)
  const since = minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)}:${two(minutes % 60)}`
  if (args.includes('-p')) return { out: `up ${minutes} minute${minutes === 1 ? '' : 's'}\n` }
  return { out: ` ${timeOf(machine.now)} up ${since},  1 user,  load average: ${loads(machine).join(', ')}\n` }
}

/**
 * Runs towards four with four busy cores, as 1 − e^(−t/τ) with one, five and fifteen minutes.
 * Published: proc(5), loadavg.
 */
export function loads({ busySinceS, nowS }: Machine): string[] {
  const since = busySinceS === null ? null : nowS - busySinceS
  return [60, 300, 900].map(tau => (since === null ? 0.02 : 4 * (1 - Math.exp(-since / tau))).toFixed(2))
}

export const date: Command = ({ machine, args }) => {
  const [format] = args.filter(arg => arg.startsWith('+'))
  if (!format) {
    const { now } = machine
    return { out: `${ctime(now).replace(/ (\d+)$/, ' UTC $1')}\n` }
  }
  const { now } = machine
  const fields: Record<string, string> = {
    'Y': String(now.getUTCFullYear()), 'm': two(now.getUTCMonth() + 1), 'd': two(now.getUTCDate()),
    'H': two(now.getUTCHours()),
    'M': two(now.getUTCMinutes()), 'S': two(now.getUTCSeconds()), 's': String(Math.floor(now.getTime() / 1000)),
    'F': now.toISOString().slice(0, 10), 'T': timeOf(now), '%': '%',
  }
  return { out: `${format.slice(1).replace(/%(.)/g, (whole, letter: string) => fields[letter] ?? whole)}\n` }
}

/** The clock that the kernel has by its driver. Format: util-linux 2.38, memory. */
export const hwclock: Command = ({ machine }) => machine.devices.some(({ path }) => path === '/dev/rtc0')
  ? { out: `${machine.now.toISOString().replace('T', ' ').replace('Z', '000+00:00')}\n` }
  : { err: 'hwclock: Cannot access the Hardware Clock via any known method.\n', status: 1 }

export const vcgencmd: Command = ({ machine, args: [what] }) => {
  if (what === 'measure_temp') return { out: `temp=${machine.chipC.toFixed(1)}'C\n` }
  if (what === 'get_throttled') return { out: `throttled=0x${machine.throttleWord.toString(16)}\n` }
  return { err: 'error=1 error_msg="Command not registered"\n', status: 255 }
}

/** Numbers for trying things out. Published: pid.codes, 1209/0001 to 1209/0010. */
const USB_ID = '1209'

export const lsusb: Command = ({ machine }) => {
  if (!machine.facts.board!.sockets.usb) return { out: '' }
  const things = machine.pluggable.filter(({ part,
    id }) => part.plugs?.some(({ socket }) => socket === 'usb') && machine.isIn(id)
    && machine.world.isFed(machine.facts.parts.find(owner => owner.id === id)!) && !machine.world.isDead(id)
    && machine.world.isWired(machine.facts.parts.find(owner => owner.id === id)!))
  const row = (device: number, id: string,
    name: string) => `Bus 001 Device ${String(device).padStart(3, '0')}: ID ${id} ${name}\n`
  return { out: row(1, '1d6b:0002', '2.0 root hub') + things.map(({ part }, i) => row(
    i + 3, `${USB_ID}:${(i + 1).toString(16).padStart(4, '0')}`, part.name)).reverse().join('') }
}

/** Cards in the order that the kernel finds them. */
function cardsOf(machine: Machine): { name: string, records: boolean, plays: boolean }[] {
  const parts = machine.facts.parts.filter(owner => owner.signals.some(({ role }) => role.startsWith('i2s.'))
    && machine.devices.some(({ path, owner: whose }) =>
      path === '/proc/asound/cards' && (!whose || whose.id === owner.id)))
  const has = (owner: typeof parts[number], role: string) => owner.signals.some(signal => signal.role === role)
  return [
    ...machine.facts.board!.soundSocket ? [{ name: 'Headphones', records: false, plays: true }] : [],
    ...parts.map(owner => ({ name: owner.name.replace(/\W+/g, ''), records: has(owner, 'i2s.dataIn'),
      plays: has(owner, 'i2s.dataOut') })),
  ]
}

export const soundCards = (machine: Machine): string => {
  const cards = cardsOf(machine)
  return cards.length
    ? cards.map(({ name }, i) =>
        `${String(i).padStart(2)} [${name.slice(0, 15).padEnd(15)}]: ${name} - ${name}\n${' '.repeat(22)}${name}\n`)
        .join('')
    : '--- no soundcards ---\n'
}

const listCards = (kind: 'PLAYBACK' | 'CAPTURE'): Command => ({ machine, args }) => {
  const tool = kind === 'PLAYBACK' ? 'aplay' : 'arecord'
  if (!args.includes('-l')) return { err: `${tool}: only "-l" is simulated: there is no air here to shake\n`,
    status: 1 }
  const rows = cardsOf(machine).flatMap(({ name, plays, records }, i) => (kind === 'PLAYBACK' ? plays : records)
    ? `card ${i}: ${name.slice(0, 15)} [${name}], device 0: ${name} [${name}]\n  Subdevices: 1/1\n  Subdevice #0: subdevice #0\n`
    : [])
  return rows.length
    ? { out: `**** List of ${kind} Hardware Devices ****\n${rows.join('')}` }
    : { err: `${tool}: device_list:274: no soundcards found...\n`, status: 1 }
}
export const aplay = listCards('PLAYBACK')
export const arecord = listCards('CAPTURE')

/** What it prints while it plays; nobody hears it. From memory of alsa-utils. */
export const speakerTest: Command = ({ machine, args }) => {
  const device = args[args.indexOf('-D') + 1] ?? ''
  const card = Number(/^(?:plughw|hw):(\d+)/.exec(device)?.[1] ?? (args.includes('-D') ? NaN : 0))
  const head = `\nspeaker-test 1.2.8\n\nPlayback device is ${args.includes('-D') ? device : 'default'}\n`
  if (!cardsOf(machine)[card]?.plays) {
    return { out: head, err: `Playback open error: -2,No such file or directory\n`, status: 1 }
  }
  machine.pass(3)
  return { out: `${head}Stream parameters are 48000Hz, S16_LE, 2 channels\nWAV file(s)\n 0 - Front Left\n 1 - Front Right\n` }
}

export const ip: Command = ({ machine, args }) => {
  const { rest } = optionsOf(args)
  const what = rest[0] ?? ''
  const own = machine.devices.flatMap(({ path }) => /^\/sys\/class\/net\/(\w+)$/.exec(path)?.[1] ?? [])
  const links = ['lo', 'wlan0', ...own]
  if (/^(r|ro|route)$/.test(what)) {
    return { out: `default via ${INFO.gateway} dev wlan0 proto dhcp src ${INFO.address} metric 600 \n`
      + `192.0.2.0/24 dev wlan0 proto kernel scope link src ${INFO.address} metric 600 \n` }
  }
  if (!/^(a|ad|addr|address|l|li|link)$/.test(what)) {
    return { err: `Object "${what}" is unknown, try "ip help".\n`, status: 255 }
  }
  const withAddresses = what.startsWith('a')
  return { out: links.map((name, i) => {
    const loop = name === 'lo'
    const isUp = loop || name === 'wlan0'
    let flags
    if (loop) flags = 'LOOPBACK,UP,LOWER_UP'
    else if (isUp) flags = 'BROADCAST,MULTICAST,UP,LOWER_UP'
    else flags = name.startsWith('can')
      ? 'NOARP,ECHO'
      : 'BROADCAST,MULTICAST'
    let mtu: 16 | 65536 | 1500
    if (loop) mtu = 65536
    else mtu = name.startsWith('can') ? 16 : 1500
    const head = `${i + 1}: ${name}: <${flags}> mtu ${mtu} qdisc ${loop ? 'noqueue' : 'mq'} state `
      + `${loop ? 'UNKNOWN' : isUp ? 'UP' : 'DOWN'} group default qlen 1000\n`
    let link: string
    if (loop) link = '    link/loopback 00:00:00:00:00:00 brd 00:00:00:00:00:00\n'
    else link = name.startsWith('can')
      ? '    link/can \n'
      : `    link/ether ${INFO.hardware.slice(0, -2)}${two(17 + i)} brd ff:ff:ff:ff:ff:ff\n`
    let address: string
    if (!withAddresses || !isUp) address = ''
    else address = loop
      ? '    inet 127.0.0.1/8 scope host lo\n       valid_lft forever preferred_lft forever\n'
      : `    inet ${INFO.address}/24 brd 192.0.2.255 scope global dynamic ${name}\n       valid_lft 86000sec preferred_lft 86000sec\n`
    return head + link + address
  }).join('') }
}

/** Services that stand for a login: where the console is. */
function servicesOf(machine: Machine): string[] {
  const port = [...machine.ports].find(([, { owner }]) => machine.world.has('console', owner.id))?.[0]
  return ['ssh.service', 'getty@tty1.service', ...port ? [`serial-getty@${port.split('/').at(-1)}.service`] : []]
}

export const systemctl: Command = ({ machine, args }) => {
  const { rest } = optionsOf(args)
  const [verb = 'status', given = ''] = rest
  const name = given && !/\.\w+$/.test(given) ? `${given}.service` : given
  const services = servicesOf(machine)
  if (verb === 'poweroff'
    || verb === 'reboot') return { err: 'Use ":off" and ":on", or ":restart": the bench has a switch.\n', status: 1 }
  if (verb === 'is-active') return services.includes(name) ? { out: 'active\n' } : { out: 'inactive\n', status: 3 }
  if (verb === 'list-units') {
    return { out: `  UNIT                      LOAD   ACTIVE SUB     DESCRIPTION\n${services.map(service =>
      `  ${service.padEnd(25)} loaded active running ${describe(service)}`).join('\n')}\n` }
  }
  if (verb !== 'status') return { err: `Unknown command verb ${verb}: status, is-active and list-units are simulated.\n`, status: 1 }
  if (!name) return { out: `● ${INFO.host}\n    State: running\n     Jobs: 0 queued\n   Failed: 0 units\n` }
  if (!services.includes(name)) return { err: `Unit ${name} could not be found.\n`, status: 4 }
  const since = new Date(machine.startedAt.getTime() + (START_S - 4) * 1000)
  const file = `/lib/systemd/system/${name.replace(/@.*\./, '@.')}`
  const when = `${since.toISOString().slice(0, 10)} ${timeOf(since)} UTC; ${Math.floor(machine.nowS / 60)}min ago`
  return { out: `● ${name} - ${describe(name)}\n     Loaded: loaded (${file}; enabled; preset: enabled)\n`
    + `     Active: active (running) since ${when}\n` }
}
const describe = (service: string) => {
  if (service.startsWith('serial-getty')) return 'Serial Getty'
  return service.startsWith('getty') ? 'Getty on tty1' : 'Secure Shell server'
}

export const groups: Command = () => ({ out: `${INFO.user} dialout sudo audio video plugdev input spi i2c gpio\n` })
export const whoami: Command = () => ({ out: `${INFO.user}\n` })
export const hostname: Command = ({ args }) => ({ out: args.includes('-I') ? `${INFO.address} \n` : `${INFO.host}\n` })

/** Ours alone: keeps all cores busy for so many seconds. */
export const busyCores: Command = ({ machine, args: [text] }) => {
  const seconds = Number(text)
  if (!(seconds > 0 && seconds <= 3600)) return { err: 'busy-cores takes seconds, up to 3600\n', status: 1 }
  machine.load(true)
  machine.pass(seconds)
  machine.load(false)
  return {}
}
