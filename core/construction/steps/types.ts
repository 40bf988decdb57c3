/** Steps of a build: what is done at once, what has to lie before it, and what it costs to be wrong. */
import type { Reading } from '../../vocabulary/reading'
import type { ComponentId } from '../../netlist/types'

/** Which side of the board looks up; `any` where it is no matter. */
export type Side = 'top' | 'bottom' | 'any'
export type Tool = 'none' | 'iron' | 'screwdriver' | 'meter' | 'computer'

export const TOOL_WORDS: Readonly<Record<Tool, string>> = {
  none: 'by hand', iron: 'soldering iron', screwdriver: 'screwdriver', meter: 'meter',
  computer: 'computer with a card reader',
}

export interface BuildStep {
  /** Stays the same while the step does: `lay`, `part:scale`, `seat:voice`. */
  id: string
  title: string
  /** How it is done, a sentence each. */
  how: string[]
  /** Conductors that it puts in place, in their order. */
  conductors: string[]
  components: ComponentId[]
  side: Side
  tool: Tool
  /** Common practice. */
  minutes: number
  /** What it takes to take it back; empty where there is nothing to take back, null where it cannot be. */
  undo: string | null
  /** What has to be seen before it counts as done. */
  check: string
  /** Nobody goes on before the check is ticked. */
  hold: boolean
  cautions: string[]
  /** Figures that can be typed here; they are those of the run sheet. */
  readings?: { probe: string, label: string, planned: string, reading: Reading }[]
}

/** `first` has to be done before `then`. */
export interface Precedence {
  first: string
  then: string
  why: string
  /** A rule of the maker's own. */
  own?: boolean
}

/** What lies on the bench and how: all steps, in no order yet, and what has to come before what. */
export interface Workbench {
  steps: readonly BuildStep[]
  precedences: readonly Precedence[]
}

export interface Order {
  ids: string[]
  /** Times that the board is turned over, and that another tool is taken up. */
  flips: number
  toolChanges: number
  /** No order is better: everything was looked at. */
  isBest: boolean
}
