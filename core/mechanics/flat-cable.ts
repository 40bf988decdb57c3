/**
 * Flat flexible cables: which one joins two connectors without a twist, by geometry. A cable bends about its width
 * only, so its width keeps its direction, and its faces turn with the way that it goes. From where the connectors open,
 * which way their boards look and on which side their contacts are follows which face the contacts have to be on at
 * either end, and which way meets which.
 */

/** Along the axes of the first board: x to its right, y away from you, z up from it. */
export type Direction = 'left' | 'right' | 'near' | 'far'

export interface FlatConnector {
  ways: number
  pitchMm: 0.5 | 1
  /**
   * Side of the slot that the contacts are on: `top` and `bottom` seen with its board's parts up; of a slot that opens
   * away from its board a direction, seen from above the first board.
   */
  contacts: 'top' | 'bottom' | Direction
  /** Where the slot opens to, seen from above the first board; `up` is away from its own board. */
  opens: Direction | 'up'
  /** The board's parts look up, or down to the first board. */
  looks: 'up' | 'down'
  /** On which side way 1 is, seen from above the first board. */
  first: Direction
}

export interface FlatCableAnswer {
  fits: boolean
  /** Contacts at both ends on the same side of the cable, or on opposite ones; null where none fits. */
  kind: 'same' | 'opposite' | null
  /** Way 1 meets way 1; otherwise way 1 meets the last one. */
  straight: boolean | null
  /** The shortest length sold that reaches, in mm. */
  lengthMm: number | null
  reasons: string[]
}

type Vector = readonly [number, number, number]
const AXES: Readonly<Record<Direction, Vector>> = { right: [1, 0, 0], left: [-1, 0, 0], far: [0, 1, 0],
  near: [0, -1, 0] }
const cross = ([a, b, c]: Vector, [d, e, f]: Vector): Vector => [b * f - c * e, c * d - a * f, a * e - b * d]
const dot = ([a, b, c]: Vector, [d, e, f]: Vector) => a * d + b * e + c * f
const minus = ([a, b, c]: Vector): Vector => [-a, -b, -c]

const away = ({ looks }: FlatConnector): Vector => looks === 'up' ? [0, 0, 1] : [0, 0, -1]
const opensTo = (end: FlatConnector): Vector => end.opens === 'up' ? away(end) : AXES[end.opens]
/** Towards the contacts, from the middle of the slot. */
function contactsOf(end: FlatConnector): Vector {
  if (end.contacts === 'top') return away(end)
  return end.contacts === 'bottom' ? minus(away(end)) : AXES[end.contacts]
}

/** Lengths sold, mm. practice */
export const FLAT_LENGTHS_MM: readonly number[] = [50, 100, 150, 200, 300, 500, 1000]
/** What a cable wants beyond the straight way: seats and bends. practice */
const SLACK = 1.15
/** Thickness; never bent tighter than ten times that. practice */
const THICK_MM = 0.2
export const MIN_BEND_MM = 10 * THICK_MM

/**
 * The cable for two connectors whose slots are so far apart. A cable that loops back wants room for its bend on
 * both sides. Pure.
 */
export function flatCableFor(one: FlatConnector, two: FlatConnector, apartMm: number): FlatCableAnswer {
  const reasons: string[] = []
  if (one.ways !== two.ways) reasons.push(`One has ${one.ways} ways, the other ${two.ways}: an adapter cable that `
    + 'narrows, or none.')
  else if (one.pitchMm !== two.pitchMm) reasons.push(`The ways lie ${one.pitchMm} and ${two.pitchMm} mm apart: no `
    + 'straight cable has both.')
  const [open1, open2] = [opensTo(one), opensTo(two)]
  const [contacts1, contacts2] = [contactsOf(one), contactsOf(two)]
  for (const [end, open, contacts] of [[one, open1, contacts1], [two, open2, contacts2]] as const) {
    if (dot(open, AXES[end.first]) !== 0) reasons.push('Way 1 lies beside the slot, not before or behind it: '
      + 'look once more.')
    else if (dot(open, contacts) !== 0 || dot(contacts, AXES[end.first]) !== 0) reasons.push(
      'The contacts lie along one long side of the slot: look once more.')
  }
  if (!reasons.length && Math.abs(dot(AXES[one.first], AXES[two.first])) !== 1) reasons.push(
    'The slots lie at a right angle to one another: no cable does without a fold. Turn one of them.')
  if (reasons.length) return { fits: false, kind: null, straight: null, lengthMm: null, reasons }

  // The face on the contacts of the first slot is carried along the cable, whose width never turns, into the second
  // against its slot.
  const width = cross(open1, contacts1)
  const face2 = cross(width, minus(open2))
  const kind = dot(face2, contacts2) > 0 ? 'same' : 'opposite'
  const straight = dot(AXES[one.first], AXES[two.first]) > 0
  const loops = dot(open1, open2) > 0
  let bends: number
  if (loops) bends = Math.PI
  else bends = dot(open1, open2) === 0 ? Math.PI / 2 : 0
  const wanted = apartMm * SLACK + bends * MIN_BEND_MM
  const lengthMm = FLAT_LENGTHS_MM.find(length => length >= wanted - 1e-9) ?? null
  return {
    fits: straight && lengthMm !== null, kind, straight, lengthMm,
    reasons: [
      `${one.ways} ways, ${one.pitchMm} mm, contacts at its ends on `
      + `${kind === 'same' ? 'the same side' : 'opposite sides'}.`,
      ...straight
        ? []
        : [`Way 1 would meet way ${one.ways}, and a supply whatever lies there: do not join them. Turn one board `
          + 'over or round.'],
      ...lengthMm === null
        ? [`No length sold reaches ${Math.ceil(wanted)} mm: bring them closer.`]
        : [`${lengthMm} mm long: ${apartMm} mm apart, and seats and bends want ${Math.ceil(wanted - apartMm)} mm more.`],
      ...loops ? [`It goes back over itself: no bend tighter than ${MIN_BEND_MM} mm, and never a crease.`] : [],
      'One of the other kind lies with its bare side on the contacts of one end: nothing works.',
    ],
  }
}
