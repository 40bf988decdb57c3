/**
 * Solves A·x = b for matrices with few entries a row. The order and the places of the entries are worked out once
 * and used again.
 */

export interface Pattern {
  size: number
  /** Rows in the order of elimination. */
  order: Int32Array
  /** For each step, the rows still to come that the pivot's row touches, fill included. */
  later: Int32Array[]
}

/**
 * Order of elimination by least degree: on a tree it eliminates leaves first and adds no entries at all.
 * `edges` are pairs of rows that share an entry; the pattern is taken as symmetric.
 */
export function planElimination(size: number, edges: Iterable<readonly [number, number]>): Pattern {
  const near = Array.from({ length: size }, () => new Set<number>())
  for (const [a, b] of edges) {
    if (a === b) continue
    near[a]!.add(b)
    near[b]!.add(a)
  }
  const order = new Int32Array(size)
  const later: Int32Array[] = []
  const byDegree: Set<number>[] = []
  const file = (row: number) => (byDegree[near[row]!.size] ??= new Set()).add(row)
  for (let row = 0; row < size; row++) file(row)
  for (let step = 0; step < size; step++) {
    const pivot = first(byDegree)
    const touched = [...near[pivot]!]
    order[step] = pivot
    later.push(Int32Array.from(touched))
    byDegree[touched.length]!.delete(pivot)
    for (const row of touched) {
      byDegree[near[row]!.size]!.delete(row)
      near[row]!.delete(pivot)
    }
    for (const a of touched) {
      for (const b of touched) {
        if (a !== b) near[a]!.add(b)
      }
    }
    for (const row of touched) file(row)
  }
  return { size, order, later }
}

function first(byDegree: Set<number>[]): number {
  for (const rows of byDegree) {
    if (rows?.size) return rows.values().next().value!
  }
  throw new RangeError('no row is left to eliminate')
}

/**
 * Solves in place: `matrix` is row after row, `size` × `size`, and is used up; `right` becomes the solution.
 * False when a pivot vanishes: the matrix is singular in this order.
 */
export function eliminate({ size, order, later }: Pattern, matrix: Float64Array, right: Float64Array): boolean {
  for (let step = 0; step < size; step++) {
    const pivot = order[step]!
    const rows = later[step]!
    const diagonal = matrix[pivot * size + pivot]!
    if (!(Math.abs(diagonal) > 1e-12)) return false
    for (const row of rows) {
      const factor = matrix[row * size + pivot]! / diagonal
      if (factor === 0) continue
      for (const column of rows) matrix[row * size + column]! -= factor * matrix[pivot * size + column]!
      right[row]! -= factor * right[pivot]!
    }
  }
  for (let step = size - 1; step >= 0; step--) {
    const pivot = order[step]!
    let sum = right[pivot]!
    for (const column of later[step]!) sum -= matrix[pivot * size + column]! * right[column]!
    right[pivot] = sum / matrix[pivot * size + pivot]!
  }
  return true
}
