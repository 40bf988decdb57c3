import { describe, expect, it } from 'vitest'
import { cutListOf } from '../../../core/construction/harness'
import { priceOf } from '../../../core/construction/parts-list'
import { shippedCatalogue } from '../../../core/catalogue'
import { evaluate } from '../../../core/evaluate'
import { applyEdit } from '../../../core/plan/edits'
import { demoPlans } from '../../../demo'
import { placedPlans } from '../../generated'

describe('wires in the parts list', () => {
  it('are the metres of the wire list, gauge by gauge and colour by colour, on any plan', () => {
    for (const plan of [...placedPlans(60), ...demoPlans]) {
      const { partsList, wires } = evaluate(plan, shippedCatalogue)
      const metres = new Map<string, number>()
      for (const { kind, key, awg, colour, lengthM } of wires) {
        if (kind !== 'wire') continue
        const row = partsList.find(({ ids }) => ids.includes(key))!
        expect(row.what).toBe(['Wire', ...awg === undefined ? [] : [`${Math.round(awg)} gauge`], ...colour
          ? [colour]
          : []].join(', '))
        metres.set(row.what, (metres.get(row.what) ?? 0) + lengthM)
      }
      const rows = partsList.filter(({ kind }) => kind === 'wire')
      expect(rows.map(({ what }) => what).sort()).toEqual([...metres.keys()].sort())
      // A wire of two ways is two wires: the row may be longer than the list, never shorter.
      for (const { what, lengthM } of rows) expect(lengthM!)
        .toBeGreaterThanOrEqual(Number(metres.get(what)!.toFixed(2)) - 0.02)
      // They come last, and cost nothing by themselves.
      expect(partsList.slice(partsList.length - rows.length)).toEqual(rows)
      expect(rows.every(({ price }) => price === null)).toBe(true)
      expect(priceOf(partsList)).toEqual(priceOf(partsList.filter(({ kind }) => kind !== 'wire')))
    }
  })

  it('follow the colour and length that the maker gave a wire', () => {
    const plan = demoPlans[0]!
    const wire = evaluate(plan, shippedCatalogue).wires.find(({ kind, terminal }) => kind === 'wire' && terminal)!
    const { plan: dressed } = applyEdit(plan,
      { edit: 'dress-wire', terminal: wire.terminal!, colour: 'brown', lengthM: 7 })
    const row = evaluate(dressed, shippedCatalogue).partsList.find(({ ids }) => ids.includes(wire.key))!
    expect(row.colour).toBe('brown')
    expect(row.lengthM!).toBeGreaterThanOrEqual(7)
  })

  it('are cut once each, by gauge, colour and length', () => {
    for (const plan of [...placedPlans(20), ...demoPlans]) {
      const { wires } = evaluate(plan, shippedCatalogue)
      const cuts = cutListOf(wires)
      const numbers = cuts.flatMap(cut => cut.numbers).sort((a, b) => a - b)
      expect(numbers).toEqual(wires.flatMap(({ kind }, i) => kind === 'wire' ? [i + 1] : []))
      for (const { count, colour, lengthM, awg, numbers: own } of cuts) {
        expect(own).toHaveLength(count)
        for (const number of own) expect(wires[number - 1])
          .toMatchObject({ colour, lengthM, ...awg !== undefined && { awg } })
      }
    }
  })
})
