/**
 * How much each load takes at a place further up: through a converter the current changes, through a wire it does not.
 */
import type { NodeRef } from '../plan/power'
import { sourceEmfV } from '../netlist/supply/resistance'
import type { PowerState } from './states'
import type { SupplyTree, SupplyNode } from '../netlist/supply/types'

export interface Share {
  node: NodeRef
  /** At the place asked for, in mA. */
  currentMa: number
}

/**
 * Currents of all loads as they count at `place` (a node that passes on, a joint or a source), in mA. Law: where one
 * feed leads to each load they add up to what flows through `place`. What a hub, a latch or a converter takes for
 * itself stands under its own name.
 */
export function sharesAt(tree: SupplyTree, state: PowerState, place: NodeRef): Share[] {
  const shares: Share[] = []
  for (const node of tree.nodes) {
    const figures = state.nodes[node.id]!
    if (node.role === 'load') {
      const ratio = ratioTo(tree, state, node, place)
      if (ratio !== null) shares.push({ node: node.id, currentMa: figures.currentMa * ratio })
      continue
    }
    const own = ownDraw(node)
    if (!own) continue
    const ratio = ratioTo(tree, state, node, place)
    if (ratio !== null) shares.push({ node: node.id, currentMa: own * ratio })
  }
  return shares
}

/** What a node between takes for itself, at its own output. */
const ownDraw = (node: SupplyNode): number => {
  if (node.kind === 'hub') return node.figures.ownMa?.value ?? 0
  return node.kind === 'latch'
    ? node.figures.quiescentMa?.value ?? 0
    : 0
}

/** Current at `place` for each mA at the node; null when the place does not feed it. */
function ratioTo(tree: SupplyTree, state: PowerState, node: SupplyNode, place: NodeRef): number | null {
  let ratio = 1
  let at: SupplyNode | undefined = node
  const seen = new Set<NodeRef>()
  while (at && !seen.has(at.id)) {
    if (at.id === place) return ratio
    seen.add(at.id)
    if (at !== node || node.role !== 'load') ratio *= conversion(at, state)
    at = nextUp(tree, state, at)
  }
  return null
}

/** Input current for each mA of output. */
function conversion(node: SupplyNode, state: PowerState): number {
  const { inputV = 0, inputMa, voltageV, currentMa, powerMw } = state.nodes[node.id]!
  if (node.kind === 'rectifier') return inputMa !== undefined && currentMa > 0 ? inputMa / currentMa : 1
  if (node.kind === 'linear') return currentMa > 0 ? 1 + (node.figures.quiescentMa?.value ?? 0) / currentMa : 1
  if (node.kind !== 'step-down' && node.kind !== 'step-up') return 1
  return inputV > 0 && currentMa > 0 ? (voltageV * currentMa + powerMw) / (inputV * currentMa) : 1
}

/** The feed that carries most of the current. */
function nextUp(tree: SupplyTree, state: PowerState, node: SupplyNode): SupplyNode | undefined {
  const feeds = node.from.map(id => tree.byId.get(id)).filter(feed => feed !== undefined)
  return feeds.length < 2
    ? feeds[0]
    : feeds.reduce((best,
        feed) => Math.abs(state.nodes[feed.id]!.currentMa) > Math.abs(state.nodes[best.id]!.currentMa) ? feed : best)
}

/** Nodes from `node` up to its source, the node itself first. */
export function pathUp(tree: SupplyTree, state: PowerState, id: NodeRef): SupplyNode[] {
  const path: SupplyNode[] = []
  let at = tree.byId.get(id)
  while (at && !path.includes(at)) {
    path.push(at)
    at = nextUp(tree, state, at)
  }
  return path
}

/** Volts lost in each node between the source and `id`, largest first. */
export function dropsTo(tree: SupplyTree, state: PowerState, id: NodeRef): { node: SupplyNode, dropV: number }[] {
  return pathUp(tree, state, id)
    .flatMap((node) => {
      const { inputV, voltageV } = state.nodes[node.id]!
      if (node.role === 'source') return [{ node, dropV: sourceEmfV(node) - voltageV }]
      return node.role === 'path' && inputV !== undefined ? [{ node, dropV: inputV - voltageV }] : []
    })
    .filter(({ node, dropV }) => dropV > 0 && !['linear', 'step-down', 'step-up', 'rectifier'].includes(node.kind))
    .sort((a, b) => b.dropV - a.dropV)
}
