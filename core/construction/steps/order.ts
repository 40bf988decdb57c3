/**
 * The order of a build: every rule kept, the board turned over as seldom as can be, tools changed as seldom as can
 * be, and of orders that are equal in both the one that goes as people usually go. Scheduling under precedence by
 * dynamic programming over closed sets, as for single-machine sequencing: Held and Karp, "A dynamic programming
 * approach to sequencing problems", SIAM Journal 10 (1962). Steps that nothing tells apart are counted, not named:
 * that keeps the sets few.
 */
import type { Workbench, Order, Precedence, Side, BuildStep, Tool } from './types'

/** More states than that are not looked at: then the order is a good one, and says that it is not proved. */
const MAX_STATES = 60_000

/** An order that keeps every rule; null where rules go round in a circle. Pure. */
export function bestOrder({ steps, precedences }: Workbench): Order | null {
  if (smallestCircle({ steps, precedences })) return null
  const search = new Search(steps, precedences)
  const ids = search.best() ?? search.greedy()
  return { ids: ids.list, ...costOf(ids.list, steps), isBest: ids.proved }
}

/** How often an order turns the board over and takes up another tool. The first of both is not counted. */
export function costOf(ids: readonly string[], steps: readonly BuildStep[]): { flips: number, toolChanges: number } {
  const byId = new Map(steps.map(step => [step.id, step]))
  let [flips, toolChanges] = [0, 0]
  let side: Side = 'any'
  let tool: Tool | null = null
  for (const id of ids) {
    const step = byId.get(id)!
    if (step.side !== 'any') {
      if (side !== 'any' && side !== step.side) flips++
      side = step.side
    }
    if (step.tool !== 'none') {
      if (tool !== null && tool !== step.tool) toolChanges++
      tool = step.tool
    }
  }
  return { flips, toolChanges }
}

/**
 * Rules that an order breaks, in the order in which one meets them. Steps that the order does not name are passed over.
 */
export function brokenBy(ids: readonly string[], precedences: readonly Precedence[]): Precedence[] {
  const at = new Map(ids.map((id, i) => [id, i]))
  return precedences.filter(({ first, then }) => at.has(first) && at.has(then) && at.get(first)! > at.get(then)!)
    .sort((a, b) => at.get(a.then)! - at.get(b.then)! || at.get(a.first)! - at.get(b.first)!)
}

/** The fewest rules that go round in a circle, each after the one before; null where none do. */
export function smallestCircle({ steps, precedences }: Workbench): Precedence[] | null {
  const after = new Map<string, Precedence[]>()
  for (const rule of precedences) after.set(rule.first, [...after.get(rule.first) ?? [], rule])
  let best: Precedence[] | null = null
  for (const { id } of steps) {
    const way = shortestWay(id, id, after)
    if (way && (!best || way.length < best.length)) best = way
  }
  return best
}

function shortestWay(from: string, to: string, after: ReadonlyMap<string, Precedence[]>): Precedence[] | null {
  const by = new Map<string, Precedence>()
  let edge = [from]
  while (edge.length) {
    const next: string[] = []
    for (const id of edge) for (const rule of after.get(id) ?? []) {
      if (by.has(rule.then)) continue
      by.set(rule.then, rule)
      if (rule.then === to) {
        const way = [rule]
        while (way[0]!.first !== from) way.unshift(by.get(way[0]!.first)!)
        return way
      }
      next.push(rule.then)
    }
    edge = next
  }
  return null
}

/** Steps with the same rules, side and tool: which of them comes first is no matter. */
interface Kind {
  ids: string[]
  side: Side
  tool: Tool
  /** Kinds that have to be done whole before. */
  needs: number[]
  /** Place of its first in the usual way. */
  rank: number
}

interface Found { flips: number, changes: number, next: number }

class Search {
  private readonly kinds: Kind[]
  private readonly known = new Map<string, Found>()
  private states = 0

  constructor(steps: readonly BuildStep[], precedences: readonly Precedence[]) {
    const keyOf = ({ id, side, tool }: BuildStep) => [
      side, tool, precedences.filter(rule => rule.then === id).map(rule => rule.first).sort().join(),
      precedences.filter(rule => rule.first === id).map(rule => rule.then).sort().join(),
    ].join('|')
    const groups = new Map<string, Kind>()
    steps.forEach((step, rank) => {
      const key = keyOf(step)
      const kind = groups.get(key)
      if (kind) kind.ids.push(step.id)
      else groups.set(key, { ids: [step.id], side: step.side, tool: step.tool, needs: [], rank })
    })
    this.kinds = [...groups.values()]
    const kindOf = new Map(this.kinds.flatMap(({ ids }, i) => ids.map(id => [id, i] as const)))
    for (const { first, then } of precedences) {
      const needs = this.kinds[kindOf.get(then)!]!.needs
      const before = kindOf.get(first)!
      if (!needs.includes(before)) needs.push(before)
    }
  }

  /** Null where there are too many states. */
  best(): { list: string[], proved: boolean } | null {
    const counts = this.kinds.map(() => 0)
    if (!this.from(counts, 'any', null)) return null
    const list: string[] = []
    let side: Side = 'any'
    let tool: Tool | null = null
    for (;;) {
      const found: Found = this.known.get(keyFor(counts, side, tool))!
      if (found.next < 0) return { list, proved: true }
      const kind: Kind = this.kinds[found.next]!
      list.push(kind.ids[counts[found.next]!]!)
      counts[found.next]!++
      if (kind.side !== 'any') side = kind.side
      if (kind.tool !== 'none') tool = kind.tool
    }
  }

  private free(counts: readonly number[]): number[] {
    return this.kinds.flatMap(({ ids, needs }, i) =>
      counts[i]! < ids.length && needs.every(need => counts[need] === this.kinds[need]!.ids.length) ? [i] : [])
  }

  /** The least that is still to come from here; null where it was given up. */
  private from(counts: number[], side: Side, tool: Tool | null): Found | null {
    const key = keyFor(counts, side, tool)
    const known = this.known.get(key)
    if (known) return known
    if (++this.states > MAX_STATES) return null
    let best: Found = { flips: 0, changes: 0, next: -1 }
    const free = this.free(counts)
    // What is free and changes nothing is done at once: taken out of a later place it spares nothing less, and here it
    // costs nothing.
    const idle = free.filter(i => this.changesNothing(i, side, tool))
    for (const i of idle.length
      ? [idle.reduce((min, other) => this.kinds[other]!.rank < this.kinds[min]!.rank ? other : min)]
      : free) {
      const kind = this.kinds[i]!
      counts[i]!++
      const rest = this.from(counts, kind.side === 'any' ? side : kind.side, kind.tool === 'none' ? tool : kind.tool)
      counts[i]!--
      if (!rest) return null
      const flips = rest.flips + Number(kind.side !== 'any' && side !== 'any' && side !== kind.side)
      const changes = rest.changes + Number(kind.tool !== 'none' && tool !== null && tool !== kind.tool)
      if (best.next < 0 || flips < best.flips || (flips === best.flips && (changes < best.changes
        || (changes === best.changes && kind.rank < this.kinds[best.next]!.rank)))) best = { flips, changes, next: i }
    }
    this.known.set(key, best)
    return best
  }

  private changesNothing(i: number, side: Side, tool: Tool | null): boolean {
    const kind = this.kinds[i]!
    return (kind.side === 'any' || kind.side === side) && (kind.tool === 'none' || kind.tool === tool)
  }

  /** Stays with side and tool while it can. */
  greedy(): { list: string[], proved: boolean } {
    const counts = this.kinds.map(() => 0)
    const list: string[] = []
    let side: Side = 'any'
    let tool: Tool | null = null
    for (let free = this.free(counts); free.length; free = this.free(counts)) {
      const cost = (i: number) => {
        const kind = this.kinds[i]!
        return Number(kind.side !== 'any' && side !== 'any' && side !== kind.side) * 1e6
          + Number(kind.tool !== 'none' && tool !== null && tool !== kind.tool) * 1e3 + kind.rank
      }
      const next = free.reduce((min, i) => cost(i) < cost(min) ? i : min)
      const kind: Kind = this.kinds[next]!
      list.push(kind.ids[counts[next]!]!)
      counts[next]!++
      if (kind.side !== 'any') side = kind.side
      if (kind.tool !== 'none') tool = kind.tool
    }
    return { list, proved: false }
  }
}

const keyFor = (counts: readonly number[], side: Side, tool: Tool | null) => `${counts.join()} ${side} ${tool}`
