import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { chartAsCsv, curvesAsSvg, ticksOf } from '../../../core/share/chart'

const CURVES = [
  { label: 'rail', unit: 'V', colour: '#9c4a1f', points: [{ x: 0, y: 5 }, { x: 10, y: 4.6 }] },
  { label: 'drawn', unit: 'A', colour: '#2d6a94', right: true, stepped: true,
    points: [{ x: 0, y: 1 }, { x: 10, y: 2 }] },
]

describe('ticks of an axis', () => {
  it('are round, inside the range, and not many', () => {
    fc.assert(fc.property(
      fc.double({ min: -1e4, max: 1e4, noNaN: true }), fc.double({ min: 1e-3, max: 1e5, noNaN: true }),
      (min, width) => {
        const ticks = ticksOf(min, min + width)
        expect(ticks.length).toBeGreaterThan(0)
        expect(ticks.length).toBeLessThanOrEqual(12)
        const slack = width * 1e-6
        for (const tick of ticks) expect(tick >= min - slack && tick <= min + width + slack).toBe(true)
      },
    ))
    expect(ticksOf(0, 10)).toEqual([0, 2, 4, 6, 8, 10])
    expect(ticksOf(4.6, 5)).toEqual([4.6, 4.7, 4.8, 4.9, 5])
    expect(ticksOf(3, 3)).toEqual([3])
  })
})

describe('curves as a picture', () => {
  it('have axes with units, a legend, and one line each within the frame', () => {
    const svg = curvesAsSvg('Rail over a scenario', 'seconds', CURVES)
    expect(svg.match(/<path/g)).toHaveLength(2)
    for (const words of ['Rail over a scenario', 'seconds', 'rail (V)', 'drawn (A)', '>V<',
      '>A<']) expect(svg).toContain(words)
    for (const [, x, y] of svg.matchAll(/[ML]([\d.]+),([\d.]+)/g)) {
      expect(Number(x)).toBeGreaterThanOrEqual(62)
      expect(Number(x)).toBeLessThanOrEqual(698)
      expect(Number(y)).toBeGreaterThanOrEqual(54)
      expect(Number(y)).toBeLessThanOrEqual(312)
    }
  })

  it('step where they are stepped', () => {
    const [, stepped] = [...curvesAsSvg('t', 'x', CURVES).matchAll(/<path d="([^"]+)"/g)]
    expect(stepped![1]!.match(/L/g)).toHaveLength(2)
  })

  it('are drawn without curves, with one point, and with names that are no markup', () => {
    expect(curvesAsSvg('nothing', 'x', [])).not.toContain('NaN')
    const one = curvesAsSvg('<b>&', '"x"', [{ ...CURVES[0]!, points: [{ x: 3, y: 3 }] }])
    expect(one).not.toMatch(/NaN|<b>/)
    expect(one).toContain('&lt;b&gt;&amp;')
  })

  it('are a table too', () => {
    expect(chartAsCsv(['step', 'drawn'], [['a "b"', '1.2 A'], ['=x', '2 A']]))
      .toBe('step,drawn\r\n"a ""b""",1.2 A\r\n"\'=x",2 A\r\n')
  })
})
