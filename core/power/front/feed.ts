/** What feeds a bridge: the transformer behind it with all resistance on the way, or a source of direct voltage. */
import { cableOhm, sourceEmfV, sourceOhm } from '../../netlist/supply/resistance'
import type { SupplyTree, SupplyNode } from '../../netlist/supply/types'
import type { FrontCircuit } from './waveform'

/**
 * The bridge's circuit when a transformer feeds it through nothing but resistances; null when it gets direct
 * voltage or none.
 */
export function acCircuitOf(tree: SupplyTree, bridge: SupplyNode): FrontCircuit | null {
  const value = (name: string, otherwise: number) => bridge.figures[name]?.value ?? otherwise
  let ohm = value('ohm', 0)
  const seen = new Set<SupplyNode>([bridge])
  for (let at = feederOf(tree, bridge); at && !seen.has(at); at = feederOf(tree, at)) {
    seen.add(at)
    if (at.role === 'source') {
      if (at.kind !== 'transformer') return null
      return {
        emfV: sourceEmfV(at), ohm: ohm + sourceOhm(at), dropV: value('dropV', 0), hz: value('hz', 50),
        capacitanceUf: Math.max(1, value('capacitanceUf', 1)),
      }
    }
    if (at.figures.setV || at.kind === 'rectifier' || at.kind === 'diode' || at.kind === 'ideal-diode') return null
    ohm += at.kind === 'cable' ? cableOhm(at) : at.figures.ohm?.value ?? 0
  }
  return null
}

const feederOf = (tree: SupplyTree, node: SupplyNode): SupplyNode | undefined =>
  node.from.length ? tree.byId.get(node.from[0]!) : undefined
