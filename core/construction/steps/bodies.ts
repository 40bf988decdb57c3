/** Which step puts a body in its place. */
import { headerSpliceKey, wireKey } from '../../plan/ids'
import type { PlacedBody } from '../../mechanics/bodies'
import type { BuildStep } from './types'

/** The step by its id; null for what is there from the start: the board, and what stands on it. */
export function stepOfBody({ id, owner, kind, ground }: Pick<PlacedBody, 'id' | 'owner' | 'kind' | 'ground'>,
  steps: readonly BuildStep[],
): string | null {
  const named = (room: string) => steps.find(step => step.id === room || step.id.startsWith(`${room}:`))?.id ?? null
  if (kind === 'pins') return named('header')
  if (owner === '@board') return null
  if (owner === '@plate' || ground) return named('mount')
  // The first wire that goes there: a wire of the maker's may end at a place where several meet.
  if (owner === '@wires') {
    const at = /^@wire\.(\d+)/.exec(id)![1]
    return steps.find(({ conductors }) => conductors.some(key => key.endsWith(wireKey('', String(at))) || key === headerSpliceKey(String(at))))?.id
      ?? null
  }
  if (kind === 'cable'
    && id.includes('.flat')) return steps.find(step => step.id === `flat:${owner}`)?.id ?? named(`part:${owner}`)
  return steps.find(step => step.components.includes(owner) || step.id.endsWith(`:${owner}`))?.id ?? null
}
