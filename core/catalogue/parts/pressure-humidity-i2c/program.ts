/** How it is read without a driver. */
import { HUMIDITY_STEPS, PRESSURE_STEPS, PRESSURE_VALUES } from '../../families/trimmed-air-recipe'
import { value, type PartProgram } from '../../shapes/program'

const program: PartProgram = {
  i2c: {
    who: { register: 0xD0, value: 0x60 },
    trimmed: [{ register: [0x88], bytes: 24 }, { register: [0xA1], bytes: 1 }, { register: [0xE1], bytes: 7 }],
    ask: [[0xF2, 0x01], [0xF4, 0x25]], askMs: 12,
    blocks: [{ register: [0xF7], bytes: 8 }],
    steps: [...PRESSURE_STEPS, ...HUMIDITY_STEPS],
    values: [...PRESSURE_VALUES, value('humidity', 'humidity', '%', 1, 'h3')],
  },
}

export default program
