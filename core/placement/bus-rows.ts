/**
 * Places that demands still to be decided will take, whichever way they go: rows beside those of the plain lines, so
 * that a bound knows how scarce places are. Relaxed: each wire for itself takes any place that some way of its demand
 * has for it.
 */
import type { Demand, PlaceRef } from './types'

export interface BusRow {
  id: number
  /** Kinds of place that it may take. */
  kinds: ReadonlySet<number>
}

/** Kinds of demand whose wires, but for selects, several parts have in common. */
const SHARED: ReadonlySet<Demand['kind']> = new Set<Demand['kind']>(['i2c', 'spi'])

export class BusRows {
  /** By demand: wires that nobody shares. */
  private readonly own: BusRow[][]
  /** By demand: wires of a bus that others may have switched on. */
  private readonly common: BusRow[][]
  private count = 0

  constructor(private readonly order: readonly Demand[], kinds: readonly PlaceRef[][]) {
    const kindOf = new Map(kinds.flatMap((refs, kind) => refs.map(ref => [ref, kind] as const)))
    this.own = order.map(demand => this.rowsOf(demand, kindOf, true))
    this.common = order.map(demand => SHARED.has(demand.kind) ? this.rowsOf(demand, kindOf, false) : [])
  }

  private rowsOf(demand: Demand, kindOf: ReadonlyMap<PlaceRef, number>, alone: boolean): BusRow[] {
    return demand.terminals.flatMap((terminal): BusRow[] => {
      const kinds = new Set<number>()
      for (const { places, tokens } of demand.candidates) {
        const ref = places[terminal]
        const kind = ref === undefined ? undefined : kindOf.get(ref)
        // A way without this wire, or with it somewhere that no line competes for, leaves nothing to be said.
        if (kind === undefined || (tokens[ref!] === terminal) !== alone) return []
        kinds.add(kind)
      }
      return kinds.size ? [{ id: this.count++, kinds }] : []
    })
  }

  /** Rows of the demands from `depth` on. Of each kind of bus that is not on yet, the common wires of one demand. */
  at(depth: number, isOn: (kind: Demand['kind']) => boolean): BusRow[] {
    const rows: BusRow[] = []
    const counted = new Set<Demand['kind']>()
    for (let i = depth; i < this.order.length; i++) {
      rows.push(...this.own[i]!)
      const { kind } = this.order[i]!
      if (!this.common[i]!.length || counted.has(kind) || isOn(kind)) continue
      counted.add(kind)
      rows.push(...this.common[i]!)
    }
    return rows
  }
}
