import { describe, expect, it } from 'vitest'
import { READY_MADE } from '../../../core/catalogue/ready-made'
import { shippedCatalogue } from '../../../core/catalogue'
import { totalsOf } from '../../../core/choose/totals'
import { evaluate } from '../../../core/evaluate'
import { priceOf } from '../../../core/construction/parts-list'
import { applyEdit } from '../../../core/plan/edits'
import { arrangementOf } from '../../../core/plan/power-edits'
import { demoPlans } from '../../../demo'
import { placedPlans } from '../../generated'
import { planOf } from '../../plans'

const withParts = (...types: string[]) =>
  planOf('forty-usb-c', Object.fromEntries(types.map((type, i) => [`part-${i}`, type])))

describe('totals of the ways a plan knows', () => {
  it('are those of the parts list once the way is taken, the plan itself first, then by price', () => {
    for (const plan of [...placedPlans(8), ...demoPlans]) {
      const [now, ...others] = totalsOf(plan, shippedCatalogue)
      expect(now!.price).toEqual(priceOf(evaluate(plan, shippedCatalogue).partsList))
      for (const total of others) {
        if (!total.edits) continue
        const after = evaluate(applyEdit(plan, { edit: 'all', edits: total.edits }).plan, shippedCatalogue)
        expect(total.price).toEqual(priceOf(after.partsList))
        expect(total.counts).toEqual({ stops: after.counts.stops, cautions: after.counts.cautions })
      }
      const prices = others.map(({ price }) => price.total)
      expect(prices).toEqual([...prices].sort((a, b) => a - b))
    }
  })

  it('has each kept arrangement, by its name', () => {
    const plan = demoPlans[0]!
    const { plan: kept } = applyEdit(plan,
      { edit: 'keep-arrangement', arrangement: arrangementOf(plan, 'first', 'In the shed') })
    const total = totalsOf(kept, shippedCatalogue)
      .find(({ kind, id }) => kind === 'arrangement' && id === 'arrangement first')!
    expect(total.title).toContain('In the shed')
    expect(total.price).toEqual(totalsOf(kept, shippedCatalogue)[0]!.price)
  })

  it('holds a panel against the ready-made ones that are as large and touched as finely', () => {
    const found = (plan: Parameters<typeof totalsOf>[0]) =>
      totalsOf(plan, shippedCatalogue).filter(({ kind }) => kind === 'ready-made').map(({ id }) => id).sort()
    expect(found(withParts('panel-video-7'))).toEqual(['ready-panel-10', 'ready-panel-7'])
    expect(found(withParts('panel-video-5'))).toEqual(['ready-panel-10', 'ready-panel-7', 'ready-panel-7-plain'])
    expect(found(withParts('oled-i2c', 'led-plain'))).toEqual([])
  })

  it('says what a ready-made one cannot do, and counts what it can join', () => {
    const alone = READY_MADE.find(({ id }) => id === 'ready-panel-7')!.price
    const ready = (...types: string[]) =>
      totalsOf(withParts('panel-video-7', ...types), shippedCatalogue).find(({ id }) => id === 'ready-panel-7')!
    expect(ready().price.total).toBe(alone)
    expect(ready().givesUp).toEqual([])
    const lamp = ready('led-plain')
    expect(lamp.givesUp).toEqual(['what hangs on the header, which it has not, and is not counted: part-1'])
    expect(lamp.price.total).toBe(alone)
    const keys = ready('keyboard-usb')
    expect(keys.givesUp).toEqual([])
    expect(keys.price.total).toBe(alone + shippedCatalogue.parts.get('keyboard-usb')!.price!)
    expect(ready('keyboard-usb', 'device-usb', 'receiver-wide-stick').givesUp)
      .toEqual(['3 things with a USB plug: it has 2 sockets'])
  })
})
