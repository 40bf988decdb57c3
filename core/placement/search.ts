/**
 * Complete search over the buses, exact matching of the plain lines at each leaf.
 * Branch and bound: a branch is left when its cost and the least cost of what remains cannot beat the best found.
 */
import { cheapestMatching, IMPOSSIBLE } from './matching'
import { columnOf } from './problem'
import type { Candidate, Demand, LineDemand, LinePlace, PlacementProblem, PlaceRef } from './types'
import { WEIGHTS } from './weights'

export interface SearchOptions {
  /** Stop at the first placement found: enough to know that there is one. */
  firstOnly?: boolean
  /** Branches to look at after a first placement is found; the best so far is then given, not proved best. */
  patience?: number
  onProgress?: (nodes: number, best: number | null) => void
}

export interface Solution {
  places: Record<string, PlaceRef>
  chosen: Map<Demand, Candidate>
  cost: number
  leftOut: string[]
}

export interface SearchOutcome {
  best: Solution | null
  nodes: number
  finished: boolean
}

const PATIENCE = 60_000

/** The cheapest placement of all signals, or none when there is none: then every branch was looked at. */
export function search(problem: PlacementProblem, options: SearchOptions = {}): SearchOutcome {
  return new Search(problem, options).run()
}

class Search {
  private readonly order: Demand[]
  private readonly restCost: number[]
  private readonly lineFloor: number
  private readonly taken = new Map<PlaceRef, { token: string, count: number }>()
  private readonly used = new Map<string, { way: string, exclusive: boolean, count: number }>()
  private readonly devices: { busId: string, address: number }[] = []
  private readonly busOfPart = new Map<string, string>()
  private readonly chosen: Candidate[] = []
  private readonly headerOnly: number
  private readonly anyLine: number
  private freeHeader: number
  private freeExpander: number
  private readonly kindOf: ReadonlyMap<PlaceRef, LinePlace>
  private best: Solution | null = null
  private nodes = 0
  private stopped = false

  constructor(private readonly problem: PlacementProblem, private readonly options: SearchOptions) {
    this.order = [...problem.demands].sort((a, b) => Number(b.isHub ?? false) - Number(a.isHub ?? false) || a.candidates.length - b.candidates.length)
    this.restCost = new Array<number>(this.order.length + 1).fill(0)
    for (let i = this.order.length - 1; i >= 0; i--) this.restCost[i] = this.restCost[i + 1]! + (this.order[i]!.candidates[0]?.cost ?? 0)
    this.kindOf = new Map(problem.linePlaces.map(place => [place.ref, place]))
    this.freeHeader = problem.linePlaces.filter(place => !place.isExpander).length
    this.freeExpander = problem.linePlaces.length - this.freeHeader
    const required = problem.lineDemands.filter(demand => !demand.optional)
    this.headerOnly = required.filter(demand => !demand.slow).length
    this.anyLine = required.length
    this.lineFloor = this.matchLines(null)?.cost ?? Infinity
  }

  run(): SearchOutcome {
    if (!this.problem.hopeless.length && this.lineFloor < Infinity) this.descend(0, 0)
    return { best: this.best, nodes: this.nodes, finished: !this.stopped }
  }

  private descend(depth: number, cost: number): void {
    this.nodes++
    if (this.nodes % 1000 === 0) this.options.onProgress?.(this.nodes, this.best?.cost ?? null)
    if (this.best && (this.options.firstOnly || this.nodes > (this.options.patience ?? PATIENCE))) {
      this.stopped = !this.options.firstOnly
      return
    }
    // Exact for lines whose choices are nested: header-only lines, and lines that may also go to an expander.
    if (this.freeHeader < this.headerOnly || this.freeHeader + this.freeExpander < this.anyLine) return
    if (this.best && cost + this.restCost[depth]! + this.lineFloor >= this.best.cost - 1e-9) return
    if (depth === this.order.length) return this.leaf(cost)
    const demand = this.order[depth]!
    const ranked = demand.candidates
      .filter(candidate => this.fits(candidate))
      .map(candidate => ({ candidate, cost: candidate.cost + this.clashes(demand, candidate) * WEIGHTS.addressClash }))
      .sort((a, b) => a.cost - b.cost)
    for (const { candidate, cost: own } of ranked) {
      this.take(demand, candidate, 1)
      this.chosen[depth] = candidate
      this.descend(depth + 1, cost + own)
      this.take(demand, candidate, -1)
      if (this.stopped || (this.best && this.options.firstOnly)) return
    }
  }

  private fits(candidate: Candidate): boolean {
    for (const [ref, token] of Object.entries(candidate.tokens)) {
      const there = this.taken.get(ref)
      if (there && there.token !== token) return false
    }
    return candidate.uses.every(({ resource, way, exclusive }) => {
      const there = this.used.get(resource)
      return !there || (!exclusive && !there.exclusive && there.way === way)
    })
  }

  /** Devices this one would answer together with: on its bus, on the bus above its hub, or behind a hub of its bus. */
  private clashes(demand: Demand, candidate: Candidate): number {
    if (demand.address === undefined || !candidate.busId) return 0
    const lineage = this.lineage(candidate.busId)
    return this.devices.filter(({ busId, address }) => address === demand.address
      && (lineage.includes(busId) || this.lineage(busId).includes(candidate.busId!))).length
  }

  private lineage(busId: string): string[] {
    const hub = busId.includes('.') ? this.busOfPart.get(busId.split('.')[0]!) : undefined
    return hub ? [busId, hub] : [busId]
  }

  private take(demand: Demand, candidate: Candidate, sign: 1 | -1): void {
    for (const [ref, token] of Object.entries(candidate.tokens)) {
      const there = this.taken.get(ref)
      const count = (there?.count ?? 0) + sign
      if (count) this.taken.set(ref, { token, count })
      else this.taken.delete(ref)
      const place = this.kindOf.get(ref)
      if (place && (sign === 1 ? !there : !count)) {
        if (place.isExpander) this.freeExpander -= sign
        else this.freeHeader -= sign
      }
    }
    for (const { resource, way, exclusive } of candidate.uses) {
      const count = (this.used.get(resource)?.count ?? 0) + sign
      if (count) this.used.set(resource, { way, exclusive, count })
      else this.used.delete(resource)
    }
    if (demand.address !== undefined && candidate.busId) {
      if (sign === 1) this.devices.push({ busId: candidate.busId, address: demand.address })
      else this.devices.pop()
    }
    if (demand.isHub && candidate.busId) this.busOfPart.set(demand.partId, candidate.busId)
  }

  private leaf(cost: number): void {
    const columns = new Map<string, number>()
    const counts = new Map<string, number>()
    this.order.forEach((demand, i) => {
      for (const ref of Object.values(this.chosen[i]!.places)) {
        if (!/^P\d+$/.test(ref)) continue
        const n = counts.get(demand.partId) ?? 0
        columns.set(demand.partId, ((columns.get(demand.partId) ?? 0) * n + columnOf(Number(ref.slice(1)))) / (n + 1))
        counts.set(demand.partId, n + 1)
      }
    })
    const lines = this.matchLines(columns)
    if (!lines) return
    const total = cost + lines.cost
    if (this.best && total >= this.best.cost - 1e-9) return
    const places: Record<string, PlaceRef> = { ...lines.places }
    this.order.forEach((_, i) => Object.assign(places, this.chosen[i]!.places))
    this.best = { places, cost: total, leftOut: lines.leftOut, chosen: new Map(this.order.map((demand, i) => [demand, this.chosen[i]!])) }
  }

  /** The plain lines on what is free now; with no anchors, a floor under every later matching. */
  private matchLines(anchors: ReadonlyMap<string, number> | null): { cost: number, places: Record<string, PlaceRef>, leftOut: string[] } | null {
    const { lineDemands, linePlaces } = this.problem
    const free = linePlaces.filter(place => !this.taken.has(place.ref))
    const optional = lineDemands.filter(demand => demand.optional)
    const matrix = lineDemands.map(demand => [
      ...free.map(place => lineCost(demand, place, anchors?.get(demand.partId))),
      // One way out for each optional line: to stay unplaced.
      ...optional.map(other => other === demand ? WEIGHTS.leftOut : IMPOSSIBLE),
    ])
    const matching = cheapestMatching(matrix)
    if (!matching) return null
    const places: Record<string, PlaceRef> = {}
    const leftOut: string[] = []
    matching.columns.forEach((column, row) => {
      for (const terminal of lineDemands[row]!.terminals) {
        if (column < free.length) places[terminal] = free[column]!.ref
        else leftOut.push(terminal)
      }
    })
    return { cost: matching.cost, places, leftOut }
  }
}

/** Cost of a plain line at a place; `anchorColumn` is where the rest of its part lies. */
export function lineCost(demand: LineDemand, place: LinePlace, anchorColumn: number | undefined): number {
  if (place.isExpander && (!demand.slow || place.ownerId === demand.partId)) return IMPOSSIBLE
  const idlePull = demand.idleLevel === 'high' ? 'up' : 'down'
  return place.scarcity
    + (demand.idleLevel && place.resetPull && place.resetPull !== idlePull ? WEIGHTS.movesAtStart : 0)
    + (anchorColumn !== undefined && place.column !== null ? WEIGHTS.apart * Math.abs(place.column - anchorColumn) : 0)
    + (demand.before && demand.before !== place.ref ? WEIGHTS.moved : 0)
}
