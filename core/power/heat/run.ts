/** The load test: how warm the processor gets, when its clocks fall, and what the fan does. */
import type { BoardHeat } from '../../catalogue/types'
import type { FanControl } from '../../plan/power'
import { FAN_POWER, type CoolerFigures, type EnclosureFigures } from './coolers'

export interface HeatTask {
  heat: BoardHeat
  cooler: CoolerFigures
  enclosure: EnclosureFigures
  ambientC: number
  fan: FanControl
  /** The board's draw under load and at idle, and what else gives heat off in the same case. */
  boardW: number
  idleW: number
  otherW: number
  minutes: number
}

export interface HeatPoint {
  second: number
  temperatureC: number
  fanPercent: number
  /** Of the full clock. */
  clockPercent: number
}

export interface HeatRun {
  points: HeatPoint[]
  /** Where it ends if it never throttled and the fan stayed as it stands at the end. */
  steadyC: number
  hottestC: number
  /** Seconds until clocks fall; null when they do not within the test. */
  slowsAtS: number | null
  /** Times the fan came on. */
  fanStarts: number
  endClockPercent: number
}

/** Resistance of the chip to the air around it, in K per W. */
export const chipKw = ({ bareKw }: BoardHeat, cooler: CoolerFigures, fanPercent: number): number =>
  (cooler.ownKw === undefined
    ? bareKw * (cooler.stillShare + (cooler.blownShare - cooler.stillShare) * (fanPercent / 100) ** FAN_POWER)
    : cooler.ownKw * (1 + (cooler.blownShare / cooler.stillShare - 1) * (fanPercent / 100) ** FAN_POWER))

/** Resistance of the case to the room, in K per W. */
export const caseKwAt = (enclosure: EnclosureFigures, fanPercent: number): number =>
  enclosure.stillKw + (enclosure.blownKw - enclosure.stillKw) * (fanPercent / 100) ** FAN_POWER

/** The air in the case once it has settled, in °C. Textbook: T = Ta + P·R. */
export const airC = ({ enclosure, ambientC, boardW,
  otherW }: Pick<HeatTask, 'enclosure' | 'ambientC' | 'boardW' | 'otherW'>,
fanPercent: number): number =>
  ambientC + (boardW + otherW) * caseKwAt(enclosure, fanPercent)

/** T = Ta + P_all · R_case + P_chip · R_chip (textbook). */
export function steadyC(
  { heat, cooler, enclosure, ambientC, boardW, otherW }: Omit<HeatTask, 'fan' | 'idleW' | 'minutes'>,
  fanPercent: number,
): number {
  return ambientC + (boardW + otherW) * caseKwAt(enclosure, fanPercent)
    + boardW * heat.chipShare * chipKw(heat, cooler, fanPercent)
}

/**
 * Fan speed at a temperature, knowing what it was: it goes down only once the temperature has fallen by the hysteresis.
 */
export function fanPercentAt(fan: FanControl, temperatureC: number, before: number): number {
  switch (fan.mode) {
    case 'none': return 0
    case 'always': return 100
    case 'threshold': return temperatureC >= fan.onC || (before > 0 && temperatureC > fan.onC - fan.hysteresisC)
      ? 100
      : 0
    case 'curve': {
      const speedAt = (celsius: number) => fan.points.filter(point => celsius >= point.temperatureC)
        .reduce((max, point) => Math.max(max, point.percent), 0)
      const up = speedAt(temperatureC)
      return up >= before ? up : Math.min(before, speedAt(temperatureC + fan.hysteresisC))
    }
  }
}

const STEP_S = 1
const KEEP_EVERY_S = 10

/** Two stores of heat: the chip with its cooler, and the air in the case. Goes second by second, starting from idle. */
export function runHeat(task: HeatTask): HeatRun {
  const { heat, cooler, enclosure, ambientC, fan, boardW, idleW, otherW, minutes } = task
  let fanPercent = fanPercentAt(fan, steadyC({ ...task, boardW: idleW }, 0), 0)
  let airC = ambientC + (idleW + otherW) * caseKwAt(enclosure, fanPercent)
  let chipC = steadyC({ ...task, boardW: idleW }, fanPercent)
  const run: HeatRun = { points: [], steadyC: 0, hottestC: chipC, slowsAtS: null, fanStarts: 0, endClockPercent: 100 }
  const chipStore = cooler.ownStoreJk ?? heat.storeJk + cooler.storeJk
  for (let second = 0; second <= minutes * 60; second += STEP_S) {
    const clockPercent = clockAt(heat, chipC)
    const drawnW = idleW + (boardW - idleW) * clockPercent / 100
    const wanted = fanPercentAt(fan, chipC, fanPercent)
    if (wanted > 0 && fanPercent === 0 && fan.mode !== 'always') run.fanStarts++
    fanPercent = wanted
    if (second % KEEP_EVERY_S === 0) run.points.push({ second, temperatureC: chipC, fanPercent, clockPercent })
    run.hottestC = Math.max(run.hottestC, chipC)
    if (clockPercent < 100 && run.slowsAtS === null) run.slowsAtS = second
    run.endClockPercent = clockPercent
    // Exact for constant power over the step: no step is too long for a light board.
    const chipR = chipKw(heat, cooler, fanPercent)
    chipC = towards(chipC, airC + drawnW * heat.chipShare * chipR, STEP_S / (chipR * chipStore))
    const airR = caseKwAt(enclosure, fanPercent)
    const airGoal = ambientC + (drawnW + otherW) * airR
    airC = airR > 0 ? towards(airC, airGoal, STEP_S / (airR * enclosure.storeJk)) : ambientC
  }
  run.steadyC = steadyC(task, fanPercent)
  return run
}

const towards = (now: number, goal: number, timeConstants: number) => goal + (now - goal) * Math.exp(-timeConstants)

/** Clocks fall in a straight line from where slowing begins to the hard limit. Memory. */
const clockAt = ({ slowsC, stopsC }: BoardHeat, celsius: number): number => {
  if (celsius <= slowsC) return 100
  return celsius >= stopsC
    ? 0
    : 100 * (stopsC - celsius) / (stopsC - slowsC)
}

/**
 * Seconds until a first-order rise passes a temperature: τ·ln((T∞ − T0) ÷ (T∞ − T)), τ = R·C. Infinity when it
 * never does. Textbook.
 */
export function secondsTo(startC: number, endC: number, limitC: number, kw: number, storeJk: number): number {
  if (startC >= limitC) return 0
  return endC > limitC ? kw * storeJk * Math.log((endC - startC) / (endC - limitC)) : Infinity
}
