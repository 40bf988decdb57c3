/** A plan in, places for every terminal out, or the demands that cannot be met together. */
import type { Catalogue } from '../catalogue/types'
import { gatherFacts } from '../facts/gather'
import type { Assignment, Plan } from '../plan/types'
import { placePower } from './power'
import { claimOf, placementProblem, placeInWords, refOf } from './problem'
import { search, type SearchOptions, type Solution } from './search'
import { tidyLines } from './tidy'
import type { CostRow, PlacementProblem, PlacementResult, PlaceRef } from './types'
import { WEIGHTS } from './weights'

export interface PlaceOptions {
  /** `rest`: what is placed stays unless it must move. `all`: only what the maker fixed stays. */
  scope: 'rest' | 'all'
  patience?: number
  onProgress?: SearchOptions['onProgress']
}

/**
 * Places every terminal of the plan. Complete: if the signals can be placed under the fixed, reserved and claimed
 * positions they are; otherwise the answer is a smallest set of demands that cannot be met together (smallest in the
 * sense that dropping any one of them lets the others be placed).
 */
export function placePlan(plan: Plan, catalogue: Catalogue, options: PlaceOptions): PlacementResult {
  const start = options.scope === 'all' ? { ...plan, assignments: onlyFixed(plan.assignments) } : plan
  const facts = gatherFacts(start, catalogue)
  if (!facts.board) return { ok: false, sentence: 'There is no board to place anything on. Choose one first.', conflict: [] }
  const problem = placementProblem(facts, facts.board)
  if (problem.hopeless.length) return {
    ok: false, sentence: `${problem.hopeless.map(entry => entry.sentence).join('. ')}.`,
    conflict: problem.hopeless.map(entry => ({ label: facts.byKey.get(entry.terminal)?.owner.name ?? entry.terminal, terminals: [entry.terminal] })),
  }
  const outcome = search(problem, options)
  if (!outcome.best) return impossible(problem)
  const signals = tidyLines(problem, outcome.best.places)
  const power = placePower(problem, signals)
  if (power.unmet.length) return {
    ok: false, conflict: power.unmet.map(demand => ({ label: demand.label, terminals: [demand.terminal] })),
    sentence: `Every ${power.unmet[0]!.kind === 'ground' ? 'ground' : power.unmet[0]!.kind} position is reserved, and ${power.unmet.map(demand => demand.label).join(', ')} want one. Give one free.`,
  }
  const places = { ...signals, ...power.places }
  const assignments: Record<string, Assignment> = {}
  for (const terminal of facts.terminals) {
    const ref = places[terminal.key]
    // What an add-on board claims follows from the part and is not written down again.
    if (ref === undefined || claimOf(terminal) !== undefined) continue
    assignments[terminal.key] = { ...assignmentOf(ref), ...(terminal.assignment?.fixed && { fixed: true }) }
  }
  // Entries that belong to no terminal of today, e.g. of an option not chosen now, are kept for when it is chosen again.
  for (const [key, assignment] of Object.entries(plan.assignments)) if (!facts.byKey.has(key)) assignments[key] = assignment
  const moved = Object.entries(places)
    .filter(([key, ref]) => plan.assignments[key] && refOf(plan.assignments[key]) !== ref)
    .map(([terminal, ref]) => ({ terminal, from: placeInWords(refOf(plan.assignments[terminal]!)), to: placeInWords(ref) }))
  return {
    ok: true, assignments, cost: round(outcome.best.cost), costs: costRows(problem, outcome.best),
    provedBest: outcome.finished, nodes: outcome.nodes, moved, leftOut: outcome.best.leftOut,
  }
}

const round = (value: number) => Math.round(value * 100) / 100

function onlyFixed(assignments: Plan['assignments']): Plan['assignments'] {
  return Object.fromEntries(Object.entries(assignments).filter(([, assignment]) => assignment.fixed))
}

function assignmentOf(ref: PlaceRef): Assignment {
  return /^P\d+$/.test(ref) ? { position: Number(ref.slice(1)) } : { terminal: ref }
}

/** What the placement cost, largest first; the shares of lines are the rest. */
function costRows(problem: PlacementProblem, best: Solution): CostRow[] {
  const rows = [...best.chosen].filter(([, candidate]) => candidate.cost > 0).map(([demand, candidate]) => ({ what: `${demand.label}${candidate.busId ? ` on ${candidate.busId}` : ''}`, cost: round(candidate.cost) }))
  const clashes = WEIGHTS.addressClash * clashCount(best)
  const left = round(best.cost - rows.reduce((sum, row) => sum + row.cost, 0) - clashes)
  return [
    ...clashes ? [{ what: 'parts at one address', cost: clashes }] : [],
    ...rows, ...problem.lineDemands.length ? [{ what: 'plain lines', cost: left }] : [],
  ].sort((a, b) => b.cost - a.cost)
}

function clashCount(best: Solution): number {
  const seen = [...best.chosen].filter(([demand]) => demand.address !== undefined).map(([demand, candidate]) => `${candidate.busId} ${demand.address}`)
  return seen.length - new Set(seen).size
}

/** Drops demands one by one while the rest still cannot be placed: what is left is a smallest conflict. */
function impossible(problem: PlacementProblem): PlacementResult {
  type Entry = { label: string, terminals: string[], without: (p: PlacementProblem) => PlacementProblem }
  const entries: Entry[] = [
    ...problem.demands.map(demand => ({ label: demand.label, terminals: demand.terminals, without: (p: PlacementProblem) => ({ ...p, demands: p.demands.filter(other => other !== demand) }) })),
    ...problem.lineDemands.filter(demand => !demand.optional).map(demand => ({ label: demand.label, terminals: demand.terminals, without: (p: PlacementProblem) => ({ ...p, lineDemands: p.lineDemands.filter(other => other !== demand) }) })),
  ]
  let current = problem
  const conflict: Entry[] = []
  for (const entry of entries) {
    const smaller = entry.without(current)
    if (search(smaller, { firstOnly: true }).best) conflict.push(entry)
    else current = smaller
  }
  const names = conflict.map(entry => entry.label)
  const free = problem.linePlaces.filter(place => !place.isExpander).length
  return {
    ok: false, conflict: conflict.map(({ label, terminals }) => ({ label, terminals })),
    sentence: names.length > 8
      ? `${names.length} demands cannot be met together: the header has ${free} usable lines. Add a line expander, give reserved positions free, or drop something.`
      : `These cannot be met together: ${names.join('; ')}. Release a fixed position, join one of them another way, or drop it.`,
  }
}
