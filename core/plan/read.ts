/** Reads a plan from text or from a parsed document, and says what is wrong with it by path. */
import { problemsOf, type Problem } from '../documents/failure'
import { parseJson } from '../documents/json'
import { migrate, type Document } from './migrate'
import { planSchema } from './schema'
import { BASE_STATES } from './power-shape'
import { PLAN_FORMAT, PLAN_VERSION, type Plan } from './types'

export type ReadResult = { ok: true, plan: Plan, migratedFrom?: number } | { ok: false, problems: Problem[] }

const refused = (message: string, path = ''): ReadResult => ({ ok: false, problems: [{ path, message }] })

/** A plan from the text of a file. Never throws. */
export function readPlanText(text: string): ReadResult {
  const parsed = parseJson(text.replace(/^\uFEFF/, ''))
  return parsed.ok ? readPlan(parsed.value) : refused(`This is not a JSON document: ${parsed.message}.`)
}

/**
 * A plan from a parsed document: recognised, migrated, checked, defaults filled in. Never throws; the argument
 * is not changed.
 */
export function readPlan(document: unknown): ReadResult {
  if (typeof document !== 'object' || document === null || Array.isArray(document))
    return refused('A plan is a JSON object; this is something else.')
  const { format, version } = document as Document
  if (format !== PLAN_FORMAT)
    return refused(
      'This is not a Voltaris plan: "format" has to be '
      + `"${PLAN_FORMAT}"${format === undefined ? ' and is missing' : ''}.`, 'format',
    )
  if (typeof version === 'number' && version > PLAN_VERSION)
    return refused(
      `This plan was written by a newer Voltaris (version ${version}; this one reads up to ${PLAN_VERSION}). Update `
      + 'Voltaris, then open it again.',
      'version',
    )
  const migrated = migrate(document as Document)
  const { value, error } = planSchema.validate(migrated, { abortEarly: false, convert: false })
  const problems = error ? problemsOf(error.details) : daysOff(value as Plan)
  if (problems.length) return { ok: false, problems }
  return { ok: true, plan: value as Plan, ...(migrated !== document && { migratedFrom: version as number }) }
}

/** What no field shows by itself: hours of the day that are none, and steps that are not there. */
function daysOff({ power }: Plan): Problem[] {
  const steps = new Set<string>([...BASE_STATES, ...power.steps.map(step => step.id)])
  return power.day.flatMap(({ fromH, toH, step }, i) => [
    ...fromH === toH
      ? [{ path: `power.day[${i}].toH`,
          message: 'ends at the hour at which it begins; write 0 to 24 for the whole day' }]
      : [],
    ...steps.has(step)
      ? []
      : [{ path: `power.day[${i}].step`,
          message: `there is no state or step "${step}"; there are ${[...steps].join(', ')}` }],
  ])
}

export { writePlanText } from './text-of'
