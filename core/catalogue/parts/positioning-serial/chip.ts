/** A made-up place on the open sea; time from the start. Published: NMEA 0183. */
import type { PartChip } from '../../shapes/chip'

/** Two hexadecimal digits: all characters between $ and * exclusive-ored. */
function withSum(sentence: string): string {
  const sum = [...sentence].reduce((all, sign) => all ^ sign.charCodeAt(0), 0)
  return `$${sentence}*${sum.toString(16).toUpperCase().padStart(2, '0')}\r\n`
}

const clock = (second: number): string => [Math.floor(second / 3600) % 24, Math.floor(second / 60) % 60, second % 60]
  .map(figure => String(figure).padStart(2, '0')).join('')

const chip: PartChip = {
  talker: { everyS: 1, says: nth => withSum(`GPRMC,${clock(nth)}.00,A,4000.000,N,03000.000,W,0.0,0.0,010126,,,A`) },
}

export default chip
