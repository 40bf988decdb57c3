/** The plan document's shape, as Joi sees it. Unknown fields are let through and kept. */
import Joi from 'joi'
import { boardSchema, partSchema } from '../catalogue/schemas'
import { powerSchema, worksheetsSchema } from './power-schema'
import { PLAN_FORMAT, PLAN_VERSION, STAGE_IDS } from './types'

export const PART_ID = /^[A-Za-z][A-Za-z0-9-]{0,39}$/
export const TERMINAL_KEY = /^[A-Za-z][A-Za-z0-9-]{0,39}\.[A-Za-z0-9_-]{1,40}$/

const origin = Joi.string().max(300)
const freeText = Joi.string().allow('').max(200_000)
const fileText = Joi.string().allow('').max(1_000_000)
const partId = Joi.string().pattern(PART_ID, 'part id: a letter, then letters, digits and dashes')
const terminalKey = Joi.string().pattern(TERMINAL_KEY, 'part.terminal')
const position = Joi.number().strict().integer().min(1).max(100)
const voltage = Joi.number().strict().min(0).max(1000)
const stage = Joi.string().valid(...STAGE_IDS)

const contactLoad = Joi.object({
  contact: Joi.number().strict().integer().min(1).max(64).required(),
  what: Joi.string().allow('').max(200).required(),
  kind: Joi.string().valid('AC', 'DC').required(),
  voltageV: voltage.required(),
  currentA: Joi.number().strict().min(0).max(1000).required(),
}).unknown(true)

const part = Joi.object({
  id: partId.required(),
  type: Joi.string().max(100).required(),
  name: Joi.string().allow('').max(300).required(),
  options: Joi.object().pattern(Joi.string(), Joi.string().allow('').max(100)),
  loads: Joi.array().items(contactLoad).max(64),
  notes: freeText,
}).unknown(true)

const assignment = Joi.object({
  position,
  terminal: terminalKey,
  fixed: Joi.boolean().strict(),
}).xor('position', 'terminal').unknown(true)

const ohm = Joi.number().strict().positive().max(1e8)
const between = Joi.object({
  kind: Joi.string().valid('divider', 'level-shifter', 'transistor', 'mosfet', 'opto-coupler', 'rs232-converter', 'pull-up').required(),
  ohm: Joi.when('kind', { is: 'pull-up', then: ohm.required(), otherwise: ohm }),
  fit: Joi.string().valid('open-drain', 'push-pull'),
  upperOhm: Joi.when('kind', { is: 'divider', then: ohm.required(), otherwise: ohm }),
  lowerOhm: Joi.when('kind', { is: 'divider', then: ohm.required(), otherwise: ohm }),
}).unknown(true)

/** A record keyed by `part.terminal`. */
const byTerminal = (value: Joi.Schema) => Joi.object().pattern(terminalKey, value)

export const planSchema = Joi.object({
  format: Joi.string().valid(PLAN_FORMAT).required(),
  version: Joi.number().strict().integer().valid(PLAN_VERSION).required(),
  name: Joi.string().min(1).max(300).required(),
  story: freeText,
  notes: freeText,
  board: Joi.string().max(100).allow(null).required(),
  supply: Joi.object({
    type: Joi.string().max(100).required(),
    currentMa: Joi.number().strict().positive().max(1e6),
  }).unknown(true).allow(null).required(),
  parts: Joi.array().items(part).max(200).unique('id').required(),
  assignments: byTerminal(assignment).required(),
  between: byTerminal(between).default({}),
  reserved: Joi.array().items(Joi.object({ position: position.required(), reason: Joi.string().allow('').max(300) }).unknown(true)).unique('position').default([]),
  limits: Joi.object().pattern(Joi.string().max(100), Joi.object({ value: Joi.number().strict().required(), origin }).unknown(true)).default({}),
  controllers: Joi.object().pattern(Joi.string().max(60), Joi.string().max(60)).default({}),
  clocks: Joi.object().pattern(Joi.string().max(60), Joi.number().strict().positive().max(1e9)).default({}),
  softwareBuses: Joi.array().items(Joi.object({ id: Joi.string().pattern(/^i2c-soft-[1-9]$/, 'i2c-soft-1 to i2c-soft-9').required(), sda: position.required(), scl: position.required() }).unknown(true)).unique('id').default([]),
  stack: Joi.array().items(partId).unique().default([]),
  weights: Joi.object().pattern(Joi.string().max(60), Joi.number().strict().min(0).max(1e5)).default({}),
  own: Joi.object({ boards: Joi.array().items(boardSchema).unique('id').max(50).default([]), parts: Joi.array().items(partSchema).unique('id').max(200).default([]) }).default({ boards: [], parts: [] }),
  power: powerSchema.default(),
  worksheets: worksheetsSchema,
  boot: Joi.object({
    path: Joi.string().max(300),
    text: fileText.required(),
    encoding: Joi.string().valid('utf-8', 'latin1'),
    commandLine: Joi.string().allow('').max(10_000),
    dialect: Joi.string().valid('key-value', 'extlinux', 'environment'),
    image: Joi.string().valid('older', 'newer'),
    includes: Joi.object().pattern(Joi.string().max(300), fileText),
    overlays: Joi.array().items(Joi.object({ name: Joi.string().max(200).required(), kind: Joi.string().valid('source', 'blob').required(), content: fileText.required() }).unknown(true)).max(100),
    base: Joi.object({ name: Joi.string().max(300).required(), content: fileText.required() }).unknown(true),
    off: Joi.array().items(partId).max(200),
    made: Joi.array().items(partId).max(200),
    whenOff: Joi.string().valid('comment', 'remove'),
    before: Joi.array().items(Joi.object({ at: Joi.string().isoDate().required(), text: fileText.required(), commandLine: Joi.string().allow('').max(10_000) }).unknown(true)).max(20),
  }).unknown(true).allow(null).default(null),
  build: Joi.object({
    done: Joi.array().items(Joi.string().max(200)).default([]),
    wires: byTerminal(Joi.object({ colour: Joi.string().max(40), lengthM: Joi.number().strict().positive().max(100) }).unknown(true)).default({}),
  }).unknown(true).default({ done: [], wires: {} }),
  scans: Joi.array().items(Joi.object({
    id: Joi.string().max(60).required(), bus: Joi.string().max(60).required(),
    text: freeText.required(), takenAt: Joi.string().isoDate().required(),
  }).unknown(true)).default([]),
  log: Joi.array().items(Joi.object({
    id: Joi.string().max(60).required(), at: Joi.string().isoDate().required(),
    stage: stage.required(), text: freeText.required(),
  }).unknown(true)).default([]),
}).unknown(true)
