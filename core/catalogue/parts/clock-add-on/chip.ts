/** What it has behind the time. From memory of its data sheet. */
import type { PartChip } from '../../shapes/chip'
import { clockRegisters } from '../../families/clock'

const chip: PartChip = {
  registers: clockRegisters(register => register === 0x0E ? 0x1C : 0),
}

export default chip
