/** Everything Voltaris knows of a plan's supply, as plain data: the tree, its states, rails, sources, stores, heat and hold-up. */
import type { EfficiencyPoint, Origin } from '../catalogue/types'
import type { Facts } from '../facts/types'
import type { NodeRef, PowerPlan } from '../plan/power'
import { boardHeat } from '../facts/board'
import { railBudgets, sourceBudgets, type RailBudget, type SourceBudget } from './budget'
import { rectifierFigures, type RectifierFigures } from './front/rectifier'
import { COOLERS, enclosureOf } from './heat/coolers'
import { runHeat, type HeatRun, type HeatTask } from './heat/run'
import { holdsOf, type HoldReport } from './holds'
import { copperRth, STORES, type NodeKind, type NodeRole } from '../netlist/supply/kinds'
import { dropsTo } from './shares'
import { solveStates, stateSpecs, type PowerState } from './states'
import { dayOf, storeReport, type StoreReport } from './store/hours'
import { simulateWeek, type Week } from './store/week'
import { buildTree } from '../netlist/supply/build'
import type { NodeFigure, Tree, TreeNode, TreeProblem } from '../netlist/supply/types'

export interface ReportNode {
  id: NodeRef
  kind: NodeKind
  role: NodeRole
  name: string
  partId: string | null
  from: NodeRef[]
  figures: Record<string, NodeFigure>
  efficiency?: EfficiencyPoint[]
  own: boolean
  open: boolean
  origin?: Origin
  price: number | null
}

/** A regulator's own heat. */
export interface RegulatorHeat {
  node: NodeRef
  name: string
  lossW: number
  kw: number
  temperatureC: number
  hottestC: number
  origin: Origin
}

export interface FrontReport extends RectifierFigures {
  node: NodeRef
  name: string
  currentMa: number
  /** What hangs behind it wants at least. */
  wantedV: number
  /** Peak without load: the transformer gives more, and the capacitor has to stand it. */
  highestV: number
}

export interface PowerReport {
  rails: RailBudget[]
  sources: SourceBudget[]
  /** Hours of the store that carries the plan, over the plan's day; null without one. */
  hours: number | null
  nodes: ReportNode[]
  problems: TreeProblem[]
  assumed: boolean
  states: PowerState[]
  /** Volts lost on the way to the 5 V rail at peak, largest first. */
  drops: { node: NodeRef, name: string, dropV: number }[]
  stores: StoreReport[]
  week: Week | null
  heat: (HeatRun & { boardW: number, ambientC: number, slowsC: number, stopsC: number }) | null
  regulators: RegulatorHeat[]
  holds: HoldReport[]
  fronts: FrontReport[]
  /** Made-up price of everything of the tree that has one. */
  price: number
}

/** A plan's supply as the rules see it: the report, and the tree with its catalogue entries. */
export interface Power {
  tree: Tree
  states: PowerState[]
  report: PowerReport
}

/** Tree and states alone: what trying a change needs; only the states named, where some are. */
export function solvePower(facts: Facts, only?: readonly string[]): Pick<Power, 'tree' | 'states'> {
  const tree = buildTree(facts)
  const specs = stateSpecs(facts.plan.power)
  return { tree, states: solveStates(tree, only ? specs.filter(spec => only.includes(spec.id)) : specs) }
}

/** The whole of it. Never throws on a plan that `readPlan` accepted. */
export function powerOf(facts: Facts): Power {
  const { tree, states } = solvePower(facts)
  const { power } = facts.plan
  const stores = storesOf(tree, states, power)
  const regulators = regulatorHeat(tree, states, power.heat.ambientC)
  const report: PowerReport = {
    rails: railBudgets(facts, { tree, states }), sources: sourceBudgets({ tree, states }), hours: headlineHours(tree, states, stores),
    nodes: tree.nodes.map(plain), problems: tree.problems, assumed: tree.assumed, states,
    drops: tree.byId.has('@5V') && !tree.assumed
      ? dropsTo(tree, stateNamed(states, 'peak'), '@5V').map(({ node, dropV }) => ({ node: node.id, name: node.name, dropV }))
      : [],
    stores, week: weekOf(stores, power), heat: heatOf(facts, states, regulators), regulators, holds: holdsOf(facts, tree, states),
    fronts: frontsOf(tree, states),
    price: tree.nodes.reduce((sum, node) => sum + (node.price ?? 0), 0),
  }
  return { tree, states, report }
}

export const stateNamed = (states: PowerState[], id: string): PowerState => states.find(state => state.id === id)!

function plain({ id, kind, role, name, partId, from, figures, efficiency, own, open, unit, item, price }: TreeNode): ReportNode {
  return {
    id, kind, role, name, partId: partId ?? null, from, figures, ...efficiency && { efficiency }, own, open,
    ...(unit ?? item) && { origin: (unit ?? item)!.origin }, price: price ?? null,
  }
}

/** Hours of the store that carries the plan; null where another source carries it and the store only waits. */
function headlineHours(tree: Tree, states: PowerState[], [store]: StoreReport[]): number | null {
  if (!store) return null
  const typical = stateNamed(states, 'typical')
  const all = tree.nodes.filter(node => node.role === 'source').reduce((sum, node) => sum + typical.nodes[node.id]!.powerMw, 0)
  return typical.nodes[store.node]!.powerMw * 2 >= all && all > 0 ? store.hours : null
}

/** Least voltage of a store at which something that hangs on it still works. */
function leastWanted(tree: Tree, states: PowerState[], source: TreeNode): number {
  const peak = stateNamed(states, 'peak')
  const fedBy = (node: TreeNode): boolean => {
    const seen = new Set<string>()
    for (let at: TreeNode | undefined = node; at && !seen.has(at.id); at = at.from.length ? tree.byId.get(at.from[0]!) : undefined) {
      if (at.id === source.id) return true
      seen.add(at.id)
      // A converter hides the store's voltage from what is behind it.
      if (at !== node && at.figures.setV) return false
    }
    return false
  }
  const converters = tree.nodes.filter(node => node.figures.setV && fedBy(node) && peak.nodes[node.id]!.currentMa > 0)
  return Math.max(0, ...converters.map(wantsV), ...tree.nodes.filter(node => node.role === 'load' && fedBy(node))
    .map(node => node.figures.leastV?.value ?? 0))
}

/** Least input of a converter or regulator, in V. */
export const wantsV = ({ figures, kind }: TreeNode): number =>
  Math.max(figures.leastInV?.value ?? 0, kind === 'step-up' ? 0 : (figures.setV?.value ?? 0) + (figures.headroomV?.value ?? 0))

function storesOf(tree: Tree, states: PowerState[], power: PowerPlan): StoreReport[] {
  return tree.nodes.filter(node => node.role === 'source' && STORES.has(node.kind) && (node.figures.capacityMah?.value ?? 0) > 0)
    .map(node => storeReport(tree, states, stateSpecs(power), node, power.day, power.store.temperatureC, leastWanted(tree, states, node)))
    // A store that feeds nothing waits behind those that do.
    .sort((a, b) => Number(b.meanW > b.selfUseW) - Number(a.meanW > a.selfUseW))
}

function weekOf([store]: StoreReport[], { store: asked, day }: PowerPlan): Week | null {
  if (!store) return null
  const parts = dayOf(day)
  const loadW = (hour: number) => {
    const i = parts.findIndex(part => hour >= part.fromH && hour < part.toH)
    return (store.day[i]?.powerW ?? 0) + store.selfUseW
  }
  return simulateWeek({
    usableWh: store.capacity.usableWh, efficiency: store.efficiency, startShare: asked.startShare, panelW: asked.panelW,
    dayLengthH: asked.dayLengthH, weather: asked.weather, loadW,
  })
}

/** The load test's task as the plan puts it; null without a board. */
export function heatTask(facts: Facts, states: PowerState[], otherW: number): HeatTask | null {
  const { board, plan: { power: { heat } } } = facts
  if (!board) return null
  const watts = (id: string) => (stateNamed(states, id).nodes['@board']?.powerMw ?? 0) / 1000
  return {
    heat: boardHeat(board), cooler: COOLERS[heat.cooler], enclosure: enclosureOf(heat.cooler, heat.enclosure), ambientC: heat.ambientC,
    fan: heat.fan, boardW: watts(heat.load), idleW: watts('idle'), otherW, minutes: heat.minutes,
  }
}

function heatOf(facts: Facts, states: PowerState[], regulators: RegulatorHeat[]): PowerReport['heat'] {
  const task = heatTask(facts, states, regulators.reduce((sum, entry) => sum + entry.lossW, 0))
  return task && { ...runHeat(task), boardW: task.boardW, ambientC: task.ambientC, slowsC: task.heat.slowsC, stopsC: task.heat.stopsC }
}

function regulatorHeat(tree: Tree, states: PowerState[], ambientC: number): RegulatorHeat[] {
  const peak = stateNamed(states, 'peak')
  return tree.nodes.flatMap((node): RegulatorHeat[] => {
    const hottest = node.figures.hottestC
    if (!hottest) return []
    const lossW = Math.max(0, peak.nodes[node.id]!.powerMw / 1000)
    const kw = node.figures.copperCm2 ? copperRth(node.figures.copperCm2.value) : node.figures.rthKw?.value ?? 0
    return [{
      node: node.id, name: node.name, lossW, kw, temperatureC: ambientC + lossW * kw, hottestC: hottest.value, origin: hottest.origin,
    }]
  })
}

/** What a transformer gives above its rated voltage without load. Memory, where its file says nothing else. */
const NO_LOAD_SHARE = 1.15

function frontsOf(tree: Tree, states: PowerState[]): FrontReport[] {
  const peak = stateNamed(states, 'peak')
  return tree.nodes.filter(node => node.kind === 'rectifier').map((node) => {
    const { inputV = 0, currentMa } = peak.nodes[node.id]!
    const value = (name: string) => node.figures[name]?.value ?? 0
    const behind = tree.nodes.filter(other =>
      other.figures.setV && other.from.some(id => id === node.id || tree.byId.get(id)?.from.includes(node.id)))
    const source = node.from[0] && tree.byId.get(node.from[0])
    const acV = (source && (source.figures.voltageV?.value ?? tree.byId.get(source.from[0] ?? '')?.figures.voltageV?.value)) || inputV
    return {
      node: node.id, name: node.name, currentMa, wantedV: Math.max(0, ...behind.map(wantsV)),
      highestV: acV * NO_LOAD_SHARE * Math.SQRT2 - value('dropV'),
      ...rectifierFigures({ acV: inputV, dropV: value('dropV'), currentMa, hz: value('hz'), capacitanceUf: value('capacitanceUf') }),
    }
  })
}
