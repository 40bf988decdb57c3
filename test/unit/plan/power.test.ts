/**
 * The power field of the plan document: what it may hold, what is refused with its path, and older plans without it.
 */
import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { completed } from '../../../core/plan/create'
import { emptyPower } from '../../../core/plan/power'
import { readPlan } from '../../../core/plan/read'
import type { Plan } from '../../../core/plan/types'
import { demoPlans } from '../../../demo'
import { catalogue, planOf } from '../../plans'

const document = (power: unknown,
  more: object = {}) => ({ ...JSON.parse(JSON.stringify(planOf('forty-classic', {}))), power, ...more })
const problems = (power: unknown, more: object = {}) => {
  const read = readPlan(document(power, more))
  return read.ok ? [] : read.problems.map(problem => problem.path)
}

describe('the power field', () => {
  it('may be left out, or be empty: the usual stands in', () => {
    const { power: _, worksheets: __, ...without } = document({})
    const read = readPlan(without)
    expect(read.ok && read.plan.power).toEqual(emptyPower())
    expect(read.ok && read.plan.worksheets).toEqual([])
    const empty = readPlan(document({}))
    expect(empty.ok && empty.plan.power).toEqual(emptyPower())
  })

  it('keeps fields it does not know', () => {
    const read = readPlan(document({ nodes: [{ id: 'a', type: 'fuse-1000', name: 'A', from: '@cable', colour: 'red' }],
      mood: 'bright' }))
    expect(read.ok && read.plan.power).toMatchObject({ mood: 'bright', nodes: [{ colour: 'red' }] })
  })

  it.each<[string, unknown, string]>([
    ['a node without a type', { nodes: [{ id: 'a', name: 'A' }] }, 'power.nodes[0].type'],
    ['an id that is none', { nodes: [{ id: '1 a', type: 'fuse-1000', name: 'A' }] }, 'power.nodes[0].id'],
    ['two nodes of one id', { nodes: [{ id: 'a', type: 'x', name: '' }, { id: 'a', type: 'y', name: '' }] },
      'power.nodes[1]'],
    ['a figure that is text', { nodes: [{ id: 'a', type: 'x', name: '', figures: { ohm: '1' } }] },
      'power.nodes[0].figures.ohm'],
    ['an endless figure', { figures: { '@cable': { awg: 1e12 } } }, 'power.figures["@cable"].awg'],
    ['a feed that is a number', { feeds: { '@socket': 3 } }, 'power.feeds["@socket"]'],
    ['a plug into nothing', { joins: [{ from: '@supply' }] }, 'power.joins[0].into'],
    ['a step named like a state', { steps: [{ id: 'peak', name: '', base: 'idle' }] }, 'power.steps[0].id'],
    [
      'a load in a state there is not', { steps: [{ id: 's', name: '', base: 'idle', loads: { '@board': 'asleep' } }] },
      'power.steps[0].loads["@board"]',
    ],
    ['an hour past midnight', { day: [{ fromH: 20, toH: 26, step: 'idle' }] }, 'power.day[0].toH'],
    ['a week of six days', { store: { weather: [1, 1, 1, 1, 1, 1] } }, 'power.store.weather'],
    ['more than full', { store: { startShare: 2 } }, 'power.store.startShare'],
    ['a cooler there is not', { heat: { cooler: 'ice' } }, 'power.heat.cooler'],
    ['a fan mode there is not', { heat: { fan: { mode: 'sometimes' } } }, 'power.heat.fan.mode'],
    ['a threshold without its temperature', { heat: { fan: { mode: 'threshold', hysteresisC: 5 } } },
      'power.heat.fan.onC'],
    ['a curve without points', { heat: { fan: { mode: 'curve', hysteresisC: 5, points: [] } } },
      'power.heat.fan.points'],
    ['half a voltage step', { clock: { voltageSteps: 0.5 } }, 'power.clock.voltageSteps'],
    ['a shutdown that never ends', { shutdownS: 1e9 }, 'power.shutdownS'],
    ['an arrangement without a name', { arrangements: [{ id: 'a', supply: null }] }, 'power.arrangements[0].name'],
  ])('refuses %s, by its path', (_, power, path) => {
    expect(problems(power).some(problem => problem.startsWith(path)), `${path} in ${problems(power).join(', ')}`)
      .toBe(true)
  })

  it('refuses a worksheet without a kind', () => {
    expect(problems(
      {}, { worksheets: [{ id: 'a', keptAt: '2026-01-01T00:00:00Z', what: '', sheet: {} }] },
    )).toEqual(['worksheets[0].sheet.kind'])
  })
})

describe('the document', () => {
  it('names every supply and power item that ships', () => {
    const text = readFileSync('docs/plan-format.md', 'utf8')
    for (const id of [...catalogue.supplies.keys(),
      ...catalogue.powerItems.keys()]) expect(text, id).toContain(`\`${id}\``)
  })
})

describe('plans kept by an earlier Voltaris', () => {
  it('get a power field, with what is missing in it filled in', () => {
    const { power: _, worksheets: __, ...old } = demoPlans[0]!
    expect(completed(old as Partial<Plan> & { name: string }).power).toEqual(emptyPower())
    const half = completed({ ...old,
      power: { nodes: [], heat: { cooler: 'block' } } } as unknown as Partial<Plan> & { name: string })
    expect(half.power.heat).toEqual({ ...emptyPower().heat, cooler: 'block' })
    expect(half.power.store).toEqual(emptyPower().store)
  })

  it('the demo plans read as they are', () => {
    for (const plan of demoPlans) {
      const read = readPlan(JSON.parse(JSON.stringify(plan)))
      expect(read.ok && read.plan).toEqual(plan)
    }
  })
})
