/** A two-resistor divider between a driving output and an input. */
import { valuesBetween, type SeriesName } from './series'

/** Voltage at the tap, unloaded: U · lower ÷ (upper + lower). Textbook. */
export function dividedV(inputV: number, upperOhm: number, lowerOhm: number): number {
  return inputV * lowerOhm / (upperOhm + lowerOhm)
}

/**
 * The ready divider offered for 5 V into 3.3 V: 1.8 kΩ over 3.3 kΩ, both E12 (IEC 60063), gives 3.235 V and draws 1 mA.
 */
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

/** What an input pin wants to see. practice */
const AIM_V = 3.3
/** An output is asked for no more by a divider. practice */
export const DIVIDER_MAX_MA = 4
/** The ready pair is taken where it comes so near. practice */
const READY_NEAR_V = 0.3

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

/** Limits of a divider between an output and an input; what is not said is as usual. */
export interface DividerLimits {
  inputV: number
  mostV: number
  leastV: number
  series: SeriesName
  /** 0 where nothing switches. */
  bitHz?: number
  mostMa?: number
  capacitancePf?: number
}

/**
 * The divider to take, for findings and worksheet alike: the ready pair where it keeps every limit, else the best
 * of the series.
 */
export function chosenDivider(
  { inputV, mostV, leastV, series, bitHz = 0, mostMa = DIVIDER_MAX_MA, capacitancePf = 50 }: DividerLimits,
): Divider
  | null {
  const aimV = Math.min(AIM_V, mostV)
  const ready = judgeDivider(inputV, READY_DIVIDER.upperOhm, READY_DIVIDER.lowerOhm, capacitancePf)
  const isQuick = !bitHz || ready.edgeS <= EDGE_SHARE / bitHz
  if (ready.tapV <= mostV && ready.tapV >= leastV && Math.abs(ready.tapV - aimV) <= READY_NEAR_V
    && ready.currentMa <= mostMa && isQuick) {
    return ready
  }
  return designDivider({ inputV, aimV, mostV, leastV, series, mostMa, capacitancePf, ...bitHz && { bitS: 1 / bitHz } })
}
