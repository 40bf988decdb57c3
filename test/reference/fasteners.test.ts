/**
 * Screws and spacers against the tables they are from (ISO 7045 and 888 lengths, ISO 4032 nuts, ISO 7089 washers, ISO
 * 273 holes, ISO 261 pitches), typed here once more, and against a screw that is drawn as a line of points.
 */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { AIR_MM, BOARD_MM, mountAnswer, screwFor, screwVerdicts, SERIES, SPACERS_MM,
  type Thread } from '../../core/mechanics/fasteners'
import { draws } from '../random'

const ISO = {
  'M2.5': { lengths: '3 4 5 6 8 10 12 16 20 25', nut: 2.0, washer: 0.5, hole: 2.9, pitch: 0.45, head: [5.0, 2.1] },
  'M3': { lengths: '4 5 6 8 10 12 16 20 25 30', nut: 2.4, washer: 0.5, hole: 3.4, pitch: 0.5, head: [5.6, 2.4] },
} as const
const THREADS: Thread[] = ['M2.5', 'M3']

describe('fasteners', () => {
  it.each(THREADS)('%s: lengths, nut, washer, hole, pitch and head are those of the tables', (thread) => {
    const series = SERIES[thread]
    expect(series.lengthsMm.join(' ')).toBe(ISO[thread].lengths)
    expect([series.nutMm, series.washerMm, series.clearanceMm, series.pitchMm, ...series.headMm])
      .toEqual([ISO[thread].nut, ISO[thread].washer, ISO[thread].hole, ISO[thread].pitch, ...ISO[thread].head])
  })

  it('six is too short, eight is right, twelve hits the panel: common practice, worked by hand', () => {
    // A board of 1.6 mm and a frame of 3.4 mm on a panel with threads 5 mm deep.
    const verdicts = screwVerdicts({ thread: 'M2.5', clampedMm: 5, depthMm: 5 })
    const of = (length: number) => verdicts.find(({ lengthMm }) => lengthMm === length)!
    expect(of(6)).toMatchObject({ is: 'too short', why: '1 mm of thread hold, 2.5 mm are wanted' })
    expect(of(8)).toMatchObject({ is: 'right', why: '3 mm of thread hold' })
    expect(of(12)).toMatchObject({ is: 'hits',
      why: 'it wants 7 mm of thread, there are 5 mm: it hits the ground by 2 mm and holds nothing' })
    expect(of(5).is).toBe('too short')
    expect(screwFor({ thread: 'M2.5', clampedMm: 5, depthMm: 5 })).toBe(8)
  })

  it('is what a screw does that is drawn as points, a tenth of a millimetre apart', () => {
    fc.assert(fc.property(
      fc.constantFrom(...THREADS), fc.integer({ min: 5, max: 200 }), fc.integer({ min: 10, max: 200 }),
      (thread, clamped, depth) => {
        const { d } = SERIES[thread]
        for (const { lengthMm, is } of screwVerdicts({ thread, clampedMm: clamped / 10, depthMm: depth / 10 })) {
          // Tenths from the head down: what lies in thread, and whether one lies below the ground of the hole.
          const tenths = Array.from({ length: lengthMm * 10 }, (_, i) => i)
          const inThread = tenths.filter(i => i >= clamped && i < clamped + depth).length
          const below = tenths.some(i => i >= clamped + depth)
          expect(is, `${thread} ${lengthMm} ${clamped} ${depth}`)
            .toBe(below ? 'hits' : inThread < d * 10 ? 'too short' : inThread <= d * 15 ? 'right' : 'long')
        }
      },
    ), { numRuns: draws(300) })
  })

  it('with a nut comes through by one turn at least', () => {
    expect(screwVerdicts({ thread: 'M3', clampedMm: 3.2, depthMm: null }).filter(({ is }) => is === 'right')
      .map(({ lengthMm }) =>
        lengthMm))
      .toEqual([8, 10])
    expect(screwFor({ thread: 'M3', clampedMm: 3.2, depthMm: null })).toBe(8)
    expect(screwFor({ thread: 'M3', clampedMm: 29, depthMm: null })).toBeNull()
  })

  it('a board on spacers: high enough, both screws hold, and they do not meet', () => {
    fc.assert(fc.property(
      fc.constantFrom(...THREADS), fc.integer({ min: 5, max: 60 }), fc.integer({ min: 0, max: 280 }), fc.boolean(),
      (thread, plate,
        under, washers) => {
        const mount = { thread, plateMm: plate / 10, underMm: under / 10, washers }
        const { spacerMm, topMm, bottomMm, problems, items } = mountAnswer(mount)
        const washer = washers ? ISO[thread].washer : 0
        const { d, lengthsMm } = SERIES[thread]
        /** Every pair of screws of the series, tried on a spacer. */
        const holds = (height: number) => lengthsMm.some(one => lengthsMm.some((other) => {
          const [top, bottom] = [one - BOARD_MM - washer, other - mount.plateMm - washer]
          return top >= d - 1e-9 && bottom >= d - 1e-9 && top + bottom <= height + 1e-9
        }))
        const lowest = SPACERS_MM.find(height => height >= mount.underMm + AIR_MM - 1e-9 && holds(height))
        expect(problems.length > 0).toBe(lowest === undefined)
        if (lowest === undefined) return
        expect(spacerMm).toBe(lowest)
        const [top, bottom] = [topMm! - BOARD_MM - washer, bottomMm! - mount.plateMm - washer]
        for (const hold of [top, bottom]) expect(hold).toBeGreaterThanOrEqual(d - 1e-9)
        expect(top + bottom).toBeLessThanOrEqual(lowest + 1e-9)
        expect(items.reduce((sum, { what, count }) => sum + (what.startsWith('Screw') ? count : 0), 0)).toBe(8)
      },
    ), { numRuns: draws(300) })
  })
})
