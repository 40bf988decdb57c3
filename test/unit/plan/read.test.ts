import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { evaluate } from '../../../core/evaluate'
import { migrate } from '../../../core/plan/migrate'
import { readPlan, readPlanText, writePlanText } from '../../../core/plan/read'
import { demoPlans } from '../../../demo'
import { catalogue, planOf } from '../../plans'
import { draws } from '../../random'

const problemsOf = (document: unknown) => {
  const read = readPlan(document)
  return read.ok ? [] : read.problems
}

describe('reading a plan', () => {
  it('gives back what was written, for every demo plan', () => {
    for (const plan of demoPlans) {
      const read = readPlanText(writePlanText(plan))
      expect(read).toEqual({ ok: true, plan })
    }
  })

  it('keeps fields it does not know, at every depth', () => {
    const plan = { ...planOf('forty-classic', { a: 'oled-i2c' }), mood: 'good' }
    plan.parts[0]!.bought = { on: 'a market' }
    const read = readPlan(structuredClone(plan))
    expect(read.ok && read.plan.mood).toBe('good')
    expect(read.ok && read.plan.parts[0]!.bought).toEqual({ on: 'a market' })
  })

  it.each([
    ['a number for a name', { name: 7 }, 'name', /string/],
    [
      'a position past the header field', { assignments: { 'a.sda': { position: 0 } } },
      'assignments["a.sda"].position',
      /greater than or equal to 1/,
    ],
    ['a position as text', { assignments: { 'a.sda': { position: '3' } } }, 'assignments["a.sda"].position', /number/],
    ['both a position and a terminal', { assignments: { 'a.sda': { position: 3, terminal: 'b.c' } } },
      'assignments["a.sda"]', /exclusive/],
    ['a part without a type', { parts: [{ id: 'a', name: 'A' }] }, 'parts[0].type', /required/],
    ['two parts with one id', { parts: [{ id: 'a', type: 'x', name: '' }, { id: 'a', type: 'y', name: '' }] },
      'parts[1]', /duplicate/],
    ['a divider without resistors', { between: { 'a.tx': { kind: 'divider' } } }, 'between["a.tx"].upperOhm',
      /required/],
    ['no list of parts', { parts: undefined }, 'parts', /required/],
  ])('says where and what for %s', (_, wrong, path, message) => {
    const found = problemsOf({ ...planOf(null, {}), ...wrong }).find(problem => problem.path === path)
    expect(found?.message).toMatch(message)
  })

  it('refuses a newer version by name of the version, and changes nothing', () => {
    const document = { ...planOf(null, {}), version: 9 }
    const before = structuredClone(document)
    expect(problemsOf(document))
      .toEqual([{ path: 'version', message: expect.stringContaining('newer Voltaris (version 9') }])
    expect(document).toEqual(before)
  })

  it('refuses foreign documents and broken text with a sentence', () => {
    expect(problemsOf({ hello: 1 })[0]!.path).toBe('format')
    expect(problemsOf([])[0]!.message).toContain('JSON object')
    const read = readPlanText('{ "format": ')
    expect(!read.ok && read.problems[0]!.message).toContain('not a JSON document')
  })

  it('never throws, whatever the document', () => {
    fc.assert(fc.property(fc.jsonValue(), value => typeof readPlan(value).ok === 'boolean'), { numRuns: draws(300) })
    fc.assert(fc.property(fc.string(), value => typeof readPlanText(value).ok === 'boolean'), { numRuns: draws(300) })
  })

  it('is never surprised by a damaged plan: it is refused, or judged without throwing', () => {
    const damaged = fc.constantFrom(...demoPlans)
      .chain(plan => fc.record({ plan: fc.constant(plan), field: fc.constantFrom(...Object.keys(plan)),
        value: fc.jsonValue() }))
    fc.assert(fc.property(damaged, ({ plan, field, value }) => {
      const read = readPlan({ ...plan, [field]: value })
      return read.ok ? evaluate(read.plan, catalogue).findings.length >= 0 : read.problems.length > 0
    }), { numRuns: draws(300) })
  })
})

describe('migration', () => {
  const steps = {
    1: (document: Record<string, unknown>) => ({ ...document, name: `${String(document.name)}!` }),
    2: ({ mood, ...rest }: Record<string, unknown>) => ({ ...rest, temper: mood }),
  }

  it('takes every step from the version of the document to the one wanted, and keeps unknown fields', () => {
    expect(migrate(
      { version: 1, name: 'A', mood: 'good', other: 1 }, steps, 3,
    )).toEqual({ version: 3, name: 'A!', temper: 'good', other: 1 })
    expect(migrate({ version: 2, name: 'A', mood: 'good' }, steps, 3))
      .toEqual({ version: 3, name: 'A', temper: 'good' })
  })

  it('leaves a document for which a step is missing to the schema', () => {
    expect(migrate({ version: 0, name: 'A' }, steps, 3)).toEqual({ version: 0, name: 'A' })
    expect(problemsOf({ ...planOf(null, {}), version: 0 })[0]!.path).toBe('version')
  })

  it('leaves a current document as it is', () => {
    const plan = demoPlans[0] as unknown as Record<string, unknown>
    expect(migrate(plan)).toBe(plan)
  })
})

describe('the plan format document', () => {
  const text = readFileSync(new URL('../../../docs/plan-format.md', import.meta.url), 'utf8')
  const example = /```json\n([\s\S]*?)```/.exec(text)![1]!

  it('has a complete example that reads and gives the findings it promises', () => {
    const read = readPlanText(example)
    expect(read).toMatchObject({ ok: true })
    const report = read.ok ? evaluate(read.plan, catalogue) : null
    const promised = [...text.matchAll(/^- `([a-z0-9.-]+)` — /gm)].map(match => match[1])
    expect(promised.length).toBeGreaterThan(1)
    expect([...new Set(report!.findings.map(finding => finding.code))].sort()).toEqual([...new Set(promised)].sort())
  })

  it('names every top-level field of a plan', () => {
    for (const field of Object.keys(demoPlans[0]!)) expect(text).toContain(`\`${field}\``)
  })
})
