/**
 * The cost that placement proves least, against every placement of small plans, each priced from the catalogue alone.
 */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { placePlan } from '../../../core/placement/place'
import { refOf } from '../../../core/placement/refs'
import type { Plan } from '../../../core/plan/types'
import { faultsOf } from '../../checker'
import { costOf, mayServe } from '../../cost'
import { catalogue, planOf } from '../../plans'
import { draws, judgedAtLeast } from '../../random'

const LINES = [3, 5, 7, 8, 10, 11, 12, 13, 15, 16, 18, 19, 21, 22, 23, 24, 26, 29, 31, 32, 33, 35, 36, 37, 38, 40]

/** Every set of places for the plan's signals that the checker lets stand, optional ones placed or not. */
function* everyPlacement(plan: Plan): Generator<Record<string, string>> {
  const signals = plan.parts.flatMap(part =>
    catalogue.parts.get(part.type)!.signals.map(signal => ({ key: `${part.id}.${signal.id}`, signal })))
  const board = catalogue.boards.get(plan.board!)!
  const free = LINES.filter(position => !plan.reserved.some(entry => entry.position === position))
    .map(position => `P${position}`)
  const shared = (role: string) =>
    role.startsWith('i2c.') || (role.startsWith('spi.') && role !== 'spi.select') || role === 'onewire'
  function* walk(i: number, places: Record<string, string>,
    taken: Map<string, string>): Generator<Record<string, string>> {
    if (i === signals.length) {
      if (faultsOf(plan, places).every(fault =>
        fault.endsWith('has no place')
        && !signals.some(({ key, signal }) => !signal.optional && fault.startsWith(`${key} `)))) {
        yield places
      }
      return
    }
    const { key, signal } = signals[i]!
    for (const ref of free.filter(place => mayServe(board, signal, place))) {
      const there = taken.get(ref)
      if (there !== undefined && !(shared(signal.role) && there === signal.role)) continue
      yield* walk(i + 1, { ...places, [key]: ref }, new Map([...taken, [ref, signal.role]]))
    }
    if (signal.optional) yield* walk(i + 1, places, taken)
  }
  yield* walk(0, {}, new Map())
}

/** Least cost over all placements and all addresses. */
function minCost(plan: Plan): number {
  const straps = plan.parts.map((part) => {
    const file = catalogue.parts.get(part.type)!
    const values = file.options?.find(option => option.id === file.i2c?.addressOption)?.values
    return values ? values.slice(0, 3).map(value => ({ id: part.id, address: Number(value.value) })) : [null]
  })
  const every = straps.reduce<Record<string, number>[]>(
    (found, list) => found.flatMap(entry => list.map(next => next ? { ...entry, [next.id]: next.address } : entry)),
    [{}],
  )
  let min = Infinity
  for (const places of everyPlacement(plan)) {
    for (const addresses of every) min = Math.min(min, costOf(plan, places, addresses) ?? Infinity)
  }
  return min
}

const type = fc.constantFrom(
  'oled-i2c', 'memory-i2c', 'servo-small', 'scale-two-wire', 'stepper-driver', 'relay-bare', 'relay-board-1',
  'strip-addressable',
  'label-printer-serial', 'thermocouple-spi', 'motion-passive', 'distance-echo-5v', 'screen-epaper-29',
)
const small = fc.record({
  board: fc.constantFrom('forty-classic', 'forty-usb-c', 'forty-io-bridge'),
  types: fc.array(type, { minLength: 1, maxLength: 3 }),
  free: fc.uniqueArray(fc.constantFrom(...LINES), { minLength: 2, maxLength: 5 }),
  bus: fc.constantFrom<number[]>([3, 5], [19, 21, 23, 24, 26], [8, 10], [12, 33], []),
}).map(({ board, types, free, bus }) => planOf(
  board, Object.fromEntries(types.map((entry, i) => [`p${i}`, entry])),
  { reserved: LINES.filter(position => !free.includes(position) && !bus.includes(position))
    .map(position => ({ position })) },
))
  .filter(plan => plan.parts.flatMap(part => catalogue.parts.get(part.type)!.signals).length <= 5)

describe('the cost of small plans', () => {
  it('is the least of every placement there is, priced independently', () => {
    let compared = 0
    fc.assert(fc.property(small, (plan) => {
      const result = placePlan(plan, catalogue, { scope: 'rest' })
      if (!result.ok || result.softwareBuses.length) return
      compared++
      const places = Object.fromEntries(Object.entries(result.assignments).map(([key, to]) => [key, refOf(to)]))
      const own = costOf(plan, places,
        Object.fromEntries(result.straps.map(strap => [strap.partId, Number(strap.value)])))
      expect(own).toBeCloseTo(result.cost, 2)
      expect(result.cost).toBeCloseTo(minCost(plan), 2)
    }), { numRuns: draws(200), seed: 20261126 })
    expect(compared).toBeGreaterThan(judgedAtLeast(40))
  })
})
