/** A curve as a plan keeps it: no more readings than its file takes, the first and the last among them. */
import type { MeasuredCurve } from './types'

export const MOST_KEPT = 2000

export function keptReadings({ seconds, values }: Pick<MeasuredCurve, 'seconds' | 'values'>): Pick<MeasuredCurve, 'seconds' | 'values'> {
  if (seconds.length <= MOST_KEPT) return { seconds: [...seconds], values: [...values] }
  const step = (seconds.length - 1) / (MOST_KEPT - 1)
  const at = Array.from({ length: MOST_KEPT }, (_, i) => Math.round(i * step))
  return { seconds: at.map(i => seconds[i]!), values: at.map(i => values[i]!) }
}
