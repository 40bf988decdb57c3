/** What it has behind the time. From memory of its data sheet. */
import type { PartChip } from '../../shapes/chip'
import { clockRegisters } from '../../families/clock'

const chip: PartChip = {
  registers: clockRegisters(register => register === 7 ? 0x03 : 0),
}

export default chip
