/** An AC front end: bridge, capacitor and what a step-down behind it still gets. Textbook. */

export interface RectifierTask {
  acV: number
  /** Both diodes on the way. */
  dropV: number
  currentMa: number
  hz: number
  capacitanceUf: number
}

export interface RectifierFigures {
  peakV: number
  rippleV: number
  leastV: number
  meanV: number
}

/** Peak = U·√2 − 2·Ud; ripple ≈ I ÷ (2·f·C). 9 V with 0.7 V diodes: 11.33 V. */
export function rectifierFigures({ acV, dropV, currentMa, hz, capacitanceUf }: RectifierTask): RectifierFigures {
  const peakV = Math.max(0, acV * Math.SQRT2 - dropV)
  const rippleV = Math.min(peakV, currentMa / 1000 / (2 * hz * capacitanceUf * 1e-6))
  return { peakV, rippleV, leastV: peakV - rippleV, meanV: peakV - rippleV / 2 }
}

/** The capacitor that keeps the ripple, in µF: C = I ÷ (2·f·U). */
export function capacitorForUf(currentMa: number, hz: number, rippleV: number): number {
  return currentMa / 1000 / (2 * hz * rippleV) * 1e6
}

/** On sale, in µF. practice */
export const CAPACITORS_UF: readonly number[] = [100, 220, 330, 470, 1000, 2200, 3300, 4700, 6800, 10_000, 15_000,
  22_000]

/** What a step-down takes in: I = P ÷ (η·U); it rises as the input falls. */
export function stepDownInputMa(powerW: number, efficiency: number, inputV: number): number {
  return powerW / (efficiency * inputV) * 1000
}
