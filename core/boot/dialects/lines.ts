/** Any text as lines that lose nothing: a byte-order mark, tabs, `\r\n` and a missing last newline all come back. */

export interface TextLine {
  /** 1-based. */
  number: number
  /** Offset of the line's first character in the file. */
  from: number
  text: string
  /** `\n`, `\r\n`, or empty at the end of a file without a last newline. */
  ending: string
}

/** The lines of a text. Law: `joinLines(splitLines(text)) === text`; linear in the length of the text. */
export function splitLines(text: string): TextLine[] {
  const lines: TextLine[] = []
  for (let from = 0; from < text.length;) {
    const newline = text.indexOf('\n', from)
    const stop = newline < 0 ? text.length : newline
    const end = newline > from && text[newline - 1] === '\r' ? newline - 1 : stop
    const next = newline < 0 ? text.length : newline + 1
    lines.push({ number: lines.length + 1, from, text: text.slice(from, end), ending: text.slice(end, next) })
    from = next
  }
  return lines
}

export const joinLines = (lines: readonly Pick<TextLine, 'text' | 'ending'>[]): string => lines.map(line =>
  line.text + line.ending)
  .join('')

const MARK = '\uFEFF'

/** What of a line is to be read: without a byte-order mark and outer blanks. `at` is where it starts in the line. */
export function readable({ number, text }: TextLine): { text: string, at: number } {
  const marked = number === 1 && text.startsWith(MARK) ? 1 : 0
  const body = text.slice(marked)
  const start = body.length - body.trimStart().length
  return { text: body.trim(), at: marked + start }
}

/** The ending that most lines of the text have. */
export function endingOf(text: string): string {
  const crlf = text.split('\r\n').length - 1
  return crlf > 0 && crlf * 2 > text.split('\n').length - 1 ? '\r\n' : '\n'
}
