/** The parts list: every component of the netlist, and every conductor that has to be bought or cut, each kind once with its count. */
import type { Component, Conductor, Netlist } from '../netlist/types'

export interface ListedItem {
  /** What it is. */
  what: string
  /** Its id in the catalogue. */
  type?: string
  kind: 'board' | 'part' | 'stage' | 'item' | 'load' | 'splice' | 'wire' | 'cable'
  count: number
  /** Names that it has in the plan. */
  names: string[]
  /** Components and conductors that it stands for, by id. */
  ids: string[]
  /** Of one, made up; null where the catalogue says none. */
  price: number | null
  /** Of wires: metres together. */
  lengthM?: number
}

/**
 * Every component, and every conductor that is a thing of its own. Leads that come with a supply come with it. Law: each component is in
 * exactly one row.
 */
export function partsListOf({ components, conductors }: Netlist): ListedItem[] {
  const rows = new Map<string, ListedItem>()
  const add = (key: string, item: Omit<ListedItem, 'count' | 'names' | 'ids'>, name: string, id: string) => {
    const row = rows.get(key) ?? { ...item, count: 0, names: [], ids: [], ...item.lengthM !== undefined && { lengthM: 0 } }
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
      what: cable, kind: 'cable', price: conductor.price ?? null, ...conductor.type !== undefined && { type: conductor.type },
    }, '', conductor.id)
    else if (conductor.kind === 'wire') {
      const what = conductor.awg === undefined ? 'Wire' : `Wire, ${Math.round(conductor.awg)} gauge`
      // Two ways are two wires of that length.
      add(`wire ${what}`, { what, kind: 'wire', price: null, lengthM: conductor.lengthM * conductor.ways.length }, '', conductor.id)
    }
  }
  return [...rows.values()]
}

const whatOf = ({ kind, name, what }: Component) => kind === 'board' ? name : what

/** A cable that is bought as such; null for wires, for boards that are pushed on, and for the lead that comes with a supply. */
function cableWords({ kind, id, name, ways }: Conductor): string | null {
  if (kind === 'plug') return id.endsWith('@video') ? 'Video cable' : id.endsWith('@fan') ? 'Fan plug, comes with the fan' : 'USB cable'
  if (kind === 'flat cable') return 'Flat cable'
  return kind === 'lead' && name !== undefined ? `${name}${ways.length > 1 ? '' : ', one way'}` : null
}
