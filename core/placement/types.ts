/** The placement problem: demands, and the ways each can be met. */
import type { Assignment } from '../plan/types'

/** `P3` for header position 3, otherwise a part's terminal such as `expander.A3`. */
export type PlaceRef = string

export interface Use {
  /** Controller, e.g. `spi0`. */
  resource: string
  /** A controller comes out one way at a time. */
  way: string
  /** Nobody else may use it at all. */
  exclusive: boolean
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
}

/** Something that needs places: a part's terminals on one bus, or a single line. */
export interface Demand {
  id: string
  partId: string
  /** For people: "Field modem: serial". */
  label: string
  terminals: string[]
  candidates: Candidate[]
  /** 7-bit address, for demands on I²C. */
  address?: number
  /** Is a hub: placed before what may hang behind it. */
  isHub?: boolean
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
  idleLevel?: 'low' | 'high'
  /** Where it was, for moving as little as possible. */
  before?: PlaceRef
}

export interface LinePlace {
  ref: PlaceRef
  /** 0-based column on the header, from the end of position 1; null on an expander. */
  column: number | null
  /** Cost of taking it: functions that others may want. */
  scarcity: number
  resetPull?: 'up' | 'down'
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
}

export interface PlacementProblem {
  demands: Demand[]
  lineDemands: LineDemand[]
  linePlaces: LinePlace[]
  powerDemands: PowerDemand[]
  /** Positions of each kind that may carry supplies and grounds. */
  powerPlaces: Record<PowerDemand['kind'], number[]>
  /** Terminals whose fixed place cannot serve them, found while setting up. */
  hopeless: { terminal: string, sentence: string }[]
  before: Record<string, Assignment>
}

export interface CostRow {
  what: string
  cost: number
}

export type PlacementResult
  = | {
    ok: true
    assignments: Record<string, Assignment>
    cost: number
    costs: CostRow[]
    /** The search finished: no cheaper choice of buses and lines exists under the weights. */
    provedBest: boolean
    nodes: number
    moved: { terminal: string, from: string, to: string }[]
    /** Optional terminals for which nothing was left. */
    leftOut: string[]
  }
  | { ok: false, sentence: string, conflict: { label: string, terminals: string[] }[] }
