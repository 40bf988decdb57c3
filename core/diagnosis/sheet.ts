/** The run sheet: every probe with what should be seen there, what was, and what that means; and each part's proof. */
import type { Facts } from '../facts/types'
import { subjectsOf, type SpokenSubject } from '../said/subjects'
import { diagnose, outcomesAt, type Diagnosis } from './diagnose'
import { modelOf, type Model } from './table'
import type { Probe } from './types'

export interface RunRow {
  probe: Probe
  planned: string
  /** What the model knows to be seen there, what is planned first. */
  outcomes: string[]
  seen?: { outcome: string, value?: number, at: string, isPlanned: boolean }
}

/** What the sheet has shown of a part: that it works, that something is odd, or not yet. */
export interface Proof { partId: string, name: string, state: 'works' | 'odd' | 'open' }

export interface RunSheet {
  rows: RunRow[]
  proofs: Proof[]
  diagnosis: Diagnosis
  /** The parts, as a maker's words speak of them. */
  subjects: SpokenSubject[]
  /** What each position of the header is: `5V`, `3V3`, `ground`, `line`. */
  rails: Record<number, string>
  /** Sightings at probes that the plan does not have any more. */
  stray: string[]
}

/**
 * The run sheet of a plan with what was seen so far. Throws `DeviceTreeError` for a base tree of the maker's that
 * cannot be read.
 */
export const runSheetOf = (facts: Facts, model: Model = modelOf(facts)): RunSheet => {
  const { table } = model
  const seen = new Map(facts.plan.seen.map(sighting => [sighting.id, sighting]))
  const rows = table.probes.map((probe, i): RunRow => {
    const sighting = seen.get(probe.id)
    const planned = table.planned[i]!
    return {
      probe, planned, outcomes: outcomesAt(table, probe.id),
      ...sighting && { seen: {
        outcome: sighting.outcome, at: sighting.at, isPlanned: sighting.outcome === planned,
        ...sighting.value !== undefined && { value: sighting.value },
      } },
    }
  })
  const known = new Set(table.probes.map(({ id }) => id))
  return {
    rows, proofs: proofsOf(facts, rows), subjects: subjectsOf(facts),
    rails: Object.fromEntries((facts.board?.header ?? []).map(({ position, kind }) => [position, kind])),
    stray: facts.plan.seen.filter(({ id }) => !known.has(id)).map(({ id }) => id),
    diagnosis: diagnose(model, facts.plan.seen.map(({ id, outcome }) => ({ probe: id, outcome }))),
  }
}

function proofsOf({ parts }: Facts, rows: readonly RunRow[]): Proof[] {
  return parts.flatMap(({ id, name }): Proof[] => {
    const own = rows.filter(({ probe }) => probe.at.parts?.length === 1 && probe.at.parts[0] === id)
    const works = own.find(({ probe }) => probe.id === `works:${id}`)
    if (!works) return []
    const isOdd = own.some(({ seen }) => seen && !seen.isPlanned)
    return [{ partId: id, name, state: isOdd ? 'odd' : works.seen ? 'works' : 'open' }]
  })
}
