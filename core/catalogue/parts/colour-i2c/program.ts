/** How it is read without a driver. From memory of its data sheet. */
import type { PartProgram } from '../../shapes/program'

const program: PartProgram = {
  i2c: {
    who: { register: 0x92, value: 0x44 },
    wake: [{ send: [0x80, 0x01] }, { send: [0x80, 0x03] }, { send: [0x81, 0xF6], ms: 30 }],
    blocks: [{ register: [0x94], bytes: 8 }],
    values: ['clear', 'red', 'green', 'blue'].map((label, i) =>
      ({ label, unit: 'counts', digits: 0, formula: `u16le(d, ${i * 2}) * 1.0` })),
  },
}

export default program
