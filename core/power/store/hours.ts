/** Hours a store lasts over the plan's day, and what would make it last longer. */
import type { SupplyUnit } from '../../catalogue/types'
import type { DayPart, NodeRef } from '../../plan/power'
import { sharesAt } from '../shares'
import { solveStates, type PowerState, type StateSpec } from '../states'
import type { SupplyTree, SupplyNode } from '../../netlist/supply/types'
import { capacityOf, type Capacity } from './capacity'
import { dischargeOf, isPack, type DayStep, type Discharge } from './discharge'

export interface DayPower {
  fromH: number
  toH: number
  step: string
  label: string
  /** Drawn at the store's output. */
  powerW: number
  currentMa: number
}

export interface Saving {
  node: NodeRef
  partId: string | null
  name: string
  /** What was done to it. */
  how: string
  hours: number
  gainedHours: number
}

export interface StoreReport {
  node: NodeRef
  name: string
  kind: SupplyUnit['kind']
  capacity: Capacity
  capacityMah: number
  efficiency: number
  selfUseW: number
  day: DayPower[]
  /** Mean over the day, the store's own use within. */
  meanW: number
  /** At its output, from full to the first thing that stops: the one figure for what can be used. */
  usableWh: number
  /** How a pack empties; null for one that keeps its own output up. */
  discharge: Discharge | null
  hours: number | null
  savings: Saving[]
  /** Least current drawn in any part of the day, against what the store needs to stay on. */
  minMa: number
}

/**
 * Hours a pack lasts: capacity × cell voltage × efficiency ÷ power drawn at its output.
 * Common practice; 12 000 mAh at 3.7 V and 0.85 carries 3.77 W for ten hours.
 */
export function packHours(capacityMah: number, cellV: number, efficiency: number, powerW: number): number {
  return capacityMah / 1000 * cellV * efficiency / powerW
}

/**
 * The day as parts that cover it without overlap; a plan without any is typical all day. Hours no part covers are idle.
 */
export function dayOf(parts: readonly DayPart[]): DayPart[] {
  if (!parts.length) return [{ fromH: 0, toH: 24, step: 'typical' }]
  const marks = [...new Set([0, 24, ...parts.flatMap(part => [part.fromH, part.toH])])].sort((a, b) => a - b)
  // A part that ends before it begins runs over midnight; where two overlap the later one in the list holds.
  const covers = ({ fromH, toH }: DayPart,
    at: number) => fromH < toH ? at >= fromH && at < toH : at >= fromH || at < toH
  return marks.slice(0, -1).map((fromH, i) => ({
    fromH, toH: marks[i + 1]!, step: parts.findLast(part => covers(part, (fromH + marks[i + 1]!) / 2))?.step ?? 'idle',
  }))
    .reduce<DayPart[]>((day, part) => day.at(-1)?.step === part.step
      ? [...day.slice(0, -1), { ...day.at(-1)!, toH: part.toH }]
      : [...day, part], [])
}

/** What a store comes to. `leastV` is the voltage at which what hangs on it stops. */
export function storeReport(
  tree: SupplyTree, states: PowerState[], specs: readonly StateSpec[], source: SupplyNode, day: readonly DayPart[],
  temperatureC: number,
  leastV: number,
): StoreReport {
  const unit = source.unit!
  const stateOf = (id: string) => states.find(state => state.id === id) ?? states.find(state => state.id === 'typical')!
  const parts = dayOf(day).map((part): DayPower => {
    const state = stateOf(part.step)
    const { powerMw, currentMa } = state.nodes[source.id]!
    return { ...part, label: state.label, powerW: powerMw / 1000, currentMa }
  })
  const efficiency = unit.efficiency ?? 1
  const daySteps = parts.map((part): DayStep => ({
    hours: part.toH - part.fromH,
    spec: specs.find(spec => spec.id === part.step) ?? specs.find(spec => spec.id === 'typical')!,
  }))
  const selfUseW = (unit.selfUseMa ?? 0) * unit.voltageV / 1000
  const meanW = parts.reduce((sum, { fromH, toH, powerW }) => sum + (toH - fromH) * powerW, 0) / 24 + selfUseW
  const meanMa = parts.reduce((sum, { fromH, toH, currentMa }) => sum + (toH - fromH) * currentMa, 0) / 24
  const capacityMah = source.figures.capacityMah?.value ?? unit.capacityMah ?? 0
  const flat = capacityOf({ unit, capacityMah, temperatureC, currentMa: meanMa, leastV })
  const discharge = isPack(unit) ? dischargeOf(tree, source, daySteps, capacityMah, temperatureC) : null
  const capacity: Capacity = discharge
    ? { ...flat, leftShare: discharge.leftShare, usableWh: discharge.usableWh / efficiency }
    : flat
  // What a discharge takes to its end holds for other loads too: the same energy, in another time.
  const energyWh = discharge ? discharge.hours * meanW : capacity.usableWh * efficiency
  const hoursAt = (powerW: number) => powerW > 1e-6 ? energyWh / powerW : null
  return {
    node: source.id, name: source.name, kind: unit.kind, capacity, capacityMah, efficiency, selfUseW, day: parts, meanW,
    hours: hoursAt(meanW), usableWh: capacity.usableWh * efficiency, discharge,
    savings: savingsOf(tree, states, specs, source, parts, meanW, hoursAt),
    minMa: Math.min(...parts.map(part => part.currentMa)),
  }
}

/** So many savings are worked out in full. */
const MAX_SAVINGS = 6

/**
 * What saves most: each load let down to idle wherever the day has it higher, and each switched off for half of the
 * day. Ranked by what each takes now; the first of them are then solved anew, because a converter with less to do loses
 * its share too.
 */
function savingsOf(
  tree: SupplyTree, states: PowerState[], specs: readonly StateSpec[], source: SupplyNode, parts: DayPower[],
  meanW: number,
  hoursAt: (powerW: number) => number
    | null,
): Saving[] {
  const before = hoursAt(meanW)
  if (before === null) return []
  const steps = [...new Set(parts.map(part => part.step))]
  const daySpecs = steps.map(step => specs.find(spec => spec.id === step) ?? specs.find(spec => spec.id === 'typical')!)
  const shares = new Map(steps.map((step, i) => [
    step,
    new Map(sharesAt(tree, states.find(state => state.id === daySpecs[i]!.id)!, source.id)
      .map(share => [share.node, share.currentMa])),
  ]))
  const idle = new Map(sharesAt(tree, states.find(state => state.id === 'idle')!, source.id)
    .map(share => [share.node, share.currentMa]))
  const mean = (pick: (part: DayPower) => number) =>
    parts.reduce((sum, part) => sum + (part.toH - part.fromH) * pick(part), 0) / 24
  const at = (step: string, node: string) => shares.get(step)!.get(node) ?? 0
  const candidates = tree.nodes.filter(node => node.role === 'load').flatMap((node): {
    node: SupplyNode
    to: 'idle' | 'off'
    hoursOff: number
    savedMa: number
  }[] => [
    { node, to: 'idle', hoursOff: 24,
      savedMa: mean(part => Math.max(0, at(part.step, node.id) - (idle.get(node.id) ?? 0))) },
    ...node.kind === 'board'
      ? []
      : [{ node, to: 'off' as const, hoursOff: 12, savedMa: mean(part => at(part.step, node.id)) / 2 }],
  ])
  const meanWith = (node: SupplyNode, to: 'idle' | 'off') => {
    const lighter = solveStates(
      tree, daySpecs.map(spec => ({ ...spec,
        setting: { ...spec.setting, loads: { ...spec.setting.loads, [node.id]: to } } })),
    )
    return mean(part => Math.min(part.powerW, lighter[steps.indexOf(part.step)]!.nodes[source.id]!.powerMw / 1000))
  }
  const drawnW = mean(part => part.powerW)
  return candidates.filter(({ savedMa }) => savedMa > 0.05).sort((a, b) => b.savedMa - a.savedMa).slice(0, MAX_SAVINGS)
    .flatMap(({ node, to, hoursOff }): Saving[] => {
      const savedW = (drawnW - meanWith(node, to)) * hoursOff / 24
      const hours = hoursAt(meanW - savedW)
      return hours === null
        ? []
        : [{
            node: node.id, partId: node.partId ?? null, name: node.kind === 'board' ? 'Board' : node.name,
            how: to === 'idle' ? 'idle all day' : 'off half of the day', hours, gainedHours: hours - before,
          }]
    })
    .sort((a, b) => b.gainedHours - a.gainedHours)
}
