/**
 * Worksheets of signals, and the figures each starts from. Each is opened by a finding, or by itself
 * with usual figures.
 */
import type { SeriesName } from './series'

export interface PullUpSheet { kind: 'pull-up', supplyV: number, clockHz: number, capacitancePf: number, pullUpOhms: number[] }

export interface DividerSheet {
  kind: 'divider'
  inputV: number
  mostV: number
  leastV: number
  series: SeriesName
  bitHz: number
  /** At the tap. */
  capacitancePf?: number
  mostMa?: number
  /** A pair of the maker's own. */
  ownPair?: boolean
  upperOhm?: number
  lowerOhm?: number
}

export interface LedSheet { kind: 'led', supplyV: number, forwardV: number, currentMa: number, series: SeriesName }

export interface SerialSheet {
  kind: 'serial'
  sourceHz: number
  divider: 'fractional-64' | 'eighth'
  baud: number
  partHz: number
  partDivider?: 'sixteenth' | 'eighth'
  frame: string
}

export interface MatrixSheet { kind: 'matrix', keys: number, rows: number, columns: number, diodes: boolean, settleUs?: number }

export interface StageSheet {
  kind: 'stage'
  lineV: number
  loadV: number
  loadMa: number
  inductive: boolean
  switchingHz: number
  series: SeriesName
}

export type SignalWorksheet = PullUpSheet | DividerSheet | LedSheet | SerialSheet | MatrixSheet | StageSheet

/** Starting figures where no finding gives any. */
export const USUAL_SIGNAL_WORKSHEETS: Readonly<{ [Kind in SignalWorksheet['kind']]: Extract<SignalWorksheet, { kind: Kind }> }> = {
  'pull-up': { kind: 'pull-up', supplyV: 3.3, clockHz: 100_000, capacitancePf: 100, pullUpOhms: [1800] },
  'divider': { kind: 'divider', inputV: 5, mostV: 3.6, leastV: 2, series: 'E12', bitHz: 115_200 },
  'led': { kind: 'led', supplyV: 3.3, forwardV: 2, currentMa: 5, series: 'E12' },
  'serial': { kind: 'serial', sourceHz: 48_000_000, divider: 'fractional-64', baud: 115_200, partHz: 0, frame: '8N1' },
  'matrix': { kind: 'matrix', keys: 16, rows: 4, columns: 4, diodes: false },
  'stage': { kind: 'stage', lineV: 3.3, loadV: 5, loadMa: 200, inductive: true, switchingHz: 0, series: 'E12' },
}

export const SIGNAL_WORKSHEET_NAMES: Readonly<Record<SignalWorksheet['kind'], string>> = {
  'pull-up': 'I²C pull-ups', 'divider': 'Voltage divider', 'led': 'LED resistor', 'serial': 'Serial rate',
  'matrix': 'Key matrix',
  'stage': 'Driving stage',
}
