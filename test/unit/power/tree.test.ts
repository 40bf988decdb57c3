/** The power tree that follows from a plan, and the edits that change it. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { evaluate } from '../../../core/evaluate'
import { gatherFacts } from '../../../core/facts/gather'
import { applyEdit, type Edit } from '../../../core/plan/edits'
import { emptyPower, type PowerPlan } from '../../../core/plan/power'
import { arrangementOf, freeNodeId } from '../../../core/plan/power-edits'
import { readPlan } from '../../../core/plan/read'
import type { Plan } from '../../../core/plan/types'
import { flowOf, mayFeed } from '../../../core/power/flow'
import { sharesAt } from '../../../core/power/shares'
import { solvePower } from '../../../core/power/report'
import { demoPlans } from '../../../demo'
import { catalogue, fixedAt, planOf } from '../../plans'
import { draws } from '../../random'

const powerOf = (plan: Plan) => evaluate(plan, catalogue).power
const withPower = (plan: Plan, power: Partial<PowerPlan>): Plan => ({ ...plan, power: { ...plan.power, ...power } })
const edited = (plan: Plan, ...edits: Edit[]) => applyEdit(plan, { edit: 'all', edits }).plan
const ids = (plan: Plan) => powerOf(plan).nodes.map(node => node.id)

const kiosk = planOf(
  'forty-usb-c', { oled: 'oled-i2c', fan: 'fan-5v', panel: 'panel-video-7' },
  { assignments: fixedAt({ 'oled.vcc': 1, 'fan.vcc': 2 }) },
)

describe('the tree of a plan', () => {
  it('goes from the supply by its lead, the socket and the rails to every load', () => {
    expect(ids(kiosk)).toEqual(expect.arrayContaining([
      '@supply', '@cable', '@socket', '@5V', '@board', '@3V3', '@usb', '@P1', '@P2', 'oled.vcc@wire', 'oled.vcc',
      'fan.vcc', 'panel.usb',
    ]))
    const from = (id: string) => powerOf(kiosk).nodes.find(node => node.id === id)!.from
    expect([
      from('@cable'), from('@socket'), from('@P2'), from('@P1'), from('fan.vcc@wire'), from('panel.usb@wire'),
    ]).toEqual([['@supply'], ['@cable'], ['@5V'], ['@3V3'], ['@P2'], ['@usb']])
  })

  it('adds loads on an assumed 5 V while no supply is chosen', () => {
    const power = powerOf({ ...kiosk, supply: null })
    expect(power.assumed).toBe(true)
    expect(power.states.every(state => state.ok)).toBe(true)
    expect(power.rails[0]!.peakMa).toBeGreaterThan(1280)
    expect(power.rails[0]!.availableMa).toBeNull()
  })

  it('carries the maker\'s own figures with their origin, and refuses those that cannot be', () => {
    const own = powerOf(withPower(kiosk,
      { figures: { '@cable': { awg: 28, lengthM: -4 }, '@board': { typicalMa: 700 } } }))
    const figures = (id: string) => own.nodes.find(node => node.id === id)!.figures
    expect(figures('@cable').awg).toEqual({ value: 28, origin: 'yours' })
    expect(figures('@cable').lengthM!.value).toBe(1.5)
    expect(figures('@board').typicalMa).toEqual({ value: 700, origin: 'yours' })
    expect(own.problems).toEqual([{ kind: 'absurd', node: '@cable', figure: 'lengthM', value: -4 }])
  })

  it('draws by state: idle below typical below peak', () => {
    const at = (id: string) => powerOf(kiosk).states.find(state => state.id === id)!.nodes['@supply']!.currentMa
    expect(at('idle')).toBeLessThan(at('typical'))
    expect(at('typical')).toBeLessThan(at('peak'))
  })

  it('solves each step of a scenario, with switches open', () => {
    const plan = withPower(kiosk, {
      nodes: [{ id: 'knife', type: 'switch-power', name: 'Switch', from: '@5V' }], feeds: { 'fan.vcc': 'knife' },
      steps: [{ id: 'dark', name: 'Dark', base: 'typical', loads: { 'panel.usb': 'off' }, open: ['knife'],
        seconds: 5 }],
    })
    const dark = powerOf(plan).states.find(state => state.id === 'dark')!
    expect([dark.nodes['panel.usb']!.currentMa, dark.nodes['fan.vcc']!.currentMa]).toEqual([0, 0])
    expect(powerOf(plan).states[1]!.nodes['fan.vcc']!.currentMa).toBeCloseTo(150, 0)
  })

  it('puts a contact\'s load into the circuit once its feed is said', () => {
    const plan = {
      ...planOf('forty-classic', { r: 'relay-board-1' }),
      parts: [{
        id: 'r', type: 'relay-board-1', name: 'R',
        loads: [{ contact: 1, what: 'Pump', kind: 'DC' as const, voltageV: 12, currentA: 1.5 }],
      }],
    }
    expect(ids(plan).some(id => id.startsWith('r#'))).toBe(false)
    const fed = powerOf(withPower(plan,
      { nodes: [{ id: 'twelve', type: 'adapter-12v-2a', name: 'Twelve' }], feeds: { 'r#1': 'twelve' } }))
    expect(fed.states[2]!.nodes['r#1@load']!.currentMa).toBeCloseTo(1500, 0)
    expect(fed.sources.find(source => source.node === 'twelve')!.peakMa).toBeCloseTo(1500, 0)
    expect(fed.states[3]!.nodes['r#1@load']!.currentMa).toBe(0)
  })
})

describe('edits of the tree', () => {
  const fuse = { id: 'fuse', type: 'fuse-3150', name: 'Fuse', from: '@cable' }

  it('put a node before a consumer and take it out again', () => {
    const put = edited(kiosk, { edit: 'add-node', node: fuse, before: '@socket' })
    expect(powerOf(put).nodes.find(node => node.id === '@socket')!.from).toEqual(['fuse'])
    const out = edited(put, { edit: 'remove-node', id: 'fuse' })
    expect(powerOf(out).nodes.find(node => node.id === '@socket')!.from).toEqual(['@cable'])
    expect(powerOf(out).states[2]).toEqual(powerOf(kiosk).states[2])
  })

  it('move a load to another rail and back to its usual one', () => {
    const moved = edited(kiosk, { edit: 'feed', consumer: 'panel.usb', from: '@cable' })
    expect(powerOf(moved).rails.some(rail => rail.rail === 'USB')).toBe(false)
    expect(powerOf(moved).sources[0]!.loads.find(load => load.node === 'panel.usb')!.through).toBe('own feed')
    expect(edited(moved, { edit: 'feed', consumer: 'panel.usb', from: { usual: true } })).toEqual(kiosk)
  })

  it('a figure goes to the node it belongs to, and back', () => {
    const put = edited(
      kiosk, { edit: 'add-node', node: fuse, before: '@socket' },
      { edit: 'set-figure', node: 'fuse', figure: 'ohm', value: 0.5 },
      { edit: 'set-figure', node: '@cable', figure: 'awg', value: 24 },
    )
    expect(put.power.nodes[0]!.figures).toEqual({ ohm: 0.5 })
    expect(put.power.figures).toEqual({ '@cable': { awg: 24 } })
    expect(edited(put, { edit: 'set-figure', node: '@cable', figure: 'awg', value: null }).power.figures).toEqual({})
  })

  it('what is said of a part goes with it', () => {
    const plan = withPower(
      kiosk,
      {
        feeds: { 'fan.vcc': '@cable' }, figures: { 'fan.vcc@wire': { awg: 20 } },
        steps: [{ id: 's', name: 'S', base: 'idle', loads: { 'fan.vcc': 'peak' }, open: [], seconds: 1 }],
      },
    )
    const without = edited(plan, { edit: 'remove-part', id: 'fan' })
    expect(without.power.feeds).toEqual({})
    expect(without.power.figures).toEqual({})
    expect(without.power.steps[0]!.loads).toEqual({})
  })

  it('an arrangement that was kept comes back as it was', () => {
    const other = edited(
      kiosk, { edit: 'keep-arrangement', arrangement: arrangementOf(kiosk, 'a', 'First') },
      { edit: 'choose-supply', supply: { type: 'adapter-5v-5a' } }, { edit: 'add-node', node: fuse, before: '@socket' },
    )
    const back = edited(other, { edit: 'take-arrangement', id: 'a' }, { edit: 'drop-arrangement', id: 'a' })
    expect(back).toEqual(kiosk)
  })

  it('free ids are free', () => {
    expect(freeNodeId({ ...emptyPower(), nodes: [{ ...fuse, id: 'fuse' }, { ...fuse, id: 'fuse-2' }] }, 'fuse'))
      .toBe('fuse-3')
  })
})

/** Power fields of any kind: sensible nodes, nonsense, rings, feeds to nowhere. */
const type = fc.constantFrom(...catalogue.powerItems.keys(), ...catalogue.supplies.keys(), 'nonsense')
const nodeId = fc.constantFrom('a', 'b', 'c', 'd', 'e')
const anyRef = fc.constantFrom('a', 'b', 'c', 'd', 'e', '@supply', '@cable', '@5V', '@3V3', '@usb', 'oled.vcc',
  'nowhere', null)
const anyPower = fc.record({
  nodes: fc.uniqueArray(
    fc.record({
      id: nodeId, type, name: fc.constant('N'), from: anyRef, upstream: fc.constantFrom(undefined, '@usb', 'a', 'zz'),
      figures: fc.constantFrom({}, { ohm: 0 }, { ohm: 900, ratedMa: 1 }, { setV: 60 }, { lengthM: 200, awg: 40 },
        { typicalMa: 1e9 }),
    }),
    { selector: node => node.id, maxLength: 5 },
  ),
  feeds: fc.dictionary(fc.constantFrom('@socket', '@header', 'oled.vcc', 'fan.vcc', 'panel.usb'), anyRef,
    { maxKeys: 3 }),
  joins: fc.array(
    fc.record({ from: fc.constantFrom('a', 'b', '@supply', 'zz'),
      into: fc.constantFrom('panel.usb', '@5V', 'oled.vcc', 'c', 'zz') }),
    { maxLength: 2 },
  ),
})
const anyPlan = fc.tuple(anyPower, fc.constantFrom(null, ...catalogue.boards.keys()),
  fc.constantFrom(null, ...catalogue.supplies.keys()))
  .map(([power, board, supply]): Plan => ({
    ...withPower(kiosk, JSON.parse(JSON.stringify(power)) as Partial<PowerPlan>), board,
    supply: supply ? { type: supply } : null,
  }))

describe('any power field', () => {
  it('is judged without a throw, as plain data, with an id of its own for every finding', () => {
    fc.assert(fc.property(anyPlan, (plan) => {
      expect(readPlan(JSON.parse(JSON.stringify(plan))).ok).toBe(true)
      const report = evaluate(plan, catalogue)
      expect(JSON.parse(JSON.stringify(report))).toEqual(report)
      const found = report.findings.map(finding => finding.id)
      expect(found.filter((id, i) => found.indexOf(id) !== i)).toEqual([])
      for (const finding of report.findings) {
        expect(
          `${finding.title} ${finding.sentence} ${finding.fixes.map(fix => fix.label).join(' ')}`,
        ).not.toMatch(/NaN|undefined|Infinity|\[object/)
      }
    }), { numRuns: draws(250) })
  })

  it('gives fixes that change the plan into one that reads', () => {
    fc.assert(fc.property(anyPlan, (plan) => {
      for (const finding of evaluate(plan, catalogue).findings.filter(entry => entry.stages.includes('power')).slice(0,
        8)) {
        for (const fix of finding.fixes.slice(0, 2)) {
          const after = edited(plan, ...fix.edits)
          expect(after, `${finding.code}: ${fix.label}`).not.toEqual(plan)
          expect(readPlan(JSON.parse(JSON.stringify(after))).ok, `${finding.code}: ${fix.label}`).toBe(true)
        }
      }
    }), { numRuns: draws(120) })
  })

  it('draws as a flow without a ring, in which every node is found once', () => {
    fc.assert(fc.property(anyPlan, (plan) => {
      const { power } = evaluate(plan, catalogue)
      for (const state of power.states) {
        const { nodes, links, loose } = flowOf(power, state)
        const shown = [...nodes, ...loose].map(({ node }) => node.id)
        expect(new Set(shown).size).toBe(shown.length)
        expect(power.nodes.filter(node => !shown.includes(node.id)).every(node => /@wire$|^@join/.test(node.id)))
          .toBe(true)
        for (const link of links) expect(link.currentMa).toBeGreaterThanOrEqual(0)
        const rank = new Map<string, number>()
        const depth = (id: string, trail: string[]): number => {
          expect(trail).not.toContain(id)
          const known = rank.get(id)
          if (known !== undefined) return known
          const found = Math.max(0,
            ...links.filter(link => link.to === id).map(link => 1 + depth(link.from, [...trail, id])))
          rank.set(id, found)
          return found
        }
        for (const { node } of nodes) depth(node.id, [])
      }
    }), { numRuns: draws(80) })
  })
})

describe('shares', () => {
  it('add up at every place that one feed leads through', () => {
    for (const plan of [...demoPlans, kiosk]) {
      const { tree, states } = solvePower(gatherFacts(plan, catalogue))
      for (const state of states) {
        for (const place of ['@supply', '@cable', '@socket', '@5V', '@3V3', '@usb']) {
          if (!tree.byId.has(place)) continue
          const sum = sharesAt(tree, state, place).reduce((all, share) => all + share.currentMa, 0)
          const { currentMa } = state.nodes[place]!
          expect(Math.abs(sum - currentMa), `${plan.name} ${state.id} ${place}`).toBeLessThan(0.02 + currentMa * 1e-4)
        }
      }
    }
  })
})

describe('what may feed what', () => {
  const { power } = evaluate(
    withPower(
      kiosk, { nodes: [{ id: 'a', type: 'fuse-1000', name: 'A', from: '@5V' },
        { id: 'b', type: 'fuse-1000', name: 'B', from: 'a' }] },
    ),
    catalogue,
  )

  it('is refused with its reason: a load, a source, a part of the board, a ring', () => {
    expect(mayFeed(power, 'fan.vcc', '@cable')).toBeNull()
    expect(mayFeed(power, 'fan.vcc', 'oled.vcc')).toMatch(/takes and does not give/)
    expect(mayFeed(power, '@supply', 'a')).toMatch(/is a source/)
    expect(mayFeed(power, '@3V3', '@cable')).toMatch(/belongs to the board/)
    expect(mayFeed(power, 'a', 'b')).toMatch(/feed each other/)
    expect(mayFeed(power, 'a', 'zz')).toMatch(/not in the power tree/)
  })
})
