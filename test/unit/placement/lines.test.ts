/** What a plain line costs at a place: the table of weights, applied. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { alongHeader, columnsApart, lineCost, ranked } from '../../../core/placement/lines'
import { IMPOSSIBLE } from '../../../core/placement/matching'
import { assignmentOf, columnOf, placeInWords, positionOf, refOf } from '../../../core/placement/refs'
import type { LineDemand, LineSlot } from '../../../core/placement/types'
import { quantumOf, WEIGHT_NAMES, WEIGHT_TABLE, weightsOf } from '../../../core/placement/weights'

const weights = weightsOf({ weights: {} })
const COLUMNS = 20
const line = (more: Partial<LineDemand> = {}): LineDemand => ({
  id: 'p.a', partId: 'p', label: 'p A', terminals: ['p.a'], slow: false, optional: false, analog: false, still: false,
  drives: false,
  rank: 0, ...more,
})
const place = (more: Partial<LineSlot> = {}): LineSlot => ({
  ref: 'P11', column: 5, cost: 0, resetPull: 'down', noisy: false, isAnalog: false, isExpander: false, ...more,
})
const expander = place({ ref: 'x.A0', column: null, isExpander: true, ownerId: 'x', resetPull: undefined })
const cost = (demand: LineDemand, at: LineSlot, middle?: number) => lineCost(demand, at, middle, weights, COLUMNS)

// docs/decisions/0002: 80 for what must be still, 15 for an input that idles the other way, 30 for a place that is
// left, 0.4 a column
describe('the cost of a line at a place', () => {
  it('is what the place itself costs, and more with every column from the middle of its part', () => {
    expect(cost(line(), place({ cost: 3 }))).toBe(3)
    expect(cost(line(), place(), 5)).toBe(0)
    expect(cost(line(), place(), 8)).toBeCloseTo(3 * 0.4, 9)
  })

  it('never grows past a leap, so that a far place is no worse than an expander', () => {
    expect(columnsApart(place({ column: 0 }), 19)).toBe(columnsApart(expander, 19))
    expect(columnsApart(expander, 'x')).toBe(0)
    expect(columnsApart(expander, 'another')).toBe(columnsApart(place(), 'x'))
  })

  it('is high where something still would move, less where an input only idles the other way', () => {
    expect(cost(line({ idleLevel: 'high', still: true }), place({ resetPull: 'down' }))).toBe(80)
    expect(cost(line({ idleLevel: 'high' }), place({ resetPull: 'down' }))).toBe(15)
    expect(cost(line({ idleLevel: 'high', still: true }), place({ resetPull: 'up' }))).toBe(0)
    expect(cost(line({ still: true }), place({ noisy: true }))).toBe(80)
    expect(cost(line(), place({ noisy: true }))).toBe(0)
  })

  it('is out of reach for a fast line on an expander, on one\'s own expander, and for a voltage on a line', () => {
    expect(cost(line(), expander)).toBe(IMPOSSIBLE)
    expect(cost(line({ slow: true }), expander)).toBeLessThan(IMPOSSIBLE)
    expect(cost(line({ slow: true, partId: 'x' }), expander)).toBe(IMPOSSIBLE)
    expect(cost(line({ analog: true }), place())).toBe(IMPOSSIBLE)
    expect(cost(line({ analog: true }), { ...expander, isAnalog: true })).toBeLessThan(IMPOSSIBLE)
    expect(cost(line(), { ...expander, isAnalog: true })).toBe(IMPOSSIBLE)
  })

  it('counts a place that is left, and keeps to what is insisted on', () => {
    expect(cost(line({ before: 'P13' }), place())).toBe(30)
    expect(cost(line({ before: 'P11' }), place())).toBe(0)
    expect(cost(line({ forbidden: 'P11' }), place())).toBe(IMPOSSIBLE)
    expect(cost(line({ only: 'P13' }), place())).toBe(IMPOSSIBLE)
    expect(cost(line({ only: 'P11' }), place())).toBe(0)
  })

  it('prefers connector order, wherever on the header the part lies', () => {
    const lines = ranked([line({ id: 'p.a' }), line({ id: 'p.b' }), line({ id: 'p.c' })])
    expect(lines.map(entry => entry.rank)).toEqual([-1, 0, 1])
    const total = (columns: number[]) =>
      lines.reduce((sum, entry, i) => sum + cost(entry, place({ column: columns[i]! })), 0)
    expect(total([3, 4, 5])).toBeLessThan(total([5, 4, 3]))
    fc.assert(fc.property(fc.integer({ min: 0, max: 15 }), (shift) => {
      expect(total([0 + shift, 1 + shift, 2 + shift])).toBeCloseTo(total([0, 1, 2]), 9)
    }))
  })

  it('takes an expander for the middle of the header when it comes to order', () => {
    expect(alongHeader(expander, COLUMNS)).toBe(0)
    expect(alongHeader(place({ column: 10 }), COLUMNS)).toBe(0)
    expect(alongHeader(undefined, COLUMNS)).toBe(0)
  })
})

describe('weights', () => {
  it('are the table\'s, but for those the maker replaces', () => {
    expect(weightsOf({ weights: { apart: 2, nonsense: 7 } })).toEqual({ ...weights, apart: 2 })
    for (const name of WEIGHT_NAMES) expect(WEIGHT_TABLE[name].meaning.length).toBeGreaterThan(10)
  })

  it('as shipped make every cost a whole multiple of 0.02, which lets the search stop sooner', () => {
    expect(quantumOf(weights)).toBe(0.02)
    expect(quantumOf({ ...weights, apart: 0.333 })).toBeLessThan(1e-5)
    expect(quantumOf({ ...weights, outOfOrder: 0.02 })).toBeLessThan(1e-5)
  })
})

describe('places by name', () => {
  it('go from assignment to reference and back', () => {
    fc.assert(fc.property(fc.oneof(
      fc.record({ position: fc.integer({ min: 1, max: 100 }) }),
      fc.constantFrom({ terminal: 'x.A0' }, { terminal: 'hub.SD3' }),
    ), (to) => {
      expect(assignmentOf(refOf(to))).toEqual(to)
    }))
    expect([positionOf('P12'), positionOf('x.P1'), positionOf('')]).toEqual([12, null, null])
    expect([placeInWords('P12'), placeInWords('x.A0')]).toEqual(['position 12', 'x.A0'])
    expect([1, 2, 3, 40].map(columnOf)).toEqual([0, 0, 1, 19])
  })
})
