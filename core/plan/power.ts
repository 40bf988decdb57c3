/** The power field of a plan that says nothing of its supply. Its declaration is in `power-shape.ts`. */
import type { Origin } from '../catalogue/types'
import { startOf } from '../shape/shape'
import { powerShape, type PowerPlan } from './power-shape'

export type * from './power-shape'

/** Origin of figures nobody has changed. */
export const USUAL_ORIGIN: Origin = 'memory'

export const emptyPower = (): PowerPlan => startOf(powerShape) as PowerPlan
