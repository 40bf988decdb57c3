/** Bodies of requests: depth, shape and schema are checked before the core sees them. */
import type Joi from 'joi'
import { DeviceTreeError } from '../../core/devicetree/types'
import { parseJson } from '../../core/documents/json'
import { readPlan, readPlanText } from '../../core/plan/read'
import type { Plan } from '../../core/plan/types'
import { RequestProblem, unusable } from './problem'

/** The plan in a body. Throws 400 with the paths of what is wrong. */
export function planFrom(text: string): Plan {
  const read = readPlanText(text)
  if (!read.ok) throw unusable('plan', read.problems)
  return read.plan
}

/** A body of the given shape. Throws 400 with the paths of what is wrong. */
export function bodyFrom<T>(text: string, schema: Joi.ObjectSchema<T>): T {
  const parsed = parseJson(text)
  if (!parsed.ok) throw unusable('body', [{ path: '', message: `The body is no JSON: ${parsed.message}` }])
  const checked = schema.validate(parsed.value, { abortEarly: false })
  if (checked.error) throw unusable('body',
    checked.error.details.map(({ path, message }) => ({ path: path.join('.'), message })))
  return checked.value
}

/** A plan, or a plan beside a text: `{ plan, text }`. */
export function planAndText(body: string): { plan: Plan, text?: string } {
  const parsed = parseJson(body)
  // Told with the place by the reader of plans.
  if (!parsed.ok || typeof parsed.value !== 'object' || parsed.value === null
    || !('plan' in parsed.value)) return { plan: planFrom(body) }
  const { plan, text } = parsed.value as { plan: unknown, text?: unknown }
  if (text !== undefined
    && typeof text !== 'string') throw unusable('body', [{ path: 'text', message: 'text must be a string' }])
  const read = readPlan(plan)
  if (!read.ok) throw unusable('plan', read.problems)
  return { plan: read.plan, ...(text !== undefined && { text }) }
}

/** Runs device tree work; its typed errors become 400 with place or offset, 422 for an overlay that does not go on. */
export function treeWork<T>(path: string, work: () => T): T {
  try {
    return work()
  }
  catch (error) {
    if (!(error instanceof DeviceTreeError)) throw error
    const problems = [{ path, message: error.message, fault: error.fault, ...error.at }]
    if (error.fault === 'overlay') throw new RequestProblem(422, 'Overlay does not go on', problems)
    throw unusable('device tree', problems)
  }
}
