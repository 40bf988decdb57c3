/** Plain lines: what wants one, what each place costs, and what a line does at a place while the board starts. */
import type { Facts, Terminal } from '../facts/types'
import { insistedOn, type Context } from './demands'
import { IMPOSSIBLE } from './matching'
import { columnOf, refOf } from './refs'
import type { Demand, LineDemand, LineSlot } from './types'
import type { Weights } from './weights'

export function lineDemand(terminal: Terminal, { insist }: Context): LineDemand {
  const { signal, owner, assignment } = terminal
  return {
    id: terminal.key, partId: owner.id, label: `${owner.name} ${terminal.label}`, terminals: [terminal.key],
    slow: signal!.role === 'line' && signal!.slow === true, analog: signal!.analog === true,
    optional: signal!.optional === true,
    still: signal!.still === true, drives: signal!.direction === 'out', rank: 0,
    ...(signal!.idleLevel && { idleLevel: signal!.idleLevel }),
    ...(assignment && { before: refOf(assignment) }),
    ...insistedOn(terminal.key, insist),
  }
}

/** Ranks the lines of each part in connector order, centred on zero. */
export function ranked(lines: LineDemand[]): LineDemand[] {
  const byPart = new Map<string, LineDemand[]>()
  for (const line of lines) byPart.set(line.partId, [...byPart.get(line.partId) ?? [], line])
  return lines.map((line) => {
    const mine = byPart.get(line.partId)!
    return { ...line, rank: mine.indexOf(line) - (mine.length - 1) / 2 }
  })
}

/** All 1-Wire parts hang on one line: on the one the maker fixed, or on one found for all of them. */
export function shareOneWire(lines: LineDemand[], demands: Demand[], facts: Facts): LineDemand[] {
  const isOneWire = (demand: LineDemand) => facts.byKey.get(demand.terminals[0]!)?.signal?.role === 'onewire'
  const wires = lines.filter(isOneWire)
  if (!wires.length) return lines
  const rest = lines.filter(line => !isOneWire(line))
  const fixed = demands.find(demand => Object.values(demand.candidates[0]?.tokens ?? {}).includes('onewire'))
  if (!fixed) {
    return [...rest, { ...wires[0]!, terminals: wires.flatMap(wire => wire.terminals),
      label: wires.map(wire => wire.label).join(', ') }]
  }
  const [ref] = Object.keys(fixed.candidates[0]!.tokens)
  for (const wire of wires)
    demands.push({
      id: wire.id, kind: 'line', partId: wire.partId, label: wire.label, terminals: wire.terminals,
      candidates: [{ places: { [wire.id]: ref! }, tokens: { [ref!]: 'onewire' }, uses: [], cost: 0 }],
    })
  return rest
}

export function headerLines({ board, isFree, weights }: Context, columns: number): LineSlot[] {
  const wanted = new Map<number, number>()
  for (const controller of board.controllers)
    for (const line of new Set(controller.routes.flatMap(route => Object.values(route.lines))))
      wanted.set(line, (wanted.get(line) ?? 0)
      + (controller.isDefault ? weights.defaultFunction : weights.otherFunction))
  return board.header.filter(entry => entry.kind === 'line' && isFree(entry.position)).map((entry) => {
    const line = board.lines.find(candidate => candidate.line === entry.line)
    const column = columnOf(entry.position)
    return {
      ref: `P${entry.position}`, column, isExpander: false, isAnalog: false, resetPull: line?.resetPull,
      noisy: line?.startNoise !== undefined,
      cost: (wanted.get(entry.line!) ?? 0) + weights.farFromEnd * Math.min(column, columns - 1 - column),
    }
  })
}

export function expanderLines(facts: Facts, weights: Weights): LineSlot[] {
  return facts.parts.flatMap(owner => (owner.part.offers ?? []).filter(offer => offer.kind !== 'i2c').map(offer => ({
    ref: `${owner.id}.${offer.terminals.line}`, column: null, isExpander: true, isAnalog: offer.kind === 'analog',
    noisy: false,
    ownerId: owner.id,
    cost: weights.behindAnother,
  })))
}

/** Lines of one part on the header and behind an expander, or behind two, count as this many columns apart. */
export const LEAP = 12

/** Columns between a place and the middle of its part: a header column, or an expander by its part. */
export function columnsApart(place: LineSlot, middle: number | string): number {
  if (typeof middle === 'string') return place.ownerId === middle ? 0 : LEAP
  return place.column === null ? LEAP : Math.min(LEAP, Math.abs(place.column - middle))
}

/**
 * Where a place lies for the order of a connector: columns from the header's middle; an expander counts as the middle.
 */
export function alongHeader(place: LineSlot | undefined, columns: number): number {
  return place === undefined || place.column === null ? 0 : place.column - (columns >> 1)
}

/** Cost of a plain line at a place; `middle` is the column where the rest of its part lies, if that is known. */
export function lineCost(demand: LineDemand, place: LineSlot, middle: number | undefined, weights: Weights,
  columns: number): number {
  if (demand.analog !== place.isAnalog) return IMPOSSIBLE
  if (place.isExpander && !place.isAnalog && (!demand.slow || place.ownerId === demand.partId)) return IMPOSSIBLE
  if (demand.forbidden === place.ref || (demand.only !== undefined && demand.only !== place.ref)) return IMPOSSIBLE
  return place.cost + startCost(demand, place, weights)
    + (middle === undefined ? 0 : weights.apart * columnsApart(place, middle))
    // Summed over a part this is least when its lines lie in connector order, and zero for any shift of them all.
    - weights.outOfOrder * demand.rank * alongHeader(place, columns)
    + (demand.before && demand.before !== place.ref ? weights.moved : 0)
}

/**
 * What may happen at this place between power and program: a pull that moves it, a line that chatters, a console that
 * drives against the part.
 */
function startCost({ idleLevel, still, drives }: LineDemand, { resetPull, noisy }: LineSlot, weights: Weights): number {
  const fights = drives && noisy ? weights.console : 0
  const wrongPull = idleLevel !== undefined && resetPull !== undefined
    && resetPull !== (idleLevel === 'high' ? 'up' : 'down')
  if (still) return fights + (wrongPull || noisy ? weights.unsafeAtStart : 0)
  return fights + (idleLevel !== undefined && (wrongPull || noisy) ? weights.movesAtStart : 0)
}
