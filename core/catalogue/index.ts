/** The shipped catalogue, read once from its files. */
import { boards, parts, power, supplies } from './shipped'
import type { Board, Catalogue, Part, PowerItem, SupplyUnit } from './types'

const byId = <T extends { id: string }>(files: unknown[]): ReadonlyMap<string, T> =>
  new Map((files as T[]).map(entry => [entry.id, entry]))

/** Boards, parts and supplies that ship with Voltaris. Their files are checked against their schemas in the tests. */
export const shippedCatalogue: Catalogue = {
  boards: byId<Board>(boards),
  parts: byId<Part>(parts),
  supplies: byId<SupplyUnit>(supplies),
  powerItems: byId<PowerItem>(power),
}
