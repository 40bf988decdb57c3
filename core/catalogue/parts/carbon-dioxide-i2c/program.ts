/** How it is read without a driver. From memory of its data sheet. */
import { celsius, value, type PartProgram } from '../../shapes/program'

const program: PartProgram = {
  i2c: {
    // Stopped first, where it measures already: it takes no second start.
    wake: [{ send: [0x3F, 0x86], ms: 500 }, { send: [0x21, 0xB1], ms: 5000 }],
    blocks: [{ register: [0xEC, 0x05], bytes: 9, waitMs: 2 }],
    values: [
      value('carbon-dioxide', 'carbon dioxide', 'ppm', 0, 'u16be(d, 0) * 1.0'),
      celsius('u16be(d, 3) * 175.0 / 65535.0 - 45.0'),
      value('humidity', 'humidity', '%', 1, 'u16be(d, 6) * 100.0 / 65535.0'),
    ],
  },
}

export default program
