/**
 * The judgement on plans: the largest piece of program by far. Choosing a board needs none of it, so it comes after
 * the first picture.
 */
import { shallowRef } from 'vue'

type Engine = typeof import('./checks')

/** Null until it has come and been tried on the plan that is open. */
export const engine = shallowRef<Engine | null>(null)
let loading: Promise<Engine> | null = null

/** Fetches it, once; one that did not come is asked for again the next time. Rejects with the browser's error. */
export function loadEngine(): Promise<Engine> {
  return loading ??= import('./checks').catch((error: Error) => {
    loading = null
    throw error
  })
}
