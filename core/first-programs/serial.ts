/** What is said to parts on a serial port to hear something, and frames in each language. */
import type { Part } from '../catalogue/types'

/** What is seen while a program talks with a part. */
export function seenBySerial({ hello }: Part): string {
  switch (hello?.shows) {
    case 'own-program': return '"count 1", "count 2" … each second, and "heard hello" once, with its '
      + 'own program loaded.'
    case 'print': return 'It prints "hello"; nothing comes back, and that is no fault.'
    case 'text': return 'Lines of text. Signs that are no text mean that rate or frame differ; nothing means wires, '
      + 'supply or port.'
    default: return 'Nothing, or bytes that are no text: it speaks when it is asked in its own way. '
      + 'Silence is no fault: loopback proves the port.'
  }
}

const parts = (frame: string) => /^([5-8])([NEO])([12])$/.exec(frame)?.slice(1) ?? ['8', 'N', '1']
const flags = (frame: string, prefix: string) => {
  const [bits, parity, stop] = parts(frame)
  return [`${prefix}CS${bits}`, ...parity === 'N' ? [] : [`${prefix}PARENB`], ...parity === 'O'
    ? [`${prefix}PARODD`]
    : [],
  ...stop === '2' ? [`${prefix}CSTOPB`] : []].join(' | ')
}

export const FRAMES = {
  python: (frame: string) => flags(frame, 'termios.'),
  c: (frame: string) => flags(frame, ''),
  /** Words of stty. Published: stty(1). */
  shell: (frame: string) => {
    const [bits, parity, stop] = parts(frame)
    return `cs${bits} ${parity === 'N' ? '-parenb' : `parenb ${parity === 'O' ? 'parodd' : '-parodd'}`} `
      + `${stop === '2' ? '' : '-'}cstopb`
  },
}
