/** Which step puts a body in its place. */
import type { PlacedBody } from '../../mechanics/assembly'
import type { Step } from './types'

/** The step by its id; null for what is there from the start: the board, and what stands on it. */
export function stepOfBody({ id, owner, kind }: Pick<PlacedBody, 'id' | 'owner' | 'kind'>, steps: readonly Step[]): string | null {
  const named = (room: string) => steps.find(step => step.id === room || step.id.startsWith(`${room}:`))?.id ?? null
  if (kind === 'pins') return named('header')
  if (owner === '@board') return null
  if (owner === '@plate') return named('mount')
  // The first wire that goes there: a wire of the maker's may end at a place where several meet.
  if (owner === '@wires') {
    const at = id.slice('@wire.'.length)
    return steps.find(({ conductors }) => conductors.some(key => key.endsWith(`@${at}`) || key === `splice@${at}`))?.id ?? null
  }
  return steps.find(step => step.components.includes(owner) || step.id.endsWith(`:${owner}`))?.id ?? null
}
