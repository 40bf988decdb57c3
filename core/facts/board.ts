/**
 * The board's own supply, heat and clock figures, with usual ones where a board file has none; and its draw at
 * a lower clock.
 */
import type { Board, BoardClocking, BoardHeat, BoardPower, Draw, SupplyUnit } from '../catalogue/types'
import type { ClockPlan } from '../plan/power'

const USUAL_POWER: BoardPower = {
  socketOhm: 0.06, socketRatedMa: 2500, fused: true, leastSupplyMa: 1200, signV: 4.63, leastV: 3.8, usbOhm: 0.08,
  rail3V3: 'step-down', rail3V3Efficiency: 0.85, rail3V3HeadroomV: 0.3, positionOhm: 0.02, positionRatedMa: 2000,
  inrushMa: 0,
  shutdownS: 15, origin: 'memory',
}
const USUAL_HEAT: BoardHeat = { bareKw: 12, storeJk: 30, chipShare: 0.8, slowsC: 80, stopsC: 85, origin: 'memory' }
const USUAL_CLOCKING: BoardClocking = { coreMhz: 1200, leastMhz: 600, coreV: 1.2, dynamicShare: 0.5, stepsLeast: -4,
  origin: 'memory' }

export const boardPower = (board: Board): BoardPower => board.power ?? USUAL_POWER
export const boardHeat = (board: Board): BoardHeat => board.heat ?? USUAL_HEAT
export const boardClocking = (board: Board): BoardClocking => board.clocking ?? USUAL_CLOCKING

/** One step of the core voltage setting. Memory. */
export const STEP_V = 0.025

/**
 * Part of the draw above idle that remains at a clock and core voltage: 1 − d + d · f/f0 · (V/V0)², with d the part
 * that switches. Dynamic power goes with clock × voltage² (textbook).
 */
export function drawShare(clocking: BoardClocking, { coreMhz, voltageSteps }: ClockPlan): number {
  const clock = (coreMhz ?? clocking.coreMhz) / clocking.coreMhz
  const voltage = Math.max(0.3, (clocking.coreV + voltageSteps * STEP_V) / clocking.coreV)
  return 1 - clocking.dynamicShare + clocking.dynamicShare * clock * voltage ** 2
}

/** What a clock and core voltage save at peak, at 5 V in mA; negative where they take more. */
export const savedAtPeakMa = (board: Board, clock: ClockPlan): number =>
  (board.draw.peakMa - board.draw.idleMa) * (1 - drawShare(boardClocking(board), clock))

/**
 * How far a supply meets the board's own wish; null for one that gives something else than 5 V, which a converter has
 * to make first.
 */
export function meetsWish(board: Board, { voltageV }: SupplyUnit,
  currentMa: number): 'below-least' | 'below-advised' | 'met' | null {
  if (Math.abs(voltageV - 5) > 0.5) return null
  if (currentMa < boardPower(board).leastSupplyMa) return 'below-least'
  return currentMa < board.advisedSupplyMa.value ? 'below-advised' : 'met'
}

/** The board's draw at 5 V with the plan's clock. */
export function boardDraw(board: Board, clock: ClockPlan): Draw {
  const share = drawShare(boardClocking(board), clock)
  const at = (ma: number) => board.draw.idleMa + (ma - board.draw.idleMa) * share
  return { ...board.draw, typicalMa: at(board.draw.typicalMa), peakMa: at(board.draw.peakMa) }
}
