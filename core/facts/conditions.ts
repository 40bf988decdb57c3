import type { Condition } from '../catalogue/types'

/** True when every option named in the condition has the value it asks for. */
export function isMet(when: Condition | undefined, options: Record<string, string>): boolean {
  return Object.entries(when ?? {}).every(([id, value]) => options[id] === value)
}
