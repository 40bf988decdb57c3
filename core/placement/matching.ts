/** The assignment problem: rows to columns, each column once, least total cost. */

/** Costs from here on mean "impossible". */
export const IMPOSSIBLE = 1e7

/**
 * Column for each row with the least total cost, by shortest augmenting paths with potentials (Kuhn 1955, Munkres 1957;
 * the form in Jonker and Volgenant 1987). Needs at least as many columns as rows; O(rows² · columns).
 * Null when some row can only be given an impossible column.
 */
export function cheapestMatching(cost: number[][]): { columns: number[], cost: number } | null {
  const rows = cost.length
  if (!rows) return { columns: [], cost: 0 }
  const width = cost[0]!.length
  if (width < rows) return null
  const rowPotential = new Float64Array(rows + 1)
  const columnPotential = new Float64Array(width + 1)
  const rowOf = new Int32Array(width + 1)
  const previous = new Int32Array(width + 1)
  for (let row = 1; row <= rows; row++) {
    rowOf[0] = row
    let column = 0
    const slack = new Float64Array(width + 1).fill(Infinity)
    const seen = new Uint8Array(width + 1)
    do {
      seen[column] = 1
      const from = rowOf[column]!
      let step = Infinity
      let next = 0
      for (let j = 1; j <= width; j++) {
        if (seen[j]) continue
        const reduced = cost[from - 1]![j - 1]! - rowPotential[from]! - columnPotential[j]!
        if (reduced < slack[j]!) {
          slack[j] = reduced
          previous[j] = column
        }
        if (slack[j]! < step) {
          step = slack[j]!
          next = j
        }
      }
      for (let j = 0; j <= width; j++) {
        if (seen[j]) {
          rowPotential[rowOf[j]!]! += step
          columnPotential[j]! -= step
        }
        else slack[j]! -= step
      }
      column = next
    } while (rowOf[column] !== 0)
    do {
      const back = previous[column]!
      rowOf[column] = rowOf[back]!
      column = back
    } while (column)
  }
  const columns = new Array<number>(rows).fill(-1)
  for (let j = 1; j <= width; j++) if (rowOf[j]) columns[rowOf[j]! - 1] = j - 1
  const total = columns.reduce((sum, column, row) => sum + cost[row]![column]!, 0)
  return columns.some((column, row) => cost[row]![column]! >= IMPOSSIBLE) ? null : { columns, cost: total }
}
