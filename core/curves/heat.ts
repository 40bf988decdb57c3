/** What a measured load test says of the cooler, beside what was predicted. */
import { caseKwAt, chipKw, fanPercentAt, runHeat, type HeatPoint } from '../power/heat/run'
import { heatTask, powerOf } from '../power/report'
import type { Facts } from '../facts/types'
import type { HeatPlan } from '../plan/power'
import type { RiseFit } from './fit'

export interface MeasuredHeat {
  /** The load test of the plan, as long as the measured one. */
  predicted: HeatPoint[]
  predictedEndC: number
  /** What the cooler comes to; null where the readings do not tell, with the reason. */
  measured: NonNullable<HeatPlan['measured']> | null
  why: string
}

/** Least of K per W that a cooler can be; less is another power or another room than the plan has. */
const MIN_KW = 0.3

/**
 * The plan's load test beside a fit of the measured one, and the cooler's resistance and store that explain the
 * difference. Textbook: T∞ = Ta + P·R, τ = R·C. Null without a board. @param atIso When it was measured.
 */
export function measuredHeat(facts: Facts, fit: RiseFit, atIso: string): MeasuredHeat | null {
  const task = heatTask(facts, powerOf(facts), 0)
  if (!task) return null
  const minutes = Math.min(600, Math.max(1, Math.ceil((fit.fromS + 5 * fit.tauS) / 60), task.minutes))
  const run = runHeat({ ...task, minutes })
  const told = (why: string): MeasuredHeat => ({ predicted: run.points, predictedEndC: run.steadyC, measured: null,
    why })
  if (!fit.isSettled) return told(`It was stopped before it settled: go on for ${Math.ceil(2 * fit.tauS / 60)} `
    + 'minutes under load.')
  if (fit.end <= fit.start) return told('It falls: the cooler is told from a rise, from rest to full load.')
  if (fit.end >= task.heat.slowsC) {
    return told(`It got to where clocks fall, ${Math.round(task.heat.slowsC)} °C: its end is the board's doing, `
      + 'not the cooler\'s.')
  }
  const fanPercent = fanPercentAt(task.fan, fit.end, 0)
  const chipW = task.boardW * task.heat.chipShare
  const airKw = caseKwAt(task.enclosure, fanPercent)
  const kw = (fit.end - task.ambientC - (task.boardW + task.otherW) * airKw) / chipW
  if (!(kw >= MIN_KW)) {
    return told(`It is cooler than ${chipW.toFixed(1)} W at the processor allow in a room of ${task.ambientC} °C: set `
      + 'the room as it was.')
  }
  // As it is typed: in still air. What the fan does stays the cooler's own share.
  const { ownKw: _, ...plain } = task.cooler
  const stillKw = kw * chipKw(task.heat, plain, 0) / chipKw(task.heat, plain, fanPercent)
  // A case stores heat of its own, and its slowness is in the same curve.
  const storeJk = task.enclosure.stillKw === 0 ? Number((fit.tauS / kw).toFixed(1)) : undefined
  return {
    predicted: run.points, predictedEndC: run.steadyC, why: '',
    measured: { coolerKw: Number(stillKw.toFixed(2)), ...storeJk !== undefined && { storeJk }, at: atIso },
  }
}
