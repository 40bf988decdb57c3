/** Whether it is there. From memory of its data sheet. */
import { identity, type PartProgram } from '../../shapes/program'

const program: PartProgram = { i2c: identity(0x92, 0xAB) }

export default program
