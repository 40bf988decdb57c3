/** Its air pressure chip. */
import { trimmedAir } from '../../families/trimmed-air'
import type { PartChip } from '../../shapes/chip'

const chip: PartChip = { registers: trimmedAir(0x58, false) }

export default chip
