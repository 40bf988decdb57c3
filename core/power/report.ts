/**
 * Everything Voltaris knows of a plan's supply, as plain data: the tree, its states, rails, sources, stores,
 * heat and hold-up.
 */
import type { EfficiencyPoint, Origin } from '../catalogue/types'
import type { Facts } from '../facts/types'
import type { NodeRef, PowerPlan } from '../plan/power'
import { boardHeat } from '../facts/board'
import { railBudgets, sourceBudgets, type RailBudget, type SourceBudget } from './budget'
import { frontsOf, type FrontReport } from './fronts'
import { coolerOf, enclosureOf } from './heat/coolers'
import { airC, runHeat, type HeatRun, type HeatTask } from './heat/run'
import { holdsOf, type HoldReport } from './hold-up'
import { copperRth, STORES, wantsV, type NodeKind, type NodeRole } from '../netlist/supply/kinds'
import { dropsTo } from './shares'
import { solveStates, stateNamed, stateSpecs, type PowerState } from './states'
import { dayOf, storeReport, type StoreReport } from './store/hours'
import { simulateWeek, type Week } from './store/week'
import { buildTree } from '../netlist/supply/build'
import type { NodeFigure, SupplyTree, SupplyNode, TreeProblem } from '../netlist/supply/types'

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
  kwOrigin: Origin
  /** Around it: the air in the board's case. */
  airC: number
  temperatureC: number
  hottestC: number
  origin: Origin
}

export interface PowerReport {
  rails: RailBudget[]
  sources: SourceBudget[]
  /**
   * Hours of the store that carries the plan, over the plan's day, with the sun where there is a panel;
   * null without one.
   */
  hours: number | null
  /** How that is meant: with the sun, and at least so long because the week under that sky never empties it. */
  hoursMeant: { sun: boolean, atLeast: boolean }
  nodes: ReportNode[]
  problems: TreeProblem[]
  assumed: boolean
  states: PowerState[]
  /** Volts lost on the way to the 5 V rail at peak, largest first. */
  drops: { node: NodeRef, name: string, dropV: number }[]
  stores: StoreReport[]
  week: Week | null
  /** `airC` is the air in the case at the end of the test. */
  heat: (HeatRun & { airC: number, boardW: number, ambientC: number, slowsC: number, stopsC: number }) | null
  regulators: RegulatorHeat[]
  holds: HoldReport[]
  fronts: FrontReport[]
  /** Made-up price of everything of the tree that has one. */
  price: number
}

/** A plan's supply as the rules see it: the report, and the tree with its catalogue entries. */
export interface Power {
  tree: SupplyTree
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
  const lossW = regulatorLossW(tree, states)
  const heat = heatOf(facts, { tree, states }, [...lossW.values()].reduce((sum, loss) => sum + loss, 0))
  const fronts = frontsOf(tree, states)
  const regulators = regulatorHeat(tree, lossW, heat?.airC ?? power.heat.ambientC)
  const week = weekOf(stores, power)
  const lasts = lastsOf(headlineHours(tree, states, stores), stores, week, power)
  const report: PowerReport = {
    rails: railBudgets(facts, { tree, states }), sources: sourceBudgets({ tree, states }), hours: lasts.hours,
    hoursMeant: { sun: lasts.sun, atLeast: lasts.atLeast },
    nodes: tree.nodes.map(plain), problems: tree.problems, assumed: tree.assumed, states,
    drops: tree.byId.has('@5V') && !tree.assumed
      ? dropsTo(tree, stateNamed(states, 'peak'), '@5V')
          .map(({ node, dropV }) => ({ node: node.id, name: node.name, dropV }))
      : [],
    stores, week, heat, regulators, holds: holdsOf(facts, tree, states, fronts), fronts,
    price: tree.nodes.reduce((sum, node) => sum + (node.price ?? 0), 0),
  }
  return { tree, states, report }
}

function plain({ id, kind, role, name, partId, from, figures, efficiency, own, open, unit, item,
  price }: SupplyNode): ReportNode {
  return {
    id, kind, role, name, partId: partId ?? null, from, figures, ...efficiency && { efficiency }, own, open,
    ...(unit ?? item) && { origin: (unit ?? item)!.origin }, price: price ?? null,
  }
}

/** Hours of the store that carries the plan; null where another source carries it and the store only waits. */
function headlineHours(tree: SupplyTree, states: PowerState[], [store]: StoreReport[]): number | null {
  if (!store) return null
  const typical = stateNamed(states, 'typical')
  const all = tree.nodes.filter(node => node.role === 'source')
    .reduce((sum, node) => sum + typical.nodes[node.id]!.powerMw, 0)
  return typical.nodes[store.node]!.powerMw * 2 >= all && all > 0 ? store.hours : null
}

/** So many weeks of the same sky are gone through before it counts as lasting. */
const MAX_WEEKS = 60

/**
 * With a panel: weeks of the plan's sky one after another, until the store is empty, or until a week ends as full
 * as it began.
 */
function lastsOf(
  hours: number | null, stores: StoreReport[], week: Week | null, power: PowerPlan,
): { hours: number | null, sun: boolean, atLeast: boolean } {
  if (hours === null || !week || power.store.panelW <= 0) return { hours, sun: false, atLeast: false }
  let before = week
  for (let weeks = 0; weeks < MAX_WEEKS; weeks++) {
    if (before.emptyAtH !== null) return { hours: weeks * 7 * 24 + before.emptyAtH, sun: true, atLeast: false }
    const next = weekOf(stores, power, before.endShare)!
    if (next.endShare >= before.endShare - 1e-6 && next.emptyAtH === null) break
    before = next
  }
  return { hours: Math.max(hours, 7 * 24), sun: true, atLeast: true }
}

/** Least voltage of a store at which something that hangs on it still works. */
function minWanted(tree: SupplyTree, states: PowerState[], source: SupplyNode): number {
  const peak = stateNamed(states, 'peak')
  const fedBy = (node: SupplyNode): boolean => {
    const seen = new Set<string>()
    for (let at: SupplyNode | undefined = node; at
      && !seen.has(at.id); at = at.from.length ? tree.byId.get(at.from[0]!) : undefined) {
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

function storesOf(tree: SupplyTree, states: PowerState[], power: PowerPlan): StoreReport[] {
  return tree.nodes.filter(node =>
    node.role === 'source' && STORES.has(node.kind) && (node.figures.capacityMah?.value ?? 0) > 0)
    .map(node => storeReport(tree, states, stateSpecs(power), node, power.day, power.store.temperatureC,
      minWanted(tree, states, node)))
    // A store that feeds nothing waits behind those that do.
    .sort((a, b) => Number(b.meanW > b.selfUseW) - Number(a.meanW > a.selfUseW))
}

function weekOf([store]: StoreReport[], { store: asked, day }: PowerPlan, startShare = asked.startShare): Week | null {
  if (!store) return null
  const parts = dayOf(day)
  const loadW = (hour: number) => {
    const i = parts.findIndex(part => hour >= part.fromH && hour < part.toH)
    return (store.day[i]?.powerW ?? 0) + store.selfUseW
  }
  return simulateWeek({
    usableWh: store.capacity.usableWh, efficiency: store.efficiency, startShare, panelW: asked.panelW,
    dayLengthH: asked.dayLengthH, weather: asked.weather, loadW,
  })
}

/** The load test's task as the plan puts it; null without a board. */
export function heatTask(facts: Facts, { tree, states }: Pick<Power, 'tree' | 'states'>,
  otherW: number): HeatTask | null {
  const { board, heat: { set: heat } } = facts
  const node = tree.byId.get('@board')
  if (!board || !node) return null
  const watts = (id: string) => (stateNamed(states, id).nodes['@board']?.powerMw ?? 0) / 1000
  return {
    heat: { ...boardHeat(board), slowsC: node.figures.slowsC!.value, stopsC: node.figures.stopsC!.value },
    cooler: coolerOf(heat),
    enclosure: enclosureOf(heat.cooler, heat.enclosure), ambientC: heat.ambientC,
    fan: heat.fan, boardW: watts(heat.load), idleW: watts('idle'), otherW, minutes: heat.minutes,
  }
}

function heatOf(facts: Facts, solved: Pick<Power, 'tree' | 'states'>, otherW: number): PowerReport['heat'] {
  const task = heatTask(facts, solved, otherW)
  if (!task) return null
  const run = runHeat(task)
  return { ...run, airC: airC(task, run.points.at(-1)!.fanPercent), boardW: task.boardW, ambientC: task.ambientC,
    slowsC: task.heat.slowsC,
    stopsC: task.heat.stopsC }
}

/** Lost in each regulator that gets warm, at peak. */
function regulatorLossW(tree: SupplyTree, states: PowerState[]): Map<NodeRef, number> {
  const peak = stateNamed(states, 'peak')
  return new Map(tree.nodes.filter(node => node.figures.hottestC)
    .map(node => [node.id, Math.max(0, peak.nodes[node.id]!.powerMw / 1000)]))
}

/** Every regulator in the air that it stands in: that of the board's case. */
function regulatorHeat(tree: SupplyTree, lossW: ReadonlyMap<NodeRef, number>, airC: number): RegulatorHeat[] {
  return [...lossW].map(([id, loss]): RegulatorHeat => {
    const node = tree.byId.get(id)!
    const { rthKw, copperCm2, hottestC } = node.figures
    // A heat sink that was typed in holds before what the copper gives by itself.
    const byCopper = copperCm2 && rthKw?.origin !== 'yours'
    const kw = byCopper ? copperRth(copperCm2.value) : rthKw?.value ?? 0
    return {
      node: id, name: node.name, lossW: loss, kw, kwOrigin: (byCopper ? copperCm2 : rthKw)?.origin ?? 'memory', airC,
      temperatureC: airC + loss * kw, hottestC: hottestC!.value, origin: hottestC!.origin,
    }
  })
}
