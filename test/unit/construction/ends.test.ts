/** What is on the ends of wires: two for each, by where they go, and the maker's own before all. */
import { describe, expect, it } from 'vitest'
import { endCounts } from '../../../core/construction/ends'
import { wiresAsCsv } from '../../../core/construction/table'
import { evaluate } from '../../../core/evaluate'
import { WIRE_END_IDS } from '../../../core/plan/ends'
import { applyEdit } from '../../../core/plan/edits'
import type { Plan } from '../../../core/plan/types'
import { placed, placedPlans } from '../../generated'
import { catalogue, planOf } from '../../plans'
import { judgedAtLeast } from '../../random'

const wiresOf = (plan: Plan) => evaluate(plan, catalogue).wires

describe('ends of wires', () => {
  it('law: every single wire has two, nothing else has any, and all of them are counted', () => {
    let wires = 0
    for (const plan of placedPlans(40)) {
      const list = wiresOf(plan)
      for (const { kind, ends } of list) expect(ends === null).toBe(kind !== 'wire')
      const single = list.filter(({ kind }) => kind === 'wire').length
      expect(endCounts(list).reduce((sum, { count }) => sum + count, 0)).toBe(2 * single)
      wires += single
    }
    expect(wires).toBeGreaterThan(judgedAtLeast(200))
  })

  // Common practice, no source: sockets on pins, pins into a breadboard, bare under a screw, soldered where there are
  // no pins.
  it('are such as hold where they go', () => {
    const ends = (board: string, parts: Record<string, string>) =>
      wiresOf(placed(planOf(board, parts))!).filter(({ partId, shared }) => partId === 'it' && !shared)
        .map(wire => wire.ends)
    for (const pair of ends('forty-usb-c', { it: 'pressure-humidity-i2c' })) expect(pair).toEqual(['socket', 'socket'])
    for (const pair of ends('tiny-unpopulated',
      { it: 'pressure-humidity-i2c' })) expect(pair).toEqual(['socket', 'solder'])
    for (const pair of ends('tiny-unpopulated', { it: 'pressure-humidity-i2c', pins: 'header-forty' })) {
      expect(pair).toEqual(['socket', 'socket'])
    }
    const meeting = (more: Record<string, string>) => wiresOf(placed(planOf('forty-usb-c',
      { a: 'light-i2c', b: 'motion-i2c', ...more }))!)
      .filter(({ key }) => key.startsWith('splice@')).map(wire => wire.ends!.filter(end => end !== 'socket'))
    expect(new Set(meeting({}).flat())).toEqual(new Set(['bare']))
    expect(new Set(meeting({ holes: 'breadboard-400' }).flat())).toEqual(new Set(['pin']))
  })

  it('are the maker\'s where one was chosen, in the list and in its table, and undone', () => {
    const plan = placed(planOf('forty-usb-c', { it: 'pressure-humidity-i2c' }))!
    const [wire] = wiresOf(plan).filter(({ terminal }) => terminal !== undefined)
    for (const end of WIRE_END_IDS) {
      const { plan: after, inverse } = applyEdit(plan, { edit: 'dress-wire', terminal: wire!.terminal!, farEnd: end })
      const now = wiresOf(after).find(({ key }) => key === wire!.key)!
      expect(now.ends).toEqual([wire!.ends![0], end])
      expect(wiresAsCsv([now]).split('\r\n')[0]).toContain('Gauge,Ends,Through')
      expect(wiresOf(applyEdit(after, inverse).plan)).toEqual(wiresOf(plan))
    }
  })
})
