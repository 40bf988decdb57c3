/**
 * Figures that a meter shows and that are judged at once: the same at a hold point of the build and on the run sheet.
 */

/** What a probe takes, with the span that counts as planned. */
export interface Reading {
  unit: 'V' | 'Ω'
  min: number
  max: number
  /** What any figure outside the span is. */
  outside?: string
}

export const SHORT = 'near 0 Ω: a short'
export const NO_SHORT = 'no short'
/** Between a rail and its return before power. A short reads near 0 Ω; the bound is common practice. */
export const SHORT_READING: Reading = { unit: 'Ω', min: 10, max: 1e9, outside: SHORT }
