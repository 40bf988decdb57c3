/**
 * On request, for one terminal: what the next best place would cost, what would move for it, and who else
 * wanted this one.
 */
import type { Catalogue } from '../catalogue/types'
import { gatherFacts } from '../facts/gather'
import type { Plan } from '../plan/types'
import { placePlan } from './place'
import { placementProblem } from './problem'
import { boundTo, placeInWords, refOf } from './refs'
import { lineCost } from './lines'

export interface Explanation {
  terminal: string
  at: string
  /** Null when the terminal can be nowhere else. */
  nextBest: { to: string, costsMore: number, moves: { terminal: string, to: string }[] } | null
  /** Others for whom this place is the cheapest by itself. */
  alsoWanted: string[]
}

/** Null when the terminal has no place, or is bound to it by its add-on board. Solves the whole placement twice. */
export function explainPlace(plan: Plan, catalogue: Catalogue, terminal: string): Explanation | null {
  const assignment = plan.assignments[terminal]
  const facts = gatherFacts(plan, catalogue)
  const subject = facts.byKey.get(terminal)
  if (!assignment || !subject || !facts.board) return null
  const ref = refOf(assignment)
  // As it stands, with everything else free to follow; and the same without this place for it.
  const { fixed: _, ...loose } = assignment
  const free = { ...plan, assignments: { ...plan.assignments, [terminal]: loose } }
  const held = placePlan(free, catalogue, { scope: 'all', insist: [{ terminal, ref, kind: 'only' }] })
  const other = placePlan(free, catalogue, { scope: 'all', insist: [{ terminal, ref, kind: 'forbidden' }] })
  const nextBest = held.ok && other.ok && other.assignments[terminal]
    ? {
        to: placeInWords(refOf(other.assignments[terminal])),
        // Supplies and returns follow the signals and are weighed for themselves.
        costsMore: Math.round(100 * (subject.is === 'signal'
          ? other.cost - held.cost
          : other.powerCost - held.powerCost)) / 100,
        moves: Object.entries(other.assignments)
          .filter(([key, to]) =>
            key !== terminal && held.assignments[key] && refOf(held.assignments[key]) !== refOf(to))
          .map(([key, to]) => ({ terminal: key, to: placeInWords(refOf(to)) })),
      }
    : null
  return { terminal, at: placeInWords(ref), nextBest, alsoWanted: alsoWanted(plan, catalogue, terminal, ref) }
}

/** Demands whose own cheapest way, with nobody else there, takes this place. */
function alsoWanted(plan: Plan, catalogue: Catalogue, terminal: string, ref: string): string[] {
  const facts = gatherFacts(
    { ...plan, assignments: Object.fromEntries(Object.entries(plan.assignments).filter(([, entry]) => entry.fixed)) },
    catalogue,
  )
  const problem = placementProblem(facts, facts.board!)
  const buses = problem.demands.filter(demand =>
    !demand.terminals.includes(terminal) && demand.terminals.some(key => !boundTo(facts.byKey.get(key)!))
    && Object.values(demand.candidates[0]?.places ?? {}).includes(ref))
    .map(demand => demand.label)
  const lines = problem.lineDemands.filter((demand) => {
    if (demand.terminals.includes(terminal)) return false
    const costs = problem.linePlaces.map(place => lineCost(demand, place, undefined, problem.weights, problem.columns))
    const here = problem.linePlaces.findIndex(place => place.ref === ref)
    return here >= 0 && costs[here]! <= Math.min(...costs) + 1e-9
  }).map(demand => demand.label)
  return [...buses, ...lines]
}
