/** Expressions, calls and lists of a syntax tree, in the form that is the same for all three grammars. */
import type { SyntaxNode } from '@lezer/common'
import type { Argument, Call, Expr, Scope, Span } from '../types'
import { numberIn } from './number'

const NUMBERS = new Set(['Number'])
const STRINGS = new Set(['String', 'RawString'])
export const NAMES = new Set([
  'VariableName', 'Identifier', 'TypeIdentifier', 'PropertyName', 'FieldIdentifier', 'NamespaceIdentifier',
  'VariableDefinition',
  'PropertyDefinition', 'this', 'self', 'TypeName', 'ScopedTypeIdentifier',
])
export const MEMBERS = new Set(['MemberExpression', 'FieldExpression', 'ScopedIdentifier', 'QualifiedIdentifier',
  'ScopedTypeIdentifier'])
const LISTS = new Set(['ArrayExpression', 'TupleExpression', 'SetExpression', 'InitializerList', 'SequenceExpression'])
export const CALLS = new Set(['CallExpression', 'NewExpression'])
export const ARGUMENTS = new Set(['ArgList', 'ArgumentList', 'InitializerList'])
const CHOICES = new Set(['ConditionalExpression', 'BinaryExpression'])
const CASTS = new Set(['CastExpression', 'ParenthesizedExpression', 'AwaitExpression', 'UpdateExpression'])

export const childrenOf = (node: SyntaxNode): SyntaxNode[] => {
  const list: SyntaxNode[] = []
  for (let child = node.firstChild; child; child = child.nextSibling) list.push(child)
  return list
}
const isIndexed = (node: SyntaxNode) =>
  node.name === 'MemberExpression' && childrenOf(node).some(child => child.name === '[')
export const isPunctuation = ({ name }: SyntaxNode) => /^[^\w⚠]+$/.test(name)
/** What may be gone through by a loop without being a plain name. */
export const isExpression = ({ name }: SyntaxNode) =>
  MEMBERS.has(name) || CALLS.has(name) || LISTS.has(name) || name === 'SubscriptExpression'

/** The whole file, as a scope. */
export const FILE: Scope = { is: 'class', name: '', outer: null }

export const span = ({ from, to }: Span): Span => ({ from, to })
export const other = (node: Span): Expr => ({ is: 'other', ...span(node) })

/** The first node of that name below, not within a body. */
export function findDown(node: SyntaxNode, name: string): SyntaxNode | null {
  for (const child of childrenOf(node)) {
    if (child.name === name) return child
    const found = /Body|Block|CompoundStatement/.test(child.name) ? null : findDown(child, name)
    if (found) return found
  }
  return null
}

/** Reads the expressions of one text. */
export class Expressions {
  constructor(protected readonly text: string) {}

  protected textOf({ from, to }: Span): string {
    return this.text.slice(from, to)
  }

  protected nameOf(node: SyntaxNode): string {
    return this.pathOf(node).join('.')
  }

  protected pathOf(node: SyntaxNode): string[] {
    if (CALLS.has(node.name)) return []
    if (MEMBERS.has(node.name)) {
      return childrenOf(node).filter(child => !isPunctuation(child)).flatMap(child => this.pathOf(child))
    }
    if (node.name === 'TemplateType' || node.name === 'TemplateFunction') return this.pathOf(node.firstChild!)
    return NAMES.has(node.name) ? [this.textOf(node)] : []
  }

  protected callOf(node: SyntaxNode, scope: Scope | null): Call {
    const children = childrenOf(node).filter(child => child.name !== 'new' && child.name !== 'await')
    const [callee] = children
    const list = children.find(child => ARGUMENTS.has(child.name))
    const first = callee && MEMBERS.has(callee.name) ? callee.firstChild : null
    const on = first && (CALLS.has(first.name) || first.name === 'SubscriptExpression') ? this.exprOf(first) : null
    const into = this.intoOf(node)
    const path = callee ? this.pathOf(callee) : []
    // `std::make_unique<Relay>(17)`: what is made stands between the brackets.
    const isMaker = callee?.name === 'TemplateFunction' && /^make_(unique|shared)$/.test(path.at(-1) ?? '')
    const held = isMaker ? findDown(callee, 'TypeDescriptor') : null
    return {
      path: held?.firstChild ? this.pathOf(held.firstChild) : path,
      args: list ? this.argumentsOf(list) : [], scope: scope ?? FILE, ...on && { on },
      ...into && { into }, ...span(node),
    }
  }

  /** The name that gets the result: of an assignment, a declaration, a property or an argument. */
  protected intoOf(node: SyntaxNode): string | undefined {
    const parent = node.parent
    if (!parent) return undefined
    if (/^(AssignStatement|AssignmentExpression|VariableDeclaration|PropertyDeclaration|InitDeclarator|Property)$/.test(parent.name)) {
      const before = childrenOf(parent).filter(child => child.to <= node.from)
        .findLast(child => NAMES.has(child.name) || MEMBERS.has(child.name) || /Declarator$/.test(child.name))
      const named = before && (/Declarator$/.test(before.name) ? findDown(before, 'Identifier') : before)
      return named ? this.pathOf(named).at(-1) : undefined
    }
    return CASTS.has(parent.name) ? this.intoOf(parent) : undefined
  }

  protected argumentsOf(list: SyntaxNode): Argument[] {
    const children = childrenOf(list)
      .filter(child => !/^[(){},]$|LineComment/.test(child.name) && child.name !== 'Comment')
    const args: Argument[] = []
    let label: string | undefined
    for (let i = 0; i < children.length; i++) {
      const child = children[i]!
      if (child.name === 'BlockComment') {
        label = /^\/\*\s*(\w+)\s*[=:]?\s*\*\/$/.exec(this.textOf(child))?.[1]
        continue
      }
      if (children[i + 1]?.name === 'AssignOp' && children[i + 2]) {
        args.push({ name: this.textOf(child), value: this.exprOf(children[i + 2]!) ?? other(children[i + 2]!) })
        i += 2
      }
      else args.push({ value: this.exprOf(child) ?? other(child), ...label !== undefined && { label } })
      label = undefined
    }
    return args
  }

  protected exprOf(node: SyntaxNode): Expr | null {
    const { name } = node
    const children = childrenOf(node)
    if (NUMBERS.has(name)) {
      const value = numberIn(this.textOf(node))
      return value === null ? other(node) : { is: 'number', value, ...span(node) }
    }
    if (STRINGS.has(name)) return this.stringOf(node)
    if (CALLS.has(name)) {
      const call = this.callOf(node, null)
      return call.path.join('.') === 'dict' && call.args.every(arg => arg.name !== undefined)
        ? { is: 'map', entries: call.args.map(arg => ({ key: { is: 'text', value: arg.name!, ...span(node) },
            value: arg.value })),
          ...span(node) }
        : { is: 'call', call, ...span(node) }
    }
    if (LISTS.has(name)) return this.listOf(node, children)
    if (name === 'DictionaryExpression' || name === 'ObjectExpression') return this.mapOf(node, children)
    if (name === 'SubscriptExpression' || isIndexed(node)) {
      const inner = children.filter(child => !/^[[\]]$/.test(child.name))
      return { is: 'index', of: this.exprOf(inner[0]!) ?? other(inner[0]!),
        at: inner[1] ? this.exprOf(inner[1]) : null, ...span(node) }
    }
    const base = MEMBERS.has(name) ? node.firstChild : null
    if (base && (CALLS.has(base.name) || base.name === 'SubscriptExpression' || isIndexed(base))) {
      return { is: 'field', of: this.exprOf(base) ?? other(base), name: this.textOf(children.at(-1)!), ...span(node) }
    }
    if (MEMBERS.has(name) || NAMES.has(name)) return { is: 'name', path: this.pathOf(node), ...span(node) }
    if (CASTS.has(name)) {
      const inner = children.findLast(child => !/^[()]$|TypeDescriptor|^await$/.test(child.name))
      return inner ? this.exprOf(inner) : other(node)
    }
    // `[…] as const`, `pin!`, `<T>pin`: the same thing under a type.
    if (name === 'PostfixExpression'
      || (name === 'BinaryExpression' && /^(as|satisfies)$/.test(children[1]?.name ?? ''))) {
      return this.exprOf(children[0]!)
    }
    if (name === 'PrefixCast') return this.exprOf(children.at(-1)!)
    if (CHOICES.has(name) && !children.some(child => /ArithOp|BitOp|CompareOp/.test(child.name))) {
      return { is: 'either', of: children.flatMap(child => isPunctuation(child) ? [] : this.exprOf(child) ?? []),
        ...span(node) }
    }
    return other(node)
  }

  protected stringOf(node: SyntaxNode): Expr {
    const text = this.textOf(node)
    const quote = /^[A-Za-z]*("""|'''|["'`])/.exec(text)
    if (!quote) return other(node)
    const from = node.from + quote[0].length
    const to = Math.max(from, node.to - quote[1]!.length)
    return { is: 'text', value: this.text.slice(from, to), from, to }
  }

  protected listOf(node: SyntaxNode, children: readonly SyntaxNode[]): Expr {
    const inner = children.filter(child => !/^[()[\]{},]$/.test(child.name) && !/Comment$/.test(child.name))
    if (inner.length && inner.every(child => child.name === 'InitializerPair')) {
      const entries = inner.map((child) => {
        const parts = childrenOf(child)
        const key = findDown(child, 'FieldIdentifier')
        const value = this.exprOf(parts.at(-1)!) ?? other(child)
        return { key: key ? { is: 'text' as const, value: this.textOf(key), ...span(key) } : other(child), value }
      })
      return { is: 'map', entries, ...span(node) }
    }
    return { is: 'list', items: inner.map(child => this.exprOf(child) ?? other(child)), ...span(node) }
  }

  protected mapOf(node: SyntaxNode, children: readonly SyntaxNode[]): Expr {
    const flat = children.flatMap(child => child.name === 'Property' ? childrenOf(child) : [child])
      .filter(child => !/^[{},]$/.test(child.name) && !/Comment$/.test(child.name))
    const entries: { key: Expr, value: Expr }[] = []
    for (let i = 0; i + 2 < flat.length; i++) {
      if (flat[i + 1]!.name !== ':') continue
      const named = flat[i]!
      const key: Expr = named.name === 'PropertyDefinition'
        ? { is: 'text', value: this.textOf(named), ...span(named) }
        : this.exprOf(named) ?? other(named)
      entries.push({ key, value: this.exprOf(flat[i + 2]!) ?? other(flat[i + 2]!) })
      i += 2
    }
    return { is: 'map', entries, ...span(node) }
  }
}
