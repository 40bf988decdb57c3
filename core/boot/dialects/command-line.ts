/**
 * The kernel command line: words by spaces, quotes keep spaces together. Published: Linux kernel, "The
 * kernel's command-line parameters".
 */

export interface CommandWord {
  /** Before the equals sign; the whole word where there is none. */
  name: string
  /** Null where the word has no equals sign. */
  value: string | null
  from: number
  to: number
}

export interface CommandLine {
  text: string
  words: CommandWord[]
  /** Where a second line starts that no loader reads; null where there is none. */
  secondLineAt: number | null
}

/** Reads a command line. Law: `printCommandLine(parseCommandLine(text)) === text`. */
export function parseCommandLine(text: string): CommandLine {
  const marked = text.startsWith('\uFEFF') ? 1 : 0
  const newline = text.indexOf('\n')
  const end = newline < 0 ? text.length : newline
  const words: CommandWord[] = []
  const pattern = /(?:[^\s"]|"[^"\n]*(?:"|(?=\n|$)))+/g
  pattern.lastIndex = marked
  for (let match = pattern.exec(text); match && match.index < end; match = pattern.exec(text)) {
    const [word] = match
    const sign = word.indexOf('=')
    words.push({
      name: sign < 0 ? word : word.slice(0, sign), value: sign < 0 ? null : word.slice(sign + 1), from: match.index,
      to: match.index + word.length,
    })
  }
  return { text, words, secondLineAt: newline >= 0 && text.slice(newline).trim() ? newline + 1 : null }
}

export const printCommandLine = (line: CommandLine): string => line.text

/** The text without one of its words and the blank beside it. */
export function withoutWord(text: string, { from, to }: CommandWord): string {
  const after = /^[ \t]+/.exec(text.slice(to))?.[0].length ?? 0
  const before = /[ \t]+$/.exec(text.slice(0, from))?.[0].length ?? 0
  return after ? text.slice(0, from) + text.slice(to + after) : text.slice(0, from - before) + text.slice(to)
}
