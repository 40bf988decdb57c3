/** How its pressure chip is read without a driver. */
import { PRESSURE_STEPS, PRESSURE_VALUES } from '../../families/trimmed-air-recipe'
import type { PartProgram } from '../../shapes/program'

const program: PartProgram = {
  i2c: {
    who: { register: 0xD0, value: 0x58 },
    trimmed: [{ register: [0x88], bytes: 24 }],
    ask: [[0xF4, 0x25]], askMs: 10,
    blocks: [{ register: [0xF7], bytes: 6 }],
    steps: PRESSURE_STEPS,
    values: PRESSURE_VALUES,
  },
}

export default program
