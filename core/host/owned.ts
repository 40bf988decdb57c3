/** A small file where it lies already: lines that Voltaris wrote follow the plan, lines that somebody changed stay. */
import { mergeText } from '../plan/merge-text'
import type { HostFile } from '../plan/host-shape'

export interface OwnedText {
  text: string
  /** Somebody's lines and the plan's lie across each other: theirs stand, the plan's are not in. */
  collides: boolean
}

/**
 * The text as it should lie on the board. Laws: nothing there gives the plan's text; what was written and not touched
 * follows the plan; a line that is not the plan's stays.
 */
export function ownedText(planned: string, there: HostFile | undefined): OwnedText {
  if (!there) return { text: planned, collides: false }
  if (there.text === planned) return { text: planned, collides: false }
  if (there.written === undefined) return { text: there.text, collides: true }
  const merged = mergeText(there.written, there.text, planned)
  return merged === null ? { text: there.text, collides: true } : { text: merged, collides: false }
}
