/** What it has in its registers. From memory of its data sheet. */
import type { PartChip } from '../../shapes/chip'
import { littleByte } from '../../families/registers'

const chip: PartChip = {
  // Its first channel sees all light, its second none: there is no infrared in this room.
  registers: {
    width: 1,
    at: (register, { of, written }) => {
      if (register === 0x8A) return 0x50
      const isAwake = ((written(0x80) ?? 0) & 3) !== 0
      return isAwake && (register === 0xAC || register === 0xAD)
        ? littleByte(register, 0xAC, Math.min(0xFFFF, Math.round(of('light') / (0.0304 * 16))))
        : 0
    },
  },
}

export default chip
