/** Places by name, and what holds a terminal to one. */
import type { Terminal } from '../facts/types'
import type { Assignment } from '../plan/types'
import type { PlaceRef } from './types'

/** The header position an add-on board's terminal is bound to. */
export function claimOf(terminal: Terminal): number | undefined {
  return (terminal.signal ?? terminal.supply ?? terminal.ground)?.claimsPosition
}

/** The place a terminal may not leave: claimed by its add-on board, or fixed by the maker. */
export function boundTo(terminal: Terminal): PlaceRef | null {
  const claim = claimOf(terminal)
  if (claim !== undefined) return `P${claim}`
  return terminal.assignment?.fixed ? refOf(terminal.assignment) : null
}

export function refOf(assignment: { position?: number, terminal?: string }): PlaceRef {
  return assignment.position !== undefined ? `P${assignment.position}` : assignment.terminal ?? ''
}

export function assignmentOf(ref: PlaceRef): Assignment {
  const position = positionOf(ref)
  return position === null ? { terminal: ref } : { position }
}

/** The header position a place is; null for a part's terminal. */
export function positionOf(ref: PlaceRef): number | null {
  return /^P\d+$/.test(ref) ? Number(ref.slice(1)) : null
}

export function placeInWords(ref: PlaceRef): string {
  const position = positionOf(ref)
  return position === null ? ref : `position ${position}`
}

/** 0-based column of a header position, from the end of position 1. */
export function columnOf(position: number): number {
  return Math.ceil(position / 2) - 1
}
