/** Steps straight from facts, for whoever has no netlist at hand. */
import type { Facts } from '../facts/types'
import { assemblyOf } from '../mechanics/assembly'
import { fastenersOf } from '../mechanics/stack'
import { netlistOf } from '../netlist/build'
import type { SupplyTree } from '../netlist/supply/types'
import { powerOf } from '../power/report'
import type { PaperDocument } from '../documents/paper'
import { benchSheetOf } from './bench-sheet'
import { partsListOf } from './parts-list'
import { wiresOf } from './wires'
import { buildOf, type BuildSteps } from './steps'

/** What the bench sheet is made of. */
export function sheetOf(facts: Facts, stops: readonly string[]): PaperDocument {
  const power = powerOf(facts)
  const netlist = netlistOf(facts, power.tree)
  const wires = wiresOf(facts, netlist)
  return benchSheetOf({
    facts, netlist, wires, stops, items: partsListOf(netlist, wires, fastenersOf(facts)),
    build: buildOf(facts, netlist, wires),
    assembly: facts.board?.body ? assemblyOf(facts, power.tree) : null,
  })
}

/** The supply's tree, for whoever asks for steps and bodies of the same plan. */
export const treeOf = (facts: Facts): SupplyTree => powerOf(facts).tree

export function stepsOf(facts: Facts, tree: SupplyTree = treeOf(facts)): BuildSteps {
  const netlist = netlistOf(facts, tree)
  return buildOf(facts, netlist, wiresOf(facts, netlist))
}
