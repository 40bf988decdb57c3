/** The shape of a board file. */
import Joi from 'joi'
import { clockingSchema, heatSchema, boardPowerSchema } from './power'
import { boot, id, ma, origin, position, sourced, text } from './common'

const clock = Joi.object({
  source: text.required(), sourceHz: Joi.number().positive().required(), origin,
  divider: Joi.string().valid('fractional-64', 'eighth', 'even', 'whole', 'fractional-4096').required(), followsCore: Joi.boolean(),
})
const limit = sourced.required()

export const boardSchema = Joi.object({
  id, name: text.required(), summary: text.required(), seen: Joi.array().items(text).min(2).required(),
  signs: Joi.object().pattern(Joi.string(), Joi.string()).required(),
  bootPath: Joi.string().required(), bootModels: Joi.array().items(text), bootDialect: Joi.string().valid('key-value', 'extlinux', 'environment'), headerUnpopulated: Joi.boolean(), cautions: Joi.array().items(text),
  tree: Joi.object({
    compatible: text.required(), binding: Joi.string().valid('numbered', 'named', 'none').required(), symbols: Joi.boolean().required(),
    chips: Joi.array().items(Joi.object({ label: text.required(), first: Joi.number().integer().min(0).required(), cells: Joi.number().valid(2, 3).required() })).required(),
    rails: Joi.object({ '5V': text, '3V3': text }),
  }),
  sockets: Joi.object({ usb: ma.integer(), video: ma.integer(), usbSideBySide: Joi.number().integer().min(0), fan: Joi.number().integer().min(0), display: Joi.number().integer().min(0) }).required(),
  draw: Joi.object({ idleMa: ma, typicalMa: ma, peakMa: ma, origin }).required(),
  power: boardPowerSchema, heat: heatSchema, clocking: clockingSchema,
  advisedSupplyMa: sourced.required(),
  limits: Joi.object({
    inputMaxV: limit, inputHighMinV: limit, inputLowMaxV: limit, outputHighV: limit, lineMaxMa: limit, linesTotalMaxMa: limit,
    rail3V3BudgetMa: limit, usbBudgetMa: limit, innerPullMinOhm: limit, innerPullMaxOhm: limit,
  }).required(),
  header: Joi.array().items(Joi.object({ position: position.required(), kind: Joi.string().valid('line', '5V', '3V3', 'ground').required(), line: Joi.number().integer().min(0), identity: Joi.boolean() })).unique('position').min(2).required(),
  lines: Joi.array().items(Joi.object({
    line: Joi.number().integer().min(0).required(), resetPull: Joi.string().valid('up', 'down').required(), fixedPullUpOhm: Joi.number().positive(), startNoise: text,
    functions: Joi.array().items(Joi.object({ setting: Joi.string().required(), controller: Joi.string().required(), signal: Joi.string() })).required(),
  })).unique('line').required(),
  controllers: Joi.array().items(Joi.object({
    id: Joi.string().required(), kind: Joi.string().valid('i2c', 'spi', 'serial', 'pwm', 'i2s').required(), label: text.required(), isDefault: Joi.boolean().required(), device: Joi.string(), clock,
    variants: Joi.array().items(Joi.object({ id: Joi.string().required(), label: text.required(), full: Joi.boolean().required(), clock: clock.required(), boot: Joi.array().items(boot).required(), note: text })).min(1),
    routes: Joi.array().items(Joi.object({ lines: Joi.object().pattern(Joi.string(), Joi.number().integer()).required(), boot: Joi.array().items(boot).required() })).min(1).required(),
  })).unique('id').required(),
})
