/** Pieces that the schemas of boards, parts and supplies share. Unlike plans these are closed: a misspelt field is an error. */
import Joi from 'joi'

export const id = Joi.string().pattern(/^[a-z0-9][a-z0-9-]*$/, 'lower-case letters, digits and dashes').max(60).required()
export const origin = Joi.string().pattern(/^(memory|practice|published|yours)(: .+)?$/, 'memory, practice, yours or published, with the source after a colon').required()
export const sourced = Joi.object({ value: Joi.number().required(), origin })
export const ma = Joi.number().min(0).required()
export const position = Joi.number().integer().min(1).max(100)
export const when = Joi.object().pattern(Joi.string(), Joi.string())
export const rail = Joi.string().valid('5V', '3V3')
export const feedRail = Joi.string().valid('5V', '3V3', '12V', '24V')
export const text = Joi.string().max(400)

export const bootFields = { kind: Joi.string().valid('param', 'overlay', 'setting').required(), name: Joi.string().required(), value: Joi.string(), params: Joi.object().pattern(Joi.string(), Joi.string().allow('')) }
export const boot = Joi.object(bootFields).when(Joi.object({ kind: 'overlay' }).unknown(), { then: Joi.object({ value: Joi.forbidden() }), otherwise: Joi.object({ value: Joi.required(), params: Joi.forbidden() }) })
