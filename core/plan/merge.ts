/**
 * Joins what two tabs made of one plan. What only one of them changed is taken; where both changed the same thing the
 * other tab's stands, as it was kept first, and this one's is told as a collision, so that nothing goes without a word.
 *
 * Laws: `merge(b, m, b)` is `m`, `merge(b, b, t)` is `t`, `merge(b, m, m)` is `m`, each without a collision; everything
 * that `m` changed stands in the merged plan or in a collision.
 */
import { mergeText } from './merge-text'
import { withoutMentions } from './mentions'
import { fieldsOf, isRecord, keysOf, same, type RecordFields } from './same'
import type { Plan } from './types'

/** A thing that both changed. `path` leads to it; entries of lists are named by what tells them apart. */
export interface MergeConflict {
  path: readonly string[]
  mine: unknown
  theirs: unknown
}

export interface MergedPlan {
  plan: Plan
  collisions: readonly MergeConflict[]
}

/** Joins two plans that began as `base`. Pure. */
export function merge(base: Plan, mine: Plan, theirs: Plan): MergedPlan {
  const collisions: MergeConflict[] = []
  const merged = joined([], base, mine, theirs, collisions) as Plan
  const there = new Set(merged.parts.map(part => part.id))
  const gone = [...new Set([base, mine, theirs].flatMap(plan => plan.parts.map(part => part.id)))].filter(id =>
    !there.has(id))
  const plan = gone.reduce((now, id) => {
    const clean = withoutMentions(now, id)
    // What this tab gave a part that the other took out goes with it, and is told.
    if (!same(clean, now) && !collisions.some(({ path }) => path[0] === 'parts' && path[1] === id)) {
      collisions.push({ path: ['parts', id], mine: mine.parts.find(part => part.id === id), theirs: undefined })
    }
    return clean
  }, merged)
  return { plan, collisions }
}

function joined(path: readonly string[], base: unknown, mine: unknown, theirs: unknown,
  collisions: MergeConflict[]): unknown {
  if (same(mine, base)) return theirs
  if (same(theirs, base) || same(mine, theirs)) return mine
  if (isRecord(mine) && isRecord(theirs) && !isOneThing(path)) return joinedRecords(
    path, isRecord(base) ? base : {}, mine, theirs, collisions,
  )
  if (Array.isArray(mine) && Array.isArray(theirs)) {
    const list = joinedLists(path, Array.isArray(base) ? base : [], mine, theirs, collisions)
    if (list) return list
  }
  if (typeof mine === 'string' && typeof theirs === 'string' && isFreeText(path)) {
    const text = mergeText(typeof base === 'string' ? base : '', mine, theirs)
    if (text !== null) return text
  }
  collisions.push({ path, mine, theirs })
  return theirs
}

/** Values whose fields go together: half of one and half of another would be neither. */
const isOneThing = ([field, second, third, fourth]: readonly string[]): boolean => field === 'supply'
  || (second !== undefined && WHOLE.has(field!))
  || (third !== undefined && ['own', 'power', 'boot'].includes(field!))
  || (fourth !== undefined && field === 'parts')

const WHOLE: ReadonlySet<string> = new Set(['assignments', 'between', 'limits', 'worksheets', 'reserved',
  'softwareBuses'])

/** Texts that people write: their changes go side by side. A name, an id or a choice is one thing. */
const isFreeText = (path: readonly string[]): boolean => ['notes', 'story', 'text', 'content'].includes(path.at(-1)!)
  || (path[0] === 'boot' && path[1] === 'includes')

function joinedRecords(path: readonly string[], base: RecordFields, mine: RecordFields, theirs: RecordFields,
  collisions: MergeConflict[]): RecordFields {
  const fields: Record<string, unknown> = {}
  for (const name of fieldsOf(theirs, mine)) {
    const value = joined([...path, name], base[name], mine[name], theirs[name], collisions)
    if (value !== undefined) fields[name] = value
  }
  return fields
}

/** Lists whose entries can be told apart, entry by entry; null for others. */
function joinedLists(
  path: readonly string[], base: readonly unknown[], mine: readonly unknown[], theirs: readonly unknown[],
  collisions: MergeConflict[],
): unknown[] | null {
  const [b, m, t] = [base, mine, theirs].map(keyed)
  if (!b || !m || !t) return null
  // Who moved entries about says in which order they stand; where both did, the other tab.
  const inMyOrder = isSameOrder(b, t)
  const order = inMyOrder ? [...m.keys(), ...t.keys()] : [...t.keys(), ...m.keys()]
  if (!inMyOrder && !isSameOrder(b, m) && !isSameOrder(m, t)) {
    collisions.push({ path: [...path, 'order'], mine: [...m.keys()], theirs: [...t.keys()] })
  }
  return [...new Set(order)].flatMap((key) => {
    const value = joined([...path, key], b.get(key), m.get(key), t.get(key), collisions)
    return value === undefined ? [] : [value]
  })
}

function keyed(list: readonly unknown[]): Map<string, unknown> | null {
  const keys = keysOf(list)
  return keys && new Map(keys.map((key, i) => [key, list[i]]))
}

/** True when the entries that both have stand in one order. */
function isSameOrder(a: ReadonlyMap<string, unknown>, b: ReadonlyMap<string, unknown>): boolean {
  const common = [...a.keys()].filter(key => b.has(key))
  const other = [...b.keys()].filter(key => a.has(key))
  return common.every((key, i) => key === other[i])
}

/** The plan with this tab's side of a collision after all. */
export function withMine(plan: Plan, { path, mine }: MergeConflict): Plan {
  return path.at(-1) === 'order'
    ? reordered(plan, path.slice(0, -1), mine as string[])
    : put(plan, path, mine) as Plan
}

function put(value: unknown, [name, ...rest]: readonly string[], mine: unknown): unknown {
  if (name === undefined) return mine
  if (!Array.isArray(value)) {
    const at = put((value as RecordFields | undefined)?.[name] ?? (rest.length ? {} : undefined), rest, mine)
    const { [name]: _, ...others } = value as RecordFields
    return at === undefined ? others : { ...value as RecordFields, [name]: at }
  }
  const at = (keysOf(value) ?? []).indexOf(name)
  const entry = put(at < 0 ? undefined : value[at], rest, mine)
  if (entry === undefined) return value.filter((_, i) => i !== at)
  return at < 0 ? [...value, entry] : value.map((other, i) => i === at ? entry : other)
}

function reordered(plan: Plan, path: readonly string[], keys: readonly string[]): Plan {
  const list = path.reduce((at: unknown, name) => (at as RecordFields)[name], plan) as unknown[]
  const rank = (key: string) => keys.includes(key) ? keys.indexOf(key) : keys.length
  const named = (keysOf(list) ?? []).map((key, i) => ({ key, entry: list[i] }))
  return put(plan, path, named.sort((a, b) => rank(a.key) - rank(b.key)).map(({ entry }) => entry)) as Plan
}
