/** How it is read without a driver. From memory of its data sheet. */
import type { PartProgram } from '../../shapes/program'

const program: PartProgram = {
  i2c: {
    who: { register: 0x0F, value: 0x33 },
    wake: [{ send: [0x20, 0x57] }, { send: [0x23, 0x08], ms: 20 }],
    blocks: [{ register: [0xA8], bytes: 6 }],
    values: ['x', 'y', 'z'].map((label,
      i) => ({ label, unit: 'g', digits: 2, formula: `s16le(d, ${i * 2}) / 16000.0` })),
  },
}

export default program
