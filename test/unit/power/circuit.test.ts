/**
 * The circuit solver: closed forms by hand, Kirchhoff's laws on any circuit, and a general numerical
 * library on linear ones.
 */
import fc from 'fast-check'
import { lusolve } from 'mathjs'
import { describe, expect, it } from 'vitest'
import { eliminate, planElimination } from '../../../core/power/circuit/elimination'
import { efficiencyAt } from '../../../core/power/circuit/laws'
import { prepare, solve } from '../../../core/power/circuit/solve'
import type { Element, LoadElement } from '../../../core/power/circuit/types'
import { leftOver } from '../../circuit'
import { draws, judgedAtLeast } from '../../random'

const point = (elements: Element[]) => solve(prepare(elements))
const source = (to: string, voltageV: number, ohm: number, more: object = {}): Element => ({
  kind: 'source', id: `source ${to}`, to, voltageV, ohm, ...more,
})
const wire = (from: string, to: string,
  ohm: number): Element => ({ kind: 'resistance', id: `${from}-${to}`, from, to, ohm })
const load = (at: string, law: LoadElement['law'], currentMa: number, ratedV = 5, leastV = 1): Element => ({
  kind: 'load', id: `load ${at}`, at, law, currentMa, ratedV, leastV,
})

describe('closed forms', () => {
  it('a resistor on a source with inner resistance: U = E·R ÷ (R + Ri)', () => {
    const { voltages, flows, ok } = point([source('a', 12, 1), load('a', 'resistance', 1000, 12)])
    expect(ok).toBe(true)
    expect(voltages.a).toBeCloseTo(12 * 12 / 13, 6)
    expect(flows['source a']!.outMa).toBeCloseTo(12_000 / 13, 2)
  })

  it('a load of constant power: U = E/2 + √(E²/4 − P·R)', () => {
    // textbook: the larger root of U² − E·U + P·R = 0
    for (const [E, R, P] of [[5.1, 0.2, 10], [5, 0.5, 8], [12, 1, 30]] as const) {
      const { voltages } = point([source('a', E, R), load('a', 'power', P / 5 * 1000, 5)])
      expect(voltages.a).toBeCloseTo(E / 2 + Math.sqrt(E * E / 4 - P * R), 5)
    }
  })

  it('past E² ÷ 4·R there is no operating point, and the share that can be carried is what the formula says', () => {
    // textbook: the most power a source of E and R gives is E² ÷ 4R
    const carried = point([source('a', 5, 1.5), load('a', 'power', 1000, 5, 2)])
    expect(carried.ok).toBe(false)
    expect(carried.dark).toEqual(['load a'])
    expect(carried.carriedShare).toBeCloseTo(25 / 6 / 5, 1)
    expect(point([source('a', 5, 1.5), load('a', 'power', 825, 5, 2)]).ok).toBe(true)
  })

  it('a diode takes its drop and lets nothing back', () => {
    const { voltages, flows } = point([
      source('a', 5, 0.001), { kind: 'diode', id: 'd', from: 'a', to: 'b', dropV: 0.4, ohm: 0.1 },
      load('b', 'current', 1000),
    ])
    expect(voltages.b).toBeCloseTo(5 - 0.001 - 0.4 - 0.1, 4)
    expect(flows.d!.outMa).toBeCloseTo(1000, 2)
    const back = point([
      source('b', 9, 0.1), source('a', 5, 0.1), { kind: 'diode', id: 'd', from: 'a', to: 'b', dropV: 0.4, ohm: 0.1 },
      load('b', 'current', 100, 9),
    ])
    expect(back.flows.d!.outMa).toBeCloseTo(0, 2)
  })

  it('of two supplies behind diodes the higher one carries the load', () => {
    const diode = (from: string): Element => ({ kind: 'diode', id: `d${from}`, from, to: 'c', dropV: 0.3, ohm: 0.05 })
    const { flows } = point([source('a', 5.2, 0.05), source('b', 4.9, 0.05), diode('a'), diode('b'),
      load('c', 'current', 1000)])
    expect(flows.da!.outMa).toBeCloseTo(1000, 1)
    expect(flows.db!.outMa).toBeCloseTo(0, 1)
  })

  it('a bridge of five resistors is balanced when the ratios are the same', () => {
    // textbook: no current through the middle when R1/R2 = R3/R4
    const arms = [wire('p', 'l', 10), wire('l', 'm', 20), wire('p', 'r', 30), wire('r', 'm', 60), wire('l', 'r', 5)]
    const { flows } = point([source('p', 6, 0.01), ...arms, load('m', 'resistance', 1000, 6)])
    expect(flows['l-r']!.outMa).toBeCloseTo(0, 3)
  })

  it('a linear regulator passes its current on; a converter its power over its efficiency', () => {
    const regulator = (efficiency: { currentMa: number, efficiency: number }[] | null): Element => ({
      kind: 'regulator', id: 'r', from: 'a', to: 'b', setV: 5, headroomV: 1, leastInV: 3, ohm: 0.001, quiescentMa: 5,
      efficiency,
    })
    const linear = point([source('a', 12, 0.001), regulator(null), load('b', 'current', 500)])
    expect(linear.flows.r!.inMa).toBeCloseTo(505, 1)
    const switching = point([
      source('a', 12, 0.001), regulator([{ currentMa: 0, efficiency: 0.8 }, { currentMa: 1000, efficiency: 0.9 }]),
      load('b', 'current', 500),
    ])
    // textbook: I_in = P_out ÷ (η·U_in)
    expect(switching.flows.r!.inMa).toBeCloseTo(5 * 500 / (0.85 * switching.voltages.a!) + 5, 0)
  })

  it('a step-down that gets too little lets its output follow; one below its least input is off', () => {
    const made = (inputV: number) => point([
      source('a', inputV, 0.001),
      {
        kind: 'regulator', id: 'r', from: 'a', to: 'b', setV: 5, headroomV: 1, leastInV: 4, ohm: 0.001, quiescentMa: 0,
        efficiency: [{ currentMa: 0, efficiency: 0.9 }],
      },
      load('b', 'resistance', 100),
    ])
    expect(made(12).voltages.b).toBeCloseTo(5, 2)
    expect(made(5.5).voltages.b).toBeCloseTo(4.5, 2)
    expect(made(3).voltages.b).toBeLessThan(0.1)
  })

  it('a limited source holds its current', () => {
    const { voltages, flows } = point([source('a', 20, 0.5, { limitMa: 1000 }), load('a', 'resistance', 2000, 20)])
    expect(flows['source a']!.outMa).toBeCloseTo(1000, 1)
    expect(voltages.a).toBeCloseTo(10, 2)
  })

  it('efficiency lies on straight lines between its points, and stays at its ends', () => {
    const curve = [{ currentMa: 10, efficiency: 0.6 }, { currentMa: 110, efficiency: 0.8 }]
    expect(efficiencyAt(curve, 60).efficiency).toBeCloseTo(0.7, 9)
    expect([efficiencyAt(curve, 1).efficiency, efficiencyAt(curve, 999).efficiency]).toEqual([0.6, 0.8])
  })
})

const joints = 9
const jointName = fc.integer({ min: 0, max: joints - 1 }).map(n => `j${n}`)
const ohm = fc.double({ min: 0.01, max: 2, noNaN: true })

describe('any linear network', () => {
  const network = fc.record({
    E: fc.double({ min: 1, max: 24, noNaN: true }), inner: ohm,
    // A chain keeps every joint connected; further wires make meshes.
    chain: fc.array(ohm, { minLength: joints - 1, maxLength: joints - 1 }),
    more: fc.array(fc.tuple(jointName, jointName, ohm), { maxLength: 8 }),
    loads: fc.array(fc.tuple(jointName, fc.integer({ min: 1, max: 500 })), { minLength: 1, maxLength: 6 }),
  })

  it('has the voltages that a general solver of linear equations gives', () => {
    fc.assert(fc.property(network, ({ E, inner, chain, more, loads }) => {
      const wires = [...chain.map((r, i) => [`j${i}`, `j${i + 1}`, r] as const), ...more.filter(([a, b]) => a !== b)]
      const elements: Element[] = [
        source('j0', E, inner),
        ...wires.map(([from, to, r], i): Element => ({ kind: 'resistance', id: `w${i}`, from, to, ohm: r })),
        ...loads.map(([at, ma], i): Element => ({
          kind: 'load', id: `l${i}`, at, law: 'resistance', currentMa: ma, ratedV: 5, leastV: 0.01,
        })),
      ]
      // reference library: mathjs, LU of the nodal matrix set up here from scratch
      const G = Array.from({ length: joints }, () => new Array<number>(joints).fill(0))
      const right = new Array<number>(joints).fill(0)
      for (const [a, b, r] of wires) {
        const [i, j] = [Number(a.slice(1)), Number(b.slice(1))]
        G[i]![i]! += 1 / r
        G[j]![j]! += 1 / r
        G[i]![j]! -= 1 / r
        G[j]![i]! -= 1 / r
      }
      for (const [at, ma] of loads) G[Number(at.slice(1))]![Number(at.slice(1))]! += ma / 1000 / 5
      G[0]![0]! += 1 / inner
      right[0]! += E / inner
      const expected = (lusolve(G, right) as number[][]).map(row => row[0]!)
      const { voltages } = point(elements)
      expected.forEach((v, i) => expect(voltages[`j${i}`]).toBeCloseTo(v, 4))
    }), { numRuns: draws(200) })
  })
})

describe('any circuit at all', () => {
  const element = fc.oneof(
    fc.record({ kind: fc.constant('resistance' as const), from: jointName, to: jointName, ohm }),
    fc.record({
      kind: fc.constant('diode' as const), from: jointName, to: jointName,
      dropV: fc.double({ min: 0, max: 1, noNaN: true }), ohm,
    }),
    fc.record({
      kind: fc.constant('load' as const), at: jointName,
      law: fc.constantFrom('power' as const, 'current' as const, 'resistance' as const),
      currentMa: fc.integer({ min: 0, max: 3000 }), ratedV: fc.constantFrom(3.3, 5, 12),
      leastV: fc.constantFrom(0.5, 3),
    }),
    fc.record({
      kind: fc.constant('source' as const), to: jointName, voltageV: fc.constantFrom(3.7, 5, 5.1, 12), ohm,
      takesBack: fc.boolean(),
    }),
    fc.record({
      kind: fc.constant('regulator' as const), from: jointName, to: jointName, setV: fc.constantFrom(3.3, 5),
      headroomV: fc.constantFrom(0.3, 1), leastInV: fc.constant(0.01), ohm: fc.constantFrom(0.02, 0.1),
      quiescentMa: fc.constant(0),
      efficiency: fc.constantFrom(null, [{ currentMa: 10, efficiency: 0.7 }, { currentMa: 500, efficiency: 0.9 }]),
    }),
  )
  const circuit = fc.array(element, { minLength: 1, maxLength: 24 })
    .map(list => list.map((entry, i) => ({ ...entry, id: `e${i}` }) as Element)
      .filter(entry => !('from' in entry) || entry.from !== entry.to))

  it('keeps Kirchhoff\'s current law at every joint where it says it has an operating point', () => {
    let found = 0
    fc.assert(fc.property(circuit, (elements) => {
      const operating = point(elements)
      if (!operating.ok) return
      found++
      // A converter below its turn-on is checked by its own closed form; here every other joint has to balance.
      const off = new Set(elements.flatMap(entry => entry.kind === 'regulator' && operating.voltages[entry.from]! < 0.6
        ? [entry.from, entry.to]
        : []))
      for (const [joint, ma] of Object.entries(leftOver(elements, operating))) if (!off.has(joint)) {
        expect(Math.abs(ma), joint).toBeLessThan(0.01)
      }
    }), { numRuns: draws(600) })
    expect(found).toBeGreaterThan(judgedAtLeast(100))
  })

  it('never throws, gives finite voltages, and a brown-out carries less than all', () => {
    fc.assert(fc.property(circuit, (elements) => {
      const { voltages, carriedShare, ok } = point(elements)
      for (const voltage of Object.values(voltages)) expect(Number.isFinite(voltage)).toBe(true)
      expect(carriedShare).toBeGreaterThanOrEqual(0)
      expect(carriedShare).toBeLessThanOrEqual(1)
      if (!ok) expect(carriedShare).toBeLessThanOrEqual(1)
    }), { numRuns: draws(300) })
  })

  it('gives back the power its sources put in: loads, and what is lost on the way', () => {
    fc.assert(fc.property(fc.array(
      fc.tuple(fc.integer({ min: 0, max: 200 }), ohm, fc.integer({ min: 0, max: 300 })),
      { minLength: 1, maxLength: 20 },
    ), (branches) => {
      // A tree: each joint hangs on an earlier one, and most carry a load.
      const elements: Element[] = [
        source('j0', 12, 0.05),
        ...branches.flatMap(([parent, r, ma], i): Element[] => [
          { kind: 'resistance', id: `w${i}`, from: `j${parent % (i + 1)}`, to: `j${i + 1}`, ohm: r / 10 },
          { kind: 'load', id: `l${i}`, at: `j${i + 1}`, law: 'current', currentMa: ma, ratedV: 12, leastV: 0.01 },
        ]),
      ]
      const { voltages, flows, ok } = point(elements)
      if (!ok) return
      const given = voltages.j0! * flows['source j0']!.outMa
      const taken = branches.reduce((sum, _, i) => sum + voltages[`j${i + 1}`]! * flows[`l${i}`]!.inMa, 0)
      const lost = branches.reduce(
        (sum, [parent], i) =>
          sum + (voltages[`j${parent % (i + 1)}`]! - voltages[`j${i + 1}`]!) * flows[`w${i}`]!.outMa, 0,
      )
      expect(taken + lost).toBeCloseTo(given, 0)
    }), { numRuns: draws(150) })
  })
})

describe('elimination', () => {
  it('solves what it is given, whatever the pattern', () => {
    const size = 7
    fc.assert(fc.property(fc.array(
      fc.tuple(fc.nat(size - 1), fc.nat(size - 1), fc.double({ min: -1, max: 1, noNaN: true })), { maxLength: 20 },
    ), fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: size, maxLength: size }), (entries, x) => {
      const dense = Array.from({ length: size },
        (_, i) => Array.from({ length: size }, (_, j): number => i === j ? 25 : 0))
      for (const [i, j, v] of entries) if (i !== j) dense[i]![j] = v
      const right = Float64Array.from(dense.map(row => row.reduce((sum, a, j) => sum + a * x[j]!, 0)))
      const pattern = planElimination(size, entries.map(([i, j]) => [i, j] as const))
      expect(eliminate(pattern, Float64Array.from(dense.flat()), right)).toBe(true)
      right.forEach((v, i) => expect(v).toBeCloseTo(x[i]!, 9))
    }), { numRuns: draws(300) })
  })

  it('adds no entry on a tree', () => {
    const edges = Array.from({ length: 30 }, (_, i) => [i + 1, Math.floor(i / 2)] as const)
    const { later } = planElimination(31, edges)
    expect(later.reduce((sum, rows) => sum + rows.length, 0)).toBe(30)
  })

  it('says when a matrix is singular', () => {
    expect(eliminate(planElimination(2, [[0, 1]]), Float64Array.from([0, 0, 0, 0]), Float64Array.from([1, 1])))
      .toBe(false)
  })
})
