/** The stock: counted, held against plans, written to a table and read back. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { partsAsCsv } from '../../../core/construction/table'
import { evaluate } from '../../../core/evaluate'
import { joinedStock, stockAsCsv, stockFromCsv } from '../../../core/stock/csv'
import type { Edit } from '../../../core/plan/edits'
import type { Plan } from '../../../core/plan/types'
import { drawerFirst, entriesFor, liesFree, stockOf, takenBy, takenIn, takenTogether } from '../../../core/stock/needs'
import type { StockEntry } from '../../../core/stock/shape'
import { demoPlans } from '../../../demo'
import { placedPlans } from '../../generated'
import { catalogue, planOf } from '../../plans'

const nameOf = (type: string) => catalogue.parts.get(type)?.name ?? catalogue.boards.get(type)?.name
const idOf = (name: string) =>
  [...catalogue.parts.values()].find(part => part.name.toLowerCase() === name.toLowerCase())?.id
const lies = (type: string, count: number,
  place?: string): StockEntry => ({ id: `${type} ${place}`, type, what: nameOf(type) ?? type,
  count, ...place && { place } })

describe('what a plan takes', () => {
  it('is what its parts list says, by catalogue id, in demos and generated plans', () => {
    for (const plan of [...demoPlans, ...placedPlans(40, 5200)]) {
      const listed = new Map<string, number>()
      for (const { type, count } of evaluate(plan,
        catalogue).partsList) if (type !== undefined) listed.set(type, (listed.get(
        type) ?? 0) + count)
      const taken = takenBy(plan)
      for (const [type, count] of listed) expect([type, taken.get(type)]).toEqual([type, count])
      // What joins two things and needs no row of its own is not in the list: nothing else is missing.
      for (const [type, count] of taken) if (catalogue.parts.has(type)
        || catalogue.boards.has(type)) expect([type, listed.get(
        type)]).toEqual([type, count])
    }
  })

  it('is added up over plans', () => {
    const one = planOf('forty-usb-c', { a: 'led-plain', b: 'led-plain' })
    expect(takenTogether([one, one]).get('led-plain')).toBe(4)
    expect(takenTogether([one, one]).get('forty-usb-c')).toBe(2)
  })
})

describe('ways out that lie in the drawer', () => {
  const full: Plan = planOf('forty-usb-c', { cooler: 'cooler-active', box: 'case-closed' })
  const fixes = () => evaluate(full, catalogue).findings.find(({ code }) => code === 'sockets.exceeded')!.fixes
  const [fins, without] = fixes().map(fix => fix.edits as Edit[])

  it('are those whose things all lie free, as often as they take them', () => {
    expect(takenIn(fins!)).toEqual(['cooler-fins'])
    expect(liesFree(fins!, new Map([['cooler-fins', 1]]))).toBe(true)
    expect(liesFree(fins!, new Map([['cooler-fins', 0]]))).toBe(false)
    expect(liesFree([...fins!, ...fins!], new Map([['cooler-fins', 1]]))).toBe(false)
    expect(liesFree([{ edit: 'all', edits: fins! }], new Map([['cooler-fins', 2]]))).toBe(true)
    expect(liesFree([{ edit: 'choose-supply', supply: { type: 'adapter-5v-5a' } }], new Map([['adapter-5v-5a', 1]])))
      .toBe(true)
  })

  it('come first, in their order, but for those that mend it in part', () => {
    const edits = (type: string): Edit[] => [{ edit: 'choose-supply', supply: { type } }]
    const offered = [
      { label: 'buy', edits: edits('adapter-5v-5a') },
      { label: 'half', edits: edits('adapter-5v-3a'), isPartial: true as const },
      { label: 'there', edits: edits('adapter-usb-2a') }, { label: 'without', edits: [] },
    ]
    const free = new Map([['adapter-5v-3a', 1], ['adapter-usb-2a', 1]])
    expect(drawerFirst(offered, free).map(({ fix, isThere }) => `${fix.label} ${isThere}`))
      .toEqual(['there true', 'buy false', 'half true', 'without false'])
    expect(drawerFirst(offered, new Map()).map(({ fix }) => fix.label)).toEqual(['buy', 'half', 'there', 'without'])
  })

  it('what takes nothing is neither', () => {
    expect(liesFree(without!, new Map())).toBeNull()
  })
})

describe('have, need, buy', () => {
  const item = { type: 'led-plain', what: 'LED with resistor, one', count: 3 }

  it('uses what lies free, and buys the rest', () => {
    expect(stockOf(item, [], new Map())).toEqual({ have: 0, reserved: 0, need: 3, buy: 3, places: [] })
    expect(stockOf(item, [lies('led-plain', 2, 'box 1'), lies('led-plain', 2, 'box 2')], new Map()))
      .toMatchObject({ have: 4, buy: 0,
        places: ['box 1', 'box 2'] })
    expect(stockOf(item, [lies('led-plain', 4)], new Map([['led-plain', 3]])))
      .toMatchObject({ have: 4, reserved: 3, buy: 2 })
    expect(stockOf(item, [lies('led-plain', 1)], new Map([['led-plain', 9]])).buy).toBe(3)
  })

  it('knows what is in no catalogue by its name', () => {
    const stock: StockEntry[] = [{ id: '1', what: 'wire, 26 gauge', count: 5 },
      { id: '2', what: 'LED with resistor, one', count: 9 }]
    expect(entriesFor(stock, { what: 'Wire, 26 gauge' })).toHaveLength(1)
    expect(stockOf(item, stock, new Map()).have).toBe(9)
  })

  it('law: never buys more than is needed, and more in the drawer never means more to buy', () => {
    fc.assert(fc.property(fc.nat(20), fc.nat(20), fc.nat(20), fc.nat(20), (count, have, more, reserved) => {
      const others = new Map([['led-plain', reserved]])
      const row = stockOf({ ...item, count }, [lies('led-plain', have)], others)
      expect(row.buy).toBeGreaterThanOrEqual(0)
      expect(row.buy).toBeLessThanOrEqual(count)
      expect(row.buy + Math.max(0, have - reserved)).toBeGreaterThanOrEqual(count)
      expect(stockOf({ ...item, count }, [lies('led-plain', have + more)], others).buy).toBeLessThanOrEqual(row.buy)
    }))
  })

  it('stands in the parts list as a table', () => {
    const { partsList } = evaluate(planOf('forty-usb-c', { a: 'led-plain' }), catalogue)
    const csv = partsAsCsv(partsList, row => stockOf(row, [lies('led-plain', 5, 'box 1')], new Map()))
    expect(csv.split('\r\n')[0])
      .toBe('Count,What,For,Length (m),"Price, each (made up)",Have,Taken by others,Buy,Lies in')
    expect(csv).toMatch(/LED with resistor, one.*,5,0,0,box 1/)
  })
})

describe('the stock as a table', () => {
  const cell = fc.string({ unit: fc.constantFrom('a', 'B', ' ', ',', '"', ';', '=', '+', '-', 'é', '1', '\n'),
    minLength: 1,
    maxLength: 12 })
    .map(text => text.replace(/\s+/g, ' ').trim()).filter(Boolean)
  const entry = fc.record({ what: cell, count: fc.nat(999), place: fc.option(cell, { nil: undefined }),
    note: fc.option(cell,
      { nil: undefined }) })

  it('law: comes back as it went out', () => {
    fc.assert(fc.property(fc.array(entry, { minLength: 1, maxLength: 6 }), (rows) => {
      const stock = rows.map(({ place, note, ...row },
        i): StockEntry => ({ id: String(i), ...row, ...place && { place }, ...note
        && { note } }))
      const { entries, problems } = stockFromCsv(stockAsCsv(stock), nameOf, () => undefined)
      expect(problems).toEqual([])
      expect(entries).toEqual(stock.map(({ id: _, ...row }) => row))
    }))
  })

  it('is read with the headings that people write, and knows the catalogue by name and by id', () => {
    const { entries } = stockFromCsv('Name;Qty;Drawer\nPush button, one, to ground;12;left\nspare fuse;1 000;\n',
      nameOf, idOf)
    expect(entries).toEqual([{ what: 'Push button, one, to ground', count: 12, type: 'button-1', place: 'left' },
      { what: 'spare fuse',
        count: 1000 }])
    // A problem stands at the line where the table has it, empty ones counted.
    expect(stockFromCsv('\nWhat,Count\n\nfuse,many\n', nameOf, idOf).problems.map(({ path }) => path))
      .toEqual(['line 4'])
    expect(stockFromCsv('Type,Count\nled-plain,3\n', nameOf, idOf).entries)
      .toEqual([{ what: 'LED with resistor, one', count: 3,
        type: 'led-plain' }])
  })

  it('tells by its line what it cannot use', () => {
    expect(stockFromCsv('What,Count\nfuse,many\n,4\n', nameOf, idOf).problems).toEqual([
      { path: 'line 2', message: '"many" is no count.' }, { path: 'line 3', message: 'It is not said what it is.' },
    ])
    expect(stockFromCsv('a,b\n1,2\n', nameOf, idOf).problems[0]!.path).toBe('line 1')
  })

  it('laid into what is there: counts stand, nothing goes', () => {
    let n = 0
    const before = [lies('led-plain', 2, 'box 1'), { id: 'x', what: 'fuse', count: 1 }]
    const { stock, changed, added } = joinedStock(before, [
      { what: 'LED', type: 'led-plain', count: 7, place: 'box 1' },
      { what: 'LED', type: 'led-plain', count: 3, place: 'box 2' },
      { what: 'Fuse', count: 1 },
    ], () => `n${n++}`)
    expect([changed, added]).toEqual([1, 1])
    expect(stock.map(({ what, count, place }) => [what, count, place]))
      .toEqual([['LED', 7, 'box 1'], ['fuse', 1, undefined], ['LED',
        3, 'box 2']])
    expect(joinedStock(stock, stock.map(({ id: _, ...row }) => row), () => 'never'))
      .toMatchObject({ changed: 0, added: 0 })
  })
})
