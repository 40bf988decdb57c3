import { shippedCatalogue } from '../../core/catalogue'

/** All boards, parts and supplies that ship. */
export default defineEventHandler(() => ({
  boards: [...shippedCatalogue.boards.values()],
  parts: [...shippedCatalogue.parts.values()],
  supplies: [...shippedCatalogue.supplies.values()],
}))
