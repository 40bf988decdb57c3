/** What a plan needs of each thing of the catalogue, and what is to be bought for it. */
import type { Edit } from '../plan/edits'
import type { Plan } from '../plan/types'
import type { Fix } from '../vocabulary/finding'
import type { StockEntry } from './shape'

/** Catalogue id → how many the plan takes. Read from the plan alone, so that many plans can be looked through. */
export function takenBy(plan: Pick<Plan, 'board' | 'supply' | 'parts' | 'power'>): Map<string, number> {
  const taken = new Map<string, number>()
  const add = (type: string | null | undefined) => type && taken.set(type, (taken.get(type) ?? 0) + 1)
  add(plan.board)
  add(plan.supply?.type)
  for (const { type } of plan.parts) add(type)
  for (const { type } of plan.power?.nodes ?? []) add(type)
  return taken
}

/** A row of a parts list, as far as the stock asks. */
export interface StockNeed {
  type?: string
  what: string
  count: number
}

export interface StockRow {
  /** All that lie there, wherever. */
  have: number
  /** Taken by other plans. */
  reserved: number
  need: number
  /** What neither lies free nor is here. */
  buy: number
  places: string[]
}

const plain = (text: string) => text.trim().toLowerCase()

/** Entries of the stock that are such a thing: by their catalogue id, or, without one, by what they are called. */
export const entriesFor = (stock: readonly StockEntry[],
  { type, what }: Pick<StockNeed, 'type' | 'what'>): StockEntry[] =>
  stock.filter(entry => type !== undefined && entry.type !== undefined
    ? entry.type === type
    : entry.type === undefined && plain(
      entry.what) === plain(what))

/**
 * Have, need and buy of one row of the parts list. `others` is what other plans take. Laws: `buy` is never more than
 * `need`; what lies free is used first.
 */
export function stockOf(item: StockNeed, stock: readonly StockEntry[], others: ReadonlyMap<string,
  number>): StockRow {
  const entries = entriesFor(stock, item)
  const have = entries.reduce((sum, { count }) => sum + count, 0)
  const reserved = item.type === undefined ? 0 : others.get(item.type) ?? 0
  const free = Math.max(0, have - reserved)
  return {
    have, reserved, need: item.count, buy: Math.max(0, item.count - free),
    places: [...new Set(entries.flatMap(({ place }) => place ? [place] : []))],
  }
}

/** What several plans take together. */
export function takenTogether(plans: readonly Parameters<typeof takenBy>[0][]): Map<string, number> {
  const all = new Map<string, number>()
  for (const plan of plans) for (const [type, count] of takenBy(plan)) all.set(type, (all.get(type) ?? 0) + count)
  return all
}

/** Catalogue ids that edits take into a plan, once for each time. */
export function takenIn(edits: readonly Edit[]): string[] {
  return edits.flatMap((edit): string[] => {
    switch (edit.edit) {
      case 'all': return takenIn(edit.edits)
      case 'add-part': return [edit.part.type]
      case 'add-node': return [edit.node.type]
      case 'choose-supply': return edit.supply ? [edit.supply.type] : []
      default: return []
    }
  })
}

/**
 * Ways out in the order in which they are offered: those that mend it with what lies free before those for which
 * something is bought. Each with whether its things are there.
 */
export function drawerFirst<T extends Pick<Fix, 'edits' | 'isPartial'>>(fixes: readonly T[],
  free: ReadonlyMap<string, number>) {
  const marked = fixes.map(fix => ({ fix, isThere: liesFree(fix.edits as Edit[], free) === true }))
  const isFirst = ({ fix, isThere }: { fix: T, isThere: boolean }) => isThere && !fix.isPartial
  return [...marked.filter(isFirst), ...marked.filter(entry => !isFirst(entry))]
}

/** Whether all that the edits take in lies free; `null` where they take nothing in. `free` is by catalogue id. */
export function liesFree(edits: readonly Edit[], free: ReadonlyMap<string, number>): boolean | null {
  const wanted = takenIn(edits)
  return wanted.length
    ? wanted.every(type => (free.get(type) ?? 0) >= wanted.filter(other => other === type).length)
    : null
}
