/**
 * A hidden fault to find: what is seen comes from the model, and what was spent is held against the best way
 * that is known.
 */
import { groupsOf, testsFor } from './diagnose'
import type { Fault, Mark, Probe, Table } from './types'

/** How hard an exercise is: how many faults show the same first sign. */
export type Grade = 'first steps' | 'usual' | 'tricky'
export const GRADES: readonly Grade[] = ['first steps', 'usual', 'tricky']

export interface Exercise {
  /** Row of the fault in the table. */
  row: number
  grade: Grade
  /** The sign that somebody comes with. */
  sign: Mark
}

export interface TrainedFault {
  tests: Probe[]
  marks: Mark[]
  minutes: number
  /** Those that cannot be told from the fault. */
  faults: Fault[]
}

/**
 * A first sign of each fault, as somebody notices it who has switched on: what a part does, else the
 * lamps, else anything.
 */
function signOf(table: Table, row: number): Mark | null {
  const odd = table.probes.flatMap((probe,
    i) => table.seen[row]![i] !== table.planned[i] ? [{ probe, outcome: table.seen[row]![i]! }] : [])
  const noticed = odd.find(({ probe }) => probe.id === 'lamps') ?? odd.find(({ probe }) => probe.phase === 'each part'
    && probe.id.startsWith('works:'))
  ?? odd.find(({ probe }) => probe.phase === 'under load' || probe.phase === 'after the start')
  ?? odd.find(({ probe }) => /^steady(:|$)/.test(probe.id))
  return noticed ? { probe: noticed.probe.id, outcome: noticed.outcome } : null
}

/** So many candidates at most for a grade. */
const MAX: Readonly<Record<Grade, number>> = { 'first steps': 6, 'usual': 14, 'tricky': Infinity }

/** Every exercise that a plan gives, in the order of its faults. Faults without a sign that one notices give none. */
export function exercisesOf(table: Table): Exercise[] {
  return table.faults.flatMap((_, row): Exercise[] => {
    const sign = signOf(table, row)
    if (!sign) return []
    const column = table.probes.findIndex(({ id }) => id === sign.probe)
    const groups = groupsOf(table, table.seen.flatMap((seen, i) => seen[column] === sign.outcome ? [i] : []))
    return [{ row, sign, grade: GRADES.find(grade => groups.length <= MAX[grade])! }]
  })
}

/** The way from a sign to the fault by always taking the most telling test. */
export function solutionOf(table: Table, { row, sign }: Exercise): TrainedFault {
  const column = new Map(table.probes.map((probe, i) => [probe.id, i]))
  const tests: Probe[] = []
  const marks: Mark[] = [sign]
  let rows = table.seen.flatMap((seen, i) => seen[column.get(sign.probe)!] === sign.outcome ? [i] : [])
  for (;;) {
    const groups = groupsOf(table, rows)
    const [best] = testsFor(table, groups, new Set(marks.map(({ probe }) => probe)))
    if (groups.length < 2 || !best) {
      return { tests, marks, minutes: tests.reduce((sum, { minutes }) => sum + minutes, 0),
        faults: rows.map(i => table.faults[i]!) }
    }
    const at = column.get(best.probe.id)!
    const outcome = table.seen[row]![at]!
    tests.push(best.probe)
    marks.push({ probe: best.probe.id, outcome })
    rows = rows.filter(i => table.seen[i]![at] === outcome)
  }
}

/**
 * What was spent beside what the best known way spends: 100 is as good, 50 twice as long. A wrong name costs as
 * much as ten minutes.
 */
export function scoreOf(spentMinutes: number, wrongNames: number, bestMinutes: number): number {
  const spent = spentMinutes + wrongNames * MINUTES_A_WRONG_NAME
  return Math.round(100 * Math.min(1, Math.max(MIN_MINUTES, bestMinutes) / Math.max(MIN_MINUTES, spent)))
}
const MINUTES_A_WRONG_NAME = 10
/** Nobody is quicker than a look. */
const MIN_MINUTES = 0.5
