/** The catalogue as bytes: it never changes while the server runs, and is worked out once in each form. */
import type { Answer } from '../work/thread'
import { inPool } from './pool'

const made = new Map<boolean, Promise<Answer>>()

export function readCatalogue(gzip: boolean): Promise<Answer> {
  let answer = made.get(gzip)
  if (!answer) {
    answer = inPool({ job: 'catalogue', body: new Uint8Array(), query: {}, gzip }, new AbortController().signal)
    made.set(gzip, answer)
    answer.catch(() => made.delete(gzip))
  }
  return answer
}
