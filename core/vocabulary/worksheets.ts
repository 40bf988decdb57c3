/**
 * All worksheets there are: of signals and of the supply. Each is opened by a finding, or by itself with usual figures.
 */
import { POWER_WORKSHEET_NAMES, USUAL_POWER_WORKSHEETS, type PowerWorksheet } from '../power/worksheets'
import { SIGNAL_WORKSHEET_NAMES, USUAL_SIGNAL_WORKSHEETS, type SignalWorksheet } from '../signals/worksheets'

export type Worksheet = SignalWorksheet | PowerWorksheet
export type WorksheetKind = Worksheet['kind']

export const USUAL_WORKSHEETS: Readonly<{ [Kind in WorksheetKind]: Extract<Worksheet, { kind: Kind }> }> = {
  ...USUAL_SIGNAL_WORKSHEETS, ...USUAL_POWER_WORKSHEETS,
}
export const WORKSHEET_NAMES: Readonly<Record<WorksheetKind, string>> = { ...SIGNAL_WORKSHEET_NAMES,
  ...POWER_WORKSHEET_NAMES }
