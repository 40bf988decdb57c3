/** What it has in its registers. From memory of its data sheet. */
import type { PartChip } from '../../shapes/chip'

const chip: PartChip = {
  registers: { width: 1, at: register => register < 2 ? 0xFF : 0 },
}

export default chip
