import type { Plan } from './types'

/** The plan as a file: two-space JSON with a closing newline. */
export function writePlanText(plan: Plan): string {
  return JSON.stringify(plan, null, 2) + '\n'
}
