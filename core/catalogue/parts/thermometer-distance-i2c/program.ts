/** How it is read without a driver. From memory of its data sheet. */
import { value, type PartProgram } from '../../shapes/program'

const program: PartProgram = {
  i2c: {
    blocks: [{ register: [0x06], bytes: 2 }, { register: [0x07], bytes: 2 }],
    values: [
      { label: 'its own', unit: '°C', digits: 1, formula: 'u16le(d, 0) * 0.02 - 273.15' },
      value('temperature', 'what it looks at', '°C', 1, 'u16le(d, 2) * 0.02 - 273.15'),
    ],
  },
}

export default program
