/** Small plans for tests, built from parts by name. */
import { shippedCatalogue } from '../core/catalogue'
import type { KernelBinding } from '../core/catalogue/types'
import { evaluate } from '../core/evaluate'
import { emptyPlan } from '../core/plan/create'
import type { Assignment, Plan } from '../core/plan/types'

export const catalogue = shippedCatalogue

/** Kernel bindings of the shipped parts that have one, by part. */
export const bindings: Readonly<Record<string, KernelBinding>> = Object.fromEntries(
  [...shippedCatalogue.parts].flatMap(([id, { kernel }]) => kernel ? [[id, kernel]] : []),
)

/** A plan on a board with the given parts: id → type, or id → [type, options]. */
export function planOf(
  board: string | null, parts: Record<string, string | [string, Record<string, string>]>, more: Partial<Plan> = {},
): Plan {
  return {
    ...emptyPlan('Test'), board, supply: { type: 'adapter-5v-3a' },
    parts: Object.entries(parts)
      .map(([id, entry]) => typeof entry === 'string'
        ? { id, type: entry, name: id }
        : { id, type: entry[0], name: id, options: entry[1] }),
    ...more,
  }
}

/** `{ 'a.sda': 3 }` → fixed assignments. */
export const fixedAt = (places: Record<string, number | string>): Record<string, Assignment> =>
  Object.fromEntries(Object.entries(places)
    .map(([key, place]) =>
      [key, { ...(typeof place === 'number' ? { position: place } : { terminal: place }), fixed: true }]))

export const findingsOf = (plan: Plan) => evaluate(plan, catalogue).findings
export const codesOf = (plan: Plan) => findingsOf(plan).map(finding => finding.code)

/** A build of which nothing was said but what a test says of it. */
export const EMPTY_BUILD = { order: [], rules: [], flat: [], places: {}, measured: {}, colours: {}, took: {} }
