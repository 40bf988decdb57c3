/** Integer expressions as in C, on 64-bit unsigned numbers, as Devicetree source has them between parentheses. */
import { DeviceTreeError } from '../types'
import type { Token } from './types'

export interface TokenStream {
  peek(): Token
  take(): Token
  /** Headers that were not at hand: a word without a meaning may be theirs. */
  readonly absent: readonly string[]
}

/**
 * How a result is kept within 64 bits: without a sign in Devicetree source, with one in conditions of the preprocessor.
 */
type Wrap = (value: bigint) => bigint
export const UNSIGNED: Wrap = value => BigInt.asUintN(64, value)
export const SIGNED: Wrap = value => BigInt.asIntN(64, value)
const truth = (value: boolean) => value ? 1n : 0n

/** Operators by how strongly they bind, weakest first. */
const LEVELS: readonly Readonly<Record<string, (a: bigint, b: bigint, wrap: Wrap) => bigint>>[] = [
  { '||': (a, b) => truth(a !== 0n || b !== 0n) },
  { '&&': (a, b) => truth(a !== 0n && b !== 0n) },
  { '|': (a, b) => a | b },
  { '^': (a, b) => a ^ b },
  { '&': (a, b) => a & b },
  { '==': (a, b) => truth(a === b), '!=': (a, b) => truth(a !== b) },
  { '<': (a, b) => truth(a < b), '>': (a, b) => truth(a > b), '<=': (a, b) => truth(a <= b),
    '>=': (a, b) => truth(a >= b) },
  { '<<': (a, b, wrap) => b >= 0n && b < 64n ? wrap(a << b) : 0n, '>>': (a, b) => b >= 0n && b < 64n ? a >> b : 0n },
  { '+': (a, b, wrap) => wrap(a + b), '-': (a, b, wrap) => wrap(a - b) },
  { '*': (a, b, wrap) => wrap(a * b), '/': (a, b) => a / b, '%': (a, b) => a % b },
]
const MAX_NESTING = 200

/** The value of an expression. Throws `DeviceTreeError` on what is none, and on a division by zero. */
export function readExpression(tokens: TokenStream, depth = 0, wrap: Wrap = UNSIGNED): bigint {
  if (depth > MAX_NESTING) throw new DeviceTreeError('limit', 'this expression is nested too deeply',
    { place: tokens.peek().place })
  const condition = readLevel(tokens, 0, depth, wrap)
  if (tokens.peek().text !== '?' || tokens.peek().kind !== 'mark') return condition
  tokens.take()
  const yes = readExpression(tokens, depth + 1, wrap)
  expectMark(tokens, ':')
  const no = readExpression(tokens, depth + 1, wrap)
  return condition !== 0n ? yes : no
}

function readLevel(tokens: TokenStream, level: number, depth: number, wrap: Wrap): bigint {
  const operators = LEVELS[level]
  if (!operators) return readUnary(tokens, depth, wrap)
  let left = readLevel(tokens, level + 1, depth, wrap)
  for (;;) {
    const { kind, text, place } = tokens.peek()
    const operator = kind === 'mark' && Object.hasOwn(operators, text) ? operators[text] : undefined
    if (!operator) return left
    tokens.take()
    const right = readLevel(tokens, level + 1, depth, wrap)
    if ((text === '/' || text === '%')
      && right === 0n) throw new DeviceTreeError('value', 'division by zero', { place })
    left = operator(left, right, wrap)
  }
}

function readUnary(tokens: TokenStream, depth: number, wrap: Wrap): bigint {
  if (depth > MAX_NESTING) throw new DeviceTreeError('limit', 'this expression is nested too deeply',
    { place: tokens.peek().place })
  const token = tokens.take()
  if (token.kind === 'number') return numberOf(token)
  if (token.kind === 'char') return BigInt(token.text.charCodeAt(0))
  if (token.kind === 'mark') {
    switch (token.text) {
      case '-': return wrap(-readUnary(tokens, depth + 1, wrap))
      case '~': return wrap(~readUnary(tokens, depth + 1, wrap))
      case '!': return truth(readUnary(tokens, depth + 1, wrap) === 0n)
      case '(': {
        const value = readExpression(tokens, depth + 1, wrap)
        expectMark(tokens, ')')
        return value
      }
    }
  }
  throw noNumber(token, 'expected a number', tokens.absent)
}

const listed = (names: readonly string[]) => `${names.slice(0, 3).join(', ')}${names.length > 3 ? ' …' : ''}`

/** A word that is no number gets its own message: it is a macro that is missing, more often than not. */
export function noNumber(token: Token, expected: string, absent: readonly string[]): DeviceTreeError {
  if (token.kind === 'word') {
    return new DeviceTreeError(
      'syntax', `"${token.text}" is neither a number nor a macro nor a known binding constant`
      + (absent.length ? `; it may be in a header that is not at hand: ${listed(absent)}` : ''), { place: token.place },
    )
  }
  return new DeviceTreeError(
    'syntax', `${expected}, found ${token.kind === 'end' ? token.text : `"${token.text}"`}`, { place: token.place },
  )
}

function expectMark(tokens: TokenStream, mark: string): void {
  const token = tokens.take()
  if (token.kind !== 'mark' || token.text !== mark) {
    throw new DeviceTreeError(
      'syntax', `expected "${mark}", found ${token.kind === 'end' ? token.text : `"${token.text}"`}`,
      { place: token.place },
    )
  }
}

/** Decimal, hexadecimal or, with a leading zero, octal. */
export function numberOf({ text, place }: Token): bigint {
  const digits = text.replace(/[uUlL]+$/, '')
  if (/^0[0-7]*[89]/.test(digits)) throw new DeviceTreeError('syntax',
    `"${text}" begins like an octal number and is none`, { place })
  if (!/^(?:0[xX][\dA-Fa-f]+|\d+)$/.test(digits)) throw new DeviceTreeError('syntax', `"${text}" is no number`,
    { place })
  const value = /^0\d/.test(digits) ? BigInt(`0o${digits.slice(1)}`) : BigInt(digits)
  if (value > 0xFFFFFFFFFFFFFFFFn) throw new DeviceTreeError('value', `${text} does not fit into 64 bits`, { place })
  return value
}
