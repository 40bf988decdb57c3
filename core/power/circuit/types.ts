/**
 * A supply circuit as the solver sees it: joints with a voltage against ground, and elements between them.
 * Currents in mA, voltages in V, resistances in ohms, powers in mW. A wire's return is lumped into its resistance.
 */

import type { Joint } from '../../netlist/supply/types'

export type { Joint }

/**
 * Efficiency of a converter by its output current; between the points a straight line, outside them the nearest point.
 */
export type EfficiencyCurve = readonly { currentMa: number, efficiency: number }[]

export interface SourceElement {
  kind: 'source'
  id: string
  to: Joint
  voltageV: number
  ohm: number
  /** Above it the source holds the current, not the voltage: a panel, a bench supply. */
  limitMa?: number
  /** Takes current back, as a battery does; an adapter does not. */
  takesBack?: boolean
}

export interface ResistanceElement {
  kind: 'resistance'
  id: string
  from: Joint
  to: Joint
  ohm: number
}

export interface DiodeElement {
  kind: 'diode'
  id: string
  from: Joint
  to: Joint
  dropV: number
  ohm: number
}

export interface RegulatorElement {
  kind: 'regulator'
  id: string
  from: Joint
  to: Joint
  setV: number
  /** Least difference between input and output; below it the output follows the input. Absent for one that steps up. */
  headroomV?: number
  /** Below it the regulator is off. */
  leastInV: number
  ohm: number
  quiescentMa: number
  /** Null for a linear regulator: what goes in comes out. */
  efficiency: EfficiencyCurve | null
}

/**
 * Full-wave bridge with its capacitor behind a transformer: mean voltage and r.m.s. current of the settled waveform by
 * the direct current taken (`front/waveform.ts`), the transformer and its leads within. `from` is the AC side in V rms;
 * without voltage there it gives none.
 */
export interface RectifierElement {
  kind: 'rectifier'
  id: string
  from: Joint
  to: Joint
  emfV: number
  /** By rising current. */
  curve: readonly { currentMa: number, meanV: number, acRmsMa: number }[]
}

export interface LoadElement {
  kind: 'load'
  id: string
  at: Joint
  /** What stays the same as the voltage changes. */
  law: 'power' | 'current' | 'resistance'
  /** Drawn at `ratedV`. */
  currentMa: number
  ratedV: number
  /** Below it the thing is dark and draws as a resistor would. */
  leastV: number
}

export type Element = SourceElement | ResistanceElement | DiodeElement | RegulatorElement | RectifierElement
  | LoadElement

/** What flows through an element: into its input (or its joint) and out of its output. */
export interface Flow {
  /** Taken from `from`, or from `at` for a load; what a source gives counts in `outMa`. */
  inMa: number
  outMa: number
}

export interface Operating {
  /** False when no set of voltages satisfies Kirchhoff's current law with every load alight. */
  ok: boolean
  voltages: Record<Joint, number>
  flows: Record<string, Flow>
  /** Loads that fell below the voltage they need to draw at all. */
  dark: string[]
  /** Largest part of all loads together that can be carried, 1 when `ok`. */
  carriedShare: number
  iterations: number
}
