/** The shape of the plan's power field. Unknown fields are let through and kept. */
import Joi from 'joi'

const NODE_ID = /^[A-Za-z][A-Za-z0-9-]{0,39}$/
const figure = Joi.number().strict().min(-1e9).max(1e9)
const ref = Joi.string().min(1).max(90)
const fed = ref.allow(null)
const name = Joi.string().allow('').max(300)
const figures = Joi.object().pattern(Joi.string().max(60), figure)
const state = Joi.string().valid('off', 'idle', 'typical', 'peak', 'surge')
const base = Joi.string().valid('idle', 'typical', 'peak', 'start')
const hour = Joi.number().strict().min(0).max(24)
const celsius = Joi.number().strict().min(-60).max(150)
const hysteresis = Joi.number().strict().min(0).max(50)

const node = Joi.object({
  id: Joi.string().pattern(NODE_ID, 'node id: a letter, then letters, digits and dashes').required(),
  type: Joi.string().max(100).required(), name: name.required(), from: fed, upstream: fed, figures, open: Joi.boolean().strict(),
}).unknown(true)

const join = Joi.object({ from: ref.required(), into: ref.required() }).unknown(true)
const nodes = Joi.array().items(node).max(500).unique('id').default([])
const feeds = Joi.object().pattern(ref, fed).default({})
const joins = Joi.array().items(join).max(100).default([])
const ownFigures = Joi.object().pattern(ref, figures).default({})

const fan = Joi.alternatives().conditional('.mode', {
  switch: [
    { is: 'threshold', then: Joi.object({ mode: Joi.any(), onC: celsius.required(), hysteresisC: hysteresis.required() }).unknown(true) },
    { is: 'curve', then: Joi.object({ mode: Joi.any(), hysteresisC: hysteresis.required(), points: Joi.array().items(Joi.object({ temperatureC: celsius.required(), percent: Joi.number().strict().min(0).max(100).required() })).min(1).max(8).required() }).unknown(true) },
  ],
  otherwise: Joi.object({ mode: Joi.string().valid('none', 'always').required() }).unknown(true),
})

export const powerSchema = Joi.object({
  nodes, feeds, joins, figures: ownFigures,
  steps: Joi.array().items(Joi.object({
    id: Joi.string().pattern(NODE_ID, 'step id: a letter, then letters, digits and dashes').invalid('idle', 'typical', 'peak', 'start').required(),
    name: name.required(), base: base.required(),
    loads: Joi.object().pattern(ref, state).default({}), open: Joi.array().items(ref).default([]), seconds: Joi.number().strict().min(0).max(1e6).default(10),
  }).unknown(true)).max(60).unique('id').default([]),
  day: Joi.array().items(Joi.object({ fromH: hour.required(), toH: hour.required(), step: Joi.string().max(60).required() }).unknown(true)).max(48).default([]),
  store: Joi.object({
    hoursAsked: Joi.number().strict().positive().max(1e5).allow(null).default(null), temperatureC: celsius.default(20), startShare: Joi.number().strict().min(0).max(1).default(1),
    panelW: Joi.number().strict().min(0).max(1e5).default(0), dayLengthH: Joi.number().strict().min(0).max(24).default(12),
    weather: Joi.array().items(Joi.number().strict().min(0).max(1.2)).length(7).default([1, 0.8, 0.3, 0.1, 0.5, 0.9, 1]),
  }).unknown(true).default(),
  heat: Joi.object({
    cooler: Joi.string().valid('none', 'fins', 'block', 'case-body', 'active').default('none'), enclosure: Joi.string().valid('open', 'vented', 'closed').default('open'),
    ambientC: celsius.default(25), fan: fan.default({ mode: 'none' }), load: Joi.string().valid('idle', 'typical', 'peak').default('peak'), minutes: Joi.number().strict().min(1).max(600).default(30),
  }).unknown(true).default(),
  clock: Joi.object({ coreMhz: Joi.number().strict().positive().max(1e5).allow(null).default(null), voltageSteps: Joi.number().strict().integer().min(-16).max(16).default(0) }).unknown(true).default(),
  shutdownS: Joi.number().strict().min(0).max(3600).allow(null).default(null),
  arrangements: Joi.array().items(Joi.object({
    id: Joi.string().max(60).required(), name: name.required(),
    supply: Joi.object({ type: Joi.string().max(100).required(), currentMa: Joi.number().strict().positive().max(1e6) }).unknown(true).allow(null).required(),
    nodes, feeds, joins, figures: ownFigures,
  }).unknown(true)).max(20).unique('id').default([]),
}).unknown(true)

export const worksheetsSchema = Joi.array().items(Joi.object({
  id: Joi.string().max(60).required(), keptAt: Joi.string().isoDate().required(), what: name.required(),
  sheet: Joi.object({ kind: Joi.string().max(40).required() }).unknown(true).required(),
}).unknown(true)).max(200).default([])
