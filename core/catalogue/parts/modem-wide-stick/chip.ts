/** What it says on its serial port. */
import { modem } from '../../families/modem'
import type { PartChip } from '../../shapes/chip'

const chip: PartChip = { talker: modem }

export default chip
