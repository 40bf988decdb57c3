/** What drives a load that a line cannot: resistors, transistor and MOSFET stages, flyback diodes. */
import { nextAbove, nextBelow, type SeriesName } from './series'

export interface LedTask {
  supplyV: number
  forwardV: number
  currentMa: number
  series: SeriesName
}

export interface LedFigures {
  exactOhm: number
  ohm: number
  currentMa: number
  resistorMw: number
}

/** (U − Uf) ÷ I, the next value above (IEC 60063). Null when the supply is not above the LED's own voltage. */
export function ledResistor({ supplyV, forwardV, currentMa, series }: LedTask): LedFigures | null {
  if (supplyV <= forwardV || currentMa <= 0) return null
  const exactOhm = (supplyV - forwardV) / currentMa * 1000
  const ohm = nextAbove(series, exactOhm)
  const flowing = (supplyV - forwardV) / ohm
  return { exactOhm, ohm, currentMa: flowing * 1000, resistorMw: flowing * flowing * ohm * 1000 }
}

export interface StageTask {
  /** What the line gives when high. */
  lineV: number
  loadMa: number
  loadV: number
  /** Coils and motors kick back; lamps and LEDs do not. */
  inductive: boolean
  /** How often it switches; zero for on and off by hand. */
  switchingHz?: number
  series: SeriesName
}

/** Of a common small NPN transistor. Memory. */
export const TRANSISTOR = { gain: 100, overdrive: 5, baseV: 0.75, saturationV: 0.2, maxMa: 500,
  origin: 'memory' } as const
/** Of a common logic-level MOSFET. Memory. */
export const MOSFET = {
  onOhm: 0.05, thresholdV: 2, fullyOnV: 2.7, gateNc: 15, maxMa: 5000, pullDownOhm: 10_000, origin: 'memory',
} as const

export interface TransistorStage {
  baseMa: number
  baseOhm: number
  lossMw: number
  diode: boolean
  /** The transistor's own limit keeps it. */
  fits: boolean
}

/** The base gets I_C ÷ β × 2…10 (common practice); here five times. R = (U_line − U_BE) ÷ I_B, the next value below. */
export function transistorStage({ lineV, loadMa, inductive, series }: StageTask): TransistorStage {
  const wanted = loadMa / TRANSISTOR.gain * TRANSISTOR.overdrive
  const baseOhm = nextBelow(series, (lineV - TRANSISTOR.baseV) / wanted * 1000)
  const baseMa = (lineV - TRANSISTOR.baseV) / baseOhm * 1000
  return {
    baseMa, baseOhm, lossMw: loadMa * TRANSISTOR.saturationV + baseMa * TRANSISTOR.baseV, diode: inductive,
    fits: loadMa <= TRANSISTOR.maxMa,
  }
}

export interface MosfetStage {
  gateOhm: number
  pullDownOhm: number
  /** On-loss I²·R and, when it switches, gate slope × load. */
  lossMw: number
  /** 10 to 90 % of the gate through its resistor. */
  edgeS: number
  diode: boolean
  fits: boolean
}

/**
 * Gate resistor that keeps the line within `lineMostMa` while the gate charges; pull-down that holds it off at start.
 */
export function mosfetStage({ lineV, loadMa, loadV, inductive, switchingHz = 0, series }: StageTask,
  lineMostMa: number): MosfetStage {
  const gateOhm = nextAbove(series, lineV / lineMostMa * 1000)
  // Charge through a resistor from a fixed voltage: about Q ÷ (U / 2R).
  const edgeS = MOSFET.gateNc * 1e-9 * 2 * gateOhm / lineV
  const on = (loadMa / 1000) ** 2 * MOSFET.onOhm * 1000
  const switching = switchingHz ? 0.5 * loadV * loadMa / 1000 * edgeS * 2 * switchingHz * 1000 : 0
  return {
    gateOhm, pullDownOhm: MOSFET.pullDownOhm, lossMw: on + switching, edgeS, diode: inductive,
    fits: loadMa <= MOSFET.maxMa && lineV >= MOSFET.fullyOnV,
  }
}

/** Voltage of a line that an inner pull and an outer resistor pull at from two sides. Textbook divider. */
export function pulledV(supplyV: number, toSupplyOhm: number, toGroundOhm: number): number {
  return supplyV * toGroundOhm / (toSupplyOhm + toGroundOhm)
}
