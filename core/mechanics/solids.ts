/**
 * Solids that stand upright: boxes along the axes, and cylinders about a standing axis. How far two are apart is exact
 * for both, because each is a flat shape through a range of heights. All in mm, in the frame of the board: x to the
 * right, y away from you, z up from its upper face.
 */

export type Range = readonly [from: number, to: number]

export interface Solid {
  shape: 'box' | 'cylinder'
  /** Of a cylinder as wide as it is deep. */
  x: Range
  y: Range
  z: Range
}

export const box = (x: Range, y: Range, z: Range): Solid => ({ shape: 'box', x, y, z })
export const middle = ([from, to]: Range): number => (from + to) / 2
export const length = ([from, to]: Range): number => to - from
/** A range of a length about a middle. */
export const about = (at: number, long: number): Range => [at - long / 2, at + long / 2]
export const moved = (solid: Solid, dx: number, dy: number, dz = 0): Solid => ({
  ...solid, x: [solid.x[0] + dx, solid.x[1] + dx], y: [solid.y[0] + dy, solid.y[1] + dy],
  z: [solid.z[0] + dz, solid.z[1] + dz],
})

/** Between two ranges; negative by how far one has to be moved until they only touch. */
const apart = ([a, b]: Range, [c, d]: Range): number => Math.max(c - b, a - d)

/**
 * Along a way of two independent parts: straight past the corner where both are apart, else what keeps them apart most.
 */
const joined = (one: number, two: number): number => one > 0 && two > 0 ? Math.hypot(one, two) : Math.max(one, two)

/**
 * Shortest way between two solids in mm; 0 where they touch. Where they are in one another it is negative: the least
 * way by which one has to be moved, straight up or sideways, until they only touch.
 */
export const gapOf = (a: Solid, b: Solid): number => joined(flatGap(a, b), apart(a.z, b.z))

/** The same, seen from above only. */
export function flatGap(a: Solid, b: Solid): number {
  if (a.shape === 'box' && b.shape === 'box') return joined(apart(a.x, b.x), apart(a.y, b.y))
  if (a.shape === 'cylinder' && b.shape === 'cylinder') {
    return Math.hypot(middle(a.x) - middle(b.x), middle(a.y) - middle(b.y)) - length(a.x) / 2 - length(b.x) / 2
  }
  const [round, square] = a.shape === 'cylinder' ? [a, b] : [b, a]
  const [cx, cy] = [middle(round.x), middle(round.y)]
  return joined(apart([cx, cx], square.x), apart([cy, cy], square.y)) - length(round.x) / 2
}

/** The smallest box about all of them; null for none. */
export function boundsOf(solids: readonly Solid[]): Solid | null {
  if (!solids.length) return null
  const over = (axis: 'x' | 'y' | 'z'): Range =>
    [Math.min(...solids.map(solid => solid[axis][0])), Math.max(...solids.map(solid => solid[axis][1]))]
  return box(over('x'), over('y'), over('z'))
}
