import type { Board } from '../../catalogue/types'
import { boardHeat } from '../../facts/board'
import { USUAL_POWER_WORKSHEETS } from '../worksheets'
import type { PowerWorksheet } from '../worksheets'

/** The heat worksheet for a board that draws so many watts in so warm a room; the usual figures where there is no board. */
export function heatSheet(board: Board | null, boardW: number, ambientC: number): Extract<PowerWorksheet, { kind: 'heat' }> {
  if (!board) return { ...USUAL_POWER_WORKSHEETS.heat, ambientC }
  const { chipShare, bareKw, storeJk, slowsC } = boardHeat(board)
  return { kind: 'heat', powerW: Number((boardW * chipShare).toFixed(2)), ambientC, kw: bareKw, storeJk, limitC: slowsC }
}
