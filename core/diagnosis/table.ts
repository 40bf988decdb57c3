/** Every fault held against every probe, once for a plan. */
import { wiresOf, type Wire } from '../construction/wires'
import type { Facts } from '../facts/types'
import { netlistOf } from '../netlist/build'
import { powerOf, type Power } from '../power/report'
import { expectedOf, type Expected } from '../bringup/expected'
import { faultsOf } from './faults'
import type { Looking } from './looking'
import { probesOf } from './probes'
import { Workshop, World } from './world'
import type { Change, Fault, Table } from './types'

/** The model of a plan: its table, and what any set of changes would show. */
export interface Model {
  table: Table
  /** What is seen at each probe of the table with these changes made. */
  see: (changes: readonly Change[]) => string[]
}

/** What lies on the bench: the thing, what can be tried with it, its wires and its supply. */
export interface Bench {
  shop: Workshop
  looks: Looking[]
  wires: Wire[]
  expected: Expected
  power: Power
}

/**
 * The bench of a plan that has a board. Throws `DeviceTreeError` for a base tree of the maker's that cannot be read.
 */
export function benchOf(facts: Facts): Bench {
  const power = powerOf(facts)
  const netlist = netlistOf(facts, power.tree)
  const wires = wiresOf(facts, netlist)
  const shop = new Workshop(facts, power, netlist)
  const expected = expectedOf(facts, power)
  return { shop, looks: probesOf(shop, wires, expected), wires, expected, power }
}

/**
 * The model of a plan: what every fault would show; empty without a board. Faults that nothing would show are left out:
 * they are none. Takes the boot files with the plan's lines written, as they are meant to be. Throws `DeviceTreeError`
 * for a base tree of the maker's that cannot be read.
 */
export function modelOf(facts: Facts): Model {
  if (!facts.board) return { table: { probes: [], faults: [], planned: [], seen: [] }, see: () => [] }
  const { shop, looks, wires } = benchOf(facts)
  const see = (changes: readonly Change[]) => seenBy(looks, new World(shop, changes))
  const planned = seenBy(looks, shop.healthy)
  const rows = faultsOf({ facts, netlist: shop.netlist, wires, needs: shop.needs })
    .map((fault): [Fault, string[]] => [fault, see(fault.changes)])
    .filter(([, row]) => row.some((outcome, i) => outcome !== planned[i]))
  return {
    table: { probes: looks.map(({ probe }) => probe), faults: rows.map(([fault]) => fault), planned,
      seen: rows.map(([, row]) =>
        row) }, see,
  }
}

const seenBy = (looks: readonly Looking[], world: World) => looks.map(look => look.see(world))
