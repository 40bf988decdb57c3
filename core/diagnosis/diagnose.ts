/**
 * From what was seen back to what may be wrong: the faults that show all of it, by how common they are, and the test
 * that is expected to tell most for its minutes (least entropy left; de Kleer and Williams, "Diagnosing multiple
 * faults", Artificial Intelligence 32, 1987).
 */
import type { Fault, Mark, Probe, Table } from './types'
import type { Reading } from '../vocabulary/reading'
import { NOTHING, REVERSED } from './names'
import type { Model } from './table'

/** Faults that nothing on the list can tell apart any more. */
export interface Suspect {
  faults: Fault[]
  /** Share of this among all that explain what was seen, by how common they are. */
  share: number
}

export interface NextTest {
  probe: Probe
  /** Bits that it is expected to tell. */
  bits: number
  /** What may be seen, and how many of the candidates would show it. */
  outcomes: { outcome: string, share: number }[]
}

export interface Diagnosis {
  /** Marks that are not as planned. */
  odd: Mark[]
  /** The likeliest first. Empty while nothing odd was seen, and where no single fault shows all of it. */
  candidates: Suspect[]
  /** The most telling first; empty where nothing can be told apart any more. */
  next: NextTest[]
  /** Two faults at once, where no single one will do. */
  pairs: { faults: [Fault, Fault], share: number }[]
  /**
   * Where nothing explains all of it: what was seen that, left out, leaves an explanation. It may be old, or misread.
   */
  doubtful: Mark[]
  /** Not every pair was tried: there were too many. */
  pairsCut: boolean
}

const entropy = (weights: readonly number[]): number => {
  const total = weights.reduce((sum, weight) => sum + weight, 0)
  return weights.reduce((sum, weight) => weight > 0 ? sum - weight / total * Math.log2(weight / total) : sum, 0)
}

/** Rows that show every mark. Marks at probes that the plan does not have any more say nothing. */
export function explaining({ probes, seen }: Table, marks: readonly Mark[]): number[] {
  const at = new Map(probes.map((probe, i) => [probe.id, i]))
  const asked = marks.flatMap(({ probe, outcome }) => at.has(probe) ? [[at.get(probe)!, outcome] as const] : [])
  return seen.flatMap((row, i) => asked.every(([probe, outcome]) => row[probe] === outcome) ? [i] : [])
}

/** Rows that no probe tells apart, together. */
export function groupsOf({ seen }: Table, rows: readonly number[]): number[][] {
  const groups = new Map<string, number[]>()
  for (const row of rows) {
    const key = JSON.stringify(seen[row])
    groups.set(key, [...groups.get(key) ?? [], row])
  }
  return [...groups.values()]
}

/** Every test that tells something about the groups, the most bits a minute first. */
export function testsFor(table: Table, groups: readonly number[][], asked: ReadonlySet<string>): NextTest[] {
  const weights = groups.map(group => group.reduce((sum, row) => sum + table.faults[row]!.weight, 0))
  const total = weights.reduce((sum, weight) => sum + weight, 0)
  const before = entropy(weights)
  return table.probes.flatMap((probe, column): NextTest[] => {
    if (asked.has(probe.id)) return []
    const shares = new Map<string, number[]>()
    groups.forEach((group, i) => {
      const outcome = table.seen[group[0]!]![column]!
      shares.set(outcome, [...shares.get(outcome) ?? [], weights[i]!])
    })
    if (shares.size < 2) return []
    const outcomes = [...shares].map(([outcome, list]) => ({ outcome, list,
      share: list.reduce((sum, weight) => sum + weight, 0) / total }))
    const left = outcomes.reduce((sum, { list, share }) => sum + share * entropy(list), 0)
    return [{ probe, bits: before - left,
      outcomes: outcomes.map(({ outcome, share }) => ({ outcome, share })).sort((a, b) =>
        b.share - a.share) }]
  }).sort((a, b) => b.bits / b.probe.minutes - a.bits / a.probe.minutes || a.probe.minutes - b.probe.minutes)
}

/**
 * What the marks say. Pure on the table, but for pairs, which the model is asked for. Laws: the fault that is there is
 * among those that explain what it shows; every test that is offered tells at least two of them apart.
 */
export function diagnose({ table, see }: Model, marks: readonly Mark[]): Diagnosis {
  const { probes, planned, faults } = table
  const column = new Map(probes.map((probe, i) => [probe.id, i]))
  const known = marks.map(asUnderLoad).filter(({ probe }) => column.has(probe))
  const odd = known.filter(({ probe, outcome }) => planned[column.get(probe)!] !== outcome)
  if (!odd.length) return { odd, candidates: [], next: [], pairs: [], pairsCut: false, doubtful: [] }
  const groups = groupsOf(table, explaining(table, known))
  const weight = (group: readonly number[]) => group.reduce((sum, row) => sum + faults[row]!.weight, 0)
  const total = groups.reduce((sum, group) => sum + weight(group), 0)
  const candidates = groups.map(group => ({ faults: group.map(row => faults[row]!), share: weight(group) / total }))
    .sort((a, b) => b.share - a.share)
  const next = testsFor(table, groups, new Set(known.map(({ probe }) => probe)))
  if (groups.length) return { odd, candidates, next, pairs: [], pairsCut: false, doubtful: [] }
  const without = (left: Mark) => known.filter(mark => mark !== left)
  // What then is all as planned needs no fault.
  const doubtful = known.filter(mark => explaining(table, without(mark)).length > 0
    || without(mark).every(({ probe, outcome }) => planned[column.get(probe)!] === outcome))
  return { odd, candidates, next, ...pairsFor({ table, see }, known, odd), doubtful }
}

/** So many pairs are tried at most. */
const MAX_PAIRS = 1500
const MAX_SHOWN = 20

/** Two faults that show everything together: only those are tried of which each odd mark concerns one. */
function pairsFor({ table, see }: Model, marks: readonly Mark[],
  odd: readonly Mark[]): Pick<Diagnosis, 'pairs' | 'pairsCut'> {
  const { probes, planned, seen, faults } = table
  const at = new Map(probes.map((probe, i) => [probe.id, i]))
  const columns = odd.map(({ probe }) => at.get(probe)!)
  const touches = seen.map(row => columns.map(column => row[column] !== planned[column]))
  const concerned = touches.flatMap((list, i) => list.some(Boolean) ? [i] : [])
  const tried = concerned.flatMap((a, i) => concerned.slice(i + 1)
    .filter(b => columns.every((_, k) => touches[a]![k] || touches[b]![k]))
    .map(b => ({ a, b, weight: faults[a]!.weight * faults[b]!.weight })))
    .sort((x, y) => y.weight - x.weight)
  const found = tried.slice(0, MAX_PAIRS).filter(({ a, b }) => {
    const shown = see([...faults[a]!.changes, ...faults[b]!.changes])
    return marks.every(({ probe, outcome }) => shown[at.get(probe)!] === outcome)
  })
  const total = found.reduce((sum, { weight }) => sum + weight, 0)
  return {
    pairs: found.slice(0, MAX_SHOWN)
      .map(({ a, b, weight }) => ({ faults: [faults[a]!, faults[b]!], share: weight / total })),
    pairsCut: tried.length > MAX_PAIRS,
  }
}

/** What is seen at a probe with everything as planned, and whatever else the model knows to be seen there. */
export function outcomesAt({ probes, planned, seen }: Table, probe: string): string[] {
  const column = probes.findIndex(({ id }) => id === probe)
  const outside = probes[column]?.reading?.outside
  return column < 0
    ? []
    : [...new Set([planned[column]!, ...seen.map(row => row[column]!),
        ...outside === undefined ? [] : [outside]])]
}

/** What a figure outside every span that the model knows is called. */
export const TOO_LOW = 'too low'
export const TOO_HIGH = 'too high'

/** The outcome that a typed reading is; null where the probe takes none. */
export function outcomeOfReading(table: Table, probeId: string, value: number): string | null {
  const probe = table.probes.find(({ id }) => id === probeId)
  if (!probe?.reading) return null
  const [planned, ...others] = outcomesAt(table, probeId)
  return readingIn(probe.reading, planned!, others, value)
}

/** The same from what a probe takes, what is planned there, and what else is known to be seen there. */
export function readingIn(
  { min, max, outside }: Reading, planned: string, others: readonly string[], value: number,
): string {
  if (value >= min && value <= max) return planned
  if (outside !== undefined) return outside
  if (Math.abs(value) < NOTHING_V) return NOTHING
  if (value < 0) return REVERSED
  const rail = others.find((outcome) => {
    const volts = /^([\d.]+) V in its place$/.exec(outcome)
    return volts !== null && Math.abs(value - Number(volts[1])) <= NEAR_V
  })
  return rail ?? (value < min ? TOO_LOW : TOO_HIGH)
}

/** A rail that is too low without load is so under load: that is where supplies and cables differ. */
const asUnderLoad = ({ probe, outcome }: Mark): Mark => probe === 'volt:5V' && outcome === TOO_LOW
  ? { probe: 'volt:load', outcome }
  : { probe, outcome }

/** Below it a meter shows what strays. Common practice. */
const NOTHING_V = 0.3
/** So near a figure is that of a rail. Common practice. */
const NEAR_V = 0.3
