/** Which plug goes into which socket so that none is in the way of another. */
import { gapOf, type Solid } from './solids'

/** From here on two are in one another and not only touching, mm. */
export const TOUCHES_MM = 0.05

/**
 * A socket for each plug, by its place in the list; null for those that find none. `solids[plug][socket]` is what the
 * plug takes there; `wished` holds the maker's own choices, which are kept. As many as can be are put in, then as
 * little of them as can be is in one another, then the first sockets. Looks at every way: boards have few sockets.
 */
export function sittings(solids: readonly (readonly Solid[])[], wished: readonly (number | null)[]): (number | null)[] {
  const sockets = solids[0]?.length ?? 0
  let best: { at: (number | null)[], cost: number } | null = null
  const put: (number | null)[] = []
  const taken = new Set<number>()
  // More plugs than this are more than any board has sockets for: the rest finds none.
  const count = Math.min(solids.length, MAX_LOOKED_AT)
  const search = (i: number, cost: number) => {
    if (best && cost >= best.cost) return
    if (i === count) {
      best = { at: [...put], cost }
      return
    }
    const own = wished[i] ?? null
    const choices = own !== null && !taken.has(own)
      ? [own]
      : [...Array(sockets).keys()].filter(socket => !taken.has(socket))
    for (const socket of choices) {
      taken.add(socket)
      put.push(socket)
      const overlap = put.slice(0, -1).reduce<number>((sum, other, j) => other === null
        ? sum
        : sum + Math.max(0, -gapOf(solids[j]![other]!, solids[i]![socket]!) - TOUCHES_MM), 0)
      search(i + 1, cost + overlap)
      put.pop()
      taken.delete(socket)
    }
    if (count > sockets || !choices.length) {
      put.push(null)
      search(i + 1, cost + NONE)
      put.pop()
    }
  }
  search(0, 0)
  const at = (best as { at: (number | null)[] } | null)?.at ?? []
  return solids.map((_, i) => at[i] ?? null)
}

const MAX_LOOKED_AT = 6
/** Costs more than any overlap. */
const NONE = 1e6
