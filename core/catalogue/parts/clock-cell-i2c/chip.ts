/** What it has behind the time. From memory of its data sheet. */
import type { PartChip } from '../../shapes/chip'
import { clockRegisters } from '../../families/clock'

const chip: PartChip = {
  registers: clockRegisters((register, { of }) => {
    const quarters = Math.round(of('temperature') * 4)
    return ({ 0x0E: 0x1C, 0x11: quarters >> 2 & 0xFF, 0x12: (quarters & 3) << 6 })[register]
  }),
}

export default chip
