/** Reading JSON that somebody else wrote: what it says, or why it cannot be read. */

/** Deeper documents are none of ours: a plan has eight levels, a board of one's own twelve. */
export const MAX_DEPTH = 200

export type ParsedJson = { ok: true, value: unknown } | { ok: false, message: string }

/**
 * The value of a JSON text. Never throws: what is no JSON, or nested deeper than `MAX_DEPTH`, comes back as a message.
 */
export function parseJson(text: string): ParsedJson {
  // Counted before it is parsed: readers that walk the value may count on their stack.
  const depth = depthOf(text)
  if (depth > MAX_DEPTH) return { ok: false, message: `it is nested ${depth} deep, and at most ${MAX_DEPTH} are read` }
  try {
    return { ok: true, value: JSON.parse(text) }
  }
  catch (error) {
    return { ok: false, message: (error as Error).message }
  }
}

/** How deep brackets and braces are nested outside strings. */
export function depthOf(text: string): number {
  let depth = 0
  let max = 0
  for (let i = 0; i < text.length; i++) {
    const letter = text.charCodeAt(i)
    if (letter === QUOTE) i = endOfString(text, i)
    else if (letter === BRACKET || letter === BRACE) max = Math.max(max, ++depth)
    else if (letter === BRACKET + 2 || letter === BRACE + 2) depth--
  }
  return max
}

const QUOTE = 0x22
const BACKSLASH = 0x5C
const BRACKET = 0x5B
const BRACE = 0x7B

function endOfString(text: string, from: number): number {
  for (let i = from + 1; i < text.length; i++) {
    const letter = text.charCodeAt(i)
    if (letter === BACKSLASH) i++
    else if (letter === QUOTE) return i
  }
  return text.length
}
