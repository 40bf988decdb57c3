/**
 * What `cpp` does before a Devicetree compiler reads a source: includes, macros with and without arguments, conditions
 * (C11 6.10, in the kernel's way: no predefined names but `__DTS__`, and a line that begins with another word behind #
 * is the source's own). Lines keep their numbers; where a file changes, a line marker says so.
 */
import { DeviceTreeError, type SourcePlace } from '../../types'
import { BINDING_CONSTANTS } from '../constants'
import { readExpression, SIGNED } from '../expression'
import type { Files, Token } from '../types'
import { lexemeAt, lexemesOf, textOf, trimmed, type Lexeme } from './lexemes'
import { Expander, macroOf } from './macros'
import { append } from '../../../collections/append'

export interface Preprocessed {
  text: string
  /** Headers of binding constants that were asked for and are not at hand. */
  absent: string[]
}

/** Files within files; as deep as no real source goes. */
const MAX_DEPTH = 40
const MAX_FILES = 2000
/** Conditions within conditions. */
const MAX_CONDITIONS = 200
/** Characters of all files together, and of what comes out. */
const MAX_TEXT = 64_000_000

const ANY = /^[ \t]*#[ \t]*(?:define|undef|include|if|ifdef|ifndef|elif|else|endif|error)\b|\\\r?$/m
const DIRECTIVE = /[ \t]*#[ \t]*(define|undef|include|if|ifdef|ifndef|elif|else|endif|error|warning|pragma|ident|line)\b((?:\\\r?\n|\/\*[^]*?\*\/|[^\n])*)/y

/**
 * Works includes, macros and conditions in. A text that has none comes back as it is. Throws `DeviceTreeError`
 * with the place.
 */
export function preprocess(text: string, file: string, files: Files): Preprocessed {
  if (!ANY.test(text)) return { text, absent: [] }
  const work = new Preprocessor(files)
  work.file(text, file, [])
  return { text: work.out.join(''), absent: work.absent }
}

interface Condition {
  /** What stands here is read. */
  reads: boolean
  /** A branch has been read, or none may be. */
  done: boolean
  place: SourcePlace
  isElse: boolean
}

class Preprocessor {
  readonly out: string[] = []
  readonly absent: string[] = []
  private readonly expander = new Expander()
  private taken = 0
  private length = 0
  private opened = 0

  constructor(private readonly files: Files) {
    this.expander.macros.set('__DTS__', { name: '__DTS__', params: null, variadic: false, body: lexemesOf('1') })
  }

  file(text: string, file: string, from: readonly string[]): void {
    this.taken += text.length
    if (this.taken > MAX_TEXT) {
      throw new DeviceTreeError('limit', `the files included are larger than ${MAX_TEXT / 1e6} MB together`,
        { place: at(file, 1) })
    }
    new FileRun(this, text, file, from).run()
  }

  put(text: string, place: SourcePlace): void {
    this.length += text.length
    if (this.length > MAX_TEXT) throw new DeviceTreeError('limit',
      `macros make more than ${MAX_TEXT / 1e6} MB of this source`, { place })
    this.out.push(text)
  }

  isDefined = (name: string) =>
    this.expander.macros.has(name) || (this.absent.length > 0 && Object.hasOwn(BINDING_CONSTANTS, name))

  macro = (name: string) => this.expander.macros.get(name)
  define = (text: string, place: SourcePlace) => {
    const macro = macroOf(text, place)
    this.expander.macros.set(macro.name, macro)
  }

  undefine = (name: string) => this.expander.macros.delete(name)
  expand = (list: readonly Lexeme[], place: SourcePlace) => this.expander.whole(list, place)

  include(written: string, place: SourcePlace, from: readonly string[]): void {
    const angled = /^<([^>]+)>$/.exec(written)
    const name = (angled ?? /^"([^"]+)"$/.exec(written))?.[1]
    if (!name) throw new DeviceTreeError('syntax', 'expected #include "file" or <file>', { place })
    if (from.length >= MAX_DEPTH || ++this.opened > MAX_FILES) {
      const ring = from.indexOf(place.file)
      throw new DeviceTreeError('limit', from.length >= MAX_DEPTH
        ? `files include each other without end: ${from.slice(Math.max(0, ring), ring + 4).join(' → ')} …`
        : `more than ${MAX_FILES} files are included`, { place })
    }
    const found = this.files.read(name, place.file)
    if (!found) {
      // Headers of binding constants hold little but names, and the common ones ship.
      if (!/(^|\/)dt-bindings\/.+\.h$/.test(name)) {
        throw new DeviceTreeError('include', `"${name}" is not at hand: put it beside the source`, { place })
      }
      this.absent.push(name)
      return
    }
    this.put(`\n# 1 "${found.file.replace(/"/g, '\'')}"\n`, place)
    this.file(found.text.replace(/^\uFEFF/, ''), found.file, [...from, place.file])
    this.put(`\n# ${place.line} "${place.file}"\n`, place)
  }
}

const at = (file: string, line: number): SourcePlace => ({ file, line, column: 1 })
const linesIn = (text: string) => text.split('\n').length - 1

/** One file's way through. */
class FileRun {
  private at = 0
  private line = 1
  private readonly conditions: Condition[] = []
  private isStart = true

  constructor(
    private readonly all: Preprocessor, private readonly text: string, private readonly name: string,
    private readonly from: readonly string[],
  ) {}

  private get place(): SourcePlace {
    return at(this.name, this.line)
  }

  private get reads(): boolean {
    return this.conditions.every(condition => condition.reads)
  }

  run(): void {
    const { text } = this
    while (this.at < text.length) {
      if (this.isStart) {
        DIRECTIVE.lastIndex = this.at
        const found = DIRECTIVE.exec(text)
        if (found) {
          this.directive(found[1]!, clean(found[2]!))
          this.skip(found[0])
          continue
        }
      }
      const lexeme = lexemeAt(text, this.at)
      if (!this.reads) this.skip(lexeme.text)
      else if (lexeme.kind === 'word' && this.all.macro(lexeme.text)) this.invoke(lexeme)
      else {
        // A line that goes on behind a backslash.
        this.all.put(lexeme.text.startsWith('\\') ? lexeme.text.slice(1) : lexeme.text, this.place)
        this.move(lexeme.text)
      }
    }
    const open = this.conditions.at(-1)
    if (open) throw new DeviceTreeError('syntax', `this condition has no #endif in ${this.name}`, { place: open.place })
  }

  private move(text: string): void {
    this.at += text.length
    this.line += linesIn(text)
    this.isStart = text.endsWith('\n') && !text.startsWith('\\')
  }

  /** Text that is not put out, but for its line ends. */
  private skip(text: string): void {
    const lines = linesIn(text)
    if (lines) this.all.put('\n'.repeat(lines), this.place)
    this.move(text)
  }

  /** A macro's name in the text, with its arguments behind it where it takes some. */
  private invoke(name: Lexeme): void {
    const { place } = this
    const given: Lexeme[] = [name]
    let written = name.text
    if (this.all.macro(name.text)!.params) {
      const list = this.list(this.at + written.length, place)
      if (!list) {
        this.all.put(name.text, place)
        return this.move(name.text)
      }
      append(given, lexemesOf(list))
      written += list
    }
    let made = this.all.expand(given, place)
    // What comes out may end in the name of a macro whose arguments stand in the text.
    for (;;) {
      const last = trimmed(made).at(-1)
      if (last?.kind !== 'word' || last.painted || !this.all.macro(last.text)?.params) break
      const list = this.list(this.at + written.length, place)
      if (!list) break
      made = this.all.expand([...made, ...lexemesOf(list)], place)
      written += list
    }
    const before = this.all.out.at(-1)?.at(-1) ?? ''
    const after = this.text[this.at + written.length] ?? ''
    const text = textOf(made)
    this.all.put(`${/\w/.test(before) && /^\w/.test(text) ? ' ' : ''}${text}${/\w$/.test(text) && /\w/.test(after) ? ' ' : ''}`, place)
    const lines = linesIn(written)
    if (lines) this.all.put('\n'.repeat(lines), place)
    this.at += written.length
    this.line += lines
    this.isStart = false
  }

  /** `( … )` in the text from a place on, blanks before it taken along; null when none begins there. */
  private list(from: number, place: SourcePlace): string | null {
    let end = from
    let level = 0
    while (end < this.text.length) {
      const { kind, text } = lexemeAt(this.text, end)
      if (kind === 'mark' && text === '(') level++
      else if (kind !== 'blank' && level === 0) return null
      end += text.length
      if (kind === 'mark' && text === ')' && --level === 0) return this.text.slice(from, end)
    }
    if (level) throw new DeviceTreeError('syntax', 'the arguments of this macro have no end', { place })
    return null
  }

  private directive(word: string, rest: string): void {
    const { place, conditions } = this
    switch (word) {
      case 'if': case 'ifdef': case 'ifndef': {
        const read = this.reads
        const holds = read && (word === 'if'
          ? this.truth(rest, place)
          : this.all.isDefined(this.nameIn(rest, word)) === (word === 'ifdef'))
        if (conditions.length >= MAX_CONDITIONS) {
          throw new DeviceTreeError('limit', `#if stands in #if deeper than ${MAX_CONDITIONS}`, { place })
        }
        return void conditions.push({ reads: holds, done: holds || !read, place, isElse: false })
      }
      case 'elif': case 'else': {
        const condition = conditions.at(-1)
        if (!condition) throw new DeviceTreeError('syntax', `#${word} without #if`, { place })
        if (condition.isElse) throw new DeviceTreeError('syntax', `#${word} after #else`, { place })
        condition.isElse = word === 'else'
        condition.reads = !condition.done && (word === 'else' || this.truth(rest, place))
        condition.done ||= condition.reads
        return
      }
      case 'endif':
        if (!conditions.pop()) throw new DeviceTreeError('syntax', '#endif without #if', { place })
        return
    }
    if (!this.reads) return
    switch (word) {
      case 'define': return this.all.define(rest, place)
      case 'undef': return void this.all.undefine(this.nameIn(rest, word))
      case 'include': return this.all.include(
        /^["<]/.test(rest) ? rest : textOf(this.all.expand(lexemesOf(rest), place)).trim(), place, this.from,
      )
      case 'error': throw new DeviceTreeError('syntax', `the source stops here by itself: ${rest}`, { place })
      case 'line': {
        const [, number, file] = /^(\d+)(?:\s+"([^"]*)")?$/.exec(rest) ?? []
        if (!number) throw new DeviceTreeError('syntax', 'expected a line number after #line', { place })
        return this.all.put(`# ${number} "${file ?? this.name}"`, place)
      }
    }
  }

  private nameIn(rest: string, word: string): string {
    const name = /^[A-Za-z_]\w*/.exec(rest)?.[0]
    if (!name) throw new DeviceTreeError('syntax', `expected a name after #${word}`, { place: this.place })
    return name
  }

  private truth(rest: string, place: SourcePlace): boolean {
    const known = lexemesOf(rest.replace(
      /\bdefined\s*(?:\(\s*([A-Za-z_]\w*)\s*\)|([A-Za-z_]\w*))/g,
      (_, a?: string, b?: string) => this.all.isDefined((a ?? b)!) ? '1' : '0',
    ))
    const tokens = this.all.expand(known, place).flatMap(lexeme => tokensOf(lexeme, place))
    const end: Token = { kind: 'end', text: 'the end of the condition', place, spaced: false }
    let next = 0
    const stream = { peek: () => tokens[next] ?? end, take: () => tokens[next++] ?? end, absent: [] }
    const value = readExpression(stream, 0, SIGNED)
    if (next < tokens.length) {
      throw new DeviceTreeError('syntax', `"${tokens[next]!.text}" means nothing in this condition`, { place })
    }
    return value !== 0n
  }
}

/** A lexeme as the reader of expressions wants it. Words that are no macros are 0, as in C. */
function tokensOf({ kind, text }: Lexeme, place: SourcePlace): Token[] {
  const token = (kind: Token['kind'], text: string): Token => ({ kind, text, place, spaced: false })
  switch (kind) {
    case 'blank': return []
    case 'number': return [token('number', text)]
    case 'word': {
      const constant = Object.hasOwn(BINDING_CONSTANTS, text) ? BINDING_CONSTANTS[text] : 0
      return [token('number', typeof constant === 'number' ? String(constant) : '0')]
    }
    case 'string': return text.startsWith('\'') && text.length === 3
      ? [token('char', text[1]!)]
      : [token('string', text)]
    case 'mark': return [token('mark', text)]
  }
}

const clean = (text: string) => text.replace(/\\\r?\n/g, ' ').replace(/("(?:\\.|[^"\\])*")|\/\*[^]*?\*\/|\/\/.*$/gm,
  (_, string?: string) => string ?? ' ')
  .trim()
