/** Readings over time, as they were read out of a text. */

export interface MeasuredCurve {
  name: string
  unit: string
  /** From the first reading on, rising. */
  seconds: number[]
  /** As many as there are seconds. */
  values: number[]
}

export interface CurvesRead {
  curves: MeasuredCurve[]
  /** Where the times come from, in words. */
  times: string
  /** Rows that say nothing. */
  stray: number
}
