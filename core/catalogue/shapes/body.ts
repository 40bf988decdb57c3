/**
 * Bodies: how much room a board or a part takes. All in mm. x runs to the right along the longer edge, y away from you,
 * both from the near left corner of the outline; heights are over the upper face of the circuit board, or over the
 * ground of what has none.
 */
import { choice, flag, list, number, object, oneOf, optional, type Of } from '../../shape/shape'
import { key, notNegative, origin, origins, positive, words } from './common'

/** What one plugs into. */
export const bodySocket = oneOf('usb', 'video', 'power', 'network', 'display', 'camera', 'fan', 'card', 'sound')
/** Where a socket opens to, with the outline as it is described. */
export const opening = oneOf('left', 'right', 'near', 'far', 'up')

/** The slot of a flat cable: ways, their pitch, which side the contacts are on and where way 1 is. */
export const flatSlot = object({
  ways: number({ min: 2, max: 80, whole: true }),
  pitchMm: oneOf(0.5, 1),
  /** `top` and `bottom` for a slot that opens to a side, a direction for one that opens up. */
  contacts: oneOf('top', 'bottom', 'left', 'right', 'near', 'far'),
  first: oneOf('left', 'right', 'near', 'far'),
})

const common = {
  id: key,
  what: words,
  /** Its near left corner. */
  xMm: number(),
  yMm: number(),
  widthMm: positive,
  depthMm: positive,
  /** From here to there over the upper face; on the underside they count downwards from the lower face. */
  fromMm: optional(notNegative),
  toMm: positive,
  under: optional(flag),
  /** A standing cylinder as wide as `widthMm`; a box where nothing is said. */
  round: optional(flag),
}

/** Something that stands on a board. */
export const standing = choice('kind', {
  part: common,
  /** The chip that a cooler is put on. */
  processor: common,
  socket: { ...common, socket: bodySocket, opens: opening, flat: optional(flatSlot) },
})

/** A hole that something goes through, or with a thread that ends at a depth. */
const hole = object({
  xMm: number(), yMm: number(), dMm: positive,
  thread: optional(object({ size: oneOf('M2.5', 'M3'), depthMm: positive })),
})

export const bodyShape = object({
  widthMm: positive,
  depthMm: positive,
  /** Thickness of its circuit board; nothing for what has none. */
  boardMm: optional(positive),
  /** Everything that is not named singly is lower than this over the upper face. */
  aboveMm: notNegative,
  /** Likewise below the lower face. */
  belowMm: optional(notNegative),
  holes: optional(list(hole)),
  standing: optional(list(standing, { unique: 'id' })),
  /** Hangs under the lid of a case where there is room: a fan. */
  hangs: optional(flag),
  /** Position 1 of its header or of the socket that it is pushed on with. */
  headerAt: optional(object({ xMm: number(), yMm: number() })),
  origin,
  origins,
})

export type Opening = Of<typeof opening>
export type BodySocket = Of<typeof bodySocket>
export type Standing = Of<typeof standing>
export interface FlatSlot extends Of<typeof flatSlot> {}
export interface Body extends Of<typeof bodyShape> {}
