import { execFileSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import Papa from 'papaparse'
import { powerOf } from '../../core/power/report'
import { packHours } from '../../core/power/store/hours'
import { gatherFacts } from '../../core/facts/gather'
import { cheapestMatching, IMPOSSIBLE } from '../../core/placement/matching'
import { dividedV, READY_DIVIDER } from '../../core/signals/divider'
import { wiresAsCsv } from '../../core/construction/table'
import { positionInWords } from '../../core/construction/wires'
import { evaluate } from '../../core/evaluate'
import { readGrid } from '../../core/bringup/grid'
import { demoPlans } from '../../demo'
import { catalogue, planOf } from '../plans'
import { draws } from '../random'

describe('figures against their origin', () => {
  it('a 12 000 mAh pack carries a board of 3.77 W about ten hours', () => {
    // practice: 12 Ah × 3.7 V × 0.85 ÷ 10 h = 3.77 W
    expect(packHours(12000, 3.7, 0.85, 3.774)).toBeCloseTo(10, 2)
  })

  it('a divider gives U · R2 ÷ (R1 + R2): 5 V over 1.8 kΩ and 3.3 kΩ leaves 3.235 V', () => {
    // textbook
    expect(dividedV(5, READY_DIVIDER.upperOhm, READY_DIVIDER.lowerOhm)).toBeCloseTo(3.235, 3)
    fc.assert(fc.property(fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 1, max: 1e6 }), (upper, lower) => {
      // Kirchhoff: the two resistors share the whole voltage.
      expect(dividedV(5, upper, lower) + dividedV(5, lower, upper)).toBeCloseTo(5, 9)
    }))
  })

  it('both resistors of the ready divider are values of the E12 series', () => {
    // published: IEC 60063, E12
    const e12 = [10, 12, 15, 18, 22, 27, 33, 39, 47, 56, 68, 82]
    for (const ohm of [READY_DIVIDER.upperOhm,
      READY_DIVIDER.lowerOhm]) expect(e12).toContain(ohm / 10 ** (Math.floor(Math.log10(ohm)) - 1))
  })

  it('a USB 2.0 port gives 500 mA, and the least supplies are those of practice', () => {
    expect(catalogue.supplies.get('internal-usb-500')!.currentMa).toBe(500) // published: USB 2.0 §7.2
    expect(catalogue.supplies.get('adapter-5v-2a4')!.currentMa).toBe(2400) // practice: 5 V 2.4 A advised
    expect(catalogue.supplies.get('adapter-5v-3a')!.currentMa).toBe(3000) // practice: 15 W class
    expect(catalogue.supplies.get('adapter-5v-5a')!.currentMa).toBe(5000) // practice: 27 W class
  })

  it('a strip pixel takes 60 mA at full white, and asks 0.7 × 5 V for a high', () => {
    const strip = catalogue.parts.get('strip-addressable')!
    expect(strip.supplies[0]!.peakMa).toBe(60) // memory
    expect(strip.signals[0]!.inputHighMinV!.value).toBeCloseTo(0.7 * 5, 9) // practice: 5 V CMOS input
    const budget = powerOf(gatherFacts(planOf('forty-classic', { s: ['strip-addressable', { pixels: '30' }] }),
      catalogue)).report
    expect(budget.rails[0]!.loads.find(load => load.partId === 's')!.peakMa).toBe(30 * 60)
    // The board's converters draw more than their 980 mA at 5 V, because less than 5 V arrive.
    expect(budget.rails[0]!.loads.find(load => load.partId === null)!.peakMa).toBeGreaterThan(980)
  })

  it('a rail is the sum of its loads, and 5 V carries all of 3V3', () => {
    for (const plan of demoPlans) {
      const { rails, states } = powerOf(gatherFacts(plan, catalogue)).report
      const peak = states.find(state => state.id === 'peak')!
      for (const rail of rails) expect(rail.loads.reduce((sum, load) => sum + load.peakMa, 0)).toBeCloseTo(rail.peakMa,
        6)
      expect(rails[0]!.peakMa).toBeCloseTo(peak.nodes['@socket']!.currentMa, 1)
      for (const load of rails[1]!.loads) expect(rails[0]!.loads.map(other => other.node)).toContain(load.node)
    }
  })
})

describe('the assignment problem', () => {
  it('is solved at the least cost that trying every order finds', () => {
    const matrix = fc.integer({ min: 1, max: 5 }).chain(rows => fc.integer({ min: rows, max: 6 }).chain(columns =>
      fc.array(
        fc.array(fc.oneof(fc.integer({ min: 0, max: 20 }), fc.constant(IMPOSSIBLE)),
          { minLength: columns, maxLength: columns }),
        { minLength: rows, maxLength: rows },
      )))
    const best = (cost: number[][], row = 0, taken: number[] = []): number => row === cost.length
      ? 0
      : Math.min(Infinity, ...cost[row]!.flatMap((price, column) => taken.includes(column) || price >= IMPOSSIBLE
          ? []
          : [price + best(cost, row + 1, [...taken, column])]))
    fc.assert(fc.property(matrix, (cost) => {
      expect(cheapestMatching(cost)?.cost ?? Infinity).toBe(best(cost))
    }), { numRuns: draws(400) })
  })
})

describe('the wire list', () => {
  const wires = evaluate(demoPlans[0]!, catalogue).wires

  it('connects returns first and 5 V last, each wire once', () => {
    const order = wires.map(wire => ['ground', 'signal', '3V3', '5V', 'supply'].indexOf(wire.role))
    expect(order).toEqual([...order].sort((a, b) => a - b))
    expect(new Set(wires.map(wire => wire.key)).size).toBe(wires.length)
  })

  it('comes back from CSV cell for cell', () => {
    // published: RFC 4180, read back by a package of its own
    const { data, errors } = Papa.parse<Record<string, string>>(wiresAsCsv(wires).trimEnd(), { header: true })
    expect(errors).toEqual([])
    expect(data.map(row => [
      row.Part, row.From, row.To, Number(row['Length (m)']),
    ])).toEqual(wires.map(wire => [wire.partName, wire.from, wire.to, wire.lengthM]))
  })

  it('hands no formula to a spreadsheet', () => {
    expect(wiresAsCsv([{ ...wires[0]!, partName: '=cmd()' }])).not.toMatch(/(^|,)=cmd/m)
  })

  it('counts from the nearer end of the header', () => {
    // practice: odd positions on the inner row, position 1 at the corner
    expect(positionInWords(11)).toBe('inner row (odd), sixth from the end of position 1')
    expect(positionInWords(2)).toBe('outer row (even), first from the end of position 1')
    expect(positionInWords(40)).toBe('outer row (even), first from the far end, position 40')
  })
})

describe.skipIf(!existsSync('/usr/sbin/i2cdetect'))('the scan tool of Debian (i2c-tools)', () => {
  it('prints its address option in the range that the grid reader takes for the whole bus', () => {
    // reference program: i2cdetect names 0x08–0x77 as its range; -a widens it to 0x00–0x7f.
    const help = (() => {
      try {
        return execFileSync('/usr/sbin/i2cdetect', ['-h'], { stdio: 'pipe' }).toString()
      }
      catch (error) {
        return String((error as { stderr: Buffer }).stderr)
      }
    })()
    expect(help).toContain('i2cdetect [-y]')
    const grid = readGrid(['00: ', ...Array.from({ length: 7 },
      (_, i) => `${i + 1}0: ${'-- '.repeat(i === 6 ? 8 : 16)}`)].join('\n'))
    expect(grid.ok && grid.tested.at(-1)).toBe(0x77)
  })
})
