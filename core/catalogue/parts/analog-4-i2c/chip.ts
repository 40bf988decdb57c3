/** What it has in its registers. From memory of its data sheet. */
import type { PartChip } from '../../shapes/chip'

/** Full scale by the range that was chosen. */
const RANGES_V = [6.144, 4.096, 2.048, 1.024, 0.512, 0.256, 0.256, 0.256] as const

const chip: PartChip = {
  registers: {
    width: 2,
    at: (register, { of, written }) => {
      if (register > 0) return [0, 0x8583, 0x8000, 0x7FFF][register] ?? 0
      const rangeV = RANGES_V[(written(1) ?? 0x8583) >> 9 & 7]!
      return Math.max(0, Math.min(0x7FFF, Math.round(of('voltage') / rangeV * 0x8000)))
    },
  },
}

export default chip
