/** Boot-file texts line by line: comparing two, and keeping line endings through an editor that knows only one. */
import { diffLines } from 'diff'

export interface DiffLine {
  kind: 'same' | 'added' | 'removed'
  text: string
}

/** The lines of both texts in order, each marked as kept, added or removed. Line endings are not shown. */
export function compareLines(before: string, after: string): DiffLine[] {
  return diffLines(before, after).flatMap(({ value, added, removed }) =>
    value.replace(/\r?\n$/, '').split(/\r?\n/)
      .map(text => ({ kind: added ? 'added' : removed ? 'removed' : 'same', text }) as DiffLine))
}

const LINE = /([^\r\n]*)(\r\n|\r|\n|$)/g

/**
 * The text as edited in an editor that shows every line ending as `\n`, with the endings of the lines above
 * and below the edit as they were; new lines take the ending of the line before them. An edit that changes
 * nothing gives `before`.
 */
export function restoreEndings(before: string, edited: string): string {
  const old = [...before.matchAll(LINE)].map(([, text = '', ending = '']) => ({ text, ending })).slice(0,
    before === '' ? 1 : undefined)
  // The pattern matches once more, with nothing, at the end of a text that does not end in a line ending.
  if (old.length > 1 && old.at(-1)!.text === '' && old.at(-2)!.ending === '') old.pop()
  const lines = edited.split('\n')
  let head = 0
  while (head < Math.min(old.length, lines.length) && old[head]!.text === lines[head]) head++
  let tail = 0
  while (tail < Math.min(old.length, lines.length) - head && old.at(-1 - tail)!.text === lines.at(-1 - tail)) tail++
  const common = old.find(line => line.ending)?.ending ?? '\n'
  let last = common
  const restored = lines.map((text, i) => {
    let kept
    if (i < head) kept = old[i]
    else kept = i >= lines.length - tail ? old[old.length - (lines.length - i)] : undefined
    if (kept?.ending) last = kept.ending
    return i === lines.length - 1 ? text : text + (kept?.ending || last)
  }).join('')
  // An edit can bring a lone \r and a \n together, which would read as one ending.
  return restored.replace(/\r\n|\r/g, '\n') === edited ? restored : edited
}
