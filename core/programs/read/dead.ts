/**
 * Parts of a program that no run reaches: behind a condition that is never true, after the end of what they stand in.
 */
import type { SyntaxNode } from '@lezer/common'
import type { Span } from '../types'

const NEVER = /^\(?\s*(False|false|0|NULL|nullptr|None|null)\s*\)?$/
const ALWAYS = /^\(?\s*(True|true|1)\s*\)?$/
const isFalse = (text: string) => NEVER.test(text)
const isTrue = (text: string) => ALWAYS.test(text)

const ENDS = /^(ReturnStatement|RaiseStatement|ThrowStatement|BreakStatement|ContinueStatement)$/
const EXITS = /^(sys\.exit|exit|quit|os\._exit|process\.exit|abort|_exit)\s*\(/
const BLOCKS = /^(Body|Block|CompoundStatement|Script|Program)$/
/** Reached from elsewhere, whatever stands before. */
const LABELS = /^(CaseStatement|CaseLabel|DefaultLabel|LabeledStatement)$/

type Dead = Span & { why: string }

const childrenOf = (node: SyntaxNode): SyntaxNode[] => {
  const list: SyntaxNode[] = []
  for (let child = node.firstChild; child; child = child.nextSibling) list.push(child)
  return list
}

/** All of them in the tree. */
export function deadIn(top: SyntaxNode, text: string): Dead[] {
  const found: Dead[] = []
  const visit = (node: SyntaxNode) => {
    const children = childrenOf(node)
    if (node.name === 'IfStatement') found.push(...branches(children, text))
    if (node.name === 'WhileStatement') {
      const [condition, body] = conditioned(children, text)
      if (condition !== null && isFalse(condition)
        && body) found.push({ from: body.from, to: body.to, why: 'the loop never runs' })
    }
    if (BLOCKS.test(node.name)) found.push(...afterEnd(children, node, text))
    for (const child of children) visit(child)
  }
  visit(top)
  return found
}

/** Text of the condition, and what it governs. */
function conditioned(children: readonly SyntaxNode[], text: string): [string | null, SyntaxNode | undefined] {
  const governed = children.findIndex(child => /Body|Block|CompoundStatement|Statement$/.test(child.name))
  const condition = children.slice(1, governed).at(-1)
  return [condition ? text.slice(condition.from, condition.to) : null, children[governed]]
}

function branches(children: readonly SyntaxNode[], text: string): Dead[] {
  const dead: Dead[] = []
  let isSettled = false
  let condition: string | null = null
  for (const [i, child] of children.entries()) {
    const isHead = child.name === 'if' || child.name === 'elif'
    const next = children[i + 1]
    if (isHead && next) condition = text.slice(next.from, next.to)
    else if (child.name === 'else') condition = null
    else if (/Body|Block|CompoundStatement|Statement$/.test(child.name)) {
      if (isSettled) dead.push({ from: child.from, to: child.to, why: 'an earlier condition is always true' })
      else if (condition !== null
        && isFalse(condition)) dead.push({ from: child.from, to: child.to, why: 'its condition is never true' })
      isSettled ||= condition !== null && isTrue(condition)
    }
  }
  return dead
}

function afterEnd(children: readonly SyntaxNode[], block: SyntaxNode, text: string): Dead[] {
  const end = children.findIndex(child => ENDS.test(child.name)
    || (child.name === 'ExpressionStatement' && EXITS.test(text.slice(child.from, child.to))))
  const next = end < 0 ? undefined : children[end + 1]
  if (!next) return []
  // Functions are there before anything runs.
  const rest = children.slice(end + 1)
  const label = rest.find(child => LABELS.test(child.name))
  const last = label ? label.from : block.to
  return next.from < last
    ? rest.filter(child => child.from < last && !/Function|Class|Comment|^[{}]$/.test(child.name))
        .map(child => ({ from: child.from, to: Math.min(child.to, last),
          why: 'it stands after the end of what it is in' }))
    : []
}

/**
 * Takes out what the preprocessor leaves out: `#if 0`, `#ifdef` of a name that nothing defines. Line numbers and
 * offsets stay. Names that begin with two underscores are the compiler's and count as defined.
 */
export function withoutConditionals(text: string): { text: string, dead: Dead[] } {
  const defined = new Set<string>()
  const known = (name: string) => defined.has(name) || name.startsWith('__') || /^(linux|unix)/.test(name)
  const stack: { live: boolean, taken: boolean, outer: boolean }[] = []
  const dead: Dead[] = []
  let live = true
  let at = 0
  const out = text.split('\n').map((line) => {
    const from = at
    at += line.length + 1
    const match = /^\s*#\s*(if|ifdef|ifndef|elif|else|endif)\b\s*(.*?)\s*(?:\/\/.*|\/\*.*)?$/.exec(line)
    if (match) {
      const [, word, condition = ''] = match
      const holds = word === 'ifdef' || word === 'ifndef'
        ? known(condition) === (word === 'ifdef')
        : conditionHolds(condition, known)
      if (word === 'endif') live = stack.pop()?.outer ?? true
      else if (word === 'else' || word === 'elif') {
        const top = stack.at(-1)
        if (top) {
          live = top.outer && !top.taken && (word === 'else' || holds)
          top.taken ||= live
        }
      }
      else {
        stack.push({ live, taken: live && holds, outer: live })
        live &&= holds
      }
      return ' '.repeat(line.length)
    }
    const define = live ? /^\s*#\s*define\s+(\w+)/.exec(line) : null
    if (define) defined.add(define[1]!)
    if (live) return line
    dead.push({ from, to: from + line.length, why: 'the preprocessor leaves it out' })
    return ' '.repeat(line.length)
  })
  return { text: out.join('\n'), dead }
}

function conditionHolds(condition: string, known: (name: string) => boolean): boolean {
  if (isFalse(condition)) return false
  const named = /^(!?)\s*defined\s*\(?\s*(\w+)\s*\)?$/.exec(condition)
  return named ? known(named[2]!) !== (named[1] === '!') : true
}

const BODY = /\b(enum|struct|class|union|namespace|extern)\b[^;{}]*$/
const NO_NAME = /^(return|else|do|try|override|const|noexcept|final)$/

/**
 * A program in the words that the grammar of C++ knows, every letter at its place: what a container holds is put out of
 * sight (it takes the bracket for a comparison), and a name with its values in braces stands with them in round
 * brackets (it takes them for a body).
 */
export const inOlderWords = (text: string): string => text
  .replace(/((?<=::)(?:array|vector|list|span|initializer_list|set)|\b(?:array|vector))(\s*<[^<>;{}()]*>)/g,
    (_, name: string, held: string) => name + held.replace(/[^\n]/g, ' '))
  .replace(/\b([A-Za-z_]\w*)\{([^{};]+)\}/g, (whole: string, name: string, values: string, at: number, all: string) =>
    NO_NAME.test(name) || BODY.test(all.slice(Math.max(0, at - 200), at)) ? whole : `${name}(${values})`)
