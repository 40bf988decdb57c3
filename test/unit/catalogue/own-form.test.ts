/** Parts of the maker's own from a form: pin tables as they are pasted, and what becomes of them in a plan. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { emptyDraft, partOfDraft } from '../../../core/catalogue/own-form'
import { readOwn } from '../../../core/catalogue/own-read'
import { PIN_ROLES, readPinTable, type PinRole } from '../../../core/catalogue/pin-table'
import { evaluate } from '../../../core/evaluate'
import { placed } from '../../generated'
import { catalogue, planOf } from '../../plans'

const roles = (text: string) => readPinTable(text).map(row => [row.label, row.role])
const SENSOR: [string, PinRole][] = [['VCC', 'supply'], ['GND', 'ground'], ['SCL', 'i2c.scl'], ['SDA', 'i2c.sda'],
  ['INT', 'line']]

describe('a pasted pin table', () => {
  // common practice: how tables come out of data sheets, pages and spreadsheets
  it.each([
    ['tabs from a spreadsheet',
      'Pin\tName\tDescription\n1\tVCC\t3.3 V\n2\tGND\tground\n3\tSCL\tclock\n4\tSDA\tdata\n5\tINT\tdata ready'],
    ['a table in text',
      '| Pin | Function |\n|-----|----------|\n| VCC | 3.3 V |\n| GND | ground |\n| SCL | clock |\n| SDA | data |\n| '
      + 'INT | alarm |'],
    ['commas', 'name,description\nVCC,"2.5 to 3.6 V, no more"\nGND,\nSCL,\nSDA,\nINT,open drain'],
    ['lines from a page', '1  VCC  supply\n2  GND  ground\n3  SCL  bus clock\n4  SDA  bus data\n5  INT  interrupt'],
    ['labels alone', 'VCC\nGND\nSCL\nSDA\nINT'],
    ['with dashes', 'VCC - supply voltage\nGND - ground\nSCL - clock\nSDA - data\nINT - tells of data'],
  ])('is read from %s', (_, text) => {
    expect(roles(text)).toEqual(SENSOR)
  })

  it('knows a bus by what stands on boards, and says where it only guesses', () => {
    expect(roles('CLK\nDIN\nCS\nDC\nRST\nBL')).toEqual([
      ['CLK', 'spi.clock'], ['DIN', 'line'], ['CS', 'spi.select'], ['DC', 'line'], ['RST', 'line'], ['BL', 'line'],
    ])
    expect(roles('TXD\nRXD\n3V3\n0V\nNC')).toEqual([
      ['TXD', 'serial.tx'], ['RXD', 'serial.rx'], ['3V3', 'supply'], ['0V', 'ground'], ['NC', 'none'],
    ])
    expect(readPinTable('MOSI/SDA')[0]).toMatchObject({ role: 'i2c.sda', unsure: true })
    const [odd, told] = readPinTable('label,function\nQ7,output of the comparator\nP2,MOSI')
    expect(odd).toMatchObject({ role: 'line', direction: 'out', unsure: true })
    expect(told).toMatchObject({ role: 'spi.mosi', unsure: true })
  })

  it('never throws, whatever is pasted, and gives known roles only', () => {
    fc.assert(fc.property(fc.string({ maxLength: 300 }), (text) => {
      for (const row of readPinTable(text)) expect(Object.keys(PIN_ROLES)).toContain(row.role)
    }))
    expect(readPinTable('')).toEqual([])
    expect(readPinTable('\n|---|---|\n')).toEqual([])
  })
})

describe('a part from a form', () => {
  const draft = { ...emptyDraft(), name: 'Lightning sensor', pins: readPinTable('VCC\nGND\nSCL\nSDA\nINT'),
    address: '0x03'.replace('03', '39') }

  it('takes the room that was measured, once all three sizes are known', () => {
    const sized = partOfDraft({ ...draft, widthMm: 26, depthMm: 24, aboveMm: 4.5 }, new Set())
    expect(sized.body).toEqual({ widthMm: 26, depthMm: 24, aboveMm: 4.5, origin: 'measured' })
    expect(readOwn(JSON.stringify(sized))).toMatchObject({ ok: true })
    expect(partOfDraft({ ...draft, widthMm: 26, aboveMm: 4.5 }, new Set()).body).toBeUndefined()
    const flat = readOwn(JSON.stringify(partOfDraft({ ...draft, widthMm: 0, depthMm: 24, aboveMm: 4.5 }, new Set())))
    expect(flat.ok ? '' : flat.problems[0]!.path).toBe('body.widthMm')
  })

  it('is a part file that the door takes, and is placed like any other', () => {
    const part = partOfDraft(draft, new Set(catalogue.parts.keys()))
    expect(readOwn(JSON.stringify(part))).toMatchObject({ ok: true, kind: 'part' })
    expect(part).toMatchObject({ id: 'own-lightning-sensor', i2c: { address: '0x39' } })
    for (const board of catalogue.boards.keys()) {
      const plan = placed({ ...planOf(board, { s: part.id }), own: { boards: [], parts: [part] } })
      expect(plan, board).not.toBeNull()
      expect(evaluate(plan!, catalogue).findings.filter(finding => finding.severity === 'stop'
        && finding.stages[0] === 'wiring')).toEqual([])
    }
  })

  it('takes an id of its own beside another, and terminals of one name are told apart', () => {
    expect(partOfDraft(draft, new Set(['own-lightning-sensor'])).id).toBe('own-lightning-sensor-2')
    const twice = partOfDraft({ ...draft, pins: readPinTable('GND\nGND\nOUT\nOUT') }, new Set())
    expect(new Set([...twice.grounds, ...twice.signals].map(terminal => terminal.id)).size).toBe(4)
  })

  it('any draft gives a file that is taken, or is refused with the field', () => {
    fc.assert(fc.property(
      fc.array(fc.record({
        label: fc.string({ minLength: 1, maxLength: 12 }), note: fc.constant(''),
        role: fc.constantFrom(...Object.keys(PIN_ROLES) as PinRole[]),
        direction: fc.constantFrom('in' as const, 'out' as const, 'both' as const), unsure: fc.boolean(),
      }), { maxLength: 12 }),
      fc.string({ maxLength: 20 }),
      (pins, name) => {
        const read = readOwn(JSON.stringify(partOfDraft({ ...draft, pins, name }, new Set())))
        if (!read.ok) for (const problem of read.problems) expect(problem.path).not.toBe('')
      },
    ))
  })
})
