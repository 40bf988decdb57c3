import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { evaluate } from '../../../core/evaluate'
import { byCause, bySubject } from '../../../core/findings/groups'
import { asideOf, isOpen, judgedFigures, withSetAside } from '../../../core/findings/set-aside'
import { applyEdit } from '../../../core/plan/edits'
import { demoPlans } from '../../../demo'
import type { Plan } from '../../../core/plan/types'
import { anyPlan } from '../../generated'
import { catalogue, fixedAt, planOf } from '../../plans'
import { draws } from '../../random'

const AT = '2026-05-01T10:00:00.000Z'
const asidesOf = (plan: Plan, ids?: readonly string[]) => evaluate(plan, catalogue).findings
  .filter(finding => !ids || ids.includes(finding.id)).map(finding => asideOf(finding, 'seen at the bench', AT))
const total = ({ stops, cautions, notes }: { stops: number, cautions: number, notes: number }) =>
  stops + cautions + notes

describe('findings that were set aside', () => {
  it('loses no finding: each counts or is set aside, and the counts say so', () => {
    fc.assert(fc.property(fc.nat(1e6), fc.array(fc.boolean(), { minLength: 1, maxLength: 12 }), (seed, which) => {
      const plan = anyPlan(seed)
      const all = asidesOf(plan)
      const some = all.filter((_, i) => which[i % which.length])
      const before = evaluate(plan, catalogue)
      const after = evaluate({ ...plan, aside: some }, catalogue)
      expect(after.findings.map(finding => finding.id).sort())
        .toEqual(before.findings.map(finding => finding.id).sort())
      expect(after.findings.filter(isOpen)).toHaveLength(before.findings.length - some.length)
      expect(total(after.counts)).toBe(total(before.counts) - some.length)
    }), { numRuns: draws(40) })
  })

  it('touches nothing but the findings', () => {
    for (const plan of demoPlans) {
      const { findings: _, counts: _c, stageCounts: _s, stages: _t, ...rest } = evaluate(plan, catalogue)
      const { findings, counts, stages, stageCounts: _n, ...after } = evaluate({ ...plan, aside: asidesOf(plan) },
        catalogue)
      expect(after).toEqual(rest)
      expect(findings.filter(isOpen)).toEqual([])
      expect(counts).toEqual({ stops: 0, cautions: 0, notes: 0 })
      expect(Object.values(stages).filter(state => state === 'stop' || state === 'caution')).toEqual([])
    }
  })

  it('counts again when its figures are others, and says what was said', () => {
    const plan = planOf('forty-classic', { relay: 'relay-bare' }, { assignments: fixedAt({ 'relay.coil': 11 }) })
    const [entry] = asidesOf(plan).filter(({ id }) => id.startsWith('line.driven-straight'))
    expect(entry!.figures).toContain('72')
    const kept = { ...plan, aside: [entry!] }
    const of = (from: Plan) => evaluate(from, catalogue).findings.find(finding => finding.id === entry!.id)!
    expect(of(kept).aside).toEqual({ reason: 'seen at the bench', at: AT })
    const others = { ...plan, aside: [{ ...entry!, figures: entry!.figures.replace('72', '7') }] }
    expect(of(others).aside).toBeUndefined()
    expect(of(others).lapsed).toEqual({ reason: 'seen at the bench', at: AT, because: 'figures' })
    const milder = { ...plan, aside: [{ ...entry!, severity: 'caution' as const }] }
    expect(of(milder).lapsed?.because).toBe('graver')
    expect(evaluate(milder, catalogue).counts).toEqual(evaluate(plan, catalogue).counts)
  })

  it('goes with the part it was about, and does not meet a part that takes its name', () => {
    const plan = planOf('forty-classic', { relay: 'relay-bare' }, { assignments: fixedAt({ 'relay.coil': 11 }) })
    const aside = asidesOf(plan)
    expect(aside.length).toBeGreaterThan(0)
    const without = applyEdit({ ...plan, aside }, { edit: 'remove-part', id: 'relay' }).plan
    expect(without.aside.filter(({ id }) => /\brelay\b/.test(id))).toEqual([])
  })

  it('is taken back by counting it again', () => {
    const plan = planOf('forty-classic', { relay: 'relay-bare' })
    const [entry] = asidesOf(plan)
    const aside = applyEdit(plan, { edit: 'set-aside', entry: entry! })
    expect(evaluate(aside.plan, catalogue).findings.filter(finding => !isOpen(finding))).toHaveLength(1)
    const back = applyEdit(aside.plan, { edit: 'count-again', id: entry!.id })
    expect(back.plan).toEqual(plan)
    expect(applyEdit(plan, { edit: 'count-again', id: 'nothing' }).plan).toBe(plan)
  })

  it('holds a part\'s other name for the same finding', () => {
    const plan = planOf('forty-classic', { relay: 'relay-bare' }, { assignments: fixedAt({ 'relay.coil': 11 }) })
    const renamed = { ...plan, aside: asidesOf(plan),
      parts: plan.parts.map(part => ({ ...part, name: 'Pump in the cellar' })) }
    expect(evaluate(renamed, catalogue).counts.stops).toBe(0)
  })
})

describe('findings in groups', () => {
  const names = { part: (id: string) => `part ${id}`, node: () => undefined, bus: () => undefined }
  it('has every finding once, the gravest first', () => {
    const weight = { stop: 0, caution: 1, note: 2 }
    fc.assert(fc.property(fc.nat(1e6), (seed) => {
      const plan = anyPlan(seed)
      const { findings } = evaluate(plan, catalogue)
      for (const groups of [byCause(findings), bySubject(findings, names)]) {
        const all = groups.flatMap(group => group.findings)
        expect(all).toHaveLength(findings.length)
        expect(new Set(all).size).toBe(findings.length)
        expect(new Set(groups.map(group => group.key)).size).toBe(groups.length)
        const grave = groups.map(group => weight[group.severity])
        expect(grave).toEqual([...grave].sort((a, b) => a - b))
        for (const group of groups) {
          const inside = group.findings.map(finding => weight[finding.severity])
          expect(inside).toEqual([...inside].sort((a, b) => a - b))
          expect(inside[0]).toBe(weight[group.severity])
        }
      }
    }), { numRuns: 30 })
  })

  it('calls a cause by what it says, and a subject by its name', () => {
    const plan = planOf('forty-classic', { a: 'relay-bare', b: 'relay-bare' },
      { assignments: fixedAt({ 'a.coil': 11, 'b.coil': 13 }) })
    const { findings } = evaluate(plan, catalogue)
    const straight = byCause(findings).find(group => group.key === 'line.driven-straight')!
    expect(straight.title).toBe('A coil, motor or lamp without a stage')
    expect(straight.findings).toHaveLength(2)
    expect(bySubject(findings, names).map(group => group.title)).toEqual(expect.arrayContaining(['part a', 'part b']))
  })

  it('sets nothing aside by itself', () => {
    const { findings } = evaluate(planOf('forty-classic', { a: 'relay-bare' }), catalogue)
    expect(withSetAside(findings, [])).toEqual(findings)
    expect(findings.every(finding => judgedFigures(finding).length <= 2000)).toBe(true)
  })
})
