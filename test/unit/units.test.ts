import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { celsiusOf, fahrenheitOf, feetOf, gaugeOf, inchesOf, metresOf, squareMmOf } from '../../core/units'

describe('units', () => {
  // Cross-sections as printed in the wire table of ASTM B258.
  it.each([[10, 5.261], [14, 2.081], [18, 0.823], [20, 0.518], [22, 0.326], [24, 0.205], [28, 0.081], [36, 0.0127]])(
    'AWG %i is %f mm²', (awg, mm2) => expect(squareMmOf(awg)).toBeCloseTo(mm2, 3),
  )

  // The fixed points of the scales, and the one temperature that both call alike: textbook.
  it.each([[0, 32], [100, 212], [-40, -40], [37, 98.6], [85, 185]])('%f °C is %f °F', (c, f) => expect(fahrenheitOf(c)).toBeCloseTo(f, 9))

  // An inch is 25.4 mm by the agreement of 1959, and a foot 0.3048 m.
  it('knows the inch and the foot', () => {
    expect(inchesOf(25.4)).toBe(1)
    expect(metresOf(1)).toBeCloseTo(0.3048, 12)
    expect(feetOf(0.3048)).toBeCloseTo(1, 12)
  })

  it('comes back from each unit to what it was', () => {
    fc.assert(fc.property(fc.double({ min: -200, max: 500, noNaN: true }), (value) => {
      expect(celsiusOf(fahrenheitOf(value))).toBeCloseTo(value, 9)
      expect(metresOf(feetOf(value))).toBeCloseTo(value, 9)
    }))
    fc.assert(fc.property(fc.double({ min: -3, max: 40, noNaN: true }), (awg) => {
      expect(gaugeOf(squareMmOf(awg))).toBeCloseTo(awg, 8)
    }))
  })
})
