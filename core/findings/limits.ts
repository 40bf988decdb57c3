import type { BoardLimits, Origin } from '../catalogue/types'
import type { Facts } from '../facts/types'

export interface Limit {
  value: number
  origin: Origin
  key: string
}

/** A limit of the board, or the maker's own figure in its place; null without a board. */
export function boardLimit(facts: Facts, name: keyof BoardLimits): Limit | null {
  const key = `board.${name}`
  const own = facts.plan.limits[key]
  if (own) return { value: own.value, origin: own.origin ?? 'yours', key }
  return facts.board ? { ...facts.board.limits[name], key } : null
}
