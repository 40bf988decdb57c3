/**
 * Puts what a plan needs into a boot file, keeping every other byte. Laws: no line outside Voltaris's own block is ever
 * changed; no needs and no block of ours, the text comes back as it is; merging twice gives the same as merging once;
 * after merging every need is met, but for those whose line the maker changed by hand: the hand wins.
 */
import { parseBoot, printBoot, type BootLine } from '../dialects/key-value'
import { endingOf } from '../dialects/lines'
import type { Need } from '../../overlays/asks/needs'
import { writeNeed } from '../../overlays/asks/write'
import type { BoardFilters } from '../scope/filters'
import { blockIn, BLOCK_BEGIN, BLOCK_END, readBlock, tagOf, type Owned } from './block'
import { stateOf } from './state'

export interface BootChange {
  kind: 'added' | 'changed' | 'removed' | 'off'
  after: string
  before?: string
  why: string
}

export interface MergedFile {
  text: string
  changes: BootChange[]
  /** Owned lines that the maker changed, with what the plan would write. */
  byHand: { line: number, found: string, wanted: string, partIds: string[] }[]
}

export interface MergeOptions {
  /** Parts whose lines are off. */
  off?: readonly string[]
  /** Whether lines of parts that are off or gone become comments or go. */
  whenOff?: 'comment' | 'remove'
  /** Lines changed by hand that the plan's own shall replace again, by line number. */
  takeBack?: readonly number[]
  filters?: BoardFilters | null
}

interface Item {
  key: string
  partIds: readonly string[]
  line: string
  state: 'on' | 'off' | 'by-hand'
  /** The comment that stands above a line changed by hand. */
  tag?: string
}

/** What it was written for, as the comment above the line says it. */
const keyOf = ({ need }: Need) => `${need.kind} ${need.name}`

/** True when every part that asks for it is off. */
export const isOff = (need: Need,
  off: readonly string[]) => need.partIds.length > 0 && need.partIds.every(id => off.includes(id))

/** The file with every need met, and what was done for it. */
export function mergeBoot(text: string, needs: readonly Need[], options: MergeOptions = {}): MergedFile {
  const { off = [], whenOff = 'remove', takeBack = [], filters = null } = options
  const lines = parseBoot(text, filters)
  const { owned, hand } = readBlock(lines)
  const outside = withoutBlock(lines)
  const rest = reparse(outside.lines, filters)
  const changes: BootChange[] = []
  const byHand: MergedFile['byHand'] = []
  const items: Item[] = []
  const used = new Set<Owned>()
  const ownedFor = (need: Need): Owned | undefined => {
    const written = writeNeed(need.need)
    const free = owned.filter(entry => !used.has(entry) && entry.key === keyOf(need))
    return free.find(entry => entry.text === written || entry.text === `#${written}`)
      ?? (need.need.kind === 'overlay'
        ? free.find(entry => sameParts(entry.partIds, need.partIds) || entry.partIds.length === 0)
        : free[0])
  }
  for (const need of needs) {
    const wanted = writeNeed(need.need)
    const entry = ownedFor(need)
    if (entry) used.add(entry)
    if (entry?.state === 'by-hand' && !takeBack.includes(entry.line)) {
      items.push({ key: entry.key, partIds: entry.partIds, line: entry.text, state: 'by-hand', tag: entry.tag })
      if (entry.text !== wanted) byHand.push({ line: entry.line, found: entry.text, wanted,
        partIds: [...need.partIds] })
      continue
    }
    if (isOff(need, off)) {
      if (entry && entry.text !== '') goOff(entry, need.partIds, need.why, whenOff, items, changes)
      continue
    }
    if (stateOf(rest, need.need).state === 'met') {
      if (entry) changes.push({ kind: 'removed', after: '', before: entry.text, why: 'stands in the file already' })
      continue
    }
    items.push({ key: keyOf(need), partIds: need.partIds, line: wanted, state: 'on' })
    if (!entry) changes.push({ kind: 'added', after: wanted, why: need.why })
    else if (entry.text !== wanted) {
      changes.push({ kind: entry.state === 'off' ? 'added' : 'changed', after: wanted, before: entry.text,
        why: need.why })
    }
  }
  for (const entry of owned) {
    if (used.has(entry)) continue
    if (entry.state === 'by-hand' && !takeBack.includes(entry.line)) items.push({
      key: entry.key, partIds: entry.partIds, line: entry.text, state: 'by-hand', tag: entry.tag,
    })
    else if (entry.text !== '') goOff(entry, entry.partIds, 'nothing in the plan needs it any more', whenOff, items,
      changes)
  }
  // A line below the block that says something else would win over it: then the block goes to the end.
  const later = needs.some(need =>
    !isOff(need, off) && lastWord(rest, need, outside.at)
    && items.some(item => item.state === 'on' && item.line === writeNeed(need.need)))
  if (later) changes.push({ kind: 'changed', after: BLOCK_BEGIN, before: BLOCK_BEGIN,
    why: 'a line below it says something else' })
  const after = withBlock(rest, items, hand, outside.at < 0 || later ? rest.length : outside.at, endingOf(text))
  // The comments alone are no reason to write a file anew.
  return withoutTags(after) === withoutTags(text) ? { text, changes: [], byHand } : { text: after, changes, byHand }
}

const withoutTags = (text: string) => text.replace(/^#: .*\r?\n/gm, '')

const sameParts = (a: readonly string[], b: readonly string[]) => a.length === b.length && a.every(id => b.includes(id))

function goOff(
  entry: Owned, partIds: readonly string[], why: string, whenOff: 'comment' | 'remove', items: Item[],
  changes: BootChange[],
): void {
  const line = entry.state === 'off' ? entry.text.slice(1) : entry.text
  if (whenOff === 'comment') {
    items.push({ key: entry.key, partIds, line, state: 'off' })
    if (entry.state !== 'off') changes.push({ kind: 'off', after: `#${line}`, before: entry.text, why })
  }
  else changes.push({ kind: 'removed', after: '', before: entry.text, why })
}

/** True when a line of the maker's below the block says something else. */
function lastWord(rest: readonly BootLine[], need: Need, at: number): boolean {
  if (at < 0) return false
  const state = stateOf(rest, need.need)
  return state.state === 'differs' && state.line > at
}

/**
 * What the file says without the block that Voltaris wrote, and where that block stood (index of line; -1 for none).
 */
function withoutBlock(lines: readonly BootLine[]): { lines: BootLine[], at: number } {
  const block = blockIn(lines)
  if (!block) return { lines: [...lines], at: -1 }
  const tail = lines.slice(block.end + 1)
  // Lines the maker wrote below the block stand under its filter heading: that heading stays theirs.
  const heading = tail.some(line => line.kind !== 'blank')
    ? lines.slice(block.begin, block.end).filter(line => line.kind === 'filter').slice(-1)
    : []
  return { lines: [...lines.slice(0, block.begin), ...heading, ...tail], at: block.begin + heading.length }
}

const reparse = (lines: readonly BootLine[], filters: BoardFilters | null) => parseBoot(printBoot(lines), filters)

const rank = ({ key }: Item) => {
  if (key.startsWith('setting')) return 0
  return key.startsWith('param') ? 1 : 2
}

function withBlock(lines: readonly BootLine[], items: readonly Item[], hand: readonly BootLine[], at: number,
  ending: string): string {
  if (!items.length && !hand.length) return printBoot(lines)
  const [head, tail] = [lines.slice(0, at), lines.slice(at)]
  const before = head.at(-1)
  const sorted = items.map((item, i) => ({ item, i })).sort((a, b) => rank(a.item) - rank(b.item) || a.i - b.i)
    .map(({ item }) => item)
  const block = [
    BLOCK_BEGIN,
    ...before && before.filter !== 'all' ? ['[all]'] : [],
    // Base parameters after an overlay would be taken for that overlay's own.
    ...before?.overlay && before.filter === 'all' && sorted.some(item => rank(item) === 1 && item.state !== 'off')
      ? ['dtoverlay=']
      : [],
    ...sorted.flatMap(item => [
      item.tag ?? tagOf(item.key, item.partIds, item.line, item.state === 'off'),
      ...item.state === 'by-hand' && item.line === '' ? [] : [item.state === 'off' ? `#${item.line}` : item.line],
    ]),
    ...hand.map(line => line.text),
    // Whatever a maker adds below belongs to the base tree, not to the last overlay here.
    ...sorted.some(item => rank(item) === 2 && item.state !== 'off') ? ['dtoverlay='] : [],
    BLOCK_END,
  ]
  const gap = before && before.ending === '' ? ending : ''
  return printBoot(head) + gap + block.map(line => line + ending).join('') + printBoot(tail)
}
