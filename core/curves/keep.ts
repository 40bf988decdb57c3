/** A curve as a plan keeps it: no more readings than its file takes, the first and the last among them. */
import type { MeasuredCurve } from './types'

export const MAX_KEPT = 2000

export function keptReadings({ seconds,
  values }: Pick<MeasuredCurve, 'seconds' | 'values'>): Pick<MeasuredCurve, 'seconds' | 'values'> {
  if (seconds.length <= MAX_KEPT) return { seconds: [...seconds], values: [...values] }
  const step = (seconds.length - 1) / (MAX_KEPT - 1)
  const at = Array.from({ length: MAX_KEPT }, (_, i) => Math.round(i * step))
  return { seconds: at.map(i => seconds[i]!), values: at.map(i => values[i]!) }
}
