/** What the maker owns, across projects. */
import { list, number, open, optional, text, type Of } from '../shape/shape'

const entry = open({
  id: text({ most: 60 }),
  /** In the catalogue: a board, a part, a supply or a power item; missing for what it does not know. */
  type: optional(text({ most: 100 })),
  what: text({ most: 200 }),
  count: number({ least: 0, most: 100_000, whole: true }),
  /** Where it lies. */
  place: optional(text({ empty: true, most: 200 })),
  note: optional(text({ empty: true, most: 1000 })),
})

export const stockShape = list(entry, { most: 5000, unique: 'id' })
export interface StockEntry extends Of<typeof entry> {}
