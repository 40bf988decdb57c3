/** The assignment problem: rows to columns, each column once, least total cost. */

/** Costs from here on mean "impossible". */
export const IMPOSSIBLE = 1e7

export interface Matching {
  columns: number[]
  cost: number
  /** Dual prices of the columns, never above zero: the cost rises by at least −price when a column is taken away. */
  prices: Float64Array
}

/**
 * Column for each row with the least total cost, by shortest augmenting paths with potentials (Kuhn 1955, Munkres 1957;
 * the form in Jonker and Volgenant 1987). Needs at least as many columns as rows; O(rows² · columns).
 * Null when some row can only be given an impossible column.
 */
export function cheapestMatching(cost: readonly ArrayLike<number>[]): Matching | null {
  const rows = cost.length
  const width = cost[0]?.length ?? 0
  if (!rows) return { columns: [], cost: 0, prices: new Float64Array(0) }
  if (width < rows) return null
  const rowPotential = new Float64Array(rows + 1)
  const columnPotential = new Float64Array(width + 1)
  const rowOf = new Int32Array(width + 1)
  const previous = new Int32Array(width + 1)
  const slack = new Float64Array(width + 1)
  const seen = new Uint8Array(width + 1)
  for (let row = 1; row <= rows; row++) {
    rowOf[0] = row
    let column = 0
    slack.fill(Infinity)
    seen.fill(0)
    do {
      seen[column] = 1
      const from = rowOf[column]!
      const costs = cost[from - 1]!
      const base = rowPotential[from]!
      let step = Infinity
      let next = 0
      for (let j = 1; j <= width; j++) {
        if (seen[j]) continue
        const reduced = costs[j - 1]! - base - columnPotential[j]!
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
  let total = 0
  for (let row = 0; row < rows; row++) {
    const own = cost[row]![columns[row]!]!
    if (own >= IMPOSSIBLE) return null
    total += own
  }
  return { columns, cost: total, prices: columnPotential.subarray(1) }
}
