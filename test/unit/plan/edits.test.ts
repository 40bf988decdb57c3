import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyEdit } from '../../../core/plan/edits'
import { record, redo, startHistory, undo } from '../../../core/plan/history'
import { demoPlans } from '../../../demo'
import { anyEdit } from '../../edits'
import type { Plan } from '../../../core/plan/types'
import { draws } from '../../random'

const demo = fc.constantFrom(...demoPlans)

const frozen = <T>(value: T): T => {
  if (typeof value === 'object' && value !== null && !Object.isFrozen(value)) {
    Object.freeze(value)
    Object.values(value).forEach(frozen)
  }
  return value
}

describe('edits', () => {
  it('are taken back by their inverse, and never change the plan they are given', () => {
    fc.assert(fc.property(demo, anyEdit, (plan, edit) => {
      const before = frozen(structuredClone(plan))
      const { plan: after, inverse } = applyEdit(before, edit)
      expect(applyEdit(after, inverse).plan).toEqual(plan)
    }), { numRuns: draws(500) })
  })

  it('compose: a list of edits is the same as one after the other, and is taken back as one', () => {
    fc.assert(fc.property(demo, fc.array(anyEdit, { maxLength: 6 }), (plan, edits) => {
      const together = applyEdit(plan, { edit: 'all', edits })
      expect(together.plan).toEqual(edits.reduce((current, edit) => applyEdit(current, edit).plan, plan))
      expect(applyEdit(together.plan, together.inverse).plan).toEqual(plan)
    }))
  })

  it('take everything that belongs to a part away with it, also what hangs on its terminals', () => {
    const signalBox = demoPlans[1]!
    const { plan } = applyEdit(signalBox, { edit: 'remove-part', id: 'west' })
    expect(Object.keys(plan.assignments).filter(key => key.startsWith('west.'))).toEqual([])
    expect(Object.values(plan.assignments).filter(({ terminal }) => terminal?.startsWith('west.'))).toEqual([])
    expect(Object.values(signalBox.assignments).some(({ terminal }) => terminal?.startsWith('west.'))).toBe(true)
  })
})

describe('history', () => {
  it('goes back to the first plan and forward to the last through any edits', () => {
    fc.assert(fc.property(demo, fc.array(anyEdit, { maxLength: 12 }), (plan, edits) => {
      const done = edits.reduce((history, edit) => record(history, edit, 'step'), startHistory(plan))
      let back = done
      while (back.past.length) back = undo(back)
      expect(back.plan).toEqual(plan)
      let forth = back
      while (forth.future.length) forth = redo(forth)
      expect(forth.plan).toEqual(done.plan)
    }))
  })

  it('joins the keystrokes in one field into one step, and keeps other fields apart', () => {
    const plan: Plan = demoPlans[0]!
    const typed = ['H', 'Hi', 'Hiv'].reduce(
      (history, name) => record(history, { edit: 'rename', name }, 'Rename', 'rename 1'), startHistory(plan),
    )
    expect(typed.past).toHaveLength(1)
    const more = record(typed, { edit: 'write-notes', notes: 'n' }, 'Notes', 'notes 1')
    expect(more.past).toHaveLength(2)
    expect(undo(undo(more)).plan).toEqual(plan)
    expect(redo(undo(typed)).plan.name).toBe('Hiv')
  })

  it('forgets what was undone once something new is done', () => {
    const one = record(startHistory(demoPlans[0]!), { edit: 'rename', name: 'A' }, 'a')
    expect(redo(record(undo(one), { edit: 'rename', name: 'B' }, 'b')).plan.name).toBe('B')
  })

  it('holds no step for an edit that changes nothing', () => {
    expect(record(startHistory(demoPlans[0]!), { edit: 'release', terminal: 'nobody.x' }, 'none').past).toHaveLength(0)
  })
})
