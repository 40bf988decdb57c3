/** Sets up the placement problem from the plan's facts. */
import type { Board, Rail } from '../catalogue/types'
import { reaches, roleInWords, takesAnyLine } from '../facts/roles'
import type { Facts, Terminal } from '../facts/types'
import { coverOf, passesThrough } from '../facts/seats'
import { fixedLinesOf } from '../overlays/asks/fit'
import { busDemand, insistedOn, type Context } from './demands'
import { expanderLines, headerLines, lineDemand, ranked, shareOneWire } from './lines'
import { boundTo, columnOf, placeInWords, refOf } from './refs'
import type { Candidate, Demand, Insistence, LineDemand, PlacementProblem, PlaceRef, PowerDemand } from './types'
import { weightsOf } from './weights'

/** The problem of a plan with a board. What the maker fixed and what add-on boards claim is part of it. */
export function placementProblem(facts: Facts, board: Board, insist: readonly Insistence[] = []): PlacementProblem {
  const reserved = new Set(facts.plan.reserved.map(entry => entry.position))
  const identity = new Set(board.header.filter(entry => entry.identity).map(entry => entry.position))
  const held = heldPositions(facts, board)
  const context: Context = {
    facts, board, weights: weightsOf(facts.plan), insist,
    positionOfLine: new Map(board.header.filter(entry => entry.line !== undefined)
      .map(entry => [entry.line!, entry.position])),
    isFree: position => !reserved.has(position) && !identity.has(position) && !held.has(position),
  }
  const columns = Math.max(...board.header.map(entry => columnOf(entry.position))) + 1
  const hopeless: PlacementProblem['hopeless'] = []
  const demands = facts.groups.map(group => busDemand(group, context))
  const lineDemands: LineDemand[] = []
  for (const terminal of facts.terminals) {
    if (!terminal.signal || !takesAnyLine(terminal.signal.role)) continue
    const bound = boundTo(terminal)
    if (!bound) {
      lineDemands.push(lineDemand(terminal, context))
      continue
    }
    const candidate = fixedLine(terminal, bound, context)
    if (candidate) demands.push({
      id: terminal.key, kind: 'line', partId: terminal.owner.id, label: `${terminal.owner.name} ${terminal.label}`,
      terminals: [terminal.key], candidates: [candidate],
    })
    else hopeless.push({
      terminal: terminal.key,
      sentence: `${terminal.owner.name} ${terminal.label} is fixed at ${placeInWords(bound)}, which is no `
        + 'line it can use',
    })
  }
  for (const demand of demands)
    if (!demand.candidates.length) hopeless.push({ terminal: demand.terminals[0]!, sentence: whyNone(demand, context) })

  const power = powerDemands(facts, insist)
  for (const demand of power)
    if (demand.fixedAt && board.header.find(entry => `P${entry.position}` === demand.fixedAt)?.kind !== demand.kind)
      hopeless.push({
        terminal: demand.terminal,
        sentence: `${demand.label} is fixed at ${placeInWords(demand.fixedAt)}, which is `
          + `${demand.kind === 'ground' ? 'no ground' : `not on the ${demand.kind} rail`}`,
      })

  const powerPlaces = (kind: PowerDemand['kind']) => board.header.filter(entry =>
    entry.kind === kind && context.isFree(entry.position))
    .map(entry => entry.position)
  return {
    demands, lineDemands: ranked(shareOneWire(lineDemands, demands, facts)),
    linePlaces: [...headerLines(context, columns), ...expanderLines(facts, context.weights)],
    powerDemands: power,
    powerPlaces: { '5V': powerPlaces('5V'), '3V3': powerPlaces('3V3'), 'ground': powerPlaces('ground') },
    columns, weights: context.weights, hopeless, before: facts.plan.assignments,
  }
}

/**
 * Positions that nothing can be led to: under an add-on board that does not bring them out again, or held by an overlay
 * whatever it is told.
 */
function heldPositions(facts: Facts, board: Board): Set<number> {
  const covered = facts.stack.flatMap((owner) => {
    const cover = coverOf(owner)
    return cover && !passesThrough(owner)
      ? board.header.filter(entry => entry.position >= cover.from && entry.position <= cover.to)
          .map(entry => entry.position)
      : []
  })
  const lines = new Set(facts.parts.flatMap(owner => fixedLinesOf(owner, board)))
  return new Set([...covered,
    ...board.header.flatMap(entry => entry.line !== undefined && lines.has(entry.line) ? entry.position : [])])
}

function fixedLine(terminal: Terminal, bound: PlaceRef, { board, facts }: Context): Candidate | null {
  const header = board.header.find(entry => `P${entry.position}` === bound)
  const token = terminal.signal!.role === 'onewire' ? 'onewire' : terminal.key
  const offered = facts.parts.some(owner =>
    owner.part.offers?.some(offer => offer.kind === (terminal.signal!.analog
      ? 'analog'
      : 'line') && `${owner.id}.${offer.terminals.line}` === bound))
  if (!(header?.kind === 'line' && !terminal.signal!.analog)
    && !(offered && terminal.signal!.role === 'line')) return null
  return { places: { [terminal.key]: bound }, tokens: { [bound]: token }, uses: [], cost: 0 }
}

function powerDemands(facts: Facts, insist: readonly Insistence[]): PowerDemand[] {
  return facts.terminals.filter(terminal => terminal.is !== 'signal').map((terminal) => {
    const bound = boundTo(terminal)
    return {
      terminal: terminal.key, partId: terminal.owner.id, label: `${terminal.owner.name} ${terminal.label}`,
      kind: terminal.is === 'ground' ? 'ground' : terminal.supply!.rail as Rail,
      ...(bound && { fixedAt: bound }), ...(terminal.assignment && { before: refOf(terminal.assignment) }),
      ...insistedOn(terminal.key, insist),
    }
  })
}

/** Why a demand has no way at all, in words. */
function whyNone(demand: Demand, { facts, board }: Context): string {
  for (const key of demand.terminals) {
    const terminal = facts.byKey.get(key)!
    const bound = boundTo(terminal)
    const header = bound && board.header.find(entry => `P${entry.position}` === bound)
    const words = roleInWords(terminal.signal!.role)
    if (bound && (!header || header.line === undefined || !reaches(board, terminal.signal!.role, header.line).length))
      return `${terminal.owner.name} ${terminal.label} is fixed at ${placeInWords(bound)}, which has no `
        + `${words.replace(/^an? /, '')}`
  }
  return `${demand.label}: the board has no such bus free of reserved and fixed positions`
}
