/**
 * What it has in its registers. Published: Linux 6.1, drivers/iio/humidity/hdc2010.c; nothing before
 * the first measurement.
 */
import { littleByte } from '../../families/registers'
import type { PartChip } from '../../shapes/chip'

const chip: PartChip = {
  registers: {
    width: 1,
    at: (register, { of, written }) => {
      if (register > 3 || !((written(0x0F) ?? 0) & 1)) return 0
      const [share, first] = register < 2 ? [(of('temperature') + 40) / 165, 0] : [of('humidity') / 100, 2]
      return littleByte(register, first, Math.min(0xFFFF, Math.max(0, Math.round(share * 65536))))
    },
  },
}

export default chip
