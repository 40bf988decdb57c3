/** The harness: what is cut from which reel, and how many ways each place needs where wires meet. */
import type { Netlist } from '../netlist/types'
import type { Wire } from './wires'

export interface Cut {
  count: number
  lengthM: number
  colour: string
  awg?: number
  /** Numbers of the wires in the wire list. */
  numbers: number[]
}

/**
 * Wires to cut: one row for each gauge, colour and length, thin first. Law: each wire of the list is in
 * exactly one row.
 */
export function cutListOf(wires: readonly Wire[]): Cut[] {
  const rows = new Map<string, Cut>()
  wires.forEach(({ kind, colour, awg, lengthM }, i) => {
    if (kind !== 'wire') return
    const key = [awg, colour, lengthM].join()
    const row = rows.get(key) ?? { count: 0, lengthM, colour, ...awg !== undefined && { awg }, numbers: [] }
    row.count++
    row.numbers.push(i + 1)
    rows.set(key, row)
  })
  return [...rows.values()].sort((a,
    b) => (b.awg ?? 0) - (a.awg ?? 0) || a.colour.localeCompare(b.colour) || a.lengthM - b.lengthM)
}

export interface SplicePoint {
  name: string
  position?: number
  /** Clamps or holes that it takes. */
  ways: number
  ends: string[]
}

/** Places where wires meet, with the number of ways that each needs. */
export function meetingsOf({ components, conductors }: Netlist): SplicePoint[] {
  return components.filter(({ kind }) => kind === 'splice').map(({ id, name }) => {
    const mine = conductors.filter(({ from, to }) => from === id || to === id)
    const position = mine.find(conductor => conductor.position !== undefined)?.position
    return {
      name, ...position !== undefined && { position }, ways: mine.reduce((sum, { ways }) => sum + ways.length, 0),
      ends: mine.map(
        entry => entry.id),
    }
  })
}
