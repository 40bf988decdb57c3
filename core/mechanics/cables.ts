/**
 * Cables: the stiff stretch of each where it leaves its plug, its slot or its pin, as a body; how far each has to
 * reach; and the ways that they take on the sheet.
 */
import type { Body } from '../catalogue/shapes/body'
import type { ResolvedPart } from '../facts/types'
import { plugsOf } from '../netlist/supply/plugged'
import { BOARD_ID } from '../netlist/board'
import type { Conductor } from '../netlist/types'
import type { PlacedBody } from './bodies'
import { MIN_BEND_MM } from './flat-cable'
import { beyond, PLUG_CABLE_MM } from './plugs'
import { about, box, gapOf, length, middle, type Range, type Solid } from './solids'

/** A round cable is bent no tighter than so many of its thicknesses. practice */
export const ROUND_BEND_D = 4
/** A single wire with its insulation, mm. memory; bent no tighter than three of its thicknesses. practice */
const WIRE_MM = 1.3
const WIRE_BEND_D = 3
/** From the mouth of the housing to where a wire has turned away, mm. */
export const WIRE_TURN_MM = WIRE_MM * (WIRE_BEND_D + 1)
/** A flat cable comes straight out of its slot by so much before it bends, mm. memory */
const FLAT_STRAIGHT_MM = 2
const FLAT_THICK_MM = 0.3
/** It is so much wider than its ways, mm. memory */
const FLAT_RIM_MM = 1
/**
 * A wire on a board that is pushed on begins above this, mm; those on the board's own header leave by the slot
 * of a case.
 */
const ON_A_BOARD_MM = 5

const isWired = ({ kind }: PlacedBody) => kind === 'wire'

/** Wires of boards that are pushed on turn away above their housings. */
export const wireTurns = (bodies: readonly PlacedBody[]): PlacedBody[] =>
  bodies.filter(body => isWired(body) && body.solid.z[0] >= ON_A_BOARD_MM)
    .map(({ id, owner, name, solid: { x, y, z } }) => ({
      id: `${id}.turn`, owner, name: `${name}, bent over,`, kind: 'cable', origin: 'memory, practice',
      solid: box(about(middle(x), WIRE_MM), about(middle(y), WIRE_MM), [z[1], z[1] + WIRE_TURN_MM]),
    }))

/** Behind each plug with a cable: straight on until it has turned away. A stick has none. */
export const plugTurns = (bodies: readonly PlacedBody[],
  parts: readonly ResolvedPart[]): PlacedBody[] => bodies.flatMap((plug) => {
  if (plug.kind !== 'plug') return []
  const socket = bodies.find(({ owner, standing }) => owner === '@board' && standing?.id === plug.socket)?.standing
  const isStick = parts.find(({ id }) => id === plug.owner)?.part.plugs?.some(({ wide }) => wide)
  if (!socket || isStick) return []
  const thick = PLUG_CABLE_MM[socket.socket === 'video' ? 'video' : 'usb']
  return [{
    id: `${plug.id}.turn`, owner: plug.owner, name: `the cable of ${plug.name.replace(/^the plug of /, '')}`,
    kind: 'cable' as const,
    origin: 'memory, practice', solid: beyond(plug.solid, socket.opens, [thick, thick, thick * (ROUND_BEND_D + 1)]),
  }]
})

/**
 * Flat cables of parts in the board's slots: out of a slot that looks up it rises, bends and runs over the board to the
 * edge where it is least in the way; out of one that looks to a side it goes on to where it has bent.
 */
export function flatRuns(bodies: readonly PlacedBody[], parts: readonly ResolvedPart[], board: Body): PlacedBody[] {
  const taken = new Set<string>()
  return parts.flatMap(owner => plugsOf(owner).flatMap(({ socket }): PlacedBody[] => {
    if (socket !== 'display') return []
    const slot = bodies.find(({ id, standing }) => standing?.socket === socket && !taken.has(id))
    if (!slot) return []
    taken.add(slot.id)
    const { opens, flat } = slot.standing!
    const wide = flat
      ? flat.ways * flat.pitchMm
      + FLAT_RIM_MM
      : Math.max(length(slot.solid.x), length(slot.solid.y)) - 2
    const common = {
      owner: owner.id, name: `the flat cable of ${owner.name}`, kind: 'cable' as const, origin: 'memory, practice',
      slot: slot.id,
    }
    if (opens !== 'up') return [{
      ...common, id: `${owner.id}.flat`,
      solid: beyond(slot.solid, opens, [wide, FLAT_THICK_MM, FLAT_STRAIGHT_MM + MIN_BEND_MM]),
    }]
    const isAcross = length(slot.solid.y) >= length(slot.solid.x)
    const [x, y] = [middle(slot.solid.x), middle(slot.solid.y)]
    const from = slot.solid.z[1]
    const over = from + FLAT_STRAIGHT_MM + MIN_BEND_MM
    const rise = box(about(x, isAcross ? FLAT_THICK_MM : wide), about(y, isAcross ? wide : FLAT_THICK_MM), [from, over])
    const run = (ends: Range) => isAcross
      ? box(ends, about(y, wide), [over, over + FLAT_THICK_MM])
      : box(about(x, wide), ends, [over, over + FLAT_THICK_MM])
    const ways = isAcross
      ? [run([Math.min(0, x), x]), run([x, board.widthMm])]
      : [run([Math.min(0, y), y]), run([y, board.depthMm])]
    const inTheWay = (solid: Solid) => bodies.filter(other =>
      !other.laid && gapOf(other.solid, solid) < 0).length * 1000
      + length(solid.x) + length(solid.y)
    const [best] = ways.sort((a, b) => inTheWay(a) - inTheWay(b))
    return [{ ...common, id: `${owner.id}.flat`, solid: best! },
      { ...common, id: `${owner.id}.flat.rise`, solid: rise }]
  }))
}

/** A conductor that ends before its part. */
export interface CableReach {
  conductor: Conductor
  /** From where it turns away at the board, straight to the nearest point of the part, and the turns at both ends. */
  minMm: number
  givenMm: number
}

/**
 * Conductors that are shorter than the straight way, for parts whose place is known. What goes by a place where several
 * meet is not judged: nobody says where that place lies.
 */
export function tooShort(bodies: readonly PlacedBody[], conductors: readonly Conductor[]): CableReach[] {
  return conductors.flatMap((conductor): CableReach[] => {
    const { partId, kind, position, to, from, lengthM } = conductor
    if (partId === undefined || kind === 'seat' || kind === 'lead' || (to !== BOARD_ID && from !== BOARD_ID)) return []
    const part = bodies.find(({ id, owner }) => owner === partId && id === partId)
    const start = kind === 'wire'
      ? bodies.find(({ id }) => id === `@wire.${position}`)
      : bodies.find(({ id, owner }) => owner === partId && (id.endsWith('.turn') || id.endsWith('.flat')))
    if (!part || !start || part.laid || (part.kind !== 'part' && part.kind !== 'fan')) return []
    const minMm = gapOf(endOf(start), part.solid) + 2 * WIRE_TURN_MM
    return minMm > lengthM * 1000 ? [{ conductor, minMm, givenMm: lengthM * 1000 }] : []
  })
}

/** Of a wire the mouth of its housing; of a cable all of its stiff end: the nearest point of it counts. */
const endOf = ({ kind, solid }: PlacedBody): Solid =>
  kind === 'wire' ? { ...solid, z: [solid.z[1], solid.z[1]] } : solid
