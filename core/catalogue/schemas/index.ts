/** The shapes of catalogue files, as Joi sees them. */
import Joi from 'joi'
import { id, origin, text } from './common'

export { boardSchema } from './board'
export { partSchema } from './part'

export const supplySchema = Joi.object({
  id, name: text.required(), summary: text.required(), kind: Joi.string().valid('adapter', 'power-bank', 'solar-battery', 'internal-usb', 'din-rail').required(),
  voltageV: Joi.number().positive().required(), currentMa: Joi.number().positive().required(), capacityMah: Joi.number().positive(), cellV: Joi.number().positive(), efficiency: Joi.number().min(0).max(1), origin,
  cautions: Joi.array().items(text),
})
