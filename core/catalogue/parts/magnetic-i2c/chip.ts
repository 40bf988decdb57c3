/** What it has in its registers. From memory of its data sheet. */
import type { PartChip } from '../../shapes/chip'
import { fixedRegisters } from '../../families/registers'

const chip: PartChip = {
  registers: fixedRegisters({ 0x0A: 0x48, 0x0B: 0x34, 0x0C: 0x33 }),
}

export default chip
