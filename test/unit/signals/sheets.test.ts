/** The worksheets of signals: the same figures as the engines, and those that are published. */
import { describe, expect, it } from 'vitest'
import { fieldsOf, filledSheet, offersOf, sectionsOf } from '../../../core/findings/worksheets'
import { SIGNAL_WORKSHEET_NAMES, USUAL_SIGNAL_WORKSHEETS, type SignalWorksheet } from '../../../core/signals/worksheets'

const CONTEXT = { lineMost: { value: 16, origin: 'memory' as const } }
const rowsOf = (sheet: SignalWorksheet) => sectionsOf(sheet, CONTEXT).flatMap(section => section.rows)
const rowOf = (sheet: SignalWorksheet, label: string) => rowsOf(sheet).find(row => row.label === label)!

describe.each(Object.values(USUAL_SIGNAL_WORKSHEETS).map(sheet => [sheet.kind, sheet] as const))('the %s worksheet',
  (kind, sheet) => {
    it('has a name, a field for every figure, and rows without gaps', () => {
      expect(SIGNAL_WORKSHEET_NAMES[kind]).toBeTruthy()
      const fields = fieldsOf(sheet).map(field => field.name)
      for (const name of Object.keys(filledSheet(sheet))) if (name !== 'kind') expect(fields).toContain(name)
      expect(rowsOf(sheet).length).toBeGreaterThan(2)
      for (const row of rowsOf(sheet)) {
        expect(`${row.label} ${row.value} ${row.limit ?? ''}`).not.toMatch(/NaN|undefined/)
        if (row.holds !== undefined) expect(row.origin ?? row.limit, row.label).toBeTruthy()
      }
    })

    it('comes to the same once its usual figures are written out', () => {
      expect(rowsOf(filledSheet(sheet) as SignalWorksheet)).toEqual(rowsOf(sheet))
    })
  })

describe('worksheets of signals', () => {
  it('say what is published', () => {
    // published: UM10204: (3.3 − 0.4) V at 3 mA; 1000 ns at 100 pF: 0.8473 × R × C
    expect(rowOf(USUAL_SIGNAL_WORKSHEETS['pull-up'], 'least').value).toBe('967 Ω')
    expect(rowOf(USUAL_SIGNAL_WORKSHEETS['pull-up'], 'rise').value).toBe('153 ns')
    // published: IEC 60063, E12; textbook: (3.3 − 2) V ÷ 5 mA
    expect(rowOf(USUAL_SIGNAL_WORKSHEETS.led, 'exactly').value).toBe('260 Ω')
    expect(rowOf(USUAL_SIGNAL_WORKSHEETS.led, 'take').value).toBe('270 Ω')
    // arithmetic: ten bit times a byte at 115 200 baud, 8N1
    expect(rowOf(USUAL_SIGNAL_WORKSHEETS.serial, 'carries').value).toBe('11520 bytes/s')
  })

  it('judges a pair of the maker\'s own by what it gives', () => {
    const own = { ...USUAL_SIGNAL_WORKSHEETS.divider, ownPair: true, upperOhm: 1000, lowerOhm: 1000 }
    expect(rowOf(own, 'at the tap').value).toBe('2.50 V')
    expect(rowOf(own, 'upper, in the wire').origin).toBe('yours')
    expect(rowOf({ ...own, upperOhm: 100 }, 'at the tap').holds).toBe(false)
    const field = fieldsOf(own).find(entry => entry.name === 'upperOhm')!
    expect(field.when).toBe('ownPair')
  })

  it('tells of what cannot be', () => {
    expect(rowsOf({ ...USUAL_SIGNAL_WORKSHEETS.led, forwardV: 4 })[0])
      .toMatchObject({ label: 'does not light', holds: false })
    expect(rowOf({ ...USUAL_SIGNAL_WORKSHEETS.matrix, keys: 40 }, 'keys').holds).toBe(false)
    expect(
      rowsOf({ ...USUAL_SIGNAL_WORKSHEETS.divider, series: 'E12', inputV: 5, mostV: 3.31, leastV: 3.3,
        bitHz: 1e9 })[0]!.holds,
    ).toBe(false)
  })

  it('offers the split of a matrix with fewest lines, until it is that', () => {
    const [offer] = offersOf({ ...USUAL_SIGNAL_WORKSHEETS.matrix, keys: 64 })
    expect(offer!.sheet).toMatchObject({ rows: 8, columns: 8 })
    expect(offersOf(offer!.sheet)).toEqual([])
    expect(offersOf(USUAL_SIGNAL_WORKSHEETS.led)).toEqual([])
  })

  it('has two stages side by side, each with its heading', () => {
    expect(sectionsOf(USUAL_SIGNAL_WORKSHEETS.stage, CONTEXT).map(section => section.title))
      .toEqual(['MOSFET', 'Transistor'])
  })
})
