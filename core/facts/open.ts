/** Controllers that nobody in the plan uses yet, and whether a way out of them is still free. */
import type { ControllerKind, Route } from '../catalogue/types'
import type { Facts } from './types'

export interface OpenController {
  id: string
  kind: ControllerKind
  label: string
  /** Header positions of its first free way out, of its first one where none is free. */
  positions: number[]
  /** Those of them that something else holds or that are kept: none when the way is free. */
  held: number[]
}

/** Flow control and further selects may stay out; the first select that is free will do. */
const wanted = (signal: string) => !/^(rts|cts|select)/.test(signal)

export function openControllers({ board, buses, atPosition, plan }: Facts): OpenController[] {
  if (!board) return []
  const kept = new Set(plan.reserved.map(entry => entry.position))
  const positionOf = new Map(board.header.flatMap(entry =>
    entry.line === undefined ? [] : [[entry.line, entry.position] as const]))
  const isHeld = (position: number) => atPosition.has(position) || kept.has(position)
  const wayOf = ({ lines }: Route): Pick<OpenController, 'positions' | 'held'> => {
    const positions = (names: string[]) =>
      names.flatMap(name => positionOf.get(lines[name]!) ?? []).sort((a, b) => a - b)
    const needed = positions(Object.keys(lines).filter(wanted))
    const selects = positions(Object.keys(lines).filter(name => name.startsWith('select')))
    const select = selects.find(position => !isHeld(position)) ?? selects[0]
    const all = [...needed, ...select === undefined ? [] : [select]].sort((a, b) => a - b)
    return { positions: all, held: all.filter(isHeld) }
  }
  return board.controllers.filter(controller => !buses.some(bus => bus.id === controller.id))
    .map(({ id, kind, label, routes }) => {
      const ways = routes.map(wayOf).filter(way => way.positions.length)
      return { id, kind, label, ...ways.find(way => !way.held.length) ?? ways[0] ?? { positions: [], held: [] } }
    })
}
