/**
 * What a name stands for: values followed through constants, lists, loops, parameters and fields to where
 * they are written.
 */
import type { Argument, Call, Definition, Expr, FunctionFound, Program, Scope } from './types'
import { FILE } from './read/expressions'

/** A value where it is written, with the names it came by, the nearest last. */
export interface Written {
  expr: Expr & { is: 'number' | 'text' }
  /** Of the constant, variable, key or parameter that holds it; empty where it stands by itself. */
  names: readonly string[]
}

const DEEPEST = 12
/** They give back what they are given. */
const THROUGH = /^(int|Number|parseInt|uint8_t|static_cast|str|String|tuple|list|set|sorted|reversed|String|Object|frozen)$/i
/** The second argument is what holds where nothing else is said. */
const WITH_DEFAULT = /^(get|getenv|getint|pop)$/

export class Resolver {
  private readonly byName = new Map<string, Definition[]>()
  private readonly functions: readonly FunctionFound[]

  constructor(private readonly program: Program) {
    for (const definition of program.definitions) {
      const list = this.byName.get(definition.name)
      if (list) list.push(definition)
      else this.byName.set(definition.name, [definition])
    }
    this.functions = program.functions
  }

  /** Every value that the expression can stand for, each where it is written. Empty where it cannot be told. */
  resolve(expr: Expr, scope: Scope | null, names: readonly string[] = [], depth = 0): Written[] {
    if (depth > DEEPEST) return []
    const deeper = (inner: Expr,
      more: readonly string[] = []) => this.resolve(inner, scope, [...names, ...more], depth + 1)
    switch (expr.is) {
      case 'number': case 'text': return [{ expr, names }]
      case 'list': return expr.items.flatMap(item => deeper(item))
      case 'either': return expr.of.flatMap(item => deeper(item))
      case 'map': return expr.entries.flatMap(({ key, value }) => deeper(value, keyWords(key)))
      case 'call': return this.resolveCall(expr.call, scope, names, depth)
      case 'index': return this.resolveIndex(expr, scope, names, depth)
      case 'field': return this.resolveField(expr.of, expr.name, scope, names, depth)
      case 'name': return this.resolveName(expr.path, scope, names, depth)
      default: return []
    }
  }

  private resolveCall({ path, args }: Call, scope: Scope | null, names: readonly string[], depth: number): Written[] {
    const last = path.at(-1) ?? ''
    const [first, second] = args
    const otherwise = /^get/.test(last) ? args.find(({ name }) => name === 'fallback' || name === 'default') : undefined
    if (otherwise) return this.resolve(otherwise.value, scope,
      [...names, ...args.flatMap(({ value }) => value.is === 'text'
        ? [value.value]
        : [])], depth + 1)
    if (WITH_DEFAULT.test(last) && second) {
      return this.resolve(second.value, scope, [...names, ...first?.value.is === 'text' ? [first.value.value] : []],
        depth + 1)
    }
    if (THROUGH.test(last) && first) return this.resolve(first.value, scope, names, depth + 1)
    if (/^(values|entries)$/.test(last) && path[0] === 'Object'
      && first) return this.resolve(first.value, scope, names, depth + 1)
    if (/^(values|items)$/.test(last)
      && path.length > 1) return this.resolveName(path.slice(0, -1), scope, names, depth + 1)
    return []
  }

  private resolveIndex(
    { of, at }: Expr & { is: 'index' }, scope: Scope | null, names: readonly string[], depth: number,
  ): Written[] {
    // A variable counts up; a constant says which.
    const isFixed = at?.is === 'name' && /^[A-Z][A-Z\d_]*$|^k[A-Z]/.test(at.path.at(-1)!)
    let key: string | number | undefined
    if (at && (at.is === 'text' || at.is === 'number')) key = at.value
    else key = isFixed ? this.resolve(at, scope, [], depth + 1)[0]?.expr.value : undefined
    const holders = this.expressionsOf(of, scope, depth + 1)
    const chosen = holders.flatMap(({ expr, scope: own }) => {
      if (key === undefined) return []
      let inner
      if (expr.is === 'map') inner = expr.entries.find(entry => keyWords(entry.key).includes(String(key)))?.value
      else inner = expr.is === 'list' && typeof key === 'number' ? expr.items[key] : undefined
      return inner ? this.resolve(inner, own, [...names, ...pathWords(of), String(key)], depth + 1) : []
    })
    // Which of them is not told: any.
    return chosen.length || (key !== undefined && holders.length) ? chosen : this.resolve(of, scope, names, depth + 1)
  }

  /** `lamps[i].pin`, `lamp.pin`: a field of each thing that the expression stands for. */
  private resolveField(of: Expr, field: string, scope: Scope | null, names: readonly string[],
    depth: number): Written[] {
    const holders = this.expressionsOf(of, scope, depth + 1)
    return unique(holders.flatMap(({ expr, scope: own }) => this.fieldsIn(expr, field, own, depth + 1)
      .flatMap(value => this.resolve(value, own, [...names, ...pathWords(of), field], depth + 1))))
  }

  private fieldsIn(expr: Expr, field: string, scope: Scope | null, depth: number): Expr[] {
    if (depth > DEEPEST) return []
    if (expr.is === 'map') return expr.entries.filter(({ key }) => keyWords(key).includes(field))
      .map(({ value }) => value)
    if (expr.is === 'call') {
      const name = expr.call.path.at(-1)
      const named = expr.call.args.find(arg => arg.name === field)?.value
      const maker = this.functions.find(entry =>
        entry.outer?.name === name && /^(__init__|constructor)$/.test(entry.name))
      const at = maker ? maker.params.findIndex(param => param.name === field) : this.placeOf(field, name)
      const value = named ?? positional(expr.call.args)[at]?.value
      return value ? [value] : this.ofClass(name ?? '', field).map(definition => definition.value)
    }
    if (expr.is === 'name') return this.ofClass(expr.path.at(-1)!, field).map(definition => definition.value)
    if (expr.is !== 'list') return []
    const at = this.placeOf(field)
    const isRow = at >= 0 && expr.items.some(item => item.is !== 'list' && item.is !== 'map' && item.is !== 'call')
    if (isRow) return expr.items[at] ? [expr.items[at]] : []
    return expr.items.flatMap(item => this.fieldsIn(item, field, scope, depth + 1))
  }

  /** Place of a field in the structure of that name, or in the only one that has it; -1 where there is none. */
  private placeOf(field: string, name?: string): number {
    const all = this.program.structures.filter(entry => entry.fields.includes(field))
    const structure = all.find(entry => entry.name === name)
      ?? (all.length === 1 && name === undefined ? all[0] : undefined)
    return structure?.fields.indexOf(field) ?? -1
  }

  /** Definitions of a field in the body of a class, or by its maker. */
  private ofClass(name: string, field: string): Definition[] {
    const isIn = (scope: Scope | null): boolean =>
      scope !== null && ((scope.is === 'class' && scope.name === name) || isIn(scope.outer))
    return this.program.definitions.filter(definition => isIn(definition.scope)
      && (definition.name === field || definition.name === `self.${field}` || definition.name === `this.${field}`))
  }

  /** Constants in the body of a class. */
  private membersOf(name: string): Definition[] {
    return this.program.definitions.filter(({ scope }) =>
      scope?.is === 'class' && scope !== FILE && scope.name === name)
  }

  /** Lists, maps, calls and names of classes that the expression stands for, unopened. */
  expressionsOf(expr: Expr, scope: Scope | null, depth = 0): { expr: Expr, scope: Scope | null }[] {
    if (depth > DEEPEST) return []
    if (expr.is === 'index') {
      const key = expr.at?.is === 'text' ? expr.at.value : null
      return this.expressionsOf(expr.of, scope, depth + 1).flatMap(({ expr: held, scope: own }) => {
        if (held.is === 'list') return held.items.flatMap(item => this.expressionsOf(item, own, depth + 1))
        return held.is === 'map' && key !== null
          ? held.entries.filter(entry => keyWords(entry.key).includes(key))
              .map(({ value }) => ({ expr: value, scope: own }))
          : []
      })
    }
    if (expr.is === 'field') return this.expressionsOf(expr.of, scope, depth + 1)
      .flatMap(({ expr: held, scope: own }) =>
        this.fieldsIn(held, expr.name, own, depth + 1).map(value => ({ expr: value, scope: own })))
    if (expr.is !== 'name') return [{ expr, scope }]
    const found = this.definitionsOf(expr.path, scope).flatMap(({ value, scope: own, each }) =>
      this.expressionsOf(value, own, depth + 1).flatMap((held) => {
        if (each === undefined) return [held]
        return each === 'items' && held.expr.is === 'list'
          ? held.expr.items.flatMap(item => this.expressionsOf(item, held.scope, depth + 1))
          : []
      }))
    const parameter = expr.path.length === 1 ? this.parameter(expr.path[0]!, scope) : null
    const given = parameter ? this.givenTo(parameter.owner, parameter.index) : []
    const all = [...found, ...given.flatMap(entry => this.expressionsOf(entry.expr, entry.scope, depth + 1))]
    // A class by its name holds its fields.
    return all.length ? all : [{ expr, scope }]
  }

  /** What a parameter is given, with where; what it takes otherwise, where nobody gives it anything. */
  private givenTo(owner: FunctionFound, index: number): { expr: Expr, scope: Scope | null, into?: string }[] {
    const param = owner.params[index]!
    const isMaker = /^(__init__|constructor)$/.test(owner.name) || owner.name === owner.outer?.name
    const calledAs = isMaker ? owner.outer?.name : owner.name
    const otherwise = param.value ? [{ expr: param.value, scope: owner.outer }] : []
    const calls = this.program.calls.filter(call => call.path.at(-1) === calledAs)
    const given = calls.flatMap((call) => {
      const argument = call.args.find(arg => arg.name === param.name) ?? positional(call.args)[index]
      if (!argument) return otherwise
      return [{ expr: argument.value, scope: call.scope, ...call.into !== undefined && { into: call.into } }]
    })
    return given.length ? given : otherwise
  }

  private resolveName(path: readonly string[], scope: Scope | null, names: readonly string[],
    depth: number): Written[] {
    const named = [...names, path.at(-1) ?? '']
    const parameter = path.length === 1 ? this.parameter(path[0]!, scope) : null
    const found = this.definitionsOf(path, scope).filter(definition => !(definition.value.is === 'name'
      && definition.value.path.join('.') === path.join('.')))
    const values = found.flatMap(definition => this.resolveEach(definition, named, depth))
    if (parameter) values.push(...this.resolveParameter(parameter.owner, parameter.index, named, depth))
    if (values.length || path.length < 2) return unique(values)
    // `PINS.red`: a key of what the first part stands for.
    const holder: Expr = { is: 'name', path: path.slice(0, -1), from: 0, to: 0 }
    return this.resolveField(holder, path.at(-1)!, scope, names, depth + 1)
  }

  private resolveEach({ value, each, scope }: Definition, names: readonly string[], depth: number): Written[] {
    if (each === undefined || each === 'items') {
      const values = this.resolve(value, scope, names, depth + 1)
      // `for out in Outputs`: each member of the enumeration.
      const members = each === 'items' && !values.length && value.is === 'name'
        ? this.membersOf(value.path.at(-1)!)
        : []
      return [...values,
        ...members.flatMap(member => this.resolve(member.value, member.scope, [...names, member.name], depth + 1))]
    }
    return this.expressionsOf(value, scope, depth + 1).flatMap(({ expr, scope: own }): Written[] => {
      if (each === 'keys') return expr.is === 'map'
        ? expr.entries.flatMap(({ key }) => this.resolve(key, own, names, depth + 1))
        : []
      return expr.is === 'list'
        ? expr.items.flatMap(item =>
            item.is === 'list' && item.items[each] ? this.resolve(item.items[each], own, names, depth + 1) : [])
        : []
    })
  }

  /** Where the name is a parameter of the function around it, or of one further out. */
  private parameter(name: string, scope: Scope | null): { owner: FunctionFound, index: number } | null {
    for (let at = scope; at; at = at.outer) {
      const owner = at.is === 'function' ? this.functions.find(entry => entry.scope === at) : undefined
      const index = owner?.params.findIndex(param => param.name === name) ?? -1
      if (owner && index >= 0) return { owner, index }
    }
    return null
  }

  /** What the function is called with; what it takes where nothing is said. */
  private resolveParameter(owner: FunctionFound, index: number, names: readonly string[], depth: number): Written[] {
    return this.givenTo(owner, index).flatMap(({ expr, scope, into }) =>
      this.resolve(expr, scope, [...into !== undefined ? [into] : [], ...names], depth + 1))
  }

  /** Definitions of a name, of the innermost scope that has any. */
  private definitionsOf(path: readonly string[], scope: Scope | null): Definition[] {
    const full = path.join('.')
    const last = path.at(-1)!
    if (path.length > 1) {
      const same = this.byName.get(full) ?? []
      if (path[0] === 'self' || path[0] === 'this' || path[0] === 'cls') {
        const owner = classOf(scope)
        const mine = [...same, ...this.byName.get(last)?.filter(entry => entry.scope?.is === 'class') ?? []]
          .filter(entry => classOf(entry.scope) === owner)
        return mine.length ? mine : same
      }
      const inClass = (this.byName.get(last) ?? []).filter(entry =>
        entry.scope?.is === 'class' && entry.scope.name === path.at(-2))
      return [...same, ...inClass]
    }
    const all = this.byName.get(last) ?? []
    for (let at: Scope | null = scope; at; at = at.outer) {
      const here = all.filter(entry => entry.scope === at)
      if (here.length) return here
    }
    const atTop = all.filter(entry => entry.scope === null || entry.scope === FILE)
    // A field of the class that its methods name without saying so, from its body or from its maker.
    const owner = classOf(scope)
    return atTop.length
      ? atTop
      : all.filter(entry =>
          owner && (entry.scope === owner || (entry.scope?.outer === owner && entry.scope.name === owner.name)))
  }
}

export const positional = (args: readonly Argument[]) => args.filter(arg => arg.name === undefined)

const classOf = (scope: Scope | null): Scope | null => {
  for (let at = scope; at; at = at.outer) if (at.is === 'class') return at
  return null
}
const keyWords = (key: Expr): string[] => {
  if (key.is === 'text' || key.is === 'number') return [String(key.value)]
  return key.is === 'name' ? [key.path.at(-1)!] : []
}
const pathWords = (expr: Expr): string[] => expr.is === 'name' ? expr.path.slice(-1) : []
const unique = (values: Written[]) => values.filter((value, i) =>
  values.findIndex(other => other.expr.from === value.expr.from && other.expr.to === value.expr.to) === i)
