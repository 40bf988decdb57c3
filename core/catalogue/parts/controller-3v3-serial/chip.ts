/** What it says on its serial port. */
import { controller } from '../../families/controller'
import type { PartChip } from '../../shapes/chip'

const chip: PartChip = { talker: controller }

export default chip
