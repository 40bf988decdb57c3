/** What a plan says of its supply: the nodes the maker put in, who feeds whom, and what is asked of it. */
import type { Origin } from '../catalogue/types'

/** How much a load draws. `surge` is what it takes for a moment when it is switched on. */
export type LoadState = 'off' | 'idle' | 'typical' | 'peak' | 'surge'

/** The states every plan has. In `start` everything comes on at once. */
export type BaseState = 'idle' | 'typical' | 'peak' | 'start'

/**
 * Names a node of the power tree: one of the maker's own by its id, or one that follows from the rest of the plan.
 * `@supply` and `@cable` the board's supply and its lead; `@socket` and `@header` the board's two ways in; `@5V`, `@3V3` and
 * `@usb` its rails; `@board` the board itself; `@P2` header position 2; `part.vcc` a part's supply terminal, `part.vcc@wire` the wire
 * to it; `part#1` a relay's first contact and `part#1@load` what hangs on it.
 */
export type NodeRef = string

export interface PowerNode {
  id: string
  /** A supply or a power item of the catalogue. */
  type: string
  name: string
  /** What feeds it; sources have nothing here. */
  from?: NodeRef | null
  /** A hub with a supply of its own: the port that it hangs on for data. */
  upstream?: NodeRef | null
  /** Figures replaced by the maker, by name. */
  figures?: Record<string, number>
  /** A switch that is open, a fuse that is out. */
  open?: boolean
  [unknown: string]: unknown
}

/** One step of a scenario: a base state, and what differs from it. */
export interface PowerStep {
  id: string
  name: string
  base: BaseState
  loads: Record<NodeRef, LoadState>
  /** Switches that are open in this step. */
  open: string[]
  seconds: number
}

/** From an hour of the day to another, the state or step the project is in. */
export interface DayPart {
  fromH: number
  toH: number
  step: string
}

export type Enclosure = 'open' | 'vented' | 'closed'
export type Cooler = 'none' | 'fins' | 'block' | 'case-body' | 'active'

export type FanControl
  = | { mode: 'none' }
    | { mode: 'always' }
    | { mode: 'threshold', onC: number, hysteresisC: number }
  /** Speed in percent from each temperature up. */
    | { mode: 'curve', points: { temperatureC: number, percent: number }[], hysteresisC: number }

export interface HeatPlan {
  cooler: Cooler
  enclosure: Enclosure
  ambientC: number
  fan: FanControl
  /** Load and length of the load test. */
  load: 'idle' | 'typical' | 'peak'
  minutes: number
}

export interface StorePlan {
  /** Hours it has to last without charging; null when nothing is asked. */
  hoursAsked: number | null
  temperatureC: number
  /** How full it is at the start, 0 to 1. */
  startShare: number
  /** Panel in W peak; 0 without one. */
  panelW: number
  /** Hours from sunrise to sunset. */
  dayLengthH: number
  /** Made-up weather of seven days: 1 a clear sky, 0 none. */
  weather: number[]
}

/** A lower clock and core voltage than the board starts with. */
export interface ClockPlan {
  coreMhz: number | null
  /** Steps of 25 mV, negative for less. */
  voltageSteps: number
}

export interface Arrangement {
  id: string
  name: string
  supply: { type: string, currentMa?: number } | null
  nodes: PowerNode[]
  feeds: Record<NodeRef, NodeRef | null>
  joins: Join[]
  figures: Record<NodeRef, Record<string, number>>
}

/** A second way into a joint, beside the one it has: a plug that is also put in. */
export interface Join {
  from: NodeRef
  into: NodeRef
}

export interface PowerPlan {
  nodes: PowerNode[]
  /** Consumer → what feeds it in place of the usual; null: nothing. */
  feeds: Record<NodeRef, NodeRef | null>
  joins: Join[]
  /** Figures of derived nodes replaced by the maker: node → name → value. */
  figures: Record<NodeRef, Record<string, number>>
  steps: PowerStep[]
  day: DayPart[]
  store: StorePlan
  heat: HeatPlan
  clock: ClockPlan
  /** Seconds the board needs to shut down in order; null: the board's own figure. */
  shutdownS: number | null
  arrangements: Arrangement[]
}

/** A worksheet that was used, with its figures as they were. */
export interface KeptWorksheet {
  id: string
  keptAt: string
  /** For what, in the maker's words. */
  what: string
  sheet: { kind: string, [figure: string]: unknown }
}

/** Origin of figures nobody has changed. */
export const USUAL_ORIGIN: Origin = 'memory'

export function emptyPower(): PowerPlan {
  return {
    nodes: [], feeds: {}, joins: [], figures: {}, steps: [], day: [],
    store: { hoursAsked: null, temperatureC: 20, startShare: 1, panelW: 0, dayLengthH: 12, weather: [1, 0.8, 0.3, 0.1, 0.5, 0.9, 1] },
    heat: { cooler: 'none', enclosure: 'open', ambientC: 25, fan: { mode: 'none' }, load: 'peak', minutes: 30 },
    clock: { coreMhz: null, voltageSteps: 0 }, shutdownS: null, arrangements: [],
  }
}
