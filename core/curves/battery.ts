/** What a measured discharge says of a battery's capacity. */
import { powerOf } from '../power/report'
import type { Facts } from '../facts/types'
import type { NodeRef } from '../plan/power'
import type { MeasuredCurve } from './types'

export interface MeasuredStore {
  node: NodeRef
  name: string
  predictedH: number
  measuredH: number
  /** The capacity that explains the difference, at the same load. */
  capacityMah: number
}

/** Shorter runs say little: the flat part of a discharge is flat. */
const MIN_H = 0.2

/**
 * From the first reading to the last, which is taken for the moment when it stopped: hours stand to each other as
 * capacities do, at the same load (textbook). Null without a store, or for readings that do not fall.
 */
export function measuredStore(facts: Facts, { seconds, values, unit }: MeasuredCurve): MeasuredStore | null {
  const store = powerOf(facts).report.stores[0]
  const measuredH = (seconds.at(-1)! - seconds[0]!) / 3600
  const falls = (values.at(-1) ?? 0) < (values[0] ?? 0)
  if (!store?.hours || !/^m?V$/.test(unit) || !falls || measuredH < MIN_H) return null
  // The maker's own start: what was charged is what can be drawn.
  const predictedH = store.hours * facts.plan.power.store.startShare
  if (!(predictedH > 0)) return null
  return {
    node: store.node, name: store.name, predictedH, measuredH,
    capacityMah: Math.round(store.capacityMah * measuredH / predictedH),
  }
}
