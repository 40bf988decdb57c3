/**
 * The best placement of all signals, proved best: complete search over buses, selects, straps and channels, exact
 * gathering of the plain lines at each leaf. Branch and bound: a branch is left when its cost and the least cost of
 * what remains cannot beat the best found.
 */
import { gatheringFloor, gatherLines, type Gathered, type GatheringTask } from './gathering'
import { alongHeader, columnsApart, lineCost } from './lines'
import { IMPOSSIBLE } from './matching'
import { columnOf, positionOf } from './refs'
import type { Candidate, Demand, LineDemand, LinePlace, PlacementProblem, PlaceRef } from './types'
import { quantumOf } from './weights'

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
  softwareBuses: { id: string, sda: number, scl: number }[]
}

export interface SearchOutcome {
  best: Solution | null
  nodes: number
  /** Every branch was looked at or ruled out. */
  finished: boolean
}

const PATIENCE = 60_000
const EPSILON = 1e-6

/** The cheapest placement of all signals, or none when there is none: then every branch was looked at. */
export function search(problem: PlacementProblem, options: SearchOptions = {}): SearchOutcome {
  return new Search(problem, options).run()
}

function kindsOf({ linePlaces, lineDemands }: PlacementProblem): LinePlace[][] {
  const particular = new Set(lineDemands.flatMap(demand => [demand.before, demand.forbidden]))
  const kinds = new Map<string, LinePlace[]>()
  for (const place of linePlaces) {
    const key = place.isExpander && !particular.has(place.ref) ? `all of ${place.ownerId} ${place.isAnalog}` : place.ref
    kinds.set(key, [...kinds.get(key) ?? [], place])
  }
  return [...kinds.values()]
}

class Search {
  private readonly order: Demand[]
  private readonly restCost: number[]
  private readonly taken = new Map<PlaceRef, { token: string, count: number }>()
  private readonly used = new Map<string, { way: string, exclusive: boolean, count: number }>()
  private readonly devices: { busId: string, address: number }[] = []
  private readonly busOfPart = new Map<string, string>()
  private readonly opened = new Map<string, number>()
  private readonly chosen: Candidate[] = []
  private readonly rank: number[] = []
  /** The demand of a twin part that comes just before, for each first demand of such a part. */
  private readonly twinBefore: number[]
  private readonly floors = new Map<string, number>()
  private readonly gathered = new Map<string, { result?: Gathered, floor: number }>()
  /** Parts that may have a bus or a bound line on the header, and so a middle of their own. */
  private readonly onHeader: ReadonlySet<string>
  /** Places that are alike for every line stand together: an expander's terminals. */
  private readonly kinds: LinePlace[][]
  private readonly optional: LineDemand[]
  private readonly base: Float64Array[]
  private readonly quantum: number
  private best: Solution | null = null
  private nodes = 0
  private stopped = false

  constructor(private readonly problem: PlacementProblem, private readonly options: SearchOptions) {
    this.order = [...problem.demands].sort((a, b) => Number(b.isHub ?? false) - Number(a.isHub ?? false) || a.candidates.length - b.candidates.length)
    this.restCost = new Array<number>(this.order.length + 1).fill(0)
    for (let i = this.order.length - 1; i >= 0; i--) this.restCost[i] = this.restCost[i + 1]! + (this.order[i]!.candidates[0]?.cost ?? 0)
    this.twinBefore = this.order.map((demand, i) => {
      const seen = (other: Demand, j: number) => j < i && other.partId === demand.partId
      if (!demand.twinSign || this.order.some(seen)) return -1
      return this.order.findLastIndex((other, j) => j < i && other.twinSign === demand.twinSign && other.candidates.length === demand.candidates.length
        && !this.order.some((earlier, k) => k < j && earlier.partId === other.partId))
    })
    this.optional = problem.lineDemands.filter(demand => demand.optional)
    this.quantum = quantumOf(problem.weights)
    this.kinds = kindsOf(problem)
    this.onHeader = new Set(problem.demands.filter(demand => demand.candidates.some(candidate => candidate.opens || Object.values(candidate.places).some(ref => positionOf(ref) !== null))).map(demand => demand.partId))
    this.base = problem.lineDemands.map(demand => this.costsOf(demand, undefined))
  }

  run(): SearchOutcome {
    if (!this.problem.hopeless.length) this.descend(0, 0)
    return { best: this.best, nodes: this.nodes, finished: !this.stopped }
  }

  private descend(depth: number, cost: number): void {
    this.nodes++
    if (this.nodes % 500 === 0) this.options.onProgress?.(this.nodes, this.best?.cost ?? null)
    if (this.best && (this.options.firstOnly || this.nodes > (this.options.patience ?? PATIENCE))) {
      this.stopped = !this.options.firstOnly
      return
    }
    const known = cost + this.restCost[depth]!
    const quick = this.lineFloor(false)
    if (quick === Infinity || (this.best && known + quick > this.best.cost - this.quantum + EPSILON)) return
    const floor = this.best ? this.lineFloor(true) : quick
    if (this.best && known + floor > this.best.cost - this.quantum + EPSILON) return
    if (depth === this.order.length) return this.leaf(cost)
    const demand = this.order[depth]!
    const twin = this.twinBefore[depth]!
    const least = twin >= 0 ? this.rank[twin]! : 0
    const ranked = demand.candidates
      .map((candidate, index) => ({ candidate, index, cost: candidate.cost }))
      .filter(({ candidate, index }) => index >= least && this.fits(candidate))
      .map(entry => ({ ...entry, cost: entry.cost + this.clashCost(entry.candidate) }))
      .sort((a, b) => a.cost - b.cost)
    for (const { candidate, index, cost: own } of ranked) {
      if (this.best && cost + own + this.restCost[depth + 1]! + floor > this.best.cost - this.quantum + EPSILON) break
      this.take(demand, candidate, 1)
      this.chosen[depth] = candidate
      this.rank[depth] = index
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
    // The second new software bus is only opened after the first: they are alike.
    if (candidate.opens?.softwareBus === 'i2c-soft-2' && !this.opened.has('i2c-soft-1') && this.order.some(demand => demand.candidates.some(other => other.opens?.softwareBus === 'i2c-soft-1'))) return false
    return candidate.uses.every(({ resource, way, exclusive, shareCost }) => {
      const there = this.used.get(resource)
      return !there || (!exclusive && !there.exclusive && (shareCost !== undefined || there.way === way))
    })
  }

  /** What it costs to be with those already placed: devices answering together, outputs sharing a channel. */
  private clashCost({ address, busId, uses }: Candidate): number {
    const shared = uses.reduce((sum, { resource, shareCost }) => sum + (shareCost !== undefined && this.used.has(resource) ? shareCost : 0), 0)
    if (address === undefined || !busId) return shared
    const lineage = this.lineage(busId)
    return shared + this.problem.weights.addressClash * this.devices.filter(other => other.address === address
      && (lineage.includes(other.busId) || this.lineage(other.busId).includes(busId))).length
  }

  private lineage(busId: string): string[] {
    const hub = busId.includes('.') ? this.busOfPart.get(busId.split('.')[0]!) : undefined
    return hub ? [busId, hub] : [busId]
  }

  private take(demand: Demand, candidate: Candidate, sign: 1 | -1): void {
    for (const [ref, token] of Object.entries(candidate.tokens)) {
      const count = (this.taken.get(ref)?.count ?? 0) + sign
      if (count) this.taken.set(ref, { token, count })
      else this.taken.delete(ref)
    }
    for (const { resource, way, exclusive } of candidate.uses) {
      const count = (this.used.get(resource)?.count ?? 0) + sign
      if (count) this.used.set(resource, { way, exclusive, count })
      else this.used.delete(resource)
    }
    if (candidate.opens) {
      const count = (this.opened.get(candidate.opens.softwareBus) ?? 0) + sign
      if (count) this.opened.set(candidate.opens.softwareBus, count)
      else this.opened.delete(candidate.opens.softwareBus)
    }
    if (candidate.address !== undefined && candidate.busId) {
      if (sign === 1) this.devices.push({ busId: candidate.busId, address: candidate.address })
      else this.devices.pop()
    }
    if (demand.isHub && candidate.busId) this.busOfPart.set(demand.partId, candidate.busId)
  }

  /**
   * A bound under the lines' cost on what is free now; Infinity when they do not fit. The quick one lets every line lie
   * where it likes; the slow one also gathers the parts that have no other place on the header.
   */
  private lineFloor(slow: boolean): number {
    const free = this.freeKinds()
    const sign = `${slow} ${free.map(({ kind, refs }) => `${kind}:${refs.length}`).join()} ${[...this.opened.keys()].sort().join()}`
    const seen = this.floors.get(sign)
    if (seen !== undefined) return seen
    const rows = [...this.problem.lineDemands, ...this.softwareRows()]
    const floor = gatheringFloor(this.taskOf(rows, free, new Map(), part => slow && !this.onHeader.has(part)))
    this.floors.set(sign, floor)
    return floor
  }

  /** Kinds of place that are not all taken, with the places left of each. */
  private freeKinds(): { kind: number, refs: PlaceRef[] }[] {
    return this.kinds.map((places, kind) => ({ kind, refs: places.map(place => place.ref).filter(ref => !this.taken.has(ref)) })).filter(({ refs }) => refs.length)
  }

  /** Two lines for each software bus that is opened. */
  private softwareRows(): LineDemand[] {
    return [...this.opened.keys()].sort().flatMap(id => (['sda', 'scl'] as const).map((wire, i): LineDemand => ({
      id: `${id}.${wire}`, partId: id, label: `${id} ${wire}`, terminals: [], slow: false, optional: false, analog: false, still: false, rank: i - 0.5,
    })))
  }

  /** Costs at every kind of place. */
  private costsOf(demand: LineDemand, middle: number | undefined): Float64Array {
    const { weights, columns } = this.problem
    return Float64Array.from(this.kinds, places => lineCost(demand, places[0]!, middle, weights, columns))
  }

  /** One way out for each optional line: to stay unplaced. */
  private wayOut(demand: LineDemand): number[] {
    return this.optional.map(other => other === demand ? this.problem.weights.leftOut : IMPOSSIBLE)
  }

  private leaf(cost: number): void {
    const middles = this.middles()
    const rows = [...this.problem.lineDemands, ...this.softwareRows()]
    const free = this.freeKinds()
    const below = this.best ? this.best.cost - cost : Infinity
    const sign = JSON.stringify([free.map(({ kind, refs }) => [kind, refs.length]), [...middles], [...this.opened.keys()].sort()])
    const seen = this.gathered.get(sign)
    if (seen && seen.floor >= below - EPSILON) return
    const gathered = seen?.result ?? gatherLines(this.taskOf(rows, free, middles, part => !middles.has(part)), below, this.options.firstOnly ? 1 : undefined)
    this.gathered.set(sign, gathered ? { result: gathered, floor: gathered.cost } : { floor: below })
    if (!gathered) return
    if (!gathered.proved && !this.options.firstOnly) this.stopped = true
    const left = free.map(({ refs }) => [...refs])
    this.keep(cost + gathered.cost, rows, gathered.places.map(w => left[w]?.shift() ?? null))
  }

  private taskOf(rows: LineDemand[], free: { kind: number, refs: PlaceRef[] }[], middles: ReadonlyMap<string, number>, gathers: (partId: string) => boolean): GatheringTask {
    const { columns, weights } = this.problem
    const sizes = new Map<string, number>()
    for (const row of rows) sizes.set(row.partId, (sizes.get(row.partId) ?? 0) + 1)
    const clusters = [...sizes].filter(([part, size]) => size > 1 && gathers(part)).map(([part]) => part)
    const expanders = [...new Set(free.flatMap(({ kind }) => this.kinds[kind]![0]!.ownerId ?? []))]
    const ways = free.length + this.optional.length
    return {
      cost: rows.map((row, i) => {
        const costs = (middles.has(row.partId) ? undefined : this.base[i]) ?? this.costsOf(row, middles.get(row.partId))
        return Float64Array.from([...free.map(({ kind }) => costs[kind]!), ...this.wayOut(row)])
      }),
      capacity: Int32Array.from({ length: ways }, (_, w) => free[w]?.refs.length ?? 1),
      distance: [...Array.from({ length: columns }, (_, a) => a), ...expanders].map(middle =>
        Float64Array.from({ length: ways }, (_, w) => free[w] ? weights.apart * columnsApart(this.kinds[free[w].kind]![0]!, middle) : 0)),
      clusterOf: Int32Array.from(rows, row => clusters.indexOf(row.partId)), clusters: clusters.length, quantum: this.quantum,
      along: Float64Array.from({ length: ways }, (_, w) => alongHeader(free[w] && this.kinds[free[w].kind]![0]!, columns)),
    }
  }

  /** Middle column of each part whose buses or bound lines lie on the header, to the nearest half column. */
  private middles(): Map<string, number> {
    const found = new Map<string, number[]>()
    this.order.forEach((demand, i) => {
      for (const ref of Object.values(this.chosen[i]!.places)) {
        const position = positionOf(ref)
        if (position !== null) found.set(demand.partId, [...found.get(demand.partId) ?? [], columnOf(position)])
      }
    })
    return new Map([...found].map(([part, list]) => [part, Math.round(2 * list.reduce((a, b) => a + b, 0) / list.length) / 2]))
  }

  private keep(cost: number, rows: LineDemand[], refs: (PlaceRef | null)[]): void {
    const places: Record<string, PlaceRef> = {}
    const leftOut: string[] = []
    const software = new Map<string, { id: string, sda: number, scl: number }>()
    rows.forEach((row, i) => {
      const ref = refs[i]!
      if (!row.terminals.length && ref) {
        const [id = '', wire = ''] = row.id.split('.')
        software.set(id, { ...software.get(id) ?? { id, sda: 0, scl: 0 }, [wire]: positionOf(ref)! })
      }
      for (const terminal of row.terminals) {
        if (ref) places[terminal] = ref
        else leftOut.push(terminal)
      }
    })
    this.order.forEach((demand, i) => {
      const candidate = this.chosen[i]!
      Object.assign(places, candidate.places)
      const bus = candidate.opens && software.get(candidate.opens.softwareBus)
      if (bus) Object.assign(places, { [candidate.opens!.sda]: `P${bus.sda}`, [candidate.opens!.scl]: `P${bus.scl}` })
      leftOut.push(...demand.terminals.filter(terminal => places[terminal] === undefined))
    })
    this.best = { places, cost, leftOut, softwareBuses: [...software.values()], chosen: new Map(this.order.map((demand, i) => [demand, this.chosen[i]!])) }
  }
}
