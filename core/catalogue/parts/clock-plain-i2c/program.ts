/** How it is read without a driver. */
import { clockRecipe } from '../../families/clock'
import type { PartProgram } from '../../shapes/program'

const program: PartProgram = { i2c: clockRecipe }

export default program
