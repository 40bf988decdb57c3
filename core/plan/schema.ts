/** The check of a plan document, from its declaration in `shape.ts`. */
import { joiOf } from '../shape/joi'
import { planShape } from './shape'

export const planSchema = joiOf(planShape)
