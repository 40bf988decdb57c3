/** The power tree as a flow from sources to loads in one state: what the picture draws. */
import type { NodeRef } from '../plan/power'
import type { PowerReport, ReportNode } from './report'
import type { PowerState } from './states'

export interface FlowNode {
  node: ReportNode
  voltageV: number
  currentMa: number
  powerMw: number
}

export interface FlowLink {
  from: NodeRef
  to: NodeRef
  currentMa: number
  /** What stands in the way and is not drawn as a node: a part's own wires. */
  through: NodeRef | null
  /** Node whose feed this is: putting something in goes before it. */
  consumer: NodeRef
  /** Flows against the way it is meant: towards the source. */
  backwards: boolean
}

export interface SupplyFlow {
  nodes: FlowNode[]
  links: FlowLink[]
  /** Nodes that nothing joins. */
  loose: FlowNode[]
}

/** A part's own wires are drawn as part of the link to it. */
const isHidden = (node: ReportNode) => node.id.endsWith('@wire') || /^@join\d+$/.test(node.id)

/** Consumer whose feed can be changed: the part for its wires, the node itself otherwise. */
export const consumerOf = (id: NodeRef): NodeRef => id.replace(/@wire$/, '').replace(/@load$/, '')

/**
 * Nodes and links of a state. Laws: links form no ring; a link's current is never negative; every node is in
 * `nodes` or `loose`.
 */
export function flowOf({ nodes }: Pick<PowerReport, 'nodes'>, state: PowerState): SupplyFlow {
  const byId = new Map(nodes.map(node => [node.id, node]))
  const figures = (node: ReportNode): FlowNode => {
    const { voltageV, currentMa, powerMw } = state.nodes[node.id]!
    return { node, voltageV, currentMa, powerMw }
  }
  const links: FlowLink[] = []
  for (const node of nodes) {
    if (isHidden(node)) continue
    for (const id of node.from) {
      const feed = byId.get(id)
      if (!feed) continue
      const hidden = isHidden(feed) ? feed : null
      const from = hidden ? byId.get(hidden.from[0] ?? '') : feed
      if (!from) continue
      let current: number
      if (hidden) current = state.nodes[hidden.id]!.currentMa
      else current = node.role === 'joint'
        ? state.nodes[feed.id]!.currentMa
        : takenBy(node, state)
      const backwards = current < -0.01
      links.push({
        from: backwards ? node.id : from.id, to: backwards ? from.id : node.id, currentMa: Math.abs(current),
        through: hidden?.id ?? null,
        consumer: consumerOf(node.id), backwards,
      })
    }
    const back = state.nodes[node.id]!.backMa ?? 0
    if (back > 0.01 && byId.has('@usb')) {
      links.push({ from: node.id, to: '@usb', currentMa: back, through: null, consumer: node.id, backwards: true })
    }
  }
  const shown = withoutRings(links)
  const joined = new Set(shown.flatMap(link => [link.from, link.to]))
  const visible = nodes.filter(node => !isHidden(node)).map(figures)
  return {
    nodes: visible.filter(({ node }) => joined.has(node.id)), links: shown,
    loose: visible.filter(({ node }) => !joined.has(node.id)),
  }
}

/** What a node takes from its feed: through a converter that is not what it gives. */
function takenBy(node: ReportNode, state: PowerState): number {
  const { inputV, inputMa, voltageV, currentMa, powerMw } = state.nodes[node.id]!
  if (inputMa !== undefined) return inputMa
  if (!['linear', 'step-down', 'step-up'].includes(node.kind) || !inputV) return currentMa
  return (voltageV * currentMa + powerMw) / inputV
}

/** Links in their order, but for those that would close a ring. */
function withoutRings(links: FlowLink[]): FlowLink[] {
  const next = new Map<NodeRef, NodeRef[]>()
  const leads = (from: NodeRef, to: NodeRef): boolean => {
    const stack = [from]
    const seen = new Set<NodeRef>()
    while (stack.length) {
      const at = stack.pop()!
      if (at === to) return true
      if (seen.has(at)) continue
      seen.add(at)
      stack.push(...next.get(at) ?? [])
    }
    return false
  }
  return links.filter((link) => {
    if (link.from === link.to || leads(link.to, link.from)) return false
    next.set(link.from, [...next.get(link.from) ?? [], link.to])
    return true
  })
}

/** Whether `feed` may feed `consumer`: it gives something, and is not itself fed by the consumer. */
export function mayFeed({ nodes }: Pick<PowerReport, 'nodes'>, consumer: NodeRef, feed: NodeRef): string | null {
  const byId = new Map(nodes.map(node => [node.id, node]))
  const from = byId.get(feed)
  const to = byId.get(consumer)
  if (!from || !to) return 'That is not in the power tree.'
  if (from.role === 'load') return `${from.name} takes and does not give.`
  if (to.role === 'source') return `${to.name} is a source: nothing feeds it.`
  if (consumer.startsWith('@') && consumer !== '@socket' && consumer !== '@header') {
    return `${to.name} belongs to the board and cannot be moved.`
  }
  const seen = new Set<NodeRef>()
  const stack = [feed]
  while (stack.length) {
    const at = stack.pop()!
    if (at === consumer) return `${from.name} is itself fed by ${to.name}: they would feed each other.`
    if (seen.has(at)) continue
    seen.add(at)
    stack.push(...byId.get(at)?.from ?? [])
  }
  return null
}
