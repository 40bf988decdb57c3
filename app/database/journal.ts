/**
 * The last plan that may not have reached the database yet. Written at once with every edit and removed after the save,
 * so that a tab closed in the middle of one loses nothing.
 */
import { completed } from '~~/core/plan/create'
import type { Plan } from '~~/core/plan/types'

export interface Pending {
  plan: Plan
  /** The revision it goes on top of, as far as the tab knew. */
  baseRevision: number
  /** The tab that wrote it. */
  savedBy?: string
}

/** The part of Web Storage that the journal needs. */
export type Slots = Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>

const keyOf = (id: string) => `voltaris.pending.${id}`

/** False when the storage is full or closed: the save itself is then the only record. */
export function writePending(slots: Slots, id: string, pending: Pending): boolean {
  try {
    slots.setItem(keyOf(id), JSON.stringify(pending))
    return true
  }
  catch (error) {
    if (error instanceof DOMException) return false
    throw error
  }
}

export function dropPending(slots: Slots, id: string): void {
  slots.removeItem(keyOf(id))
}

export function readPending(slots: Slots, id: string): Pending | null {
  const text = slots.getItem(keyOf(id))
  if (text === null) return null
  try {
    const pending = JSON.parse(text) as Pending
    return { ...pending, plan: completed(pending.plan) }
  }
  catch {
    // Half a record says nothing that the database does not say better.
    slots.removeItem(keyOf(id))
    return null
  }
}
