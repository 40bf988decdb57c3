/** A first plan for somebody who has none: parts that go together, by type, with the names they get. */
import { list, number, object, type Of } from '../../shape/shape'
import { id, words } from './common'

export const starter = object({
  id,
  /** Smaller ones are offered first. */
  rank: number(),
  title: words,
  says: words,
  parts: list(object({ type: id, name: words }), { min: 1 }),
})

export interface Starter extends Of<typeof starter> {}
