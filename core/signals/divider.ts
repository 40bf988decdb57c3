/** A two-resistor divider between a driving output and an input. */
import { valuesBetween, type SeriesName } from './series'

/** Voltage at the tap, unloaded: U · lower ÷ (upper + lower). Textbook. */
export function dividedV(inputV: number, upperOhm: number, lowerOhm: number): number {
  return inputV * lowerOhm / (upperOhm + lowerOhm)
}

/** The ready divider offered for 5 V into 3.3 V: 1.8 kΩ over 3.3 kΩ, both E12 (IEC 60063), gives 3.235 V and draws 1 mA. */
export const READY_DIVIDER = { kind: 'divider', upperOhm: 1800, lowerOhm: 3300 } as const

export interface DividerTask {
  inputV: number
  /** What the tap should come close to without passing `mostV`, and must reach at least. */
  aimV: number
  mostV: number
  leastV: number
  series: SeriesName
  /** Most current the source may give. */
  mostMa: number
  /** Capacitance at the tap, and the time one bit takes; an edge may take a tenth of it. */
  capacitancePf?: number
  bitS?: number
}

export interface Divider {
  upperOhm: number
  lowerOhm: number
  tapV: number
  currentMa: number
  /** 10 to 90 % of the edge: 2.2 · (upper ∥ lower) · C. Textbook. */
  edgeS: number
}

/** Share of a bit that its edges may take. Common practice. */
export const EDGE_SHARE = 0.1

/**
 * The divider of the series that comes closest to the aim within the limits; of equal ones the one that draws least.
 * Null when no pair between 100 Ω and 100 kΩ keeps them all.
 */
export function designDivider(task: DividerTask): Divider | null {
  const { inputV, aimV, mostV, leastV, series, mostMa, capacitancePf = 50, bitS } = task
  const uppers = valuesBetween(series, 100, 100_000)
  let best: Divider | null = null
  for (const lowerOhm of valuesBetween(series, 100, 100_000)) {
    for (const upperOhm of uppers) {
      const found = judgeDivider(inputV, upperOhm, lowerOhm, capacitancePf)
      if (found.tapV > mostV || found.tapV < leastV || found.currentMa > mostMa) continue
      if (bitS !== undefined && found.edgeS > EDGE_SHARE * bitS) continue
      const closer = best ? Math.abs(found.tapV - aimV) - Math.abs(best.tapV - aimV) : -1
      if (closer < -1e-9 || (closer < 1e-9 && found.currentMa < best!.currentMa)) best = found
    }
  }
  return best
}

/** The figures of a given divider. */
export function judgeDivider(inputV: number, upperOhm: number, lowerOhm: number, capacitancePf: number): Divider {
  return {
    upperOhm, lowerOhm, tapV: dividedV(inputV, upperOhm, lowerOhm),
    currentMa: inputV / (upperOhm + lowerOhm) * 1000,
    edgeS: 2.2 * (upperOhm * lowerOhm / (upperOhm + lowerOhm)) * capacitancePf * 1e-12,
  }
}
