/**
 * Supply and ground positions: near the part's signals, shared as little as possible. A part without signals on the
 * header has its return beside its supply. Best for the signals as they lie.
 */
import { partOfKey } from '../plan/ids'
import { cheapestMatching, IMPOSSIBLE } from './matching'
import { columnOf, positionOf } from './refs'
import type { PlacementProblem, PlaceRef, PowerDemand } from './types'

export interface PlacedPower {
  places: Record<string, PlaceRef>
  cost: number
  /** Those whose rail has no position left that may be used. */
  unmet: PowerDemand[]
}

/** Places for all supplies and grounds. */
export function placePower(problem: PlacementProblem, signals: Record<string, PlaceRef>): PlacedPower {
  const places: Record<string, PlaceRef> = {}
  const unmet: PowerDemand[] = []
  const { weights } = problem
  const withSignals = middleColumns(signals)
  let cost = 0
  for (const kind of ['5V', '3V3', 'ground'] as const) {
    const wanted = problem.powerDemands.filter(demand => demand.kind === kind)
    const bound = wanted.filter(demand => demand.fixedAt)
    const loose = wanted.filter(demand => !demand.fixedAt)
    for (const demand of bound) places[demand.terminal] = demand.fixedAt!
    const positions = problem.powerPlaces[kind]
    if (!loose.length) continue
    const middles = new Map([...middleColumns(places), ...withSignals])
    // Each position stands in the matching once for every wire it may come to carry, each dearer than the last.
    const columns = positions.flatMap((position) => {
      const already = bound.filter(demand => demand.fixedAt === `P${position}`).length
      const column = columnOf(position)
      const far = weights.farFromEnd * Math.min(column, problem.columns - 1 - column)
      return Array.from({ length: loose.length },
        (_, copy) => ({ position, own: far + weights.sharedSupply * (already + copy) }))
    })
    const matching = cheapestMatching(loose.map(demand => columns.map(({ position, own }) => {
      if (demand.forbidden === `P${position}`
        || (demand.only !== undefined && demand.only !== `P${position}`)) return IMPOSSIBLE
      const middle = middles.get(demand.partId)
      return own
        + (middle === undefined ? 0 : weights.apart * Math.abs(columnOf(position) - middle))
        + (demand.before && demand.before !== `P${position}` ? weights.moved : 0)
    })))
    if (!matching) {
      unmet.push(...loose)
      continue
    }
    cost += matching.cost
    matching.columns.forEach((column, row) => places[loose[row]!.terminal] = `P${columns[column]!.position}`)
  }
  return { places, cost, unmet }
}

/** Mean header column of what each part has there. */
function middleColumns(signals: Record<string, PlaceRef>): Map<string, number> {
  const columns = new Map<string, number[]>()
  for (const [terminal, ref] of Object.entries(signals)) {
    const position = positionOf(ref)
    if (position === null) continue
    const part = partOfKey(terminal)
    columns.set(part, [...columns.get(part) ?? [], columnOf(position)])
  }
  return new Map([...columns].map(([part, list]) => [part, list.reduce((a, b) => a + b, 0) / list.length]))
}
