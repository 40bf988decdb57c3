/** Brings the lines of one part together and into connector order, by exchanges that never make the cost worse. */
import { columnOf } from './problem'
import { lineCost } from './search'
import { IMPOSSIBLE } from './matching'
import type { LineDemand, LinePlace, PlacementProblem, PlaceRef } from './types'
import { WEIGHTS } from './weights'

const ROUNDS = 12

/** The same placement with plain lines exchanged among themselves and with free places until no exchange helps. Fixed places stay. */
export function tidyLines(problem: PlacementProblem, places: Record<string, PlaceRef>): Record<string, PlaceRef> {
  const after = { ...places }
  const placeOf = new Map(problem.linePlaces.map(place => [place.ref, place]))
  const movable = problem.lineDemands.filter(demand => after[demand.terminals[0]!])
  const byPart = new Map<string, string[]>()
  for (const key of Object.keys(places)) byPart.set(key.split('.')[0]!, [...byPart.get(key.split('.')[0]!) ?? [], key])
  const at = (demand: LineDemand) => placeOf.get(after[demand.terminals[0]!]!)!
  const put = (demand: LineDemand, place: LinePlace) => demand.terminals.forEach(terminal => after[terminal] = place.ref)
  const price = (demand: LineDemand) => {
    const own = lineCost(demand, at(demand), undefined)
    return own >= IMPOSSIBLE ? own : own + WEIGHTS.apart * spread(byPart.get(demand.partId)!, after)
  }
  for (let round = 0; round < ROUNDS; round++) {
    let better = false
    const held = () => new Set(Object.values(after))
    for (const demand of movable) {
      const here = at(demand)
      let best = { gain: 1e-9, apply: null as null | (() => void) }
      const consider = (apply: () => void, back: () => void, involved: LineDemand[]) => {
        const before = involved.reduce((sum, entry) => sum + price(entry), 0)
        apply()
        const gain = before - involved.reduce((sum, entry) => sum + price(entry), 0)
        back()
        if (gain > best.gain) best = { gain, apply }
      }
      const taken = held()
      for (const place of problem.linePlaces)
        if (!taken.has(place.ref)) consider(() => put(demand, place), () => put(demand, here), [demand])
      for (const other of movable) {
        if (other === demand) continue
        const there = at(other)
        const swap = () => {
          put(demand, there)
          put(other, here)
        }
        consider(swap, () => {
          put(demand, here)
          put(other, there)
        }, [demand, other])
      }
      if (best.apply) {
        best.apply()
        better = true
      }
    }
    if (!better) break
  }
  inConnectorOrder(movable.filter(demand => !demand.before), after)
  return after
}

/** Like lines of one part keep their places among themselves but take them in the order of its connector. */
function inConnectorOrder(demands: LineDemand[], places: Record<string, PlaceRef>): void {
  const alike = new Map<string, LineDemand[]>()
  for (const demand of demands) {
    if (demand.terminals.length > 1) continue
    const key = `${demand.partId} ${demand.slow} ${demand.optional} ${demand.idleLevel}`
    alike.set(key, [...alike.get(key) ?? [], demand])
  }
  for (const group of alike.values()) {
    const sorted = group.map(demand => places[demand.id]!).sort((a, b) => along(a) - along(b) || Number(a.slice(1)) - Number(b.slice(1)))
    group.forEach((demand, i) => places[demand.id] = sorted[i]!)
  }
}

/** Leaving the header for an expander, or one expander for another, counts as this many columns. */
const LEAP = 12

/** One axis for header columns and expander terminals, each expander far from everything else. */
function along(ref: PlaceRef): number {
  if (/^P\d+$/.test(ref)) return columnOf(Number(ref.slice(1)))
  const [owner = '', terminal = ''] = ref.split('.')
  const bank = terminal.charCodeAt(0) - 64
  return 1000 * (1 + [...owner].reduce((sum, letter) => (sum * 31 + letter.charCodeAt(0)) % 997, 0)) + bank * 8 + Number(terminal.slice(1) || 0)
}

/** Columns between the part's terminals, neighbours in connector order; a step back counts a little more than one forward. */
function spread(terminals: string[], places: Record<string, PlaceRef>): number {
  let sum = 0
  let last: number | null = null
  for (const terminal of terminals) {
    const column = along(places[terminal]!)
    if (last !== null) sum += Math.min(LEAP, Math.abs(column - last)) + (column < last ? 0.5 : 0)
    last = column
  }
  return sum
}
