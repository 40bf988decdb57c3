/**
 * The check of a change before it is kept: what the file's check would refuse is refused here, so that what is kept can
 * be read back.
 */
import { problemsOf, type Problem } from '../documents/failure'
import { planSchema } from './schema'
import { PLAN_FIELDS } from './shape'
import type { Plan } from './types'

const schemas = new Map<string, ReturnType<typeof planSchema.extract> | null>()

function schemaOf(field: string) {
  // A field that the declaration does not know is let through and kept.
  if (!schemas.has(field)) schemas.set(field, PLAN_FIELDS.has(field) ? planSchema.extract(field) : null)
  return schemas.get(field)!
}

function problemsIn(plan: Plan, field: string): Problem[] {
  const { error } = schemaOf(field)?.validate(plan[field],
    { abortEarly: false, convert: false, errors: { label: false } }) ?? {}
  return problemsOf((error?.details ?? []).map(detail => ({ ...detail, path: [field, ...detail.path] })))
}

/**
 * Problems that the change brings, by path. One that was there before is no reason to refuse what does not touch it.
 */
export function newProblems(before: Plan, after: Plan): Problem[] {
  return Object.keys(after).filter(field => after[field] !== before[field]).flatMap((field) => {
    const found = problemsIn(after, field)
    if (!found.length) return []
    const known = new Set(problemsIn(before, field).map(problem => `${problem.path} ${problem.message}`))
    return found.filter(problem => !known.has(`${problem.path} ${problem.message}`))
  })
}
