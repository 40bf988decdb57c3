/** Colours of wires by rule: laws over demos and drawn plans. Red for plus and black for ground are common practice. */
import { describe, expect, it } from 'vitest'
import { lookAlike, ruledColour } from '../../../core/construction/colours'
import { cutListOf } from '../../../core/construction/harness'
import { evaluate } from '../../../core/evaluate'
import { applyEdit } from '../../../core/plan/edits'
import type { Plan } from '../../../core/plan/types'
import { CARRIES_IDS, type Carries } from '../../../core/plan/wire-colours'
import { demoPlans } from '../../../demo'
import { placedPlans, placed } from '../../generated'
import { catalogue, planOf } from '../../plans'

const plans = [...demoPlans, ...placedPlans(5, 8100)]
const wiresOf = (plan: Plan) => evaluate(plan, catalogue).wires
const withRule = (plan: Plan, carries: Carries,
  colour: string | null) => applyEdit(plan, { edit: 'colour-rule', carries, colour }).plan

describe('a rule for colours', () => {
  it('law: it holds for what it is about and changes nothing else; taken back all is as before', () => {
    for (const plan of plans) {
      const before = wiresOf(plan)
      const touched = new Set<string>()
      for (const carries of CARRIES_IDS) {
        const ruled = withRule(plan, carries, 'pink')
        const after = wiresOf(ruled)
        for (const [i, wire] of after.entries()) {
          expect({ ...wire, colour: '' }).toEqual({ ...before[i]!, colour: '' })
          if (wire.colour === before[i]!.colour) continue
          expect(wire.colour).toBe('pink')
          // Each wire is of one kind.
          expect(touched.has(wire.key)).toBe(false)
          touched.add(wire.key)
        }
        expect(withRule(ruled, carries, null)).toEqual(plan)
      }
      for (const wire of before) {
        const isOwn = wire.terminal !== undefined && plan.build.wires[wire.terminal]?.colour !== undefined
        expect([wire.key, touched.has(wire.key)]).toEqual([wire.key, wire.colour !== '' && !isOwn])
      }
    }
  })

  it('a colour of one wire\'s own goes before it, and the cut list follows', () => {
    const plan = placed(planOf('forty-usb-c', { air: 'pressure-humidity-i2c', screen: 'oled-i2c' }))!
    const ruled = withRule(withRule(plan, 'i2c.sda', 'blue'), 'i2c.scl', 'yellow')
    const own = applyEdit(ruled, { edit: 'dress-wire', terminal: 'air.sda', colour: 'white' }).plan
    const colours = Object.fromEntries(wiresOf(own)
      .flatMap(({ terminal, colour }) => terminal ? [[terminal, colour]] : []))
    expect(colours).toMatchObject({
      'air.sda': 'white', 'screen.sda': 'blue', 'air.scl': 'yellow', 'screen.scl': 'yellow', 'air.gnd': 'black',
      'air.vcc': 'orange',
    })
    expect(cutListOf(wiresOf(own)).reduce((sum, { count, colour }) => sum + (colour === 'yellow' ? count : 0), 0))
      .toBe(wiresOf(own).filter(({ colour }) => colour === 'yellow').length)
  })
})

describe('what looks alike', () => {
  it('is told of ground and supplies alone', () => {
    expect(lookAlike(undefined)).toEqual([])
    expect(lookAlike({ '5V': 'black' })).toEqual([['ground', '5V']])
    expect(lookAlike({ '3V3': 'red' })).toEqual([['3V3', '5V']])
    expect(lookAlike({ ground: 'red' })).toEqual([['ground', '5V'], ['ground', 'supply']])
    expect(lookAlike({ 'i2c.sda': 'black' })).toEqual([])
    expect(ruledColour(undefined, 'line')).toBeNull()
    expect(ruledColour({ line: 'green' }, 'line')).toBe('green')
  })
})
