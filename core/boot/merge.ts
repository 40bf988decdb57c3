/**
 * Puts what a plan needs into a boot file, keeping every other byte.
 * Laws: no needs and no block of ours, the text comes back as it is; merging twice gives the same as merging once;
 * after merging every need is met.
 */
import type { BootNeed } from '../catalogue/types'
import { writeNeed, type Need } from './needs'
import { parseBoot, printBoot, type BootLine, type BootParam } from './syntax'

export const BLOCK_BEGIN = '# Voltaris: written for the plan, from here'
export const BLOCK_END = '# Voltaris: to here'

export type NeedState
  = | { state: 'met', line: number }
  /** The file says something else, in a line that applies. */
    | { state: 'differs', line: number, found: string }
  /** The right line is there, but under a filter that does not always apply. */
    | { state: 'filtered', line: number, filter: string }
    | { state: 'absent' }

export interface BootChange {
  kind: 'added' | 'changed'
  after: string
  before?: string
  why: string
}

export interface Merged {
  text: string
  changes: BootChange[]
}

/** Names under which the firmware knows one base parameter. */
const PARAM_NAMES: Record<string, string[]> = {
  i2c_arm: ['i2c_arm', 'i2c', 'i2c1'],
  i2c_vc: ['i2c_vc', 'i2c0'],
}

/** How the file stands to one need. The last line that applies decides, as in the firmware. */
export function stateOf(lines: BootLine[], need: BootNeed): NeedState {
  let found: NeedState = { state: 'absent' }
  for (const line of lines) {
    const says = whatLineSays(line, need)
    if (says === null) continue
    if (line.applies !== 'always') {
      if (says.met && found.state === 'absent') found = { state: 'filtered', line: line.number, filter: line.filter }
    }
    else if (says.met) found = { state: 'met', line: line.number }
    else if (need.kind !== 'overlay') found = { state: 'differs', line: line.number, found: says.found }
  }
  return found
}

function whatLineSays(line: BootLine, need: BootNeed): { met: boolean, found: string } | null {
  if (need.kind === 'setting')
    return line.kind === 'setting' && line.name === need.name ? { met: line.value === need.value, found: line.value ?? '' } : null
  if (need.kind === 'param') {
    if (line.kind !== 'param' || line.overlay) return null
    const param = line.params!.findLast(entry => namesOf(need.name).includes(entry.name))
    return param ? { met: sameValue(param.value, need.value), found: param.value } : null
  }
  if (line.kind !== 'overlay' || line.name !== need.name) return null
  return { met: sameParams(line.params!, need.params ?? {}), found: line.text.trim() }
}

const namesOf = (name: string) => PARAM_NAMES[name] ?? [name]
const ON = new Set(['', 'on', 'yes', 'true', 'y', '1'])
const OFF = new Set(['off', 'no', 'false', 'n', '0'])

function sameValue(a: string, b: string): boolean {
  const [x, y] = [a.toLowerCase(), b.toLowerCase()]
  return x === y || (ON.has(x) && ON.has(y)) || (OFF.has(x) && OFF.has(y))
}

/** True when every parameter asked for is there with its value; further ones may stand beside them. */
function sameParams(found: BootParam[], asked: Record<string, string>): boolean {
  return Object.entries(asked).every(([name, value]) => found.some(param => param.name === name && sameNumberOrText(param.value, value)))
}

function sameNumberOrText(a: string, b: string): boolean {
  if (a.toLowerCase() === b.toLowerCase()) return true
  return a !== '' && b !== '' && Number.isFinite(Number(a)) && Number(a) === Number(b)
}

/** The file with every need met, and what was done for it. */
export function mergeBoot(text: string, needs: Need[]): Merged {
  const changes: BootChange[] = []
  const outside = withoutBlock(parseBoot(text))
  const own = new Set(ownLines(text))
  let lines = reparse(outside.lines)
  const missing: Need[] = []
  for (const need of needs) {
    const state = stateOf(lines, need.need)
    if (state.state === 'met') continue
    if (state.state === 'differs') {
      const index = lines.findIndex(line => line.number === state.line)
      const before = lines[index]!
      const after = { ...before, text: rewritten(before, need.need) }
      changes.push({ kind: 'changed', before: before.text, after: after.text, why: need.why })
      lines = reparse(lines.with(index, after))
    }
    else missing.push(need)
  }
  const kept = missing.filter(need => own.has(writeNeed(need.need)))
  if (!changes.length && kept.length === missing.length && kept.length === own.size) return { text, changes: [] }
  for (const need of missing)
    if (!own.has(writeNeed(need.need))) changes.push({ kind: 'added', after: writeNeed(need.need), why: need.why })
  return { text: withBlock(lines, missing.map(need => need.need), outside.at, endingOf(text)), changes }
}

/** What the file says without the block that Voltaris wrote, and where that block stood (index of line; -1 for none). */
function withoutBlock(lines: BootLine[]): { lines: BootLine[], at: number } {
  const begin = lines.findIndex(line => line.text.trim() === BLOCK_BEGIN)
  const end = lines.findIndex((line, i) => i > begin && line.text.trim() === BLOCK_END)
  if (begin < 0 || end < 0) return { lines, at: -1 }
  const tail = lines.slice(end + 1)
  // Lines the maker wrote below the block stand under its filter heading: that heading stays theirs.
  const heading = tail.some(line => line.kind !== 'blank') ? lines.slice(begin, end).filter(line => line.kind === 'filter').slice(-1) : []
  return { lines: [...lines.slice(0, begin), ...heading, ...tail], at: begin + heading.length }
}

function ownLines(text: string): string[] {
  const lines = parseBoot(text)
  const begin = lines.findIndex(line => line.text.trim() === BLOCK_BEGIN)
  const end = lines.findIndex((line, i) => i > begin && line.text.trim() === BLOCK_END)
  if (begin < 0 || end < 0) return []
  return lines.slice(begin + 1, end).filter(line => ['setting', 'param', 'overlay'].includes(line.kind) && line.text.trim() !== 'dtoverlay=').map(line => line.text.trim())
}

const reparse = (lines: BootLine[]) => parseBoot(printBoot(lines))

function rewritten(line: BootLine, need: BootNeed): string {
  if (need.kind === 'setting') return line.text.replace(/=.*$/, () => `=${need.value}`)
  if (need.kind === 'overlay') return line.text
  const names = namesOf(need.name).join('|')
  // The last mention in the line is the one that counts.
  return line.text.replace(new RegExp(`^(.*[=,]\\s*)(${names})(\\s*=[^,]*)?(?=,|$)`), (_, head: string, name: string) => `${head}${name}=${need.kind === 'param' ? need.value : ''}`)
}

const ORDER: Record<BootNeed['kind'], number> = { setting: 0, param: 1, overlay: 2 }

function withBlock(lines: BootLine[], needs: BootNeed[], at: number, ending: string): string {
  if (!needs.length) return printBoot(lines)
  const here = at < 0 ? lines.length : at
  const [head, tail] = [lines.slice(0, here), lines.slice(here)]
  const before = head.at(-1)
  const sorted = needs.map((need, i) => ({ need, i })).sort((a, b) => ORDER[a.need.kind] - ORDER[b.need.kind] || a.i - b.i)
  const block = [
    BLOCK_BEGIN,
    ...(before && before.filter !== 'all' ? ['[all]'] : []),
    // Base parameters after an overlay would be taken for that overlay's own.
    ...(before?.overlay && before.filter === 'all' && needs.some(need => need.kind === 'param') ? ['dtoverlay='] : []),
    ...sorted.map(({ need }) => writeNeed(need)),
    // Whatever a maker adds below belongs to the base tree, not to the last overlay here.
    ...(needs.some(need => need.kind === 'overlay') ? ['dtoverlay='] : []),
    BLOCK_END,
  ]
  const gap = before && before.ending === '' ? ending : ''
  return printBoot(head) + gap + block.map(line => line + ending).join('') + printBoot(tail)
}

function endingOf(text: string): string {
  const crlf = text.split('\r\n').length - 1
  return crlf > 0 && crlf * 2 > text.split('\n').length - 1 ? '\r\n' : '\n'
}
