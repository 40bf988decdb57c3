/** How it is read without a driver. Its temperature: from memory of its data sheet. */
import { clockRecipe } from '../../families/clock'
import { celsius, type PartProgram } from '../../shapes/program'

const program: PartProgram = {
  i2c: {
    blocks: [...clockRecipe.blocks, { register: [0x11], bytes: 2 }],
    values: [...clockRecipe.values, celsius('s8(d, 7) + (d[8] >> 6) * 0.25')],
  },
}

export default program
