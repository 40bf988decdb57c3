/**
 * Edits that may not have reached the database yet. Each is written down at once, with a number that grows, and taken
 * out after the save that holds it: a tab that ends in between loses nothing, and an entry that the browser brings back
 * from earlier is known by its number.
 */
import type { Edit } from '~~/core/plan/edits'
import type { Slots } from './slots'

export interface PendingEdit {
  /** Grows by one with each edit of the tab. */
  number: number
  label: string
  edit: Edit
}

export interface Pending {
  /** The tab that wrote it. */
  tab: string
  /** The revision that the edits go on top of. */
  baseRevision: number
  edits: PendingEdit[]
}

const PREFIX = 'voltaris.pending.'
const keyOf = (project: string, tab: string) => `${PREFIX}${project}.${tab}`

/** False when the storage is full or closed: the save itself is then the only record. */
export function writePending(slots: Slots, project: string, pending: Pending): boolean {
  try {
    slots.setItem(keyOf(project, pending.tab), JSON.stringify(pending))
    return true
  }
  catch (error) {
    if (error instanceof DOMException) return false
    throw error
  }
}

export function dropPending(slots: Slots, project: string, tab: string): void {
  slots.removeItem(keyOf(project, tab))
}

/**
 * What tabs have left of a project, in the order of their writing as far as it can be told. Half a record is dropped.
 */
export function readPending(slots: Slots, project: string): Pending[] {
  const prefix = `${PREFIX}${project}.`
  return slots.keys().filter(key => key.startsWith(prefix)).flatMap((key) => {
    const pending = parsed(slots.getItem(key))
    if (!pending) slots.removeItem(key)
    return pending ?? []
  }).sort((a, b) => a.baseRevision - b.baseRevision)
}

function parsed(text: string | null): Pending | null {
  try {
    const pending = JSON.parse(text ?? '') as Pending
    const isWhole = typeof pending?.tab === 'string' && typeof pending.baseRevision === 'number'
      && Array.isArray(pending.edits)
      && pending.edits.every(entry => typeof entry?.number === 'number' && typeof entry.edit?.edit === 'string')
    return isWhole ? pending : null
  }
  catch {
    return null
  }
}

/** The edits that a record does not hold yet, by the numbers it has seen of each tab. */
export const unsaved = ({ tab, edits }: Pending, seen: Readonly<Record<string, number>>): PendingEdit[] =>
  edits.filter(({ number }) => number > (seen[tab] ?? 0))
