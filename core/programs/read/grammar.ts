/**
 * Reads a program by a published grammar into what matters of it. The grammars of the three languages name their nodes
 * much alike; where they differ the names stand beside each other in the tables here.
 */
import type { SyntaxNode } from '@lezer/common'
import type { Comment, Definition, Expr, FunctionFound, Program, Scope, Span } from '../types'
import { deadIn } from './dead'
import {
  ARGUMENTS, CALLS, childrenOf, Expressions, FILE, findDown, isExpression, isPunctuation, MEMBERS, NAMES, other, span,
} from './expressions'
import { numberIn } from './number'

const FUNCTIONS = new Set(['FunctionDefinition', 'FunctionDeclaration', 'MethodDeclaration'])
const CLASSES = new Set(['ClassDefinition', 'ClassDeclaration', 'ClassSpecifier', 'StructSpecifier',
  'NamespaceDefinition'])
/** Called by others than the program itself. */
const ENTRIES = /^(main|setup|loop|run|start|__\w+__|on[A-Z_]\w*|handle\w*|test_\w+)$/

export interface Grammar {
  parse: (text: string) => { topNode: SyntaxNode }
}

/** Reads one text. */
class GrammarReader extends Expressions {
  readonly program: Program
  private readonly counts = new Map<string, number>()

  constructor(text: string, private readonly top: SyntaxNode, blanked: Program['dead']) {
    super(text)
    this.program = {
      calls: [], definitions: [], functions: [], comments: [], structures: [], aliases: new Map(),
      mentions: this.counts,
      dead: [...blanked],
    }
  }

  read(): Program {
    this.program.dead.push(...deadIn(this.top, this.text))
    this.walk(this.top, null)
    return this.program
  }

  private isDead({ from }: Span): boolean {
    return this.program.dead.some(span => from >= span.from && from < span.to)
  }

  private walk(node: SyntaxNode, scope: Scope | null): void {
    const { name } = node
    if (/Comment$/.test(name)) return void this.program.comments.push(this.commentOf(node))
    if (this.isDead(node) && node !== this.top) return
    if (NAMES.has(name) && !node.firstChild) this.count(this.textOf(node))
    if (name === 'ImportStatement' || name === 'ImportDeclaration') this.readImport(node)
    if (name === 'PreprocDirective') this.readDefine(node, scope)
    if (FUNCTIONS.has(name)) return this.readFunction(node, scope)
    if (CLASSES.has(name)) {
      this.readStructure(node)
      return this.walkInside(node, this.scopeOf(node, 'class', scope))
    }
    if (name === 'ArrowFunction' || name === 'FunctionExpression') this.readInline(node, scope)
    this.readDefinitions(node, scope)
    if (CALLS.has(name)) this.program.calls.push(this.callOf(node, scope))
    this.walkInside(node, scope)
  }

  private walkInside(node: SyntaxNode, scope: Scope | null): void {
    for (const child of childrenOf(node)) this.walk(child, scope)
  }

  private count(name: string): void {
    this.counts.set(name, (this.counts.get(name) ?? 0) + 1)
  }

  private commentOf({ from, to }: SyntaxNode): Comment {
    return { from, to, text: this.text.slice(from, to).replace(/^(#|\/\/|\/\*)+\s*|\s*\*\/$/g, '') }
  }

  private scopeOf(node: SyntaxNode, is: Scope['is'], outer: Scope | null): Scope {
    const named = childrenOf(node).find(child => NAMES.has(child.name)) ?? null
    return { is, name: named ? this.textOf(named) : '', outer }
  }

  /** Fields in their order: of a structure, of a class whose fields are declared with their types. */
  private readStructure(node: SyntaxNode): void {
    const body = childrenOf(node).find(child => /Body|FieldDeclarationList/.test(child.name))
    const fields = childrenOf(body ?? node).flatMap((child) => {
      if (child.name === 'FieldDeclaration') return findDown(child, 'FieldIdentifier') ?? []
      return child.name === 'AssignStatement' && childrenOf(child).some(({ name }) => name === 'TypeDef')
        ? child.firstChild!
        : []
    }).map(field => this.textOf(field))
    const { name } = this.scopeOf(node, 'class', null)
    const after = node.nextSibling?.name === 'TypeIdentifier' ? this.textOf(node.nextSibling) : ''
    if (fields.length) this.program.structures.push({ name: name && !fields.includes(name) ? name : after, fields })
  }

  /** `import a.b as C`, `from a import b as C`, `const { C } = require('a')` by its definition. */
  private readImport(node: SyntaxNode): void {
    const words = childrenOf(node).map(child => this.textOf(child))
    for (const [i, word] of words.entries()) {
      if (word === 'as' && words[i + 1]) this.program.aliases.set(words[i + 1]!,
        words.slice(0, i).filter(part => /^\w+$/.test(part)
          && part !== 'import' && part !== 'from').slice(-2).join('.'))
    }
    const from = words.indexOf('from')
    const module = words.slice(from + 1).filter(word => /^["']|^\w/.test(word)).join('.').replace(/["']/g, '')
    for (const child of childrenOf(node)) {
      const word = this.textOf(child)
      if (NAMES.has(child.name)
        && !this.program.aliases.has(word)) this.program.aliases.set(word, from < 0 ? word : module)
    }
  }

  /** `#define NAME value` */
  private readDefine(node: SyntaxNode, scope: Scope | null): void {
    const match = /^#\s*define\s+(\w+)\s+(.*?)\s*(?:\/\/.*|\/\*.*)?$/s.exec(this.textOf(node).trimEnd())
    if (!match) return
    const [whole, name, said] = match as unknown as [string, string, string]
    const from = node.from + whole.indexOf(said, whole.indexOf(name) + name.length)
    const bare = said.replace(/^\((.*)\)$/s, '$1').trim()
    const at = from + said.indexOf(bare)
    const span = { from: at, to: at + bare.length }
    // `GPIO_NUM(12)`: a macro around one number.
    const wrapped = /^\w+\((\d+)\)$/.exec(bare)
    if (wrapped) {
      span.from += bare.indexOf('(') + 1
      span.to = span.from + wrapped[1]!.length
    }
    const value = numberIn(wrapped?.[1] ?? bare)
    for (const word of bare.match(/[A-Za-z_]\w*/g) ?? []) this.count(word)
    const quoted = /^"([^"]*)"$/.exec(bare)
    this.define(name, value !== null
      ? { is: 'number', value, ...span }
      : quoted
        ? { is: 'text', value: quoted[1]!, from: span.from + 1, to: span.to - 1 }
        : /^[A-Za-z_]\w*$/.test(bare) ? { is: 'name', path: [bare], ...span } : { is: 'other', ...span }, scope)
  }

  private readFunction(node: SyntaxNode, outer: Scope | null): void {
    const children = childrenOf(node)
    const declarator = findDown(node, 'FunctionDeclarator')
    const head = declarator ?? node
    const named = childrenOf(head).find(child => NAMES.has(child.name) || MEMBERS.has(child.name))
    const name = named ? this.pathOf(named).at(-1) ?? '' : ''
    const scope: Scope = { is: 'function', name, outer }
    const list = childrenOf(head).find(child => /^Param(eter)?List$/.test(child.name))
    this.program.functions.push({
      from: node.from, to: node.to, name, outer, scope, params: list ? this.paramsOf(list) : [],
      isEntry: outer?.is === 'class' || ENTRIES.test(name) || node.parent?.name === 'DecoratedStatement'
        || /^(__attribute__|void\s+\w*(isr|irq|handler)\w*)/i.test(this.textOf(node))
        || node.parent?.name === 'ExportDeclaration',
    })
    // `constructor(private readonly pins: Pins)`: a field of the class as well.
    for (const [i, { name: sign }] of (list ? childrenOf(list) : []).entries()) {
      const next = childrenOf(list!)[i + 1]
      const param = next && /^(Privacy|readonly)$/.test(sign) && next.name === 'VariableDefinition' ? next : null
      if (param) this.define(`this.${this.textOf(param)}`, { is: 'name', path: [this.textOf(param)], ...span(param) },
        scope)
    }
    for (const child of children) this.walk(child, scope)
  }

  private paramsOf(list: SyntaxNode): FunctionFound['params'] {
    const params: { name: string, value?: Expr }[] = []
    const children = childrenOf(list).filter(child => !/^[(),*]$/.test(child.name))
    for (let i = 0; i < children.length; i++) {
      const child = children[i]!
      if (/ParameterDeclaration/.test(child.name)) {
        const named = findDown(child, 'Identifier')
        const value = childrenOf(child).at(-1)
        const expr = value && this.textOf(child).includes('=') ? this.exprOf(value) : null
        if (named) params.push({ name: this.textOf(named), ...expr && { value: expr } })
      }
      else if (NAMES.has(child.name)) {
        let next = i + 1
        while (children[next] && /TypeDef|TypeAnnotation/.test(children[next]!.name)) next++
        const hasValue = children[next] && /^(AssignOp|Equals|=)$/.test(children[next]!.name) && children[next + 1]
        const expr = hasValue ? this.exprOf(children[next + 1]!) : null
        params.push({ name: this.textOf(child), ...expr && { value: expr } })
        i = hasValue ? next + 1 : next - 1
      }
    }
    return params[0]?.name === 'self' || params[0]?.name === 'cls' ? params.slice(1) : params
  }

  /** `list.forEach(pin => …)`: the parameter stands for each of the items. */
  private readInline(node: SyntaxNode, scope: Scope | null): void {
    const call = node.parent?.parent
    const [callee] = call && CALLS.has(call.name) ? childrenOf(call) : []
    const path = callee ? childrenOf(callee) : []
    if (!callee || !MEMBERS.has(callee.name) || !/^(forEach|map|some|every)$/.test(this.textOf(path.at(-1)!))) return
    const param = findDown(node, 'VariableDefinition')
    const value = param && this.exprOf(path[0]!)
    if (param && value) this.program.definitions.push({ name: this.textOf(param), value, scope, each: 'items',
      ...span(param) })
  }

  private define(name: string, value: Expr, scope: Scope | null, each?: Definition['each']): void {
    this.program.definitions.push({ name, value, scope, from: value.from, to: value.to,
      ...each !== undefined && { each } })
  }

  private readDefinitions(node: SyntaxNode, scope: Scope | null): void {
    const children = childrenOf(node)
    switch (node.name) {
      case 'AssignStatement': case 'AssignmentExpression': return this.readAssignment(children, scope)
      case 'VariableDeclaration': case 'PropertyDeclaration':
        for (const [i, child] of children.entries()) {
          if (child.name === 'Equals' && children[i + 1]) this.readTarget(
            children.slice(0, i).findLast(part => NAMES.has(part.name) || /Pattern$/.test(part.name)),
            children[i + 1]!, scope,
          )
        }
        return
      case 'FieldDeclaration': {
        const parts = children.filter(child => !isPunctuation(child) && child.name !== '⚠')
        const value = parts.at(-1)
        const named = parts.at(-2)
        const type = childrenOf(node).find(child => /^(TypeIdentifier|ScopedTypeIdentifier)$/.test(child.name))
        if (type && named?.name === 'FieldIdentifier' && value?.name === 'InitializerList') {
          // `Led led{26};` as a field.
          this.program.calls.push({
            path: this.pathOf(type), args: this.argumentsOf(value), into: this.textOf(named), scope: scope ?? FILE,
            ...span(node),
          })
          return
        }
        const expr = named && /^(FieldIdentifier|TypeIdentifier)$/.test(named.name) && value ? this.exprOf(value) : null
        if (expr && expr.is !== 'other' && named
          && value!.name !== 'FieldIdentifier') this.define(this.textOf(named), expr, scope)
        return
      }
      case 'InitDeclarator': {
        const value = children.at(-1)!
        const named = findDown(node, 'Identifier') ?? findDown(node, 'FieldIdentifier')
        if (!named || named === value || children.length < 2) return
        if (ARGUMENTS.has(value.name)
          && (value.name === 'ArgumentList' || !this.textOf({ from: named.to, to: value.from }).includes(
            '='))) {
          // `Servo arm(18)`, `Pin led{17}`
          const type = node.parent && childrenOf(node.parent)
            .find(child => /TypeIdentifier|ScopedTypeIdentifier|TemplateType/.test(child.name))
          const holds = this.holderOf(node)
          if (holds) {
            // `array rows{17, 18}`, `int pin{17}`
            const list = this.listOf(value, childrenOf(value))
            const expr = list.is === 'list' && holds === 'one' ? list.items[0] : list
            if (expr) this.define(this.textOf(named), expr, scope)
            return
          }
          if (!type) return
          this.count(this.textOf(named))
          this.program.calls.push({
            path: this.pathOf(type), args: this.argumentsOf(value), into: this.textOf(named), scope: scope ?? FILE,
            ...span(node),
          })
          return
        }
        const expr = this.exprOf(value)
        if (expr) this.define(this.textOf(named), expr, scope)
        return
      }
      case 'Declaration': {
        // `Config config;`: it holds what its class says.
        const type = children.find(child => child.name === 'TypeIdentifier')
        for (const child of type
          ? children
          : []) if (child.name === 'FunctionDeclarator') this.readMade(type!, child, scope)
        for (const child of type ? children : []) if (child.name === 'Identifier') this.define(this.textOf(child), {
          is: 'call', call: { path: [this.textOf(type!)], args: [], scope: scope ?? FILE, ...span(child) },
          ...span(child),
        }, scope)
        return
      }
      case 'ExportDeclaration': {
        // `export default { … }`: what a configuration gives out.
        const given = children.some(child => child.name === 'default')
          ? children.find(child => child.name === 'ObjectExpression')
          : null
        if (given) this.define('exports', this.mapOf(given, childrenOf(given)), scope)
        return
      }
      case 'FieldInitializer': {
        // `: irq_{irq}`: a field of the class, from what it was made with.
        const [named, list] = children
        const [first] = list && ARGUMENTS.has(list.name) ? this.argumentsOf(list) : []
        if (named && first) this.define(this.textOf(named), first.value, scope)
        return
      }
      case 'Enumerator': {
        const value = children[1] && this.exprOf(children.at(-1)!)
        const isScoped = node.parent?.parent && this.textOf(node.parent.parent).startsWith('enum class')
        const owner = isScoped ? findDown(node.parent!.parent!, 'TypeIdentifier') : null
        if (value) this.define(this.textOf(children[0]!), value,
          owner ? { is: 'class', name: this.textOf(owner), outer: scope } : scope)
        return
      }
      case 'EnumBody': {
        // `enum Pin { Valve = 20 }` in TypeScript.
        const owner = node.parent ? findDown(node.parent, 'TypeDefinition') : null
        const inside: Scope | null = owner ? { is: 'class', name: this.textOf(owner), outer: scope } : scope
        for (const [i, child] of children.entries()) {
          const hasValue = child.name === 'PropertyName' && children[i + 1]?.name === 'Equals' && children[i + 2]
          const value = hasValue ? this.exprOf(children[i + 2]!) : null
          if (value) this.define(this.textOf(child), value, inside)
        }
        return
      }
      case 'ForStatement': case 'ForOfSpec': case 'ForRangeLoop': case 'ArrayComprehensionExpression': case 'ComprehensionExpression':
      case 'DictionaryComprehensionExpression': case 'SetComprehensionExpression':
        return this.readLoop(children, scope)
    }
  }

  /** `Relay pump(PUMP);` is told from a function's declaration by its arguments, which are values here. */
  private readMade(type: SyntaxNode, declarator: SyntaxNode, scope: Scope | null): void {
    const [named, list] = childrenOf(declarator)
    const given = list ? childrenOf(list).filter(child => !isPunctuation(child)).map(child => child.firstChild) : []
    const isValue = (node: SyntaxNode | null) => node?.name === 'TypeIdentifier' && !node.nextSibling
      && this.program.definitions.some(({ name }) => name === this.textOf(node))
    if (!named || !given.length || !given.every(isValue)) return
    for (const node of [named, ...given]) this.count(this.textOf(node!))
    this.program.calls.push({
      path: [this.textOf(type)], scope: scope ?? FILE, into: this.textOf(named), ...span(declarator),
      args: given.map(node => ({ value: { is: 'name' as const, path: [this.textOf(node!)], ...span(node!) } })),
    })
  }

  /** What braces after a name of that type hold: one value, several, or what a thing is made of. */
  private holderOf({ parent }: SyntaxNode): 'one' | 'several' | null {
    const types = parent ? childrenOf(parent) : []
    if (types.some(({ name }) => name === 'PrimitiveType' || name === 'SizedTypeSpecifier')) return 'one'
    const named = types.find(({ name }) => /^(TypeIdentifier|ScopedTypeIdentifier|TemplateType)$/.test(name))
    const last = named ? this.pathOf(named).at(-1) ?? '' : ''
    if (/^(array|vector|list|span|initializer_list|set|(unordered_)?map)$/.test(last)) return 'several'
    return /^u?int(_fast|_least)?\d+_t$|^size_t$|^gpio_num_t$/.test(last) ? 'one' : null
  }

  /** `a = b = 1`, `a, b = 1, 2`, `self.pin = pin`, with types between. */
  private readAssignment(children: readonly SyntaxNode[], scope: Scope | null): void {
    const groups: SyntaxNode[][] = [[]]
    for (const child of children) {
      if (/^(AssignOp|Equals|=|UpdateOp)$/.test(child.name)) {
        if (this.textOf(child) !== '=') return
        groups.push([])
      }
      else if (child.name !== 'TypeDef' && child.name !== 'TypeAnnotation'
        && child.name !== ',') groups.at(-1)!.push(child)
    }
    const values = groups.pop()!
    for (const targets of groups) {
      if (targets.length === 1 && values.length === 1) this.readTarget(targets[0]!, values[0]!, scope)
      else if (targets.length === values.length) targets.forEach((target,
        i) => this.readTarget(target, values[i]!, scope))
      else if (targets.length === 1) {
        const items = values.map(value => this.exprOf(value) ?? other(value))
        this.define(this.nameOf(targets[0]!), { is: 'list', items, from: values[0]!.from, to: values.at(-1)!.to },
          scope)
      }
    }
  }

  private readTarget(target: SyntaxNode | undefined, value: SyntaxNode, scope: Scope | null): void {
    const expr = target && this.exprOf(value)
    if (!expr) return
    const names = /^(TupleExpression|ArrayPattern)$/.test(target.name)
      ? childrenOf(target).filter(child => NAMES.has(child.name))
      : null
    if (expr.is === 'call' && expr.call.path[0] === 'require' && expr.call.args[0]?.value.is === 'text') {
      const from = expr.call.args[0].value.value
      for (const name of names
        ?? (/Pattern$/.test(target.name) ? [] : [target])) this.program.aliases.set(this.textOf(name), from)
    }
    if (names && expr.is === 'list') names.forEach((name,
      i) => expr.items[i] && this.define(this.textOf(name), expr.items[i], scope))
    else if (target.name === 'ObjectPattern') this.readFields(target, expr, scope)
    else if (!names) this.define(this.nameOf(target), expr, scope)
  }

  /** `{ pin, pull: bias }`: each name is a field of the thing. */
  private readFields(pattern: SyntaxNode, of: Expr, scope: Scope | null): void {
    for (const property of childrenOf(pattern).filter(child => child.name === 'PatternProperty')) {
      const [field, ...rest] = childrenOf(property)
      const named = rest.findLast(child => child.name === 'VariableDefinition') ?? field
      if (field && named) this.define(this.textOf(named),
        { is: 'field', of, name: this.textOf(field), ...span(named) }, scope)
    }
  }

  /** `for a, b in …`: which of the values each of the names stands for. */
  private readLoop(children: readonly SyntaxNode[], scope: Scope | null): void {
    const from = Math.max(0, children.findIndex(child => child.name === 'for') + 1)
    const at = children.findIndex((child, i) => i >= from && /^(in|of|:)$/.test(child.name))
    const ranged = children.slice(0, -1).findLast(child => isExpression(child) || namesUnder(child).length)
    // `for (auto pin : pins::ROWS)`: what is gone through need be no plain name.
    const rangeLoop = at >= 0
      ? null
      : [...children.slice(0, -1).filter(child => child !== ranged || !isExpression(child)).flatMap(namesUnder),
          ...ranged && isExpression(ranged) ? [ranged] : []]
    const targets = rangeLoop
      ? rangeLoop.slice(0, -1)
      : children.slice(from, at).flatMap(child => NAMES.has(child.name)
          ? [child]
          : childrenOf(child).filter(inner => NAMES.has(inner.name) || inner.name === 'PatternProperty'))
    const source = rangeLoop ? rangeLoop.at(-1) : children[at + 1]
    const value = source && this.exprOf(source)
    if (!value || !targets.length) return
    const pattern = children.slice(from, at).find(child => child.name === 'ObjectPattern')
    if (pattern) {
      // Each of the things has a name that no program can give.
      const each = `{${pattern.from}}`
      this.define(each, value, scope, 'items')
      return this.readFields(pattern, { is: 'name', path: [each], ...span(pattern) }, scope)
    }
    const names = targets.map(target => this.textOf(target))
    const over = (name: string | undefined, of: Expr,
      each: Definition['each']) => name !== undefined && this.define(name, of, scope, each)
    if (value.is === 'call') {
      const last = value.call.path.at(-1)
      const [first, second] = value.call.args
      const receiver: Expr = { is: 'name', path: value.call.path.slice(0, -1), ...span(value) }
      if (last === 'items' || last === 'entries') {
        over(names[0], receiver, 'keys')
        return void over(names[1], first && last === 'entries' ? first.value : receiver, 'items')
      }
      if (last === 'values') return void over(names[0], first?.value ?? receiver, 'items')
      if (last === 'keys') return void over(names[0], first?.value ?? receiver, 'keys')
      if (last === 'enumerate' && first) return void over(names[1], first.value, 'items')
      if (last === 'zip' && first) {
        over(names[0], first.value, 'items')
        return void (second && over(names[1], second.value, 'items'))
      }
    }
    if (names.length === 1) over(names[0], value, 'items')
    else names.forEach((name, i) => over(name, value, i))
  }
}

/** Names that a declarator gives, and a name itself. */
function namesUnder(node: SyntaxNode): SyntaxNode[] {
  if (node.name === 'Identifier') return [node]
  return /Declarator$/.test(node.name) ? childrenOf(node).flatMap(namesUnder) : []
}

/** Marks functions that nothing in the text calls as dead, where something in it does run. */
function withoutUncalled(program: Program): boolean {
  const runs = program.functions.some(({ name }) => /^(main|loop)$/.test(name))
    || program.calls.some(({ scope }) => scope === FILE)
  const uncalled = runs
    ? program.functions.filter(({ name, isEntry, outer }) =>
        !isEntry && !outer && name && program.mentions.get(name)! <= 1)
    : []
  for (const { from, to, name } of uncalled) program.dead.push({ from, to, why: `${name} is never called` })
  return uncalled.length > 0
}

/** What matters in a program, read by a grammar. `blanked` are parts that were taken out of the text before. */
export function readByGrammar(text: string, grammar: Grammar, blanked: Program['dead'] = []): Program {
  const top = grammar.parse(text).topNode
  let dead = blanked
  for (;;) {
    const program = new GrammarReader(text, top, dead).read()
    // What only a dead function calls is dead too.
    const before = program.dead.length
    if (!withoutUncalled(program)) return program
    dead = program.dead.slice(0, before + program.dead.length)
    dead = dead.filter((entry, i) => dead.findIndex(other => other.from === entry.from && other.to === entry.to) === i)
  }
}
