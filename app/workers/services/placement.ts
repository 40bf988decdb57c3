/** Placement, and whatever else takes its time, off the main thread, so that typing is never blocked. */
import { shippedCatalogue } from '~~/core/catalogue'
import { tryBoard, type BoardTrial } from '~~/core/choose/boards'
import { catalogueOf, gatherFacts } from '~~/core/facts/gather'
import { costAsItStands, placePlan } from '~~/core/placement/place'
import { explainPlace } from '~~/core/placement/explain'
import { programAgainst } from '~~/core/programs'
import { constantsOf } from '~~/core/programs/correct'
import { readProgram, type ReadAs } from '~~/core/programs/reading'
import { planFrom } from '~~/core/programs/start'
import type { Plan } from '~~/core/plan/types'

export const service = {
  place(plan: Plan, scope: 'rest' | 'all', onProgress: (nodes: number) => void) {
    return { before: costAsItStands(plan, shippedCatalogue),
      result: placePlan(plan, shippedCatalogue, { scope, onProgress }) }
  },
  /** Every board tried on the plan, told one after the other. */
  boards(plan: Plan, onTrial: (trial: BoardTrial) => void) {
    const catalogue = catalogueOf(plan, shippedCatalogue)
    for (const board of catalogue.boards.values()) onTrial(tryBoard(plan, board, catalogue))
  },
  /** A text held against the plan, with the plan as constants in the text's language. */
  program(plan: Plan, text: string, as: ReadAs) {
    const facts = gatherFacts(plan, shippedCatalogue)
    const against = programAgainst(text, as, facts)
    return { ...against, constants: constantsOf(facts, against.reading.language, against.reading.numbering) }
  },
  /** A plan begun from a text. */
  begun(text: string, as: ReadAs, about: { name: string, board: string, supply: string | null }) {
    const reading = readProgram(text, as)
    return { reading, ...planFrom(reading, about, shippedCatalogue) }
  },
  explain(plan: Plan, terminal: string) {
    return explainPlace(plan, shippedCatalogue, terminal)
  },
}

export type PlacementService = typeof service
