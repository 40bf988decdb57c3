/** What the maker owns, across projects. */
import { list, number, open, optional, text, type Of } from '../shape/shape'

const entry = open({
  id: text({ max: 60 }),
  /** In the catalogue: a board, a part, a supply or a power item; missing for what it does not know. */
  type: optional(text({ max: 100 })),
  what: text({ max: 200 }),
  count: number({ min: 0, max: 100_000, whole: true }),
  /** Where it lies. */
  place: optional(text({ empty: true, max: 200 })),
  note: optional(text({ empty: true, max: 1000 })),
})

export const stockShape = list(entry, { max: 5000, unique: 'id' })
export interface StockEntry extends Of<typeof entry> {}
