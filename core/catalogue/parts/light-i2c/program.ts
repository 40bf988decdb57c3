/** How it is read without a driver. From memory of its data sheet. */
import { value, type PartProgram } from '../../shapes/program'

const program: PartProgram = {
  i2c: {
    who: { register: 0x8A, value: 0x50 },
    wake: [{ send: [0x80, 0x03] }, { send: [0x81, 0x02], ms: 420 }],
    blocks: [{ register: [0xAC], bytes: 2 }, { register: [0xAE], bytes: 2 }],
    // Its light without much of the infrared; in other light the sheet's table of ratios is nearer.
    values: [value('light', 'light', 'lux', 0, '0.0304 * 16.0 * u16le(d, 0) - 0.062 * 16.0 * u16le(d, 2)')],
  },
}

export default program
