/** Numbers from 0 to 1, the same for the same seed: a linear congruential generator with the constants of ISO C's example. */
export function random(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (Math.imul(state, 1_103_515_245) + 12_345) & 0x7FFFFFFF
    return state / 0x7FFFFFFF
  }
}

export const pick = <T>(next: () => number, list: readonly T[]): T => list[Math.min(list.length - 1, Math.floor(next() * list.length))]!
