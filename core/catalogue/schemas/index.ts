/** The shapes of catalogue files, as Joi sees them. */
export { boardSchema } from './board'
export { partSchema } from './part'
export { powerItemSchema, supplySchema } from './power'
