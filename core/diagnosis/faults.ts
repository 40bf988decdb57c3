/**
 * How the thing on the table may differ from its plan: every single fault of the kinds that makers meet. Derived from
 * wires, options and boot lines, so that a fault is always about something that is there. The weights are our own order
 * of common mistakes (common practice, no source).
 */
import { coverOf } from '../facts/seats'
import type { Facts, ResolvedPart, Terminal } from '../facts/types'
import { holeOver, WAY_WORDS, type WrongWay } from '../mechanics/plugged'
import { positionPin } from '../netlist/board'
import { positionOfPin } from '../netlist/spots'
import type { Conductor } from '../netlist/types'
import { hexAddress } from '../bringup/grid'
import { lineFaults, serialFaults } from './file-faults'
import { pullFaults } from './pull-faults'
import type { AsPlanned, Fault } from './types'
import { WEIGHTS } from './weights'

/**
 * Every single fault of a plan. Laws: each has a name of its own; each is about conductors, parts, positions or lines
 * that are there.
 */
export function faultsOf(thing: AsPlanned): Fault[] {
  return [
    ...boardFaults(thing), ...lineFaults(thing), ...serialFaults(thing),
    ...thing.netlist.conductors.flatMap(conductor => [
      ...openFaults(conductor, thing), ...looseFault(conductor, thing), ...movedFaults(conductor, thing),
      ...seatFaults(conductor,
        thing),
    ]),
    ...shortFaults(thing), ...thinGroundFaults(thing), ...levelFaults(thing), ...pullFaults(thing.facts),
    ...swapFaults(thing), ...bridgeFaults(thing), ...strapFaults(thing),
    ...partsUsed(thing).map((owner): Fault => ({
      id: `dead:${owner.id}`, title: `${owner.name} itself is broken`, weight: WEIGHTS.dead, at: { parts: [owner.id] },
      mend: `Try another one in its place. Before that look for what broke it: ${owner.name} was fed or driven too `
        + 'high, or turned round.',
      changes: [{ change: 'dead', partId: owner.id }],
    })),
  ]
}

/** Parts that take something from the board or from a supply: a nut is never broken. */
export function partsUsed({ facts, netlist }: Pick<AsPlanned, 'facts' | 'netlist'>): ResolvedPart[] {
  const joined = new Set(netlist.conductors.flatMap(({ from, to }) => [from, to]))
  return facts.parts.filter(owner => joined.has(owner.id) && (owner.signals.length > 0 || owner.supplies.length > 0
    || owner.part.plugs?.length))
}

/** A part whose supply is joined to its return inside. */
function shortFaults(thing: AsPlanned): Fault[] {
  const { ownerOf } = thing.netlist
  return partsUsed(thing).flatMap((owner): Fault[] => {
    const there = (id: string) => ownerOf.has(`${owner.id}.${id}`)
    const [supply, back] = [owner.supplies.find(({ id }) => there(id)), owner.grounds.find(({ id }) => there(id))]
    if (!supply || !back) return []
    return [{
      id: `short:${owner.id}`, title: `${owner.name} is shorted inside, or something lies across its pins`,
      weight: WEIGHTS.inside,
      mend: 'Power off. Look for solder, a strand or a screw across its pins; take it off, and measure between '
        + 'them by itself.',
      at: { parts: [owner.id] },
      changes: [{ change: 'bridge', pins: [`${owner.id}.${supply.id}`, `${owner.id}.${back.id}`] }],
    }]
  })
}

const isLoose = ({ kind, ways }: Conductor) => kind === 'wire' && ways.length === 1

function named(conductor: Conductor, { wires }: AsPlanned): string {
  const wire = wires.find(({ key }) => key === conductor.id)
  if (!wire) return conductor.name ?? conductor.id
  if (conductor.kind === 'wire') return `the wire from ${wire.partName}, ${wire.from}, to ${wire.to}`
  if (conductor.kind === 'flat cable') return `the flat cable of ${wire.partName}`
  return conductor.kind === 'seat'
    ? `the header under ${wire.partName}`
    : `the cable from ${wire.partName} to ${wire.to}`
}
const capital = (words: string) => words[0]!.toUpperCase() + words.slice(1)

function openFaults(conductor: Conductor, thing: AsPlanned): Fault[] {
  const at = { conductors: [conductor.id], ...conductor.partId !== undefined && { parts: [conductor.partId] } }
  const words = named(conductor, thing)
  if (conductor.kind === 'seat') return []
  if (conductor.kind === 'flat cable') {
    return [{
      id: `turned:${conductor.id}`,
      title: `${capital(words)} has its contacts on the wrong side, or is not all the way in`, at,
      mend: 'Power off. Open the latch, look on which side the contacts of the slot are, put the cable in straight to '
        + 'its mark, close the latch. The flat cables of the Build stage say which way.',
      weight: WEIGHTS.flat, changes: conductor.ways.map((_, way) => ({ change: 'open', conductor: conductor.id, way })),
    }]
  }
  // A plug that is not in has none of its ways; a wire of two has each by itself.
  if (conductor.kind === 'plug' || conductor.kind === 'lead') return [{
    id: `open:${conductor.id}`, title: `${capital(words)} is not all the way in, or broken`, at,
    mend: 'Pull it out, look into both plugs, push it in to its end; try another cable that is known to work.',
    weight: WEIGHTS.open, changes: conductor.ways.map((_, way) => ({ change: 'open', conductor: conductor.id, way })),
  }]
  return conductor.ways.map((_, way): Fault => ({
    id: conductor.ways.length > 1 ? `open:${conductor.id}:${way}` : `open:${conductor.id}`,
    title: `${capital(words)} has no contact${conductor.ways.length > 1 ? way ? ' in its return' : ' in its plus' : ''}`, at,
    mend: 'Power off. Pull at it gently at both ends, press it home or solder it anew, then measure it from end to end.',
    weight: WEIGHTS.open, changes: [{ change: 'open', conductor: conductor.id, way }],
  }))
}

/** A contact that is there at rest. A board that is pushed on with all its pins does not come loose by itself. */
const looseFault = (conductor: Conductor, thing: AsPlanned): Fault[] => conductor.kind === 'seat'
  ? []
  : [{
      id: `loose:${conductor.id}`, title: `${capital(named(conductor, thing))} has contact only now and then`,
      weight: WEIGHTS.loose,
      mend: 'Power off. Press it home at both ends or solder it anew, hold it where it is pulled, and move it once '
        + 'more with the meter on.',
      at: { conductors: [conductor.id], ...conductor.partId !== undefined && { parts: [conductor.partId] } },
      changes: [{ change: 'loose', conductor: conductor.id }],
    }]

/** A part whose input wants more than the board gives, and gets it by a level shifter: what stands on it without. */
const levelFaults = ({ facts }: AsPlanned): Fault[] => lifted(facts).map(({ owner, label }): Fault => ({
  id: `level:${owner.id}`, title: `${owner.name}, ${label}: the level shifter is passed by, or is the wrong way round`,
  mend: 'Power off. Low side to the board, high side to the part, its low supply on 3.3 V and its high supply on what '
    + 'feeds the part.',
  at: { parts: [owner.id] }, weight: WEIGHTS.lowLevel,
  changes: [{ change: 'flag', flag: 'low-level', partId: owner.id }],
}))

/** Inputs that a level shifter lifts, the first of each part. */
export const lifted = (facts: Facts): Terminal[] => facts.parts.flatMap(owner => facts.terminals.find(terminal =>
  terminal.owner === owner && terminal.between?.kind === 'level-shifter' && terminal.signal?.direction === 'in'
  && terminal.place?.kind === 'header' && (terminal.signal.inputHighMinV?.value ?? 0) > BOARD_HIGH_V) ?? [])
/** A line of the board that is set. Published: the boards' own figures, in the catalogue. */
const BOARD_HIGH_V = 3.3

/** One column on, one back, or in the other row: the positions that fingers and eyes take for the right one. */
function movedFaults(conductor: Conductor, thing: AsPlanned): Fault[] {
  const way = conductor.ways[0]
  const position = way && isLoose(conductor) ? positionOfPin(way.to) : undefined
  const count = thing.facts.board?.header.length ?? 0
  if (position === undefined) return []
  const partner = position % 2 ? position + 1 : position - 1
  const kindAt = (at: number) => thing.facts.board!.header.find(entry => entry.position === at)?.kind
  // The neighbour of one rail is as good.
  const isOther = (at: number) => at >= 1 && at <= count && (kindAt(at) === 'line' || kindAt(at) !== kindAt(position))
  return [position - 2, position + 2, partner].filter(isOther).map((other): Fault => ({
    id: `at:${conductor.id}:${other}`, title: `${capital(named(conductor, thing))} sits at position ${other}`,
    mend: `Power off. Move it to position ${position}; count from position 1, the one with the square pad.`,
    at: { conductors: [conductor.id], positions: [other, position],
      ...conductor.partId !== undefined && { parts: [conductor.partId] } },
    weight: other === partner ? WEIGHTS.partner : WEIGHTS.neighbour,
    changes: [{ change: 'move', conductor: conductor.id, way: 0, to: positionPin(other) }],
  }))
}

/** Two wires of one part, the one for the other: data and clock, transmit and receive, supply and return. */
function swapFaults(thing: AsPlanned): Fault[] {
  const faults: Fault[] = []
  const loose = thing.netlist.conductors.filter(conductor => isLoose(conductor) && conductor.partId !== undefined)
  for (const [i, a] of loose.entries()) for (const b of loose.slice(i + 1)) {
    if (a.partId !== b.partId || a.from !== b.from || a.ways[0]!.to === b.ways[0]!.to) continue
    const bothSignals = a.role === 'signal' && b.role === 'signal'
    const feeds = a.role !== 'signal' && b.role !== 'signal' && (a.role === 'ground') !== (b.role === 'ground')
    if (!bothSignals && !feeds) continue
    const [first, second] = [a, b].map(({ id }) => thing.wires.find(({ key }) => key === id)?.from ?? id)
    const name = thing.facts.parts.find(({ id }) => id === a.partId)?.name ?? a.partId!
    faults.push({
      id: `swap:${a.id}:${b.id}`, title: `${name}: ${first} and ${second} are swapped`,
      mend: feeds
        ? `Power off at once. Put ${first} and ${second} the right way round; the part may have been broken by it.`
        : `Power off. Put ${first} where ${second} is, and the other way round.`,
      at: { conductors: [a.id, b.id], parts: [a.partId!] }, weight: WEIGHTS.swap,
      changes: [{ change: 'swap', conductors: [a.id, b.id] }],
    })
  }
  return faults
}

const SEAT_WAYS: readonly WrongWay[] = ['column up', 'column down', 'turned']

function seatFaults(conductor: Conductor, { facts }: AsPlanned): Fault[] {
  const owner = conductor.kind === 'seat' ? facts.parts.find(({ id }) => id === conductor.partId) : undefined
  const cover = owner && coverOf(owner)
  if (!owner || !cover) return []
  const count = facts.board!.header.length
  const holes = Array.from({ length: cover.to - cover.from + 1 }, (_, i) => cover.from + i)
  return SEAT_WAYS.map((way): Fault => ({
    id: `seat:${owner.id}:${way}`, title: `${owner.name} is pushed on wrong: ${WAY_WORDS[way].toLowerCase()}`,
    mend: 'Power off. Pull it off straight, put position 1 over position 1, and look from the side before pressing.',
    at: { conductors: [conductor.id], parts: [owner.id] }, weight: WEIGHTS.seat,
    changes: [{
      change: 'seat', conductor: conductor.id, way,
      moved: new Map(holes.map(hole => [hole, holeOver(hole, way, cover.from, cover.to, count)])),
    }],
  }))
}

/** Lower position of each pair of used neighbours in a row that must not touch. */
export function neighboursOf({ facts, netlist }: Pick<AsPlanned, 'facts' | 'netlist'>): number[] {
  const used = new Set(netlist.conductors.flatMap(({ ways }) =>
    ways.flatMap(({ from, to }) => [positionOfPin(from), positionOfPin(to)])))
  const kindAt = new Map((facts.board?.header ?? []).map(({ position, kind }) => [position, kind]))
  return [...kindAt.keys()].filter((position) => {
    const [kind, other] = [kindAt.get(position), kindAt.get(position + 2)]
    // Neighbours of one rail may touch.
    return other !== undefined && used.has(position) && used.has(position + 2) && (kind === 'line' || kind !== other)
  })
}

/** Solder between two neighbours. */
const bridgeFaults = (thing: AsPlanned): Fault[] => neighboursOf(thing).map((position): Fault => ({
  id: `bridge:${position}:${position + 2}`,
  title: `Positions ${position} and ${position + 2} touch: solder or a strand of wire between them`,
  mend: 'Power off. Look with a lens, take the solder away with braid, or cut the strand off.',
  at: { positions: [position, position + 2] }, weight: WEIGHTS.bridge,
  changes: [{ change: 'bridge', pins: [positionPin(position), positionPin(position + 2)] }],
}))

function strapFaults({ facts }: AsPlanned): Fault[] {
  return facts.devices.filter(({ optionId, busId }) => optionId !== undefined && busId)
    .flatMap(({ owner, optionId, address }) => {
      const option = owner.part.options?.find(({ id }) => id === optionId)
      return (option?.values ?? []).map(({ value }) => Number.parseInt(value, 16))
        .filter(other => Number.isFinite(other) && other !== address)
        .map((other): Fault => ({
          id: `strap:${owner.id}:${hexAddress(other)}`,
          weight: WEIGHTS.strap / Math.max(1, (option?.values?.length ?? 2) - 1),
          title: `${owner.name} is strapped to ${hexAddress(other)}, not ${hexAddress(address)}`,
          mend: `Set its strap to ${hexAddress(address)}, or tell the plan that it is ${hexAddress(other)}.`,
          at: { parts: [owner.id] },
          changes: [{ change: 'strap', partId: owner.id, address: other }],
        }))
    })
}

/** From here on a part draws enough for a poor way back to be felt. Common practice, no source. */
const FELT_MA = 100

/** Parts with a wire of their own for the way back, and current enough to lift it when they do their most. */
export function thinGrounds({ facts, netlist }: Pick<AsPlanned, 'facts' | 'netlist'>): ResolvedPart[] {
  return partsUsed({ facts, netlist }).filter(owner => !owner.part.isAddOn
    && owner.supplies.reduce((sum, { peakMa }) => sum + peakMa, 0) >= FELT_MA
    && owner.grounds.some(({ id }) => netlist.conductors.some(conductor => isLoose(conductor)
      && conductor.ways[0]!.from === `${owner.id}.${id}`)))
}

const thinGroundFaults = (thing: AsPlanned): Fault[] => thinGrounds(thing).map((owner): Fault => ({
  id: `ground:${owner.id}`, title: `The way back of ${owner.name} is too thin, too long, or badly pressed in`,
  weight: WEIGHTS.thinGround,
  mend: `Give ${owner.name} a short ground of its own in thick wire (20 AWG or thicker), straight to `
    + 'the supply\'s return.',
  at: { parts: [owner.id] }, changes: [{ change: 'flag', flag: 'thin-ground', partId: owner.id }],
}))

function boardFaults({ facts }: AsPlanned): Fault[] {
  if (!facts.board) return []
  const flag = (id: string, name: Extract<Fault['changes'][number], { change: 'flag' }>['flag'], title: string,
    mend: string,
    weight: number) =>
    ({ id, title, mend, at: {}, weight, changes: [{ change: 'flag' as const, flag: name }] })
  return [
    flag('supply:none', 'no-supply', 'The supply gives nothing: not plugged in, switched off, or broken',
      'Try it on something else that it feeds; look at its plug, its switch and the wall.', WEIGHTS.noSupply),
    flag('supply:weak', 'weak-supply', 'The supply gives too little when everything runs',
      'Take the supply that the Power stage advises, or feed the largest loads from one of their own.',
      WEIGHTS.weakSupply),
    flag('supply:cable', 'thin-cable', 'The supply is right, but its cable is too thin or too long',
      'Take a short one with thick wires (20 AWG or thicker), or the cable that came with the supply.',
      WEIGHTS.thinCable),
    flag('card', 'card', 'The card cannot be read: not in, worn, or written badly',
      'Push it in to its end, write the image anew onto another card, and check what was written.', WEIGHTS.card),
    flag('image', 'old-image', 'The image is older than the board', 'Write a newer image: one that names this board.',
      WEIGHTS.oldImage),
  ]
}
