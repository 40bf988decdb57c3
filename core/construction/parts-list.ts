/**
 * The parts list: every component of the netlist, and every conductor that has to be bought or cut, each kind once
 * with its count.
 */
import type { Fastener } from '../mechanics/stack'
import type { Component, Conductor, Netlist } from '../netlist/types'
import type { Wire } from './wires'

export interface ListedItem {
  /** What it is. */
  what: string
  /** Its id in the catalogue. */
  type?: string
  kind: 'board' | 'part' | 'stage' | 'item' | 'load' | 'splice' | 'wire' | 'cable' | 'fastener'
  count: number
  /** Names that it has in the plan. */
  names: string[]
  /** Components and conductors that it stands for, by id. */
  ids: string[]
  /** Of one, made up; null where the catalogue says none. */
  price: number | null
  /** Of wires: metres together. */
  lengthM?: number
  /** Of wires: what they are cut from. */
  colour?: string
}

/**
 * Every component, and every conductor that is a thing of its own. Leads that come with a supply come with it. Law:
 * each component is in exactly one row. Wires are cut from one reel for each gauge and colour, in the lengths of
 * the wire list.
 */
export function partsListOf({ components, conductors }: Netlist, wires: readonly Wire[],
  fasteners: readonly Fastener[]): ListedItem[] {
  const wireOf = new Map(wires.map(wire => [wire.key, wire]))
  const rows = new Map<string, ListedItem>()
  const add = (key: string, item: Omit<ListedItem, 'count' | 'names' | 'ids'>, name: string, id: string) => {
    const row = rows.get(key)
      ?? { ...item, count: 0, names: [], ids: [], ...item.lengthM !== undefined && { lengthM: 0 } }
    row.count++
    row.ids.push(id)
    if (name && !row.names.includes(name)) row.names.push(name)
    if (item.lengthM !== undefined) row.lengthM = Number((row.lengthM! + item.lengthM).toFixed(2))
    rows.set(key, row)
  }
  for (const component of components) {
    add(
      `${component.kind} ${whatOf(component)}`, {
        what: whatOf(component), kind: component.kind, price: component.price ?? null,
        ...component.type !== undefined && { type: component.type },
      },
      component.kind === 'board' ? '' : component.name, component.id,
    )
  }
  for (const conductor of conductors) {
    const cable = cableWords(conductor)
    if (cable) add(`cable ${cable}`, {
      what: cable, kind: 'cable', price: conductor.price ?? null,
      ...conductor.type !== undefined && { type: conductor.type },
    }, '', conductor.id)
    else if (conductor.kind === 'wire') {
      const { colour, lengthM } = wireOf.get(conductor.id)!
      const what = ['Wire', ...conductor.awg === undefined ? [] : [`${Math.round(conductor.awg)} gauge`], ...colour
        ? [colour]
        : []].join(', ')
      // Two ways are two wires of that length.
      const metres = lengthM * conductor.ways.length
      add(`wire ${what}`, { what, kind: 'wire', price: null, lengthM: metres, ...colour && { colour } }, '',
        conductor.id)
    }
  }
  // Wires last, by gauge and colour: they are cut together.
  const [bought, reels] = [[...rows.values()].filter(isNoWire), [...rows.values()].filter(row => !isNoWire(row))]
  const held = fasteners.map(({ what, count }): ListedItem => ({ what, kind: 'fastener', count, names: [], ids: [],
    price: null }))
  return [...bought, ...held, ...reels.sort((a, b) => a.what.localeCompare(b.what, 'en', { numeric: true }))]
}

/**
 * What a list costs together, made up, and for how many things nobody says a price. Wire from the reel
 * costs nothing here.
 */
export function priceOf(items: readonly ListedItem[]): { total: number, unknown: number } {
  const bought = items.filter(isNoWire)
  return {
    total: Number(bought.reduce((sum, { count, price }) => sum + count * (price ?? 0), 0).toFixed(2)),
    unknown: bought.filter(({ price }) => price === null).reduce((sum, { count }) => sum + count, 0),
  }
}

const whatOf = ({ kind, name, what }: Component) => kind === 'board' ? name : what

const isNoWire = ({ kind }: ListedItem) => kind !== 'wire'

/**
 * A cable that is bought as such; null for wires, for boards that are pushed on, and for the lead that comes
 * with a supply.
 */
function cableWords({ kind, id, name, ways }: Conductor): string | null {
  if (kind === 'plug') {
    if (id.endsWith('@video')) return 'Video cable'
    return id.endsWith('@fan') ? 'Fan plug, comes with the fan' : 'USB cable'
  }
  if (kind === 'flat cable') return 'Flat cable'
  return kind === 'lead' && name !== undefined ? `${name}${ways.length > 1 ? '' : ', one way'}` : null
}
