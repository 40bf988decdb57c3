/** What the file's check would refuse is refused before it is kept. */
import { describe, expect, it } from 'vitest'
import { newProblems } from '../../../core/plan/door'
import { applyEdit, type Edit } from '../../../core/plan/edits'
import { readPlan } from '../../../core/plan/read'
import type { Plan } from '../../../core/plan/types'
import { planOf } from '../../plans'

const plan = planOf('forty-classic', { r: 'relay-board-1', s: 'servo-small' })
const tried = (edit: Edit, from: Plan = plan) => newProblems(from, applyEdit(from, edit).plan)
const load = (more: object) => ({
  edit: 'set-loads', id: 'r', loads: [{ contact: 1, what: '', kind: 'DC', voltageV: 12, currentA: 1, ...more }],
}) as Edit

describe('the door of edits', () => {
  it.each([
    [load({ contact: 1.5 }), 'parts[0].loads[0].contact'], [load({ currentA: 5000 }), 'parts[0].loads[0].currentA'],
    [{ edit: 'set-limit', key: 'board.lineMaxMa', value: -100 }, 'limits["board.lineMaxMa"].value'],
    [{ edit: 'set-clock', bus: 'i2c1', clockHz: 0 }, 'clocks.i2c1'],
    [{ edit: 'dress-wire', terminal: 's.pwm', lengthM: 400 }, 'build.wires["s.pwm"].lengthM'],
    [{ edit: 'rename', name: '' }, 'name'],
  ] as [Edit, string][])('refuses %j by its path', (edit, path) => {
    expect(tried(edit).map(problem => problem.path)).toEqual([path])
    expect(readPlan(applyEdit(plan, edit).plan).ok).toBe(false)
  })

  it.each([
    [load({})], [{ edit: 'rename', name: 'Shed' }], [{ edit: 'write-notes', notes: 'x'.repeat(5000) }],
    [{ edit: 'put-back', fields: { ofTomorrow: { any: 1 } } }], [{ edit: 'set-clock', bus: 'i2c1', clockHz: 400_000 }],
  ] as [Edit][])('lets %j through', (edit) => {
    expect(tried(edit)).toEqual([])
    expect(readPlan(applyEdit(plan, edit).plan).ok).toBe(true)
  })

  it('does not refuse a change because of what was wrong before', () => {
    const old = applyEdit(applyEdit(plan, load({ contact: 1.5 })).plan,
      { edit: 'rename-part', id: 's', name: 'x'.repeat(400) }).plan
    expect(tried({ edit: 'rename-part', id: 's', name: 'Gate' }, old)).toEqual([])
    expect(tried(load({ currentA: 5000 }), old).map(problem => problem.path)).toEqual(['parts[0].loads[0].currentA'])
  })
})

describe('hours of the day', () => {
  const day = (...parts: Plan['power']['day']) => readPlan({ ...plan, power: { ...plan.power, day: parts } })

  it('that begin where they end, or name a step that is not there, are refused by their path', () => {
    expect(day({ fromH: 0, toH: 24, step: 'idle' }, { fromH: 22, toH: 4, step: 'peak' }).ok).toBe(true)
    expect(day({ fromH: 6, toH: 6, step: 'idle' }))
      .toMatchObject({ ok: false, problems: [{ path: 'power.day[0].toH' }] })
    expect(day({ fromH: 0, toH: 6, step: 'idle' }, { fromH: 6, toH: 9, step: 'busy' }))
      .toMatchObject({ ok: false,
        problems: [{ path: 'power.day[1].step', message: expect.stringContaining('"busy"') }] })
  })

  it('go with the step that they name', () => {
    const step = { id: 'busy', name: 'Busy', base: 'peak' as const, loads: {}, open: [], seconds: 5 }
    const busy = applyEdit(plan, {
      edit: 'set-power',
      power: { steps: [step], day: [{ fromH: 0, toH: 6, step: 'busy' }, { fromH: 6, toH: 9, step: 'idle' }] },
    }).plan
    const { plan: after, inverse } = applyEdit(busy, { edit: 'set-power', power: { steps: [] } })
    expect(after.power.day).toEqual([{ fromH: 6, toH: 9, step: 'idle' }])
    expect(readPlan(after).ok).toBe(true)
    expect(applyEdit(after, inverse).plan).toEqual(busy)
  })
})
