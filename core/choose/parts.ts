/**
 * Which of these parts? Each is taken into the plan, placed and judged there; what it brings is the difference to
 * the plan before.
 */
import type { Catalogue, Part } from '../catalogue/types'
import { evaluate, type Report } from '../evaluate'
import type { Finding } from '../findings'
import { isOpen } from '../findings/set-aside'
import { isFitting } from '../findings/things'
import { placementEdits, placePlan } from '../placement/place'
import { freePartId } from '../plan/create'
import { applyEdit, type Edit } from '../plan/edits'
import type { Plan } from '../plan/types'

export interface PartTrial {
  partId: string
  /** Every terminal has a place beside what is placed. */
  placed: boolean
  /** Why not, in the words of the placement. */
  noRoom: string | null
  /** Wires that have to change their place for it. */
  moves: number
  /** What the plan would not have without it, by title. */
  stops: string[]
  cautions: string[]
  /** Header lines that it takes, and those that then stay free. */
  lines: { taken: number, left: number }
  /** More at peak on each rail that it draws from, in mA. */
  peakMa: { rail: string, more: number, left: number | null }[]
  /** Wires to lay, splices counted; and what that takes, in minutes. Null minutes where there is no room. */
  wires: number
  minutes: number | null
  /** Things the board wants for it. */
  wants: { type: string, name: string, price: number | null }[]
  /** Of itself and of what it wants; null where nobody says. */
  price: number | null
  edits: Edit[]
}

const LATER = new Set(['boot', 'bringup'])
const isJudged = (finding: Finding) => isOpen(finding) && finding.stages.some(stage => !LATER.has(stage))
/** A part wants a handful of things at most. */
const MAX_FITTINGS = 6

/**
 * Tries a part on the plan as it stands. Pure. Without a board only what it is can be said, and the trial says
 * so by `placed`.
 */
export const tryPart = (plan: Plan, part: Part,
  catalogue: Catalogue): PartTrial => trySet(plan, [part], catalogue, part.id)

/**
 * Tries parts together on the plan as it stands, in place of those that go. `id` is what the trial is known by;
 * everything is told against the plan without what goes.
 */
export function trySet(plan: Plan, parts: readonly Part[], catalogue: Catalogue, id: string,
  gone: readonly string[] = []): PartTrial {
  const edits: Edit[] = []
  let now = plan
  const take = (more: readonly Edit[]) => {
    edits.push(...more)
    now = applyEdit(now, { edit: 'all', edits: [...more] }).plan
  }
  take(gone.map((partId): Edit => ({ edit: 'remove-part', id: partId })))
  const start = now
  const before = evaluate(start, catalogue)
  for (const part of parts) {
    const names = new Set(now.parts.map(({ name }) => name))
    let name = part.name
    for (let n = 2; names.has(name); n++) name = `${part.name} ${n}`
    take([{ edit: 'add-part', part: { id: freePartId(now, part.id), type: part.id, name } }])
  }
  const taken = new Set(now.parts.filter(({ id: own }) => !start.parts.some(other => other.id === own))
    .map(({ id: own }) => own))
  const placement = placePlan(now, catalogue, { scope: 'rest' })
  if (placement.ok) take(placementEdits(now, placement))
  const known = new Set(before.findings.map(finding => finding.id))
  for (let i = 0; i < MAX_FITTINGS; i++) {
    const wanted = evaluate(now, catalogue).findings
      .find(finding => isFitting(finding) && !known.has(finding.id) && finding.fixes.length)
    if (!wanted) break
    take(wanted.fixes[0]!.edits as Edit[])
  }
  const after = evaluate(now, catalogue)
  const brought = after.findings.filter(finding => isJudged(finding) && !known.has(finding.id))
  const titles = (severity: Finding['severity']) =>
    [...new Set(brought.filter(finding => finding.severity === severity).map(({ title }) => title))]
  const wants = now.parts.filter(other => !taken.has(other.id) && !start.parts.some(old => old.id === other.id))
    .map(({ type, name }) => ({ type, name, price: catalogue.parts.get(type)?.price ?? null }))
  const prices = [...parts.map(({ price }) => price ?? null), ...wants.map(({ price }) => price)]
  const wires = wiresIn(after) - wiresIn(before)
  return {
    partId: id, placed: placement.ok, noRoom: placement.ok ? null : placement.sentence,
    moves: placement.ok ? placement.moved.length : 0,
    stops: titles('stop'), cautions: titles('caution'),
    lines: { taken: after.lines.used - before.lines.used, left: after.lines.available - after.lines.used },
    peakMa: moreOf(before, after), wants, edits, wires,
    minutes: placement.ok
      ? Math.round(wires * MINUTES_A_WIRE + parts.filter(part => part.isAddOn).length * MINUTES_A_BOARD)
      : null,
    price: prices.includes(null) ? null : prices.reduce((sum: number, price) => sum + price!, 0),
  }
}

/** A wire cut, ended, led and checked; a board pushed on with its standoffs. practice */
const MINUTES_A_WIRE = 2
const MINUTES_A_BOARD = 5
const wiresIn = ({ wires }: Report) => wires.filter(({ kind }) => kind === 'wire').length

/** Less is the circuit's own rounding. */
const MIN_MORE_MA = 0.05

function moreOf(before: Report, after: Report): PartTrial['peakMa'] {
  return after.power.rails.flatMap(({ rail, peakMa, availableMa }) => {
    const more = peakMa - (before.power.rails.find(other => other.rail === rail)?.peakMa ?? 0)
    return more > MIN_MORE_MA
      ? [{ rail, more: Number(more.toFixed(1)), left: availableMa === null ? null : Math.round(availableMa - peakMa) }]
      : []
  })
}

export interface TrialRow {
  label: string
  values: string[]
  differs: boolean
}

/** Trials side by side, in words: one row for each thing that one of them has something to say on. */
export function trialRows(trials: readonly PartTrial[]): TrialRow[] {
  const ma = (value: number) => value >= 1000 ? `${(value / 1000).toFixed(2)} A` : `${Number(value.toPrecision(3))} mA`
  const room = (left: number | null) => {
    if (left === null) return ''
    return left < 0 ? `, ${ma(-left)} too much` : `, ${ma(left)} left`
  }
  const rows: [string, (trial: PartTrial) => string][] = [
    ['place on this board', ({ placed, noRoom }) => placed ? 'there is room' : noRoom ?? ''],
    ['lines it takes', ({ placed, lines }) => placed ? `${lines.taken}, ${lines.left} left` : ''],
    ['wires to lay', ({ placed, wires }) => placed ? String(wires) : ''],
    ['minutes to build, common practice', ({ minutes }) => minutes === null ? '' : `about ${minutes}`],
    ['more at peak', ({ peakMa }) =>
      peakMa.map(({ rail, more, left }) => `${ma(more)} on ${rail}${room(left)}`).join('; ')],
    ['wires that move for it', ({ placed, moves }) => placed && moves ? String(moves) : ''],
    ['stops that it brings', ({ stops }) => stops.join('; ')],
    ['cautions that it brings', ({ cautions }) => cautions.join('; ')],
    ['wants besides', ({ wants }) => wants.map(({ name }) => name).join(', ')],
    ['price in all, made up', ({ price }) => price === null ? '' : String(price)],
  ]
  return rows.map(([label, say]) => {
    const values = trials.map(say)
    return { label, values, differs: new Set(values).size > 1 }
  }).filter(({ values }) => values.some(value => value !== ''))
}

/**
 * The trials that go best with the plan first: those with room, then fewer stops, fewer wires moved, fewer
 * cautions, the price.
 */
export const bestParts = (trials: readonly PartTrial[]): PartTrial[] => [...trials].sort((a,
  b) => Number(b.placed) - Number(a.placed)
  || a.stops.length - b.stops.length || a.moves - b.moves || a.cautions.length - b.cautions.length
  || (a.price ?? Infinity) - (b.price ?? Infinity)
  || a.partId.localeCompare(b.partId))

/** What trials can be put in order by: less is better in each. */
export const TRIAL_ORDERS = {
  lines: { title: 'lines they take', of: ({ lines }: PartTrial) => lines.taken },
  wires: { title: 'wires to lay', of: ({ wires }: PartTrial) => wires },
  peak: { title: 'what they draw more',
    of: ({ peakMa }: PartTrial) => peakMa.reduce((sum, { more }) => sum + more, 0) },
  findings: { title: 'stops and cautions',
    of: ({ stops, cautions }: PartTrial) => stops.length * 100 + cautions.length },
  price: { title: 'price in all', of: ({ price }: PartTrial) => price ?? Infinity },
} satisfies Record<string, { title: string, of: (trial: PartTrial) => number }>

/** Trials in an order; like ones stay as they are, and those without room come last. */
export const trialsBy = (trials: readonly PartTrial[], order: keyof typeof TRIAL_ORDERS): PartTrial[] => [...trials]
  .sort((a, b) => Number(b.placed) - Number(a.placed) || TRIAL_ORDERS[order].of(a) - TRIAL_ORDERS[order].of(b) || 0)
