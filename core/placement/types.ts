/** The placement problem: demands, and the ways each can be met. */
import type { Assignment, Between } from '../plan/types'
import type { Weights } from './weights'

/** `P3` for header position 3, otherwise a part's terminal such as `expander.A3`. */
export type PlaceRef = string

/** For explaining a place: the terminal may not go there, or nowhere else. */
export interface Insistence {
  terminal: string
  ref: PlaceRef
  kind: 'forbidden' | 'only'
}

export interface Use {
  /** Controller, e.g. `spi0`. */
  resource: string
  /** Users together have one way: how a bus comes out, the frequency of a pulse channel. */
  way: string
  /** Nobody else may use it at all. */
  exclusive: boolean
  /** What each further user costs. */
  shareCost?: number
}

export interface Address {
  address: number
  /** Where it answers besides. */
  also?: readonly number[]
  strap?: { option: string, value: string }
  cost: number
}

/** One way to meet a demand. */
export interface Candidate {
  /** terminal key → place */
  places: Record<string, PlaceRef>
  /** Place → what it carries there. Two demands may share a place only with the same token. */
  tokens: Record<PlaceRef, string>
  uses: Use[]
  cost: number
  /** Bus it lies on, for address clashes. */
  busId?: string
  /**
   * 7-bit addresses the device may have on that bus, as the plan has it first; each with its strap and what it costs.
   */
  addresses?: Address[]
  /** Channel of a hub that nobody has a place on yet: its channels are alike, and are taken in their order. */
  channel?: { hub: string, index: number }
  /** Lies on a software bus whose two lines are still to be found. */
  opens?: { softwareBus: string, sda: string, scl: string }
}

/** Something that needs places: a part's terminals on one bus, or a single bound line. */
export interface Demand {
  id: string
  /** What it asks of the board: demands of one kind compete for the same controllers. */
  kind: 'i2c' | 'spi' | 'serial' | 'pwm' | 'i2s' | 'line'
  partId: string
  /** For people: "Field modem: serial". */
  label: string
  terminals: string[]
  /** Cheapest first. */
  candidates: Candidate[]
  /** Is a hub: placed before what may hang behind it. */
  isHub?: boolean
  /** Parts with the same sign can change places without anything else changing. */
  twinSign?: string
}

/** A line any free place may serve; met by matching rather than by branching. */
export interface LineDemand {
  id: string
  partId: string
  label: string
  /** Several for 1-Wire parts, which share one line. */
  terminals: string[]
  /** May sit on an expander. */
  slow: boolean
  optional: boolean
  /** A varying voltage: only an analog input can take it. */
  analog: boolean
  idleLevel?: 'low' | 'high'
  still: boolean
  /** The part drives the line, or a contact pulls it. */
  drives: boolean
  /** Place in the part's connector, centred: the first of three is −1, the last +1. */
  rank: number
  /** Where it was, for moving as little as possible. */
  before?: PlaceRef
  /** May not go there, or may go nowhere else; set when explaining a place. */
  forbidden?: PlaceRef
  only?: PlaceRef
}

export interface LineSlot {
  ref: PlaceRef
  /** 0-based column on the header, from the end of position 1; null on an expander. */
  column: number | null
  /** Cost of taking it: functions that others may want, and how hard it is to find. */
  cost: number
  resetPull?: 'up' | 'down'
  noisy: boolean
  /** An analog input of a converter. */
  isAnalog: boolean
  isExpander: boolean
  /** Which part gives it, for expanders. */
  ownerId?: string
}

export interface PowerDemand {
  terminal: string
  partId: string
  label: string
  kind: '5V' | '3V3' | 'ground'
  fixedAt?: PlaceRef
  before?: PlaceRef
  forbidden?: PlaceRef
  only?: PlaceRef
}

export interface PlacementProblem {
  demands: Demand[]
  lineDemands: LineDemand[]
  linePlaces: LineSlot[]
  powerDemands: PowerDemand[]
  /** Positions of each kind that may carry supplies and grounds. */
  powerPlaces: Record<PowerDemand['kind'], number[]>
  /** Columns of the header. */
  columns: number
  weights: Weights
  /** Terminals whose fixed place cannot serve them, found while setting up. */
  hopeless: { terminal: string, sentence: string }[]
  before: Record<string, Assignment>
}

export interface CostRow {
  what: string
  cost: number
}

/** A change that would let everything be placed, tried out before it is offered. */
export interface WayOut {
  label: string
  /** How much of the maker's wishes it gives up; the cheapest is first. */
  price: number
  edits: unknown[]
}

export interface Placed {
  ok: true
  assignments: Record<string, Assignment>
  /** Address straps that the placement asks for, where they are not as the plan has them. */
  straps: { partId: string, option: string, value: string }[]
  softwareBuses: { id: string, sda: number, scl: number }[]
  /** Pull-ups for buses that would have none. */
  between: Record<string, Between>
  /** Of the signals; `powerCost` is that of supplies and grounds, which are placed beside them afterwards. */
  cost: number
  powerCost: number
  costs: CostRow[]
  /** The search finished: no cheaper placement exists under the weights. */
  provedBest: boolean
  nodes: number
  moved: { terminal: string, from: string, to: string }[]
  /** Optional terminals for which nothing was left. */
  leftOut: string[]
  /** Supply and ground positions with more wires than one, for splitting outside the header. */
  splitAt: { position: number, wires: number }[]
}

export interface NotPlaced {
  ok: false
  sentence: string
  conflict: { label: string, terminals: string[] }[]
  waysOut: WayOut[]
}

export type PlacementResult = Placed | NotPlaced
