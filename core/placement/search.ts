/**
 * The best placement of all signals, proved best: complete search over buses, selects, straps and channels, exact
 * gathering of the plain lines at each leaf. Branch and bound: a branch is left when its cost and the least cost of
 * what remains cannot beat the best found.
 */
import { clusterCostUnder, gatherLines, priceLines, type Gathered, type GatheringTask } from './gathering'
import { alongHeader, columnsApart, LEAP, lineCost } from './lines'
import { IMPOSSIBLE } from './matching'
import { columnOf, positionOf } from './refs'
import type { Address, Candidate, Demand, LineDemand, LineSlot, PlacementProblem, PlaceRef } from './types'
import { Bounds } from './bounds'
import { BusRows, type BusRow } from './bus-rows'
import { Ledger, type Compiled } from './ledger'
import { strapDevices, type Device, type Strapped } from './straps'
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
  /** Address of each device. */
  addresses: (Address & { partId: string, busId: string })[]
}

export interface SearchOutcome {
  best: Solution | null
  nodes: number
  /** Every branch was looked at or ruled out. */
  finished: boolean
}

const PATIENCE = 150_000
const EPSILON = 1e-6
/** Staying unplaced is open to one line each; a second unit keeps it from ever having a price. */
const NEVER_SCARCE = 2
/** Price lists kept for bounding. */
const MAX_PRICES = 10

/** The cheapest placement of all signals, or none when there is none: then every branch was looked at. */
export function search(problem: PlacementProblem, options: SearchOptions = {}): SearchOutcome {
  return new Search(problem, options).run()
}

/** Devices on I²C that can answer at no address that another one may have: where they lie makes no clash. */
function peacefulOf(demands: readonly Demand[]): ReadonlySet<Demand> {
  const users = new Map<number, number>()
  const addressesOf = (demand: Demand) => [
    ...new Set(demand.candidates[0]?.addresses?.flatMap(entry => [entry.address, ...entry.also ?? []]) ?? []),
  ]
  for (const demand of demands) for (const address of addressesOf(demand)) users.set(address,
    (users.get(address) ?? 0) + 1)
  return new Set(demands.filter(demand =>
    demand.kind === 'i2c' && addressesOf(demand).every(address => users.get(address) === 1)))
}

function kindsOf({ linePlaces, lineDemands }: PlacementProblem): LineSlot[][] {
  const particular = new Set(lineDemands.flatMap(demand => [demand.before, demand.forbidden, demand.only]))
  const kinds = new Map<string, LineSlot[]>()
  for (const place of linePlaces) {
    const key = place.isExpander && !particular.has(place.ref) ? `all of ${place.ownerId} ${place.isAnalog}` : place.ref
    kinds.set(key, [...kinds.get(key) ?? [], place])
  }
  return [...kinds.values()]
}

class Search {
  private readonly order: Demand[]
  private readonly ledger: Ledger
  private readonly bounds: Bounds
  /**
   * By demand: most that its part's own lines gain by another way for it; Infinity where more than that hangs on it.
   */
  private readonly mayGain: number[]
  private readonly busRows: BusRows
  /** Candidates of each demand in the order, as the ledger reads them. */
  private readonly compiled: Compiled[][]
  private readonly devices: Device[] = []
  private readonly strapped = new Map<string, Strapped>()
  private readonly busOfPart = new Map<string, string>()
  private readonly opened = new Map<string, number>()
  /** Hub → devices on each of its channels. */
  private readonly channels = new Map<string, number[]>()
  private readonly chosen: Candidate[] = []
  private readonly rank: number[] = []
  /** The demand of a twin part that comes just before, for each first demand of such a part. */
  private readonly twinBefore: number[]
  /** By what is left to decide and how things stand: the least cost with which the search has been there. */
  private readonly been = new Map<string, number>()
  /**
   * By depth: the demands before it whose choice matters beyond the ledger, for their part's lines or for a
   * twin that comes.
   */
  private readonly mattering: number[][]
  /** By demand: its choice of addresses as a sign, where another one may clash with it; null otherwise. */
  private readonly addressSign: (string | null)[]
  private readonly floors = new Map<string, number>()
  private readonly gathered = new Map<string, { result?: Gathered, floor: number }>()
  /** Parts that may have a bus or a bound line on the header, and so a middle of their own. */
  private readonly onHeader: ReadonlySet<string>
  /** Places that are alike for every line stand together: an expander's terminals. */
  private readonly kinds: LineSlot[][]
  private readonly optional: LineDemand[]
  private readonly base: Float64Array[]
  private readonly quantum: number
  /** Demands decided now. */
  private depth = 0
  /** Prices by kind of place: those found with everything free first. */
  private readonly priceLists: { prices: Float64Array, clusterCost: number, byRef: Float64Array }[] = []
  /** The lines with every place free. */
  private wide: GatheringTask | null = null
  /** Lines that do not gather, whatever the buses do. */
  private alone: number[] = []
  private readonly atMiddle = new Map<number, Float64Array>()
  private best: Solution | null = null
  /** True when a bus of this kind is on already. */
  private readonly isOn = (kind: Demand['kind']): boolean =>
    this.order.slice(0, this.depth).some(demand => demand.kind === kind)

  /** What the lines cost at the least with every place free. */
  private lineFloor = -Infinity
  private readonly firstCanOpen: boolean
  private nodes = 0
  private stopped = false

  constructor(private readonly problem: PlacementProblem, private readonly options: SearchOptions) {
    // Hubs before what may hang behind them, narrow choices before wide ones, and last what nobody can clash with: it
    // goes where the others lie.
    const peaceful = peacefulOf(problem.demands)
    const lateness = (demand: Demand) => {
      if (demand.isHub) return 0
      return peaceful.has(demand) ? 2 : 1
    }
    this.order = [...problem.demands].sort((a,
      b) => lateness(a) - lateness(b) || a.candidates.length - b.candidates.length)
    this.mayGain = this.order.map(demand => peaceful.has(demand) && !demand.isHub
      ? problem.weights.apart * LEAP * problem.lineDemands.filter(line => line.partId === demand.partId).length
      : Infinity)
    this.ledger = new Ledger()
    this.compiled = this.order.map(demand => demand.candidates.map(candidate => this.ledger.compile(candidate)))
    this.bounds = new Bounds(this.order, this.compiled, this.ledger, problem.weights.addressClash)
    this.twinBefore = this.order.map((demand, i) => {
      const seen = (other: Demand, j: number) => j < i && other.partId === demand.partId
      if (!demand.twinSign || this.order.some(seen)) return -1
      return this.order.findLastIndex(
        (other, j) => j < i && other.twinSign === demand.twinSign
          && other.candidates.length === demand.candidates.length
          && !this.order.some((earlier, k) => k < j && earlier.partId === other.partId),
      )
    })
    const withLines = new Set(problem.lineDemands.map(line => line.partId))
    this.mattering = Array.from({ length: this.order.length + 1 }, (_, depth) => this.order.slice(0, depth)
      .flatMap((demand, i) => withLines.has(demand.partId) || this.twinBefore.lastIndexOf(i) >= depth ? [i] : []))
    this.addressSign = this.order.map(demand => demand.isHub || !peaceful.has(demand)
      ? demand.candidates[0]?.addresses?.map(entry => `${entry.address}:${entry.cost}:${entry.also?.join('+') ?? ''}`)
        .join() ?? null
      : null)
    this.optional = problem.lineDemands.filter(demand => demand.optional)
    this.firstCanOpen = this.order.some(demand =>
      demand.candidates.some(other => other.opens?.softwareBus === 'i2c-soft-1'))
    this.quantum = quantumOf(problem.weights)
    this.kinds = kindsOf(problem)
    this.onHeader = new Set(problem.demands.filter(demand => demand.candidates.some(
      candidate => candidate.opens || Object.values(candidate.places)
        .some(ref => positionOf(ref) !== null),
    ))
      .map(demand => demand.partId))
    this.busRows = new BusRows(this.order, this.kinds.map(places => places.map(place => place.ref)))
    this.base = problem.lineDemands.map(demand => this.costsOf(demand, undefined))
  }

  run(): SearchOutcome {
    if (!this.problem.hopeless.length && this.everyKindFits()) {
      const rows = this.problem.lineDemands
      const gathers = (part: string) => !this.onHeader.has(part) && rows.filter(row => row.partId === part).length > 1
      if (!this.options.firstOnly) {
        const free = this.kinds.map((places, kind) => ({ kind, refs: places.map(place => place.ref) }))
        this.wide = this.taskOf(rows, free, new Map(), gathers, this.busRows.at(0, this.isOn))
        this.alone = rows.flatMap((row, i) => gathers(row.partId) ? [] : [i])
        const priced = priceLines(this.wide)
        this.lineFloor = priced.floor
        this.learn(priced.prices.slice(0, this.kinds.length))
      }
      this.descend(0, 0)
    }
    return { best: this.best, nodes: this.nodes, finished: !this.stopped }
  }

  /**
   * Demands of one kind, with those that are bound, have to fit by themselves: looked at first, since they
   * often do not.
   */
  private everyKindFits(): boolean {
    const { demands } = this.problem
    const kinds = [...new Set(demands.map(demand => demand.kind))].filter(kind => kind !== 'line')
    if (kinds.length < 2) return true
    return kinds.every(kind => search(
      {
        ...this.problem,
        demands: demands.filter(demand => demand.kind === kind || demand.candidates.length === 1)
          .map(demand => ({ ...demand, kind })),
        lineDemands: [],
      },
      { firstOnly: true },
    ).best !== null)
  }

  private descend(depth: number, cost: number): void {
    this.nodes++
    if (this.nodes % 500 === 0) this.options.onProgress?.(this.nodes, this.best?.cost ?? null)
    if (this.best && (this.options.firstOnly || this.nodes > (this.options.patience ?? PATIENCE))) {
      this.stopped = !this.options.firstOnly
      return
    }
    if (depth && depth < this.order.length && !this.options.firstOnly && this.wasHereCheaper(depth, cost)) return
    const rest = this.bounds.rest(depth)
    if (rest === Infinity) return
    const known = cost + this.straps().cost + rest
    if (this.best && known + this.lineFloor > this.best.cost - this.quantum + EPSILON) return
    // What is decided, with everything that is open under prices; beside it the open demands by their own bound and the
    // lines under prices.
    const priced = this.best ? this.pricedFloor(depth, rest) : -Infinity
    if (this.best && known + priced > this.best.cost - this.quantum + EPSILON) return
    const fit = this.fitFloor(depth)
    if (fit === Infinity || (this.best && known + fit > this.best.cost - this.quantum + EPSILON)) return
    const floor = Math.max(priced, fit)
    if (depth === this.order.length) return this.leaf(cost + this.straps().cost)
    const demand = this.order[depth]!
    const twin = this.twinBefore[depth]!
    const min = twin >= 0 ? this.rank[twin]! : 0
    const ranked = this.compiled[depth]!
      .map((entry, index) => ({ entry, index, candidate: entry.candidate, cost: entry.candidate.cost }))
      .filter(({ entry, index }) => index >= min && this.fits(entry))
      .map(choice => ({ ...choice, cost: choice.cost + this.ledger.shareCost(choice.entry) }))
      .sort((a, b) => a.cost - b.cost)
    // A way whose wires are all laid already takes nothing from anybody: what costs more than it can gain is
    // never better.
    const laid = ranked.find(({ entry }) => this.ledger.isLaid(entry))
    const max = laid ? laid.cost + this.mayGain[depth]! - EPSILON : Infinity
    const behind = cost + this.straps().cost + this.bounds.rest(depth + 1)
    for (const { entry, candidate, index, cost: own } of ranked) {
      if (own > max && entry !== laid!.entry) break
      if (this.best && behind + own + floor > this.best.cost - this.quantum + EPSILON) break
      this.take(demand, entry, 1)
      this.chosen[depth] = candidate
      this.rank[depth] = index
      this.depth = depth + 1
      this.descend(depth + 1, cost + own)
      this.take(demand, entry, -1)
      this.depth = depth
      if (this.stopped || (this.best && this.options.firstOnly)) return
    }
  }

  /**
   * True when the search has stood here before, with the same left to decide, the same free and no more spent:
   * nothing better comes.
   */
  private wasHereCheaper(depth: number, cost: number): boolean {
    const buses: string[] = []
    for (let i = 0; i < depth; i++) {
      const sign = this.addressSign[i]
      if (sign !== null) buses.push(`${this.chosen[i]!.busId} ${sign}`)
    }
    const key = `${depth} ${this.ledger.sign()} ${this.mattering[depth]!.map(i => this.rank[i]).join()} ${buses.sort().join()} `
      + `${[...this.busOfPart].flat().join()} ${[...this.channels].map(([hub, counts]) => `${hub} ${counts.join()}`).join()} `
      + [...this.opened.keys()].sort().join()
    const before = this.been.get(key)
    if (before !== undefined && before <= cost + EPSILON) return true
    this.been.set(key, cost)
    return false
  }

  private fits(entry: Compiled): boolean {
    if (!this.ledger.fits(entry)) return false
    const { candidate } = entry
    // The second new software bus is only opened after the first: they are alike.
    if (candidate.opens?.softwareBus === 'i2c-soft-2' && !this.opened.has('i2c-soft-1')
      && this.firstCanOpen) return false
    // Channels of a hub are alike: the next new one is the only new one looked at.
    return !(candidate.channel
      && candidate.channel.index > (this.channels.get(candidate.channel.hub)?.filter(count => count > 0).length ?? 0))
  }

  /** The cheapest addresses of the devices placed so far; more devices never make them cheaper. */
  private straps(): Strapped {
    const sign = this.devices.map(({ partId, busId }) => `${partId}@${this.lineage(busId).join('<')}`).join()
    const seen = this.strapped.get(sign)
    if (seen) return seen
    const found = strapDevices(this.devices, busId => this.lineage(busId), this.problem.weights.addressClash)
    this.strapped.set(sign, found)
    return found
  }

  private lineage(busId: string): string[] {
    const hub = busId.includes('.') ? this.busOfPart.get(busId.split('.')[0]!) : undefined
    return hub ? [busId, hub] : [busId]
  }

  private take(demand: Demand, entry: Compiled, sign: 1 | -1): void {
    const { candidate } = entry
    this.ledger.take(entry, sign)
    if (candidate.channel) {
      const counts = this.channels.get(candidate.channel.hub) ?? []
      counts[candidate.channel.index] = (counts[candidate.channel.index] ?? 0) + sign
      this.channels.set(candidate.channel.hub, counts)
    }
    if (candidate.opens) {
      const count = (this.opened.get(candidate.opens.softwareBus) ?? 0) + sign
      if (count) this.opened.set(candidate.opens.softwareBus, count)
      else this.opened.delete(candidate.opens.softwareBus)
    }
    if (candidate.addresses && candidate.busId) {
      if (sign === 1) this.devices.push({ partId: demand.partId, busId: candidate.busId,
        addresses: candidate.addresses })
      else this.devices.pop()
    }
    if (demand.isHub && candidate.busId) this.busOfPart.set(demand.partId, candidate.busId)
  }

  /**
   * The lines' least cost on what is free now if each lay where it liked; Infinity when they do not fit.
   * Exact for that.
   */
  private fitFloor(depth: number): number {
    const free = this.freeKinds()
    const busRows = this.busRows.at(depth, this.isOn)
    const sign = `${free.map(({ kind, refs }) => `${kind}:${refs.length}`).join()} `
      + `${[...this.opened.keys()].sort().join()} ${busRows.map(row => row.id).join()}`
    const seen = this.floors.get(sign)
    if (seen !== undefined) return seen
    const rows = [...this.problem.lineDemands, ...this.softwareRows()]
    const floor = priceLines(this.taskOf(rows, free, new Map(), () => false, busRows)).floor
    this.floors.set(sign, floor)
    return floor
  }

  /**
   * The lines and gathering parts each for itself under the prices found at the root: a bound that costs next to
   * nothing. What the gathering parts cost there, with every place free, is a bound under what they cost here.
   */
  private pricedFloor(depth: number, rest: number): number {
    const middles = this.middles()
    const free = new Uint8Array(this.kinds.length)
    const left = this.kinds.map(places =>
      places.reduce((count, place) => count + (this.ledger.isTaken(place.ref) ? 0 : 1), 0))
    left.forEach((count, kind) => free[kind] = count ? 1 : 0)
    const rows = this.problem.lineDemands
    const costs = this.alone.map((i) => {
      const middle = middles.get(rows[i]!.partId)
      return middle === undefined ? this.base[i]! : this.costsAt(i, middle)
    })
    const busRows = this.busRows.at(depth, this.isOn)
    return Math.max(...this.priceLists.map(({ prices, clusterCost, byRef }) => {
      let scarce = 0
      for (const { kinds } of busRows) {
        let min = Infinity
        for (const kind of kinds) if (free[kind] && prices[kind]! < min) min = prices[kind]!
        scarce += min
      }
      // Either bound of the open demands holds; the one under prices counts beyond what is known of them already.
      let value = clusterCost + Math.max(scarce, this.bounds.priced(depth, byRef) - rest)
      for (let kind = 0; kind < free.length; kind++) value -= prices[kind]! * left[kind]!
      this.alone.forEach((i, n) => {
        const own = costs[n]!
        let min = rows[i]!.optional ? this.problem.weights.leftOut : Infinity
        for (let kind = 0; kind < own.length; kind++) if (free[kind] && own[kind]! + prices[kind]! < min) {
          min = own[kind]! + prices[kind]!
        }
        value += min
      })
      return value
    }))
  }

  /** Keeps prices that were good at a leaf, with what the gathering parts cost under them when every place is free. */
  private learn(prices: Float64Array): void {
    if (!this.wide || this.priceLists.length >= MAX_PRICES) return
    const padded = new Float64Array(this.wide.capacity.length)
    padded.set(prices)
    const refs = this.kinds.map(places => places.map(place => place.ref))
    this.priceLists.push({ prices, clusterCost: clusterCostUnder(this.wide, padded),
      byRef: this.ledger.pricesByRef(refs, prices) })
  }

  private costsAt(row: number, middle: number): Float64Array {
    const key = row * 1000 + middle * 2
    const seen = this.atMiddle.get(key)
    if (seen) return seen
    const costs = this.costsOf(this.problem.lineDemands[row]!, middle)
    this.atMiddle.set(key, costs)
    return costs
  }

  /** Kinds of place that are not all taken, with the places left of each. */
  private freeKinds(): { kind: number, refs: PlaceRef[] }[] {
    return this.kinds.map((places,
      kind) => ({ kind, refs: places.map(place => place.ref).filter(ref => !this.ledger.isTaken(ref)) }))
      .filter(({ refs }) => refs.length)
  }

  /** Two lines for each software bus that is opened. */
  private softwareRows(): LineDemand[] {
    return [...this.opened.keys()].sort().flatMap(id => (['sda', 'scl'] as const).map((wire, i): LineDemand => ({
      id: `${id}.${wire}`, partId: id, label: `${id} ${wire}`, terminals: [], slow: false, optional: false,
      analog: false, still: false,
      drives: false, rank: i - 0.5,
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
    const sign = JSON.stringify([free.map(({ kind, refs }) => [kind, refs.length]), [...middles],
      [...this.opened.keys()].sort()])
    const seen = this.gathered.get(sign)
    if (seen && seen.floor >= below - EPSILON) return
    const first = this.priceLists[0]
    const warm = first
      ? Float64Array.from({ length: free.length + this.optional.length },
          (_, w) => free[w] ? first.prices[free[w].kind]! : 0)
      : null
    const outcome = seen?.result
      ? null
      : gatherLines(this.taskOf(rows, free, middles, part => !middles.has(part)), below,
          this.options.firstOnly ? 1 : undefined, warm)
    const gathered = seen?.result ?? outcome!.found
    if (outcome?.prices) {
      const prices = new Float64Array(this.kinds.length)
      free.forEach(({ kind }, w) => prices[kind] = outcome.prices![w]!)
      this.learn(prices)
    }
    this.gathered.set(sign, gathered ? { result: gathered, floor: gathered.cost } : { floor: below })
    if (!gathered) return
    if (!gathered.proved && !this.options.firstOnly) this.stopped = true
    const left = free.map(({ refs }) => [...refs])
    this.keep(cost + gathered.cost, rows, gathered.places.map(w => left[w]?.shift() ?? null))
  }

  private taskOf(
    rows: LineDemand[], free: { kind: number, refs: PlaceRef[] }[], middles: ReadonlyMap<string, number>,
    gathers: (partId: string) => boolean, busRows: readonly BusRow[] = [],
  ): GatheringTask {
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
      }).concat(busRows.map(({ kinds }) => {
        const own = new Float64Array(ways).fill(IMPOSSIBLE)
        free.forEach(({ kind }, w) => {
          if (kinds.has(kind)) own[w] = 0
        })
        return own
      })),
      capacity: Int32Array.from({ length: ways }, (_, w) => free[w]?.refs.length ?? NEVER_SCARCE),
      distance: [...Array.from({ length: columns }, (_, a) => a), ...expanders].map(middle =>
        Float64Array.from({ length: ways },
          (_, w) => free[w] ? weights.apart * columnsApart(this.kinds[free[w].kind]![0]!, middle) : 0)),
      clusterOf: Int32Array.from([...rows.map(row => clusters.indexOf(row.partId)), ...busRows.map(() => -1)]),
      clusters: clusters.length,
      quantum: this.quantum,
      along: Float64Array.from({ length: ways },
        (_, w) => alongHeader(free[w] && this.kinds[free[w].kind]![0]!, columns)),
    }
  }

  /**
   * Middle column of each part whose buses and bound lines are all decided and lie on the header, to the
   * nearest half column.
   */
  private middles(): Map<string, number> {
    const found = new Map<string, number[]>()
    const open = new Set(this.order.slice(this.depth).map(demand => demand.partId))
    this.order.slice(0, this.depth).forEach((demand, i) => {
      if (open.has(demand.partId)) return
      for (const ref of Object.values(this.chosen[i]!.places)) {
        const position = positionOf(ref)
        if (position !== null) found.set(demand.partId, [...found.get(demand.partId) ?? [], columnOf(position)])
      }
    })
    return new Map([...found].map(([part, list]) =>
      [part, Math.round(2 * list.reduce((a, b) => a + b, 0) / list.length) / 2]))
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
    this.best = {
      places, cost, leftOut, softwareBuses: [...software.values()],
      chosen: new Map(this.order.map((demand, i) => [demand, this.chosen[i]!])),
      addresses: this.devices.map((device,
        i) => ({ partId: device.partId, busId: device.busId, ...this.straps().chosen[i]! })),
    }
  }
}
