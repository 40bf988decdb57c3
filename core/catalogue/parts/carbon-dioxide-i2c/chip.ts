/** What it answers to its commands. From memory of its data sheet. */
import type { PartChip } from '../../shapes/chip'
import { withSums } from '../../families/registers'

const chip: PartChip = {
  registers: {
    width: 1,
    at: () => 0,
    answers: (command, { of }) => command === 0xEC05
      ? withSums([of('carbon-dioxide'), (of('temperature')
        + 45) / 175 * 65535, of('humidity') / 100 * 65535].map(Math.round))
      : [],
  },
}

export default chip
