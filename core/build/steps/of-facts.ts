/** Steps straight from facts, for whoever has no netlist at hand. */
import type { Facts } from '../../facts/types'
import { netlistOf } from '../../netlist/build'
import { powerOf } from '../../power/report'
import { wiresOf } from '../wires'
import { buildOf, type BuildSteps } from './index'

export function stepsOf(facts: Facts): BuildSteps {
  const netlist = netlistOf(facts, powerOf(facts).tree)
  return buildOf(facts, netlist, wiresOf(facts, netlist))
}
