/** Its version. From memory of its data sheet. */
import type { PartChip } from '../../shapes/chip'

const chip: PartChip = { spi: ([first]) => first === 0xEE ? [0, 0x92] : undefined }

export default chip
