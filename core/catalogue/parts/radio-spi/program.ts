/** Whether it is there. From memory of its data sheet. */
import { spiIdentity } from '../../families/spi-pieces'
import type { PartProgram } from '../../shapes/program'

const program: PartProgram = { spi: spiIdentity('What it sends wants an aerial and the rules of its band.', 0x42,
  [0x12]) }

export default program
