/** The pieces a preprocessor sees: words, numbers, strings, blanks and single marks (C11 6.4, preprocessing tokens). */

export interface Lexeme {
  kind: 'word' | 'number' | 'string' | 'blank' | 'mark'
  text: string
  /** A macro's own name met within its expansion: never expanded again. */
  painted?: boolean
}

/** A line end is a piece of its own, so that what begins a line is seen. */
const PIECE = /(\n|\\\r?\n|[^\S\n]+|\/\*[^]*?\*\/|\/\/[^\n]*)|("(?:\\[^]|[^"\\])*"|'(?:\\.|[^'\\\n])+')|([A-Za-z_]\w*)|(\.?\d(?:[eEpP][+-]|[\w.])*)|(##|&&|\|\||<<|>>|[<>=!]=)|([^])/y

/** The lexeme at a place of a text, and where it ends; the text must go on there. */
export function lexemeAt(text: string, at: number): Lexeme {
  PIECE.lastIndex = at
  const [all, blank, string, word, number] = PIECE.exec(text)!
  if (blank !== undefined) return { kind: 'blank', text: all }
  if (string !== undefined) return { kind: 'string', text: all }
  if (word !== undefined) return { kind: 'word', text: all }
  return { kind: number === undefined ? 'mark' : 'number', text: all }
}

/** All of a text; blanks and comments become one blank each. */
export function lexemesOf(text: string): Lexeme[] {
  const found: Lexeme[] = []
  for (let at = 0; at < text.length;) {
    const lexeme = lexemeAt(text, at)
    at += lexeme.text.length
    found.push(lexeme.kind === 'blank' ? BLANK : lexeme)
  }
  return found
}

export const BLANK: Lexeme = { kind: 'blank', text: ' ' }

/** Without blanks at either end. */
export function trimmed(list: readonly Lexeme[]): Lexeme[] {
  let from = 0
  let to = list.length
  while (from < to && list[from]!.kind === 'blank') from++
  while (to > from && list[to - 1]!.kind === 'blank') to--
  return list.slice(from, to)
}

/** Text of lexemes; words and numbers that would run into one another are kept apart. */
export function textOf(list: readonly Lexeme[]): string {
  let text = ''
  for (const lexeme of list) text += (/\w$/.test(text.at(-1) ?? '') && /^\w/.test(lexeme.text) ? ' ' : '') + lexeme.text
  return text
}
