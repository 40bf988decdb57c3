/** The name that was probably meant. */
import { distance } from 'fastest-levenshtein'

/**
 * The nearest known name, when it is near enough to be a slip: one letter in short names, two in longer
 * ones. Null otherwise.
 */
export function nearest(name: string, known: Iterable<string>): string | null {
  const wanted = name.toLowerCase()
  const max = wanted.length <= 3 ? 1 : 2
  let best: string | null = null
  let min = max + 1
  for (const candidate of known) {
    if (Math.abs(candidate.length - wanted.length) > max) continue
    let apart: number
    if (candidate.replace(/[-_]/g, '') === wanted.replace(/[-_]/g, '')) apart = 0.5
    else apart = swapped(wanted, candidate)
      ? 1
      : distance(wanted, candidate.toLowerCase())
    if (apart < min) [best, min] = [candidate, apart]
  }
  return best
}

/** True when two neighbouring letters have changed places. */
function swapped(a: string, b: string): boolean {
  if (a.length !== b.length) return false
  const i = [...a].findIndex((letter, at) => letter !== b[at])
  return i >= 0 && a[i] === b[i + 1] && a[i + 1] === b[i] && a.slice(i + 2) === b.slice(i + 2)
}
