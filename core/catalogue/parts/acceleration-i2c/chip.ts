/** What it has in its registers. From memory of its data sheet. */
import type { PartChip } from '../../shapes/chip'
import { littleByte } from '../../families/registers'

const chip: PartChip = {
  // At rest on a table: one g upwards; its address counts on from bit 7.
  registers: {
    width: 1,
    at: (register, { written }) => {
      const at = register & 0x7F
      if (at === 0x0F) return 0x33
      return at >= 0x2C && at <= 0x2D && written(0x20) ? littleByte(at, 0x2C, 16000) : 0
    },
  },
}

export default chip
