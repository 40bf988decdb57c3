/**
 * Overlays of the plan on the shared line of a menu file or an environment list. A comment above the line lists the
 * words that are ours; a word of ours that the maker took off the line stays off. Laws: as those of `mergeBoot`.
 */
import { parseEnvironment } from '../dialects/environment'
import { parseMenu, SAME_DIRECTIVE, startedEntry } from '../dialects/extlinux'
import { endingOf, splitLines, type TextLine } from '../dialects/lines'
import type { Need } from '../../overlays/asks/needs'
import { writeNeed } from '../../overlays/asks/write'
import { WORDS_TAG } from './block'
import { isOff, type BootChange, type MergedFile, type MergeOptions } from './merge'

/** Where the words stand: the line that has them, or the one below which it would be put. */
interface Place {
  line: TextLine | null
  /** Offset in the line at which the words begin. */
  at: number
  after: TextLine | null
  indent: string
}

/** The file with the plan's overlays on its line. Names in a menu file are paths. */
export function mergeWords(
  text: string, dialect: 'extlinux' | 'environment', needs: readonly Need[],
  { off = [], takeBack = [] }: MergeOptions = {},
): MergedFile {
  const key = dialect === 'extlinux' ? 'fdtoverlays' : 'user_overlays'
  const wanted = [...new Set(needs.filter(need => need.need.kind === 'overlay' && !isOff(need, off))
    .map(need => wordOf(need, dialect)))]
  const place = dialect === 'extlinux' ? placeInMenu(text) : placeInEnvironment(text)
  const lines = splitLines(text)
  const above = place.line ? lines[place.line.number - 2] : undefined
  const tag = above ? WORDS_TAG.exec(above.text) : null
  const ours = tag ? tag[2]!.split(/\s+/).filter(Boolean) : []
  const there = place.line ? place.line.text.slice(place.at).split(/\s+/).filter(Boolean) : []
  const taken = place.line && takeBack.includes(place.line.number) ? [] : ours.filter(word => !there.includes(word))
  const theirs = there.filter(word => !ours.includes(word))
  const add = wanted.filter(word => !theirs.includes(word) && !taken.includes(word))
  const kept = [...theirs, ...add]
  const why = (word: string) => needs.filter(need => wordOf(need, dialect) === word).map(need => need.why).join('; ')
  const changes: BootChange[] = [
    ...add.filter(word => !there.includes(word)).map(word => ({ kind: 'added' as const, after: word, why: why(word) })),
    ...ours.filter(word => there.includes(word) && !add.includes(word))
      .map(word => ({ kind: 'removed' as const, after: '', before: word,
        why: 'nothing in the plan needs it any more' })),
  ]
  const byHand = taken.filter(word => wanted.includes(word))
    .map(word => ({
      line: place.line!.number, found: '', wanted: word,
      partIds: needs.filter(need => wordOf(need, dialect) === word).flatMap(need => need.partIds),
    }))
  if (!changes.length) return { text, changes, byHand }
  const ending = endingOf(text)
  const listed = [...add, ...taken.filter(word => wanted.includes(word))]
  let head: string
  if (place.line) head = place.line.text.slice(0, place.at)
  else head = dialect === 'extlinux' ? `${place.indent}fdtoverlays ` : 'user_overlays='
  const block = [...listed.length
    ? [`${place.indent}#: ${key} written for the plan: ${listed.join(' ')}`]
    : [], ...kept.length ? [head + kept.join(' ')] : []]
  let from: number
  if (place.line) from = tag ? above!.from : place.line.from
  else from = place.after
    ? place.after.from + place.after.text.length + place.after.ending.length
    : text.length
  const to = place.line ? place.line.from + place.line.text.length + place.line.ending.length : from
  const gap = from > 0 && !/\n$/.test(text.slice(0, from)) ? ending : ''
  return { text: text.slice(0, from) + gap + block.map(line => line + ending).join('') + text.slice(to), changes,
    byHand }
}

/** A need's word on the line. Parameters have no place there: an overlay made for the part has them built in. */
const wordOf = (need: Need, dialect: 'extlinux' | 'environment') => {
  if (need.need.kind !== 'overlay') return writeNeed(need.need)
  return dialect === 'extlinux' ? `/overlays/${need.need.name}.dtbo` : need.need.name
}

function placeInMenu(text: string): Place {
  const lines = parseMenu(text)
  const started = startedEntry(lines)
  const own = lines.filter(line => line.entry === started && line.kind === 'directive')
  const line = own.findLast(entry => (SAME_DIRECTIVE[entry.keyword!] ?? entry.keyword) === 'fdtoverlays') ?? null
  const after = own.at(-1) ?? lines.at(-1) ?? null
  const inner = own.find(entry => entry.keyword !== 'label')
  return { line, at: line?.valueAt ?? 0, after, indent: /^\s*/.exec((line ?? inner)?.text ?? '    ')![0] }
}

function placeInEnvironment(text: string): Place {
  const lines = parseEnvironment(text)
  const line = lines.findLast(entry => entry.name === 'user_overlays') ?? null
  return { line, at: line?.valueAt ?? 0, after: lines.at(-1) ?? null, indent: '' }
}
