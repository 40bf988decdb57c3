/**
 * Changes of the plan's texts as edits. A change carries the lines that it was made in, so that it still finds its
 * place after other changes of the same text.
 *
 * Laws: changes that touch different lines give the same text in any order; a change whose lines are gone leaves the
 * text as it is.
 */
import type { BootFile, Plan } from './types'

/** Replaces a stretch of one text. Offsets are those of the text it was made from. */
export interface TextChange {
  from: number
  to: number
  insert: string
  /** The whole lines that the stretch lies on, as they were; without them the offsets alone count. */
  lines?: string
  /** Offset of the stretch in those lines. */
  column?: number
}

/** Name of the command line among the files; `''` is the boot file itself, any other name an included file. */
export const COMMAND_FILE = 'cmdline.txt'

const startOfLine = (text: string, at: number) => text.lastIndexOf('\n', at - 1) + 1
const endOfLine = (text: string, at: number) => {
  const end = text.indexOf('\n', at)
  return end < 0 ? text.length : end
}

/** The change with its lines noted. */
export function anchored(text: string, { from, to, insert }: TextChange): TextChange {
  const start = startOfLine(text, from)
  return { from, to, insert, lines: text.slice(start, endOfLine(text, to)), column: from - start }
}

/**
 * Where the change lies in a text that may have changed since: the nearest place at which its lines stand; null when
 * they are gone.
 */
function placeOf(text: string, { from, to, lines, column = 0 }: TextChange): { from: number, to: number } | null {
  if (lines === undefined) return from <= text.length ? { from, to: Math.min(to, text.length) } : null
  const wanted = from - column
  const isWhole = (at: number) =>
    (at === 0 || text[at - 1] === '\n') && (at + lines.length === text.length || text[at + lines.length] === '\n')
  let best: number | null = null
  for (let at = text.indexOf(lines); at >= 0 && at <= text.length; at = text.indexOf(lines, at + 1)) {
    if (isWhole(at) && (best === null || Math.abs(at - wanted) < Math.abs(best - wanted))) best = at
    if (at === text.length || (best !== null && at > wanted)) break
  }
  return best === null ? null : { from: best + column, to: best + column + (to - from) }
}

/**
 * The text with the changes made, each found again where earlier edits have moved it. Of two that overlap the first in
 * the text is made.
 */
export function withChanges(text: string, changes: readonly TextChange[]): string {
  const placed = changes.flatMap((change) => {
    const place = placeOf(text, change)
    return place ? [{ ...place, insert: change.insert }] : []
  }).sort((a, b) => a.from - b.from || a.to - b.to)
  let at = 0
  let out = ''
  for (const { from, to, insert } of placed) {
    if (from < at) continue
    out += text.slice(at, from) + insert
    at = to
  }
  return out + text.slice(at)
}

/** The text of one of the plan's files; empty where there is none. */
export function textOfFile(boot: BootFile | null, file: string): string {
  if (file === '') return boot?.text ?? ''
  if (file === COMMAND_FILE) return boot?.commandLine ?? ''
  return boot?.includes && Object.hasOwn(boot.includes, file) ? boot.includes[file]! : ''
}

/** The plan with one of its files changed; the same plan where the changes find no place. */
export function withText(plan: Plan, file: string, changes: readonly TextChange[]): Plan {
  const before = textOfFile(plan.boot, file)
  const after = withChanges(before, changes)
  if (after === before) return plan
  const boot: BootFile = { text: '', ...plan.boot }
  if (file === '') return { ...plan, boot: { ...boot, text: after } }
  if (file === COMMAND_FILE) return { ...plan, boot: { ...boot, commandLine: after } }
  return { ...plan, boot: { ...boot, includes: { ...boot.includes, [file]: after } } }
}

/** The changes that turn one text into another: the one stretch, in whole lines, in which they differ. */
export function changesBetween(before: string, after: string): TextChange[] {
  let head = 0
  const min = Math.min(before.length, after.length)
  while (head < min && before[head] === after[head]) head++
  let tail = 0
  while (tail < min - head && before[before.length - 1 - tail] === after[after.length - 1 - tail]) tail++
  return [anchored(before, { from: head, to: before.length - tail, insert: after.slice(head, after.length - tail) })]
}
