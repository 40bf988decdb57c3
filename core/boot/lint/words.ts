/** Building blocks of lint findings. */
import { withoutWord } from '../dialects/command-line'
import { splitLines, type TextLine } from '../dialects/lines'
import { COMMAND_FILE, type BootFiles, type Where } from '../scope/effective'
import type { LintFinding, TextChange, TextFix } from './types'
import { append } from '../../collections/append'

/** More findings than these on one file are noise, and take long to find and to show. */
export const MAX_FINDINGS = 500

/**
 * `flatMap` that stops once there are as many findings as are shown: a rule on a file of megabytes need not
 * look at the rest.
 */
export function findings<T>(list: Iterable<T>, of: (entry: T, i: number) => readonly LintFinding[]): LintFinding[] {
  const all: LintFinding[] = []
  let i = 0
  for (const entry of list) {
    append(all, of(entry, i++))
    if (all.length >= MAX_FINDINGS) break
  }
  return all
}

/** A finding at a place. */
export function found(
  code: LintFinding['code'], severity: LintFinding['severity'], where: Where, title: string, sentence: string,
  more: Partial<LintFinding> = {},
): LintFinding {
  return {
    code, severity, file: where.file, line: where.line, from: where.from, to: where.to, title, sentence, figures: [],
    fixes: [],
    partIds: [], ...more,
  }
}

export const fix = (label: string, where: { file: string },
  ...changes: TextChange[]): TextFix => ({ label, file: where.file, changes })

/** Writes something else over the place. */
export const replace = (label: string, where: Where, insert: string): TextFix => fix(
  label, where, { from: where.from, to: where.to, insert },
)

/** The text of one of the files. */
export function textOf(files: BootFiles, file: string): string {
  if (file === '') return files.text
  if (file === COMMAND_FILE) return files.commandLine ?? ''
  return files.includes?.[file] ?? ''
}

export interface LineSpan { from: number, to: number, text: string, ending: string }

let last: { text: string, lines: TextLine[] } | null = null

/** The lines of a text; those of the text asked for last are kept, as rules ask for one file many times over. */
function linesOf(text: string): TextLine[] {
  if (last?.text !== text) last = { text, lines: splitLines(text) }
  return last.lines
}

/** The line a place lies on, with its ending. */
export function lineAt(files: BootFiles, where: Pick<Where, 'file' | 'line'>): LineSpan {
  const line = linesOf(textOf(files, where.file))[where.line - 1]
  return line
    ? { from: line.from, to: line.from + line.text.length + line.ending.length, text: line.text, ending: line.ending }
    : { from: 0, to: 0, text: '', ending: '' }
}

/**
 * The line taken out with its ending; the last line takes the ending before it along, so that no blank line is left.
 */
export function dropLine(label: string, files: BootFiles, where: Where): TextFix {
  const { from, to } = lineAt(files, where)
  return fix(label, where, { from, to, insert: '' })
}

/** The line made a comment. */
export const commentOut = (label: string, files: BootFiles, where: Where): TextFix => fix(
  label, where, { from: lineAt(files, where).from, to: lineAt(files, where).from, insert: '#' },
)

/** A line put before the one at a place. */
export function insertBefore(label: string, files: BootFiles, where: Where, line: string): TextFix {
  const { from, ending } = lineAt(files, where)
  return fix(label, where, { from, to: from, insert: `${line}${ending || endingIn(textOf(files, where.file))}` })
}

/** A line put after the one at a place. */
export function insertAfter(label: string, files: BootFiles, where: Where, line: string): TextFix {
  const { to, ending } = lineAt(files, where)
  const newline = ending || endingIn(textOf(files, where.file))
  return fix(label, where, { from: to, to, insert: ending ? `${line}${newline}` : `${newline}${line}` })
}

const endingIn = (text: string) => text.includes('\r\n') ? '\r\n' : '\n'

/**
 * A parameter taken out of its line, with one of the commas beside it; the whole line when it stands alone
 * in a `dtparam`.
 */
export function dropParam(label: string, files: BootFiles, where: Where): TextFix {
  const line = lineAt(files, where)
  const text = textOf(files, where.file)
  const [before, after] = [text.slice(line.from, where.from), text.slice(where.to, line.to - line.ending.length)]
  if (/,\s*$/.test(before)) return fix(label, where,
    { from: where.from - (/,\s*$/.exec(before)![0].length), to: where.to, insert: '' })
  if (/^\s*,/.test(after)) return fix(label, where,
    { from: where.from, to: where.to + /^\s*,/.exec(after)![0].length, insert: '' })
  return fix(label, where, { from: line.from, to: line.to, insert: '' })
}

export const quoted = (text: string) => `"${text.length > 60 ? `${text.slice(0, 57)}…` : text}"`

/** A word taken out of the line it stands on. */
export function dropWord(label: string, files: BootFiles, where: Where): TextFix {
  const text = where.file === COMMAND_FILE ? files.commandLine ?? '' : files.text
  const after = withoutWord(text, { from: where.from, to: where.to, name: '', value: null })
  // The one stretch in which both texts differ.
  let head = 0
  while (head < after.length && text[head] === after[head]) head++
  return fix(label, where, { from: head, to: head + (text.length - after.length), insert: '' })
}
