/** What it has in its registers. From memory of its data sheet. */
import type { PartChip } from '../../shapes/chip'

const chip: PartChip = {
  // Words of the bus's own protocol: the lower byte first. Published: SMBus 3.1, §6.5.5.
  registers: {
    width: 2,
    at: (register, { of }) => {
      const raw = Math.round((of('temperature') + 273.15) / 0.02)
      return register === 6 || register === 7 ? raw >> 8 | (raw & 0xFF) << 8 : 0
    },
  },
}

export default chip
