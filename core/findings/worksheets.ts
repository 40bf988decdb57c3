/** Every worksheet worked out, of signals and of the supply alike. */
import { SHEET_FIELDS, sheetRows } from '../power/sheets'
import { POWER_WORKSHEET_NAMES, type PowerWorksheet } from '../power/worksheets'
import { SIGNAL_FIELDS, signalSections, withUsual, type SheetContext } from '../signals/sheets'
import { smallestMatrix } from '../signals/matrix'
import type { SheetField, SheetSection } from '../worksheets/fields'
import type { Worksheet } from '../vocabulary/worksheets'

/** The fields of a worksheet, in the order in which they are filled. */
export const fieldsOf = (sheet: Worksheet): readonly SheetField[] =>
  isOfPower(sheet) ? SHEET_FIELDS[sheet.kind] : SIGNAL_FIELDS[sheet.kind]

/** The worksheet with every field that it has, the usual ones where none was kept. */
export const filledSheet = (sheet: Worksheet): Worksheet => isOfPower(sheet) ? sheet : withUsual(sheet)

/** What a worksheet comes to on a board. Pure. */
export const sectionsOf = (sheet: Worksheet, context: SheetContext): SheetSection[] =>
  isOfPower(sheet) ? [{ rows: sheetRows(sheet) }] : signalSections(sheet, context)

/** True for a worksheet of the supply. */
export const isOfPower = (sheet: Worksheet): sheet is PowerWorksheet => sheet.kind in POWER_WORKSHEET_NAMES

/** What a worksheet offers to take over by itself: a name, and the sheet as it is then. */
export interface SheetOffer { label: string, sheet: Worksheet }

export function offersOf(sheet: Worksheet): SheetOffer[] {
  if (sheet.kind !== 'matrix') return []
  const { rows, columns } = smallestMatrix(Math.max(1, Math.round(sheet.keys)))
  return rows === sheet.rows && columns === sheet.columns
    ? []
    : [
        { label: 'Take the split with fewest lines', sheet: { ...sheet, rows, columns } },
      ]
}
