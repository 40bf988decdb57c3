/** Finding by name among many. */

export interface Names<T> {
  find(name: string): T | undefined
  add(entry: T): void
}

/** Lists whose names are kept from one question to the next; every change of theirs has to go through what is kept. */
export type KeptNames = Map<readonly { name: string }[], Names<{ name: string }>>

/** The names of a list that is asked again and again. */
export function keptNames<T extends { name: string }>(list: readonly T[], wanted: number, kept: KeptNames): Names<T> {
  const before = kept.get(list)
  if (before) return before as Names<T>
  const names = namesIn(list, list.length < 64 ? wanted : Infinity)
  if (list.length >= 64) kept.set(list, names as Names<{ name: string }>)
  return names
}

/**
 * The first of each name in a list; by a table where so many are looked for that it pays. What is added to the list is
 * added here too.
 */
export function namesIn<T extends { name: string }>(list: readonly T[], wanted: number): Names<T> {
  if (wanted < 8) return { find: name => list.find(entry => entry.name === name), add: () => {} }
  const table = new Map<string, T>()
  for (const entry of list) if (!table.has(entry.name)) table.set(entry.name, entry)
  return { find: name => table.get(name), add: entry => void table.set(entry.name, entry) }
}
