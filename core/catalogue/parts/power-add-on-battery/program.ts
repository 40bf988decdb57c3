/** How it is read without a driver. From memory of its data sheet. */
import type { PartProgram } from '../../shapes/program'

const program: PartProgram = {
  i2c: {
    blocks: [{ register: [0x02], bytes: 2 }, { register: [0x04], bytes: 2 }],
    values: [
      { label: 'cell', unit: 'V', digits: 2, formula: 'u16be(d, 0) * 0.000078125' },
      { label: 'charge', unit: '%', digits: 0, formula: 'u16be(d, 2) / 256.0' },
    ],
  },
}

export default program
