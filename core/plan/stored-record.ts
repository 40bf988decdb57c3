/**
 * A quick look at a stored plan, without the schema library: enough to tell a damaged record from one that can
 * be worked with.
 */
import { isRecord } from './same'
import { firstFields, PLAN_VERSION } from './shape'

export type Soundness = { state: 'sound' } | { state: 'newer', version: number } | { state: 'damaged', message: string }

/** What a stored plan is. Fields that have come since are allowed to be missing. */
export function soundness(plan: unknown): Soundness {
  const damaged = (message: string): Soundness => ({ state: 'damaged', message })
  if (!isRecord(plan)) return damaged('it holds no plan')
  if (typeof plan.version === 'number' && plan.version > PLAN_VERSION) return { state: 'newer', version: plan.version }
  if (typeof plan.name !== 'string') return damaged('its name is missing')
  if (plan.board !== null && typeof plan.board !== 'string') return damaged('"board" is no name of a board')
  for (const field of LISTS) {
    if (plan[field] !== undefined && !Array.isArray(plan[field])) return damaged(`"${field}" is no list`)
  }
  for (const field of RECORDS) {
    if (plan[field] !== undefined && !isRecord(plan[field])) return damaged(`"${field}" is no record`)
  }
  const parts = (plan.parts ?? []) as unknown[]
  const wrong = parts.findIndex(part => !isRecord(part) || typeof part.id !== 'string' || typeof part.type !== 'string')
  if (!Array.isArray(plan.parts)
    || wrong >= 0) return damaged(wrong < 0 ? '"parts" is missing' : `parts[${wrong}] is no part`)
  if (plan.boot !== undefined && plan.boot !== null && !isRecord(plan.boot)) return damaged('"boot" is no record')
  return { state: 'sound' }
}

const first = Object.entries(firstFields())
const LISTS = ['parts', ...first.filter(([, value]) => Array.isArray(value)).map(([name]) => name)]
const RECORDS = ['assignments', ...first.filter(([, value]) => isRecord(value)).map(([name]) => name)]
