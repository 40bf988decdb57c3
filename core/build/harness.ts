/** The harness: what is cut from which reel, what is written on both ends, and how many ways each place needs where wires meet. */
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

/** Wires to cut: one row for each gauge, colour and length, thin first. Law: each wire of the list is in exactly one row. */
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
  return [...rows.values()].sort((a, b) => (b.awg ?? 0) - (a.awg ?? 0) || a.colour.localeCompare(b.colour) || a.lengthM - b.lengthM)
}

export interface EndLabel {
  /** Of the wire, in the wire list. */
  number: number
  end: 'from' | 'to'
  text: string
}

/** What stands on a label may have so many letters: more does not go around a wire. */
const LABEL_LETTERS = 24

/** Two labels for each wire: where this end goes, behind its number, so that either tells the other. */
export function labelsOf(wires: readonly Wire[]): EndLabel[] {
  return wires.flatMap(({ kind, partName, from, to, position, toLabel }, i): EndLabel[] => kind !== 'wire'
    ? []
    : [
        { number: i + 1, end: 'from', text: shortened(`${partName} ${from}`) },
        { number: i + 1, end: 'to', text: shortened(position === undefined ? to : `${position}${toLabel ? ` ${toLabel}` : ''}`) },
      ])
}

/** The end of a long text is what tells it apart: pins come last. */
function shortened(text: string): string {
  const letters = [...text]
  return letters.length <= LABEL_LETTERS ? text : `${letters.slice(0, 8).join('')}…${letters.slice(-(LABEL_LETTERS - 9)).join('')}`
}

export interface Meeting {
  name: string
  position?: number
  /** Clamps or holes that it takes. */
  ways: number
  ends: string[]
}

/** Places where wires meet, with the number of ways that each needs. */
export function meetingsOf({ components, conductors }: Netlist): Meeting[] {
  return components.filter(({ kind }) => kind === 'splice').map(({ id, name }) => {
    const mine = conductors.filter(({ from, to }) => from === id || to === id)
    const position = mine.find(conductor => conductor.position !== undefined)?.position
    return {
      name, ...position !== undefined && { position }, ways: mine.reduce((sum, { ways }) => sum + ways.length, 0), ends: mine.map(
        entry => entry.id),
    }
  })
}
