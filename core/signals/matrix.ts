/** Keys in rows and columns. */

/** Settling after a row is driven, before its columns are read. Memory: a few inner pull-ups and wire. */
export const SETTLE_S = 20e-6

export interface Matrix {
  rows: number
  columns: number
  diodes: boolean
}

export interface MatrixFigures {
  keys: number
  lines: number
  /** Lines saved against one line for each key. */
  saved: number
  /** All rows once. */
  scanS: number
  /**
   * Keys held together that can always be told apart: all with diodes, two without. Three corners of a rectangle
   * show a fourth.
   */
  toldApart: number
}

/** Arithmetic; the two-key limit is common practice: any three keys on the corners of a rectangle close the fourth. */
export function matrixFigures({ rows, columns, diodes }: Matrix, settleS = SETTLE_S): MatrixFigures {
  const keys = rows * columns
  return {
    keys, lines: rows + columns, saved: keys - rows - columns, scanS: rows * settleS,
    toldApart: diodes || rows < 2 || columns < 2 ? keys : Math.min(2, keys),
  }
}

/** The split of `keys` into rows and columns that takes fewest lines. */
export function smallestMatrix(keys: number): { rows: number, columns: number } {
  const rows = Math.max(1, Math.round(Math.sqrt(keys)))
  const columns = Math.ceil(keys / rows)
  return rows + columns <= rows + 1 + Math.ceil(keys / (rows + 1))
    ? { rows, columns }
    : { rows: rows + 1, columns: Math.ceil(keys / (rows + 1)) }
}
