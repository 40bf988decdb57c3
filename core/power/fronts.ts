/** AC front ends of a plan: the settled waveform of each bridge behind a transformer, at peak. */
import type { NodeRef } from '../plan/power'
import { acCircuitOf } from './front/feed'
import { settledWave, type FrontWave } from './front/waveform'
import { wantsV } from '../netlist/supply/kinds'
import { stateNamed, type PowerState } from './states'
import type { SupplyTree, SupplyNode } from '../netlist/supply/types'

/** A bridge behind a transformer at peak, from its settled waveform. */
export interface FrontReport extends FrontWave {
  node: NodeRef
  name: string
  rippleV: number
  /** The transformer without load, V rms, and all resistance of it, its leads and the bridge. */
  emfV: number
  ohm: number
  hz: number
  /** What hangs behind it wants at least. */
  wantedV: number
  /** Peak without load: the transformer gives more, and the capacitor has to stand it. */
  highestV: number
}

export function frontsOf(tree: SupplyTree, states: PowerState[]): FrontReport[] {
  const peak = stateNamed(states, 'peak')
  return tree.nodes.filter(node => node.kind === 'rectifier').flatMap((node): FrontReport[] => {
    const circuit = acCircuitOf(tree, node)
    if (!circuit) return []
    const { voltageV, currentMa } = peak.nodes[node.id]!
    const behind = convertersBehind(tree, node)
    // A switching converter takes the more current the lower the voltage; all else takes what it takes.
    const switching = behind.some(other => other.kind !== 'linear')
    const wave = settledWave(circuit, switching ? { powerMw: voltageV * currentMa } : { currentMa })
    return [{
      node: node.id, name: node.name, ...wave, currentMa, rippleV: wave.peakV - wave.valleyV,
      wantedV: Math.max(0, ...behind.map(wantsV)), emfV: circuit.emfV, ohm: circuit.ohm, hz: circuit.hz,
      highestV: circuit.emfV * Math.SQRT2 - circuit.dropV,
    }]
  })
}

/** The first converters on every way from a node on: switches, fuses and wires lie between. */
function convertersBehind(tree: SupplyTree, node: SupplyNode, seen: ReadonlySet<string> = new Set()): SupplyNode[] {
  return tree.nodes.filter(other => other.from.includes(node.id) && !seen.has(other.id)).flatMap((other) => {
    if (other.figures.setV) return [other]
    return other.role === 'path' ? convertersBehind(tree, other, new Set([...seen, node.id])) : []
  })
}
