/** The nodes that the maker put into the power tree. */
import type { Facts } from '../../facts/types'
import type { NodeRef, PowerNode, PowerPlan } from '../../plan/power'
import type { SupplyUnit } from '../../catalogue/types'
import { KINDS } from './kinds'
import { figuresOf, type Origins } from './figures'
import type { SupplyNode, TreeProblem } from './types'

/** What a small transformer gives without load, over its rated voltage. Memory, where its file says nothing else. */
const NO_LOAD_FACTOR = 1.15

/** Figures that only some kinds of supply have. */
const OF_A_KIND = ['crankV', 'crankS', 'crankRestV', 'dumpV', 'classW'] as const

/** Source figures of a supply file. */
export const sourceFigures = (unit: SupplyUnit): Record<string, number> =>
  ({
    voltageV: unit.voltageV, currentMa: unit.currentMa,
    ...unit.kind === 'transformer'
      ? { noLoadFactor: unit.noLoadFactor ?? NO_LOAD_FACTOR, ohm: unit.ohm ?? 0 }
      : { ohm: unit.ohm ?? 0.05 },
    ...Object.fromEntries(OF_A_KIND.flatMap(name => unit[name] === undefined ? [] : [[name, unit[name]]])),
    ...unit.capacityMah !== undefined && { capacityMah: unit.capacityMah },
  })

/** A supply as a node of the tree. */
export function sourceNode(
  id: NodeRef, name: string, unit: SupplyUnit, own: Record<string, number> | undefined, isOwn: boolean,
  problems: TreeProblem[],
): SupplyNode {
  return {
    id, kind: unit.kind, role: 'source', name, from: [], input: null, output: id,
    figures: figuresOf(id, unit.kind, sourceFigures(unit), unit, own, problems),
    own: isOwn, open: false, unit, price: unit.price, cautions: unit.cautions,
  }
}

/** What is published of a supply says nothing of the lead that comes with it. */
const leadOrigins = ({ origins }: SupplyUnit): Origins => ({ origin: origins?.cable ?? 'memory' })

/** The lead that comes with a supply, as a node of its own. */
export function leadNode(
  id: NodeRef, from: NodeRef, unit: SupplyUnit, own: Record<string, number> | undefined, problems: TreeProblem[],
): SupplyNode
  | null {
  if (!unit.cable) return null
  const { awg, lengthM, contactOhm } = unit.cable
  return {
    id, kind: 'cable', role: 'path', name: 'its lead', from: [from], input: from, output: id,
    figures: figuresOf(id, 'cable', { awg, lengthM, contactOhm, bundledPairs: 1, measuredOhm: 0 }, leadOrigins(unit),
      own, problems),
    own: false,
    open: false,
  }
}

/** Nodes of the plan, in its order. A supply brings its lead along as `id@lead`. */
export function ownNodes(power: PowerPlan, { catalogue }: Facts, problems: TreeProblem[]): SupplyNode[] {
  return power.nodes.flatMap((node): SupplyNode[] => {
    const unit = catalogue.supplies.get(node.type)
    if (unit) {
      const source = sourceNode(node.id, node.name || unit.name, unit, node.figures, true, problems)
      const lead = leadNode(leadOf(node.id), node.id, unit, power.figures[leadOf(node.id)], problems)
      return lead ? [source, lead] : [source]
    }
    const made = itemNode(node, catalogue.powerItems.get(node.type), power, problems)
    return made ? [made] : []
  })
}

export const leadOf = (id: NodeRef): NodeRef => `${id}@lead`

function itemNode(
  node: PowerNode, item: ReturnType<Facts['catalogue']['powerItems']['get']>, power: PowerPlan, problems: TreeProblem[],
): SupplyNode
  | null {
  if (!item) {
    problems.push({ kind: 'unknown-type', node: node.id, type: node.type })
    return null
  }
  const { role } = KINDS[item.kind]
  const usual: Record<string, number> = item.kind === 'cable' ? { bundledPairs: 1, measuredOhm: 0 } : {}
  return {
    id: node.id, kind: item.kind, role, name: node.name || item.name, from: node.from ? [node.from] : [], input: null,
    output: role === 'load' ? null : node.id,
    figures: figuresOf(
      node.id, item.kind, { ...usual, ...item.figures }, item, { ...node.figures, ...power.figures[node.id] }, problems,
    ),
    efficiency: item.efficiency, law: item.law,
    own: true, open: node.open === true, item, ...item.kind === 'hub' && node.upstream && { upstream: node.upstream },
    price: item.price,
    cautions: item.cautions,
  }
}
