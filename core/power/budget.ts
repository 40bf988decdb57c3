/** Loads on each rail against what is available: a sum, not yet a circuit. */
import type { Origin } from '../catalogue/types'
import type { Facts, ResolvedPart } from '../facts/types'

export interface Load {
  /** Part, or null for the board itself and for the 3V3 rail's share. */
  partId: string | null
  name: string
  idleMa: number
  typicalMa: number
  peakMa: number
  through: 'header' | 'usb' | 'board'
  origin: Origin
}

export interface RailBudget {
  rail: '5V' | '3V3' | 'USB'
  loads: Load[]
  idleMa: number
  typicalMa: number
  peakMa: number
  /** What the rail can give; null while no supply or board is chosen. */
  availableMa: number | null
  origin: Origin
  limitKey: string
}

export interface PowerBudget {
  rails: RailBudget[]
  /** Hours at the typical draw, for supplies with a store of energy. */
  hours: number | null
}

/**
 * Sums the loads. Everything on 3V3 comes out of 5 V through the board's regulator and counts there ampere for ampere,
 * which holds for a linear regulator and errs on the safe side for a switching one.
 */
export function budgetOf(facts: Facts): PowerBudget {
  const { board, supply } = facts
  const onRail = (rail: string) => facts.parts.flatMap(owner => owner.supplies.filter(entry => entry.rail === rail).map(entry => loadOf(owner, entry)))
  const on3V3 = onRail('3V3')
  const on5V = onRail('5V')
  const boardLoad: Load[] = board
    ? [{ partId: null, name: 'Board', idleMa: board.draw.idleMa, typicalMa: board.draw.typicalMa, peakMa: board.draw.peakMa, through: 'board', origin: board.draw.origin }]
    : []
  const limit = (key: string, sourced: { value: number, origin: Origin } | undefined) => {
    const own = facts.plan.limits[key]
    return own ? { availableMa: own.value, origin: own.origin ?? 'yours' } : { availableMa: sourced?.value ?? null, origin: sourced?.origin ?? '' }
  }
  const ownSupply = facts.plan.limits['supply.currentMa'] ?? facts.plan.supply?.currentMa
  const rails: RailBudget[] = [
    { rail: '5V', loads: [...boardLoad, ...on5V, ...on3V3], ...total([...boardLoad, ...on5V, ...on3V3]), availableMa: facts.supplyMa, origin: ownSupply ? 'yours' : supply?.origin ?? '', limitKey: 'supply.currentMa' },
    { rail: '3V3', loads: on3V3, ...total(on3V3), ...limit('board.rail3V3BudgetMa', board?.limits.rail3V3BudgetMa), limitKey: 'board.rail3V3BudgetMa' },
  ]
  const byUsb = on5V.filter(load => load.through === 'usb')
  if (byUsb.length) rails.push({ rail: 'USB', loads: byUsb, ...total(byUsb), ...limit('board.usbBudgetMa', board?.limits.usbBudgetMa), limitKey: 'board.usbBudgetMa' })
  return { rails, hours: hoursAt(rails[0]!.typicalMa, facts) }
}

function loadOf(owner: ResolvedPart, supply: ResolvedPart['supplies'][number]): Load {
  const units = supply.perOption ? Number(owner.options[supply.perOption]) || 1 : 1
  return {
    partId: owner.id, name: owner.name, through: supply.from, origin: supply.origin,
    idleMa: supply.idleMa * units, typicalMa: supply.typicalMa * units, peakMa: supply.peakMa * units,
  }
}

function total(loads: Load[]) {
  const sum = (pick: (load: Load) => number) => loads.reduce((all, load) => all + pick(load), 0)
  return { idleMa: sum(load => load.idleMa), typicalMa: sum(load => load.typicalMa), peakMa: sum(load => load.peakMa) }
}

/**
 * Hours a pack lasts: capacity × cell voltage × efficiency ÷ power drawn at its output.
 * Common practice; 12 000 mAh at 3.7 V and 0.85 carries 3.77 W for ten hours.
 */
export function packHours(capacityMah: number, cellV: number, efficiency: number, powerW: number): number {
  return capacityMah / 1000 * cellV * efficiency / powerW
}

function hoursAt(typicalMa: number, { supply }: Facts): number | null {
  if (!supply?.capacityMah || !supply.cellV || !supply.efficiency || typicalMa <= 0) return null
  return packHours(supply.capacityMah, supply.cellV, supply.efficiency, supply.voltageV * typicalMa / 1000)
}
