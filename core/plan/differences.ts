/** What changed between two states of a plan, in words. Empty exactly when nothing did. */
import { terminalNames } from './ids'
import { diffLines } from 'diff'
import type { Catalogue } from '../catalogue/types'
import { fieldsOf, isRecord, keysOf, same, type RecordFields } from './same'
import type { Plan } from './types'

/** One sentence for each thing that is another one in `after`. */
export function differences(before: Plan, after: Plan, catalogue: Catalogue): string[] {
  return fieldsOf(before, after).filter(name => !same(before[name], after[name])).flatMap((name) => {
    const said = WORDS[name]?.(before, after, catalogue) ?? []
    return said.length ? said : [`${titleOf(name)}: ${fieldsInWords(before[name], after[name])}`]
  })
}

type Describe = (before: Plan, after: Plan, catalogue: Catalogue) => string[]

const TITLES: Readonly<Record<string, string>> = {
  name: 'Name', notes: 'Notes', story: 'Story', board: 'Board', supply: 'Supply', parts: 'Parts', assignments: 'Places',
  between: 'In the wires',
  reserved: 'Positions kept free', limits: 'Limits', controllers: 'Circuits of controllers', clocks: 'Clocks',
  softwareBuses: 'Buses on plain lines',
  stack: 'Order of the stack', weights: 'Weights of placement', own: 'Own boards and parts',
  power: 'Supply and cooling',
  worksheets: 'Worksheets',
  boot: 'Boot files', build: 'Building', scans: 'Scans', seen: 'What was seen', curves: 'Measured curves',
  programs: 'Example code',
  host: 'What the board is told', log: 'Logbook',
  aside: 'Findings set aside',
}
const titleOf = (field: string) => TITLES[field] ?? `Field "${field}"`

const WORDS: Readonly<Record<string, Describe>> = {
  name: (a, b) => [`Name: "${a.name}" → "${b.name}"`],
  notes: (a, b) => [`Notes: ${linesInWords(a.notes ?? '', b.notes ?? '')}`],
  story: (a, b) => [`Story: ${linesInWords(a.story ?? '', b.story ?? '')}`],
  board: (a, b, { boards }) => [
    `Board: ${boards.get(a.board ?? '')?.name ?? a.board ?? 'none'} → `
    + `${boards.get(b.board ?? '')?.name ?? b.board ?? 'none'}`,
  ],
  parts: (a, b, catalogue) => entriesInWords(
    a.parts, b.parts, part => `"${part.name}" (${catalogue.parts.get(part.type)?.name ?? part.type})`, 'Part',
  ),
  assignments: (a, b) => fieldsOf(a.assignments, b.assignments)
    .filter(key => !same(a.assignments[key], b.assignments[key])).map((key) => {
      const place = ({ assignments }: Plan) => {
        const at = assignments[key]
        return at ? `${at.position === undefined ? at.terminal : `position ${at.position}`}${at.fixed ? ', fixed' : ''}` : 'not placed'
      }
      return `${nameOf(key, a, b)}: ${place(a)} → ${place(b)}`
    }),
  boot: (a, b) => {
    const others = fieldsOf(a.boot ?? {}, b.boot ?? {}).filter(
      name => name !== 'text' && !same(a.boot?.[name as 'path'], b.boot?.[name as 'path']),
    )
    return [
      ...a.boot?.text === b.boot?.text ? [] : [`Boot file: ${linesInWords(a.boot?.text ?? '', b.boot?.text ?? '')}`],
      ...others.map(name =>
        `Boot files, ${name}: ${fieldsInWords(a.boot?.[name as 'path'], b.boot?.[name as 'path'])}`),
    ]
  },
  scans: (a, b) => entriesInWords(a.scans, b.scans, scan => `of ${scan.bus}`, 'Scan'),
  seen: (a, b) => entriesInWords(a.seen, b.seen, ({ id, outcome, value }) => `${id}: ${value ?? outcome}`, 'Seen at'),
  curves: (a, b) => entriesInWords(
    a.curves, b.curves, curve => `"${short(curve.name)}" of ${curve.values.length} readings`, 'Measured curve',
  ),
  programs: (a, b) => entriesInWords(a.programs, b.programs, program => `"${short(program.name)}"`, 'Example code'),
  aside: (a, b) => entriesInWords(a.aside, b.aside, entry => `${entry.id} ("${short(entry.reason)}")`,
    'Finding set aside:'),
  log: (a, b) => entriesInWords(a.log, b.log, entry => `"${short(entry.text)}"`, 'Logbook entry'),
}

/** `oled.sda` as "Panel sda". */
function nameOf(key: string, a: Plan, b: Plan): string {
  const { partId: id, terminal } = terminalNames(key)
  const part = [...b.parts, ...a.parts].find(entry => entry.id === id)
  return [part?.name ?? id, terminal].filter(Boolean).join(' ')
}

function entriesInWords<T extends { id: string }>(
  before: readonly T[], after: readonly T[], inWords: (entry: T) => string, kind: string,
): string[] {
  const [was, is] = [before, after].map(list =>
    new Map(list.map(entry => [entry.id, entry]))) as [Map<string, T>, Map<string, T>]
  const gone = before.filter(entry => !is.has(entry.id)).map(entry => `${kind} ${inWords(entry)} taken out`)
  const said = after.flatMap((entry) => {
    const earlier = was.get(entry.id)
    if (!earlier) return [`${kind} ${inWords(entry)} added`]
    return same(earlier, entry) ? [] : [`${kind} ${inWords(earlier)}: ${fieldsInWords(earlier, entry)}`]
  })
  return gone.length || said.length ? [...gone, ...said] : [`${kind}: another order`]
}

/** Texts that differ in more lines are not counted through. */
const MAX_CHANGES = 2000

function linesInWords(before: string, after: string): string {
  if (!before) return 'written'
  if (!after) return 'emptied'
  const changes = diffLines(before, after, { maxEditLength: MAX_CHANGES })
  if (!changes) return 'rewritten in most of its lines'
  const count = (kind: 'added' | 'removed') =>
    changes.filter(change => change[kind]).reduce((sum, change) => sum + change.count, 0)
  const lines = (n: number) => `${n} ${n === 1 ? 'line' : 'lines'}`
  return `${lines(count('added'))} new, ${lines(count('removed'))} gone`
}

/** How deep a change is followed before it is called a change. */
const DEEP = 4

function fieldsInWords(before: unknown, after: unknown, depth = 0): string {
  if (isRecord(before) && isRecord(after) && depth < DEEP) {
    return fieldsOf(before, after).filter(name => !same(before[name], after[name]))
      .map(name => isRecord(before[name]) || Array.isArray(before[name])
        ? `${name}: ${fieldsInWords(before[name], after[name], depth + 1)}`
        : `${name} ${fieldsInWords(before[name], after[name], depth + 1)}`)
      .join('; ')
  }
  if (Array.isArray(before) && Array.isArray(after)) return listInWords(before, after, depth)
  return `${valueInWords(before)} → ${valueInWords(after)}`
}

function listInWords(before: readonly unknown[], after: readonly unknown[], depth: number): string {
  const [was, is] = [keysOf(before), keysOf(after)]
  if (!was || !is) return `${before.length} → ${after.length} entries, changed`
  const gone = was.filter(key => !is.includes(key)).map(key => `${key} gone`)
  const said = is.flatMap((key, i) => {
    const earlier = was.indexOf(key)
    if (earlier < 0) return [`${key} new`]
    return same(before[earlier], after[i]) ? [] : [`${key}: ${fieldsInWords(before[earlier], after[i], depth + 1)}`]
  })
  return gone.length || said.length ? [...gone, ...said].join('; ') : 'another order'
}

function valueInWords(value: unknown): string {
  if (value === undefined || value === null || value === '') return 'none'
  if (typeof value === 'string') return `"${short(value)}"`
  if (typeof value !== 'object') return String(value)
  return Array.isArray(value)
    ? `${value.length} ${value.length === 1 ? 'entry' : 'entries'}`
    : short(
        Object.entries(value as RecordFields)
          .map(([name, at]) => `${name} ${isRecord(at) || Array.isArray(at) ? '…' : String(at)}`).join(', '),
      )
}

/** Enough of a text to know it by. */
const short = (text: string) => text.length > 60 ? `${text.slice(0, 58)} …` : text
