/**
 * Ways of harnesses and cables on a sheet seen from above or below: along lanes above everything and
 * channels beside it.
 */
import { partOfKey, wireEnds } from '../plan/ids'
import type { PlacedBody } from './bodies'
import { trunkWay, type Outline, type Sheet } from './seen'

/** A bundle that ends at one part. */
export interface Run {
  /** The part. */
  owner: string
  body: PlacedBody
  /** What it leaves the board by. */
  starts: PlacedBody[]
  kind: 'wires' | 'cable' | 'flat cable'
  /** Wires in it; 1 for a cable. */
  count: number
}

/** Of the sheet, mm: between two lanes above everything, and between two channels on its left. */
const LANE_MM = 5
/** Many lanes lie closer together: all of them take no more than this. */
const LANES_MM = 60
const laneMm = (runs: number) => Math.min(LANE_MM, LANES_MM / Math.max(1, runs))
const CHANNEL_MM = 2.4
/**
 * From what stands in the middle to the first way beside it, and between two such, mm; they lie in the aisle before
 * what is laid out.
 */
const AISLE_MM = 2
const IN_AISLE_MM = 1.5
/** All of them together. */
const ASIDES_MM = 7
const EDGE_MM = 4
/** A way over the edge of the board is drawn so far. */
const OVER_MM = 6

/**
 * Everything that joins a part of the plan to its board, with both ends in the picture. `wires`: keys of the wire list.
 */
export function runsOf(bodies: readonly PlacedBody[], wires: readonly { key: string }[]): Run[] {
  const positions = new Map<string, number[]>()
  for (const { key } of wires) {
    const { from, to } = wireEnds(key)
    const owner = partOfKey(from)
    if (!owner || !to || !/^\d+$/.test(to) || owner === 'splice') continue
    positions.set(owner, [...positions.get(owner) ?? [], Number(to)])
  }
  const partOf = (owner: string) =>
    bodies.find(({ id, laid, kind }) => id === owner && (laid || kind === 'part' || kind === 'fan'))
  const harnesses = [...positions].flatMap(([owner, at]): Run[] => {
    const body = partOf(owner)
    const starts = at.flatMap(position => bodies.find(({ id }) => id === `@wire.${position}`) ?? [])
    return body && starts.length ? [{ owner, body, starts, kind: 'wires', count: at.length }] : []
  })
  const cables = bodies.filter(({ kind, id }) => kind === 'cable' && (id.endsWith('.turn') || id.endsWith('.flat')))
    .flatMap((cable): Run[] => {
      const body = partOf(cable.owner)
      const kind = cable.id.endsWith('.flat') ? 'flat cable' : 'cable'
      return body ? [{ owner: cable.owner, body, starts: [cable], kind, count: 1 }] : []
    })
  return [...harnesses, ...cables]
}

/** The sheet with room for so many ways above and on its left. */
export const withLanes = (sheet: Sheet, runs: number): Sheet => {
  const [over, left] = [runs ? runs * laneMm(runs) + 6 : 0, runs * CHANNEL_MM]
  return { ...sheet, x: sheet.x - left - EDGE_MM, y: sheet.y - over, width: sheet.width + left + 2 * EDGE_MM,
    height: sheet.height + over + EDGE_MM }
}

/** To what the board stands on: over the nearest edge of the board, and down. */
function overTheEdge(starts: readonly Outline[], shapes: readonly Outline[]): number[][] | null {
  const board = shapes.find(({ body }) => body.id === '@board')
  if (!board) return null
  const x = starts.reduce((sum, shape) => sum + shape.x + shape.width / 2, 0) / starts.length
  const y = starts.reduce((sum, shape) => sum + shape.y + shape.height / 2, 0) / starts.length
  const edges = [
    { far: x - board.x, to: [board.x - OVER_MM, y] },
    { far: board.x + board.width - x, to: [board.x + board.width + OVER_MM, y] },
    { far: y - board.y, to: [x, board.y - OVER_MM] },
    { far: board.y + board.height - y, to: [x, board.y + board.height + OVER_MM] },
  ]
  return [[x, y], edges.reduce((nearest, other) => other.far < nearest.far ? other : nearest).to]
}

/**
 * Corners of a run on a sheet with lanes; it crosses its part only where the board stands on it. `i`: its place among
 * all of them.
 */
export function runOf(run: Run, i: number, runs: number, { shapes, x, y }: Sheet): number[][] | null {
  const to = shapes.find(({ body }) => body === run.body)
  const starts = shapes.filter(({ body }) => run.starts.includes(body))
  if (!to || !starts.length) return null
  const lane = y + EDGE_MM + i * laneMm(runs)
  const channel = x + EDGE_MM + i * CHANNEL_MM
  const middle = starts.reduce((sum, shape) => sum + shape.x + shape.width / 2, 0) / starts.length
  const top = Math.min(...starts.map(shape => shape.y))
  if (run.body.ground) return overTheEdge(starts, shapes)
  if (run.kind === 'wires') return trunkWay([middle, top], to, lane, channel)
  const [start] = starts as [Outline]
  const still = shapes.filter(({ body }) => !body.laid)
  const [left, right, low] = [Math.min(...still.map(shape => shape.x)),
    Math.max(...still.map(shape => shape.x + shape.width)),
    Math.max(...still.map(shape => shape.y + shape.height))]
  const [at, centre] = [start.y + start.height / 2, start.x + start.width / 2]
  const aside = AISLE_MM + i * Math.min(IN_AISLE_MM, ASIDES_MM / runs)
  // Where it ends is where it looks out: the side of everything that stands that it is nearest to.
  const sides = [{ way: 'left', far: start.x - left }, { way: 'right', far: right - start.x - start.width },
    { way: 'near', far: low - start.y - start.height }].sort((a, b) => a.far - b.far)
  switch (sides[0]!.way) {
    case 'left': return [[start.x, at], ...trunkWay([left - aside, at], to, lane, channel)]
    case 'right': return [[start.x + start.width, at], ...trunkWay([right + aside, at], to, lane, channel)]
    default: return [[centre, start.y + start.height], [centre, low + aside],
      ...trunkWay([right + aside, low + aside], to, lane, channel)]
  }
}
