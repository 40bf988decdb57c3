/** What it has in its registers. From memory of its data sheet. */
import type { PartChip } from '../../shapes/chip'
import { bigByte } from '../../families/registers'

const chip: PartChip = {
  registers: {
    width: 1,
    at: (register, { of, written }) => {
      if (register === 0x75) return 0x68
      if (register === 0x6B) return 0x40
      // Asleep until it is told.
      if (written(0x6B) !== 0) return 0
      // At rest on a table: one g upwards.
      if (register === 0x3F || register === 0x40) return bigByte(register, 0x3F, 16384)
      const isHeat = register === 0x41 || register === 0x42
      return isHeat ? bigByte(register, 0x41, Math.round((of('temperature') - 36.53) * 340) & 0xFFFF) : 0
    },
  },
}

export default chip
