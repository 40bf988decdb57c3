/** What the parts say by serial: what comes by itself, and what they answer. By the part's name in the catalogue; the rest is silent. */

export interface Talker {
  /** Every so many seconds it says something. */
  everyS?: number
  says?: (nth: number) => string
  /** What it answers to a line; null for nothing. */
  answers?: (line: string) => string | null
}

/** Two hexadecimal digits: all characters between $ and * exclusive-ored. Published: NMEA 0183. */
const withSum = (sentence: string) => {
  const sum = [...sentence].reduce((all, sign) => all ^ sign.charCodeAt(0), 0)
  return `$${sentence}*${sum.toString(16).toUpperCase().padStart(2, '0')}\r\n`
}
const clock = (second: number) => [Math.floor(second / 3600) % 24, Math.floor(second / 60) % 60, second % 60]
  .map(figure => String(figure).padStart(2, '0')).join('')

/** Commands of a modem. Published: ITU-T V.250, 3GPP TS 27.007. */
const MODEM: Readonly<Record<string, string>> = {
  'AT': '', 'AT+CSQ': '+CSQ: 17,99', 'AT+CPIN?': '+CPIN: READY', 'AT+CREG?': '+CREG: 0,1', 'ATE0': '',
}
const modem: Talker = {
  answers: (line) => {
    const answer = MODEM[line.trim().toUpperCase()]
    if (!line.trim()) return null
    return answer === undefined ? '\r\nERROR\r\n' : `${answer ? `\r\n${answer}\r\n` : ''}\r\nOK\r\n`
  },
}
/** A microcontroller with a small program of the maker's. */
const controller: Talker = { everyS: 1, says: nth => `count ${nth}\r\n`, answers: line => line.trim() ? `heard ${line.trim()}\r\n` : null }

const TALKERS: Readonly<Record<string, Talker>> = {
  'modem-serial': modem,
  'modem-wide-stick': modem,
  'controller-3v3-serial': controller,
  'controller-5v-serial': controller,
  // A made-up place on the open sea; time from the start.
  'positioning-serial': { everyS: 1, says: nth => withSum(`GPRMC,${clock(nth)}.00,A,4000.000,N,03000.000,W,0.0,0.0,010126,,,A`) },
  // Published: IEEE 488.2, the identification query.
  'instrument-rs232': { answers: line => /^\*IDN\?$/i.test(line.trim()) ? 'MAKER,INSTRUMENT,0,1.0\r\n' : null },
}

const SILENT: Talker = {}
export const talkerOf = (type: string): Talker => TALKERS[type] ?? SILENT
/** True for a part whose words this board knows. */
export const isKnown = (type: string): boolean => type in TALKERS
