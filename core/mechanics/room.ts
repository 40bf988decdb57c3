/** What touches what, and what lies above the lid: from the bodies in their places. */
import type { Assembly } from './assembly'
import type { PlacedBody } from './bodies'
import { TOUCHES_MM } from './plug-fit'
import { flatGap, gapOf, length } from './solids'

/** Two bodies closer to one another than they should be. */
export interface TooClose {
  one: PlacedBody
  two: PlacedBody
  /** Negative where they are in one another. */
  gapMm: number
  wantedMm: number
}

/** Something that stands higher than the lid lies. */
export interface OverLid {
  body: PlacedBody
  /** Over the board's face. */
  topMm: number
  lacksMm: number
}

export interface Room {
  /** In one another, worst first. */
  clashes: TooClose[]
  /** Not in one another, and closer than is wanted. */
  close: TooClose[]
  overLid: OverLid[]
  /** What is wider than the case inside. */
  walls: { body: PlacedBody, lacksMm: number }[]
  /** A blade or its cooler too near to the lid to breathe. */
  stifled: { body: PlacedBody, gapMm: number }[]
}

/** Between a board and what stands below it, mm. practice: the same as under a board on spacers */
export const BETWEEN_BOARDS_MM = 1
/** A fan wants so much free above it, mm. practice */
export const BREATH_MM = 5

/** Of the same owner, or joined by what they are: a cooler lies on its chip, a spacer holds its board. */
function belong(a: PlacedBody, b: PlacedBody): boolean {
  // What is laid out beside the board can lie anywhere.
  if (a.owner === b.owner || a.laid || b.laid) return true
  const kinds = new Set([a.kind, b.kind])
  // Wires push their neighbours aside, and a spacer goes through joints that are not there.
  // Films lie wherever they are laid, and keep metal from metal.
  if (kinds.has('film')) return true
  // Cables push one another and single wires aside.
  if (kinds.has('cable') && (kinds.size === 1 || kinds.has('wire'))) return true
  return (kinds.has('pins') && kinds.has('add-on')) || (kinds.has('wire') && (kinds.has('pins') || a.kind === b.kind))
    || kinds.has(
      'spacer')
  // Whether a wire on a board that is pushed on is left room by it is told with the stack.
    || (kinds.has('wire') && kinds.has('add-on')
      && (a.kind === 'wire' ? a.solid.z[0] >= b.solid.z[0] : b.solid.z[0] >= a.solid.z[0]))
  // A plug goes into its own socket.
    || [a, b].some(one =>
      one.kind === 'plug' && [a, b].some(other => other.owner === '@board' && other.standing?.id === one.socket))
  // The low parts of the board leave the processor free.
    || (kinds.has('cooler') && [a, b].some(({ id }) => id === '@board.above'))
}

/** The room of an assembly. `blows`: coolers with blades of their own. */
export function roomOf(assembly: Assembly, blows: (owner: string) => boolean): Room {
  const { bodies, inside } = assembly
  const films = new Set(bodies.filter(({ kind }) => kind === 'film').map(({ owner }) => owner))
  const lowest = (body: PlacedBody) => Math.min(...bodies.filter(({ owner, kind }) =>
    owner === body.owner && kind !== 'spacer').map(({ solid }) => solid.z[0]))
  /** The film of the upper one lies between them. */
  const isBetween = (one: PlacedBody, two: PlacedBody) => films.has((lowest(one) > lowest(two) ? one : two).owner)
  const clashes: TooClose[] = []
  const close: TooClose[] = []
  bodies.forEach((one, i) => {
    for (const two of bodies.slice(i + 1)) {
      if (belong(one, two)) continue
      const gapMm = gapOf(one.solid, two.solid)
      const wantedMm = wantedBetween(one, two)
      if (gapMm < -TOUCHES_MM) clashes.push({ one, two, gapMm, wantedMm })
      else if (gapMm < wantedMm - TOUCHES_MM && flatGap(one.solid, two.solid) < 0 && !isBetween(one, two)) {
        close.push({ one, two, gapMm, wantedMm })
      }
    }
  })
  const worst = (a: TooClose, b: TooClose) => a.gapMm - b.gapMm
  return {
    clashes: clashes.sort(worst), close: close.sort(worst), overLid: overLidOf(assembly), walls: wallsOf(assembly),
    stifled: inside?.lidMm == null
      ? []
      : bodies.filter(({ kind, owner, solid }) => kind === 'cooler' && blows(owner) && solid.z[1] <= inside.lidMm!
        && inside.lidMm! - solid.z[1] < BREATH_MM)
          .map(body => ({ body, gapMm: inside.lidMm! - body.solid.z[1] })),
  }
}

/** A board above something wants air; all else may touch. */
const wantedBetween = (a: PlacedBody,
  b: PlacedBody): number => a.kind === 'add-on' || b.kind === 'add-on' ? BETWEEN_BOARDS_MM : 0

/** Bodies that are in the case, not beside it. */
function enclosed({ bodies, inside }: Assembly): PlacedBody[] {
  if (!inside?.x || !inside.y) return []
  return bodies.filter(body => isUnderLid(body))
    .filter(({ solid }) => solid.x[0] < inside.x![1] && solid.x[1] > inside.x![0]
      && solid.y[0] < inside.y![1] && solid.y[1] > inside.y![0])
}

/**
 * How high the highest thing ends that a lid has to close over: not what lies beside, and not a fan, which hangs from
 * the lid itself.
 */
export const tallestOf = (bodies: readonly PlacedBody[]): number => Math.max(0,
  ...bodies.filter(body => isUnderLid(body)
    && body.kind !== 'fan')
    .map(({ solid }) => solid.z[1]))

/** Wires on the board's own header leave by the slot, or are told of elsewhere. */
const isUnderLid = ({ kind, laid, solid }: PlacedBody) =>
  !laid && kind !== 'plug' && kind !== 'plate' && kind !== 'spacer' && !(kind === 'wire' && solid.z[0] < 5)

function overLidOf(assembly: Assembly): OverLid[] {
  const lid = assembly.inside?.lidMm
  if (lid == null) return []
  return enclosed(assembly).filter(({ kind, solid }) => kind !== 'fan' && solid.z[1] > lid + TOUCHES_MM)
    .map(body => ({ body, topMm: body.solid.z[1], lacksMm: body.solid.z[1] - lid }))
    .sort((a, b) => b.lacksMm - a.lacksMm)
}

function wallsOf(assembly: Assembly): Room['walls'] {
  const { inside } = assembly
  if (!inside?.x || !inside.y) return []
  // Sockets look out of their holes.
  return enclosed(assembly).filter(({ kind }) => kind === 'add-on' || kind === 'cooler').flatMap((body) => {
    const { x, y } = body.solid
    const lacksMm = Math.max(inside.x![0] - x[0], x[1] - inside.x![1], inside.y![0] - y[0], y[1] - inside.y![1],
      length(x) - length(inside.x!))
    return lacksMm > TOUCHES_MM ? [{ body, lacksMm }] : []
  })
}
