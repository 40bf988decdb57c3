/** The shipped catalogue, read once from its folders. */
import { boards, parts, power, starters, supplies } from './generated/entries'
import type { Board, Catalogue, Part, PowerItem, Starter, SupplyUnit } from './types'

const byId = <T extends { id: string }>(files: unknown[]): ReadonlyMap<string, T> =>
  new Map((files as T[]).map(entry => [entry.id, entry]))

/** Boards, parts and supplies that ship with Voltaris. Their files are checked against their schemas in the tests. */
export const shippedCatalogue: Catalogue = {
  boards: byId<Board>(boards),
  parts: byId<Part>(parts),
  supplies: byId<SupplyUnit>(supplies),
  powerItems: byId<PowerItem>(power),
}

/** First plans that ship with Voltaris, in the order in which they are offered. */
export const shippedStarters: readonly Starter[] = [...starters as Starter[]].sort((a, b) => a.rank - b.rank)
