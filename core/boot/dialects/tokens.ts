/**
 * Our own grammar for colours: each line of a file in pieces. Law: the pieces of a line follow each other and cover it.
 */
import { DIRECTIVES } from './extlinux'
import type { Dialect } from './tell'

export type BootTokenKind = 'blank' | 'comment' | 'section' | 'key' | 'sign' | 'name' | 'value' | 'number' | 'word'
  | 'string' | 'junk'

export interface LineToken {
  kind: BootTokenKind
  from: number
  to: number
}

/** What the grammar knows; `command-line` and `source` beside the dialects. */
/** `plain` has no pieces: a text of a language that is not ours. */
export type Grammar = Dialect | 'command-line' | 'source' | 'plain'

type TokenPattern = [RegExp, BootTokenKind]

const NUMBER = /^[+-]?(?:0x[0-9a-f]+|\d+)$/i
const SOURCE: TokenPattern[] = [
  [/\s+/y, 'blank'], [/\/\*.*?(?:\*\/|$)|\/\/.*/y, 'comment'], [/"(?:[^"\\]|\\.)*"?/y, 'string'],
  [/\/[a-z-]+\d*\/|#\w+\b(?=\s)/y, 'section'],
  [/&\{[^}]*\}?|&[\w-]+/y, 'name'], [/[A-Za-z_][\w]*(?=:)/y, 'name'], [/0x[0-9a-f]+\b|\b\d+\b/iy, 'number'],
  [/[#\w,.?+-][\w,.?+#@-]*(?=\s*[=;])/y, 'key'], [/[\w,.+@#-]+/y, 'word'], [/[{}<>=;:,()[\]|&~!*/%^?-]/y, 'sign'],
]

/** The pieces of one line, without its ending. */
export function tokensOf(line: string, grammar: Grammar): LineToken[] {
  if (grammar === 'plain') return []
  const tokens: LineToken[] = []
  let at = 0
  const put = (kind: BootTokenKind, length: number) => {
    if (length <= 0) return
    tokens.push({ kind, from: at, to: at + length })
    at += length
  }
  const rest = () => line.slice(at)
  const blank = () => put('blank', /^[\s\uFEFF]*/.exec(rest())![0].length)
  const value = (text: string) => put(NUMBER.test(text.trim()) ? 'number' : 'value', text.length)
  blank()
  if (grammar === 'source') {
    while (at < line.length) {
      const rule = SOURCE.find(([pattern]) => {
        pattern.lastIndex = at
        return pattern.test(line)
      })
      if (rule) put(rule[1], rule[0].lastIndex - at)
      else put('junk', 1)
    }
    return tokens
  }
  if (at >= line.length) return tokens
  if (grammar === 'command-line') {
    while (at < line.length) {
      const [word] = /^(?:[^\s"]|"[^"]*"?)+/.exec(rest()) ?? [rest()[0]!]
      const sign = word.indexOf('=')
      put('key', sign < 0 ? word.length : sign)
      if (sign >= 0) {
        put('sign', 1)
        value(word.slice(sign + 1))
      }
      blank()
    }
    return tokens
  }
  if (line[at] === '#') put('comment', line.length - at)
  else if (grammar === 'extlinux') {
    const [word] = /^\S+/.exec(rest())!
    put(DIRECTIVES.has(word.toLowerCase()) || word.toLowerCase() === 'menu' ? 'key' : 'junk', word.length)
    blank()
    put('value', line.length - at)
  }
  else if (grammar === 'key-value' && line[at] === '[') put('section', line.length - at)
  else {
    const sign = rest().indexOf('=')
    if (sign < 0) {
      const [word] = /^\S+/.exec(rest())!
      put(word === 'include' || word === 'initramfs' ? 'key' : 'junk', word.length)
      blank()
      put('value', line.length - at)
      return tokens
    }
    const key = rest().slice(0, sign)
    put('key', sign)
    put('sign', 1)
    if (grammar === 'key-value'
      && (key.trim() === 'dtoverlay' || key.trim() === 'dtparam')) parameters(key.trim() === 'dtoverlay')
    else value(rest())
  }
  return tokens

  /** `name,param=value,…` or `param=value,…`. */
  function parameters(named: boolean): void {
    let first = named
    while (at < line.length) {
      const [entry] = /^[^,]*/.exec(rest())!
      const sign = first ? -1 : entry.indexOf('=')
      put(first ? 'name' : 'word', sign < 0 ? entry.length : sign)
      if (sign >= 0) {
        put('sign', 1)
        value(entry.slice(sign + 1))
      }
      first = false
      if (line[at] === ',') put('sign', 1)
    }
  }
}
