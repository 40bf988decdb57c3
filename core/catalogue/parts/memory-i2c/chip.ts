/** An empty memory. */
import type { PartChip } from '../../shapes/chip'

const chip: PartChip = {
  registers: { width: 1, at: () => 0xFF },
}

export default chip
