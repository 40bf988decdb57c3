/** Supply and ground positions: near the part's signals, shared as little as possible. */
import { cheapestMatching, IMPOSSIBLE } from './matching'
import { columnOf } from './problem'
import type { PlacementProblem, PlaceRef, PowerDemand } from './types'
import { WEIGHTS } from './weights'

/** Places for all supplies and grounds; `unmet` names those whose rail has no position left that may be used. */
export function placePower(problem: PlacementProblem, signals: Record<string, PlaceRef>): { places: Record<string, PlaceRef>, unmet: PowerDemand[] } {
  const places: Record<string, PlaceRef> = {}
  const unmet: PowerDemand[] = []
  const anchors = anchorColumns(signals)
  for (const kind of ['5V', '3V3', 'ground'] as const) {
    const wanted = problem.powerDemands.filter(demand => demand.kind === kind)
    const bound = wanted.filter(demand => demand.fixedAt)
    const loose = wanted.filter(demand => !demand.fixedAt)
    for (const demand of bound) places[demand.terminal] = demand.fixedAt!
    const positions = problem.powerPlaces[kind]
    if (!loose.length) continue
    if (!positions.length) {
      unmet.push(...loose)
      continue
    }
    // Each position stands in the matching once for every wire it may come to carry, each dearer than the last.
    const columns = positions.flatMap((position) => {
      const already = bound.filter(demand => demand.fixedAt === `P${position}`).length
      return Array.from({ length: loose.length }, (_, copy) => ({ position, sharing: WEIGHTS.sharedSupply * (already + copy) }))
    })
    const matching = cheapestMatching(loose.map(demand => columns.map(({ position, sharing }) => {
      const anchor = anchors.get(demand.partId)
      return sharing
        + (anchor === undefined ? 0 : WEIGHTS.apart * Math.abs(columnOf(position) - anchor))
        + (demand.before && demand.before !== `P${position}` ? Math.min(WEIGHTS.moved, IMPOSSIBLE) : 0)
    })))
    matching!.columns.forEach((column, row) => places[loose[row]!.terminal] = `P${columns[column]!.position}`)
  }
  return { places, unmet }
}

/** Mean header column of each part's signals. */
function anchorColumns(signals: Record<string, PlaceRef>): Map<string, number> {
  const columns = new Map<string, number[]>()
  for (const [terminal, ref] of Object.entries(signals)) {
    if (!/^P\d+$/.test(ref)) continue
    const part = terminal.split('.')[0]!
    columns.set(part, [...columns.get(part) ?? [], columnOf(Number(ref.slice(1)))])
  }
  return new Map([...columns].map(([part, list]) => [part, list.reduce((a, b) => a + b, 0) / list.length]))
}
