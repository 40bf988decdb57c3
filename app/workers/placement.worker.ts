/** Placement off the main thread, so that typing is never blocked. */
import { expose } from 'comlink'
import { shippedCatalogue } from '~~/core/catalogue'
import { tryBoard, type BoardTrial } from '~~/core/choose/boards'
import { catalogueOf } from '~~/core/facts/gather'
import { costAsItStands, placePlan } from '~~/core/placement/place'
import { explainPlace } from '~~/core/placement/explain'
import type { Plan } from '~~/core/plan/types'

const service = {
  ping: () => true as const,
  place(plan: Plan, scope: 'rest' | 'all', onProgress: (nodes: number) => void) {
    return { before: costAsItStands(plan, shippedCatalogue), result: placePlan(plan, shippedCatalogue, { scope, onProgress }) }
  },
  /** Every board tried on the plan, told one after the other. */
  boards(plan: Plan, onTrial: (trial: BoardTrial) => void) {
    const catalogue = catalogueOf(plan, shippedCatalogue)
    for (const board of catalogue.boards.values()) onTrial(tryBoard(plan, board, catalogue))
  },
  explain(plan: Plan, terminal: string) {
    return explainPlace(plan, shippedCatalogue, terminal)
  },
}

export type PlacementService = typeof service

expose(service)
