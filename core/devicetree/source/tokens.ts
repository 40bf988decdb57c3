/** Devicetree source as tokens. Files are brought in by `/include/`; what the preprocessor does is done before. */
import { DeviceTreeError, type SourcePlace } from '../types'
import { BINDING_CONSTANTS } from './constants'
import { preprocess } from './preprocess/preprocess'
import { append } from '../../collections/append'
import type { Files, Token, TokenKind } from './types'

const MAX_INCLUDES = 64
const DIRECTIVE = /\/(?:dts-v1|plugin|include|incbin|memreserve|bits|delete-node|delete-property|omit-if-no-ref)\//y
const BLANKS = /\s+/y
const NUMBER = /(?:0[xX][0-9a-fA-F]+|[0-9]+)(?:[uU]?[lL]{0,2}|[lL]{1,2}[uU])(?!\w)/y
const NAME = /[\w,.+?#@-]+/y
const LABEL = /[A-Za-z_]\w*(?=:)/y
const MARKS: ReadonlySet<string> = new Set([
  '<<', '>>', '<=', '>=', '==', '!=', '&&', '||', '{', '}', '[', ']', '(', ')', '<', '>', '=', ';', ',', ':', '?', '+',
  '-', '*', '/', '%',
  '&', '|', '^', '~', '!',
])

interface Input { text: string, at: number, line: number, start: number, file: string }

/**
 * Reads a source token by token. What a name means depends on where it stands, so the parser says when it wants one.
 */
export class Tokens {
  private readonly stack: Input[] = []
  private includes = 0
  /** Headers of binding constants that were asked for and are not at hand. */
  readonly absent: string[] = []

  constructor(text: string, file: string, private readonly files: Files) {
    this.push(text, file)
  }

  private push(written: string, file: string): void {
    const { text, absent } = preprocess(written.replace(/^\uFEFF/, ''), file, this.files)
    append(this.absent, absent)
    this.stack.push({ text, at: 0, line: 1, start: 0, file })
  }

  /** Bytes of a file, for `/incbin/`. Throws `DeviceTreeError` when it is not at hand. */
  binary(name: string, place: SourcePlace): Uint8Array {
    const bytes = this.files.bytes?.(name, place.file)
    if (!bytes) throw new DeviceTreeError('include',
      `the file "${name}" of /incbin/ is not at hand: put it beside the source`, { place })
    return bytes
  }

  private get input(): Input {
    return this.stack.at(-1)!
  }

  place(): SourcePlace {
    const { file, line, at, start } = this.input
    return { file, line, column: at - start + 1 }
  }

  /** The next token. `names`: a node or property name may stand here, with the signs that such names may have. */
  next(names: boolean): Token {
    const spaced = this.skip()
    const place = this.place()
    const { text, at } = this.input
    if (at >= text.length) return { kind: 'end', text: 'the end of the source', place, spaced }
    const directive = this.match(DIRECTIVE)
    if (directive) {
      if (directive === '/include/') {
        this.advance(directive.length)
        this.include(this.next(false), place)
        return this.next(names)
      }
      return this.take('directive', directive, directive.length, place, spaced)
    }
    if (text[at] === '"') return this.string(place, spaced)
    if (text[at] === '\'' && !names) return this.char(place, spaced)
    if (text[at] === '&' && text[at + 1] === '{') {
      const end = text.indexOf('}', at)
      const path = text.slice(at + 2, end)
      if (end < 0 || !/^\/[\w,.+?#@/-]*$/.test(path)) throw new DeviceTreeError('syntax',
        'expected a path between &{ and }', { place })
      return this.take('pathRef', path, end - at + 1, place, spaced)
    }
    if (text[at] === '&') {
      const ref = /^[A-Za-z_]\w*/.exec(text.slice(at + 1, at + 257))
      if (ref && text[at + 1] !== '&') return this.take('ref', ref[0], ref[0].length + 1, place, spaced)
    }
    const label = this.match(LABEL)
    if (label) return this.take('label', label, label.length + 1, place, spaced)
    if (names) {
      const name = this.match(NAME)
      if (name) return this.take('name', name, name.length, place, spaced)
    }
    else {
      const number = this.match(NUMBER)
      if (number) return this.take('number', number, number.length, place, spaced)
      const word = /^[A-Za-z_]\w*/.exec(text.slice(at, at + 256))?.[0]
      if (word) return this.word(word, place, spaced)
    }
    const two = text.slice(at, at + 2)
    let mark: string | undefined
    if (MARKS.has(two)) mark = two
    else mark = MARKS.has(text[at]!) ? text[at]! : undefined
    if (mark) return this.take('mark', mark, mark.length, place, spaced)
    throw new DeviceTreeError('syntax', `"${text[at]}" means nothing here`, { place })
  }

  private take(kind: TokenKind, text: string, length: number, place: SourcePlace, spaced: boolean): Token {
    this.advance(length)
    return { kind, text, place, spaced }
  }

  /** Hexadecimal digits of a byte string, two by two, up to `]`. */
  bytes(): number[] {
    const found: number[] = []
    for (;;) {
      this.skip()
      const { text, at } = this.input
      if (text[at] === ']') {
        this.advance(1)
        return found
      }
      const pair = /^[0-9a-fA-F]{2}/.exec(text.slice(at, at + 2))
      const label = this.match(LABEL)
      if (label && !pair) {
        this.advance(label.length + 1)
        continue
      }
      if (!pair) {
        throw new DeviceTreeError('syntax', 'expected two hexadecimal digits, or ] at the end of the bytes',
          { place: this.place() })
      }
      found.push(Number.parseInt(pair[0], 16))
      this.advance(2)
    }
  }

  private match(pattern: RegExp): string | null {
    pattern.lastIndex = this.input.at
    return pattern.exec(this.input.text)?.[0] ?? null
  }

  private advance(length: number): void {
    const { input } = this
    for (let i = input.at; i < input.at + length; i++) {
      if (input.text[i] !== '\n') continue
      input.line++
      input.start = i + 1
    }
    input.at += length
  }

  /** Blanks, comments, lines for the preprocessor, ends of includes. */
  private skip(): boolean {
    let skipped = false
    for (;;) {
      const { text, at } = this.input
      if (at >= text.length) {
        if (this.stack.length === 1) return skipped
        this.stack.pop()
        continue
      }
      BLANKS.lastIndex = at
      const blanks = BLANKS.exec(text)?.[0]
      if (blanks) this.advance(blanks.length)
      else if (text.startsWith('//', at)) this.advance(lineEnd(text, at) - at)
      else if (text.startsWith('/*', at)) {
        const end = text.indexOf('*/', at + 2)
        if (end < 0) throw new DeviceTreeError('syntax', 'this comment has no end', { place: this.place() })
        this.advance(end + 2 - at)
      }
      else if (text[at] === '#' && this.marker()) continue
      else return skipped
      skipped = true
    }
  }

  /** A line marker as the preprocessor leaves it: the next line is that one of that file. */
  private marker(): boolean {
    const { input } = this
    if (input.text.slice(input.start, input.at).trim() !== '') return false
    const found = this.match(/#[ \t]*(?:line[ \t]+)?(\d+)(?:[ \t]+"([^"\n]*)")?[ \t\d]*(?=\r?\n|$)/y)
    if (found === null) return false
    const [, line, file] = /(\d+)(?:[ \t]+"([^"\n]*)")?/.exec(found)!
    this.advance(found.length)
    input.line = Number(line) - 1
    input.file = file ?? input.file
    return true
  }

  private include(token: Token, place: SourcePlace): void {
    if (token.kind !== 'string') throw new DeviceTreeError('syntax', 'expected "file" after /include/', { place })
    this.open(token.text, place)
  }

  private open(file: string, place: SourcePlace): void {
    if (++this.includes > MAX_INCLUDES) {
      throw new DeviceTreeError('limit', `more than ${MAX_INCLUDES} files are included: do they include each other?`,
        { place })
    }
    const found = this.files.read(file, place.file)
    if (!found) throw new DeviceTreeError('include', `"${file}" is not at hand: put it beside the source`, { place })
    this.push(found.text, found.file)
  }

  /** A binding constant, or a word that the parser will refuse. */
  private word(word: string, place: SourcePlace, spaced: boolean): Token {
    const constant = Object.hasOwn(BINDING_CONSTANTS, word) ? BINDING_CONSTANTS[word] : undefined
    this.advance(word.length)
    if (typeof constant === 'string') return { kind: 'string', text: constant, place, spaced }
    return constant === undefined
      ? { kind: 'word', text: word, place, spaced }
      : { kind: 'number', text: String(constant), place, spaced }
  }

  private string(place: SourcePlace, spaced: boolean): Token {
    const { text, at } = this.input
    let end = at + 1
    while (end < text.length && text[end] !== '"') end += text[end] === '\\' ? 2 : 1
    if (end >= text.length) throw new DeviceTreeError('syntax', 'this string has no end', { place })
    const token: Token = { kind: 'string', text: unescaped(text.slice(at + 1, end), place), place, spaced }
    this.advance(end + 1 - at)
    return token
  }

  private char(place: SourcePlace, spaced: boolean): Token {
    const found = /^'((?:[^'\\]|\\.[0-7a-fA-F]{0,3}))'/.exec(this.input.text.slice(this.input.at, this.input.at + 8))
    const inner = found ? unescaped(found[1]!, place) : ''
    if (!found || inner.length !== 1) throw new DeviceTreeError('syntax', 'expected one character between quotes',
      { place })
    this.advance(found[0].length)
    return { kind: 'char', text: inner, place, spaced }
  }
}

const lineEnd = (text: string, at: number) => {
  const end = text.indexOf('\n', at)
  return end < 0 ? text.length : end
}

const SIMPLE: Readonly<Record<string, string>> = { a: '\x07', b: '\b', t: '\t', n: '\n', v: '\v', f: '\f', r: '\r' }

/** C escapes; the result has one character a byte (UTF-8 where the source is). */
function unescaped(text: string, place: SourcePlace): string {
  const bytes = latin1Of(text)
  return bytes.replace(/\\(x[0-9a-fA-F]{1,2}|[0-7]{1,3}|[\s\S])/g, (_, code: string) => {
    if (/^x./.test(code)) return String.fromCharCode(Number.parseInt(code.slice(1), 16))
    if (/^[0-7]/.test(code)) {
      const value = Number.parseInt(code, 8)
      if (value > 255) throw new DeviceTreeError('value', `\\${code} is more than a byte`, { place })
      return String.fromCharCode(value)
    }
    return SIMPLE[code] ?? code
  })
}

const latin1Of = (text: string) => [...new TextEncoder().encode(text)].map(byte => String.fromCharCode(byte)).join('')
