/** The vocabulary of fault finding: how a thing may differ from its plan, what can be tried, and what is then seen. */
import type { WrongWay } from '../mechanics/plugged'
import type { Reading } from '../vocabulary/reading'
import type { Wire } from '../construction/wires'
import type { Facts } from '../facts/types'
import type { Netlist, PinId } from '../netlist/types'
import type { Need } from '../overlays/asks/needs'

/** One change that turns the thing as planned into the thing as it may lie there. */
export type Change
  = | { change: 'open', conductor: string, way: number }
  /** It has contact at rest, and loses it when it is moved or gets warm. */
    | { change: 'loose', conductor: string }
  /** One end of a way sits at another pin. */
    | { change: 'move', conductor: string, way: number, to: PinId }
  /** The far ends of two ways, the one for the other. */
    | { change: 'swap', conductors: [string, string] }
    | { change: 'bridge', pins: [PinId, PinId] }
  /** A board pushed on somewhere else: header position → the one that it meets now. */
    | { change: 'seat', conductor: string, way: WrongWay, moved: ReadonlyMap<number, number | null> }
    | { change: 'strap', partId: string, address: number }
    | { change: 'dead', partId: string }
  /** What pulls a bus up is not there, or far too strong. */
    | { change: 'pull', busId: string, how: 'none' | 'strong' }
  /** A line of the boot files that does not do its work. */
  /** `as`: what stands there in its place. */
    | { change: 'line', line: string, how: LineFault, as?: string }
    | { change: 'flag', flag: Flag, partId?: string }

export type LineFault
  /** It is not there, or switched off. */
  = | 'missing'
  /** It stands below a filter of another board. */
    | 'hidden'
  /** The file that was edited is not the one that is read. */
    | 'wrong-copy'
  /** One of its figures is another one. */
    | 'other-figure'

export type Flag = 'console' | 'rate' | 'low-level' | 'thin-ground' | 'no-supply' | 'weak-supply' | 'thin-cable'
  | 'card' | 'old-image'

/** What the maker would have to have done, or what would have to have broken. */
export interface Fault {
  id: string
  /** What is wrong, as a sentence without its full stop. */
  title: string
  mend: string
  /** What it is at, for pointing at it wherever it is drawn. */
  at: { conductors?: string[], parts?: string[], positions?: number[], line?: string }
  /** How often, beside the others. Our own order of common mistakes; common practice, no source. */
  weight: number
  changes: Change[]
}

/** When something can be tried; in this order nothing is switched on before it was looked at. */
export type Phase = 'before power' | 'first power' | 'after the start' | 'each part' | 'under load' | 'when in doubt'

export const PHASES: readonly Phase[] = ['before power', 'first power', 'after the start', 'each part', 'under load',
  'when in doubt']

/** Something to look at, to measure or to try. */
export interface Probe {
  id: string
  phase: Phase
  title: string
  /** What to do. */
  how: string
  command?: string
  minutes: number
  /** What it is about. */
  at: { conductors?: string[], parts?: string[], positions?: number[], line?: string }
  /** A figure that can be typed, with the span that counts as planned. */
  reading?: Reading
  /** What it does to a thing that is wrong: why not to go on. */
  caution?: string
}

/** What was seen at a probe. The outcome is the sentence that the model says it in. */
export interface Mark { probe: string, outcome: string }

/** Every fault against every probe: what would be seen. */
export interface Table {
  probes: Probe[]
  faults: Fault[]
  /** What is seen at each probe when everything is as planned. */
  planned: string[]
  /** For each fault what is seen at each probe. */
  seen: string[][]
}

/** The thing as planned: what faults are derived from. */
export interface AsPlanned {
  facts: Facts
  netlist: Netlist
  wires: readonly Wire[]
  needs: readonly Need[]
}
