/**
 * Lines to places when the lines of some parts want to lie together, solved exactly.
 *
 * Least Σ cost(row, place) + Σ over clusters of min over middles m of Σ distance(m, place), each place filled at
 * most to its capacity. A cluster is a part with several lines and nothing else on the header that would say where
 * its middle is; the middle is found here. With all middles known this is an assignment problem. To find them:
 * Lagrangian prices on the places bound every cluster and middle by itself (Held and Karp 1971), and what the bound
 * leaves open is branched on.
 */
import { costAlone, movedAlone, picked, summed, type AloneSolver } from './alone'
import { cheapestMatching } from './matching'

export interface GatheringTask {
  /** Row × place. */
  cost: Float64Array[]
  /** How many rows a place takes: one on the header, more where places are alike. */
  capacity: Int32Array
  /** Middle × place: what it costs that a line lies there and the middle of its part here. */
  distance: Float64Array[]
  /** Cluster of each row; −1 for rows that stand alone. */
  clusterOf: Int32Array
  clusters: number
  /** Place → where it lies for the order of a connector. */
  along: Float64Array
  /** All costs are whole multiples of this, so a smaller gain is none. */
  quantum: number
}

export interface Gathered {
  /** Place of each row. */
  places: number[]
  cost: number
  /** No cheaper one exists. False only when `patience` ran out. */
  proved: boolean
}

/**
 * `found` is null when there is none below what was asked; `prices` are the best ones of the first branch, for bounding
 * tasks much like this one.
 */
export interface GatheringOutcome {
  found: Gathered | null
  prices: Float64Array | null
}

const ROUNDS_AT_ROOT = 60
const ROUNDS_BELOW = 16
/** Middles of one cluster that the descent looks at, the most promising first. */
const MIDDLES_TRIED = 12
const EPSILON = 1e-6

/**
 * The cheapest placement below `below`. `patience` bounds the branches looked at; `warm` are prices of a task much
 * like this one.
 */
export function gatherLines(task: GatheringTask, below = Infinity, patience = 8000,
  warm: Float64Array | null = null): GatheringOutcome {
  const gathering = new Gathering(task, below, patience, warm)
  return { found: gathering.run(), prices: gathering.firstPrices }
}

/**
 * Prices of places under which every row and cluster, each for itself, comes as dear as it can; and what the
 * clusters cost then.
 */
export interface Prices {
  /** By place. */
  prices: Float64Array
  clusterCost: number
  /** A bound under the cheapest placement; Infinity when there is none. */
  floor: number
}

/** What the clusters of the task cost, each for itself, under these prices. */
export function clusterCostUnder(task: GatheringTask, prices: Float64Array): number {
  return new Gathering(task, Infinity, 0).clusterCostUnder(prices)
}

export function priceLines(task: GatheringTask): Prices {
  return new Gathering(task, Infinity, 0).pricesAtRoot()
}

interface Bound {
  value: number
  prices: Float64Array
  /** Cluster → cost of it alone at each of its middles, in the order of the middles given. */
  byMiddle: number[][]
}

class Gathering {
  private readonly rowsOf: number[][]
  private readonly alone: number[] = []
  /** Place of each column of a matching: a place stands there as often as it can be filled. */
  private readonly columns: Int32Array
  private readonly columnsOf: Int32Array[]
  /** Cluster → middle → distance of each of its columns. */
  private readonly awayOf: Float64Array[][]
  /**
   * Clusters whose lines keep the order of their places: of any two, the later line never gains by taking
   * the earlier place.
   */
  private readonly inOrder: boolean[]
  private readonly twinBefore: number[]
  private best: { places: number[], cost: number } | null = null
  private bestCost: number
  firstPrices: Float64Array | null = null
  private nodes = 0

  constructor(private readonly task: GatheringTask, below: number, private readonly patience: number,
    private readonly warm: Float64Array
      | null = null) {
    this.bestCost = below
    this.rowsOf = Array.from({ length: task.clusters }, () => [])
    task.clusterOf.forEach((cluster, row) => (cluster < 0 ? this.alone : this.rowsOf[cluster]!).push(row))
    this.columns = this.columnsFor(task.cost.length)
    this.columnsOf = this.rowsOf.map(rows =>
      this.columnsFor(rows.length).sort((a, b) => task.along[a]! - task.along[b]! || a - b))
    this.awayOf = this.columnsOf.map(columns => task.distance.map(away => picked(away, columns)))
    this.inOrder = this.rowsOf.map(rows => this.keepsOrder(rows))
    const alike = (a: number[], b: number[]) =>
      a.length === b.length && a.every((row, i) => task.cost[row]!.every((value, p) => value === task.cost[b[i]!]![p]))
    this.twinBefore = this.rowsOf.map((rows, k) => this.rowsOf.findLastIndex((other, j) => j < k && alike(rows, other)))
  }

  /**
   * The Monge condition between neighbours: cost(i, p) + cost(j, q) ≤ cost(i, q) + cost(j, p) for lines i < j and
   * places p before q.
   */
  private keepsOrder(rows: number[]): boolean {
    const { cost, along } = this.task
    const places = Array.from(along, (_, p) => p).sort((a, b) => along[a]! - along[b]! || a - b)
    return rows.slice(1).every((next, r) => {
      const [i, j] = [cost[rows[r]!]!, cost[next]!]
      return places.slice(1).every((q, n) => {
        const p = places[n]!
        return i[p]! + j[q]! <= i[q]! + j[p]! + EPSILON
          && (along[p] !== along[q] || Math.abs(i[p]! + j[q]! - i[q]! - j[p]!) <= EPSILON)
      })
    })
  }

  private columnsFor(rows: number): Int32Array {
    return Int32Array.from([...this.task.capacity].flatMap((capacity,
      place) => new Array<number>(Math.min(capacity, rows)).fill(place)))
  }

  run(): Gathered | null {
    const plain = this.matched(this.task.cost)
    if (!plain || plain.cost >= this.bestCost - EPSILON) return null
    if (!this.task.clusters) return { places: plain.places, cost: plain.cost, proved: true }
    this.branch(this.everyMiddle(), this.betterStart(plain.prices), ROUNDS_AT_ROOT)
    return this.best && { ...this.best, proved: this.nodes <= this.patience }
  }

  /**
   * Prices of a task much like this one, or those of the plain matching: whichever bound more. The latter know what has
   * to stay unplaced.
   */
  private betterStart(plain: Float64Array): Float64Array {
    if (!this.warm) return plain
    const middles = this.everyMiddle()
    return this.relaxed(middles, this.warm).value > this.relaxed(middles, plain).value ? this.warm : plain
  }

  pricesAtRoot(): Prices {
    const plain = this.matched(this.task.cost)
    if (!plain) return { prices: new Float64Array(this.task.capacity.length), clusterCost: 0, floor: Infinity }
    if (!this.task.clusters) return { prices: plain.prices, clusterCost: 0, floor: plain.cost }
    const bound = this.priced(this.everyMiddle(), plain.prices, ROUNDS_AT_ROOT)
    return {
      prices: bound.prices, clusterCost: bound.byMiddle.reduce((sum, costs) => sum + Math.min(...costs), 0),
      floor: Math.max(plain.cost, bound.value),
    }
  }

  clusterCostUnder(prices: Float64Array): number {
    return this.relaxed(this.everyMiddle(), prices).byMiddle.reduce((sum, costs) => sum + Math.min(...costs), 0)
  }

  private everyMiddle(): number[][] {
    return this.rowsOf.map(() => this.task.distance.map((_, m) => m))
  }

  /** True when nothing at or above `bound` can be better than what is known. */
  private hopeless(bound: number): boolean {
    return bound > this.bestCost - this.task.quantum + EPSILON
  }

  private branch(given: number[][], prices: Float64Array, rounds: number): void {
    if (++this.nodes > this.patience) return
    const middles = this.untwinned(given)
    if (middles.some(list => !list.length)) return
    if (middles.every(list => list.length === 1)) {
      this.tryMiddles(middles.map(list => list[0]!), false)
      return
    }
    const bound = this.priced(middles, prices, rounds)
    this.firstPrices ??= bound.prices
    if (this.hopeless(bound.value)) return
    const open = middles.map((list, k) => {
      const min = Math.min(...bound.byMiddle[k]!)
      return list.map((m, i) => ({ m, cost: bound.byMiddle[k]![i]! - min }))
        .filter(({ cost }) => !this.hopeless(bound.value + cost))
        .sort((x, y) => x.cost - y.cost)
    })
    if (open.some(list => !list.length)) return
    const narrowed = open.map(list => list.map(({ m }) => m))
    if (this.nodes === 1) {
      this.descendByMiddles(narrowed)
      // The root once more, now that a good placement is known: most middles are ruled out.
      return this.branch(narrowed, bound.prices, ROUNDS_BELOW)
    }
    const undecided = open.map((list, k) => ({ k, second: list[1]?.cost ?? -1, size: list.length }))
      .filter(({ size }) => size > 1)
      .sort((x, y) => y.second - x.second || x.size - y.size)[0]
    if (!undecided) return this.branch(narrowed, bound.prices, 0)
    for (const { m } of open[undecided.k]!)
      this.branch(narrowed.map((list, k) => k === undecided.k ? [m] : list), bound.prices, ROUNDS_BELOW)
  }

  /**
   * Clusters that are alike line by line may change places: the later one is taken to lie no nearer the first middle.
   */
  private untwinned(middles: number[][]): number[][] {
    const after = [...middles]
    this.twinBefore.forEach((j, k) => {
      if (j < 0) return
      const min = Math.min(...after[j]!)
      after[k] = after[k]!.filter(m => m >= min)
    })
    for (let k = after.length - 1; k >= 0; k--) {
      const j = this.twinBefore[k]!
      if (j < 0) continue
      const max = Math.max(...after[k]!)
      after[j] = after[j]!.filter(m => m <= max)
    }
    return after
  }

  /** From the best placement known, one middle after another is moved to where the whole gets cheapest. */
  private descendByMiddles(middles: number[][]): void {
    if (!this.best) return
    let current = this.rowsOf.map(rows => this.middleOf(rows, this.best!.places).middle)
    for (let better = true; better;) {
      better = false
      for (const [k, list] of middles.entries()) {
        for (const m of list.slice(0, MIDDLES_TRIED)) {
          const before = this.bestCost
          this.tryMiddles(current.with(k, m), false)
          if (this.bestCost < before - EPSILON) {
            current = this.rowsOf.map(rows => this.middleOf(rows, this.best!.places).middle)
            better = true
          }
        }
      }
    }
  }

  /** Raises the prices of places wanted too often and lowers the others, keeping the best bound seen. */
  private priced(middles: number[][], start: Float64Array, rounds: number): Bound {
    let prices = start
    let best: Bound = { value: -Infinity, prices, byMiddle: [] }
    let scale = 1
    let since = 0
    for (let round = 0; ; round++) {
      const now = this.relaxed(middles, prices)
      if (now.value > best.value + EPSILON) {
        best = { value: now.value, prices, byMiddle: now.byMiddle }
        since = 0
      }
      else if (++since > 3) {
        scale *= 0.6
        since = 0
      }
      if (this.patience > 0 && (this.nodes === 1 ? round % 10 === 0 : round === 0 && this.nodes % 3 === 1)) {
        this.tryMiddles(now.middles, this.nodes === 1)
      }
      if (this.hopeless(best.value) || round >= rounds || now.excess === 0) return best
      const aim = Number.isFinite(this.bestCost) ? this.bestCost : now.value + 10
      const step = scale * Math.max(0.02, aim - now.value) / now.excess
      prices = movedAlone(prices, now.over, step)
    }
  }

  /** Every row or cluster for itself, paying for the places it takes: a bound on the whole. */
  private relaxed(middles: number[][], prices: Float64Array): {
    value: number
    byMiddle: number[][]
    middles: number[]
    over: Int32Array
    excess: number
  } {
    const { cost, capacity } = this.task
    const over = new Int32Array(capacity.length)
    for (let p = 0; p < over.length; p++) over[p] = -capacity[p]!
    let value = 0
    for (let p = 0; p < prices.length; p++) value -= prices[p]! * capacity[p]!
    for (const row of this.alone) {
      let min = Infinity
      let at = 0
      const own = cost[row]!
      for (let p = 0; p < prices.length; p++) {
        if (own[p]! + prices[p]! < min) {
          min = own[p]! + prices[p]!
          at = p
        }
      }
      value += min
      over[at]!++
    }
    const byMiddle: number[][] = []
    const chosen = this.rowsOf.map((rows, k) => {
      const { costs, best } = this.clusterAlone(k, rows, this.columnsOf[k]!, middles[k]!, prices)
      byMiddle.push(costs)
      value += best.cost
      for (const p of best.places) over[p]!++
      return best.middle
    })
    let excess = 0
    for (let p = 0; p < prices.length; p++) if (over[p]! > 0
      || (over[p]! < 0 && prices[p]! > 0)) excess += over[p]! * over[p]!
    return { value, byMiddle, middles: chosen, over, excess }
  }

  /** One cluster's own best at each of its middles, and the best of them with its places. */
  private clusterAlone(k: number, rows: number[], columns: Int32Array, middles: number[], prices: Float64Array): {
    costs: number[]
    best: { cost: number, places: number[], middle: number }
  } {
    const size = rows.length
    const loaded = new Float64Array(columns.length * size)
    for (let i = 0; i < size; i++) {
      const own = this.task.cost[rows[i]!]!
      for (let c = 0; c < columns.length; c++) loaded[c * size + i] = own[columns[c]!]! + prices[columns[c]!]!
    }
    const solve: AloneSolver = costAlone(size, this.inOrder[k]!)
    const costs = middles.map(m => solve(loaded, size, this.awayOf[k]![m]!, null))
    const min = costs.indexOf(Math.min(...costs))
    const chosen: number[] = []
    const cost = solve(loaded, size, this.awayOf[k]![middles[min]!]!, chosen)
    return { costs, best: { cost, places: chosen.map(c => columns[c]!), middle: middles[min]! } }
  }

  private matched(cost: Float64Array[]): { places: number[], cost: number, prices: Float64Array } | null {
    const matching = cheapestMatching(cost.map(own => picked(own, this.columns)))
    if (!matching) return null
    const prices = new Float64Array(this.task.capacity.length).fill(Infinity)
    this.columns.forEach((p, c) => prices[p] = Math.min(prices[p]!, -matching.prices[c]!))
    return {
      places: matching.columns.map(c => this.columns[c]!), cost: matching.cost,
      prices: prices.map(price => Number.isFinite(price) ? Math.max(0, price) : 0),
    }
  }

  /** The exact placement with these middles; with `settle`, the middles then follow the lines until they rest. */
  private tryMiddles(middles: number[], settle: boolean): void {
    const { cost, clusterOf, distance } = this.task
    let current = middles
    for (let round = 0; round < 6; round++) {
      const matching = this.matched(cost.map((own, row) => {
        const away = clusterOf[row]! < 0 ? null : distance[current[clusterOf[row]!]!]!
        return away ? summed(own, away) : own
      }))
      if (!matching) return
      const rested = this.rowsOf.map(rows => this.middleOf(rows, matching.places))
      const total = matching.places.reduce((sum, p, row) => sum + cost[row]![p]!, 0)
        + rested.reduce((sum, { cost: spread }) => sum + spread, 0)
      if (total < this.bestCost - EPSILON) {
        this.bestCost = total
        this.best = { places: matching.places, cost: total }
      }
      if (!settle || rested.every(({ middle }, k) => middle === current[k])) return
      current = rested.map(({ middle }) => middle)
    }
  }

  private middleOf(rows: number[], places: number[]): { middle: number, cost: number } {
    let best = { middle: 0, cost: Infinity }
    this.task.distance.forEach((away, middle) => {
      let cost = 0
      for (const row of rows) cost += away[places[row]!]!
      if (cost < best.cost) best = { middle, cost }
    })
    return best
  }
}
