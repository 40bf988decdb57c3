/** Compares two texts line by line, for showing a change before it is downloaded. */
import { diffLines } from 'diff'

export interface DiffLine {
  kind: 'same' | 'added' | 'removed'
  text: string
}

/** The lines of both texts in order, each marked as kept, added or removed. Line endings are not shown. */
export function compareLines(before: string, after: string): DiffLine[] {
  return diffLines(before, after).flatMap(({ value, added, removed }) =>
    value.replace(/\r?\n$/, '').split(/\r?\n/).map(text => ({ kind: added ? 'added' : removed ? 'removed' : 'same', text }) as DiffLine))
}
