/** Its identity. From memory of its data sheet. */
import { fixedRegisters } from '../../families/registers'
import type { PartChip } from '../../shapes/chip'

const chip: PartChip = { registers: fixedRegisters({ 0x00: 0xA0 }) }

export default chip
