/** stty: what a port is set to. Published: coreutils 9.1, held against Debian's own. */
import { frameSetting, type FrameSetting } from '../frames'
import type { Port } from '../ports'
import { optionsOf, type Command } from './types'

/** Published: asm-generic/termbits.h. */
const RATES = new Set([
  50, 75, 110, 134, 150, 200, 300, 600, 1200, 1800, 2400, 4800, 9600, 19200, 38400, 57600, 115200, 230400, 460800,
  500000, 576000, 921600,
  1000000, 1152000, 1500000, 2000000, 2500000, 3000000, 3500000, 4000000,
])

/** Modes in the order and the lines in which they are listed; those of the frame are the port's own. */
const CONTROL = ['parenb', 'parodd', 'cmspar', 'cs', 'hupcl', 'cstopb', 'cread', 'clocal', 'crtscts']
const INPUT = ['ignbrk', 'brkint', 'ignpar', 'parmrk', 'inpck', 'istrip', 'inlcr', 'igncr', 'icrnl', 'ixon', 'ixoff',
  'iuclc', 'ixany',
  'imaxbel',
  'iutf8']
const OUTPUT = ['opost', 'olcuc', 'ocrnl', 'onlcr', 'onocr', 'onlret', 'ofill', 'ofdel']
const LOCAL = ['isig', 'icanon', 'iexten', 'echo', 'echoe', 'echok', 'echonl', 'noflsh', 'xcase', 'tostop', 'echoprt',
  'echoctl', 'echoke',
  'flusho', 'extproc']
/** What "sane" makes of it; what differs is told. */
const SANE = new Set([
  'cread', 'brkint', 'icrnl', 'imaxbel', 'opost', 'onlcr', 'isig', 'icanon', 'iexten', 'echo', 'echoe', 'echok',
  'echoctl', 'echoke',
])
/** Modes that "sane" says nothing of. */
const FREE = new Set(['hupcl', 'clocal', 'crtscts', 'ignpar', 'parmrk', 'inpck', 'istrip', 'ixon', 'iutf8', 'cmspar'])
const RAW_OFF = ['brkint', 'ignbrk', 'ignpar', 'parmrk', 'inpck', 'istrip', 'inlcr', 'igncr', 'icrnl', 'ixon', 'ixoff',
  'icanon', 'opost',
  'isig',
  'iuclc', 'ixany', 'imaxbel', 'xcase']
const MODES = new Set([...CONTROL, ...INPUT, ...OUTPUT, ...LOCAL])

/** Words in lines of eighty characters at most. */
function folded(words: readonly string[]): string {
  let text = ''
  let width = 0
  for (const word of words) {
    if (width && width + 1 + word.length > 80) {
      text += '\n'
      width = 0
    }
    text += `${width ? ' ' : ''}${word}`
    width += (width ? 1 : 0) + word.length
  }
  return `${text}\n`
}

const sign = (on: boolean, name: string) => `${on ? '' : '-'}${name}`
const frameWord = ({ bits, parity, stop }: FrameSetting, name: string): string => {
  if (name === 'cs') return `cs${bits}`
  if (name === 'parenb') return sign(parity !== 'N', name)
  return sign(name === 'parodd' ? parity === 'O' : stop === 2, name)
}
/** Parity switched on or off; odd parity stays odd. */
const withParity = (parity: FrameSetting['parity'], on: boolean): FrameSetting['parity'] => {
  if (!on) return 'N'
  return parity === 'O' ? 'O' : 'E'
}
const withOddParity = (parity: FrameSetting['parity'], on: boolean): FrameSetting['parity'] => {
  if (parity === 'N') return 'N'
  return on ? 'O' : 'E'
}
const isFrame = (name: string) => ['parenb', 'parodd', 'cs', 'cstopb'].includes(name)

function whole({ setting, modes }: Port): string {
  const words = (names: readonly string[]) =>
    names.map(name => isFrame(name) ? frameWord(setting, name) : sign(modes.has(name), name))
  return `speed ${setting.baud} baud; rows 0; columns 0; line = 0;\n`
    + 'intr = ^C; quit = ^\\; erase = ^?; kill = ^U; eof = ^D; eol = <undef>;\n'
    + 'eol2 = <undef>; swtch = <undef>; start = ^Q; stop = ^S; susp = ^Z; rprnt = ^R;\n'
    + 'werase = ^W; lnext = ^V; discard = ^O; min = 1; time = 0;\n'
    + folded(words(CONTROL)) + folded(words(INPUT))
    + folded([...words(OUTPUT), 'nl0', 'cr0', 'tab0', 'bs0', 'vt0', 'ff0'])
    + folded(words(LOCAL))
}

function short({ setting, modes }: Port): string {
  const lines = [CONTROL, INPUT, OUTPUT, LOCAL].flatMap((names) => {
    const odd = names.filter(name => !isFrame(name) && !FREE.has(name) && modes.has(name) !== SANE.has(name))
    return odd.length ? [folded(odd.map(name => sign(modes.has(name), name)))] : []
  })
  return `speed ${setting.baud} baud; line = 0;\n${modes.has('icanon') ? '' : 'min = 1; time = 0;\n'}${lines.join('')}`
}

const invalid = (word: string) => ({ err: `stty: invalid argument ‘${word}’\nTry 'stty --help' for more information.\n`, status: 1 })

export const stty: Command = ({ machine, args }) => {
  // A mode that is switched off begins like an option.
  const marked = args.map(arg => MODES.has(arg.replace(/^-/, '')) && arg.startsWith('-') ? `off:${arg.slice(1)}` : arg)
  const { flags, rest } = optionsOf(marked, ['F', 'file'])
  const path = flags.get('F') ?? flags.get('file')
  if (path === undefined) return { err: 'stty: \'standard input\': Inappropriate ioctl for device\n', status: 1 }
  const target = machine.portPath(path)
  const port = target === null ? undefined : machine.ports.get(target)
  if (!port) return { err: `stty: ${path}: No such file or directory\n`, status: 1 }
  let { baud, bits, parity, stop } = port.setting
  const modes = new Set(port.modes)
  for (let i = 0; i < rest.length; i++) {
    const word = rest[i]!
    const name = word.replace('off:', '')
    const on = word === name
    if (word === 'speed' && rest.length === 1) return { out: `${baud}\n` }
    if (/^\d+$/.test(word) || /^[io]speed$/.test(word)) {
      const rate = Number(/^\d+$/.test(word) ? word : rest[++i])
      if (!RATES.has(rate)) return invalid(String(rate))
      baud = rate
    }
    else if (/^cs[5-8]$/.test(word)) bits = Number(word[2]) as typeof bits
    else if (name === 'parenb') parity = withParity(parity, on)
    else if (name === 'parodd') parity = withOddParity(parity, on)
    else if (name === 'cstopb') stop = on ? 2 : 1
    else if (word === 'raw') for (const mode of RAW_OFF) modes.delete(mode)
    else if (word === 'sane') for (const mode of [...MODES].filter(entry => !FREE.has(entry))) modes[SANE.has(mode)
      ? 'add'
      : 'delete'](mode)
    else if (word === 'min' || word === 'time') i++
    else if (MODES.has(name) && name !== 'cs') modes[on ? 'add' : 'delete'](name)
    else return invalid(word)
  }
  port.setting = frameSetting(baud, `${bits}${parity}${stop}`)
  port.modes = modes
  if (rest.length) return {}
  return { out: flags.has('a') || flags.has('all') ? whole(port) : short(port) }
}
