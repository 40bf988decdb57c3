/** Case, cooler and fan of the plan in the load test: one plan, one temperature. */
import { describe, expect, it } from 'vitest'
import { misfitOf, thingKind } from '../../../core/catalogue/things'
import { evaluate } from '../../../core/evaluate'
import { BOARD_FAN, heatWithFigure } from '../../../core/facts/heat'
import { gatherFacts } from '../../../core/facts/gather'
import { applyEdit, type Edit } from '../../../core/plan/edits'
import { thingEdits } from '../../../core/plan/things'
import type { Plan } from '../../../core/plan/types'
import { catalogue, planOf } from '../../plans'

const things = (kind: 'case' | 'cooler') =>
  [null, ...[...catalogue.parts.values()].filter(part => thingKind(part) === kind)]
const setOf = (plan: Plan) => gatherFacts(plan, catalogue).heat.set
const heated = (plan: Plan, heat: Partial<Plan['power']['heat']>): Plan =>
  ({ ...plan, power: { ...plan.power, heat: { ...plan.power.heat, ...heat } } })

/** Every case with every cooler that go with a board, in a hot room. */
const outfits = [...catalogue.boards.values()].flatMap(board => things('case')
  .flatMap(box => things('cooler').flatMap((cooler) => {
    if ([box, cooler].some(part => part && misfitOf(part, board) !== null)) return []
    return [heated(planOf(board.id, {
      ...box && { box: box.id }, ...cooler && { cooler: cooler.id }, fan: 'fan-5v',
    }, { supply: { type: 'adapter-5v-5a' } }), { ambientC: 45, minutes: 60 })]
  })))

describe('the load test', () => {
  it('law: runs with the case and the cooler of the plan, by whatever way they came in', () => {
    expect(outfits.length).toBeGreaterThan(20)
    for (const plan of outfits) {
      const typed = heated(plan, { cooler: 'none', enclosure: 'vented' })
      for (const { id, type } of plan.parts) {
        const { cooler, enclosure } = catalogue.parts.get(type)!.thing ?? {}
        if (cooler && !plan.parts.some(other => other.id !== id && catalogue.parts.get(other.type)!.thing?.cooler)) {
          expect(setOf(typed).cooler).toBe(cooler)
        }
        if (enclosure) expect(setOf(typed).enclosure).toBe(enclosure)
      }
    }
  })

  it('law: each way out of a hot processor comes to the temperature that it names, and brings no stop', () => {
    let tried = 0
    for (const plan of outfits) {
      const { findings } = evaluate(plan, catalogue)
      const stops = new Set(findings.filter(({ severity }) => severity === 'stop').map(({ code }) => code))
      for (const fix of findings.find(({ code }) => code === 'heat.slows')?.fixes ?? []) {
        const after = evaluate(applyEdit(plan, { edit: 'all', edits: fix.edits as Edit[] }).plan, catalogue)
        const where = `${plan.board} ${plan.parts.map(({ type }) => type).join(' ')}: ${fix.label}`
        expect(fix.label, where).toContain(`: ${Math.round(after.power.heat!.hottestC)} °C at most`)
        expect(after.findings.some(({ code }) => code === 'heat.slows'), where).toBe(fix.isPartial === true)
        expect(after.findings.filter(({ severity, code }) => severity === 'stop' && !stops.has(code))
          .map(({ code }) => code), where)
          .toEqual([])
        tried++
      }
    }
    expect(tried).toBeGreaterThan(30)
  })

  it('a fan on the board\'s own socket runs as the board runs it, unless the plan says how; one on wires does not '
    + 'cool by itself', () => {
    const socket = planOf('forty-io-bridge', { cooler: 'cooler-active' }, { supply: { type: 'adapter-5v-5a' } })
    expect(setOf(socket).fan).toEqual(BOARD_FAN)
    expect(setOf(heated(socket, { fan: { mode: 'always' } })).fan).toEqual({ mode: 'always' })
    expect(setOf(planOf('forty-usb-c', { cooler: 'cooler-active' })).fan).toEqual({ mode: 'none' })
    // It may blow at something else than the processor.
    expect(setOf(planOf('forty-io-bridge', { vent: 'fan-5v' })).fan).toEqual({ mode: 'none' })
  })

  it('a figure that was typed is of the cooler that was there: beside another one it does not count', () => {
    const plan = planOf('forty-usb-c', { cooler: 'cooler-block' })
    const typed = applyEdit(plan, {
      edit: 'set-power', power: { heat: heatWithFigure(gatherFacts(plan, catalogue), { coolerKw: 4.2 }) },
    }).plan
    expect(setOf(typed)).toMatchObject({ cooler: 'block', coolerKw: 4.2 })
    const other = applyEdit(typed,
      { edit: 'all', edits: thingEdits(typed, 'cooler', catalogue.parts.get('cooler-fins')!, catalogue) }).plan
    expect(setOf(other).cooler).toBe('fins')
    expect(setOf(other).coolerKw).toBeUndefined()
    const swapped = { ...typed, parts: typed.parts.map(part => ({ ...part, type: 'cooler-fins' })) }
    expect(setOf(swapped).coolerKw).toBeUndefined()
  })
})
