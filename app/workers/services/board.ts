/** The simulated board off the main thread, with its shell: one sitting at a time. */
import { modelOf } from '~~/core/diagnosis/table'
import type { Change } from '~~/core/diagnosis/types'
import { Session, type Shown } from '~~/core/simulated/session'
import { boardState, type BoardState } from '~~/core/simulated/state'
import { shippedCatalogue } from '~~/core/catalogue'
import { gatherFacts } from '~~/core/facts/gather'
import type { Plan } from '~~/core/plan/types'

/** Characters that the terminal of the stage is wide beside the open drawer. */
const COLUMNS = 58

let session: Session | null = null
const sitting = (): Session => {
  if (!session) throw new Error('no board is open')
  return session
}

export const service = {
  /** Faults that the plan can have. */
  faults: (plan: Plan) => modelOf(gatherFacts(plan, shippedCatalogue)).table.faults
    .map(({ id, title, mend }) => ({ id, title, mend })),
  /** Switches a board on, with a fault of that name or that row, or with none. */
  open(plan: Plan, fault: string | number | null, tools: 1 | 2): BoardState {
    const facts = gatherFacts(plan, shippedCatalogue)
    let changes: Change[] = []
    if (fault !== null) {
      const { faults } = modelOf(facts).table
      const found = typeof fault === 'number' ? faults[fault] : faults.find(({ id }) => id === fault)
      if (!found) throw new Error('the plan has no such fault any more')
      ;({ changes } = found)
    }
    session = new Session(facts, { changes, lineTools: tools, at: new Date(), columns: COLUMNS })
    return boardState(session)
  },
  async run(line: string): Promise<{ shown: Shown, state: BoardState }> {
    const shown = await sitting().run(line)
    return { shown, state: boardState(sitting()) }
  },
}

export type BoardService = typeof service
