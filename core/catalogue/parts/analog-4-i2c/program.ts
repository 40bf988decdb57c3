/** How it is read without a driver. From memory of its data sheet. */
import { value, type PartProgram } from '../../shapes/program'

const program: PartProgram = {
  i2c: {
    // One reading of the first input, up to 4.096 V.
    ask: [[0x01, 0xC3, 0x83]], askMs: 10,
    blocks: [{ register: [0x00], bytes: 2 }],
    values: [value('voltage', 'first input', 'V', 3, 's16be(d, 0) * 4.096 / 32768.0')],
  },
}

export default program
