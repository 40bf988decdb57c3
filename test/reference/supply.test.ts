/**
 * Whole plans against a second opinion that shares no code with the solver (`test/supply.ts`: the ladder method,
 * textbook, from the catalogue files and the published copper figures alone), and Kirchhoff's law on every report.
 */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { evaluate } from '../../core/evaluate'
import type { PowerPlan } from '../../core/plan/power'
import type { Plan } from '../../core/plan/types'
import { demoPlans } from '../../demo'
import { catalogue, fixedAt, planOf } from '../plans'
import { secondOpinion } from '../supply'
import { draws, judgedAtLeast } from '../random'

const STATES = ['idle', 'typical', 'peak'] as const
const plain = [...catalogue.parts.values()].filter(part => part.supplies.length && !part.options?.length && !part.seat)
  .map(part => part.id)
const supplies = [...catalogue.supplies.values()]
  .filter(unit => Math.abs(unit.voltageV - 5) < 0.3 && !unit.limitsCurrent)
  .map(unit => unit.id)

interface Wanted {
  board: string
  supply: string
  types: string[]
  awg: number
  lengthM: number
  between: string[]
  wires: number[]
}

const wanted: fc.Arbitrary<Wanted> = fc.record({
  board: fc.constantFrom(...catalogue.boards.keys()), supply: fc.constantFrom(...supplies),
  types: fc.array(fc.constantFrom(...plain), { maxLength: 8 }),
  awg: fc.constantFrom(14, 18, 20, 22, 24), lengthM: fc.double({ min: 0.1, max: 2, noNaN: true }),
  between: fc.array(
    fc.constantFrom('fuse-3150', 'switch-power', 'diode-ideal', 'wire-pair', 'terminal-screw', 'fuse-self-2500'),
    { maxLength: 3 },
  ),
  wires: fc.array(fc.constantFrom(18, 22, 26, 28), { minLength: 8, maxLength: 8 }),
})

/** A chain of things before the socket, thick and thin wires to the parts, some parts on header positions. */
function planFrom({ board, supply, types, awg, lengthM, between, wires }: Wanted): Plan {
  const parts = Object.fromEntries(types.map((type, i) => [`p${i}`, type]))
  const plan = planOf(board, parts, { supply: { type: supply } })
  const nodes = between.map((type, i) => ({ id: `n${i}`, type, name: `N${i}`, from: i === 0 ? '@cable' : `n${i - 1}` }))
  const on = types.flatMap((type, i) => catalogue.parts.get(type)!.supplies
    .filter(entry => entry.from === 'header')
    .map(entry => [`p${i}.${entry.id}`, entry.rail === '3V3' ? i % 2 ? 1 : 17 : i % 2 ? 2 : 4] as const))
  const figures = Object.fromEntries(on.map(([terminal], i) => [`${terminal}@wire`, { awg: wires[i % wires.length]! }]))
  return {
    ...plan, assignments: fixedAt(Object.fromEntries(on)),
    power: {
      ...plan.power, nodes, ...nodes.length && { feeds: { '@socket': nodes.at(-1)!.id } },
      figures: { ...figures, '@cable': { awg, lengthM } },
    },
  }
}

/** Node of the report at whose output a branch of the second opinion ends. */
const nodeOf = (branch: string) => branch === '@socket' ? '@5V' : branch

describe('voltages and currents of whole plans', () => {
  it('are those of the ladder method, wherever that settles', () => {
    let compared = 0
    fc.assert(fc.property(wanted, (want) => {
      const plan = planFrom(want)
      const { power } = evaluate(plan, catalogue)
      for (const id of STATES) {
        const state = power.states.find(entry => entry.id === id)!
        const second = secondOpinion(plan, id)
        if (!second || !state.ok) continue
        // A rail below the regulator's own least input, or a board near its end, is judged elsewhere.
        if (second.voltages['@socket']! < 4) continue
        compared++
        for (const [branch, voltage] of Object.entries(second.voltages)) {
          expect(state.nodes[nodeOf(branch)]!.voltageV, `${id} ${branch} V`).toBeCloseTo(voltage, 3)
        }
        for (const branch of ['@supply', '@cable', '@3V3', '@usb', ...plan.power.nodes.map(node => node.id)]) {
          const ma = second.currents[branch]
          if (ma !== undefined) expect(Math.abs(state.nodes[branch]!.currentMa - ma), `${id} ${branch} mA`)
            .toBeLessThan(0.05 + ma * 2e-4)
        }
      }
    }), { numRuns: draws(120) })
    expect(compared).toBeGreaterThan(judgedAtLeast(100))
  })

  it('with converters between: a 12 or 24 V source and a step-down or a linear regulator before the board', () => {
    const higher = fc.record({
      board: fc.constantFrom('tiny-unpopulated', 'forty-classic', 'early-26'),
      supply: fc.constantFrom('adapter-12v-2a', 'din-rail-24v-2a5', 'usb-c-pd-12v'),
      type: fc.constantFrom('step-down-5v-3a', 'step-down-5v-5a', 'regulator-linear-5v'),
      lengthM: fc.double({ min: 0.2, max: 6, noNaN: true }),
      types: fc.array(fc.constantFrom('oled-i2c', 'fan-5v', 'light-i2c', 'modem-serial', 'receiver-wide-stick'),
        { maxLength: 4 }),
    })
    let compared = 0
    fc.assert(fc.property(higher, ({ board, supply, type, lengthM, types }) => {
      const base = planOf(board, Object.fromEntries(types.map((entry, i) => [`p${i}`, entry])),
        { supply: { type: supply } })
      const plan: Plan = {
        ...base,
        power: {
          ...base.power, nodes: [{ id: 'reg', type, name: 'Regulator', from: '@cable' }], feeds: { '@socket': 'reg' },
          figures: { '@cable': { lengthM } },
        },
      }
      for (const id of STATES) {
        const state = evaluate(plan, catalogue).power.states.find(entry => entry.id === id)!
        const second = secondOpinion(plan, id)
        if (!second || !state.ok) continue
        compared++
        expect(state.nodes['@5V']!.voltageV).toBeCloseTo(second.voltages['@socket']!, 3)
        expect(state.nodes['@supply']!.currentMa).toBeCloseTo(second.currents['@supply']!, 0)
        expect(state.nodes.reg!.inputV!).toBeCloseTo(second.voltages['@cable']!, 3)
      }
    }), { numRuns: draws(60) })
    expect(compared).toBeGreaterThan(judgedAtLeast(60))
  })

  it('a plan that the ladder method settles well above the sign is never called a brown-out', () => {
    fc.assert(fc.property(wanted, (want) => {
      const plan = planFrom(want)
      const { power } = evaluate(plan, catalogue)
      for (const id of STATES) {
        const second = secondOpinion(plan, id)
        if (second && Object.entries(second.voltages)
          .every(([branch, voltage]) => voltage > (branch === '@3V3' || /^@P(1|17)$/.test(branch)
            ? 3.1
            : 4.6) || power.nodes.find(node => node.id === branch)?.figures.ratedV?.value === 3.3)) {
          expect(power.states.find(entry => entry.id === id)!.ok, id).toBe(true)
        }
      }
    }), { numRuns: draws(80) })
  })
})

/** What flows into and out of each joint of a state, from the report alone. */
function joints(plan: Plan, stateId: string): Record<string, { inMa: number, outMa: number }> {
  const { power } = evaluate(plan, catalogue)
  const state = power.states.find(entry => entry.id === stateId)!
  const sums: Record<string, { inMa: number, outMa: number }> = {}
  const at = (joint: string) => sums[joint] ??= { inMa: 0, outMa: 0 }
  const outputOf = (id: string) => id === '@socket' || id === '@header' ? '@5V' : id
  for (const node of power.nodes) {
    const { currentMa, voltageV, inputV = 0, powerMw } = state.nodes[node.id]!
    if (node.role === 'joint') continue
    if (node.role === 'source') at(node.id).inMa += currentMa
    else {
      const converts = ['linear', 'step-down', 'step-up'].includes(node.kind) && inputV > 0
      const own = node.kind === 'hub'
        ? node.figures.ownMa!.value
        : node.kind === 'latch' ? node.figures.quiescentMa!.value : 0
      const taken = converts ? (voltageV * currentMa + powerMw) / inputV : currentMa
      const [feed] = node.from
      if (feed) at(outputOf(feed)).outMa += taken
      if (node.role === 'path') at(outputOf(node.id)).inMa += currentMa
      if (own) at(outputOf(node.id)).outMa += own
    }
  }
  return sums
}

describe('Kirchhoff\'s current law on the report', () => {
  const power = (more: Partial<PowerPlan>) => more
  const plans: [string, Plan][] = [
    ...demoPlans.map(plan => [plan.name, plan] as [string, Plan]),
    ['header and hub', (() => {
      const plan = planOf('forty-classic', { a: 'modem-wide-stick', o: 'oled-i2c' },
        { supply: { type: 'din-rail-5v-5a' } })
      return {
        ...plan,
        power: {
          ...plan.power,
          ...power({
            nodes: [
              { id: 'ha', type: 'hub-adapter-5v-4a', name: 'A' },
              { id: 'hub', type: 'hub-powered', name: 'H', from: 'ha', upstream: '@usb' },
            ],
            feeds: { '@socket': null, '@header': '@cable', 'a.usb': 'hub' },
          }),
        },
      }
    })()],
    ['latch and step-down', (() => {
      const plan = planOf('tiny-unpopulated', { f: 'fan-5v' }, { supply: { type: 'adapter-12v-2a' } })
      return {
        ...plan,
        power: {
          ...plan.power,
          ...power({
            nodes: [
              { id: 'latch', type: 'latch-power', name: 'L', from: '@cable' },
              { id: 'buck', type: 'step-down-5v-3a', name: 'B', from: 'latch' },
            ],
            feeds: { '@socket': 'buck' },
          }),
        },
      }
    })()],
  ]

  it.each(plans)('%s: what flows into each joint flows out of it', (_, plan) => {
    for (const state of ['idle', 'typical', 'peak', 'start', ...plan.power.steps.map(step => step.id)]) {
      for (const [joint, { inMa, outMa }] of Object.entries(joints(plan, state))) {
        // A source's own terminal and a joint that nothing leaves have one side only.
        if (inMa === 0 || outMa === 0) continue
        expect(Math.abs(inMa - outMa), `${state} ${joint}`).toBeLessThan(0.05 + outMa * 1e-3)
      }
    }
  })

  it.each(plans)('%s: sources give what loads take and what is lost on the way', (_, plan) => {
    const { power: report } = evaluate(plan, catalogue)
    for (const state of report.states) {
      if (!state.ok) continue
      const of = (role: string) => report.nodes.filter(node => node.role === role)
        .reduce((sum, node) => sum + state.nodes[node.id]!.powerMw, 0)
      expect(Math.abs(of('source') - of('load') - of('path')), state.id).toBeLessThan(1 + of('source') * 1e-3)
    }
  })
})
