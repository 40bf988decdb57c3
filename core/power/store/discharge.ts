/**
 * A pack emptied step by step: its voltage falls as it empties, what hangs on it draws accordingly, and
 * something stops first.
 */
import type { SupplyUnit } from '../../catalogue/types'
import type { NodeRef } from '../../plan/power'
import { solveStates, type PowerState, type StateSpec } from '../states'
import type { SupplyTree, SupplyNode } from '../../netlist/supply/types'
import { cellsInSeries, restV, temperatureShare } from './capacity'

export interface DischargePoint {
  /** Of a full pack's charge, 0 to 1. */
  share: number
  /** At rest, and the lowest under the day's loads. */
  restV: number
  loadedV: number
  /** Mean of the day. */
  meanMa: number
}

export interface Discharge {
  points: DischargePoint[]
  /** Part of the charge left when something stops, and what that is; its own cut-off where that is null. */
  leftShare: number
  stops: NodeRef | null
  hours: number
  /** At its terminals. */
  usableWh: number
}

/** A part of the day: a step and the hours it lasts. */
export interface DayStep { spec: StateSpec, hours: number }

/** From full to empty in so many steps. */
const LEVELS = 8
const BISECTIONS = 5
const MIN_MA = 1e-3

/** The tree with a source at another voltage. */
function atVoltage(tree: SupplyTree, id: NodeRef, voltageV: number): SupplyTree {
  const changed = (node: SupplyNode): SupplyNode => node.id === id
    ? { ...node, figures: { ...node.figures, voltageV: { ...node.figures.voltageV!, value: voltageV } } }
    : node
  const nodes = tree.nodes.map(changed)
  return { ...tree, nodes, byId: new Map(nodes.map(node => [node.id, node])) }
}

/** Loads that do not get what they want in a state. */
const failing = (tree: SupplyTree,
  states: readonly PowerState[]): Set<NodeRef> => new Set(states.flatMap(state => tree.nodes.filter(node =>
  node.role === 'load' && (state.dark.includes(node.id)
    || (state.nodes[node.id]!.currentMa > 0 && state.nodes[node.id]!.voltageV < (node.figures.leastV?.value ?? 0))))
  .map(node => node.id)))

/** Whether a supply is a pack whose voltage falls: one that says how far. */
export const isPack = ({ fullV, emptyV, chemistry }: SupplyUnit): boolean =>
  fullV !== undefined && emptyV !== undefined && chemistry !== undefined

/**
 * Goes from full to the first thing that stops: a load that no longer gets its voltage, the pack's own cut-off, or the
 * part that may be used. What does not work on a full pack is not counted. Null where nothing is drawn.
 */
export function dischargeOf(
  tree: SupplyTree, source: SupplyNode, day: readonly DayStep[], capacityMah: number, temperatureC: number,
): Discharge | null {
  const unit = source.unit!
  const chemistry = unit.chemistry!
  const cells = cellsInSeries(chemistry, unit.fullV!)
  const chargeMah = capacityMah * temperatureShare(chemistry, temperatureC)
  const hoursOfDay = day.reduce((sum, step) => sum + step.hours, 0)
  const look = (share: number) => {
    const rest = restV(chemistry, cells, share)
    const states = solveStates(atVoltage(tree, source.id, rest), day.map(step => step.spec))
    const at = states.map(state => state.nodes[source.id]!)
    const mean = (pick: (i: number) => number) =>
      day.reduce((sum, step, i) => sum + step.hours * pick(i), 0) / hoursOfDay
    const loadedV = Math.min(...at.map(figures => figures.voltageV))
    return {
      states,
      point: { share, restV: rest, loadedV, meanMa: mean(i => at[i]!.currentMa) + (unit.selfUseMa ?? 0) },
      meanMw: mean(i => at[i]!.powerMw),
    }
  }
  const full = look(1)
  if (full.point.meanMa < MIN_MA) return null
  const already = failing(tree, full.states)
  const stoppedBy = (at: ReturnType<typeof look>): NodeRef | null | false => {
    const load = [...failing(tree, at.states)].find(id => !already.has(id))
    if (load !== undefined) return load
    // Nothing is drawn any more: a converter on the way has let go of all that hung on it.
    if (at.point.meanMa < MIN_MA) return null
    return at.point.loadedV < unit.emptyV! && full.point.loadedV >= unit.emptyV! ? null : false
  }
  const floor = 1 - (unit.usableShare ?? 1)
  const run: Discharge = { points: [full.point], leftShare: floor, stops: null, hours: 0, usableWh: 0 }
  let before = full
  const use = (to: ReturnType<typeof look>) => {
    const used = chargeMah * (before.point.share - to.point.share)
    const meanMa = (before.point.meanMa + to.point.meanMa) / 2
    run.hours += used / meanMa
    run.usableWh += used / meanMa * (before.meanMw + to.meanMw) / 2 / 1000
    run.points.push(to.point)
    before = to
  }
  for (let level = LEVELS - 1; level >= 0; level--) {
    const next = look(floor + (1 - floor) * level / LEVELS)
    const stopped = stoppedBy(next)
    if (stopped === false) {
      use(next)
      continue
    }
    // Where exactly it stops lies between the two.
    let [works, fails] = [before.point.share, next.point.share]
    run.stops = stopped
    for (let i = 0; i < BISECTIONS; i++) {
      const middle = look((works + fails) / 2)
      const by = stoppedBy(middle)
      if (by === false) works = middle.point.share
      else [fails, run.stops] = [middle.point.share, by]
    }
    use(look(works))
    run.leftShare = works
    break
  }
  return run
}
