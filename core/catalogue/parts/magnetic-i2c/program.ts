/** How it is read without a driver. From memory of its data sheet. */
import type { PartProgram } from '../../shapes/program'

const program: PartProgram = {
  i2c: {
    who: { register: 0x0A, value: 0x48 },
    wake: [{ send: [0x00, 0x70] }, { send: [0x01, 0x20] }, { send: [0x02, 0x00], ms: 70 }],
    blocks: [{ register: [0x03], bytes: 6 }],
    values: ['x', 'z', 'y'].map((label, i) => ({ label, unit: 'µT', digits: 1, formula: `s16be(d, ${i * 2}) / 10.9` })),
  },
}

export default program
