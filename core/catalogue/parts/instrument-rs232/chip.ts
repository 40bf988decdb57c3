/** What it says on its serial port. Published: IEEE 488.2, the identification query. */
import type { PartChip } from '../../shapes/chip'

const chip: PartChip = {
  talker: { answers: line => /^\*IDN\?$/i.test(line.trim()) ? 'MAKER,INSTRUMENT,0,1.0\r\n' : null },
}

export default chip
