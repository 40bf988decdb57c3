/** Addresses for devices whose buses are known: fewest clashes, then fewest straps changed. Exact. */
import type { Address } from './types'

export interface Device {
  partId: string
  busId: string
  addresses: readonly Address[]
}

export interface Strapped {
  cost: number
  /** Address of each device, in their order. */
  chosen: Address[]
}

/**
 * True when two devices cannot both be read: one answers where the other does. Where both answer besides their own is a
 * call to all.
 */
const meet = (a: Address, b: Address): boolean =>
  a.address === b.address || a.also?.includes(b.address) === true || b.also?.includes(a.address) === true

/**
 * The cheapest addresses. `lineage` gives a bus and the buses above it: devices hear each other when one's bus is in
 * the other's lineage. Branch and bound over the devices, those with fewest addresses first.
 */
export function strapDevices(devices: readonly Device[], lineage: (busId: string) => readonly string[],
  clash: number): Strapped {
  const order = devices.map((_, i) => i).sort((a, b) => devices[a]!.addresses.length - devices[b]!.addresses.length)
  const lines = devices.map(device => lineage(device.busId))
  const hears = (a: number, b: number) => lines[a]!.includes(devices[b]!.busId) || lines[b]!.includes(devices[a]!.busId)
  const chosen = new Array<Address>(devices.length)
  let best: Strapped = { cost: Infinity, chosen: [] }
  const walk = (depth: number, cost: number): void => {
    if (cost >= best.cost - 1e-9) return
    if (depth === order.length) {
      best = { cost, chosen: [...chosen] }
      return
    }
    const i = order[depth]!
    const before = order.slice(0, depth).filter(j => hears(i, j))
    const priced = devices[i]!.addresses
      .map(entry => ({ entry, cost: entry.cost + clash * before.filter(j => meet(chosen[j]!, entry)).length }))
      .sort((a, b) => a.cost - b.cost)
    let changed = 0
    for (const { entry, cost: own } of priced) {
      // Free addresses that nobody after this one may want are all alike: the first of them stands for them.
      const particular = order.slice(depth + 1)
        .some(j => hears(i, j) && devices[j]!.addresses.some(other => meet(other, entry)))
      if (!particular && own === entry.cost && entry.cost > 0 && changed++) continue
      chosen[i] = entry
      walk(depth + 1, cost + own)
    }
  }
  walk(0, 0)
  return best
}
