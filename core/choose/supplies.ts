/** Which supplies suit a plan: each is tried on it, and judged by the same rules as the plan itself. */
import type { Catalogue, SupplyUnit } from '../catalogue/types'
import { evaluate } from '../evaluate'
import type { Finding } from '../findings'
import { isOpen } from '../findings/set-aside'
import { KINDS } from '../netlist/supply/kinds'
import type { Plan } from '../plan/types'

/**
 * `fits`: nothing against it. `care`: it runs, with something to see to. `converter`: another voltage than the board
 * takes. `no`: it would fail.
 */
export type Fit = 'fits' | 'care' | 'converter' | 'no'

export interface SupplyChoice {
  supply: SupplyUnit
  /** What it is, in words: supplies of a kind stand together. */
  kind: string
  fit: Fit
  /** What is against it, the gravest first; with `fits` what is good to know. */
  why: string[]
}

/** One supply tried on the plan: what the rules then say. */
export interface SupplyTrial { supply: SupplyUnit, findings: Finding[] }

/** Tries a supply on the plan. Pure; what stands in the plan's power tree stays. */
export function trySupply(plan: Plan, supply: SupplyUnit, catalogue: Catalogue): SupplyTrial {
  return { supply, findings: evaluate({ ...plan, supply: { type: supply.id } }, catalogue).findings.filter(isOpen) }
}

const RANK: Readonly<Record<Fit, number>> = { fits: 0, care: 1, converter: 2, no: 3 }
/** Volts beside 5 that the board takes without a converter. */
const NEAR_V = 0.5
/** What so many of the supplies would have is the plan's, not the supply's. */
const COMMON_SHARE = 0.75

/** The trials as choices, those that fit first. What most supplies would have is not held against one. */
export function supplyChoices(trials: readonly SupplyTrial[]): SupplyChoice[] {
  const seen = new Map<string, number>()
  for (const { id } of trials.flatMap(({ findings }) => findings)) seen.set(id, (seen.get(id) ?? 0) + 1)
  const isCommon = (id: string) => seen.get(id)! >= trials.length * COMMON_SHARE
  return trials.map(({ supply, findings }): SupplyChoice => {
    const own = findings.filter(finding =>
      !isCommon(finding.id) || finding.subjects.some(subject => subject.node === '@supply'))
    const [stops, cautions] = [own.filter(({ severity }) => severity === 'stop'),
      own.filter(({ severity }) => severity === 'caution')]
    const other = supply.kind === 'transformer' || Math.abs(supply.voltageV - 5) > NEAR_V
    let fit: 'no' | 'converter' | 'care' | 'fits'
    if (stops.length) fit = other ? 'converter' : 'no'
    else fit = cautions.length ? 'care' : 'fits'
    let said
    if (stops.length) said = stops
    else said = cautions.length ? cautions : own.filter(({ severity }) => severity === 'note')
    return { supply, kind: KINDS[supply.kind].label, fit, why: [...new Set(said.map(finding => finding.title))] }
  }).sort((a, b) => RANK[a.fit] - RANK[b.fit] || a.kind.localeCompare(b.kind)
    || a.supply.currentMa - b.supply.currentMa)
}
