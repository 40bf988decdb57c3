/** Joins the maker's nodes with those that follow from the plan, and finds what does not fit together. */
import type { Facts } from '../../facts/types'
import type { NodeRef, PowerPlan } from '../../plan/power'
import { boardNodes, partNodes, supplyNodes } from './derived'
import { ownNodes } from './own'
import type { SupplyTree, SupplyNode, TreeProblem } from './types'

/** The whole power tree of a plan. Never throws: what cannot be joined is listed in `problems`. */
export function buildTree(facts: Facts, power: PowerPlan = facts.plan.power): SupplyTree {
  const problems: TreeProblem[] = []
  const nodes = [
    ...supplyNodes(facts, power, problems), ...ownNodes(power, facts, problems), ...boardNodes(facts, power, problems),
    ...partNodes(facts, power, problems),
  ]
  const byId = new Map(nodes.map(node => [node.id, node]))
  for (const node of nodes) connect(node, byId, problems)
  const joined = [...nodes, ...joinNodes(power, byId, problems)]
  problems.push(...rings(nodes, byId))
  const fed = reached(joined)
  const assumed = byId.has('@5V') && !fed.has('@5V')
  // A rail that nothing feeds is assumed to be there, so only the maker's own loads count as unfed.
  for (const node of joined) {
    if (node.role === 'load' && !fed.has(node.id) && !(assumed && hangsOn(node, '@5V', byId))
      && !isUnchosen(node, facts)) {
      problems.push({ kind: 'unfed', node: node.id })
    }
  }
  return { nodes: inFeedingOrder(joined, byId), byId: new Map(joined.map(node => [node.id, node])), problems, assumed }
}

/** A plan without a board has no rails yet: its parts wait, they are not wrong. */
const isUnchosen = (node: SupplyNode, { board }: Facts) => !board && node.kind === 'part' && !node.from.length

/** Gives a node the joint that its feed gives to. A feed that is not there, or that gives nothing, is a problem. */
function connect(node: SupplyNode, byId: ReadonlyMap<NodeRef, SupplyNode>, problems: TreeProblem[]): void {
  if (node.upstream && !byId.get(node.upstream)?.output) {
    problems.push({ kind: 'unknown-upstream', node: node.id, upstream: node.upstream })
    delete node.upstream
  }
  const [from] = node.from
  if (node.input !== null || from === undefined) return
  // A supply with a lead feeds through its lead.
  const lead = byId.get(`${from}@lead`)
  const feeder = lead && node.id !== lead.id
    ? lead
    : byId.get(from) ?? (from === '@cable' ? byId.get('@supply') : undefined)
  if (feeder?.output) {
    node.input = feeder.output
    node.from = [feeder.id]
  }
  else {
    problems.push({ kind: 'unknown-feed', node: node.id, feed: from })
    node.from = []
  }
}

/** Second ways into a joint: a plug that is also put in. */
function joinNodes(power: PowerPlan, byId: ReadonlyMap<NodeRef, SupplyNode>, problems: TreeProblem[]): SupplyNode[] {
  const once = power.joins.filter(({ from, into }, i,
    all) => all.findIndex(other => other.from === from && other.into === into) === i)
  return once.flatMap(({ from, into }, i): SupplyNode[] => {
    const id = `@join${i + 1}`
    const feeder = byId.get(`${from}@lead`) ?? byId.get(from === '@supply' && byId.has('@cable') ? '@cable' : from)
    const target = byId.get(into)
    const joint = target?.output ?? (target?.role === 'load' ? target.input : null)
    if (!feeder?.output || !joint) {
      problems.push({ kind: 'unknown-join', join: { from, into } })
      return []
    }
    target!.from.push(id)
    return [{
      id, kind: 'connector', role: 'path', name: `Plug into ${target!.name}`, from: [feeder.id], input: feeder.output,
      output: joint,
      figures: { ohm: { value: 0.03, origin: 'memory' }, ratedMa: { value: 3000, origin: 'memory' } }, own: false,
      open: false,
    }]
  })
}

/** Nodes that feed each other with no source among them. */
function rings(nodes: SupplyNode[], byId: ReadonlyMap<NodeRef, SupplyNode>): TreeProblem[] {
  const settled = new Set<NodeRef>()
  const found: TreeProblem[] = []
  for (const start of nodes) {
    const trail: NodeRef[] = []
    let at: SupplyNode | undefined = start
    while (at && !settled.has(at.id)) {
      const seen = trail.indexOf(at.id)
      if (seen >= 0) {
        found.push({ kind: 'ring', nodes: trail.slice(seen) })
        break
      }
      trail.push(at.id)
      at = at.from.length ? byId.get(at.from[0]!) : undefined
    }
    for (const id of trail) settled.add(id)
  }
  return found
}

/** Nodes that some source reaches, in the direction of feeding. */
function reached(nodes: SupplyNode[]): Set<NodeRef> {
  const fed = new Set(nodes.filter(node => node.role === 'source').map(node => node.id))
  let before = -1
  while (fed.size > before) {
    before = fed.size
    for (const node of nodes) {
      // A wire to a part whose own socket is fed carries the supply the other way.
      const backwards = node.partId !== undefined && node.output !== null && node.kind !== 'part'
        && fed.has(node.output)
      if (node.from.some(id => fed.has(id)) || backwards) fed.add(node.id)
      if (backwards) for (const id of node.from) fed.add(id)
      if (node.kind === 'position' && fed.has(node.id)) for (const id of node.from) fed.add(id)
      if (node.kind === 'hub' && node.upstream && fed.has(node.id) && (node.figures.backOhm?.value ?? 0) > 0) {
        fed.add(node.upstream)
        if (node.upstream === '@usb') fed.add('@5V')
      }
    }
  }
  return fed
}

function hangsOn(node: SupplyNode, root: NodeRef, byId: ReadonlyMap<NodeRef, SupplyNode>): boolean {
  const seen = new Set<NodeRef>()
  const stack = [node.id]
  while (stack.length) {
    const id = stack.pop()!
    if (id === root) return true
    if (seen.has(id)) continue
    seen.add(id)
    stack.push(...byId.get(id)?.from ?? [])
  }
  return false
}

/** Every node after those that feed it, as far as there is such an order. */
function inFeedingOrder(nodes: SupplyNode[], byId: ReadonlyMap<NodeRef, SupplyNode>): SupplyNode[] {
  const ordered = new Set<SupplyNode>()
  const visit = (node: SupplyNode, trail: ReadonlySet<NodeRef>) => {
    if (ordered.has(node) || trail.has(node.id)) return
    const further = new Set([...trail, node.id])
    for (const id of node.from) {
      const feeder = byId.get(id)
      if (feeder) visit(feeder, further)
    }
    ordered.add(node)
  }
  for (const node of nodes.filter(entry => entry.role === 'source')) visit(node, new Set())
  for (const node of nodes) visit(node, new Set())
  return [...ordered]
}
