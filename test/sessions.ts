/** Sittings at the simulated board, as planned or with a fault, for the tests of what it shows. */
import { expect } from 'vitest'
import { modelOf } from '../core/diagnosis/table'
import type { Change, Table } from '../core/diagnosis/types'
import { Session } from '../core/simulated/session'
import { gatherFacts } from '../core/facts/gather'
import type { Plan } from '../core/plan/types'
import { demoPlans } from '../demo'
import { catalogue } from './plans'

export const factsOf = (plan: Plan) => gatherFacts(plan, catalogue)
export const [hive, signals, kiosk] = demoPlans as [Plan, Plan, Plan]

const kept = new Map<Plan, { table: Table, rows: Row[] }>()
export interface Row { id: string, changes: Change[], seen: string[] }
/** The thing as planned, and with each of its faults, with what the table says of it. */
export function rowsOf(plan: Plan) {
  const before = kept.get(plan)
  if (before) return before
  const { table } = modelOf(factsOf(plan))
  const rows: Row[] = [
    { id: 'none', changes: [], seen: table.planned },
    ...table.faults.map(({ id, changes }, i) => ({ id, changes, seen: table.seen[i]! })),
  ]
  kept.set(plan, { table, rows })
  return { table, rows }
}

/** All that these lines print. */
export const said = async (session: Session, ...lines: string[]) => {
  let text = ''
  for (const line of lines) {
    const { out, err } = await session.run(line)
    text += out + err
  }
  return text
}
/** A board as planned, or with one of its faults. */
export const sitting = (plan: Plan, fault?: string, lineTools: 1 | 2 = 1) => {
  const { rows } = rowsOf(plan)
  const row = rows.find(({ id }) => id === (fault ?? 'none'))
  expect(row, `no fault ${fault}`).toBeDefined()
  return new Session(factsOf(plan), { changes: row!.changes, lineTools })
}
