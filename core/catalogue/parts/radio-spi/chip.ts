/** Its version. From memory of its data sheet. */
import type { PartChip } from '../../shapes/chip'

const chip: PartChip = { spi: ([first]) => first === 0x42 ? [0, 0x12] : undefined }

export default chip
