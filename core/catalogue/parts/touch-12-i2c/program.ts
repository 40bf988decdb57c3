/** How it is read without a driver. From memory of its data sheet. */
import type { PartProgram } from '../../shapes/program'

const program: PartProgram = {
  i2c: {
    who: { register: 0x5C, value: 0x24 },
    wake: [{ send: [0x5E, 0x8C], ms: 20 }],
    blocks: [{ register: [0x00], bytes: 2 }],
    values: [{ label: 'pads touched, as bits', unit: '', digits: 0, formula: '(u16le(d, 0) & 4095) * 1.0' }],
  },
}

export default program
