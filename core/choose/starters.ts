/** First plans for somebody who has none, from the catalogue's starters. */
import type { Catalogue, Starter } from '../catalogue/types'
import { placementEdits, placePlan } from '../placement/place'
import { emptyPlan } from '../plan/create'
import { applyEdit } from '../plan/edits'
import type { Plan } from '../plan/types'

/** A plan with a board, a supply and what one begins with, everything placed that can be. Pure. */
export function firstPlan(
  { name, board, supply, starter }: { name: string, board: string, supply: string | null, starter: Starter },
  catalogue: Catalogue,
): Plan {
  const plan: Plan = {
    ...emptyPlan(name), board, supply: supply ? { type: supply } : null,
    parts: starter.parts.map(({ type, name: called },
      i) => ({ id: `${type.split('-')[0]!}-${i + 1}`, type, name: called })),
  }
  const placed = placePlan(plan, catalogue, { scope: 'rest' })
  return placed.ok ? applyEdit(plan, { edit: 'all', edits: placementEdits(plan, placed) }).plan : plan
}
