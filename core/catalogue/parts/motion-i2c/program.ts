/** How it is read without a driver. From memory of its data sheet. */
import { celsius, type PartProgram } from '../../shapes/program'

const program: PartProgram = {
  i2c: {
    who: { register: 0x75, value: 0x68 },
    wake: [{ send: [0x6B, 0x00], ms: 100 }],
    blocks: [{ register: [0x3B], bytes: 14 }],
    values: [
      ...['x', 'y', 'z'].map((label, i) => ({ label, unit: 'g', digits: 2, formula: `s16be(d, ${i * 2}) / 16384.0` })),
      celsius('s16be(d, 6) / 340.0 + 36.53'),
    ],
  },
}

export default program
