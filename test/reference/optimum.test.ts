/**
 * Placements against an integer programme solved by HiGHS (published: Huangfu and Hall, "Parallelizing the dual revised
 * simplex method", 2018; npm package `highs`): the same least cost, over generated plans.
 */
import fc from 'fast-check'
import loadHighs from 'highs'
import { beforeAll, describe, expect, it } from 'vitest'
import { gatherFacts } from '../../core/facts/gather'
import { placePlan } from '../../core/placement/place'
import { placementProblem } from '../../core/placement/problem'
import { refOf } from '../../core/placement/refs'
import type { Plan } from '../../core/plan/types'
import { powerProgrammeOf, programmeOf } from '../optimum'
import { catalogue, fixedAt, planOf } from '../plans'
import { drawnPlans, judgedAtLeast } from '../random'

type Solver = Awaited<ReturnType<typeof loadHighs>>
let highs: Solver

beforeAll(async () => {
  highs = await loadHighs()
})

/** Least objective, or null when nothing meets the rows. */
function min(programme: string): number | null {
  const solution = highs.solve(programme, { mip_rel_gap: 0, mip_abs_gap: 1e-7, output_flag: false })
  if (solution.Status === 'Infeasible') return null
  if (solution.Status !== 'Optimal') throw new Error(`the solver says ${solution.Status}`)
  return solution.ObjectiveValue
}

const problemOf = (plan: Plan) => {
  const facts = gatherFacts(plan, catalogue)
  return placementProblem(facts, facts.board!)
}

/** The plan with long pins below the add-on boards named, or below all that can have them. */
const raisedOn = (plan: Plan,
  ids: readonly string[]): Plan => ({ ...plan, parts: plan.parts.map(part => ids.includes(part.id)
  ? { ...part, options: { ...part.options, header: 'long' } }
  : part) })
const addOns = (plan: Plan) =>
  plan.parts.filter(part => catalogue.parts.get(part.type)!.seat?.passesOption).map(part => part.id)

function compare(given: Plan): 'placed' | 'impossible' {
  const result = placePlan(given, catalogue, { scope: 'rest' })
  // What is proved least is the placement on the header as it comes out of it.
  const plan = raisedOn(given, result.ok
    ? result.straps.filter(strap => strap.option === 'header').map(strap => strap.partId)
    : addOns(given))
  const problem = problemOf(plan)
  if (problem.hopeless.length) {
    expect(result.ok).toBe(false)
    return 'impossible'
  }
  const optimum = min(programmeOf(problem))
  expect(result.ok).toBe(optimum !== null)
  if (!result.ok || optimum === null) return 'impossible'
  expect(result.provedBest).toBe(true)
  expect(result.cost).toBeCloseTo(optimum, 3)
  const signals = Object.fromEntries([
    ...Object.entries(result.assignments).map(([key, to]) => [key, refOf(to)]),
    ...gatherFacts(plan, catalogue).terminals
      .filter(t => t.is === 'signal' && t.signal!.claimsPosition)
      .map(t => [t.key, `P${t.signal!.claimsPosition}`]),
  ].filter(([key]) => problem.powerDemands.every(demand => demand.terminal !== key)))
  const powerPlaces = Object.fromEntries(problem.powerDemands.flatMap(demand => demand.fixedAt
    ? [[demand.terminal, demand.fixedAt]]
    : result.assignments[demand.terminal]
      ? [[demand.terminal, refOf(result.assignments[demand.terminal]!)]]
      : []))
  expect(result.powerCost).toBeCloseTo(min(powerProgrammeOf(problem, signals, powerPlaces)) ?? NaN, 2)
  return 'placed'
}

const types = [
  'oled-i2c', 'light-i2c', 'motion-i2c', 'clock-cell-i2c', 'expander-8-i2c', 'hub-2-i2c', 'card-reader-spi',
  'screen-spi-24',
  'thermocouple-spi', 'modem-serial', 'positioning-serial', 'servo-small', 'fan-4wire-pwm', 'strip-addressable',
  'probe-onewire',
  'relay-board-1', 'relay-board-4', 'buttons-4', 'encoder-rotary', 'scale-two-wire', 'distance-echo-5v',
  'amplifier-i2s', 'stepper-driver',
  'gas-analog', 'analog-4-i2c', 'clock-add-on',
]

const LINES = [3, 5, 7, 8, 10, 11, 12, 13, 15, 16, 18, 19, 21, 22, 23, 24, 26, 29, 31, 32, 33, 35, 36, 37, 38, 40]
const anyPlan = fc.record({
  board: fc.constantFrom('forty-classic', 'forty-usb-c', 'forty-io-bridge', 'early-26'),
  types: fc.array(fc.constantFrom(...types), { minLength: 1, maxLength: 4 }),
  reserved: fc.uniqueArray(fc.constantFrom(...LINES.slice(2)), { minLength: 12, maxLength: 19 }),
  before: fc.option(fc.record({ part: fc.nat(4), at: fc.constantFrom(...LINES), fixed: fc.boolean() })),
}).map(({ board, types, reserved, before }) => {
  const plan = planOf(
    board, Object.fromEntries(types.map((type, i) => [`p${i}`, type])),
    { reserved: reserved.map(position => ({ position })) },
  )
  const signal = before
    && catalogue.parts.get(types[before.part] ?? '')?.signals.find(entry =>
      entry.role === 'line' && entry.claimsPosition === undefined)
  if (signal) {
    plan.assignments = before.fixed
      ? fixedAt({ [`p${before.part}.${signal.id}`]: before.at })
      : { [`p${before.part}.${signal.id}`]: { position: before.at } }
  }
  return plan
})

describe('the cost of a placement', () => {
  it('is the least there is, over generated plans', () => {
    const seen = { placed: 0, impossible: 0 }
    fc.assert(fc.property(anyPlan, (plan) => {
      seen[compare(plan)]++
    }), { numRuns: drawnPlans(28), seed: 20261125 })
    expect(seen.placed).toBeGreaterThan(judgedAtLeast(12))
    expect(seen.impossible).toBeGreaterThan(judgedAtLeast(3))
  })

  it('is the least there is where several parts gather by themselves', () => {
    const few = { reserved: LINES.slice(14).map(position => ({ position })) }
    compare(planOf('forty-classic', { a: 'relay-board-4', b: 'encoder-rotary', c: 'scale-two-wire' }, few))
    compare(planOf('forty-classic',
      { k: ['keypad-matrix', { rows: '2', columns: '3' }], r: 'relay-board-4', e: 'expander-8-i2c' }, few))
  })

  it('is the least there is where straps, channels and software buses are needed', () => {
    compare(planOf(
      'forty-classic', { a: 'light-i2c', b: 'light-i2c', c: 'light-i2c' },
      { reserved: LINES.slice(12).map(position => ({ position })) },
    ))
    compare(planOf('forty-classic',
      { h: 'hub-2-i2c', a: 'light-i2c', b: 'light-i2c', c: 'motion-i2c', d: 'motion-i2c' }))
    compare(planOf('forty-classic', { a: 'servo-small', b: 'servo-small', c: 'servo-small' }))
  })
})
