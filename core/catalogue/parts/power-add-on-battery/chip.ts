/** Its fuel gauge: 3.9 V and 80 %. From memory of its data sheet. */
import type { PartChip } from '../../shapes/chip'

const chip: PartChip = {
  registers: { width: 2, at: register => ({ 2: Math.round(3.9 / 0.000078125), 4: 80 << 8 })[register] ?? 0 },
}

export default chip
