import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fitRise } from '../../../core/curves/fit'
import { judgeCurve } from '../../../core/curves/judge'
import { keptReadings, MAX_KEPT } from '../../../core/curves/keep'
import { curvesIn, nameAndUnit } from '../../../core/curves/read'
import { clockSeconds, fromFirst } from '../../../core/curves/time'
import { gatherFacts } from '../../../core/facts/gather'
import { thingEdits } from '../../../core/plan/things'
import { applyEdit } from '../../../core/plan/edits'
import type { KeptCurve, Plan } from '../../../core/plan/types'
import { runHeat } from '../../../core/power/heat/run'
import { heatTask, powerOf } from '../../../core/power/report'
import { demoPlans } from '../../../demo'
import { random, draws } from '../../random'
import { catalogue, planOf } from '../../plans'

const kept = (curve: Pick<KeptCurve, 'seconds' | 'values' | 'unit'>): KeptCurve =>
  ({ id: 'c', name: 'processor', at: '2026-05-01T10:00:00.000Z', ...curve })

describe('a rise that is fitted', () => {
  it('comes to the certified figures of a standard set', () => {
    // Published: NIST Statistical Reference Datasets, nonlinear regression, Misra1a: y = b1·(1 − e^(−b2·x)); b1
    // 238.94212918, b2 5.5015643181e-4, residual standard deviation 0.10187876330 of 12 degrees of freedom.
    const x = [77.6, 114.9, 141.1, 190.8, 239.9, 289, 332.8, 378.4, 434.8, 477.3, 536.8, 593.1, 689.1, 760]
    const y = [10.07, 14.73, 17.94, 23.93, 29.61, 35.18, 40.02, 44.82, 50.76, 55.05, 61.01, 66.4, 75.47, 81.78]
    const fit = fitRise(x, y, 0)!
    expect(fit.end).toBeCloseTo(238.94212918, 3)
    expect(1 / fit.tauS).toBeCloseTo(5.5015643181e-4, 9)
    expect(fit.rms * Math.sqrt(14 / 12)).toBeCloseTo(0.1018787633, 6)
    expect(fit.isSettled).toBe(false)
  })

  it('finds start, end, time constant and the moment of the step, over generated ones with noise', () => {
    const next = random(16)
    for (let round = 0; round < 60; round++) {
      const [start, rise, tauS, restS] = [30 + 20 * next(), 5 + 30 * next(), 30 + 300 * next(), 20 + 100 * next()]
      const seconds = Array.from({ length: 300 }, (_, i) => i * (restS + 5 * tauS) / 299)
      const values = seconds.map(second => (second <= restS
        ? start
        : start + rise * (1 - Math.exp(-(second - restS) / tauS)))
      + (next() - 0.5) * 0.2)
      const fit = fitRise(seconds, values)!
      expect(Math.abs(fit.start - start)).toBeLessThan(0.5)
      expect(Math.abs(fit.end - start - rise)).toBeLessThan(0.5)
      expect(Math.abs(fit.tauS / tauS - 1)).toBeLessThan(0.15)
      expect(fit.isSettled).toBe(true)
    }
  })

  it('is none where nothing moves, with few readings, or of noise', () => {
    const seconds = Array.from({ length: 50 }, (_, i) => i)
    const next = random(3)
    expect(fitRise(seconds, seconds.map(() => 21))).toBeNull()
    expect(fitRise([0, 1, 2], [1, 2, 3])).toBeNull()
    expect(fitRise(seconds, seconds.map(() => next()))).toBeNull()
    expect(fitRise(seconds.map(() => 5), seconds)).toBeNull()
  })
})

describe('a measured load test', () => {
  const openPlan = (): Plan => {
    const plan = planOf('forty-usb-c', {})
    const { heat } = plan.power
    return { ...plan, power: { ...plan.power,
      heat: { ...heat, cooler: 'fins', enclosure: 'open', minutes: 60, load: 'typical' } } }
  }
  /** The load test that a thing with such a cooler gives, as one would store it. */
  const measuredWith = (plan: Plan, coolerKw: number): KeptCurve => {
    const { heat } = plan.power
    const facts = gatherFacts({ ...plan, power: { ...plan.power, heat: { ...heat, coolerKw } } }, catalogue)
    const { points } = runHeat(heatTask(facts, powerOf(facts), 0)!)
    return kept({ unit: '°C', seconds: points.map(({ second }) => second),
      values: points.map(({ temperatureC }) => temperatureC) })
  }

  it('gives back the resistance that made it, and what is taken predicts what was measured', () => {
    for (const kw of [5, 7.5, 9]) {
      const plan = openPlan()
      const curve = measuredWith(plan, kw)
      const { heat } = judgeCurve(gatherFacts(plan, catalogue), curve)
      expect(heat?.why).toBe('')
      expect(heat!.measured!.coolerKw / kw).toBeCloseTo(1, 1)
      const after = applyEdit(plan,
        { edit: 'set-power', power: { heat: { ...plan.power.heat, measured: heat!.measured! } } }).plan
      const again = judgeCurve(gatherFacts(after, catalogue), curve).heat!
      expect(again.predictedEndC).toBeCloseTo(curve.values.at(-1)!, 0)
      const middle = again.predicted.find(({ second }) => second >= 300)!
      expect(Math.abs(middle.temperatureC - curve.values[curve.seconds.findIndex(second => second >= 300)]!))
        .toBeLessThan(1)
      // The figure does not depend on what the plan went by before.
      expect(again.measured).toEqual(heat!.measured)
    }
  })

  it('says why nothing is taken: stopped early, falling, slowed, or cooler than can be', () => {
    const plan = openPlan()
    const facts = gatherFacts(plan, catalogue)
    const curve = measuredWith(plan, 8)
    const why = (seconds: number[],
      values: number[]) => judgeCurve(facts, kept({ unit: '°C', seconds, values })).heat?.why
    expect(why(curve.seconds.slice(0, 12), curve.values.slice(0, 12))).toMatch(/stopped before/)
    expect(why(curve.seconds, curve.values.map(value => 100 - value))).toMatch(/falls/)
    expect(why(curve.seconds, curve.values.map(value => value + 60))).toMatch(/clocks fall/)
    expect(why(curve.seconds, curve.values.map(value => (value - 25) / 50 + 15))).toMatch(/cooler than/)
  })

  it('what was measured holds in place of what is usual, until another cooler or board is chosen', () => {
    const plan = openPlan()
    const measured = { coolerKw: 30, at: '2026-05-01T10:00:00.000Z' }
    const hot = { ...plan, power: { ...plan.power, heat: { ...plan.power.heat, measured } } }
    expect(gatherFacts(hot, catalogue).plan.power.heat.measured?.coolerKw).toBe(30)
    const ownKw = (now: Plan) =>
      heatTask(gatherFacts(now, catalogue), powerOf(gatherFacts(now, catalogue)), 0)!.cooler.ownKw
    expect(ownKw(hot)).toBe(30)
    const edits = thingEdits(hot, 'cooler', catalogue.parts.get('cooler-block')!, catalogue)
    const other = applyEdit(hot, { edit: 'all', edits }).plan
    expect([gatherFacts(other, catalogue).heat.set.cooler, ownKw(other)]).toEqual(['block', undefined])
    const { plan: moved, inverse } = applyEdit(hot, { edit: 'choose-board', board: 'forty-classic' })
    expect([ownKw(moved), ownKw(applyEdit(moved, inverse).plan)]).toEqual([undefined, 30])
    expect(ownKw(applyEdit(hot, { edit: 'choose-board', board: hot.board }).plan)).toBe(30)
  })
})

describe('a measured discharge', () => {
  it('gives the capacity that explains its hours; taken, the prediction is what was measured', () => {
    const plan = demoPlans.find(entry => powerOf(gatherFacts(entry, catalogue)).report.stores.length)!
    expect(plan).toBeDefined()
    const before = powerOf(gatherFacts(plan, catalogue)).report.stores[0]!
    const hours = before.hours! * 0.8
    const curve = kept({ unit: 'V', seconds: [0, hours * 1800, hours * 3600], values: [4.1, 3.7, 3.2] })
    const { store } = judgeCurve(gatherFacts(plan, catalogue), curve)
    expect(store!.capacityMah / before.capacityMah).toBeCloseTo(0.8, 2)
    const after = applyEdit(plan,
      { edit: 'set-figure', node: store!.node, figure: 'capacityMah', value: store!.capacityMah }).plan
    const again = judgeCurve(gatherFacts(after, catalogue), curve).store!
    expect(again.predictedH / hours).toBeCloseTo(1, 1)
    expect(again.capacityMah / store!.capacityMah).toBeCloseTo(1, 2)
    // Rising volts, or a few minutes, say nothing.
    expect(judgeCurve(gatherFacts(plan, catalogue), { ...curve, values: [3, 3.5, 4] }).store).toBeNull()
    expect(judgeCurve(gatherFacts(plan, catalogue), { ...curve, seconds: [0, 60, 120] }).store).toBeNull()
  })
})

describe('readings in a text', () => {
  it.each([
    ['a table with commas', 'time,temp_c,humidity (%)\n0,21.5,40\n10,22,41\n20,22.5,42\n', 'times from "time"',
      [0, 10, 20]],
    ['a table with semicolons and decimal commas', 'seconds;Temp (°C)\n0;1,5\n10;1,6\n20;1,7\n30;1,8\n',
      'times from "seconds"',
      [0, 10, 20, 30]],
    ['a table with clocks over midnight', 'at\ttemp\n23:59:50\t21\n23:59:55\t22\n00:00:05\t23\n', 'times from "at"',
      [0, 5, 15]],
  ])('%s', (_, text, times, seconds) => {
    const read = curvesIn(text)
    expect(read).toMatchObject({ times, stray: 0 })
    expect(read.curves[0]!.unit).toBe('°C')
    expect(read.curves[0]!.seconds).toEqual(seconds)
  })

  it('moments, units and thousandths are told', () => {
    expect([clockSeconds('2026-04-18T15:00:19'), clockSeconds('15:00:19')! % 60, clockSeconds('x')]).toEqual([
      Date.UTC(2026, 3, 18, 15, 0, 19) / 1000, 19, null])
    expect(fromFirst([86_390, 86_395, 5])).toEqual([0, 5, 15])
    expect(fromFirst([100, 50])).toBeNull()
    expect([nameAndUnit('Temp (C)'), nameAndUnit('supply_v'), nameAndUnit('co2')]).toEqual([
      { name: 'Temp', unit: '°C' }, { name: 'supply', unit: 'V' }, { name: 'co2', unit: 'ppm' }])
    expect(curvesIn('48312\n48800\n49000\n').curves).toEqual([
      { name: 'temperature', unit: '°C', seconds: [0, 1, 2], values: [48.312, 48.8, 49] }])
    expect(curvesIn('temp=48.3\'C\ntemp=48.9\'C\ntemp=50.1\'C\n').curves[0]).toMatchObject(
      { name: 'temp', unit: '°C', values: [48.3, 48.9, 50.1] })
    expect(curvesIn('epoch,v\n').curves).toEqual([])
    expect(curvesIn('timestamp,volts\n1745000000000,5\n1745000001000,5.1\n1745000002000,5.2').curves[0]).toMatchObject(
      { seconds: [0, 1, 2] })
    expect(curvesIn('minutes,volts\n0,5\n1,5.1\n2,5.2').curves[0]).toMatchObject({ seconds: [0, 60, 120] })
  })

  it('sentences with a clock before them, columns of one name, lists side by side, and dates of other kinds', () => {
    const said = [1, 2, 3].map(nth => `12:00:0${nth}, temperature 2${nth}.5 °C, humidity 40 %`).join('\n')
    expect(curvesIn(said).curves.map(({ name, seconds, values }) => [name, seconds, values])).toEqual([
      ['temperature', [0, 1, 2], [21.5, 22.5, 23.5]], ['humidity', [0, 1, 2], [40, 40, 40]]])
    expect(curvesIn('s,v,v\n0,1,2\n1,3,4\n2,5,6').curves.map(({ name, values }) => [name, values])).toEqual([
      ['v', [1, 3, 5]], ['v 2', [2, 4, 6]]])
    expect(curvesIn('{"t": [0, 5, 10], "temp_c": [20, 21, 22]}').curves).toEqual([
      { name: 'temp', unit: '°C', seconds: [0, 5, 10], values: [20, 21, 22] }])
    expect(clockSeconds('18.4.2026 15:00:19')).toBe(clockSeconds('2026/04/18 15:00:19'))
  })

  it('what first programs print and serve is read', () => {
    const lines = [21.3, 21.4, 21.6].map(celsius => `temperature ${celsius} °C, pressure 998.9 hPa, humidity 45.0 %`)
      .join('\n')
    expect(curvesIn(lines).curves).toEqual([
      { name: 'temperature', unit: '°C', seconds: [0, 1, 2], values: [21.3, 21.4, 21.6] },
      { name: 'pressure', unit: 'hPa', seconds: [0, 1, 2], values: [998.9, 998.9, 998.9] },
      { name: 'humidity', unit: '%', seconds: [0, 1, 2], values: [45, 45, 45] },
    ])
    const served = [0, 30, 60].map(second => JSON.stringify({
      time: `2026-04-18T15:0${Math.floor(second / 60)}:${String(second % 60).padStart(2, '0')}Z`,
      parts: { air: { temperature: { value: 21 + second, unit: '°C' } }, scale: { error: 'no echo' } },
    }))
    for (const text of [served.join('\n'), `[${served.join(',')}]`, `{"readings": [${served.join(',')}]}`]) {
      expect(curvesIn(text).curves)
        .toEqual([{ name: 'air temperature', unit: '°C', seconds: [0, 30, 60], values: [21, 51, 81] }])
    }
  })

  it('a table of any figures is read back, whatever its marks; no text throws', () => {
    const rows = fc.array(fc.tuple(fc.double({ min: -1e6, max: 1e6, noNaN: true }),
      fc.integer({ min: -50_000, max: 50_000 })),
    { minLength: 3, maxLength: 40 })
    fc.assert(fc.property(rows, fc.constantFrom(',', ';', '\t'), (table, mark) => {
      const comma = mark !== ','
      const figure = (value: number) => String(Number(value.toFixed(4)) + 0).replace('.', comma ? ',' : '.')
      const text = ['seconds', 'first', 'second'].join(mark) + '\n'
        + table.map(([a, b], i) => [String(i * 5), figure(a), String(b)].join(mark)).join('\n')
      const { curves } = curvesIn(text)
      expect(curves.map(({ name }) => name)).toEqual(['first', 'second'])
      expect(curves[0]!.values).toEqual(table.map(([a]) => Number(a.toFixed(4)) + 0))
      expect(curves[1]!.seconds).toEqual(table.map((_, i) => i * 5))
    }), { numRuns: draws(80) })
    fc.assert(fc.property(fc.oneof(fc.string({ unit: 'binary', maxLength: 300 }), fc.json()), (text) => {
      for (const { seconds, values } of curvesIn(text).curves) expect(seconds.length).toBe(values.length)
    }), { numRuns: draws(300) })
  })

  it('of long ones a plan keeps some, the first and the last among them', () => {
    const seconds = Array.from({ length: 10_000 }, (_, i) => i)
    const { seconds: few, values } = keptReadings({ seconds, values: seconds })
    expect([few.length, values.length, few[0], few.at(-1)]).toEqual([MAX_KEPT, MAX_KEPT, 0, 9999])
  })
})
