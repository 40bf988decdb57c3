/** Whether it is there. From memory of its data sheet. */
import { spiIdentity } from '../../families/spi-pieces'
import type { PartProgram } from '../../shapes/program'

const program: PartProgram = { spi: spiIdentity('Hold a card to it with the library of its chip.', 0xEE,
  [0x88, 0x91, 0x92, 0xB2]) }

export default program
