/**
 * Starting an own board or part from one of the catalogue. Reading and checking one is in `own-read.ts`, which
 * brings the schemas.
 */

/** A copy to start from: the same entry under a free id of the maker's own. */
export function ownCopyOf<T extends { id: string, name: string }>(entry: T, taken: ReadonlySet<string>): T {
  let id = `own-${entry.id}`.slice(0, 56)
  for (let n = 2; taken.has(id); n++) id = `own-${entry.id}`.slice(0, 52) + `-${n}`
  return { ...structuredClone(entry), id, name: `${entry.name} (own)` }
}
