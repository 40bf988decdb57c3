/**
 * What the whole costs in each of the ways that a plan knows: as it is, as kept, by the other way of a part,
 * and bought whole.
 */
import { priceOf, type ListedItem } from '../construction/parts-list'
import { READY_MADE, type ReadyMade } from '../catalogue/ready-made'
import { thingKind } from '../catalogue/things'
import type { Catalogue, Part } from '../catalogue/types'
import { wayOf } from '../catalogue/ways'
import { evaluate } from '../evaluate'
import { applyEdit, type Edit } from '../plan/edits'
import type { Plan } from '../plan/types'
import { tryWays } from './ways'

export interface Total {
  id: string
  kind: 'now' | 'arrangement' | 'way' | 'ready-made'
  title: string
  /** Of the parts list together, made up; `unknown` are things without a price. */
  price: { total: number, unknown: number }
  items: readonly ListedItem[]
  counts: { stops: number, cautions: number } | null
  /** What it cannot do that the plan does, each in words. */
  givesUp: string[]
  /** What makes the plan this one; null for what is bought instead of it. */
  edits: Edit[] | null
}

/**
 * The plan's totals, itself first, then by price. A way is there once for each part that has another one and finds
 * room. Ready-made devices are there for plans with a picture: as large, and touched where the plan's is. Pure.
 */
export function totalsOf(plan: Plan, catalogue: Catalogue): Total[] {
  const of = (id: string, kind: Total['kind'], title: string, edits: Edit[]): Total => {
    const { partsList, counts } = evaluate(edits.length ? applyEdit(plan, { edit: 'all', edits }).plan : plan,
      catalogue)
    return {
      id, kind, title, price: priceOf(partsList), items: partsList,
      counts: { stops: counts.stops, cautions: counts.cautions },
      givesUp: [], edits,
    }
  }
  const now = of('now', 'now', 'As it is now', [])
  const kept = plan.power.arrangements.map(({ id, name }) =>
    of(`arrangement ${id}`, 'arrangement', `Fed as in “${name}”`, [{ edit: 'take-arrangement', id }]))
  const ways = plan.parts.flatMap((part): Total[] => {
    const way = wayOf(part.type, catalogue)
    const other = way && tryWays(plan, part.id, catalogue)?.[part.type === way.addOn ? 0 : 1]
    if (!other?.trial.placed) return []
    return [of(`way ${part.id}`, 'way', `${part.name}: ${lowered(other.title)}`, other.trial.edits)]
  })
  return [now, ...[...kept, ...ways, ...readyMade(plan, catalogue, now)].sort((a, b) => a.price.total - b.price.total)]
}

const lowered = (text: string) => text.charAt(0).toLowerCase() + text.slice(1)

/** Kinds of things that a device brought whole has no use for. */
const COMES_WITH = new Set(['case', 'cooler', 'fan', 'card', 'header', 'adapter', 'carrier', 'terminals', 'breadboard'])

function readyMade(plan: Plan, { parts: known }: Catalogue, now: Total): Total[] {
  const parts = plan.parts.flatMap(({ id, type, name }) =>
    known.has(type) ? [{ id, name, part: known.get(type)! }] : [])
  const screens = parts.filter(({ part }) => isPanel(part))
  if (!screens.length) return []
  const size = Math.max(...screens.map(({ part }) => part.display!.sizeInch))
  const touched = screens.some(({ part }) => part.display!.touch !== 'none')
  const fine = screens.some(({ part }) => part.display!.touch === 'capacitive')
  const suits = ({ sizeInch, touch }: ReadyMade) => sizeInch >= size && !(touched && fine && touch === 'resistive')
  const others = parts.filter(({ part }) => !isPanel(part) && !COMES_WITH.has(thingKind(part) ?? ''))
  const wired = others.filter(({ part }) => part.signals.length > 0)
  const plugged = others.filter(({ part }) => part.plugs?.some(({ socket }) => socket === 'usb'))
  const stay = now.items.filter(item => item.kind === 'part'
    && others.some(({ id }) => item.ids.includes(id)) && !wired.some(({ id }) => item.ids.includes(id)))
  return READY_MADE.filter(suits).map((device): Total => {
    const item: ListedItem = { what: device.name, kind: 'item', count: 1, names: [], ids: [], price: device.price,
      type: device.id }
    const items = [item, ...stay]
    return {
      id: device.id, kind: 'ready-made', title: `${device.name}, in place of board, screen and what they need`,
      price: priceOf(items),
      items,
      counts: null, edits: null,
      givesUp: [
        ...wired.length
          ? ['what hangs on the header, which it has not, and is not counted: '
            + `${listed(wired.map(({ name }) => name))}`]
          : [],
        ...plugged.length > device.usb
          ? [`${plugged.length} things with a USB plug: it has ${device.usb} sockets`]
          : [],
      ],
    }
  })
}

const listed = (names: readonly string[]) => new Intl.ListFormat('en-GB').format(names)

/** A screen that is looked at as one looks at a panel: the board sends it whole pictures over video or a flat cable. */
const isPanel = ({ display }: Part) =>
  display !== undefined && (display.picture === 'video' || display.picture === 'flat cable')
