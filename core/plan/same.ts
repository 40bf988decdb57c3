/** Equality of values as a file holds them: a field without a value is as one that is not there. */
export function same(a: unknown, b: unknown): boolean {
  if (a === b) return true
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false
  if (Array.isArray(a) || Array.isArray(b)) {
    return Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((value, i) => same(value, b[i]))
  }
  return fieldsOf(a, b).every(name => same((a as RecordFields)[name], (b as RecordFields)[name]))
}

export type RecordFields = Readonly<Record<string, unknown>>

/** Names of the fields that any of the records has. */
export const fieldsOf = (...records: readonly object[]): string[] =>
  [...new Set(records.flatMap(record => Object.keys(record)))]

export const isRecord = (value: unknown): value is RecordFields =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/**
 * What tells the entries of a list apart: their `id`, `position` or `name`, or the entries themselves; null
 * where nothing does.
 */
export function keysOf(list: readonly unknown[]): string[] | null {
  for (const keyOf of KEYS) {
    const keys = list.map(keyOf)
    if (keys.every(key => key !== null) && new Set(keys).size === keys.length) return keys as string[]
  }
  return null
}

const fieldKey = (name: string) => (entry: unknown) => {
  const key = isRecord(entry) ? entry[name] : undefined
  return typeof key === 'string' || typeof key === 'number' ? String(key) : null
}

const KEYS: readonly ((entry: unknown) => string | null)[] = [
  entry => typeof entry === 'string' ? entry : null, fieldKey('id'), fieldKey('position'), fieldKey('name'),
]
