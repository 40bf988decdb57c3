/** One declaration: what its check lets through, what it starts with, and what it refuses, by kind. */
import { describe, expect, expectTypeOf, it } from 'vitest'
import { problemsOf } from '../../../core/documents/failure'
import { emptyPlan } from '../../../core/plan/create'
import { planShape, type Plan } from '../../../core/plan/shape'
import { planSchema } from '../../../core/plan/schema'
import { joiOf } from '../../../core/shape/joi'
import {
  choice, depending, filled, flag, list, map, nullable, number, object, oneOf, open, optional, startOf, starting, text,
  withUnknown,
  type Of, type Shape,
} from '../../../core/shape/shape'

const check = (shape: Shape<unknown>,
  value: unknown) => joiOf(shape).validate(value, { abortEarly: false, convert: false })
const paths = (shape: Shape<unknown>,
  value: unknown) => problemsOf(check(shape, value).error?.details ?? []).map(problem => problem.path)
const passes = (shape: Shape<unknown>, value: unknown) => !check(shape, value).error

describe('texts and numbers', () => {
  it('keep to their bounds, and are never read out of each other', () => {
    const short = text({ min: 2, max: 4 })
    expect(['a', 'ab', 'abcd', 'abcde', '', 3].map(value => passes(short, value)))
      .toEqual([false, true, true, false, false, false])
    expect([passes(text(), ''), passes(text({ empty: true }), '')]).toEqual([false, true])
    const share = number({ min: 0, max: 1 })
    expect([-0.1, 0, 1, 1.1, '1', Infinity].map(value => passes(share, value)))
      .toEqual([false, true, true, false, false, false])
    expect([0, 0.001].map(value => passes(number({ above: 0 }), value))).toEqual([false, true])
    expect([1.5, 2].map(value => passes(number({ whole: true }), value))).toEqual([false, true])
    expect([passes(flag, 'true'), passes(flag, true)]).toEqual([false, true])
  })

  it('say what a pattern is called, keep words out and read dates', () => {
    const id = text({ pattern: /^[a-z]+$/, called: 'small letters', not: ['idle'] })
    expect(check(id, 'A1').error!.message).toContain('small letters')
    expect([passes(id, 'idle'), passes(id, 'busy')]).toEqual([false, true])
    expect(['2026-11-26T10:00:00Z', 'yesterday'].map(value => passes(text({ date: true }), value)))
      .toEqual([true, false])
    expect(passes(text({ pattern: /^x$/ }), 'y')).toBe(false)
  })
})

describe('objects, lists and maps', () => {
  const closed = object({ id: text(), note: optional(text()) })

  it('need what is needed and know what may be missing', () => {
    expect(paths(closed, {})).toEqual(['id'])
    expect(passes(closed, { id: 'a' })).toBe(true)
    expectTypeOf<Of<typeof closed>>().toEqualTypeOf<{ id: string, note?: string }>()
  })

  it('are closed or open', () => {
    expect(paths(closed, { id: 'a', nothing: 1 })).toEqual(['nothing'])
    expect(passes(open({ id: text() }), { id: 'a', more: 1 })).toBe(true)
    expect(passes(withUnknown({ id: text() }), { id: 'a', more: 1 })).toBe(true)
  })

  it('hold exactly one of two fields where one of them is asked', () => {
    const place = object({ position: optional(number()), terminal: optional(text()) },
      { either: ['position', 'terminal'] })
    expect([{}, { position: 1 }, { terminal: 'a' }, { position: 1, terminal: 'a' }].map(value => passes(place, value)))
      .toEqual([false, true, true, false])
  })

  it('count and compare the entries of lists', () => {
    const entries = list(closed, { min: 1, max: 2, unique: 'id' })
    expect([[], [{ id: 'a' }], [{ id: 'a' }, { id: 'a' }], [{ id: 'a' }, { id: 'b' }, { id: 'c' }]].map(value =>
      passes(entries, value)))
      .toEqual([false, true, false, false])
    expect([passes(list(text(), { unique: true }), ['a', 'a']), passes(list(text()), ['a', 'a'])])
      .toEqual([false, true])
    expect(paths(entries, [{ id: 'a' }, {}])).toEqual(['[1].id'])
  })

  it('check keys and values of maps', () => {
    const byKey = map(number(), text({ pattern: /^k/ }))
    expect(passes(byKey, { k1: 1 })).toBe(true)
    expect(paths(byKey, { x: 1, k2: 'a' }).sort()).toEqual(['k2', 'x'])
    expect(passes(map(number()), { anything: 1 })).toBe(true)
  })
})

describe('choices', () => {
  const fan = choice('mode', { none: {}, threshold: { onC: number() } })

  it('tell variants apart by their tag and check each by its own fields', () => {
    expectTypeOf<Of<typeof fan>>().toEqualTypeOf<{ mode: 'none' } | { mode: 'threshold', onC: number }>()
    expect(passes(fan, { mode: 'none' })).toBe(true)
    expect(paths(fan, { mode: 'threshold' })).toEqual(['onC'])
    expect(paths(fan, { mode: 'none', onC: 4 })).toEqual(['onC'])
    expect(paths(fan, { mode: 'storm' })).toEqual(['mode'])
    expect(paths(fan, {})).toEqual(['mode'])
    expect(passes(choice('mode', { none: {} }, { open: true }), { mode: 'none', more: 1 })).toBe(true)
  })

  it('let a field depend on another', () => {
    const part = object({ kind: oneOf('a', 'b'), ohm: depending('kind', 'a', number(), optional(number())) })
    expectTypeOf<Of<typeof part>>().toEqualTypeOf<{ kind: 'a' | 'b', ohm?: number }>()
    expect(paths(part, { kind: 'a' })).toEqual(['ohm'])
    expect(passes(part, { kind: 'b' })).toBe(true)
    expect(paths(part, { kind: 'b', ohm: 'x' })).toEqual(['ohm'])
  })

  it('take null only where it is allowed', () => {
    expect([passes(nullable(text()), null), passes(text(), null)]).toEqual([true, false])
  })
})

describe('starting values', () => {
  const shape = object({
    name: text(), size: starting(number(), 3), entries: starting(list(text()), []),
    inner: filled(object({ on: starting(flag, true) })),
  })

  it('are those that the check puts in, made anew each time', () => {
    expect(check(shape, { name: 'a' }).value).toEqual({ name: 'a', ...startOf(shape) })
    expect(startOf(shape)).toEqual({ size: 3, entries: [], inner: { on: true } })
    startOf(shape).entries!.push('mine')
    expect(startOf(shape).entries).toEqual([])
    expect(check(shape, { name: 'a' }).value.entries).toEqual([])
  })

  it('make the empty plan: what the check fills in and what the program starts with are the same', () => {
    const { format, version, name, board, supply, parts, assignments, notes } = emptyPlan('Empty')
    const read = planSchema.validate({ format, version, name, board, supply, parts, assignments, notes },
      { convert: false })
    expect(read.error).toBeUndefined()
    expect(read.value).toEqual(emptyPlan('Empty'))
    expectTypeOf<Plan['board']>().toEqualTypeOf<string | null>()
    expect(Object.keys(startOf(planShape))).toEqual(expect.arrayContaining(['power', 'build', 'own', 'boot']))
  })
})
