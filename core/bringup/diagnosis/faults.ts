/**
 * How the thing on the table may differ from its plan: every single fault of the kinds that makers meet. Derived from wires, options and
 * boot lines, so that a fault is always about something that is there. The weights are our own order of common mistakes (common practice,
 * no source).
 */
import type { Wire } from '../../build/wires'
import { coverOf } from '../../facts/seats'
import type { Facts, ResolvedPart } from '../../facts/types'
import { holeOver, WAY_WORDS, type WrongWay } from '../../mechanics/plugged'
import { positionPin } from '../../netlist/board'
import { positionOfPin } from '../../netlist/spots'
import type { Conductor, Netlist } from '../../netlist/types'
import type { Need } from '../../overlays/asks/needs'
import { writeNeed } from '../../overlays/asks/write'
import { hexAddress } from '../grid'
import type { Fault } from './types'

const WEIGHTS = {
  open: 4, neighbour: 1.5, partner: 1, swap: 3, flat: 5, seat: 1.5, bridge: 0.5, strap: 4, dead: 1,
  inside: 0.7, missing: 6, hidden: 2, copy: 4, console: 5, rate: 5, noSupply: 2, weakSupply: 5, thinCable: 4, card: 3, oldImage: 2,
} as const

interface Ground {
  facts: Facts
  netlist: Netlist
  wires: readonly Wire[]
  needs: readonly Need[]
}

/** Every single fault of a plan. Laws: each has a name of its own; each is about conductors, parts, positions or lines that are there. */
export function faultsOf(ground: Ground): Fault[] {
  return [
    ...boardFaults(ground), ...lineFaults(ground), ...serialFaults(ground), ...ground.netlist.conductors.flatMap(conductor => [
      ...openFaults(conductor, ground), ...movedFaults(conductor, ground), ...seatFaults(conductor, ground),
    ]),
    ...shortFaults(ground), ...swapFaults(ground), ...bridgeFaults(ground), ...strapFaults(ground),
    ...partsUsed(ground).map((owner): Fault => ({
      id: `dead:${owner.id}`, title: `${owner.name} itself is broken`, weight: WEIGHTS.dead, at: { parts: [owner.id] },
      mend: `Try another one in its place. Before that look for what broke it: ${owner.name} was fed or driven too high, or turned round.`,
      changes: [{ change: 'dead', partId: owner.id }],
    })),
  ]
}

/** Parts that take something from the board or from a supply: a nut is never broken. */
export function partsUsed({ facts, netlist }: Pick<Ground, 'facts' | 'netlist'>): ResolvedPart[] {
  const joined = new Set(netlist.conductors.flatMap(({ from, to }) => [from, to]))
  return facts.parts.filter(owner => joined.has(owner.id) && (owner.signals.length > 0 || owner.supplies.length > 0
    || owner.part.plugs?.length))
}

/** A part whose supply is joined to its return inside. */
function shortFaults(ground: Ground): Fault[] {
  const { ownerOf } = ground.netlist
  return partsUsed(ground).flatMap((owner): Fault[] => {
    const there = (id: string) => ownerOf.has(`${owner.id}.${id}`)
    const [supply, back] = [owner.supplies.find(({ id }) => there(id)), owner.grounds.find(({ id }) => there(id))]
    if (!supply || !back) return []
    return [{
      id: `short:${owner.id}`, title: `${owner.name} is shorted inside, or something lies across its pins`, weight: WEIGHTS.inside,
      mend: 'Power off. Look for solder, a strand or a screw across its pins; take it off, and measure between them by itself.',
      at: { parts: [owner.id] }, changes: [{ change: 'bridge', pins: [`${owner.id}.${supply.id}`, `${owner.id}.${back.id}`] }],
    }]
  })
}

const isLoose = ({ kind, ways }: Conductor) => kind === 'wire' && ways.length === 1

function named(conductor: Conductor, { wires }: Ground): string {
  const wire = wires.find(({ key }) => key === conductor.id)
  if (!wire) return conductor.name ?? conductor.id
  return conductor.kind === 'wire'
    ? `the wire from ${wire.partName}, ${wire.from}, to ${wire.to}`
    : conductor.kind === 'flat cable'
      ? `the flat cable of ${wire.partName}`
      : conductor.kind === 'seat' ? `the header under ${wire.partName}` : `the cable from ${wire.partName} to ${wire.to}`
}
const capital = (words: string) => words[0]!.toUpperCase() + words.slice(1)

function openFaults(conductor: Conductor, ground: Ground): Fault[] {
  const at = { conductors: [conductor.id], ...conductor.partId !== undefined && { parts: [conductor.partId] } }
  const words = named(conductor, ground)
  if (conductor.kind === 'seat') return []
  if (conductor.kind === 'flat cable') {
    return [{
      id: `turned:${conductor.id}`, title: `${capital(words)} has its contacts on the wrong side, or is not all the way in`, at,
      mend: 'Power off. Open the latch, look on which side the contacts of the slot are, put the cable in straight to its mark, close the '
        + 'latch. The flat cables of the Build stage say which way.',
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

/** One column on, one back, or in the other row: the positions that fingers and eyes take for the right one. */
function movedFaults(conductor: Conductor, ground: Ground): Fault[] {
  const way = conductor.ways[0]
  const position = way && isLoose(conductor) ? positionOfPin(way.to) : undefined
  const count = ground.facts.board?.header.length ?? 0
  if (position === undefined) return []
  const partner = position % 2 ? position + 1 : position - 1
  const kindAt = (at: number) => ground.facts.board!.header.find(entry => entry.position === at)?.kind
  // The neighbour of one rail is as good.
  const isOther = (at: number) => at >= 1 && at <= count && (kindAt(at) === 'line' || kindAt(at) !== kindAt(position))
  return [position - 2, position + 2, partner].filter(isOther).map((other): Fault => ({
    id: `at:${conductor.id}:${other}`, title: `${capital(named(conductor, ground))} sits at position ${other}`,
    mend: `Power off. Move it to position ${position}; count from position 1, the one with the square pad.`,
    at: { conductors: [conductor.id], positions: [other, position], ...conductor.partId !== undefined && { parts: [conductor.partId] } },
    weight: other === partner ? WEIGHTS.partner : WEIGHTS.neighbour,
    changes: [{ change: 'move', conductor: conductor.id, way: 0, to: positionPin(other) }],
  }))
}

/** Two wires of one part, the one for the other: data and clock, transmit and receive, supply and return. */
function swapFaults(ground: Ground): Fault[] {
  const faults: Fault[] = []
  const loose = ground.netlist.conductors.filter(conductor => isLoose(conductor) && conductor.partId !== undefined)
  for (const [i, a] of loose.entries()) for (const b of loose.slice(i + 1)) {
    if (a.partId !== b.partId || a.from !== b.from || a.ways[0]!.to === b.ways[0]!.to) continue
    const bothSignals = a.role === 'signal' && b.role === 'signal'
    const feeds = a.role !== 'signal' && b.role !== 'signal' && (a.role === 'ground') !== (b.role === 'ground')
    if (!bothSignals && !feeds) continue
    const [first, second] = [a, b].map(({ id }) => ground.wires.find(({ key }) => key === id)?.from ?? id)
    const name = ground.facts.parts.find(({ id }) => id === a.partId)?.name ?? a.partId!
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

function seatFaults(conductor: Conductor, { facts }: Ground): Fault[] {
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
export function neighboursOf({ facts, netlist }: Pick<Ground, 'facts' | 'netlist'>): number[] {
  const used = new Set(netlist.conductors.flatMap(({ ways }) => ways.flatMap(({ from, to }) => [positionOfPin(from), positionOfPin(to)])))
  const kindAt = new Map((facts.board?.header ?? []).map(({ position, kind }) => [position, kind]))
  return [...kindAt.keys()].filter((position) => {
    const [kind, other] = [kindAt.get(position), kindAt.get(position + 2)]
    // Neighbours of one rail may touch.
    return other !== undefined && used.has(position) && used.has(position + 2) && (kind === 'line' || kind !== other)
  })
}

/** Solder between two neighbours. */
const bridgeFaults = (ground: Ground): Fault[] => neighboursOf(ground).map((position): Fault => ({
  id: `bridge:${position}:${position + 2}`,
  title: `Positions ${position} and ${position + 2} touch: solder or a strand of wire between them`,
  mend: 'Power off. Look with a lens, take the solder away with braid, or cut the strand off.',
  at: { positions: [position, position + 2] }, weight: WEIGHTS.bridge,
  changes: [{ change: 'bridge', pins: [positionPin(position), positionPin(position + 2)] }],
}))

function strapFaults({ facts }: Ground): Fault[] {
  return facts.devices.filter(({ optionId, busId }) => optionId !== undefined && busId).flatMap(({ owner, optionId, address }) => {
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

/** A line of the boot file that is not there, is filtered away, or stands in a copy that nobody reads. */
function lineFaults({ needs, facts }: Ground): Fault[] {
  if (!needs.length) return []
  const own = needs.flatMap(({ need, partIds }): Fault[] => {
    const line = writeNeed(need)
    return [
      {
        id: `line:${line}`, title: `The boot file lacks "${line}", or has it mistyped`, weight: WEIGHTS.missing,
        mend: 'Write the file anew from the Boot files stage, put it on the card, and start again: these lines are read at the start only.',
        at: { line, parts: partIds }, changes: [{ change: 'line', line, how: 'missing' }],
      },
      ...(facts.board?.bootDialect ?? 'key-value') === 'key-value'
        ? [{
            id: `hidden:${line}`, title: `"${line}" stands below a filter of another board`, weight: WEIGHTS.hidden,
            mend: 'Put a line [all] above it, or move it up, and start again.',
            at: { line, parts: partIds }, changes: [{ change: 'line' as const, line, how: 'hidden' as const }],
          }]
        : [],
    ]
  })
  return [...own, {
    id: 'line:copy', title: 'The boot file that was edited is not the one that is read', weight: WEIGHTS.copy,
    mend: 'Newer images read the one under /boot/firmware/, older ones that under /boot/. Look which is there, edit that one, start again.',
    at: { parts: [...new Set(needs.flatMap(({ partIds }) => partIds))] },
    changes: needs.map(({ need }) => ({ change: 'line', line: writeNeed(need), how: 'wrong-copy' })),
  }]
}

function serialFaults({ facts }: Ground): Fault[] {
  const groups = facts.groups.filter(group => group.kind === 'serial' && group.bus?.controller)
  const buses = [...new Map(groups.map(group => [group.bus!.id, group])).values()]
  return [
    ...buses.map(({ bus, owner }): Fault => ({
      id: `console:${bus!.id}`, title: `The console still writes on ${bus!.label}`, weight: WEIGHTS.console, at: { parts: [owner.id] },
      mend: 'Take "console=serial0,…" (or the port\'s own name) out of the command line file, switch its login off, and start again.',
      changes: [{ change: 'flag', flag: 'console', partId: owner.id }],
    })),
    ...groups.map(({ owner }): Fault => ({
      id: `rate:${owner.id}`, title: `${owner.name} and the program talk at different rates or frames`, weight: WEIGHTS.rate,
      at: { parts: [owner.id] },
      mend: 'Set both ends to one rate, eight bits, no parity, one stop bit; at half the rate each byte comes as two.',
      changes: [{ change: 'flag', flag: 'rate', partId: owner.id }],
    })),
  ]
}

function boardFaults({ facts }: Ground): Fault[] {
  if (!facts.board) return []
  const flag = (id: string, name: Extract<Fault['changes'][number], { change: 'flag' }>['flag'], title: string, mend: string,
    weight: number) =>
    ({ id, title, mend, at: {}, weight, changes: [{ change: 'flag' as const, flag: name }] })
  return [
    flag('supply:none', 'no-supply', 'The supply gives nothing: not plugged in, switched off, or broken',
      'Try it on something else that it feeds; look at its plug, its switch and the wall.', WEIGHTS.noSupply),
    flag('supply:weak', 'weak-supply', 'The supply gives too little when everything runs',
      'Take the supply that the Power stage advises, or feed the largest loads from one of their own.', WEIGHTS.weakSupply),
    flag('supply:cable', 'thin-cable', 'The supply is right, but its cable is too thin or too long',
      'Take a short one with thick wires (20 AWG or thicker), or the cable that came with the supply.', WEIGHTS.thinCable),
    flag('card', 'card', 'The card cannot be read: not in, worn, or written badly',
      'Push it in to its end, write the image anew onto another card, and check what was written.', WEIGHTS.card),
    flag('image', 'old-image', 'The image is older than the board', 'Write a newer image: one that names this board.', WEIGHTS.oldImage),
  ]
}
