/** One part's lines by themselves: the cheapest places for them, by the quickest way that is exact. */
import { cheapestMatching } from './matching'

/** Clusters up to this many lines are solved over all sets of their lines. */
const FEW_ROWS = 4

/**
 * Cost of the cheapest places. `loaded` is column × line: what each line costs at each column, prices included; `away`
 * is what the column adds for every line. Fills `chosen`, line → column, when it is given.
 */
export type AloneSolver = (loaded: Float64Array, size: number, away: Float64Array, chosen: number[] | null) => number

/** The way to solve a cluster of this size; `inOrder` when the Monge condition holds between its lines. */
export function costAlone(size: number, inOrder: boolean): AloneSolver {
  if (inOrder) return orderedCost
  return size <= FEW_ROWS ? subsetCost : matchedCost
}

/**
 * Lines in their order to places in theirs, by dynamic programming over the places; the best matching wherever the
 * Monge condition holds. `loaded` is column × line. Fills `chosen`, line → column, when it is given.
 */
function orderedCost(loaded: Float64Array, size: number, away: Float64Array, chosen: number[] | null): number {
  const min = new Float64Array(size + 1).fill(Infinity)
  min[0] = 0
  const taken = chosen && new Uint8Array(loaded.length)
  for (let c = 0, at = 0; c < away.length; c++, at += size) {
    const extra = away[c]!
    for (let i = Math.min(size, c + 1) - 1; i >= 0; i--) {
      const value = min[i]! + loaded[at + i]! + extra
      if (value < min[i + 1]!) {
        min[i + 1] = value
        if (taken) taken[at + i] = 1
      }
    }
  }
  if (chosen && taken) for (let c = away.length - 1, i = size - 1; c >= 0
    && i >= 0; c--) if (taken[c * size + i]) chosen[i--] = c
  return min[size]!
}

/** A few lines of any kind: dynamic programming over the places and the sets of lines that have one. */
function subsetCost(loaded: Float64Array, size: number, away: Float64Array, chosen: number[] | null): number {
  const sets = 1 << size
  const min = new Float64Array(sets).fill(Infinity)
  min[0] = 0
  const taken = chosen && new Int8Array(away.length * sets).fill(-1)
  for (let c = 0, at = 0; c < away.length; c++, at += size) {
    const extra = away[c]!
    for (let set = sets - 1; set > 0; set--) {
      for (let i = 0; i < size; i++) {
        if (!(set & (1 << i))) continue
        const value = min[set ^ (1 << i)]! + loaded[at + i]! + extra
        if (value < min[set]!) {
          min[set] = value
          if (taken) taken[c * sets + set] = i
        }
      }
    }
  }
  if (chosen && taken) for (let c = away.length - 1, set = sets - 1; c >= 0 && set; c--) {
    const i = taken[c * sets + set]!
    if (i < 0) continue
    chosen[i] = c
    set ^= 1 << i
  }
  return min[sets - 1]!
}

function matchedCost(loaded: Float64Array, size: number, away: Float64Array, chosen: number[] | null): number {
  const matching = cheapestMatching(Array.from({ length: size }, (_, i) => {
    const own = new Float64Array(away.length)
    for (let c = 0; c < own.length; c++) own[c] = loaded[c * size + i]! + away[c]!
    return own
  }))
  matching?.columns.forEach((column, i) => {
    if (chosen) chosen[i] = column
  })
  return matching?.cost ?? Infinity
}

/** Plain loops: these run some ten thousand times in a placement, and mapping a typed array is slow. */
export function picked(values: Float64Array, at: Int32Array): Float64Array {
  const out = new Float64Array(at.length)
  for (let i = 0; i < at.length; i++) out[i] = values[at[i]!]!
  return out
}

export function summed(a: Float64Array, b: Float64Array): Float64Array {
  const out = new Float64Array(a.length)
  for (let i = 0; i < a.length; i++) out[i] = a[i]! + b[i]!
  return out
}

export function movedAlone(prices: Float64Array, over: Int32Array, step: number): Float64Array {
  const out = new Float64Array(prices.length)
  for (let p = 0; p < prices.length; p++) out[p] = Math.max(0, prices[p]! + step * over[p]!)
  return out
}
