/** Sets up the placement problem from the plan's facts. */
import type { Board, Controller, Offer } from '../catalogue/types'
import { reaches, roleInWords, signalMatches, takesAnyLine, wantedBy } from '../facts/roles'
import type { BusGroup, Facts, ResolvedPart, Terminal } from '../facts/types'
import type { Candidate, Demand, LineDemand, LinePlace, PlacementProblem, PlaceRef, PowerDemand } from './types'
import { WEIGHTS } from './weights'

/** The problem of a plan with a board. What the maker fixed and what add-on boards claim is part of it. */
export function placementProblem(facts: Facts, board: Board): PlacementProblem {
  const reserved = new Set(facts.plan.reserved.map(entry => entry.position))
  const positionOfLine = new Map(board.header.filter(entry => entry.line !== undefined).map(entry => [entry.line!, entry.position]))
  const isFree = (position: number) => !reserved.has(position) && !board.header.find(entry => entry.position === position)?.identity
  const context: Context = { facts, board, positionOfLine, isFree }
  const hopeless: PlacementProblem['hopeless'] = []

  const demands = facts.groups.map(group => busDemand(group, context))
  const lineDemands: LineDemand[] = []
  for (const terminal of facts.terminals) {
    if (!terminal.signal || !takesAnyLine(terminal.signal.role)) continue
    const bound = boundTo(terminal)
    if (bound) {
      const candidate = fixedLine(terminal, bound, context)
      if (candidate) demands.push({ id: terminal.key, partId: terminal.owner.id, label: `${terminal.owner.name} ${terminal.label}`, terminals: [terminal.key], candidates: [candidate] })
      else hopeless.push({ terminal: terminal.key, sentence: `${terminal.owner.name} ${terminal.label} is fixed at ${placeInWords(bound)}, which is no line it can use` })
    }
    else lineDemands.push(lineDemand(terminal))
  }
  for (const demand of demands)
    if (!demand.candidates.length) hopeless.push({ terminal: demand.terminals[0]!, sentence: whyNone(demand, context) })

  const power = powerDemands(facts)
  for (const demand of power)
    if (demand.fixedAt && board.header.find(entry => `P${entry.position}` === demand.fixedAt)?.kind !== demand.kind)
      hopeless.push({ terminal: demand.terminal, sentence: `${demand.label} is fixed at ${placeInWords(demand.fixedAt)}, which is ${demand.kind === 'ground' ? 'no ground' : `not on the ${demand.kind} rail`}` })

  return {
    demands, lineDemands: shareOneWire(lineDemands, demands, facts),
    linePlaces: [...headerLines(context), ...expanderLines(facts)],
    powerDemands: power,
    powerPlaces: {
      '5V': board.header.filter(entry => entry.kind === '5V' && isFree(entry.position)).map(entry => entry.position),
      '3V3': board.header.filter(entry => entry.kind === '3V3' && isFree(entry.position)).map(entry => entry.position),
      'ground': board.header.filter(entry => entry.kind === 'ground' && isFree(entry.position)).map(entry => entry.position),
    },
    hopeless, before: facts.plan.assignments,
  }
}

interface Context {
  facts: Facts
  board: Board
  positionOfLine: Map<number, number>
  isFree: (position: number) => boolean
}

/** The place a terminal may not leave: claimed by its add-on board, or fixed by the maker. */
export function boundTo(terminal: Terminal): PlaceRef | null {
  const claim = claimOf(terminal)
  if (claim !== undefined) return `P${claim}`
  return terminal.assignment?.fixed ? refOf(terminal.assignment) : null
}

/** The header position an add-on board's terminal is bound to. */
export function claimOf(terminal: Terminal): number | undefined {
  return (terminal.signal ?? terminal.supply ?? terminal.ground)?.claimsPosition
}

export function refOf(assignment: { position?: number, terminal?: string }): PlaceRef {
  return assignment.position !== undefined ? `P${assignment.position}` : assignment.terminal ?? ''
}

export function placeInWords(ref: PlaceRef): string {
  return /^P\d+$/.test(ref) ? `position ${ref.slice(1)}` : ref
}

function movedCost(terminals: Terminal[], places: Record<string, PlaceRef>): number {
  return WEIGHTS.moved * terminals.filter(t => t.assignment && !t.assignment.fixed && places[t.key] !== undefined && refOf(t.assignment) !== places[t.key]).length
}

function busDemand(group: BusGroup, context: Context): Demand {
  const { owner, terminals } = group
  const role = terminals[0]!.signal!.role
  const kinds = role === 'strip' ? ['pwm', 'spi'] : [group.kind]
  const candidates = context.board.controllers.filter(controller => kinds.includes(controller.kind))
    .flatMap(controller => controllerCandidates(controller, terminals, context))
  const isHub = owner.part.offers?.some(offer => offer.kind === 'i2c') ?? false
  if (group.kind === 'i2c') candidates.push(...hubCandidates(terminals, isHub, context.facts))
  const address = context.facts.devices.find(device => device.owner === owner)?.address
  return {
    id: terminals.length === 1 ? terminals[0]!.key : `${owner.id}/${group.kind}`, partId: owner.id, isHub,
    label: `${owner.name}: ${role === 'strip' ? 'strip output' : KIND_WORDS[group.kind]}`,
    terminals: terminals.map(terminal => terminal.key),
    candidates: candidates.sort((a, b) => a.cost - b.cost),
    ...(group.kind === 'i2c' && address !== undefined && { address }),
  }
}

const KIND_WORDS = { i2c: 'I²C', spi: 'SPI', serial: 'serial', pwm: 'PWM', i2s: 'I²S' } as const
const SHARED_KINDS = new Set(['i2c', 'spi'])

function controllerCandidates(controller: Controller, terminals: Terminal[], { positionOfLine, isFree }: Context): Candidate[] {
  return controller.routes.flatMap((route, way) => {
    let partial: { places: Record<string, PlaceRef>, tokens: Record<PlaceRef, string> }[] = [{ places: {}, tokens: {} }]
    for (const terminal of terminals) {
      const bound = boundTo(terminal)
      const wanted = wantedBy(terminal.signal!.role).filter(entry => entry.kind === controller.kind)
      const options = Object.entries(route.lines)
        .filter(([signal]) => wanted.some(entry => signalMatches(entry.signal, signal)))
        .map(([signal, line]) => ({ signal, position: positionOfLine.get(line)! }))
        .filter(({ position }) => bound ? bound === `P${position}` : isFree(position))
      const shared = SHARED_KINDS.has(controller.kind) && terminal.signal!.role !== 'spi.select' && terminal.signal!.role !== 'strip'
      partial = partial.flatMap(({ places, tokens }) => options
        .filter(({ position }) => !(`P${position}` in tokens))
        .map(({ signal, position }) => ({
          places: { ...places, [terminal.key]: `P${position}` },
          tokens: { ...tokens, [`P${position}`]: shared ? `${controller.id}.${signal}` : terminal.key },
        })))
    }
    const strip = terminals[0]!.signal!.role === 'strip'
    return partial.map(({ places, tokens }, i): Candidate => ({
      places, tokens, busId: controller.id,
      uses: [{ resource: controller.id, way: String(way), exclusive: strip || !SHARED_KINDS.has(controller.kind) }],
      cost: (controller.isDefault ? 0 : WEIGHTS.otherInstance) + way + i * 0.5
        + (strip && controller.kind === 'spi' ? WEIGHTS.stripOnSpi : 0) + movedCost(terminals, places),
    }))
  })
}

/** Channels of hubs. A hub itself goes to a header bus, so that no circle can arise, unless the maker fixed it elsewhere. */
function hubCandidates(terminals: Terminal[], isHub: boolean, facts: Facts): Candidate[] {
  const owner = terminals[0]!.owner
  return facts.parts.filter(hub => hub !== owner).flatMap(hub => (hub.part.offers ?? []).filter(offer => offer.kind === 'i2c').flatMap((offer, index) => {
    const places = Object.fromEntries(terminals.map(terminal => [terminal.key, channelPlace(hub, offer, terminal)]))
    const fits = terminals.every((terminal) => {
      const bound = boundTo(terminal)
      return bound ? bound === places[terminal.key] : !isHub
    })
    if (!fits) return []
    return [{
      places, busId: `${hub.id}.${offer.id}`, uses: [],
      tokens: Object.fromEntries(Object.values(places).map(ref => [ref, ref])),
      cost: WEIGHTS.behindAnother + index * 0.01 + movedCost(terminals, places),
    }]
  }))
}

function channelPlace(hub: ResolvedPart, offer: Offer, terminal: Terminal): PlaceRef {
  return `${hub.id}.${offer.terminals[terminal.signal!.role === 'i2c.sda' ? 'sda' : 'scl']}`
}

function fixedLine(terminal: Terminal, bound: PlaceRef, { board, facts }: Context): Candidate | null {
  const header = board.header.find(entry => `P${entry.position}` === bound)
  const token = terminal.signal!.role === 'onewire' ? 'onewire' : terminal.key
  const offered = facts.parts.some(owner => owner.part.offers?.some(offer => offer.kind === 'line' && `${owner.id}.${offer.terminals.line}` === bound))
  if (header?.kind !== 'line' && !(offered && terminal.signal!.role === 'line')) return null
  return { places: { [terminal.key]: bound }, tokens: { [bound]: token }, uses: [], cost: 0 }
}

function lineDemand(terminal: Terminal): LineDemand {
  const { signal, owner, assignment } = terminal
  return {
    id: terminal.key, partId: owner.id, label: `${owner.name} ${terminal.label}`, terminals: [terminal.key],
    slow: signal!.role === 'line' && signal!.slow === true, optional: signal!.optional === true,
    ...(signal!.idleLevel && (owner.part.contacts || signal!.load) && { idleLevel: signal!.idleLevel }),
    ...(assignment && { before: refOf(assignment) }),
  }
}

/** All 1-Wire parts hang on one line: on the one the maker fixed, or on one found for all of them. */
function shareOneWire(lines: LineDemand[], demands: Demand[], facts: Facts): LineDemand[] {
  const isOneWire = (demand: LineDemand) => facts.byKey.get(demand.terminals[0]!)?.signal?.role === 'onewire'
  const wires = lines.filter(isOneWire)
  if (!wires.length) return lines
  const rest = lines.filter(line => !isOneWire(line))
  const fixed = demands.find(demand => Object.values(demand.candidates[0]?.tokens ?? {}).includes('onewire'))
  if (!fixed) return [...rest, { ...wires[0]!, terminals: wires.flatMap(wire => wire.terminals), label: wires.map(wire => wire.label).join(', ') }]
  const [ref] = Object.keys(fixed.candidates[0]!.tokens)
  for (const wire of wires)
    demands.push({ id: wire.id, partId: wire.partId, label: wire.label, terminals: wire.terminals, candidates: [{ places: { [wire.id]: ref! }, tokens: { [ref!]: 'onewire' }, uses: [], cost: 0 }] })
  return rest
}

function headerLines({ board, isFree }: Context): LinePlace[] {
  const wanted = new Map<number, number>()
  for (const controller of board.controllers)
    for (const line of new Set(controller.routes.flatMap(route => Object.values(route.lines))))
      wanted.set(line, (wanted.get(line) ?? 0) + (controller.isDefault ? WEIGHTS.defaultFunction : WEIGHTS.otherFunction))
  return board.header.filter(entry => entry.kind === 'line' && isFree(entry.position)).map(entry => ({
    ref: `P${entry.position}`, column: columnOf(entry.position), scarcity: wanted.get(entry.line!) ?? 0,
    resetPull: board.lines.find(line => line.line === entry.line)?.resetPull, isExpander: false,
  }))
}

function expanderLines(facts: Facts): LinePlace[] {
  return facts.parts.flatMap(owner => (owner.part.offers ?? []).filter(offer => offer.kind === 'line').map((offer, i) => ({
    ref: `${owner.id}.${offer.terminals.line}`, column: null, isExpander: true, ownerId: owner.id,
    scarcity: WEIGHTS.behindAnother + i * 0.01,
  })))
}

/** 0-based column of a header position, from the end of position 1. */
export function columnOf(position: number): number {
  return Math.ceil(position / 2) - 1
}

function powerDemands(facts: Facts): PowerDemand[] {
  return facts.terminals.filter(terminal => terminal.is !== 'signal').map((terminal) => {
    const bound = boundTo(terminal)
    return {
      terminal: terminal.key, partId: terminal.owner.id, label: `${terminal.owner.name} ${terminal.label}`,
      kind: terminal.is === 'ground' ? 'ground' : terminal.supply!.rail,
      ...(bound && { fixedAt: bound }), ...(terminal.assignment && { before: refOf(terminal.assignment) }),
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
      return `${terminal.owner.name} ${terminal.label} is fixed at ${placeInWords(bound)}, which has no ${words.replace(/^an? /, '')}`
  }
  return `${demand.label}: the board has no such bus free of reserved and fixed positions`
}
