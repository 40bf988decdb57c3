/**
 * What a plan says of its supply: the nodes the maker put in, who feeds whom, and what is asked of it. Unknown
 * fields are kept.
 */
import {
  choice, filled, flag, list, map, nullable, number, oneOf, open, optional, starting, text, withUnknown, type Of,
} from '../shape/shape'

/**
 * Names a node of the power tree: one of the maker's own by its id, or one that follows from the rest of the plan.
 * `@supply` and `@cable` the board's supply and its lead; `@socket` and `@header` the board's two ways in; `@5V`,
 * `@3V3` and `@usb` its rails; `@board` the board itself; `@P2` header position 2; `part.vcc` a part's supply terminal,
 * `part.vcc@wire` the wire to it; `part#1` a relay's first contact and `part#1@load` what hangs on it.
 */
const ref = text({ min: 1, max: 90 })
const fed = nullable(ref)
const NODE_ID = /^[A-Za-z][A-Za-z0-9-]{0,39}$/
const name = text({ empty: true, max: 300 })
const shortId = text({ max: 60 })
const typeId = text({ max: 100 })
const figures = map(number({ min: -1e9, max: 1e9 }), text({ max: 60 }))

/** How much a load draws. `surge` is what it takes for a moment when it is switched on. */
const loadState = oneOf('off', 'idle', 'typical', 'peak', 'surge')
/** The states every plan has. In `start` everything comes on at once. */
export const BASE_STATES = ['idle', 'typical', 'peak', 'start'] as const
const baseState = oneOf(...BASE_STATES)

const node = withUnknown({
  id: text({ pattern: NODE_ID, called: 'node id: a letter, then letters, digits and dashes' }),
  /** A supply or a power item of the catalogue. */
  type: typeId,
  name,
  /** What feeds it; sources have nothing here. */
  from: optional(fed),
  /** A hub with a supply of its own: the port that it hangs on for data. */
  upstream: optional(fed),
  /** Figures replaced by the maker, by name. */
  figures: optional(figures),
  /** A switch that is open, a fuse that is out. */
  open: optional(flag),
})

/** A second way into a joint, beside the one it has: a plug that is also put in. */
const join = open({ from: ref, into: ref })

/** One step of a scenario: a base state, and what differs from it. */
const step = open({
  id: text({ pattern: NODE_ID, called: 'step id: a letter, then letters, digits and dashes', not: BASE_STATES }),
  name,
  base: baseState,
  loads: starting(map(loadState, ref), {}),
  /** Switches that are open in this step. */
  open: starting(list(ref), []),
  seconds: starting(number({ min: 0, max: 1e6 }), 10),
})

const hour = number({ min: 0, max: 24 })
/** From an hour of the day to another, the state or step the project is in. */
const dayPart = open({ fromH: hour, toH: hour, step: shortId })

const celsius = number({ min: -60, max: 150 })
const percent = number({ min: 0, max: 100 })
const hysteresis = number({ min: 0, max: 50 })
const enclosure = oneOf('open', 'vented', 'closed')
const cooler = oneOf('none', 'fins', 'block', 'case-body', 'active')

const fan = choice('mode', {
  none: {},
  always: {},
  threshold: { onC: celsius, hysteresisC: hysteresis },
  /** Speed in percent from each temperature up. */
  curve: { points: list(open({ temperatureC: celsius, percent }), { min: 1, max: 8 }), hysteresisC: hysteresis },
}, { open: true })

const heat = open({
  cooler: starting(cooler, 'none'),
  /** Processor to air with it, in K per W, where the maker knows it from a data sheet or a measurement. */
  coolerKw: optional(number({ above: 0, max: 200 })),
  /** The same as a load test of this thing gave it, with what chip and cooler store, in J per K. */
  measured: optional(open({
    coolerKw: number({ above: 0, max: 200 }), storeJk: optional(number({ above: 0, max: 1e5 })),
    at: text({ date: true }),
  })),
  enclosure: starting(enclosure, 'open'),
  ambientC: starting(celsius, 25),
  fan: starting(fan, { mode: 'none' }),
  /** Load and length of the load test. */
  load: starting(oneOf('idle', 'typical', 'peak'), 'peak'),
  minutes: starting(number({ min: 1, max: 600 }), 30),
})

const store = open({
  /** Hours it has to last without charging; null when nothing is asked. */
  hoursAsked: starting(nullable(number({ above: 0, max: 1e5 })), null),
  temperatureC: starting(celsius, 20),
  /** How full it is at the start, 0 to 1. */
  startShare: starting(number({ min: 0, max: 1 }), 1),
  /** Panel in W peak; 0 without one. */
  panelW: starting(number({ min: 0, max: 1e5 }), 0),
  /** Hours from sunrise to sunset. */
  dayLengthH: starting(hour, 12),
  /** Made-up weather of seven days: 1 a clear sky, 0 none. */
  weather: starting(list(number({ min: 0, max: 1.2 }), { min: 7, max: 7 }), [1, 0.8, 0.3, 0.1, 0.5, 0.9, 1]),
})

/** A lower clock and core voltage than the board starts with. */
const clock = open({
  coreMhz: starting(nullable(number({ above: 0, max: 1e5 })), null),
  /** Steps of 25 mV, negative for less. */
  voltageSteps: starting(number({ min: -16, max: 16, whole: true }), 0),
})

/** Consumer → what feeds it in place of the usual; null: nothing. */
const feeds = starting(map(fed, ref), {})
const nodes = starting(list(node, { max: 500, unique: 'id' }), [])
const joins = starting(list(join, { max: 100 }), [])
/** Figures of derived nodes replaced by the maker: node → name → value. */
const ownFigures = starting(map(figures, ref), {})

/** The board's supply: its type, and the most it gives where that is not its usual current. */
export const supplyChoice = nullable(open({ type: typeId, currentMa: optional(number({ above: 0, max: 1e6 })) }))

const arrangement = open({ id: shortId, name, supply: supplyChoice, nodes, feeds, joins, figures: ownFigures })

export const powerShape = open({
  nodes,
  feeds,
  joins,
  figures: ownFigures,
  steps: starting(list(step, { max: 60, unique: 'id' }), []),
  day: starting(list(dayPart, { max: 48 }), []),
  store: filled(store),
  heat: filled(heat),
  clock: filled(clock),
  /** Seconds the board needs to shut down in order; null: the board's own figure. */
  shutdownS: starting(nullable(number({ min: 0, max: 3600 })), null),
  arrangements: starting(list(arrangement, { max: 20, unique: 'id' }), []),
})

/** A worksheet that was used, with its figures as they were. */
export const keptWorksheet = open({
  id: shortId,
  keptAt: text({ date: true }),
  /** For what, in the maker's words. */
  what: name,
  sheet: withUnknown({ kind: text({ max: 40 }) }),
})

export type NodeRef = Of<typeof ref>
export type LoadState = Of<typeof loadState>
export type BaseState = Of<typeof baseState>
export interface PowerNode extends Of<typeof node> {}
export interface Join extends Of<typeof join> {}
export interface PowerStep extends Of<typeof step> {}
export interface DayPart extends Of<typeof dayPart> {}
export type Enclosure = Of<typeof enclosure>
export type Cooler = Of<typeof cooler>
export type FanControl = Of<typeof fan>
export interface HeatPlan extends Of<typeof heat> {}
export interface StorePlan extends Of<typeof store> {}
export interface ClockPlan extends Of<typeof clock> {}
export interface Arrangement extends Of<typeof arrangement> {}
export interface PowerPlan extends Of<typeof powerShape> {}
export interface KeptWorksheet extends Of<typeof keptWorksheet> {}
