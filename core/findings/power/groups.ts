/** Joints that hang together without a diode or a converter between, and what gives to each such group. */
import { ONE_WAY } from '../../netlist/supply/kinds'
import type { NodeRef } from '../../plan/power'
import type { SupplyTree, SupplyNode } from '../../netlist/supply/types'

/** Joints that conduct both ways, as groups: each joint's group is named by one of them. */
export function conductingGroups(tree: SupplyTree): Map<string, string> {
  const parent = new Map<string, string>()
  const find = (joint: string): string => {
    const up = parent.get(joint) ?? joint
    return up === joint ? joint : find(up)
  }
  const union = (a: string, b: string) => parent.set(find(a), find(b))
  for (const node of tree.nodes) {
    if (node.open) continue
    if (node.role === 'path' && node.input && node.output && !ONE_WAY.has(node.kind)) union(node.input, node.output)
    const upstream = node.kind === 'hub' && (node.figures.backOhm?.value ?? 0) > 0 && node.upstream
      && tree.byId.get(node.upstream)?.output
    if (upstream) union(node.output!, upstream)
  }
  return new Map(tree.nodes.flatMap(node => [node.output, node.input]).filter(joint => joint !== null)
    .map(joint => [joint, find(joint)]))
}

/** Kinds that hold their output at a voltage of their own: on a rail they are a source like any other. */
const HOLDS_OUTPUT: ReadonlySet<SupplyNode['kind']> = new Set<SupplyNode['kind']>(['linear', 'step-down', 'step-up',
  'rectifier'])

/** What gives, by the group of joints it gives to: sources, and fed converters whose input lies on another group. */
export function sourcesByGroup(tree: SupplyTree, groups: Map<string, string>): Map<string, SupplyNode[]> {
  const found = new Map<string, SupplyNode[]>()
  const gives = (node: SupplyNode) =>
    node.role === 'source'
    || (HOLDS_OUTPUT.has(node.kind) && groups.get(node.input ?? '') !== groups.get(node.output!)
      && rootsOf(tree, node.id).size > 0)
  for (const source of tree.nodes.filter(node => !node.open && node.output !== null && gives(node))) {
    const group = groups.get(source.output!)!
    found.set(group, [...found.get(group) ?? [], source])
  }
  return found
}

/** The sources that feed a node, whatever lies between. */
export function rootsOf(tree: SupplyTree, id: NodeRef): Set<NodeRef> {
  const found = new Set<NodeRef>()
  const seen = new Set<NodeRef>()
  const stack = [id]
  while (stack.length) {
    const at = stack.pop()!
    if (seen.has(at)) continue
    seen.add(at)
    const node = tree.byId.get(at)
    if (node?.open) continue
    if (node?.role === 'source') found.add(at)
    stack.push(...node?.from ?? [])
  }
  return found
}
