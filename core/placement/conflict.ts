/** When nothing fits: a smallest set of demands that cannot be met together, and the cheapest ways out, each tried. */
import type { Catalogue } from '../catalogue/types'
import { gatherFacts } from '../facts/gather'
import { longPinsOption, LONG_PINS } from '../facts/seats'
import type { Facts } from '../facts/types'
import { freePartId } from '../plan/create'
import { applyEdit, type Edit } from '../plan/edits'
import type { Plan } from '../plan/types'
import { placementProblem } from './problem'
import { placeInWords, refOf } from './refs'
import { search } from './search'
import { placePower } from './power'
import type { NotPlaced, PlacementProblem, PowerDemand, WayOut } from './types'

interface Entry {
  label: string
  partId: string
  terminals: string[]
  without: (problem: PlacementProblem) => PlacementProblem
}

/** Subsets tried when looking for a set smaller than the one that dropping one after another leaves. */
const SUBSETS = 3000
const MOST_WAYS = 5

const fits = (problem: PlacementProblem) => search(problem, { firstOnly: true }).best !== null

/** Why the plan cannot be placed, and what would make it so. */
export function impossible(plan: Plan, catalogue: Catalogue, problem: PlacementProblem, facts: Facts): NotPlaced {
  if (problem.hopeless.length) {
    const conflict = problem.hopeless.map(entry => ({ label: facts.byKey.get(entry.terminal)?.owner.name ?? entry.terminal, terminals: [entry.terminal] }))
    return { ok: false, sentence: `${problem.hopeless.map(entry => entry.sentence).join('. ')}.`, conflict, waysOut: waysOut(plan, catalogue, facts, new Set(conflict.flatMap(entry => entry.terminals))) }
  }
  const conflict = smallestConflict(problem)
  const names = conflict.map(entry => entry.label)
  const free = problem.linePlaces.filter(place => !place.isExpander).length
  const sentence = names.length > 8
    ? `${names.length} demands cannot be met together: the header has ${free} usable lines. Add a line expander, give reserved positions free, or drop something.`
    : `These cannot be met together: ${names.join('; ')}. Release a fixed position, join one of them another way, or drop it.`
  return { ok: false, sentence, conflict: conflict.map(({ label, terminals }) => ({ label, terminals })), waysOut: waysOut(plan, catalogue, facts, new Set(conflict.flatMap(entry => entry.terminals))) }
}

/** Supplies or grounds for which no position of their rail is left. */
export function unfed(plan: Plan, catalogue: Catalogue, facts: Facts, unmet: readonly PowerDemand[]): NotPlaced {
  const kind = unmet[0]!.kind === 'ground' ? 'ground' : unmet[0]!.kind
  return {
    ok: false, conflict: unmet.map(demand => ({ label: demand.label, terminals: [demand.terminal] })),
    sentence: `Every ${kind} position is reserved or lies under an add-on board, and ${unmet.map(demand => demand.label).join(', ')} want one.`,
    waysOut: waysOut(plan, catalogue, facts, new Set(unmet.map(demand => demand.terminal))),
  }
}

/** Small sets first; where none of them conflicts, demands are dropped one by one while the rest still cannot be placed. */
function smallestConflict(problem: PlacementProblem): Entry[] {
  const entries: Entry[] = [
    ...problem.demands.map(demand => ({ label: demand.label, partId: demand.partId, terminals: demand.terminals, without: (p: PlacementProblem) => ({ ...p, demands: p.demands.filter(other => other !== demand) }) })),
    ...problem.lineDemands.filter(demand => !demand.optional).map(demand => ({ label: demand.label, partId: demand.partId, terminals: demand.terminals, without: (p: PlacementProblem) => ({ ...p, lineDemands: p.lineDemands.filter(other => other !== demand) }) })),
  ]
  let tried = 0
  const conflictOf = (size: number): Entry[] | null => {
    for (const subset of subsetsOf(entries, size)) {
      if (++tried > SUBSETS) return null
      if (!fits(onlyThese(problem, new Set(subset.flatMap(entry => entry.terminals))))) return subset
    }
    return null
  }
  const small = conflictOf(1) ?? conflictOf(2)
  if (small) return small
  let current = problem
  const conflict: Entry[] = []
  for (const entry of entries) {
    const smaller = entry.without(current)
    if (fits(smaller)) conflict.push(entry)
    else current = smaller
  }
  return (conflict.length > 3 ? conflictOf(3) : null) ?? conflict
}

/** The problem with only the demands of these terminals. */
function onlyThese(problem: PlacementProblem, terminals: ReadonlySet<string>): PlacementProblem {
  const among = (demand: { terminals: string[] }) => demand.terminals.some(key => terminals.has(key))
  return { ...problem, demands: problem.demands.filter(among), lineDemands: problem.lineDemands.filter(among) }
}

function* subsetsOf<T>(list: T[], size: number, from = 0): Generator<T[]> {
  if (size === 0) {
    yield []
    return
  }
  for (let i = from; i <= list.length - size; i++) for (const rest of subsetsOf(list, size - 1, i + 1)) yield [list[i]!, ...rest]
}

/** Changes of the plan after which everything can be placed, cheapest first. */
function waysOut(plan: Plan, catalogue: Catalogue, facts: Facts, terminals: Set<string>): WayOut[] {
  const owners = [...new Set([...terminals].map(key => facts.byKey.get(key)?.owner).filter(owner => owner !== undefined))]
  const ideas: WayOut[] = [
    ...[...terminals].filter(key => plan.assignments[key]?.fixed).map(key => ({
      label: `Let ${facts.byKey.get(key)!.owner.name} ${facts.byKey.get(key)!.label} leave ${placeInWords(refOf(plan.assignments[key]!))}`, price: 10, edits: [{ edit: 'release', terminal: key }] as Edit[],
    })),
    ...plan.reserved.map(({ position }) => ({ label: `Give position ${position} free`, price: 15, edits: [{ edit: 'unreserve', position }] as Edit[] })),
    ...owners.flatMap(owner => (owner.part.options ?? []).filter(option => option.meaning === 'link').flatMap(option => (option.values ?? []).filter(({ value }) => value !== owner.options[option.id]).map(({ value, label }) => ({
      label: `Join ${owner.name} by ${label}`, price: 20, edits: [{ edit: 'set-option', id: owner.id, option: option.id, value }] as Edit[],
    })))),
    ...facts.stack.flatMap((owner) => {
      const option = longPinsOption(owner)
      return option === null ? [] : [{ label: `A header with long pins below ${owner.name}`, price: 12, edits: [{ edit: 'set-option', id: owner.id, option, value: LONG_PINS }] as Edit[] }]
    }),
    ...expanders(plan, facts),
    ...[...facts.catalogue.boards.values()].filter(board => board.id !== plan.board).map(board => ({ label: `Take the board "${board.name}"`, price: 60, edits: [{ edit: 'choose-board', board: board.id }] as Edit[] })),
    ...owners.map(owner => ({ label: `Drop ${owner.name}`, price: 80, edits: [{ edit: 'remove-part', id: owner.id }] as Edit[] })),
  ]
  const all: WayOut[] = plan.reserved.length > 1 ? [...ideas, { label: 'Give all reserved positions free', price: 18, edits: plan.reserved.map(({ position }) => ({ edit: 'unreserve', position })) }] : ideas
  const working = all.sort((a, b) => a.price - b.price).filter(idea => placeable(applyEdit(plan, { edit: 'all', edits: idea.edits as Edit[] }).plan, catalogue, terminals))
  // One board of several is enough to show that another board would do.
  return working.filter((idea, i) => !idea.label.startsWith('Take the board') || working.findIndex(other => other.label.startsWith('Take the board')) === i).slice(0, MOST_WAYS)
}

/** Line expanders and analog converters; those that help are found by trying. */
function expanders(plan: Plan, facts: Facts): WayOut[] {
  return [...facts.catalogue.parts.values()].filter(part => part.offers?.some(offer => offer.kind !== 'i2c'))
    .sort((a, b) => a.offers!.length - b.offers!.length)
    .map((part, i) => ({ label: `Add: ${part.name}`, price: 30 + i, edits: [{ edit: 'add-part', part: { id: freePartId(plan, part.id), type: part.id, name: part.name } }] }))
}

/** What conflicted has to fit by itself first: that is quick to see, and most ideas fail there. */
function placeable(plan: Plan, catalogue: Catalogue, conflicting: ReadonlySet<string>): boolean {
  const facts = gatherFacts(plan, catalogue)
  if (!facts.board) return false
  const problem = placementProblem(facts, facts.board)
  if (problem.hopeless.length || !fits(onlyThese(problem, conflicting))) return false
  const found = search(problem, { firstOnly: true }).best
  return found !== null && !placePower(problem, found.places).unmet.length
}
