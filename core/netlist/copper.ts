/**
 * Copper wires: resistance by gauge, what they stand, and the thinnest that does. Lengths are one way; the
 * return is counted.
 */
import type { Origin } from '../catalogue/types'

/** Of annealed copper at 20 °C, in Ω·m. published: IEC 60028 */
const COPPER_OHM_M = 1.7241e-8

/** Diameter in mm of a gauge number. published: ASTM B258 */
export const diameterMm = (awg: number): number => 0.127 * 92 ** ((36 - awg) / 39)

export const areaMm2 = (awg: number): number => Math.PI / 4 * diameterMm(awg) ** 2

/** Resistance of one conductor in mΩ per metre at 20 °C. published: ASTM B258 and IEC 60028 */
export const milliohmPerM = (awg: number): number => COPPER_OHM_M / (areaMm2(awg) * 1e-6) * 1000

/** There and back, in ohms. */
export const pairOhm = (awg: number, lengthM: number): number => 2 * lengthM * milliohmPerM(awg) / 1000

/** Current that a short wire in open air carries, per mm² of copper. */
export const DENSITY = { maPerMm2: 10_000, origin: 'practice' as Origin }

/**
 * Circuits in one bundle warm each other; a pair there and back is one. published: IEC 60364-5-52 table B.52.17, its
 * first row, from memory
 */
const BUNDLE: readonly [pairs: number, share: number][] = [
  [1, 1], [2, 0.8], [3, 0.7], [4, 0.65], [5, 0.6], [6, 0.57], [7, 0.54], [8, 0.52], [9, 0.5], [12, 0.45], [16, 0.41],
  [20, 0.38],
]

/** What part of its open-air current a pair in a bundle of so many carries. */
export function bundleShare(pairs: number): number {
  return BUNDLE.findLast(([min]) => pairs >= min)?.[1] ?? 1
}

/** Most current of one wire in mA. */
export const wireMostMa = (awg: number,
  bundledPairs = 1): number => DENSITY.maPerMm2 * areaMm2(awg) * bundleShare(bundledPairs)

/** Gauges on sale, thinnest first. */
export const GAUGES: readonly number[] = [30, 28, 26, 24, 22, 20, 18, 16, 14, 12]

export interface WireTask {
  supplyV: number
  currentMa: number
  lengthM: number
  /** Least voltage at the load. */
  leastV: number
  bundledPairs: number
  /** Plugs and joints, there and back. */
  contactOhm: number
}

export interface WireFigures {
  ohm: number
  dropV: number
  loadV: number
  lossMw: number
  maxMa: number
  holds: boolean
}

/** What a gauge comes to in the task. */
export function wireFigures(awg: number,
  { supplyV, currentMa, lengthM, leastV, bundledPairs, contactOhm }: WireTask): WireFigures {
  const ohm = pairOhm(awg, lengthM) + contactOhm
  const dropV = ohm * currentMa / 1000
  const maxMa = wireMostMa(awg, bundledPairs)
  const loadV = supplyV - dropV
  return { ohm, dropV, loadV, lossMw: dropV * currentMa, maxMa, holds: loadV >= leastV && currentMa <= maxMa }
}

/** The thinnest gauge on sale that carries the current and leaves the load its voltage; null when none does. */
export function thinnestGauge(task: WireTask): number | null {
  return GAUGES.find(awg => wireFigures(awg, task).holds) ?? null
}

/** Resistance of a cable from its voltages without and with a load. Null when the figures cannot be so. */
export function measuredOhm(withoutV: number, withV: number, currentMa: number): number | null {
  return currentMa > 0 && withV <= withoutV ? (withoutV - withV) / currentMa * 1000 : null
}
