/**
 * A bound under what the demands still to be decided cost at the least. Three relaxations, each on demands of its own
 * so that they add up: every demand takes the cheapest way that fits what is decided (forward checking); two demands
 * that get in each other's way take the cheapest pair that stands together; devices with the same choice of addresses
 * cannot all have one address of one bus. Under prices of places (Lagrangian relaxation) a way costs what its places
 * cost besides, so that ways that take more of what is scarce look dearer.
 */
import { standTogether, type Compiled, type Ledger } from './ledger'
import type { Demand } from './types'

interface Pair { first: number, second: number, cost: number }

interface AddressGroup {
  /** Demands by their place in the order. */
  members: number[]
  /** Least cost of the first n of them together, each with an address of its own on its bus. */
  costs: number[]
  clash: number
}

/** More candidate pairs than these are not looked at for one pair of demands. */
const MAX_PAIRS = 4000

export class Bounds {
  private readonly pairOf: (Pair | null)[]
  private readonly groupOf: (AddressGroup | null)[]
  private readonly groups: AddressGroup[]
  /** By demand and candidate: for each of its places, by how many demands that price may have to be shared. */
  private readonly sharers: Float64Array[][]
  /** By demand: candidates that fit what is decided, found by the last call of `rest`. */
  private readonly fitting: number[][]

  constructor(
    private readonly order: readonly Demand[], private readonly compiled: readonly Compiled[][],
    private readonly ledger: Ledger,
    clash: number,
  ) {
    this.groups = addressGroups(order, clash)
    this.groupOf = order.map((_, i) => this.groups.find(group => group.members.includes(i)) ?? null)
    this.pairOf = this.pairs()
    this.fitting = order.map(() => [])
    this.sharers = this.sharing()
  }

  /** A place that several demands may have in common is paid for by one of them: each bears its share at the most. */
  private sharing(): Float64Array[][] {
    const key = (ref: number, token: number) => ref * 100_000 + token
    const users = new Map<number, number>()
    for (const list of this.compiled) {
      const mine = new Set<number>()
      for (const { refs, tokens } of list) for (let i = 0; i < refs.length; i++) mine.add(key(refs[i]!, tokens[i]!))
      for (const entry of mine) users.set(entry, (users.get(entry) ?? 0) + 1)
    }
    return this.compiled.map(list =>
      list.map(({ refs, tokens }) => Float64Array.from(refs, (ref, i) => 1 / users.get(key(ref, tokens[i]!))!)))
  }

  /** Disjoint pairs of demands outside the groups, those that cost most beyond their own cheapest ways first. */
  private pairs(): (Pair | null)[] {
    const min = this.compiled.map(list => list[0]?.candidate.cost ?? 0)
    const found: (Pair & { extra: number })[] = []
    for (let i = 0; i < this.order.length; i++) {
      for (let j = i + 1; j < this.order.length; j++) {
        if (this.groupOf[i] || this.groupOf[j]
          || this.compiled[i]!.length * this.compiled[j]!.length > MAX_PAIRS) continue
        const cost = this.jointly(i, j)
        const extra = cost - min[i]! - min[j]!
        if (extra > 1e-9) found.push({ first: i, second: j, cost, extra })
      }
    }
    const pairOf = new Array<Pair | null>(this.order.length).fill(null)
    for (const pair of found.sort((a, b) => b.extra - a.extra)) if (!pairOf[pair.first] && !pairOf[pair.second]) {
      pairOf[pair.first] = pairOf[pair.second] = pair
    }
    return pairOf
  }

  private jointly(i: number, j: number): number {
    let min = Infinity
    for (const a of this.compiled[i]!) {
      if (a.candidate.cost >= min) break
      for (const b of this.compiled[j]!) {
        const cost = a.candidate.cost + b.candidate.cost
        if (cost >= min) break
        if (standTogether(a, b)) min = cost
      }
    }
    return min
  }

  /** The bound for all demands from `depth` on; Infinity when one of them has no way left. */
  rest(depth: number): number {
    let total = 0
    const own = new Float64Array(this.order.length)
    for (let i = depth; i < this.order.length; i++) {
      const list = this.compiled[i]!
      const fitting = this.fitting[i]!
      fitting.length = 0
      for (let at = 0; at < list.length; at++) if (this.ledger.fits(list[at]!)) fitting.push(at)
      if (!fitting.length) return Infinity
      own[i] = list[fitting[0]!]!.candidate.cost
      const pair = this.pairOf[i]
      if (this.groupOf[i]) continue
      if (pair && pair.first >= depth && pair.second >= depth) {
        // Counted once, when the later of the two is reached.
        if (i === pair.second) total += Math.max(pair.cost, own[pair.first]! + own[i]!)
      }
      else total += own[i]!
    }
    for (const group of this.groups) {
      let count = 0
      let single = 0
      for (const i of group.members) {
        if (i < depth) continue
        count++
        single += own[i]!
      }
      total += Math.max(single, group.costs[count]!)
    }
    return total
  }

  /**
   * The bound under prices, by place as the ledger numbers them; of the candidates that the last call of `rest`
   * found to fit.
   */
  priced(depth: number, prices: Float64Array): number {
    let total = 0
    for (let i = depth; i < this.order.length; i++) {
      if (this.groupOf[i]) continue
      let min = Infinity
      for (const at of this.fitting[i]!) {
        const { cost } = this.compiled[i]![at]!.candidate
        if (cost >= min) break
        min = Math.min(min, cost + this.placesCost(i, at, prices))
      }
      total += min
    }
    for (const group of this.groups) total += this.pricedGroup(group, depth, prices)
    return total
  }

  private placesCost(i: number, at: number, prices: Float64Array): number {
    const { refs } = this.compiled[i]![at]!
    const shares = this.sharers[i]![at]!
    let cost = 0
    for (let n = 0; n < refs.length; n++) if (!this.ledger.isTakenAt(refs[n]!)) cost += prices[refs[n]!]! * shares[n]!
    return cost
  }

  /** The cheapest seats of a group's open members under prices, one for each. */
  private pricedGroup({ members, clash }: AddressGroup, depth: number, prices: Float64Array): number {
    const seats = new Map<string, number>()
    let open = 0
    let single = 0
    for (const i of members) {
      if (i < depth) continue
      open++
      let min = Infinity
      for (const at of this.fitting[i]!) {
        const { candidate } = this.compiled[i]![at]!
        const cost = candidate.cost + this.placesCost(i, at, prices)
        for (const entry of candidate.addresses ?? []) {
          const seat = `${candidate.busId} ${entry.address}`
          const all = cost + entry.cost
          min = Math.min(min, all)
          if (all < (seats.get(seat) ?? Infinity)) seats.set(seat, all)
        }
      }
      single += min
    }
    if (!open) return 0
    const sorted = [...seats.values()].sort((a, b) => a - b)
    let together = 0
    for (let n = 0; n < open; n++) together += Math.min(sorted[n] ?? Infinity, sorted[0]! + clash)
    return Math.max(single, together)
  }
}

/** Demands with the same choice of addresses, where not all of them can have their cheapest bus and address. */
function addressGroups(order: readonly Demand[], clash: number): AddressGroup[] {
  const bySign = new Map<string, number[]>()
  order.forEach((demand, i) => {
    const addresses = demand.candidates[0]?.addresses
    if (!addresses?.length || demand.isHub) return
    const sign = addresses.map(entry => entry.address).sort((a, b) => a - b).join()
    bySign.set(sign, [...bySign.get(sign) ?? [], i])
  })
  return [...bySign.values()].filter(members => members.length > 1).map((members) => {
    // Cheapest cost of each seat, an address of a bus, over all members; then the cheapest seats, one for each.
    const seats = new Map<string, number>()
    for (const i of members) for (const { busId, addresses,
      cost } of order[i]!.candidates) for (const entry of addresses ?? []) {
      const seat = `${busId} ${entry.address}`
      seats.set(seat, Math.min(seats.get(seat) ?? Infinity, cost + entry.cost))
    }
    const sorted = [...seats.values()].sort((a, b) => a - b)
    const costs = [0]
    // Beyond the seats two share one, and pay for the clash.
    members.forEach((_, n) => costs.push(costs[n]! + Math.min(sorted[n] ?? Infinity, (sorted[0] ?? 0) + clash)))
    return { members, costs, clash }
  })
}
