/** The one way in which Voltaris says that something handed to it cannot be used: where, and what is wrong there. */

/**
 * One thing wrong with a document, a file or a typed figure. `path` is written as in the document, e.g.
 * `parts[2].name`; empty for the whole.
 */
export interface Problem {
  path: string
  message: string
}

/** `['parts', 2, 'name']` → `parts[2].name`; steps that are no plain words stand in brackets and quotes. */
export function pathInWords(path: readonly (string | number)[]): string {
  const step = (part: string | number, i: number) => {
    if (typeof part === 'number') return `[${part}]`
    return /^[\w-]+$/.test(part) ? (i ? '.' : '') + part : `[${JSON.stringify(part)}]`
  }
  return path.map(step).join('')
}

/** What a Joi check found, by path. */
export function problemsOf(details: readonly { path: readonly (string | number)[], message: string }[]): Problem[] {
  return details.map(({ path, message }) => ({ path: pathInWords(path), message }))
}
