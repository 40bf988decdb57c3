/** How it is read without a driver. From memory of its data sheet. */
import { value, type PartProgram } from '../../shapes/program'

const program: PartProgram = {
  i2c: {
    blocks: [{ register: [0x02], bytes: 2 }, { register: [0x01], bytes: 2 }],
    values: [
      value('voltage', 'voltage', 'V', 3, '(u16be(d, 0) >> 3) * 0.004'),
      { label: 'across the shunt', unit: 'mV', digits: 2, formula: 's16be(d, 2) * 0.01' },
    ],
  },
}

export default program
