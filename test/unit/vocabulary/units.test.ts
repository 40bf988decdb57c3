import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sectionsOf } from '../../../core/findings/worksheets'
import { toCelsius, fahrenheitOf, feetOf, figuresIn, gaugeOf, inchesOf, metresOf,
  squareMmOf } from '../../../core/vocabulary/units'
import { USUAL_WORKSHEETS } from '../../../core/vocabulary/worksheets'

describe('units', () => {
  // Cross-sections as printed in the wire table of ASTM B258.
  it.each([[10, 5.261], [14, 2.081], [18, 0.823], [20, 0.518], [22, 0.326], [24, 0.205], [28, 0.081], [36, 0.0127]])(
    'AWG %i is %f mm²', (awg, mm2) => expect(squareMmOf(awg)).toBeCloseTo(mm2, 3),
  )

  // The fixed points of the scales, and the one temperature that both call alike: textbook.
  it.each([[0, 32], [100, 212], [-40, -40], [37, 98.6], [85, 185]])('%f °C is %f °F',
    (c, f) => expect(fahrenheitOf(c)).toBeCloseTo(f, 9))

  // An inch is 25.4 mm by the agreement of 1959, and a foot 0.3048 m.
  it('knows the inch and the foot', () => {
    expect(inchesOf(25.4)).toBe(1)
    expect(metresOf(1)).toBeCloseTo(0.3048, 12)
    expect(feetOf(0.3048)).toBeCloseTo(1, 12)
  })

  it('comes back from each unit to what it was', () => {
    fc.assert(fc.property(fc.double({ min: -200, max: 500, noNaN: true }), (value) => {
      expect(toCelsius(fahrenheitOf(value))).toBeCloseTo(value, 9)
      expect(metresOf(feetOf(value))).toBeCloseTo(value, 9)
    }))
    fc.assert(fc.property(fc.double({ min: -3, max: 40, noNaN: true }), (awg) => {
      expect(gaugeOf(squareMmOf(awg))).toBeCloseTo(awg, 8)
    }))
  })
})

describe('figures inside the results of a worksheet', () => {
  it('stand in the maker\'s units, and everything else stays', () => {
    const units = { temperature: 'F', gauge: 'mm2' } as const
    expect(figuresIn('74 °C of 85 °C', units)).toBe('165 °F of 185 °F')
    expect(figuresIn('-40.5 °C', units)).toBe('-40.9 °F')
    expect(figuresIn('24 AWG', units)).toBe('0.205 mm²')
    expect(figuresIn('62 K/W, 10 A per mm², 3.3 V', units)).toBe('62 K/W, 10 A per mm², 3.3 V')
    expect(figuresIn('74 °C of 24 AWG', { temperature: 'C', gauge: 'awg' })).toBe('74 °C of 24 AWG')
  })

  it('no result of any shipped worksheet keeps a temperature or a gauge behind', () => {
    for (const sheet of Object.values(USUAL_WORKSHEETS)) {
      for (const row of sectionsOf(sheet, { lineMost: { value: 3.3, origin: 'board file' } })
        .flatMap(section => section.rows)) {
        const said = figuresIn(`${row.value} ${row.limit ?? ''}`, { temperature: 'F', gauge: 'mm2' })
        expect(said, `${sheet.kind} ${row.label}`).not.toMatch(/°C|AWG/)
      }
    }
  })
})
