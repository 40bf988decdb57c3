/**
 * Circuits at and past their end: what is said when the whole load has no operating point, and how soon it is known.
 */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { prepare, solve } from '../../../core/power/circuit/solve'
import type { Element } from '../../../core/power/circuit/types'
import { draws, judgedAtLeast } from '../../random'

/** A chain as supplies are: a source, a lead, perhaps a diode or a converter, a rail with loads of constant power. */
const chain = fc.record({
  voltageV: fc.constantFrom(5, 9, 12, 24), inner: fc.double({ min: 0.01, max: 2, noNaN: true }),
  lead: fc.double({ min: 0.01, max: 3, noNaN: true }),
  between: fc.constantFrom('nothing', 'diode', 'step-down', 'linear'),
  watts: fc.double({ min: 0.1, max: 40, noNaN: true }),
  idle: fc.boolean(),
})

function elementsOf({ voltageV, inner, lead, between, watts, idle }: {
  voltageV: number
  inner: number
  lead: number
  between: string
  watts: number
  idle: boolean
}): Element[] {
  const railV = between === 'step-down' || between === 'linear' ? 5 : voltageV
  const middle: Element = between === 'nothing'
    ? { kind: 'resistance', id: 'm', from: 'b', to: 'c', ohm: 0.02 }
    : between === 'diode'
      ? { kind: 'diode', id: 'm', from: 'b', to: 'c', dropV: 0.3, ohm: 0.02 }
      : {
          kind: 'regulator', id: 'm', from: 'b', to: 'c', setV: 5, headroomV: 1, leastInV: 4, ohm: 0.02, quiescentMa: 5,
          efficiency: between === 'linear'
            ? null
            : [{ currentMa: 10, efficiency: 0.7 }, { currentMa: 1000, efficiency: 0.9 }],
        }
  return [
    { kind: 'source', id: 's', to: 'a', voltageV, ohm: inner },
    { kind: 'resistance', id: 'w', from: 'a', to: 'b', ohm: lead }, middle,
    { kind: 'load', id: 'l', at: 'c', law: 'power', currentMa: watts / railV * 1000, ratedV: railV,
      leastV: railV * 0.7 },
    // A rail that nothing loads has a voltage all the same.
    ...idle
      ? [{
        kind: 'regulator', id: 'r', from: 'c', to: 'd', setV: 3.3, headroomV: 0.3, leastInV: 2.5, ohm: 0.02,
        quiescentMa: 0,
        efficiency: [{ currentMa: 0, efficiency: 0.85 }],
      } satisfies Element]
      : [],
  ]
}

describe('past the end', () => {
  it('no voltage shown is above the source or below nothing', () => {
    let broken = 0
    fc.assert(fc.property(chain, (given) => {
      const { ok, voltages } = solve(prepare(elementsOf(given)))
      if (!ok) broken++
      for (const [joint, voltage] of Object.entries(voltages)) {
        expect(voltage, joint).toBeGreaterThanOrEqual(0)
        expect(voltage, joint).toBeLessThanOrEqual(given.voltageV + 1e-6)
      }
      if (given.idle && voltages.c! > 4) expect(voltages.d).toBeCloseTo(3.3, 1)
    }), { numRuns: draws(300) })
    expect(broken).toBeGreaterThan(judgedAtLeast(10))
  })

  it('is never said of a circuit that nothing loads, on whichever side of a kink the search began', () => {
    const kinked = { voltageV: 9, inner: 1.7252763077134032, lead: 1.52539705924812, between: 'step-down', idle: true }
    expect(solve(prepare(elementsOf({ ...kinked, watts: 8.715442410851448 }))).carriedShare).toBeGreaterThan(0.5)
    fc.assert(fc.property(chain, (given) => {
      const { ok, voltages } = solve(prepare(elementsOf({ ...given, watts: 0 })))
      expect(ok).toBe(true)
      if (given.idle && voltages.c! > 4) expect(voltages.d).toBeCloseTo(3.3, 1)
    }), { numRuns: draws(500) })
  })

  it('the share that is carried can be carried, and a tenth more cannot', () => {
    fc.assert(fc.property(chain, (given) => {
      const { ok, carriedShare } = solve(prepare(elementsOf(given)))
      if (ok || carriedShare < 0.05) return
      expect(solve(prepare(elementsOf({ ...given, watts: given.watts * (carriedShare - 0.02) }))).ok).toBe(true)
      expect(solve(prepare(elementsOf({ ...given, watts: given.watts * (carriedShare + 0.1) }))).ok).toBe(false)
    }), { numRuns: draws(200) })
  })

  it('is known after a bounded number of steps, and a circuit that works after a few', () => {
    fc.assert(fc.property(chain, (given) => {
      const { ok, iterations } = solve(prepare(elementsOf(given)))
      expect(iterations).toBeLessThan(ok ? 200 : 1000)
    }), { numRuns: draws(300) })
    // A diode from its off side once took two hundred.
    expect(solve(prepare(elementsOf({
      voltageV: 5, inner: 0.1, lead: 0.05, between: 'diode', watts: 1.5, idle: true,
    }))).iterations).toBeLessThan(10)
  })

  it('more load never raises the rail', () => {
    fc.assert(fc.property(chain, fc.double({ min: 1.01, max: 2, noNaN: true }), (given, more) => {
      const light = solve(prepare(elementsOf(given)))
      const heavy = solve(prepare(elementsOf({ ...given, watts: given.watts * more })))
      if (light.ok && heavy.ok) expect(heavy.voltages.c!).toBeLessThanOrEqual(light.voltages.c! + 1e-6)
      // What the heavier load can be carried with, the lighter one can as well.
      if (heavy.ok) expect(light.ok).toBe(true)
    }), { numRuns: draws(300) })
  })
})
