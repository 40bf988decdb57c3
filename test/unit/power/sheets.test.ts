/** The worksheets of the supply: same figures as the engines, opened with those of the plan. */
import { describe, expect, it } from 'vitest'
import { gatherFacts } from '../../../core/facts/gather'
import { emptyPlan } from '../../../core/plan/create'
import { shippedCatalogue as catalogue } from '../../../core/catalogue'
import { SHEET_FIELDS, sheetUse, sheetRows } from '../../../core/power/sheets'
import { POWER_WORKSHEET_NAMES, USUAL_POWER_WORKSHEETS, type PowerWorksheet } from '../../../core/power/worksheets'

const rowOf = (sheet: PowerWorksheet, label: string) => sheetRows(sheet).find(row => row.label === label)!

describe.each(Object.values(USUAL_POWER_WORKSHEETS).map(sheet => [sheet.kind, sheet] as const))('the %s worksheet',
  (kind, sheet) => {
    it('has a name, a field for every figure, and rows that hold with the usual ones', () => {
      expect(POWER_WORKSHEET_NAMES[kind]).toBeTruthy()
      const fields = SHEET_FIELDS[kind].map(field => field.name)
      for (const name of Object.keys(sheet)) if (!['kind', 'node', 'chemistry'].includes(name)) expect(fields)
        .toContain(name)
      expect(sheetRows(sheet).length).toBeGreaterThan(2)
      for (const row of sheetRows(sheet)) {
        expect(`${row.label} ${row.value} ${row.limit ?? ''}`).not.toMatch(/NaN|undefined/)
        if (row.holds !== undefined) expect(row.origin ?? row.limit, row.label).toBeTruthy()
      }
    })
  })

describe('worksheets', () => {
  it('say what stands in the handbook', () => {
    // published: ASTM B258: 24 gauge, 84.21 mΩ per metre
    expect(rowOf(USUAL_POWER_WORKSHEETS.wire, 'one conductor').value).toBe('84.21 mΩ/m')
    // textbook: 9 V rms with 0.7 V diodes: 11.33 V
    expect(rowOf(USUAL_POWER_WORKSHEETS.rectifier, 'peak').value).toBe('11.33 V')
    // practice: 12 000 mAh for ten hours at 3.77 W
    expect(rowOf(USUAL_POWER_WORKSHEETS.battery, 'lasts')).toMatchObject({ value: '10.0 h', holds: true })
    expect(rowOf(USUAL_POWER_WORKSHEETS.heat, 'ends at').value).toBe('73.0 °C')
  })

  it('a wire too thin does not hold, and the thinnest that does is named', () => {
    const thin = { ...USUAL_POWER_WORKSHEETS.wire, awg: 28 }
    expect(rowOf(thin, 'at the load').holds).toBe(false)
    expect(rowOf(thin, 'thinnest that does').value).toBe('22 AWG')
    expect(rowOf({ ...thin, lengthM: 40 }, 'thinnest that does')).toMatchObject({ value: 'none', holds: false })
  })

  it('an end above the beginning holds nothing; a fuse that nothing blows is none', () => {
    expect(rowOf({ ...USUAL_POWER_WORKSHEETS['hold-up'], toV: 6 }, 'capacitor for it'))
      .toMatchObject({ value: 'none', holds: false })
    expect(rowOf({ ...USUAL_POWER_WORKSHEETS.fuse, shortMa: 1500 }, 'take').holds).toBe(false)
  })

  it('carry their figure to the node they belong to, and to none otherwise', () => {
    const facts = gatherFacts(emptyPlan('Test'), catalogue)
    const { power } = facts.plan
    const use = (sheet: PowerWorksheet) => sheetUse(sheet, facts)
    const set = (node: string, figure: string, value: number) => ({ edit: 'set-figure', node, figure, value })
    expect(use({ ...USUAL_POWER_WORKSHEETS.wire, node: '@cable' }))
      .toEqual({ node: '@cable', edits: [set('@cable', 'awg', 24), set('@cable', 'lengthM', 1)] })
    expect(use(USUAL_POWER_WORKSHEETS.wire)).toBeNull()
    expect(use({ ...USUAL_POWER_WORKSHEETS.fuse, node: 'f' })!.edits).toEqual([set('f', 'ratedMa', 1600)])
    expect(use({ ...USUAL_POWER_WORKSHEETS.fuse, node: 'f', shortMa: 1500 })).toBeNull()
    expect(use({ ...USUAL_POWER_WORKSHEETS['hold-up'], node: 'c' })!.edits).toEqual([set('c', 'capacitanceF', 10)])
    expect(use({ ...USUAL_POWER_WORKSHEETS.battery, node: '@supply' })!.edits)
      .toEqual([set('@supply', 'capacityMah', 12_000)])
    expect(use({ ...USUAL_POWER_WORKSHEETS.rectifier, node: 'b' })!.edits).toEqual([set('b', 'capacitanceUf', 4700)])
    expect(use({ ...USUAL_POWER_WORKSHEETS['step-down'], node: 'd', kw: 8 })!.edits).toEqual([set('d', 'rthKw', 8)])
    expect(use(USUAL_POWER_WORKSHEETS.heat)).toBeNull()
    expect(use({ ...USUAL_POWER_WORKSHEETS.heat, node: '@board', kw: 6 })!.edits)
      .toEqual([{ edit: 'set-power', power: { heat: { ...power.heat, coolerKw: 6 } } }])
  })
})
