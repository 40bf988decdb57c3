import { shippedCatalogue } from '../../core/catalogue'

/** All boards, parts, supplies and power items that ship. */
export default defineEventHandler(() => ({
  boards: [...shippedCatalogue.boards.values()],
  parts: [...shippedCatalogue.parts.values()],
  supplies: [...shippedCatalogue.supplies.values()],
  powerItems: [...shippedCatalogue.powerItems.values()],
}))
