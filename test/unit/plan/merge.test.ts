import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { differences } from '../../../core/plan/differences'
import { editsBetween } from '../../../core/plan/edits-between'
import { newProblems } from '../../../core/plan/door'
import { applyEdit, type Edit } from '../../../core/plan/edits'
import { merge, withMine, type MergeConflict } from '../../../core/plan/merge'
import { mergeText } from '../../../core/plan/merge-text'
import { isOfPart } from '../../../core/plan/mentions'
import { fieldsOf, isRecord, keysOf, same } from '../../../core/plan/same'
import { emptyPlan } from '../../../core/plan/create'
import type { Plan } from '../../../core/plan/types'
import { demoPlans } from '../../../demo'
import { anyEdit } from '../../edits'
import { catalogue, planOf } from '../../plans'
import { draws } from '../../random'

const after = (plan: Plan, edits: readonly Edit[]) => edits.reduce((now, edit) => applyEdit(now, edit).plan, plan)
const edits = fc.array(anyEdit, { minLength: 1, maxLength: 5 })
const demo = fc.constantFrom(...demoPlans)

/** Every value of `to` that is another one in `from`, with its path: what somebody did. */
function changes(path: string[], from: unknown, to: unknown): { path: string[], value: unknown }[] {
  if (same(from, to)) return []
  if (isRecord(from)
    && isRecord(to)) return fieldsOf(from, to).flatMap(name => changes([...path, name], from[name], to[name]))
  if (Array.isArray(from) && Array.isArray(to)) {
    const [was, is] = [keysOf(from), keysOf(to)]
    if (was && is) return [...new Set([...is, ...was])].flatMap(key =>
      changes([...path, key], from[was.indexOf(key)], to[is.indexOf(key)]))
  }
  return [{ path, value: to }]
}

const at = (value: unknown, path: readonly string[]): unknown => path.reduce((now, name) => Array.isArray(now)
  ? now[(keysOf(now) ?? []).indexOf(name)]
  : isRecord(now) ? now[name] : undefined, value)

const isTold = (collisions: readonly MergeConflict[], path: readonly string[]) =>
  collisions.some(collision => collision.path.every((name, i) => path[i] === undefined || path[i] === name))

describe('joining two changes of one plan', () => {
  it('is the one side where the other did nothing, or the same', () => {
    fc.assert(fc.property(demo, edits, (base, list) => {
      const changed = after(base, list)
      for (const [mine, theirs] of [[changed, base], [base, changed], [changed, changed]] as const) {
        const { plan, collisions } = merge(base, mine, theirs)
        expect(collisions).toEqual([])
        expect(same(plan, changed)).toBe(true)
      }
    }), { numRuns: draws(150) })
  })

  it('takes everything that both did, or tells what it could not', () => {
    fc.assert(fc.property(demo, edits, edits, (base, a, b) => {
      const [mine, theirs] = [after(base, a), after(base, b)]
      const { plan, collisions } = merge(base, mine, theirs)
      const gone = new Set([...base.parts, ...mine.parts, ...theirs.parts].map(part => part.id).filter(id =>
        !plan.parts.some(part => part.id === id)))
      for (const side of [mine, theirs]) {
        for (const { path, value } of changes([], base, side)) {
          const stands = same(at(plan, path), value)
            || (typeof value === 'string' && String(at(plan, path)).includes(value))
          // What is about a part that somebody took out goes with it.
          const ofGone = [...gone].some(id => path.some(isOfPart(id)) || JSON.stringify(value ?? '').includes(id))
          if (!stands && !isTold(collisions, path) && !ofGone) {
            expect.fail(`${path.join('/')}: ${JSON.stringify(value)} is neither there nor told`)
          }
        }
      }
    }), { numRuns: draws(400) })
  })

  it('gives a plan that its own check lets through, when both sides were', () => {
    fc.assert(fc.property(demo, edits, edits, (base, a, b) => {
      const [mine, theirs] = [after(base, a), after(base, b)]
      fc.pre(!newProblems(base, mine).length && !newProblems(base, theirs).length)
      expect(newProblems(base, merge(base, mine, theirs).plan)).toEqual([])
    }), { numRuns: draws(300) })
  })

  it('puts this side of a collision in its place when asked', () => {
    fc.assert(fc.property(demo, edits, edits, (base, a, b) => {
      const { plan, collisions } = merge(base, after(base, a), after(base, b))
      for (const collision of collisions) {
        if (collision.path.at(-1) === 'order') continue
        expect(same(at(withMine(plan, collision), collision.path), collision.mine), collision.path.join('/')).toBe(true)
      }
    }), { numRuns: draws(200) })
  })

  it('keeps both of two parts, two notes and two places; a name that both changed is told', () => {
    const base = planOf('forty-classic', { a: 'oled-i2c' })
    const mine = after(base, [
      { edit: 'add-part', part: { id: 'mine', type: 'fan-5v', name: 'M' } }, { edit: 'write-notes', notes: 'mine' },
      { edit: 'assign', terminal: 'a.sda', to: { position: 3 } }, { edit: 'rename', name: 'Mine' },
    ])
    const theirs = after(base, [
      { edit: 'add-part', part: { id: 'theirs', type: 'fan-5v', name: 'T' } },
      { edit: 'write-notes', notes: 'theirs ' },
      { edit: 'assign', terminal: 'a.scl', to: { position: 5 } }, { edit: 'rename', name: 'Theirs' },
    ])
    const { plan, collisions } = merge(base, mine, theirs)
    expect(plan.parts.map(part => part.id)).toEqual(['a', 'mine', 'theirs'])
    expect(plan.notes).toBe('theirs mine')
    expect(plan.assignments).toEqual({ 'a.sda': { position: 3 }, 'a.scl': { position: 5 } })
    expect(collisions).toEqual([{ path: ['name'], mine: 'Mine', theirs: 'Theirs' }])
    expect(withMine(plan, collisions[0]!).name).toBe('Mine')
  })

  it('tells when one side gave something to a part that the other took out', () => {
    const base = planOf('forty-classic', { a: 'oled-i2c' })
    const mine = after(base, [{ edit: 'assign', terminal: 'a.sda', to: { position: 3 } }])
    const { plan, collisions } = merge(base, mine, after(base, [{ edit: 'remove-part', id: 'a' }]))
    expect(plan.assignments).toEqual({})
    expect(collisions).toMatchObject([{ path: ['parts', 'a'] }])
  })
})

describe('joining two changes of one text', () => {
  it('keeps every letter of both where they do not touch', () => {
    fc.assert(fc.property(fc.string(), fc.string(), fc.string(), fc.string(), (a, b, mine, theirs) => {
      const joined = mergeText(`${a}|${b}`, `${a}|${b}${mine}`, `${theirs}${a}|${b}`)
      expect(joined).not.toBeNull()
      expect([...joined!].sort()).toEqual([...`${theirs}${a}|${b}${mine}`].sort())
    }))
  })

  it('joins line by line where each changed several places, and gives up where they changed one line', () => {
    const lines = Array.from({ length: 9 }, (_, i) => `line ${i}\n`)
    const put = (...at: number[]) => lines.map((line, i) => at.includes(i) ? `changed ${line}` : line).join('')
    expect(mergeText(lines.join(''), put(0, 8), put(4))).toBe(put(0, 4, 8))
    expect(mergeText('one word', 'one deed', 'one wool')).toBeNull()
  })
})

describe('differences in words', () => {
  it('are there exactly when something changed', () => {
    fc.assert(fc.property(demo, edits, (base, list) => {
      const changed = after(base, list)
      const said = differences(base, changed, catalogue)
      expect(said.length > 0).toBe(!same(base, changed))
      for (const sentence of said) expect(sentence).not.toMatch(/undefined|\[object|: $/)
    }), { numRuns: draws(300) })
  })

  it('name parts, places and boards as people know them', () => {
    const before = planOf('forty-classic', { a: 'oled-i2c' })
    const now = after(before, [
      { edit: 'choose-board', board: 'forty-usb-c' }, { edit: 'rename-part', id: 'a', name: 'Panel' },
      { edit: 'assign', terminal: 'a.sda', to: { position: 3, fixed: true } },
      { edit: 'add-part', part: { id: 'b', type: 'fan-5v', name: 'Fan' } },
      { edit: 'set-boot', boot: { text: 'a\nb\n' } },
    ])
    const said = differences(before, now, catalogue)
    expect(said).toContain('Panel sda: not placed → position 3, fixed')
    expect(said.find(sentence => sentence.startsWith('Board: '))).toMatch(/→ .*USB-C/)
    expect(said.find(sentence => sentence.includes('"Fan"'))).toMatch(/added$/)
    expect(said.find(sentence => sentence.includes('name "a" → "Panel"'))).toBeDefined()
    expect(differences(emptyPlan('A'), emptyPlan('B'), catalogue)).toEqual(['Name: "A" → "B"'])
    expect(differences(now, after(now, [{ edit: 'set-boot', boot: { text: 'a\nc\nd\n' } }]), catalogue))
      .toEqual(['Boot file: 2 lines new, 1 line gone'])
  })
})

describe('the edits between two states', () => {
  it('law: applied one after the other they make the second of the first, each changes something, none '
    + 'where nothing differs', () => {
    fc.assert(fc.property(demo, fc.array(anyEdit, { maxLength: 12 }), (plan, changes) => {
      const changed = after(plan, changes)
      let now = plan
      for (const edit of editsBetween(plan, changed)) {
        const next = applyEdit(now, edit).plan
        expect(same(next, now)).toBe(false)
        now = next
      }
      expect(same(now, changed)).toBe(true)
      expect(editsBetween(changed, changed)).toEqual([])
    }), { numRuns: draws(150) })
  })

  it('are named where there are names: a part, its strap, its place', () => {
    const [hive] = demoPlans as [Plan]
    const changed = after(hive, [
      { edit: 'rename-part', id: 'air', name: 'Air' },
      { edit: 'set-option', id: 'air', option: 'address', value: '0x77' },
      { edit: 'remove-part', id: 'porch' },
    ])
    const kinds = editsBetween(hive, changed).map(({ edit }) => edit)
    expect(kinds.slice(0, 3)).toEqual(['remove-part', 'rename-part', 'set-option'])
  })
})
