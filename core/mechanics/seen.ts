/**
 * The assembly from outside, for drawing: flat shapes one behind the other, from above, from below and from
 * the near side.
 */
import type { Assembly } from './assembly'
import type { PlacedBody } from './bodies'
import { boundsOf, length, type Range, type Solid } from './solids'

export type View = 'above' | 'below' | 'near'

export interface Outline {
  body: PlacedBody
  /** Near left corner and size on the sheet, in mm; y runs downwards as on a screen. */
  x: number
  y: number
  width: number
  height: number
  round: boolean
}

export interface Sheet {
  shapes: Outline[]
  x: number
  y: number
  width: number
  height: number
}

/** Turned over about the axis away from you: what was left is right. */
const flipped = ([a, b]: Range): Range => [-b, -a]

function across(view: View, { x, y, z }: Solid): { h: Range, v: Range, order: number } {
  switch (view) {
    case 'above': return { h: x, v: flipped(y), order: z[1] }
    case 'below': return { h: flipped(x), v: flipped(y), order: -z[0] }
    case 'near': return { h: x, v: flipped(z), order: -y[0] }
  }
}

/** Shapes in the order in which they are drawn: what lies in front comes last. */
export function seenFrom({ bodies }: Pick<Assembly, 'bodies'>, view: View): Sheet {
  // Layers of low parts hide what is below them; they are seen from the side only.
  const shown = view === 'near' ? bodies : bodies.filter(({ id }) => !/\.(above|below)$/.test(id))
  const drawn = shown.map(body => ({ body, ...across(view, body.solid) })).sort((a, b) => a.order - b.order)
  const bounds = boundsOf(drawn.map(({ h, v }) => ({ shape: 'box', x: h, y: v, z: [0, 0] })))
  return {
    shapes: drawn.map(({ body, h, v }) => ({
      body, x: h[0], y: v[0], width: length(h), height: length(v),
      round: body.solid.shape === 'cylinder' && view !== 'near',
    })),
    x: bounds?.x[0] ?? 0, y: bounds?.y[0] ?? 0, width: bounds ? length(bounds.x) : 1,
    height: bounds ? length(bounds.y) : 1,
  }
}

/**
 * Way of a harness on the sheet, along the axes: out of the header, along a lane above everything, down beside its part
 * and into it. What lies below the header is come to on the left of everything, by a channel of its own.
 */
export function trunkWay(from: readonly [x: number, y: number], to: Pick<Outline, 'x' | 'y' | 'width' | 'height'>,
  lane: number,
  channel: number,
): number[][] {
  const beside = to.x <= from[0] ? channel : to.x - 3
  const into = to.y + Math.min(to.height / 2, 8)
  return [[...from], [from[0], lane], [beside, lane], [beside, into], [to.x, into]]
}
