/** What it has in its registers. From memory of its data sheet. */
import type { PartChip } from '../../shapes/chip'
import { fixedRegisters } from '../../families/registers'

const chip: PartChip = {
  registers: fixedRegisters({ 0x00: 0x11, 0x01: 0x04, 0xFE: 0x1E }),
}

export default chip
