/** One function both ways: laws over generated plans, and what is known of the ways. */
import { describe, expect, it } from 'vitest'
import { wayOf, waysIn } from '../../../core/catalogue/ways'
import { TRIAL_ORDERS, trialsBy, tryPart } from '../../../core/choose/parts'
import { tryWays } from '../../../core/choose/ways'
import { evaluate } from '../../../core/evaluate'
import { applyEdit } from '../../../core/plan/edits'
import { faultsOf, refOf } from '../../checker'
import { placed, placedPlans } from '../../generated'
import { catalogue, planOf } from '../../plans'

describe('loose wires or an add-on board', () => {
  it('knows parts of the catalogue only, add-on boards on the one side and none on the other', () => {
    for (const { addOn, loose } of waysIn(catalogue)) {
      expect(catalogue.parts.get(addOn)?.isAddOn).toBe(true)
      for (const type of loose) expect(catalogue.parts.get(type)?.isAddOn ?? false).toBe(false)
    }
    expect(wayOf('servo-small', catalogue)).toBeNull()
  })

  it.each(waysIn(catalogue).flatMap(way => [way.addOn, way.loose[0]!].map(type => [type, way] as const)))(
    '%s is tried both ways, and what is taken stands', (type, way) => {
      for (const board of ['forty-classic', 'forty-usb-c']) {
        const plan = placed(planOf(board, { it: type, lamp: 'led-plain' }))!
        const [loose, addOn] = tryWays(plan, 'it', catalogue)!
        for (const { trial, parts } of [loose, addOn]) {
          const { plan: after, inverse } = applyEdit(plan, { edit: 'all', edits: trial.edits })
          // The other way is in, this one is out, the rest is as it was.
          expect(after.parts.some(({ id }) => id === 'it')).toBe(false)
          expect(parts.every(part => after.parts.some(other => other.type === part.id))).toBe(true)
          expect(after.parts.some(({ id }) => id === 'lamp')
            || way.loose.filter(entry => entry === 'led-plain').length > 1).toBe(true)
          expect(applyEdit(after, inverse).plan).toEqual(plan)
          const places = Object.fromEntries(Object.entries(after.assignments).map(([key, to]) => [key, refOf(to)]))
          if (trial.placed) expect(faultsOf(after, places, true)).toEqual([])
        }
        expect(addOn.trial.wires).toBeLessThanOrEqual(loose.trial.wires)
        expect(Math.min(loose.trial.minutes ?? 0, addOn.trial.minutes ?? 0)).toBeGreaterThanOrEqual(0)
      }
    })

  it('wires are those that the report has more', () => {
    const plan = placed(planOf('forty-usb-c', { it: 'clock-add-on' }))!
    const [loose] = tryWays(plan, 'it', catalogue)!
    const wiresIn = (of: typeof plan) => evaluate(of, catalogue).wires.filter(({ kind }) => kind === 'wire').length
    const bare = applyEdit(plan, { edit: 'remove-part', id: 'it' }).plan
    expect(wiresIn(applyEdit(plan, { edit: 'all', edits: loose.trial.edits }).plan) - wiresIn(bare))
      .toBe(loose.trial.wires)
  })
})

describe('trials in an order', () => {
  const plans = placedPlans(4, 910, 3)
  it.each(Object.keys(TRIAL_ORDERS) as (keyof typeof TRIAL_ORDERS)[])('by %s: all of them, less first, no room last',
    (order) => {
      for (const plan of plans) {
        const trials = ['oled-i2c', 'screen-spi-24', 'text-display-i2c', 'oled-spi-15'].map(type => tryPart(plan,
          catalogue.parts.get(
            type)!, catalogue))
        const sorted = trialsBy(trials, order)
        expect([...sorted].sort((a, b) => a.partId < b.partId ? -1 : 1))
          .toEqual([...trials].sort((a, b) => a.partId < b.partId ? -1 : 1))
        const roomy = sorted.filter(trial => trial.placed)
        expect(sorted.slice(0, roomy.length)).toEqual(roomy)
        const figures = roomy.map(TRIAL_ORDERS[order].of)
        expect(figures).toEqual([...figures].sort((a, b) => a - b))
      }
    })
})
