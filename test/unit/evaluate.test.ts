import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { evaluate } from '../../core/evaluate'
import { placePlan } from '../../core/placement/place'
import { applyEdit } from '../../core/plan/edits'
import { readPlan } from '../../core/plan/read'
import type { Plan } from '../../core/plan/types'
import { catalogue, planOf } from '../plans'
import { draws } from '../random'

const types = [...catalogue.parts.keys()]
/** Any parts, every terminal anywhere: on the header, past its end, on other parts, on themselves, or nowhere. */
const wildPlan: fc.Arbitrary<Plan> = fc.record({
  board: fc.constantFrom('forty-classic', 'forty-usb-c', null, 'gone'),
  types: fc.array(fc.constantFrom(...types, 'no-such-part'), { maxLength: 6 }),
  seed: fc.array(
    fc.oneof(fc.integer({ min: 1, max: 45 }), fc.constantFrom('p0.SD0', 'p1.SC1', 'p0.A0', 'p2.B7', 'ghost.x1'),
      fc.constant(null)),
    { minLength: 1, maxLength: 30 },
  ),
  fixed: fc.boolean(),
  text: fc.string({ maxLength: 60 }),
}).map(({ board, types, seed, fixed, text }) => {
  const plan = planOf(board, Object.fromEntries(types.map((type, i) => [`p${i}`, type])))
  let n = 0
  for (const part of plan.parts) {
    const entry = catalogue.parts.get(part.type)
    for (const { id } of [...entry?.signals ?? [], ...entry?.supplies ?? [], ...entry?.grounds ?? []]) {
      const place = seed[n++ % seed.length]
      if (place === null || place === undefined) continue
      plan.assignments[`${part.id}.${id}`] = { ...(typeof place === 'number'
        ? { position: place }
        : { terminal: place }), ...(fixed && { fixed }) }
    }
  }
  return { ...plan, boot: { text } }
})

describe('any plan that can be read', () => {
  it('is judged without throwing, and its report is plain data', () => {
    fc.assert(fc.property(wildPlan, (plan) => {
      expect(readPlan(plan).ok).toBe(true)
      const report = evaluate(plan, catalogue)
      expect(JSON.parse(JSON.stringify(report))).toEqual(report)
    }), { numRuns: draws(300) })
  })

  it('is placed or refused with a sentence, never with an exception', () => {
    fc.assert(fc.property(wildPlan, fc.constantFrom('rest' as const, 'all' as const), (plan, scope) => {
      const result = placePlan(plan, catalogue, { scope, patience: 200 })
      expect(result.ok || result.sentence.length > 20).toBe(true)
    }), { numRuns: draws(150) })
  })

  it('stays readable through every fix it is offered', () => {
    fc.assert(fc.property(wildPlan, (plan) => {
      for (const finding of evaluate(plan, catalogue).findings) for (const fix of finding.fixes) {
        const after = applyEdit(plan, { edit: 'all', edits: fix.edits }).plan
        expect(readPlan(structuredClone(after)).ok, `${finding.code}: ${fix.label}`).toBe(true)
        expect(after, `${finding.code}: ${fix.label}`).not.toEqual(plan)
      }
    }), { numRuns: draws(60) })
  })

  it('ends without a finding of that id once the first fix for it is applied', () => {
    // What a fix mends is gone at once; only shared causes (a supply, the boot file) may need more than one.
    const atOnce = new Set([
      'level.too-high', 'level.too-low', 'line.driven-straight', 'bus.not-enabled', 'overlay.missing',
      'function.unavailable',
      'option.invalid', 'plan.stray-key', 'position.reserved', 'start.moves',
    ])
    fc.assert(fc.property(wildPlan, (plan) => {
      for (const finding of evaluate(plan, catalogue).findings) {
        if (!finding.fixes.length || !atOnce.has(finding.code)) continue
        const after = applyEdit(plan, { edit: 'all', edits: finding.fixes[0]!.edits }).plan
        expect(evaluate(after, catalogue).findings.map(entry => entry.id)).not.toContain(finding.id)
      }
    }), { numRuns: draws(60) })
  })

  it('has counts and stages that follow from its findings', () => {
    fc.assert(fc.property(wildPlan, (plan) => {
      const { findings, counts, stages } = evaluate(plan, catalogue)
      expect(counts.stops + counts.cautions + counts.notes).toBe(findings.length)
      expect(Object.values(stages).includes('stop')).toBe(counts.stops > 0)
      const weight = findings.map(finding => ['stop', 'caution', 'note'].indexOf(finding.severity))
      expect(weight).toEqual([...weight].sort((a, b) => a - b))
    }), { numRuns: draws(100) })
  })
})

describe('an empty plan', () => {
  const report = evaluate(planOf(null, {}, { supply: null }), catalogue)

  it('has nothing to say, and every stage is untouched', () => {
    expect(report.findings).toEqual([])
    expect(new Set(Object.values(report.stages))).toEqual(new Set(['untouched']))
    expect(report.wires).toEqual([])
    expect(report.boot).toEqual({ needs: [], text: '', changes: [], byHand: [] })
  })
})
