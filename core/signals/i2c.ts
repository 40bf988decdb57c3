/**
 * The I²C bus as a circuit: pull-ups, capacitance, speed and time. Formulas from NXP UM10204 §7.1
 * unless said otherwise.
 */
import { parallelOhm } from './series'

/** Of a line that is pulled low: 0.4 V at 3 mA (20 mA in the fastest mode). Published: UM10204 table 10. */
export const LOW_V = 0.4
export const SINK_MA = 3

export interface Mode {
  name: string
  clockHz: number
  /** Longest rise, 30 to 70 %. */
  riseS: number
  maxPf: number
  sinkMa: number
}

/** Published: UM10204 tables 10 and 11. */
export const MODES: readonly Mode[] = [
  { name: 'standard', clockHz: 100_000, riseS: 1000e-9, maxPf: 400, sinkMa: 3 },
  { name: 'fast', clockHz: 400_000, riseS: 300e-9, maxPf: 400, sinkMa: 3 },
  { name: 'fast plus', clockHz: 1_000_000, riseS: 120e-9, maxPf: 550, sinkMa: 20 },
]

/** The slowest mode that allows the clock; the fastest one for clocks above all. */
export function modeOf(clockHz: number): Mode {
  return MODES.find(mode => mode.clockHz >= clockHz) ?? MODES.at(-1)!
}

/** Least pull-up: (VDD − VOL) ÷ IOL. */
export function minPullUpOhm(supplyV: number, lowV: number, sinkMa: number): number {
  return (supplyV - lowV) / sinkMa * 1000
}

/** Most pull-up: tr ÷ (0.8473 · Cb). */
export function maxPullUpOhm(riseS: number, capacitancePf: number): number {
  return riseS / (0.8473 * capacitancePf * 1e-12)
}

/** Rise from 30 to 70 %: 0.8473 · R · Cb. */
export function riseTimeS(pullUpOhm: number, capacitancePf: number): number {
  return 0.8473 * pullUpOhm * capacitancePf * 1e-12
}

/** Jumper wire beside its return. Memory: 50 to 100 pF a metre. */
export const WIRE_PF_PER_M = 80
/** The board's own pin and tracks. Memory. */
export const BOARD_PF = 15

export interface BusLoad {
  pullUpOhm: number
  capacitancePf: number
}

/** All pull-ups side by side, all capacitances added. `pullUpOhm` is Infinity where there is none. */
export function loadOf(
  pullUps: readonly number[], partsPf: readonly number[], wiresM: readonly number[], pfPerM = WIRE_PF_PER_M,
): BusLoad {
  return {
    pullUpOhm: parallelOhm(pullUps),
    capacitancePf: BOARD_PF + partsPf.reduce((sum, pf) => sum + pf, 0) + pfPerM * wiresM.reduce((sum, m) => sum + m, 0),
  }
}

/** The fastest mode whose rise time and capacitance this load keeps; null when not even the slowest. */
export function reachableMode({ pullUpOhm, capacitancePf }: BusLoad): Mode | null {
  return [...MODES].reverse()
    .find(mode => riseTimeS(pullUpOhm, capacitancePf) <= mode.riseS && capacitancePf <= mode.maxPf) ?? null
}

/** Time a message takes: 9 clocks a byte, start and stop another 2. */
export function messageS(bytes: number, clockHz: number): number {
  return (9 * bytes + 2) / clockHz
}

/** Share of the time the bus is busy; above one it cannot keep up. */
export function busyShare(polls: readonly { hz: number, bytes: number }[], clockHz: number): number {
  return polls.reduce((sum, { hz, bytes }) => sum + hz * messageS(bytes, clockHz), 0)
}
