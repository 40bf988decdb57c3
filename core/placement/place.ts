/** A plan in, places for every terminal out, or the demands that cannot be met together. */
import type { Board, Catalogue } from '../catalogue/types'
import { gatherFacts } from '../facts/gather'
import type { Facts } from '../facts/types'
import { longPinsOption, LONG_PINS } from '../facts/seats'
import { applyEdit, type Edit } from '../plan/edits'
import type { Assignment, Between, Plan } from '../plan/types'
import { impossible, unfed } from './conflict'
import { placePower, type PlacedPower } from './power'
import { placementProblem } from './problem'
import { assignmentOf, claimOf, placeInWords, positionOf, refOf } from './refs'
import { search, type SearchOptions, type SearchOutcome, type Solution } from './search'
import { weightsOf } from './weights'
import type { CostRow, Demand, Insistence, Placed, PlacementProblem, PlacementResult, PlaceRef } from './types'

export interface PlaceOptions {
  /** `rest`: what is placed stays unless it must move. `all`: only what the maker fixed stays. */
  scope: 'rest' | 'all'
  patience?: number
  onProgress?: SearchOptions['onProgress']
  /** What is asked besides: a terminal nowhere else, or anywhere but there. */
  insist?: readonly Insistence[]
  /** Ask only whether it can be placed: no conflict is looked for, and no ways out. */
  brief?: boolean
}

/**
 * Places every terminal of the plan. Complete: if the signals can be placed under the fixed, reserved and claimed
 * positions they are, at the least cost under the weights; otherwise the answer is a smallest set of demands that
 * cannot be met together, with ways out that were tried.
 */
export function placePlan(plan: Plan, catalogue: Catalogue, options: PlaceOptions): PlacementResult {
  const start = startOf(plan, options)
  const facts = gatherFacts(start, catalogue)
  if (!facts.board) return { ok: false, sentence: 'There is no board to place anything on. Choose one first.',
    conflict: [], waysOut: [] }
  const plain = attempt(plan, start, facts, facts.board, options)
  // Where an add-on board covers positions, a header with long pins below it brings them out again: taken where it
  // saves more than it costs.
  const covering = options.insist?.length
    ? []
    : facts.stack.flatMap((owner) => {
        const option = longPinsOption(owner)
        return option === null ? [] : [{ partId: owner.id, option, value: LONG_PINS }]
      })
  if (!covering.length
    || (plain.placed && plain.placed.cost < weightsOf(plan).longPins)) return plain.placed ?? plain.failed()
  const raised = withOptions(start, covering)
  const raisedFacts = gatherFacts(raised, catalogue)
  const over = attempt(plan, raised, raisedFacts, raisedFacts.board!, options).placed
  if (!over
    || (plain.placed
      && plain.placed.cost + plain.placed.powerCost <= over.cost + over.powerCost
      + weightsOf(plan).longPins * covering.length)) {
    return plain.placed ?? plain.failed()
  }
  return { ...over, straps: [...over.straps, ...covering] }

  function attempt(before: Plan, from: Plan, given: Facts, board: Board, how: PlaceOptions): {
    placed: Placed | null
    failed: () => PlacementResult
  } {
    const problem = placementProblem(given, board, how.insist)
    const failed = (): PlacementResult => how.brief
      ? { ok: false, sentence: 'It cannot be placed.', conflict: [], waysOut: [] }
      : impossible(from, catalogue, problem, given)
    if (problem.hopeless.length) return { placed: null, failed }
    const outcome = search(problem, how)
    if (!outcome.best) return { placed: null, failed }
    const power = placePower(problem, outcome.best.places)
    if (power.unmet.length) return { placed: null,
      failed: () => how.brief ? failed() : unfed(from, catalogue, given, power.unmet) }
    return { placed: resultOf(before, given, problem, { ...outcome, best: outcome.best }, power), failed }
  }
}

const withOptions = (plan: Plan,
  options: readonly { partId: string, option: string, value: string }[]): Plan => applyEdit(plan, {
  edit: 'all', edits: options.map(({ partId, option, value }) => ({ edit: 'set-option', id: partId, option, value })),
}).plan

/**
 * What the plan costs as it stands: every terminal that has a place stays there, the others are placed beside them.
 * Null where the places cannot stand together, so that they have no cost.
 */
export function costAsItStands(plan: Plan, catalogue: Catalogue): { cost: number, powerCost: number } | null {
  const insist = Object.entries(plan.assignments)
    .map(([terminal, to]): Insistence => ({ terminal, ref: refOf(to), kind: 'only' }))
  if (!insist.length) return null
  const result = placePlan(plan, catalogue, { scope: 'all', insist, brief: true })
  return result.ok ? { cost: result.cost, powerCost: result.powerCost } : null
}

/** The edits that put a placement into the plan. */
export function placementEdits(plan: Plan, result: Placed): Edit[] {
  const buses = [...plan.softwareBuses.filter(bus => !result.softwareBuses.some(other => other.id === bus.id)),
    ...result.softwareBuses]
  return [
    { edit: 'place', assignments: result.assignments },
    ...Object.entries(result.between).map(([terminal, between]): Edit => ({ edit: 'set-between', terminal, between })),
    ...result.straps.map((strap): Edit => ({ edit: 'set-option', id: strap.partId, option: strap.option,
      value: strap.value })),
    ...result.softwareBuses.length ? [{ edit: 'set-software-buses', buses } as Edit] : [],
  ]
}

/**
 * What the search starts from: a software bus goes when everything is placed anew, unless something fixed lies on it.
 */
function startOf(plan: Plan, { scope, insist }: PlaceOptions): Plan {
  if (scope === 'rest') return plan
  const assignments = Object.fromEntries(Object.entries(plan.assignments).filter(([, assignment]) => assignment.fixed))
  const held = new Set(Object.values(assignments).map(assignment => assignment.position))
  for (const { ref } of insist ?? []) held.add(positionOf(ref) ?? undefined)
  return { ...plan, assignments,
    softwareBuses: plan.softwareBuses.filter(bus => held.has(bus.sda) || held.has(bus.scl)) }
}

function resultOf(
  plan: Plan, facts: Facts, problem: PlacementProblem, outcome: SearchOutcome & { best: Solution }, power: PlacedPower,
): Placed {
  const { best } = outcome
  const places = inConnectorOrder(problem, { ...best.places, ...power.places })
  const assignments: Record<string, Assignment> = {}
  for (const terminal of facts.terminals) {
    const ref = places[terminal.key]
    // What an add-on board claims follows from the part and is not written down again.
    if (ref === undefined || claimOf(terminal) !== undefined) continue
    assignments[terminal.key] = { ...assignmentOf(ref), ...(terminal.assignment?.fixed && { fixed: true }) }
  }
  // Entries that belong to no terminal of today, e.g. of an option not chosen now, are kept for when it is
  // chosen again.
  for (const [key, assignment] of Object.entries(plan.assignments)) {
    if (!facts.byKey.has(key)) assignments[key] = assignment
  }
  const moved = Object.entries(places)
    .filter(([key, ref]) => plan.assignments[key] && refOf(plan.assignments[key]) !== ref)
    .map(([terminal, ref]) => ({ terminal, from: placeInWords(refOf(plan.assignments[terminal]!)),
      to: placeInWords(ref) }))
  const straps = best.addresses.flatMap(({ partId, strap, address }) =>
    strap && address !== facts.devices.find(device => device.owner.id === partId)?.address
      ? [{ partId, ...strap }]
      : [])
  return {
    ok: true, assignments, straps, between: pullUpsFor(facts, best), softwareBuses: best.softwareBuses,
    cost: round(best.cost),
    powerCost: round(power.cost), costs: costRows(problem, best),
    provedBest: outcome.finished, nodes: outcome.nodes, moved, leftOut: best.leftOut,
    splitAt: splitsOf(problem, places),
  }
}

/**
 * A bus without any pull-up gets two: noted at the first part on it whose wires have nothing in them. practice: 4.7 kΩ
 */
function pullUpsFor({ board, parts, byKey, plan }: Facts,
  { chosen, softwareBuses }: Solution): Record<string, Between> {
  const byBus = new Map<string, { demand: Demand, ref: PlaceRef | undefined }[]>()
  for (const [demand, { busId, places }] of chosen) if (demand.kind === 'i2c' && busId) {
    byBus.set(busId, [...byBus.get(busId) ?? [], { demand, ref: Object.values(places)[0] }])
  }
  const between: Record<string, Between> = {}
  for (const [busId, users] of byBus) {
    const onBoard = board?.controllers.find(controller => controller.id === busId)?.routes.some(route =>
      board.lines.find(line => line.line === route.lines.sda)?.fixedPullUpOhm
      && users.some(({ ref }) => ref === `P${board.header.find(entry => entry.line === route.lines.sda)?.position}`))
    const software = softwareBuses.find(bus => bus.id === busId) ?? plan.softwareBuses.find(bus => bus.id === busId)
    const underSoftware = software
      && board?.lines.find(line =>
        line.line === board.header.find(entry => entry.position === software.sda)?.line)?.fixedPullUpOhm
    const inParts = users.some(({ demand }) =>
      parts.find(owner => owner.id === demand.partId)?.part.i2c?.pullUpOhm
      || demand.terminals.some(key => byKey.get(key)?.between?.kind === 'pull-up'))
    const first = users.find(({ demand }) => demand.terminals.every(key => !byKey.get(key)?.between))
    if (!onBoard && !underSoftware && !inParts && first) {
      for (const key of first.demand.terminals) between[key] = { kind: 'pull-up', ohm: 4700 }
    }
  }
  return between
}

const round = (value: number) => Math.round(value * 100) / 100

/** Lines of one part that nothing tells apart but their rank keep their places among themselves, in connector order. */
function inConnectorOrder(problem: PlacementProblem, places: Record<string, PlaceRef>): Record<string, PlaceRef> {
  const after = { ...places }
  const alike = new Map<string, string[]>()
  for (const line of problem.lineDemands) {
    if (line.terminals.length > 1 || line.before || line.forbidden || line.only
      || places[line.id] === undefined) continue
    const key = `${line.partId} ${line.slow} ${line.optional} ${line.idleLevel} ${line.still}`
    alike.set(key, [...alike.get(key) ?? [], line.id])
  }
  const along = (ref: PlaceRef) => {
    const position = positionOf(ref)
    return position === null
      ? ref
      : String(Math.ceil(position / 2)).padStart(4, '0') + String(position).padStart(4, '0')
  }
  for (const group of alike.values()) {
    const sorted = group.map(id => places[id]!).sort((a, b) => along(a) < along(b) ? -1 : 1)
    group.forEach((id, i) => after[id] = sorted[i]!)
  }
  return after
}

function splitsOf(problem: PlacementProblem, places: Record<string, PlaceRef>): Placed['splitAt'] {
  const wires = new Map<number, number>()
  for (const demand of problem.powerDemands) {
    const position = positionOf(places[demand.terminal] ?? '')
    if (position !== null) wires.set(position, (wires.get(position) ?? 0) + 1)
  }
  return [...wires].filter(([, count]) => count > 1)
    .map(([position, count]) => ({ position, wires: count }))
    .sort((a, b) => a.position - b.position)
}

/** What the placement cost, largest first; what the plain lines cost together is one row. */
function costRows(problem: PlacementProblem, best: Solution): CostRow[] {
  const rows = [...best.chosen].filter(([, candidate]) => candidate.cost > 0)
    .map(([demand, { busId, cost }]) => ({ what: `${demand.label}${busId ? ` on ${busId}` : ''}`, cost: round(cost) }))
  const straps = best.addresses.filter(entry => entry.cost > 0)
    .map(({ partId, strap, cost }) => ({ what: `${partId} strapped to ${strap?.value ?? ''}`, cost: round(cost) }))
  const seen = best.addresses.map(({ busId, address }) => `${busId} ${address}`)
  const clashes = problem.weights.addressClash * (seen.length - new Set(seen).size)
  const known = [...clashes ? [{ what: 'parts at one address', cost: clashes }] : [], ...rows, ...straps]
  const left = round(best.cost - known.reduce((sum, row) => sum + row.cost, 0))
  return [...known, ...problem.lineDemands.length ? [{ what: 'plain lines', cost: left }] : []].sort((a,
    b) => b.cost - a.cost)
}
