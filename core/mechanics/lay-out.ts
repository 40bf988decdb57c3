/** Things laid out on the table, so that all of them are seen at once. */
import type { Solid } from './solids'

/** Between things, mm. */
const AISLE_MM = 10
/** A sheet is about so much wider than deep. */
const WIDER = 1.5
const DEPTHS_MM = [70, 90, 110, 130, 150, 180, 220, 270, 330, 400, 500, 700, 1000, 1500] as const

/**
 * The near left corner of each thing of a size, in columns from the far edge down: first below what is there
 * already, then to its right. Of a row of depths the one is taken whose sheet comes nearest to a screen's. Nothing
 * lies on anything else.
 */
export function laidOut(sizes: readonly (readonly [wide: number, deep: number])[],
  there: Solid | null): [number, number][] {
  const tries = DEPTHS_MM.map(depth => columns(sizes, there, depth))
  const ratio = ({ width, depth }: Tried) => Math.abs(Math.log(width / depth / WIDER))
  return tries.reduce((best, other) => ratio(other) < ratio(best) ? other : best).places
}

interface Tried { places: [number, number][], width: number, depth: number }

function columns(sizes: readonly (readonly [number, number])[], there: Solid | null, depth: number): Tried {
  const [left, right, far, near] = there ? [there.x[0], there.x[1], there.y[1], there.y[0]] : [0, -AISLE_MM, 0, 0]
  // Below what is there, as wide as it is; then to the right of it.
  let below = near - AISLE_MM
  let [x, y, column] = [right + AISLE_MM, far, 0]
  const places = sizes.map(([wide, deep]): [number, number] => {
    if (there && wide <= right - left && below - deep >= far - depth) {
      const at: [number, number] = [left, below - deep]
      below -= deep + AISLE_MM
      return at
    }
    if (y < far && y - deep < far - depth) [x, y, column] = [x + column + AISLE_MM, far, 0]
    const at: [number, number] = [x, y - deep]
    column = Math.max(column, wide)
    y -= deep + AISLE_MM
    return at
  })
  const lowest = Math.min(near, ...places.map(([, at]) => at))
  const max = Math.max(right, ...places.map(([at], i) => at + sizes[i]![0]))
  return { places, width: Math.max(1, max - left), depth: Math.max(1, far - lowest) }
}
