/**
 * Lines of a boot file that Voltaris wrote. In the key-value dialect they stand in a block of their own, each under a
 * comment that says for which part it was written and carries a check figure of the line: so a change by hand is seen
 * at the next import, and wins. In the other dialects overlays are words on a shared line; a comment above it lists the
 * words that are ours.
 */
import { parseBoot, type BootLine } from '../dialects/key-value'
import { splitLines } from '../dialects/lines'
import type { Dialect } from '../dialects/tell'

export const BLOCK_BEGIN = '# Voltaris: written for the plan, from here'
export const BLOCK_END = '# Voltaris: to here'

export type OwnedState
  /** As it was written. */
  = | 'written'
  /** Changed, taken out or put in comments by the maker. */
    | 'by-hand'
  /** Put in comments by Voltaris, because its part is off. */
    | 'off'

export interface Owned {
  /** 1-based line of the owned line itself; of its comment where the line was taken out. */
  line: number
  /** The line as it stands; empty where it was taken out by hand. */
  text: string
  /** `overlay w1-gpio`: what it was written for. */
  key: string
  partIds: string[]
  state: OwnedState
  /** The comment above it, as it stands. */
  tag: string
}

const TAG = /^#: (param|overlay|setting) (\S+) for (.+) \[([0-9a-f]{4})(, off)?\]$/

/** Four digits that change with the text. */
export function checkOf(text: string): string {
  let hash = 0x811C9DC5
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193)
  return ((hash >>> 16) ^ (hash & 0xFFFF)).toString(16).padStart(4, '0')
}

const NOBODY = 'the board'

export const tagOf = (key: string, partIds: readonly string[], line: string, off = false): string =>
  `#: ${key} for ${partIds.join(', ') || NOBODY} [${checkOf(line)}${off ? ', off' : ''}]`

/** Where the block stands, by index of line, its own two comments included; null where there is none. */
export function blockIn(lines: readonly BootLine[]): { begin: number, end: number } | null {
  const begin = lines.findIndex(line => line.text.trim() === BLOCK_BEGIN)
  const end = begin < 0 ? -1 : lines.findIndex((line, i) => i > begin && line.text.trim() === BLOCK_END)
  return end < 0 ? null : { begin, end }
}

/** What stands in the block: owned lines, and lines that the maker put between them. */
export interface BlockContents {
  owned: Owned[]
  /** Lines of the maker's, as they stand. */
  hand: BootLine[]
}

/** Reads the block. A block without any comments of ours is of an early Voltaris: all of it was written. */
export function readBlock(lines: readonly BootLine[]): BlockContents {
  const block = blockIn(lines)
  const contents: BlockContents = { owned: [], hand: [] }
  if (!block) return contents
  const inner = lines.slice(block.begin + 1, block.end)
  const tagged = inner.some(line => TAG.test(line.text.trim()))
  for (let i = 0; i < inner.length; i++) {
    const line = inner[i]!
    const tag = TAG.exec(line.text.trim())
    if (tag) {
      const next = inner[i + 1]
      const gone = !next || TAG.test(next.text.trim()) || isFrame(next)
      contents.owned.push(readTag(tag, line, gone ? null : next))
      if (!gone) i++
    }
    else if (isFrame(line)) continue
    else if (tagged) contents.hand.push(line)
    else if (line.kind === 'setting' || line.kind === 'param' || line.kind === 'overlay') {
      contents.owned.push({ line: line.number, text: line.text.trim(), key: keyOf(line), partIds: [], state: 'written',
        tag: '' })
    }
  }
  return contents
}

/** The lines that hold the block together: a heading, and the end of an overlay. */
const isFrame = (line: BootLine) => line.kind === 'filter' || (line.kind === 'overlay' && !line.name)

const keyOf = (line: BootLine) => `${line.kind} ${line.kind === 'param' ? line.params![0]?.name ?? '' : line.name!}`

function readTag([, kind, name, owners, check, off]: RegExpExecArray, tag: BootLine, line: BootLine | null): Owned {
  const text = line?.text.trim() ?? ''
  const partIds = owners === NOBODY ? [] : owners!.split(', ')
  let state: OwnedState
  if (checkOf(text) === check && !off) state = 'written'
  else state = off && text.startsWith('#') && checkOf(text.slice(1)) === check
    ? 'off'
    : 'by-hand'
  return { line: line?.number ?? tag.number, text, key: `${kind} ${name}`, partIds, state, tag: tag.text.trim() }
}

/** The comment above a shared line of the other dialects. */
export const WORDS_TAG = /^\s*#: (user_overlays|fdtoverlays) written for the plan: (.*)$/

/** Every owned line of a boot file. */
export function readOwned(text: string, dialect: Dialect): Owned[] {
  // A text without the block's own comment has none of its lines: long files are not taken apart for that.
  if (dialect === 'key-value' && !text.includes(BLOCK_BEGIN)) return []
  if (dialect === 'key-value') return readBlock(parseBoot(text)).owned
  return splitLines(text).flatMap((line, i, all): Owned[] => {
    const tag = WORDS_TAG.exec(line.text)
    const next = all[i + 1]
    if (!tag || !next) return []
    const words = tag[2]!.split(/\s+/).filter(Boolean)
    const there = next.text.split(/[\s=]+/)
    return [{
      line: next.number, text: next.text.trim(), key: `overlay ${words.join(' ')}`, partIds: [],
      state: words.every(word => there.includes(word)) ? 'written' : 'by-hand', tag: line.text.trim(),
    }]
  })
}
