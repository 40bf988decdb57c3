import type { Board } from '../../catalogue/types'
import type { HeatPlan } from '../../plan/power'
import { boardHeat } from '../../facts/board'
import { USUAL_POWER_WORKSHEETS } from '../worksheets'
import type { PowerWorksheet } from '../worksheets'
import { coolerOf } from './coolers'
import { chipKw } from './run'

/**
 * The heat worksheet for a board that draws so many watts, with the plan's cooler in still air; the usual figures
 * without a board.
 */
export function heatSheet(board: Board | null, boardW: number,
  plan: HeatPlan): Extract<PowerWorksheet, { kind: 'heat' }> {
  const { ambientC } = plan
  if (!board) return { ...USUAL_POWER_WORKSHEETS.heat, ambientC }
  const heat = boardHeat(board)
  const cooler = coolerOf(plan)
  return {
    kind: 'heat', node: '@board', powerW: Number((boardW * heat.chipShare).toFixed(2)), ambientC,
    kw: Number(chipKw(heat, cooler, 0).toFixed(2)), storeJk: cooler.ownStoreJk ?? heat.storeJk + cooler.storeJk,
    limitC: heat.slowsC,
  }
}
