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
import type { Demand, LineDemand, NotPlaced, PlaceRef, PlacementProblem, PowerDemand, WayOut } from './types'

interface Conflicting {
  label: string
  terminals: string[]
}

/** Sets tried when looking for the least one. */
const SUBSETS = 400
/** Branches of the search that explaining one conflict may take. */
const MAX_BRANCHES = 1200
const MAX_WAYS = 5
/** Ideas that are tried; the cheap ones come first. */
const MAX_TRIED = 24

const isBoard = ({ label }: WayOut) => label.startsWith('Take the board')

const fits = (problem: PlacementProblem) => search(problem, { firstOnly: true }).best !== null

/** Why the plan cannot be placed, and what would make it so. */
export function impossible(plan: Plan, catalogue: Catalogue, problem: PlacementProblem, facts: Facts): NotPlaced {
  if (problem.hopeless.length) {
    const conflict = problem.hopeless.map(entry => ({
      label: facts.byKey.get(entry.terminal)?.owner.name ?? entry.terminal, terminals: [entry.terminal],
    }))
    return {
      ok: false, sentence: `${problem.hopeless.map(entry => entry.sentence).join('. ')}.`, conflict,
      waysOut: waysOut(plan, catalogue, facts, new Set(conflict.flatMap(entry => entry.terminals))),
    }
  }
  const short = shortageOf(problem)
  const conflict = short ? largestTakers(problem, short) : smallestConflict(problem)
  let sentence: string
  if (short) sentence = `The parts want ${short.wanted} ${short.what} and there are ${short.given}: `
    + `${short.wanted - short.given} too few. Most are wanted by `
    + `${conflict.slice(0, 4).map(entry => entry.label).join(', ')}. Add a line expander for slow signals, give `
    + 'reserved positions free, or drop something.'
  else sentence = conflict.length > 8
    ? `${conflict.length} demands get in each other's way: `
    + `${conflict.slice(0, 4).map(entry => entry.label).join('; ')} and ${conflict.length - 4} more. Join one of them `
    + 'another way, give reserved positions free, or drop one.'
    : `These cannot be met together: ${conflict.map(entry => entry.label).join('; ')}. Release a fixed position, join `
      + 'one of them another way, or drop it.'
  return {
    ok: false, sentence, conflict: conflict.map(({ label, terminals }) => ({ label, terminals })),
    waysOut: waysOut(plan, catalogue, facts, new Set(conflict.flatMap(entry => entry.terminals))),
  }
}

interface Shortage {
  what: string
  wanted: number
  given: number
  /** Line demands that count. */
  counts: (demand: LineDemand) => boolean
}

/**
 * Places that the demands want at the least, whichever way they go, against those there are; null when there is no lack
 * of either kind.
 */
function shortageOf({ demands, lineDemands, linePlaces }: PlacementProblem): Shortage | null {
  const must = lineDemands.filter(demand => !demand.optional)
  const analog = { wanted: must.filter(demand => demand.analog).length,
    given: linePlaces.filter(place => place.isAnalog).length }
  if (analog.wanted > analog.given) return { ...analog, what: 'analog inputs', counts: demand => demand.analog }
  const header = new Set(linePlaces.filter(place => !place.isExpander).map(place => place.ref))
  const bound = new Set(demands.flatMap(demand =>
    demand.candidates.length === 1 ? Object.keys(demand.candidates[0]!.tokens) : []))
  const buses = minOnHeader(demands.filter(demand => demand.candidates.length !== 1), header)
  const given = [...header].filter(ref => !bound.has(ref)).length - buses
  const quick = must.filter(demand => !demand.analog && !demand.slow).length
  const slow = must.filter(demand => !demand.analog && demand.slow).length
  const behind = linePlaces.filter(place => place.isExpander && !place.isAnalog).length
  if (quick > given) {
    return { what: 'lines of the header beside its buses', wanted: quick, given,
      counts: demand => !demand.analog && !demand.slow }
  }
  return quick + slow > given + behind
    ? { what: 'lines beside the buses', wanted: quick + slow, given: given + behind, counts: demand => !demand.analog }
    : null
}

/**
 * Positions that the demands on buses take together at the least: wires of their own, and the common wires of each kind
 * of bus once.
 */
function minOnHeader(demands: readonly Demand[], header: ReadonlySet<PlaceRef>): number {
  const common = new Map<Demand['kind'], number>()
  let own = 0
  for (const demand of demands) {
    const counted = demand.candidates.map(({ tokens }) => Object.entries(tokens).filter(([ref]) => header.has(ref)))
    own += Math.min(...counted.map(entries => entries.filter(([, token]) => demand.terminals.includes(token)).length))
    common.set(
      demand.kind,
      Math.max(
        common.get(demand.kind) ?? 0,
        Math.min(...counted.map(entries => entries.filter(([, token]) => !demand.terminals.includes(token)).length)),
      ),
    )
  }
  return own + [...common.values()].reduce((sum, count) => sum + count, 0)
}

/** Parts by the lines they want, the largest first, until they alone are too many. */
function largestTakers({ lineDemands }: PlacementProblem, { counts, given }: Shortage): Conflicting[] {
  const byPart = new Map<string, LineDemand[]>()
  for (const demand of lineDemands) if (!demand.optional && counts(demand)) {
    byPart.set(demand.partId, [...byPart.get(demand.partId) ?? [], demand])
  }
  const sorted = [...byPart.values()].sort((a, b) => b.length - a.length)
  const found: Conflicting[] = []
  let sum = 0
  for (const list of sorted) {
    found.push({ label: `${partOf(list[0]!)} (${list.length})`, terminals: list.flatMap(demand => demand.terminals) })
    sum += list.length
    if (sum > given) break
  }
  return found
}

/** `Relay board IN1` belongs to `Relay board`. */
const partOf = ({ label, terminals }: LineDemand): string => {
  const last = label.lastIndexOf(' ')
  return last > 0 && terminals.length === 1 ? label.slice(0, last) : label
}

/** Supplies or grounds for which no position of their rail is left. */
export function unfed(plan: Plan, catalogue: Catalogue, facts: Facts, unmet: readonly PowerDemand[]): NotPlaced {
  const kind = unmet[0]!.kind === 'ground' ? 'ground' : unmet[0]!.kind
  return {
    ok: false, conflict: unmet.map(demand => ({ label: demand.label, terminals: [demand.terminal] })),
    sentence: `Every ${kind} position is reserved or lies under an add-on board, and `
      + `${unmet.map(demand => demand.label).join(', ')} want one.`,
    waysOut: waysOut(plan, catalogue, facts, new Set(unmet.map(demand => demand.terminal))),
  }
}

/**
 * Demands of one kind that conflict by themselves, looked through set by set; else what is left when all that is not
 * needed for the conflict is taken away.
 */
function smallestConflict(problem: PlacementProblem): Conflicting[] {
  const kinds = [...new Set(problem.demands.map(demand => demand.kind))]
  for (const kind of kinds) {
    const mine = {
      ...problem, demands: problem.demands.filter(demand => demand.kind === kind || demand.candidates.length === 1),
      lineDemands: [],
    }
    if (!fits(mine)) return minSet(entriesOf(mine), mine, 3)
  }
  return minSet(entriesOf(problem), problem, 2)
}

function entriesOf({ demands, lineDemands }: PlacementProblem): Conflicting[] {
  return [...demands, ...lineDemands.filter(demand => !demand.optional)].map(({ label, terminals }) => ({ label,
    terminals }))
}

/**
 * A set that conflicts and no part of which does. Sets up to `size` are tried for being the least of all; the
 * trouble is bounded.
 */
function minSet(entries: readonly Conflicting[], problem: PlacementProblem, size: number): Conflicting[] {
  let branches = 0
  const conflicts = (set: readonly Conflicting[]) => {
    const outcome = search(onlyThese(problem, new Set(set.flatMap(entry => entry.terminals))), { firstOnly: true })
    branches += outcome.nodes
    return outcome.best === null
  }
  let tried = 0
  for (let n = 1; n <= size; n++) {
    for (const subset of subsetsOf([...entries], n)) {
      if (++tried > SUBSETS) break
      if (conflicts(subset)) return subset
    }
  }
  return quickExplain(entries, conflicts, () => branches > MAX_BRANCHES)
}

/**
 * A set that conflicts and no part of which does (Junker, "QuickXplain", 2004): halves are looked at as a whole, so
 * that it takes few questions where the conflict is small. Once `enough` says so the open ones are taken as they are:
 * the set still conflicts, and may be larger than it need be.
 */
function quickExplain(
  entries: readonly Conflicting[], conflicts: (set: readonly Conflicting[]) => boolean, enough: () => boolean,
): Conflicting[] {
  const explain = (given: readonly Conflicting[], added: boolean, open: readonly Conflicting[]): Conflicting[] => {
    if (enough()) return [...open]
    if (added && conflicts(given)) return []
    if (open.length === 1) return [...open]
    const half = open.length >> 1
    const [first, second] = [open.slice(0, half), open.slice(half)]
    const inSecond = explain([...given, ...first], first.length > 0, second)
    return [...explain([...given, ...inSecond], inSecond.length > 0, first), ...inSecond]
  }
  return entries.length ? explain([], false, entries) : []
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
  for (let i = from; i <= list.length - size; i++) for (const rest of subsetsOf(list, size - 1,
    i + 1)) yield [list[i]!, ...rest]
}

/** Changes of the plan after which everything can be placed, cheapest first. */
function waysOut(plan: Plan, catalogue: Catalogue, facts: Facts, terminals: Set<string>): WayOut[] {
  const owners = [...new Set([...terminals].map(key => facts.byKey.get(key)?.owner)
    .filter(owner => owner !== undefined))]
  const ideas: WayOut[] = [
    ...[...terminals].filter(key => plan.assignments[key]?.fixed).map(key => ({
      label: `Let ${facts.byKey.get(key)!.owner.name} ${facts.byKey.get(key)!.label} leave `
        + `${placeInWords(refOf(plan.assignments[key]!))}`,
      price: 10, edits: [{ edit: 'release', terminal: key }] as Edit[],
    })),
    ...plan.reserved.map(({ position }) => ({
      label: `Give position ${position} free`, price: 15, edits: [{ edit: 'unreserve', position }] as Edit[],
    })),
    ...owners.flatMap(owner => (owner.part.options ?? []).filter(option =>
      option.meaning === 'link').flatMap(option => (option.values ?? []).filter(({ value }) =>
      value !== owner.options[option.id]).map(({ value, label }) => ({
      label: `Join ${owner.name} by ${label}`, price: 20,
      edits: [{ edit: 'set-option', id: owner.id, option: option.id, value }] as Edit[],
    })))),
    ...facts.stack.flatMap((owner) => {
      const option = longPinsOption(owner)
      return option === null
        ? []
        : [{
            label: `A header with long pins below ${owner.name}`, price: 12,
            edits: [{ edit: 'set-option', id: owner.id, option, value: LONG_PINS }] as Edit[],
          }]
    }),
    ...expanders(plan, facts),
    ...[...facts.catalogue.boards.values()]
      .filter(board => board.id !== plan.board)
      .map(board => ({ label: `Take the board "${board.name}"`, price: 60,
        edits: [{ edit: 'choose-board', board: board.id }] as Edit[] })),
    ...owners.map(owner => ({ label: `Drop ${owner.name}`, price: 80,
      edits: [{ edit: 'remove-part', id: owner.id }] as Edit[] })),
  ]
  const all: WayOut[] = plan.reserved.length > 1
    ? [
        ...ideas,
        {
          label: 'Give all reserved positions free', price: 18,
          edits: plan.reserved.map(({ position }) => ({ edit: 'unreserve', position })),
        },
      ]
    : ideas
  const working: WayOut[] = []
  let tried = 0
  for (const idea of all.sort((a, b) => a.price - b.price)) {
    // One board of several is enough to show that another board would do.
    if (working.length >= MAX_WAYS || tried >= MAX_TRIED || (isBoard(idea) && working.some(isBoard))) continue
    tried++
    if (placeable(applyEdit(plan, { edit: 'all', edits: idea.edits as Edit[] }).plan, catalogue,
      terminals)) working.push(idea)
  }
  return working
}

/** Line expanders and analog converters; those that help are found by trying. */
function expanders(plan: Plan, facts: Facts): WayOut[] {
  return [...facts.catalogue.parts.values()].filter(part => part.offers?.some(offer => offer.kind !== 'i2c'))
    .sort((a, b) => a.offers!.length - b.offers!.length)
    .map((part, i) => ({
      label: `Add: ${part.name}`, price: 30 + i,
      edits: [{ edit: 'add-part', part: { id: freePartId(plan, part.id), type: part.id, name: part.name } }],
    }))
}

/** What conflicted has to fit by itself first: that is quick to see, and most ideas fail there. */
function placeable(plan: Plan, catalogue: Catalogue, conflicting: ReadonlySet<string>): boolean {
  const facts = gatherFacts(plan, catalogue)
  if (!facts.board) return false
  const problem = placementProblem(facts, facts.board)
  const broad = conflicting.size > 12
  if (problem.hopeless.length || shortageOf(problem) || (!broad && !fits(onlyThese(problem, conflicting)))) return false
  const found = search(problem, { firstOnly: true }).best
  return found !== null && !placePower(problem, found.places).unmet.length
}
