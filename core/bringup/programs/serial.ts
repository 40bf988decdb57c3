/** What is said to parts on a serial port to hear something, and frames in each language. */

/** By the part's name in the catalogue; others speak by themselves, or are only listened to. */
const GREETINGS: Readonly<Record<string, string>> = {
  'controller-3v3-serial': 'hello\n', 'controller-5v-serial': 'hello\n',
  // Published: ITU-T V.250, IEEE 488.2.
  'modem-serial': 'AT\r', 'modem-wide-stick': 'AT\r', 'instrument-rs232': '*IDN?\n',
}
/** Of parts that print or show what they get: a line for them. */
const PRINTS: Readonly<Record<string, string>> = { 'label-printer-serial': 'hello\n' }
/** Parts that speak by themselves or answer a line. */
const SPEAK = ['positioning-serial', 'scanner-serial']

/** What is seen while a program talks with a part. */
export function seenBySerial(type: string): string {
  if (/^controller-/.test(type)) return '"count 1", "count 2" … each second, and "heard hello" once, with its own program loaded.'
  if (type in PRINTS) return 'It prints "hello"; nothing comes back, and that is no fault.'
  if (type in GREETINGS || SPEAK.includes(type)) {
    return 'Lines of text. Signs that are no text mean that rate or frame differ; nothing means wires, supply or port.'
  }
  return 'Nothing, or bytes that are no text: it speaks when it is asked in its own way. Silence is no fault: loopback proves the port.'
}

export const greetingOf = (type: string): string | null => GREETINGS[type] ?? PRINTS[type] ?? null

const parts = (frame: string) => /^([5-8])([NEO])([12])$/.exec(frame)?.slice(1) ?? ['8', 'N', '1']
const flags = (frame: string, prefix: string) => {
  const [bits, parity, stop] = parts(frame)
  return [`${prefix}CS${bits}`, ...parity === 'N' ? [] : [`${prefix}PARENB`], ...parity === 'O' ? [`${prefix}PARODD`] : [],
    ...stop === '2' ? [`${prefix}CSTOPB`] : []].join(' | ')
}

export const FRAMES = {
  python: (frame: string) => flags(frame, 'termios.'),
  c: (frame: string) => flags(frame, ''),
  /** Words of stty. Published: stty(1). */
  shell: (frame: string) => {
    const [bits, parity, stop] = parts(frame)
    return `cs${bits} ${parity === 'N' ? '-parenb' : `parenb ${parity === 'O' ? 'parodd' : '-parodd'}`} ${stop === '2' ? '' : '-'}cstopb`
  },
}
