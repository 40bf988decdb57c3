/** What it has in its registers. From memory of its data sheet. */
import type { PartChip } from '../../shapes/chip'

const chip: PartChip = {
  registers: {
    width: 2,
    at: (register, { of }) => ({ 0: 0x399F, 2: Math.round(of('voltage') / 0.004) << 3 })[register] ?? 0,
  },
}

export default chip
