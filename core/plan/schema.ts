/** The check of a plan document, from its declaration in `shape.ts`. */
import type { ObjectSchema } from 'joi'
import { joiOf } from '../shape/joi'
import { planShape } from './shape'

export const planSchema = joiOf(planShape) as ObjectSchema
