/**
 * What a worksheet is made of: fields to fill, and sections of rows that they come to. One component draws all of them.
 */
import type { Origin } from '../catalogue/types'

interface Named {
  name: string
  label: string
  /** Shown only while this flag of the sheet is set. */
  when?: string
}

export interface NumberSheetField extends Named {
  is: 'number'
  unit: string
  /** Least value, itself allowed when `orEqual`. */
  min: number
  orEqual?: boolean
}

export type SheetField = NumberSheetField
  | Named & { is: 'choice', choices: readonly { value: string, title: string }[] }
  | Named & { is: 'flag' }
  /** Several numbers above zero, one after the other. */
  | Named & { is: 'list', unit: string }

/** A figure, its limit, whether it holds, and where the limit comes from. */
export interface SheetRow {
  label: string
  value: string
  limit?: string
  holds?: boolean
  origin?: Origin
}

export interface SheetSection { title?: string, rows: SheetRow[] }

export const numberField = (name: string, label: string, unit: string, min = 0, orEqual = false): NumberSheetField => ({
  is: 'number', name, label, unit, min, ...orEqual && { orEqual },
})
export const choiceField = (name: string, label: string,
  choices: readonly (readonly [value: string, title: string])[]): SheetField => ({
  is: 'choice', name, label, choices: choices.map(([value, title]) => ({ value, title })),
})
