/** A kept curve beside what the plan predicts, with the figures that it gives. */
import type { Facts } from '../facts/types'
import type { KeptCurve } from '../plan/types'
import { measuredStore, type MeasuredStore } from './battery'
import { fitRise, type RiseFit } from './fit'
import { measuredHeat, type MeasuredHeat } from './heat'

export interface JudgedCurve {
  fit: RiseFit | null
  /** Of a temperature. */
  heat: MeasuredHeat | null
  /** Of a voltage that falls. */
  store: MeasuredStore | null
}

export function judgeCurve(facts: Facts, curve: KeptCurve): JudgedCurve {
  const isHeat = curve.unit === '°C'
  const fit = fitRise(curve.seconds, curve.values)
  return { fit, heat: isHeat && fit ? measuredHeat(facts, fit, curve.at) : null, store: measuredStore(facts, curve) }
}
