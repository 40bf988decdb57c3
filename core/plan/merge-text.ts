/** Joins two changes of one text. */
import { diff3Merge } from 'node-diff3'

/** A text that was changed in one place: what stood from `from` to `to` is now `insert`. */
interface Splice {
  from: number
  to: number
  insert: string
}

/** Longer texts are not compared line by line between two keystrokes. */
const MAX_LINES = 20_000

/**
 * The base with both changes; null where they touch the same words. Two insertions at one place both
 * stand, theirs first.
 */
export function mergeText(base: string, mine: string, theirs: string): string | null {
  const [a, b] = [spliceOf(base, theirs), spliceOf(base, mine)]
  if (a.to <= b.from) return put(put(base, b), a)
  if (b.to <= a.from) return put(put(base, a), b)
  return byLines(base, mine, theirs)
}

const put = (text: string, { from, to, insert }: Splice) => text.slice(0, from) + insert + text.slice(to)

function spliceOf(before: string, after: string): Splice {
  const max = Math.min(before.length, after.length)
  let head = 0
  while (head < max && before[head] === after[head]) head++
  let tail = 0
  while (tail < max - head && before[before.length - 1 - tail] === after[after.length - 1 - tail]) tail++
  return { from: head, to: before.length - tail, insert: after.slice(head, after.length - tail) }
}

const linesOf = (text: string): string[] => text.match(/[^\n]*\n|[^\n]+$/g) ?? []

function byLines(base: string, mine: string, theirs: string): string | null {
  const [o, a, b] = [linesOf(base), linesOf(mine), linesOf(theirs)]
  if (Math.max(o.length, a.length, b.length) > MAX_LINES) return null
  const regions = diff3Merge(a, o, b, { excludeFalseConflicts: true })
  return regions.every(region => region.ok) ? regions.flatMap(region => region.ok!).join('') : null
}
