/** What must lie on one bus together, and every way to put it there. */
import { partOfKey } from '../plan/ids'
import type { Board, Controller, Offer, Signal } from '../catalogue/types'
import { signalMatches, stripCircuits, wantedBy } from '../facts/roles'
import type { BusGroup, Facts, I2cDevice, ResolvedPart, Terminal } from '../facts/types'
import { canBeMade, circuitsOf, fitsI2cBus, fitsSeat, overlaysAsked } from '../overlays/asks/fit'
import { boundTo, refOf } from './refs'
import type { Address, Candidate, Demand, Insistence, PlaceRef } from './types'
import { TRIFLE, type Weights } from './weights'

export interface Context {
  facts: Facts
  board: Board
  weights: Weights
  positionOfLine: ReadonlyMap<number, number>
  isFree: (position: number) => boolean
  insist: readonly Insistence[]
}

const KIND_WORDS = { i2c: 'I²C', spi: 'SPI', serial: 'serial', pwm: 'PWM', i2s: 'I²S' } as const
const SHARED_KINDS = new Set(['i2c', 'spi'])
/** Software buses that placement may open. */
const SOFTWARE_BUSES = ['i2c-soft-1', 'i2c-soft-2'] as const

export function busDemand(group: BusGroup, context: Context): Demand {
  const { owner, terminals } = group
  const { facts, weights } = context
  // A terminal that may stay unplaced does not force its bus: it is placed with it where the bus has a place for it.
  const role = terminals[0]!.signal!.role
  const kinds = role === 'strip' ? stripCircuits(context.board) : [group.kind]
  const isHub = owner.part.offers?.some(offer => offer.kind === 'i2c') ?? false
  const plain = [
    ...context.board.controllers
      .filter(controller => kinds.includes(controller.kind))
      .flatMap(controller => controllerCandidates(controller, terminals, context)),
    ...group.kind === 'i2c'
      ? [...hubCandidates(terminals, isHub, context), ...softwareCandidates(terminals, context)]
      : [],
  ].filter(candidate => allows(context.insist, candidate, terminals))
  const device = group.kind === 'i2c' ? facts.devices.find(entry => entry.owner === owner) : undefined
  const also = facts.devices.filter(entry => entry.owner === owner && entry.also).map(entry => entry.address)
  const addresses = device && strapsOf(device, weights).map(entry => also.length ? { ...entry, also } : entry)
  const candidates = addresses ? plain.map(candidate => ({ ...candidate, addresses })) : plain
  return {
    id: terminals.length === 1 ? terminals[0]!.key : `${owner.id}/${group.kind}`, kind: group.kind, partId: owner.id,
    isHub,
    label: `${owner.name}: ${role === 'strip' ? 'strip output' : KIND_WORDS[group.kind]}`,
    terminals: terminals.map(terminal => terminal.key),
    candidates: candidates.sort((a, b) => a.cost - b.cost),
    ...twinSignOf(owner, facts),
  }
}

function allows(insist: readonly Insistence[], { places }: Candidate, terminals: Terminal[]): boolean {
  return insist.every(({ terminal, ref, kind }) =>
    !terminals.some(({ key }) => key === terminal) || (places[terminal] === ref) === (kind === 'only'))
}

/** What is insisted on for one terminal, as fields of its demand. */
export function insistedOn(terminal: string, insist: readonly Insistence[]): { forbidden?: PlaceRef, only?: PlaceRef } {
  return Object.fromEntries(insist.filter(entry => entry.terminal === terminal).map(({ kind, ref }) => [kind, ref]))
}

/** Parts of one type, with the same options and nothing placed yet, can change places without any difference. */
function twinSignOf(owner: ResolvedPart, facts: Facts): { twinSign?: string } {
  const terminals = facts.terminals.filter(terminal => terminal.owner === owner)
  return terminals.some(terminal => terminal.assignment || terminal.between)
    ? {}
    : { twinSign: `${owner.part.id} ${JSON.stringify(owner.options)}` }
}

/** The addresses a device may have: as the plan has it, or strapped otherwise. */
function strapsOf(device: I2cDevice, weights: Weights): Address[] {
  const option = device.owner.part.options?.find(entry => entry.id === device.optionId)
  const values = option?.values ?? []
  if (!option || !values.length) return [{ address: device.address, cost: 0 }]
  return values.map(({ value }) => ({
    address: Number(value), strap: { option: option.id, value },
    cost: Number(value) === device.address ? 0 : weights.strapChanged,
  }))
    .sort((a, b) => a.cost - b.cost)
}

function movedCost(terminals: Terminal[], places: Record<string, PlaceRef>, weights: Weights): number {
  const moved = (t: Terminal) =>
    t.assignment && !t.assignment.fixed && places[t.key] !== undefined && refOf(t.assignment) !== places[t.key]
  return weights.moved * terminals.filter(moved).length
}

interface Partial {
  places: Record<string, PlaceRef>
  tokens: Record<PlaceRef, string>
  /** Select terminal → number of its select. */
  selects: Record<string, number>
  left: number
}

function controllerCandidates(controller: Controller, terminals: Terminal[], context: Context): Candidate[] {
  const { positionOfLine, isFree } = context
  return controller.routes.flatMap((route, way) => {
    let partial: Partial[] = [{ places: {}, tokens: {}, selects: {}, left: 0 }]
    for (const terminal of terminals) {
      const bound = boundTo(terminal)
      const wanted = wantedBy(terminal.signal!.role).filter(entry => entry.kind === controller.kind)
      const options = Object.entries(route.lines)
        .filter(([signal]) => wanted.some(entry => signalMatches(entry.signal, signal)))
        .flatMap(([signal, line]) => positionOfLine.has(line) ? [{ signal, position: positionOfLine.get(line)! }] : [])
        .filter(({ position }) => bound ? bound === `P${position}` : isFree(position))
      partial = partial.flatMap(({ places, tokens, selects, left }) => [
        ...options.filter(({ position }) => !(`P${position}` in tokens)).map(({ signal, position }) => ({
          places: { ...places, [terminal.key]: `P${position}` }, left,
          tokens: { ...tokens,
            [`P${position}`]: isShared(controller, terminal) ? `${controller.id}.${signal}` : terminal.key },
          selects: signal.startsWith('select')
            ? { ...selects, [terminal.key]: Number(signal.slice('select'.length)) }
            : selects,
        })),
        ...terminal.signal!.optional && !bound ? [{ places, tokens, selects, left: left + 1 }] : [],
      ])
    }
    return partial.filter(({ places }) =>
      Object.keys(places).length || terminals.every(terminal => terminal.signal!.optional))
      .flatMap((entry, i): Candidate[] => controllerCandidate(controller, way, entry, i, terminals, context))
  })
}

/**
 * Wires of a bus, by the bus rather than by the part: several parts have them in common, and the bus holds them
 * in any case.
 */
const isShared = ({ kind }: Controller, { signal }: Terminal): boolean =>
  (kind === 'i2s' && signal!.role !== 'strip')
  || (SHARED_KINDS.has(kind) && signal!.role !== 'spi.select' && signal!.role !== 'strip')

function controllerCandidate(
  controller: Controller, way: number, { places, tokens, selects, left }: Partial, i: number, terminals: Terminal[],
  context: Context,
): Candidate[] {
  const { weights } = context
  const { owner, signal } = terminals[0]!
  const strip = signal!.role === 'strip'
  const told = overlayCost(controller, owner, selects, context)
  if (told === null) return []
  const used = Object.keys(places).length > 0
  const pwm = controller.kind === 'pwm' && !strip
  const flow = terminals.some(terminal =>
    places[terminal.key] !== undefined && /^serial\.[rc]ts$/.test(terminal.signal!.role))
  const uses: Candidate['uses'] = used
    ? [
        // Outputs of one channel have one frequency: others of that frequency may share it, at a price.
        {
          resource: controller.id, way: pwm ? String(signal!.pwm?.frequencyHz ?? 0) : String(way),
          exclusive: strip || (!SHARED_KINDS.has(controller.kind) && controller.kind !== 'pwm'
            && controller.kind !== 'i2s'),
          ...(pwm && { shareCost: weights.pwmShared }),
        },
        ...controller.kind === 'i2s'
          ? circuitsOf(owner).map(name => ({ resource: `circuit: ${name}`, way: owner.id, exclusive: true }))
          : [],
        // Of the sound bus the clocks are common; each data wire has one part at its end.
        ...terminals.filter(({ key, signal: own }) => own!.role.startsWith('i2s.data') && places[key] !== undefined)
          .map(({ key, signal: own }) => ({ resource: `${controller.id} ${own!.role}`, way: key, exclusive: true })),
      ]
    : []
  return [{
    // A strip's program has the sound circuit to itself and switches on its data wire alone.
    places,
    tokens: used && !(strip && controller.kind === 'i2s')
      ? { ...heldWith(controller, way, flow, context), ...tokens }
      : tokens,
    busId: controller.id, uses,
    cost: (controller.isDefault ? 0 : weights.otherInstance) + way * weights.otherWay + i * weights.otherFunction
      + left * weights.leftOut
      + (strip && controller.kind === 'spi' ? weights.stripOnSpi : 0) + (strip && controller.kind === 'i2s'
      ? weights.stripOnSound
      : 0) + told + noiseCost(controller, way, signal!, context) + movedCost(terminals, places, weights),
  }]
}

/** A pulse output on a line that moves by itself while the board starts moves what hangs there. */
function noiseCost({ kind, routes }: Controller, way: number, { still }: Signal, { board, weights }: Context): number {
  const line = kind === 'pwm' ? routes[way]!.lines.out : undefined
  if (line === undefined || !board.lines.find(entry => entry.line === line)?.startNoise) return 0
  return still ? weights.unsafeAtStart : weights.movesAtStart
}

/**
 * Lines that a bus holds as soon as it is on, whether or not the part has a terminal there: they carry the bus
 * and nothing else.
 */
function heldWith({ id, kind, routes }: Controller, way: number, flow: boolean,
  { positionOfLine }: Context): Record<PlaceRef, string> {
  const holds = (signal: string) => kind === 'serial'
    ? flow && (signal === 'cts' || signal === 'rts')
    : (kind === 'spi' || kind === 'i2s') && !signal.startsWith('select')
  return Object.fromEntries(Object.entries(routes[way]!.lines).flatMap(([signal, line]) => {
    const position = positionOfLine.get(line)
    // Selects are brought out one by one; flow control is switched on for both wires at once.
    return position === undefined || !holds(signal) ? [] : [[`P${position}`, `${id}.${signal}`]]
  }))
}

/**
 * What it costs that the part's overlay cannot be told of this place: one is made for it where it can be; null where
 * none can, and where the controller does not do the part's clock mode.
 */
function overlayCost(controller: Controller, owner: ResolvedPart, selects: Record<string, number>,
  { board, weights }: Context): number
    | null {
  if (controller.kind === 'spi' && owner.part.spi && controller.modes
    && !controller.modes.includes(owner.part.spi.mode)) return null
  const fits = controller.kind === 'i2c'
    ? fitsI2cBus(owner, controller.id)
    : controller.kind !== 'spi' || Object.entries(selects)
      .every(([key, select]) =>
        fitsSeat(owner, key.slice(key.indexOf('.') + 1), { bus: Number(controller.id.replace('spi', '')), select }))
  if (fits) return 0
  return canBeMade(owner, board) ? weights.madeOverlay : null
}

/**
 * Channels of hubs. A hub itself goes to a header bus, so that no circle can arise, unless the maker
 * fixed it elsewhere.
 */
function hubCandidates(terminals: Terminal[], isHub: boolean, { facts, weights }: Context): Candidate[] {
  const owner = terminals[0]!.owner
  const settled = new Set(facts.terminals.flatMap(terminal => terminal.signal && terminal.assignment?.terminal
    ? [partOfKey(terminal.assignment.terminal)]
    : []))
  return facts.parts.filter(hub => hub !== owner).flatMap(hub => (hub.part.offers ?? []).filter(offer =>
    offer.kind === 'i2c').flatMap((offer, index) => {
    const places = Object.fromEntries(terminals.map(terminal => [terminal.key, channelPlace(hub, offer, terminal)]))
    const fits = terminals.every((terminal) => {
      const bound = boundTo(terminal)
      return bound ? bound === places[terminal.key] : !isHub
    })
    if (!fits) return []
    return [{
      places, busId: `${hub.id}.${offer.id}`, uses: [],
      tokens: Object.fromEntries(Object.values(places).map(ref => [ref, ref])),
      cost: weights.behindAnother + driverless(owner, weights) + movedCost(terminals, places, weights),
      ...(!settled.has(hub.id) && { channel: { hub: hub.id, index } }),
    }]
  }))
}

/**
 * Behind a hub and on a bus that the kernel makes itself no overlay can name the part's bus: its driver is not loaded
 * at the start.
 */
const driverless = (owner: ResolvedPart,
  weights: Weights): number => overlaysAsked(owner).length && owner.part.i2c ? weights.driverless : 0

function channelPlace(hub: ResolvedPart, offer: Offer, terminal: Terminal): PlaceRef {
  return `${hub.id}.${offer.terminals[terminal.signal!.role === 'i2c.sda' ? 'sda' : 'scl']}`
}

/**
 * Software buses the plan already has, at their positions; and new ones, whose lines are found with the other lines.
 */
function softwareCandidates(terminals: Terminal[], { facts, weights, isFree }: Context): Candidate[] {
  const sda = terminals.find(terminal => terminal.signal!.role === 'i2c.sda')
  const scl = terminals.find(terminal => terminal.signal!.role === 'i2c.scl')
  if (!sda || !scl || terminals.length !== 2) return []
  const there = facts.plan.softwareBuses.flatMap((bus): Candidate[] => {
    const places = { [sda.key]: `P${bus.sda}`, [scl.key]: `P${bus.scl}` }
    if (!terminals.every(terminal => boundTo(terminal)
      ? boundTo(terminal) === places[terminal.key]
      : true) || !isFree(bus.sda) || !isFree(bus.scl)) {
      return []
    }
    return [{
      places, tokens: { [`P${bus.sda}`]: `${bus.id}.sda`, [`P${bus.scl}`]: `${bus.id}.scl` }, busId: bus.id, uses: [],
      cost: weights.softwareBus + driverless(sda.owner, weights) + movedCost(terminals, places, weights),
    }]
  })
  if (terminals.some(terminal => boundTo(terminal))) return there
  const taken = new Set(facts.plan.softwareBuses.map(bus => bus.id))
  const moves = weights.moved * terminals.filter(terminal => terminal.assignment).length
  return [...there, ...SOFTWARE_BUSES.filter(id => !taken.has(id)).map((id, i): Candidate => ({
    places: {}, tokens: {}, busId: id, uses: [], opens: { softwareBus: id, sda: sda.key, scl: scl.key },
    cost: weights.softwareBus + driverless(sda.owner, weights) + i * TRIFLE + moves,
  }))]
}
