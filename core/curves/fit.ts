/**
 * A first-order rise or fall through readings: at rest, then towards an end as 1 − e^(−t/τ). Published: the law is
 * that of a single store behind a single resistance (textbook); the way to it is variable projection (Golub and
 * Pereyra 1973): for each τ start and end are a linear least-squares problem, so that only τ and the moment of the
 * step are searched.
 */

export interface RiseFit {
  /** Second at which it leaves its rest. */
  fromS: number
  start: number
  end: number
  tauS: number
  /** Root of the mean square of what is left. */
  rms: number
  /** The readings go on for at least twice τ: the end is seen, not guessed. */
  isSettled: boolean
}

/** So many readings are enough for three figures; more of them are thinned. */
const MAX_POINTS = 400
const MIN_POINTS = 6
const ONSETS = 40
/** Steps of the search for τ: golden section halves every one and a half. */
const STEPS = 60
const GOLDEN = (Math.sqrt(5) - 1) / 2

interface Linear { start: number, end: number, squares: number }

/** Start and end for one τ: both free, or the start held. */
function linear(seconds: readonly number[], values: readonly number[], fromS: number, tauS: number,
  heldStart: number | null): Linear {
  // y = end + (start − end)·f, f = e^(−t/τ), 1 before the step.
  let [n, sf, sff, sy, sfy] = [0, 0, 0, 0, 0]
  for (const [i, second] of seconds.entries()) {
    const f = second <= fromS ? 1 : Math.exp(-(second - fromS) / tauS)
    const y = values[i]! - (heldStart ?? 0)
    n++
    sf += f
    sff += f * f
    sy += y
    sfy += f * y
  }
  let start: number
  let end: number
  if (heldStart === null) {
    const determinant = n * sff - sf * sf
    const slope = determinant === 0 ? 0 : (n * sfy - sf * sy) / determinant
    end = (sy - slope * sf) / n
    start = end + slope
  }
  else {
    const weight = n - 2 * sf + sff
    end = heldStart + (weight === 0 ? 0 : (sy - sfy) / weight)
    start = heldStart
  }
  let squares = 0
  for (const [i, second] of seconds.entries()) {
    const f = second <= fromS ? 1 : Math.exp(-(second - fromS) / tauS)
    squares += (values[i]! - (end + (start - end) * f)) ** 2
  }
  return { start, end, squares }
}

function thinned(seconds: readonly number[], values: readonly number[]): { seconds: number[], values: number[] } {
  const every = Math.ceil(seconds.length / MAX_POINTS)
  const kept = (list: readonly number[]) => list.filter((_, i) => i % every === 0)
  return { seconds: kept(seconds), values: kept(values) }
}

/**
 * The best such curve; null for fewer than six readings, readings that do not move, or none that such a curve explains
 * better than a straight rest. @param heldStart A start that is known, not fitted; the step is then at the first
 * reading's second 0.
 */
export function fitRise(allSeconds: readonly number[], allValues: readonly number[],
  heldStart: number | null = null): RiseFit | null {
  if (allSeconds.length < MIN_POINTS) return null
  const { seconds, values } = thinned(allSeconds, allValues)
  const [first, last] = [seconds[0]!, seconds.at(-1)!]
  const spanS = last - first
  if (spanS <= 0) return null
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length
  const restSquares = values.reduce((sum, value) => sum + (value - mean) ** 2, 0)
  if (restSquares === 0) return null
  const bestAt = (fromS: number): { tauS: number } & Linear => {
    let [low, high] = [Math.log(spanS / 1000), Math.log(spanS * 20)]
    const at = (log: number) => linear(seconds, values, fromS, Math.exp(log), heldStart)
    let [a, b] = [high - GOLDEN * (high - low), low + GOLDEN * (high - low)]
    let [fa, fb] = [at(a), at(b)]
    for (let step = 0; step < STEPS; step++) {
      if (fa.squares <= fb.squares) {
        [high, b, fb] = [b, a, fa]
        a = high - GOLDEN * (high - low)
        fa = at(a)
      }
      else {
        [low, a, fa] = [a, b, fb]
        b = low + GOLDEN * (high - low)
        fb = at(b)
      }
    }
    return { tauS: Math.exp((low + high) / 2), ...at((low + high) / 2) }
  }
  let best = { fromS: heldStart === null ? first : 0, ...bestAt(heldStart === null ? first : 0) }
  /** A later step has to earn its place: it is one figure more. */
  const tryAt = (fromS: number) => {
    const found = bestAt(fromS)
    if (found.squares < best.squares * (1 - 2 / seconds.length)) best = { fromS, ...found }
  }
  if (heldStart === null) {
    let width = 0.6 * spanS / ONSETS
    for (let i = 1; i <= ONSETS; i++) tryAt(first + i * width)
    // Then closer and closer around the best of them.
    for (let closer = 0; closer < 2; closer++) {
      const { fromS } = best
      for (let i = -4; i <= 4; i++) if (i !== 0 && fromS + i * width / 5 > first) tryAt(fromS + i * width / 5)
      width /= 5
    }
  }
  if (best.squares > restSquares * 0.5) return null
  return {
    fromS: best.fromS, start: best.start, end: best.end, tauS: best.tauS, rms: Math.sqrt(best.squares / seconds.length),
    isSettled: last - best.fromS >= 2 * best.tauS,
  }
}
