/** stty: what a port is set to. Published: coreutils 9.1, held against Debian's own. */
import { frameSetting } from '../frames'
import { optionsOf, type Command } from './types'

/** Published: asm-generic/termbits.h. */
const RATES = new Set([
  50, 75, 110, 134, 150, 200, 300, 600, 1200, 1800, 2400, 4800, 9600, 19200, 38400, 57600, 115200, 230400, 460800, 500000, 576000, 921600,
  1000000, 1152000, 1500000, 2000000, 2500000, 3000000, 3500000, 4000000,
])

export const stty: Command = ({ machine, args }) => {
  const { flags, rest } = optionsOf(args.map(arg => /^-(parenb|parodd|cstopb|echo|crtscts|icanon|ixon|opost)$/.test(arg) ? `no:${arg.slice(1)}` : arg), ['F', 'file'])
  const path = flags.get('F') ?? flags.get('file')
  if (path === undefined) return { err: 'stty: \'standard input\': Inappropriate ioctl for device\n', status: 1 }
  const target = machine.portPath(path)
  const port = target === null ? undefined : machine.ports.get(target)
  if (!port) return { err: `stty: ${path}: No such file or directory\n`, status: 1 }
  let { baud, bits, parity, stop } = port.setting
  let { echo } = port
  for (let i = 0; i < rest.length; i++) {
    const word = rest[i]!
    if (/^\d+$/.test(word) || word === 'speed' || word === 'ispeed' || word === 'ospeed') {
      const rate = Number(/^\d+$/.test(word) ? word : rest[++i])
      if (!RATES.has(rate)) return { err: `stty: invalid argument '${rate}'\nTry 'stty --help' for more information.\n`, status: 1 }
      baud = rate
    }
    else if (/^cs[5-8]$/.test(word)) bits = Number(word[2]) as typeof bits
    else if (word === 'parenb') parity = parity === 'O' ? 'O' : 'E'
    else if (word === 'no:parenb') parity = 'N'
    else if (word === 'parodd') parity = 'O'
    else if (word === 'no:parodd') parity = parity === 'O' ? 'E' : parity
    else if (word === 'cstopb') stop = 2
    else if (word === 'no:cstopb') stop = 1
    else if (word === 'echo' || word === 'no:echo') echo = word === 'echo'
    else if (word === 'raw' || word === 'sane') echo = word === 'sane' || echo
    else if (!/^(no:)?(crtscts|icanon|ixon|opost|clocal|hupcl|cread|icrnl|onlcr|min|time|\d+)$/.test(word)) {
      return { err: `stty: invalid argument '${word.replace('no:', '-')}'\nTry 'stty --help' for more information.\n`, status: 1 }
    }
  }
  port.setting = frameSetting(baud, `${bits}${parity}${stop}`)
  port.echo = echo
  if (rest.length) return {}
  const sign = (on: boolean, name: string) => `${on ? '' : '-'}${name}`
  return { out: `speed ${baud} baud; line = 0;\n${sign(parity !== 'N', 'parenb')} ${sign(parity === 'O', 'parodd')} cs${bits} `
    + `${sign(stop === 2, 'cstopb')}\n${sign(echo, 'echo')}\n` }
}
