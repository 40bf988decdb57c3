/** Whether it is there. From memory of its data sheet. */
import { identity, type PartProgram } from '../../shapes/program'

const program: PartProgram = { i2c: identity(0x00, 0xA0) }

export default program
