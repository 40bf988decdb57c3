/** The states a plan is judged in, and the circuit solved in each. */
import type { BaseState, LoadState, NodeRef, PowerPlan } from '../plan/power'
import { prepare, solve, type Prepared } from './circuit/solve'
import type { Operating } from './circuit/types'
import { backOf, elementsOf, fabricOf, ownOf, type Setting } from './circuit/elements'
import type { SupplyTree, SupplyNode } from '../netlist/supply/types'

export interface PowerState {
  id: string
  label: string
  /** False when no operating point exists with every load alight: a brown-out. */
  ok: boolean
  /** What part of all loads together the supply can carry; 1 when `ok`. */
  carriedShare: number
  dark: NodeRef[]
  nodes: Record<NodeRef, NodeFigures>
}

export interface NodeFigures {
  /** At what it gives to; of a load, at the load. */
  voltageV: number
  /** At what it takes from; absent for sources and loads. */
  inputV?: number
  /** Through it, towards the loads; negative when it flows back. Of a joint, what it passes on. */
  currentMa: number
  /** Given by a source, taken by a load, passed on by a joint, lost in what stands between. */
  powerMw: number
  /** Bridge: into its AC side, root mean square. */
  inputMa?: number
  /** Hub: what it feeds into its upstream port, against the way it should go. */
  backMa?: number
}

export interface StateSpec {
  id: string
  label: string
  setting: Setting
  seconds: number
}

const BASE_LABELS: Readonly<Record<BaseState, string>> = { idle: 'Idle', typical: 'Typical', peak: 'Peak',
  start: 'Start-up' }
const BASE_LOAD: Readonly<Record<BaseState, LoadState>> = { idle: 'idle', typical: 'typical', peak: 'peak',
  start: 'surge' }

/** The four states every plan has, then the plan's own steps. */
export function stateSpecs(power: PowerPlan): StateSpec[] {
  return [
    ...(Object.keys(BASE_LABELS) as BaseState[]).map(id => ({
      id, label: BASE_LABELS[id], setting: { loads: {}, usual: BASE_LOAD[id], open: [] }, seconds: 0,
    })),
    ...power.steps.map(step => ({
      id: step.id, label: step.name || step.id,
      setting: { loads: step.loads, usual: BASE_LOAD[step.base], open: step.open },
      seconds: step.seconds,
    })),
  ]
}

export const stateNamed = (states: readonly PowerState[],
  id: string): PowerState => states.find(state => state.id === id)!

/** The circuit solved in each of the states; what they share is made ready once. */
export function solveStates(tree: SupplyTree, specs: readonly StateSpec[]): PowerState[] {
  const fabric = fabricOf(tree)
  const joints = tree.nodes.filter(node => node.role === 'joint')
  let like: Prepared | undefined
  return specs.map(({ id, label, setting }) => {
    const circuit = prepare(elementsOf(tree, setting, fabric), like)
    like ??= circuit
    const point = solve(circuit)
    const nodes: PowerState['nodes'] = {}
    for (const node of tree.nodes) nodes[node.id] = figuresAt(node, point)
    for (const node of joints) nodes[node.id] = passedOn(node, nodes, tree)
    return { id, label, ok: point.ok, carriedShare: point.carriedShare, dark: point.dark, nodes }
  })
}

const SCALE = [1, 10, 100, 1000, 10_000] as const
const round = (value: number, digits: 2 | 3 | 4) => Math.round(value * SCALE[digits]) / SCALE[digits] + 0

function figuresAt(node: SupplyNode, { voltages, flows }: Operating): NodeFigures {
  const inV = node.input === null ? 0 : voltages[node.input] ?? 0
  const outV = node.output === null ? 0 : voltages[node.output] ?? 0
  const flow = flows[node.id]
  if (node.role === 'source') return figures(outV, flow?.outMa ?? 0, outV * (flow?.outMa ?? 0))
  if (node.role === 'load') return figures(inV, flow?.inMa ?? 0, inV * (flow?.inMa ?? 0))
  if (node.role === 'joint') return figures(outV, 0, 0)
  const lossMw = flow ? inV * flow.inMa - outV * flow.outMa : 0
  // The rectifier's input is in V rms with pulses of current: its loss counts on the direct side.
  const { dropV, ohm } = node.figures
  const loss = node.kind === 'rectifier' && flow
    ? (dropV?.value ?? 0) * flow.outMa + (ohm?.value ?? 0) * flow.inMa ** 2 / 1000
    : lossMw
  const back = node.kind === 'hub' ? flows[backOf(node.id)] : undefined
  const lost = node.kind === 'hub' || node.kind === 'latch' ? loss + (flows[ownOf(node.id)]?.inMa ?? 0) * outV : loss
  const given = figures(outV, flow?.outMa ?? 0, lost)
  given.inputV = round(inV, 4)
  if (node.kind === 'rectifier' && flow) given.inputMa = round(flow.inMa, 3)
  if (back) given.backMa = round(back.outMa, 3)
  return given
}

const figures = (voltageV: number, currentMa: number, powerMw: number): NodeFigures => ({
  voltageV: round(voltageV, 4), currentMa: round(currentMa, 3), powerMw: round(powerMw, 2),
})

/** What a joint passes on: all that flows into it, from its feeds or backwards from what hangs on it. */
function passedOn(joint: SupplyNode, nodes: PowerState['nodes'], tree: SupplyTree): NodeFigures {
  const { voltageV } = nodes[joint.id]!
  let currentMa = 0
  for (const node of tree.nodes) {
    if (node.role !== 'path') continue
    const flowing = nodes[node.id]!.currentMa
    if (node.output === joint.output && flowing > 0) currentMa += flowing
    else if (node.input === joint.output && flowing < 0) currentMa -= flowing
    if (node.kind === 'hub' && node.upstream && tree.byId.get(node.upstream)?.output === joint.output) {
      currentMa += Math.max(0, nodes[node.id]!.backMa ?? 0)
    }
  }
  return figures(voltageV, currentMa, voltageV * currentMa)
}
