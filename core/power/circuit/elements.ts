/** The power tree as a circuit: each node becomes its element, each load draws what the state says. */
import type { LoadState, NodeRef } from '../../plan/power'
import type { Element } from './types'
import { acCircuitOf } from '../front/feed'
import { frontCurve } from '../front/waveform'
import { cableOhm, sourceEmfV, sourceOhm } from '../../netlist/supply/resistance'
import type { SupplyTree, SupplyNode } from '../../netlist/supply/types'

/** How the loads and switches stand. */
export interface Setting {
  /** What a load draws; loads not named stand at `usual`. */
  loads: Readonly<Record<NodeRef, LoadState>>
  usual: LoadState
  /** Switches that are open, beside those open in the plan. */
  open: readonly NodeRef[]
}

const value = (node: SupplyNode, name: string, otherwise = 0): number => node.figures[name]?.value ?? otherwise

/** Current a load draws in a state, in mA at its rated voltage. */
export function drawnMa(node: SupplyNode, state: LoadState): number {
  switch (state) {
    case 'off': return 0
    // At start-up what has no surge of its own is simply on, and a relay has not pulled in yet.
    case 'surge': return node.kind === 'contact-load' ? 0 : value(node, 'surgeMa') || value(node, 'typicalMa')
    default: return value(node, `${state}Ma`)
  }
}

/** What the circuit is made of in every state: all but the loads. */
export interface Fabric {
  node: SupplyNode
  elements: Element[]
}

/** Elements of all nodes that are no loads; worked out once for all states of a tree. */
export function fabricOf(tree: SupplyTree): Fabric[] {
  const given = new Map<string, number>()
  for (const { output, id } of tree.nodes) if (output !== null) given.set(output,
    (given.get(output) ?? 0) + (output === id ? 1 : 2))
  return tree.nodes.flatMap((node): Fabric[] => {
    if (node.open) return []
    if (node.role === 'load') {
      // A part's terminal is a joint of its own: it is fed when a wire or a plug gives to it.
      const isFed = node.input !== null && (node.from.length > 0 || (given.get(node.input) ?? 0) > 1)
      return isFed ? [{ node, elements: [] }] : []
    }
    const elements = elementOf(node, tree)
    return elements.length ? [{ node, elements }] : []
  })
}

const ASSUMED: Element = { kind: 'source', id: '@assumed', to: '@5V', voltageV: 5, ohm: 0.001 }

/** Elements of the circuit in one setting. What is open, unfed or unknown is left out. */
export function elementsOf(tree: SupplyTree, setting: Setting, fabric: readonly Fabric[] = fabricOf(tree)): Element[] {
  const elements: Element[] = tree.assumed ? [ASSUMED] : []
  for (const { node, elements: made } of fabric) {
    if (setting.open.includes(node.id)) continue
    if (node.role === 'load') elements.push(loadOf(node, setting))
    else elements.push(...made)
  }
  return elements
}

function elementOf(node: SupplyNode, tree: SupplyTree): Element[] {
  const { id, input, output } = node
  if (node.role === 'source') return [{
    kind: 'source', id, to: output!, voltageV: sourceEmfV(node), ohm: sourceOhm(node), takesBack: node.unit?.takesBack,
    ...node.unit?.limitsCurrent && { limitMa: value(node, 'currentMa') },
  }]
  if (node.role === 'joint' || input === null || output === null) return []
  const between = { id, from: input, to: output }
  switch (node.kind) {
    case 'cable': return [{ kind: 'resistance', ...between, ohm: cableOhm(node) }]
    case 'diode': case 'ideal-diode': return [{ kind: 'diode', ...between, dropV: value(node, 'dropV'),
      ohm: value(node, 'ohm') }]
    case 'linear': case 'step-down': case 'step-up': return [{
      kind: 'regulator', ...between, setV: value(node, 'setV'),
      ...node.kind !== 'step-up' && { headroomV: value(node, 'headroomV') },
      leastInV: value(node, 'leastInV', 0.5), ohm: value(node, 'ohm', 0.02), quiescentMa: value(node, 'quiescentMa'),
      efficiency: node.efficiency ?? null,
    }]
    case 'rectifier': {
      const circuit = acCircuitOf(tree, node)
      // Behind a source of direct voltage a bridge is two diodes in series, whichever way round the poles are.
      return [circuit
        ? { kind: 'rectifier', ...between, emfV: circuit.emfV, curve: frontCurve(circuit) }
        : { kind: 'diode', ...between, dropV: value(node, 'dropV'), ohm: value(node, 'ohm') }]
    }
    case 'capacitor': return [{ kind: 'resistance', ...between, ohm: 0.001 }]
    case 'latch': return [{ kind: 'resistance', ...between, ohm: value(node, 'ohm') }, own(node, 'quiescentMa')]
    case 'hub': {
      const back = value(node, 'backOhm')
      const upstream = node.upstream && tree.byId.get(node.upstream)?.output
      return [
        { kind: 'resistance', ...between, ohm: value(node, 'ohm') }, own(node, 'ownMa'),
        ...upstream && back > 0
          ? [{ kind: 'resistance' as const, id: backOf(id), from: output, to: upstream, ohm: back }]
          : [],
      ]
    }
    default: return [{ kind: 'resistance', ...between, ohm: value(node, 'ohm') }]
  }
}

/** The path through which a hub feeds its upstream port. */
export const backOf = (hub: NodeRef): string => `${hub}~back`

/** What a latch or a hub draws for itself. */
export const ownOf = (node: NodeRef): string => `${node}~own`
const own = (node: SupplyNode, figure: string): Element => ({
  kind: 'load', id: ownOf(node.id), at: node.output!, law: 'current', currentMa: value(node, figure), ratedV: 5,
  leastV: 0.5,
})

/** Below this part of its least voltage a load no longer draws as it should: it is dark. */
const DARK_SHARE = 0.75

function loadOf(node: SupplyNode, setting: Setting): Element {
  const currentMa = drawnMa(node, setting.loads[node.id] ?? setting.usual)
  return {
    kind: 'load', id: node.id, at: node.input!, law: node.law ?? 'current', currentMa, ratedV: value(node, 'ratedV', 5),
    leastV: Math.max(0.3, value(node, 'leastV', 4) * (node.kind === 'board' ? 1 : DARK_SHARE)),
  }
}
