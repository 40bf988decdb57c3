/** Macros and their expansion: arguments, `#`, `##`, variable arguments, and no macro within itself (C11 6.10.3). */
import { DeviceTreeError, type SourcePlace } from '../../types'
import { BLANK, lexemesOf, trimmed, type Lexeme } from './lexemes'
import { append } from '../../../collections/append'

export interface Macro {
  name: string
  /** Names of its arguments; null for a macro without a list of them. */
  params: string[] | null
  /** Its last argument takes all that remain. */
  variadic: boolean
  body: Lexeme[]
}

/** Lexemes looked at for one macro of the source. The largest of the kernel's board sources takes some thousands. */
const MAX_WORK = 50_000
/** Macros among the arguments of macros. */
const MAX_DEPTH = 100

interface Context { list: readonly Lexeme[], at: number, macro: string | null }

/** A macro as `#define` has it, without that word. Throws `DeviceTreeError` where it is none. */
export function macroOf(text: string, place: SourcePlace): Macro {
  const [, name, list, rest = ''] = /^([A-Za-z_]\w*)(?:(\([^)]*\))|(?=\s|$|[^\w(]))([^]*)$/.exec(text) ?? []
  if (!name) throw new DeviceTreeError('syntax', 'expected the name of a macro after #define', { place })
  const body = trimmed(lexemesOf(rest))
  if (list === undefined) return { name, params: null, variadic: false, body }
  const written = list.slice(1, -1).trim()
  const params = written ? written.split(',').map(param => param.trim()) : []
  const variadic = params.at(-1)?.endsWith('...') ?? false
  if (variadic) params[params.length - 1] = params.at(-1)!.slice(0, -3).trim() || '__VA_ARGS__'
  const bad = params.find((param, i) => !/^[A-Za-z_]\w*$/.test(param) || params.indexOf(param) !== i)
  if (bad !== undefined) {
    throw new DeviceTreeError('syntax', `"${bad}" cannot be an argument of the macro ${name}`, { place })
  }
  return { name, params, variadic, body }
}

export class Expander {
  readonly macros = new Map<string, Macro>()
  private readonly active = new Set<string>()
  private work = 0
  private depth = 0

  /** Expands lexemes in full. Throws `DeviceTreeError` on wrong arguments and on what grows past every bound. */
  whole(list: readonly Lexeme[], place: SourcePlace): Lexeme[] {
    this.work = 0
    this.active.clear()
    return this.expand(list, place)
  }

  private expand(list: readonly Lexeme[], place: SourcePlace): Lexeme[] {
    if (++this.depth > MAX_DEPTH) throw new DeviceTreeError('limit',
      `macros stand in each other deeper than ${MAX_DEPTH}`, { place })
    const out: Lexeme[] = []
    const stack: Context[] = [{ list, at: 0, macro: null }]
    for (;;) {
      const lexeme = this.take(stack, place)
      if (!lexeme) break
      const macro = lexeme.kind === 'word' && !lexeme.painted ? this.macros.get(lexeme.text) : undefined
      if (!macro) out.push(lexeme)
      else if (this.active.has(macro.name)) out.push({ ...lexeme, painted: true })
      else if (!macro.params) this.enter(stack, macro, this.replaced(macro, [], place))
      else if (this.opens(stack)) this.enter(stack, macro,
        this.replaced(macro, this.argumentsOf(stack, macro, place), place))
      else out.push(lexeme)
    }
    this.depth--
    return out
  }

  private enter(stack: Context[], macro: Macro, list: Lexeme[]): void {
    this.active.add(macro.name)
    stack.push({ list, at: 0, macro: macro.name })
  }

  private take(stack: Context[], place: SourcePlace): Lexeme | null {
    if (++this.work > MAX_WORK) {
      throw new DeviceTreeError('limit', `a macro here grows past ${MAX_WORK} pieces: do macros double each other?`,
        { place })
    }
    for (;;) {
      const top = stack.at(-1)!
      if (top.at < top.list.length) return top.list[top.at++]!
      if (stack.length === 1) return null
      stack.pop()
      this.active.delete(top.macro!)
    }
  }

  /** Whether a parenthesis follows, whatever macro it comes from. */
  private opens(stack: readonly Context[]): boolean {
    for (let level = stack.length - 1; level >= 0; level--) {
      const { list, at } = stack[level]!
      let next = at
      while (list[next]?.kind === 'blank') next++
      if (next < list.length) return list[next]!.kind === 'mark' && list[next]!.text === '('
    }
    return false
  }

  private argumentsOf(stack: Context[], macro: Macro, place: SourcePlace): Lexeme[][] {
    const given: Lexeme[][] = [[]]
    let level = 0
    for (;;) {
      const lexeme = this.take(stack, place)
      if (!lexeme) throw new DeviceTreeError('syntax', `the arguments of the macro ${macro.name} have no end`,
        { place })
      const { kind, text } = lexeme
      if (kind === 'mark' && text === '(' && level++ === 0) continue
      if (kind === 'mark' && text === ')' && --level === 0) return checked(macro, given.map(trimmed), place)
      if (kind === 'mark' && text === ',' && level === 1
        && !(macro.variadic && given.length >= macro.params!.length)) given.push([])
      else given.at(-1)!.push(lexeme)
    }
  }

  /** The body with its arguments put in. */
  private replaced({ params, variadic, body, name }: Macro, given: readonly Lexeme[][], place: SourcePlace): Lexeme[] {
    const out: Lexeme[] = []
    const argument = (lexeme: Lexeme | undefined) =>
      lexeme?.kind === 'word' && params ? params.indexOf(lexeme.text) : -1
    const isPaste = (at: number) => body[at]?.kind === 'mark' && body[at].text === '##'
    const next = (at: number) => body[at]?.kind === 'blank' ? at + 1 : at
    for (let at = 0; at < body.length; at++) {
      const lexeme = body[at]!
      if (lexeme.kind === 'mark' && lexeme.text === '#' && params) {
        const which = argument(body[next(at + 1)])
        if (which >= 0) {
          out.push(quoted(given[which]!))
          at = next(at + 1)
          continue
        }
      }
      if (isPaste(at)) {
        const right = body[at = next(at + 1)]
        while (out.at(-1)?.kind === 'blank') out.pop()
        const which = argument(right)
        let list
        if (which >= 0) list = given[which]!
        else list = right ? [right] : []
        const isRest = variadic && which === params!.length - 1
        if (isRest && out.at(-1)?.text === ',') {
          if (list.length) append(out, list)
          else out.pop()
          continue
        }
        const [first, ...rest] = list
        const left = first && out.at(-1) !== EMPTY ? out.pop() : undefined
        if (first) append(out, left ? pasted(left, first, name, place) : [first])
        append(out, rest)
        continue
      }
      const which = argument(lexeme)
      if (which < 0) out.push(lexeme)
      // Beside ## an argument stands as it was given.
      else if (isPaste(next(at + 1))) append(out, given[which]!.length ? given[which]! : [EMPTY])
      else append(out, this.expand(given[which]!, place))
    }
    return out.filter(lexeme => lexeme !== EMPTY)
  }
}

/** Holds the place of an argument without anything in it, so that ## does not take what stands before. */
const EMPTY: Lexeme = { kind: 'blank', text: '' }

function checked({ name, params, variadic }: Macro, given: Lexeme[][], place: SourcePlace): Lexeme[][] {
  const wanted = params!.length
  if (wanted === 0 && given.length === 1 && !given[0]!.length) return []
  if (variadic && given.length === wanted - 1) given.push([])
  if (given.length !== wanted) {
    throw new DeviceTreeError(
      'syntax', `the macro ${name} takes ${wanted} argument${wanted === 1 ? '' : 's'}, and ${given.length} stand here`,
      { place },
    )
  }
  return given
}

function pasted(left: Lexeme, right: Lexeme, name: string, place: SourcePlace): Lexeme[] {
  const made = lexemesOf(left.text + right.text)
  if (made.length > 2) {
    throw new DeviceTreeError('syntax', `in the macro ${name}, "${left.text}" and "${right.text}" make no one piece`,
      { place })
  }
  return made
}

function quoted(list: readonly Lexeme[]): Lexeme {
  const text = list.map(({ kind, text: own }) => {
    if (kind === 'blank') return BLANK.text
    return kind === 'string' ? own.replace(/["\\]/g, '\\$&') : own
  })
  return { kind: 'string', text: `"${text.join('')}"` }
}
