/**
 * Numbers from 0 to 1, the same for the same seed: a linear congruential generator with the constants of
 * ISO C's example.
 */
export function random(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (Math.imul(state, 1_103_515_245) + 12_345) & 0x7FFFFFFF
    return state / 0x7FFFFFFF
  }
}

export const pick = <T>(next: () => number,
  list: readonly T[]): T => list[Math.min(list.length - 1, Math.floor(next() * list.length))]!

/** True in `npm run test:draw`: inputs drawn anew, and all of them. */
export const isDrawn = process.env.VOLTARIS_SEED !== undefined

/**
 * How many of so many cases a run takes: a quarter in `npm test`, at least twelve of them; all in `npm run test:draw`.
 */
export const draws = (whole: number): number => isDrawn ? whole : Math.min(whole, Math.max(12, Math.ceil(whole / 4)))
/** How many of so many plans: a plan is dearer than a case. */
export const drawnPlans = (whole: number): number =>
  isDrawn ? whole : Math.min(whole, Math.max(3, Math.ceil(whole / 4)))
/** Every how many-eth of many rows a run takes: three times fewer in `npm test`. */
export const sparse = (every: number): number => isDrawn ? every : every * 3
/** How many cases must at least have been judged, of a law that counts them: fewer where fewer are drawn. */
export const judgedAtLeast = (whole: number): number => isDrawn ? whole : Math.floor(whole / 5)
/** The first third of cases that are dear, at least two; all of them where all are drawn. */
export const few = <T>(cases: readonly T[]): T[] =>
  cases.slice(0, isDrawn ? undefined : Math.max(2, Math.ceil(cases.length / 3)))
