/**
 * Steps of a build and their order: laws over generated plans and benches, brute force, and orders checked by a checker
 * of its own.
 */
import { describe, expect, it } from 'vitest'
import { gatherFacts } from '../../../core/facts/gather'
import { netlistOf } from '../../../core/netlist/build'
import { powerOf } from '../../../core/power/report'
import { wiresOf } from '../../../core/construction/wires'
import { stepsOf } from '../../../core/construction/from-facts'
import { buildOf, isDone, stepKey } from '../../../core/construction/steps'
import { workbenchOf } from '../../../core/construction/steps/make'
import { bestOrder, brokenBy, costOf, smallestCircle } from '../../../core/construction/steps/order'
import type { Workbench, Precedence, Side, BuildStep, Tool } from '../../../core/construction/steps/types'
import { evaluate } from '../../../core/evaluate'
import { applyEdit } from '../../../core/plan/edits'
import type { Plan } from '../../../core/plan/types'
import { demoPlans } from '../../../demo'
import { anyBench } from '../../benches'
import { anyPlan, placedPlans } from '../../generated'
import { catalogue, planOf } from '../../plans'

const built = (plan: Plan) => {
  const facts = gatherFacts(plan, catalogue)
  const netlist = netlistOf(facts, powerOf(facts).tree)
  const wires = wiresOf(facts, netlist)
  return { facts, netlist, wires, bench: workbenchOf(facts, netlist, wires), build: buildOf(facts, netlist, wires) }
}

/** A checker that shares nothing with the search: each step once, and each rule by its places. */
function faultsOf(ids: readonly string[], { steps, precedences }: Workbench): string[] {
  const faults = steps.filter(({ id }) => ids.filter(other => other === id).length !== 1)
    .map(({ id }) => `${id} is not there once`)
  for (const { first,
    then } of precedences) if (ids.indexOf(first) > ids.indexOf(then)) faults.push(`${then} before ${first}`)
  return faults
}

const PLANS = [...demoPlans, ...placedPlans(40), ...Array.from({ length: 20 }, (_, i) => anyPlan(i + 900))]

describe('steps of a plan', () => {
  it('have every component and every conductor of the netlist exactly once', () => {
    for (const plan of PLANS) {
      const { netlist, bench } = built(plan)
      const components = bench.steps.flatMap(step => step.components)
      const conductors = bench.steps.flatMap(step => step.conductors)
      expect([...components].sort()).toEqual(netlist.components.map(({ id }) => id).sort())
      expect([...conductors].sort()).toEqual(netlist.conductors.map(({ id }) => id).sort())
      expect(new Set(bench.steps.map(({ id }) => id)).size).toBe(bench.steps.length)
    }
  })

  it('go in an order that keeps every rule, the supply after all that it feeds, the lid last', () => {
    for (const plan of PLANS) {
      const { bench, build } = built(plan)
      expect(build.circle).toBeNull()
      expect(faultsOf(build.best!.ids, bench)).toEqual([])
      const ids = build.steps.map(({ id }) => id)
      const supply = ids.indexOf('supply')
      for (const id of ids.filter(id =>
        /^(part|seat|power|splices)/.test(id))) if (supply >= 0) expect(ids.indexOf(id)).toBeLessThan(supply)
      if (ids.includes('trial')) expect(ids.slice(ids.indexOf('trial') + 1).every(id => id === 'lid')).toBe(true)
      expect(build.minutes).toBeGreaterThan(0)
    }
  })

  it('say how, and what has to be seen; what cannot be taken back is marked', () => {
    for (const plan of PLANS) for (const step of built(plan).bench.steps) {
      expect(step.how.every(words => /[.:]$/.test(words)), step.id).toBe(true)
      expect(step.check).toMatch(/\.$/)
      expect(step.title.length).toBeGreaterThan(3)
    }
    const { bench } = built(planOf('tiny-unpopulated',
      { pins: 'header-forty', lamp: 'led-plain', card: 'card-memory-32' }))
    expect(bench.steps.find(({ id }) => id === 'header:pins'))
      .toMatchObject({ undo: null, side: 'bottom', tool: 'iron', hold: true })
    expect(bench.steps.find(({ id }) => id === 'image')!.undo).toBeNull()
  })

  it('solder first, cool before what covers the chip, card before a case that hides its slot', () => {
    const closed = built(planOf('forty-usb-c', {
      box: 'case-closed', fins: 'cooler-fins', card: 'card-memory-32', voice: 'audio-add-on', screen: 'panel-flat-7',
    })).build.steps.map(({ id }) => id)
    const order = (...ids: string[]) => expect(ids.map(id => closed.indexOf(id)))
      .toEqual(ids.map(id => closed.indexOf(id)).sort((a,
        b) => a - b))
    order('cool:fins', 'case:box', 'seat:voice')
    order('image', 'card:card', 'case:box')
    order('part:screen', 'seat:voice')
    order('shorts', 'supply', 'trial', 'lid')
    const open = built(planOf('forty-usb-c',
      { card: 'card-memory-32', lamp: 'led-plain' })).build.steps.map(({ id }) => id)
    expect(open.indexOf('card:card')).toBeGreaterThan(open.indexOf('part:lamp'))
  })

  it('are done when their wires are and nothing holds; what was ticked and is no more has to be taken off', () => {
    const plan = placedPlans(1)[0]!
    const { bench } = built(plan)
    const step = bench.steps.find(({ conductors }) => conductors.length > 0)!
    expect(isDone(step, new Set())).toBe(false)
    expect(isDone({ ...step, hold: false }, new Set(step.conductors))).toBe(true)
    expect(isDone({ ...step, hold: true }, new Set(step.conductors))).toBe(false)
    expect(isDone({ ...step, hold: true }, new Set([...step.conductors, stepKey(step.id)]))).toBe(true)
    const hive = demoPlans[0]!
    const moved: Plan = { ...hive, build: { ...hive.build, done: ['scale.dout@40', 'step:lay'] } }
    expect(built(moved).build.leftovers)
      .toEqual([{ key: 'scale.dout@40', words: expect.stringMatching(/^Take Hive scale .* off position 40 \(G21\)/) }])
    for (const demo of demoPlans) expect(built(demo).build.leftovers, demo.name).toEqual([])
  })
})

describe('an order of the maker', () => {
  it('is shown as it is, with what it breaks, and takes in steps that came later', () => {
    const hive = demoPlans[0]!
    const ids = built(hive).build.steps.map(({ id }) => id)
    const late = [...ids.filter(id => id !== 'shorts'), 'shorts']
    const own = built({ ...hive, build: { ...hive.build, order: late } }).build
    expect(own.isOwn).toBe(true)
    expect(own.steps.map(({ id }) => id)).toEqual(late)
    expect(own.broken.map(({ first, then }) => [first, then])).toEqual([['shorts', 'supply'], ['shorts', 'trial']])
    const missing = built({ ...hive, build: { ...hive.build, order: ids.filter(id => id !== 'part:clock') } }).build
    expect(missing.steps.map(({ id }) => id)).toEqual(ids)
    expect(missing.broken).toEqual([])
  })

  it('is judged as it is shown, with steps that came later', () => {
    for (const plan of PLANS.slice(0, 25)) {
      const ids = built(plan).build.steps.map(({ id }) => id)
      const turned = { ...plan, build: { ...plan.build, order: [...ids].reverse().filter((_, i) => i % 3 !== 1) } }
      const { broken } = built(turned).build
      const finding = evaluate(turned, catalogue).findings.find(({ code }) => code === 'build.too-late')
      expect(finding !== undefined).toBe(broken.length > 0)
      expect(finding?.severity === 'stop').toBe(broken.some(({ then }) => then === 'supply'))
      if (finding) {
        const mended = applyEdit(turned, { edit: 'all', edits: finding.fixes[0]!.edits }).plan
        expect(evaluate(mended, catalogue).findings.some(({ code }) => code.startsWith('build.'))).toBe(false)
      }
    }
  })

  it('and its rules go with the part that they are about', () => {
    const hive = demoPlans[0]!
    const ids = built(hive).build.steps.map(({ id }) => id)
    const rules = [{ first: 'part:scale', then: 'part:clock', why: 'the clock sits above' }]
    const { plan } = applyEdit({ ...hive, build: { ...hive.build, order: ids, rules, done: ['step:part:scale'] } },
      { edit: 'remove-part', id: 'scale' })
    expect(plan.build.order).toEqual(ids.filter(id => id !== 'part:scale'))
    expect(plan.build.rules).toEqual([])
    expect(plan.build.done.filter(key => key.startsWith('step:'))).toEqual([])
  })

  it('that goes round in a circle is told by its smallest one', () => {
    const hive = demoPlans[0]!
    const rules = [{ first: 'supply', then: 'part:scale', why: 'I want to see its lamp' }]
    const { build } = built({ ...hive, build: { ...hive.build, rules } })
    expect(build.best).toBeNull()
    expect(build.circle!.some(({ own }) => own)).toBe(true)
    expect(build.circle!.length).toBeLessThanOrEqual(3)
    build.circle!.forEach(({ then }, i, all) => expect(all[(i + 1) % all.length]!.first).toBe(then))
    const finding = evaluate({ ...hive, build: { ...hive.build, rules } }, catalogue).findings.find(({ code }) =>
      code === 'build.circle')!
    expect(finding.severity).toBe('stop')
    const mended = applyEdit({ ...hive, build: { ...hive.build, rules } },
      { edit: 'all', edits: finding.fixes[0]!.edits }).plan
    expect(evaluate(mended, catalogue).findings.some(({ code }) => code === 'build.circle')).toBe(false)
  })

  it('with a step that comes too late is a caution, and the computed order mends it', () => {
    const hive = demoPlans[0]!
    const ids = built(hive).build.steps.map(({ id }) => id)
    const plan = { ...hive, build: { ...hive.build, order: ['supply', ...ids.filter(id => id !== 'supply')] } }
    const finding = evaluate(plan, catalogue).findings.find(({ code }) => code === 'build.too-late')!
    expect(finding.severity).toBe('stop')
    const mended = applyEdit(plan, { edit: 'all', edits: finding.fixes[0]!.edits }).plan
    expect(evaluate(mended, catalogue).findings.some(({ code }) => code.startsWith('build.'))).toBe(false)
  })
})

function* permutations(list: readonly string[]): Generator<string[]> {
  if (!list.length) yield []
  for (const [i, one] of list.entries()) for (const rest of permutations([...list.slice(0, i),
    ...list.slice(i + 1)])) yield [one, ...rest]
}

describe('the best order', () => {
  it('is as good as the best of all orders, tried one by one', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const bench = anyBench(seed, 6)
      const best = bestOrder(bench)!
      expect(best.isBest).toBe(true)
      expect(faultsOf(best.ids, bench)).toEqual([])
      let min = [Infinity, Infinity]
      for (const ids of permutations(bench.steps.map(({ id }) => id))) {
        if (faultsOf(ids, bench).length) continue
        const { flips, toolChanges } = costOf(ids, bench.steps)
        if (flips < min[0]! || (flips === min[0] && toolChanges < min[1]!)) min = [flips, toolChanges]
      }
      expect([best.flips, best.toolChanges], `seed ${seed}`).toEqual(min)
    }
  })

  it('of forty steps is found, keeps every rule, and is no worse than going as the rules were written', () => {
    for (let seed = 1; seed <= 6; seed++) {
      const bench = anyBench(seed + 100, 40)
      const best = bestOrder(bench)!
      expect(faultsOf(best.ids, bench)).toEqual([])
      expect(brokenBy(best.ids, bench.precedences)).toEqual([])
    }
  })

  it('counts turns and tools by what lies between, not by steps that do not mind', () => {
    const step = (id: string, side: Side, tool: Tool): BuildStep => ({ ...anyBench(1, 1).steps[0]!, id, side, tool })
    const steps = [step('a', 'top', 'iron'), step('b', 'any', 'none'), step('c', 'top', 'iron'),
      step('d', 'bottom', 'meter')]
    expect(costOf(['a', 'b', 'c', 'd'], steps)).toEqual({ flips: 1, toolChanges: 1 })
    expect(costOf(['a', 'd', 'b', 'c'], steps)).toEqual({ flips: 2, toolChanges: 2 })
    expect(costOf(['b'], steps)).toEqual({ flips: 0, toolChanges: 0 })
  })

  it('is none where rules go round, and the circle is the smallest one', () => {
    const bench = anyBench(3, 6)
    const ring = (...ids: string[]) =>
      ids.map((first, i): Precedence => ({ first, then: ids[(i + 1) % ids.length]!, why: 'so' }))
    const both = { steps: bench.steps, precedences: [...ring('s0', 's1', 's2', 's3'), ...ring('s4', 's5')] }
    expect(bestOrder(both)).toBeNull()
    expect(smallestCircle(both)!.map(({ first }) => first).sort()).toEqual(['s4', 's5'])
    expect(smallestCircle({ ...bench, precedences: [] })).toBeNull()
  })
})

describe('an order of the maker\'s on a plan that lost its board', () => {
  it('is judged all the same: no rule names a step that is not there', () => {
    const plan = planOf(null, { led: 'led-plain', stick: 'modem-wide-stick' })
    const facts = gatherFacts({ ...plan, build: { ...plan.build, order: ['part:stick', 'lay'] } }, catalogue)
    const { bench, steps, broken } = stepsOf(facts)
    const ids = new Set(bench.steps.map(({ id }) => id))
    for (const { first, then } of bench.precedences) expect(ids.has(first) && ids.has(then), `${first} ${then}`)
      .toBe(true)
    expect(steps.map(({ id }) => id).sort()).toEqual([...ids].sort())
    expect(broken.map(({ first }) => first)).toContain('lay')
  })
})
