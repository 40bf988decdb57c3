/** What it has in its registers. From memory of its data sheet. */
import type { PartChip } from '../../shapes/chip'
import { fixedRegisters } from '../../families/registers'

const chip: PartChip = {
  registers: fixedRegisters({ 0x5C: 0x24 }),
}

export default chip
