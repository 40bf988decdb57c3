/**
 * Clearances between bodies against points sampled on them (memory: a box or a cylinder is where its points are), and
 * plugs in sockets against every way to put them in. The outline and holes of a board against the figures that makers
 * measure. memory: 85 × 56 mm, holes 58 × 49 mm, 3.5 mm from the edge; a tiny one 65 × 30 mm, holes 58 × 23 mm
 */
import { describe, expect, it } from 'vitest'
import { boundsOf, box, flatGap, gapOf, moved, type Solid } from '../../core/mechanics/solids'
import { sittings, TOUCHES_MM } from '../../core/mechanics/plug-fit'
import { laidOut } from '../../core/mechanics/lay-out'
import { catalogue } from '../plans'
import { random } from '../random'

type Point = readonly [number, number, number]

const GRID = 14
/** Points all through a solid, its skin among them. */
function pointsIn({ shape, x, y, z }: Solid): Point[] {
  const points: Point[] = []
  const steps = Array.from({ length: GRID + 1 }, (_, i) => i / GRID)
  const at = ([a, b]: readonly [number, number], share: number) => a + (b - a) * share
  for (const h of [0, 0.25, 0.5, 0.75, 1]) {
    if (shape === 'box') for (const u of steps) for (const v of steps) points.push([at(x, u), at(y, v), at(z, h)])
    else for (const u of steps) for (const v of steps) {
      const radius = (x[1] - x[0]) / 2 * u
      points.push([
        (x[0] + x[1]) / 2 + radius * Math.cos(2 * Math.PI * v), (y[0] + y[1]) / 2 + radius * Math.sin(2 * Math.PI * v),
        at(z, h),
      ])
    }
  }
  return points
}

const inside = ({ shape, x, y, z }: Solid, [px, py, pz]: Point) => pz > z[0] && pz < z[1] && (shape === 'box'
  ? px > x[0] && px < x[1] && py > y[0] && py < y[1]
  : Math.hypot(px - (x[0] + x[1]) / 2, py - (y[0] + y[1]) / 2) < (x[1] - x[0]) / 2)

/** From a point to a solid, by what each of them is. */
function toSolid({ shape, x, y, z }: Solid, [px, py, pz]: Point): number {
  const past = (value: number, [from, to]: readonly [number, number]) => Math.max(from - value, 0, value - to)
  const flat = shape === 'box'
    ? Math.hypot(past(px, x), past(py, y))
    : Math.max(0, Math.hypot(px - (x[0] + x[1]) / 2, py - (y[0] + y[1]) / 2) - (x[1] - x[0]) / 2)
  return Math.hypot(flat, past(pz, z))
}

function anySolid(next: () => number): Solid {
  const at = () => next() * 40
  const [x, y, z, wide] = [at(), at(), at(), 3 + next() * 20]
  return next() < 0.5
    ? box([x, x + wide], [y, y + 3 + next() * 20], [z, z + 2 + next() * 15])
    : { shape: 'cylinder', x: [x, x + wide], y: [y, y + wide], z: [z, z + 2 + next() * 15] }
}

describe('the clearance of two bodies', () => {
  it('is the shortest way between points of both, apart and in one another', () => {
    const next = random(5)
    const seen = { apart: 0, within: 0 }
    for (let i = 0; i < 400; i++) {
      const [a, b] = [anySolid(next), anySolid(next)]
      const gap = gapOf(a, b)
      expect(gapOf(b, a)).toBeCloseTo(gap, 9)
      const sampled = Math.min(...pointsIn(a).map(point => toSolid(b, point)))
      if (gap >= 0) {
        seen.apart++
        // No point is nearer than it says, and one is about as near.
        expect(sampled).toBeGreaterThan(gap - 1e-9)
        expect(sampled).toBeLessThan(gap + 1.6)
      }
      else {
        seen.within++
        if (gap < -1.6) expect(sampled).toBeLessThan(0.5)
        else expect(sampled).toBeLessThan(1.6)
        // Straight away by so much along one of the ways and they are apart; by less, along none of them.
        const round = Array.from({ length: 720 },
          (_, turn): Point => [Math.cos(turn * Math.PI / 360), Math.sin(turn * Math.PI / 360), 0])
        const ways: Point[] = [...round, [0, 0, 1], [0, 0, -1]]
        const after = (by: number) => ways.map(([x, y, z]) => gapOf(a, moved(b, x * by, y * by, z * by)))
        expect(Math.max(...after(-gap + 1e-6))).toBeGreaterThanOrEqual(-1e-3)
        expect(Math.max(...after(-gap * 0.9))).toBeLessThan(0)
      }
    }
    expect(Math.min(seen.apart, seen.within)).toBeGreaterThan(30)
  })

  it('is seen from above what it is when both reach as high', () => {
    const next = random(6)
    for (let i = 0; i < 200; i++) {
      const [a, b] = [anySolid(next), anySolid(next)].map(solid => ({ ...solid, z: [0, 1000] as const }))
      expect(flatGap(a!, b!)).toBeCloseTo(gapOf(a!, b!), 9)
      expect(inside(a!, [(a!.x[0] + a!.x[1]) / 2, (a!.y[0] + a!.y[1]) / 2, 5])).toBe(true)
    }
  })
})

describe('plugs in sockets', () => {
  it('go in with as little in one another as the best of all ways has', () => {
    const next = random(7)
    let within = 0
    for (let i = 0; i < 120; i++) {
      const [count, sockets] = [1 + Math.floor(next() * 4), 2 + Math.floor(next() * 3)]
      // Sockets in pairs, one above the other, as boards have them.
      const solids = Array.from({ length: count }, () => {
        const [wide, high] = [10 + next() * 14, 5 + next() * 6]
        return Array.from({ length: sockets }, (_, at) => {
          const [y, z] = [Math.floor(at / 2) * 18, (at % 2) * 8]
          return box([0, 30], [y - wide / 2, y + wide / 2], [z - high / 2, z + high / 2])
        })
      })
      const overlap = (ways: readonly (number | null)[]) => ways.reduce<number>((sum, at,
        one) => sum + ways.slice(one + 1).reduce<number>(
        (more, other, j) => at === null || other === null
          ? more
          : more + Math.max(0, -gapOf(solids[one]![at]!, solids[one + 1 + j]![other]!) - TOUCHES_MM), 0), 0)
      const found = sittings(solids, solids.map(() => null))
      const used = found.filter(at => at !== null)
      expect(new Set(used).size).toBe(used.length)
      expect(used.length).toBe(Math.min(count, sockets))
      const all = everyWay(count, sockets).filter(way => way.filter(at => at !== null).length === used.length)
      expect(overlap(found)).toBeCloseTo(Math.min(...all.map(overlap)), 9)
      if (overlap(found) > 0) within++
    }
    expect(within).toBeGreaterThan(5)
  })

  it('keep what the maker chose', () => {
    const solids = [0, 1].map(() => [0, 1, 2].map(at => box([0, 9], [at * 20, at * 20 + 5], [0, 5])))
    expect(sittings(solids, [2, null])).toEqual([2, 0])
    expect(sittings(solids, [1, 1])).toEqual([1, 0])
  })
})

function everyWay(count: number, sockets: number): (number | null)[][] {
  if (!count) return [[]]
  return everyWay(count - 1, sockets).flatMap(way => [null, ...Array(sockets).keys()]
    .filter(at => at === null || !way.includes(at)).map(at => [...way, at]))
}

describe('things laid out', () => {
  it('lie on nothing, and on a sheet that is no strip', () => {
    const next = random(8)
    for (let i = 0; i < 60; i++) {
      const there = next() < 0.8 ? box([0, 85], [0, 56], [0, 20]) : null
      const sizes = Array.from({ length: 1 + Math.floor(next() * 25) },
        () => [5 + next() * 90, 5 + next() * 70] as const)
      const places = laidOut(sizes, there)
      const all = [...there ? [there] : [],
        ...places.map(([x, y], at) => box([x, x + sizes[at]![0]], [y, y + sizes[at]![1]], [0, 1]))]
      all.forEach((one, at) => all.slice(at + 1).forEach(other => expect(flatGap(one, other)).toBeGreaterThan(5)))
      const { x, y } = boundsOf(all)!
      if (sizes.length > 6) expect((x[1] - x[0]) / (y[1] - y[0])).toBeLessThan(3.2)
    }
  })
})

describe('the bodies of boards', () => {
  it.each([...catalogue.boards.values()].map(board => [board.id, board] as const))('%s is as large as such boards are',
    (_, board) => {
      const body = board.body!
      expect([body.widthMm, body.depthMm]).toEqual(board.outline === 'third' ? [65, 30] : [85, 56])
      const holes = body.holes ?? []
      const span = (of: 'xMm' | 'yMm') =>
        Math.max(...holes.map(hole => hole[of])) - Math.min(...holes.map(hole => hole[of]))
      if (holes.length) expect([span('xMm'), span('yMm'), holes[0]!.xMm, holes[0]!.yMm])
        .toEqual([58, board.outline === 'third'
          ? 23
          : 49, 3.5, 3.5])
      const sockets = body.standing!.flatMap(entry => entry.kind === 'socket' ? [entry.socket] : [])
      // As many sockets as the board's file counts; a flat-cable socket of some takes a camera as well.
      for (const kind of ['usb', 'video', 'fan'] as const) {
        expect(sockets.filter(socket => socket === kind).length, kind).toBe(board.sockets[kind] ?? 0)
      }
      expect(sockets.filter(socket => socket === 'display').length).toBe(board.sockets.display ?? 0)
      expect(body.standing!.filter(({ kind }) => kind === 'processor')).toHaveLength(1)
      // Its header lies on it, and nothing that stands on the board stands in anything else of it.
      const last = body.headerAt!.xMm + (board.header.length / 2 - 1) * 2.54
      expect(last).toBeLessThan(body.widthMm)
      const solids = body.standing!.filter(({ under }) => !under)
        .map(({ xMm, yMm, widthMm, depthMm, fromMm = 0, toMm }) =>
          box([xMm, xMm + widthMm], [yMm, yMm + depthMm], [fromMm, toMm]))
      solids.forEach((one,
        i) => solids.slice(i + 1).forEach(other => expect(gapOf(one, other)).toBeGreaterThanOrEqual(0)))
    })
})
