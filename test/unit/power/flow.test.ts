/** The supply as a flow, rails and sources as budgets, and two ways side by side: what the power stage draws. */
import { describe, expect, it } from 'vitest'
import { comparedOf, compareArrangements, withSupply } from '../../../core/choose/arrangements'
import { evaluate } from '../../../core/evaluate'
import { gatherFacts } from '../../../core/facts/gather'
import type { PowerPlan } from '../../../core/plan/power'
import { arrangementOf, arranged } from '../../../core/plan/power-edits'
import type { Plan } from '../../../core/plan/types'
import { usbBudget } from '../../../core/power/budget'
import { consumerOf, flowOf } from '../../../core/power/flow'
import { dropsTo, pathUp } from '../../../core/power/shares'
import { solvePower } from '../../../core/power/report'
import { catalogue, fixedAt, planOf } from '../../plans'

const withPower = (plan: Plan, power: Partial<PowerPlan>): Plan => ({ ...plan, power: { ...plan.power, ...power } })
const desk = planOf(
  'forty-usb-c', { oled: 'oled-i2c', fan: 'fan-5v', stick: 'modem-wide-stick' },
  { assignments: fixedAt({ 'oled.vcc': 1, 'fan.vcc': 2 }) },
)
const flowIn = (plan: Plan, state = 'typical') => {
  const { power } = evaluate(plan, catalogue)
  return { power, flow: flowOf(power, power.states.find(entry => entry.id === state)!) }
}
const link = (plan: Plan, from: string, to: string, state = 'typical') =>
  flowIn(plan, state).flow.links.find(entry => entry.from === from && entry.to === to)

describe('the flow', () => {
  it('goes from the source to the loads, a part\'s own wires within the band to it', () => {
    expect(link(desk, '@supply', '@cable')).toBeDefined()
    expect(link(desk, '@P2', 'fan.vcc'))
      .toMatchObject({ through: 'fan.vcc@wire', consumer: 'fan.vcc', backwards: false })
    expect(flowIn(desk).flow.nodes.map(({ node }) => node.id)).not.toContain('fan.vcc@wire')
    expect(link(desk, '@usb', 'stick.usb')).toMatchObject({ through: 'stick.usb@wire' })
  })

  it('a band is as wide as its current, and what leaves a node is what reaches it', () => {
    const { flow } = flowIn(desk, 'peak')
    const sum = (pick: (entry: typeof flow.links[number]) => boolean) => flow.links.filter(pick)
      .reduce((all, entry) => all + entry.currentMa, 0)
    expect(link(desk, '@P2', 'fan.vcc', 'peak')!.currentMa).toBeCloseTo(180, 0)
    for (const id of ['@5V', '@3V3', '@usb', '@P1', '@P2', '@cable']) {
      const into = sum(entry => entry.to === id)
      const out = sum(entry => entry.from === id)
      // A converter changes the current; everything else passes it on.
      if (id !== '@3V3') expect(Math.abs(into - out), id).toBeLessThan(0.1)
      else expect(into).toBeLessThan(out)
    }
  })

  it('turns round where the current does: a panel that feeds the board, a hub that feeds back', () => {
    const panel = withPower(
      planOf('forty-classic', { panel: 'panel-flat-7' }, { assignments: fixedAt({ 'panel.vcc': 2 }) }),
      { feeds: { '@socket': null }, joins: [{ from: '@supply', into: 'panel.vcc' }] },
    )
    expect(link(panel, 'panel.vcc', '@P2')).toMatchObject({ backwards: true })
    expect(link(panel, '@P2', 'panel.vcc')).toBeUndefined()
    const leaky = withPower(
      desk,
      {
        nodes: [
          { id: 'ha', type: 'hub-adapter-5v-4a', name: 'A' },
          { id: 'hub', type: 'hub-powered-leaky', name: 'H', from: 'ha', upstream: '@usb' },
        ],
      },
    )
    expect(link(leaky, 'hub', '@usb')).toMatchObject({ backwards: true })
  })

  it('keeps what nothing joins apart', () => {
    const { flow } = flowIn(withPower(desk, { nodes: [{ id: 'spare', type: 'fuse-1000', name: 'Spare' }] }))
    expect(flow.loose.map(({ node }) => node.id)).toEqual(['spare'])
  })

  it('names the consumer whose feed can be changed', () => {
    expect(['fan.vcc@wire', 'r#1@load', '@socket', 'fuse'].map(consumerOf))
      .toEqual(['fan.vcc', 'r#1', '@socket', 'fuse'])
  })
})

describe('the way to the board', () => {
  it('is the path from the rail up to its source, and its drops are what is missing', () => {
    const { tree, states } = solvePower(gatherFacts(desk, catalogue))
    const peak = states[2]!
    expect(pathUp(tree, peak, '@5V').map(node => node.id)).toEqual(['@5V', '@socket', '@cable', '@supply'])
    const drops = dropsTo(tree, peak, '@5V')
    expect(drops.map(({ dropV }) => dropV)).toEqual([...drops.map(({ dropV }) => dropV)].sort((a, b) => b - a))
    expect(drops.reduce((sum, { dropV }) => sum + dropV, 0)).toBeCloseTo(5.1 - peak.nodes['@5V']!.voltageV, 3)
  })
})

describe('budgets', () => {
  const rails = (plan: Plan) => Object.fromEntries(evaluate(plan, catalogue).power.rails.map(rail => [rail.rail, rail]))

  it('list each load once, with how it gets its current', () => {
    const { '5V': five, '3V3': three, USB: usb } = rails(desk)
    expect(five!.loads.map(load => [load.node, load.through])).toEqual(expect.arrayContaining([
      ['@board', 'board'], ['oled.vcc', '3V3 regulator'], ['fan.vcc', 'header'], ['stick.usb', 'usb'],
    ]))
    expect(three!.loads.map(load => load.node)).toEqual(['oled.vcc'])
    expect(usb!.loads.map(load => load.node)).toEqual(['stick.usb'])
    // 25 mA on 3V3 are 25 · 3.3 ÷ (0.85 · 5 V) or so on 5 V: less, because the regulator steps down.
    expect(five!.loads.find(load => load.node === 'oled.vcc')!.peakMa).toBeCloseTo(25 * 3.3 / 0.85 / five!.peakV, 1)
  })

  it('on a linear regulator 3V3 counts ampere for ampere', () => {
    const early = rails({ ...desk, board: 'early-26' })
    expect(early['5V']!.loads.find(load => load.node === 'oled.vcc')!.peakMa).toBeCloseTo(25, 2)
  })

  it('what the rail can give is the weakest converter or source on the way', () => {
    const buck = withPower(
      { ...desk, supply: { type: 'din-rail-24v-2a5' } },
      { nodes: [{ id: 'b', type: 'step-down-5v-3a', name: 'B', from: '@cable' }], feeds: { '@socket': 'b' } },
    )
    expect(rails(buck)['5V']).toMatchObject({ availableMa: 3000 })
    expect(rails(desk)['5V']).toMatchObject({ availableMa: 3000, origin: 'practice' })
    expect(rails({
      ...desk, supply: { type: 'adapter-5v-3a', currentMa: 2000 },
    })['5V']).toMatchObject({ availableMa: 2000, origin: 'yours' })
    expect(rails({ ...desk, supply: null })['5V']).toMatchObject({ availableMa: null })
  })

  it('the maker\'s own limit stands in for the board\'s', () => {
    expect(rails({ ...desk, limits: { 'board.usbBudgetMa': { value: 900 } } }).USB)
      .toMatchObject({ availableMa: 900, origin: 'yours' })
  })

  it('a board that sees a small supply gives its USB sockets less', () => {
    const facts = gatherFacts({ ...desk, board: 'forty-io-bridge' }, catalogue)
    expect([
      usbBudget(facts, 3000)!.value, usbBudget(facts, 5000)!.value, usbBudget(facts, null)!.value,
    ]).toEqual([600, 1600, 1600]) // memory
    expect(usbBudget(gatherFacts(desk, catalogue), 3000)).toMatchObject({ value: 1200, small: false })
    expect(usbBudget(gatherFacts({ ...desk, board: null }, catalogue), 3000)).toBeNull()
  })

  it('every source has its own, and together they feed all loads once', () => {
    const plan = withPower(desk,
      { nodes: [{ id: 'two', type: 'adapter-5v-3a', name: 'Two' }], feeds: { 'fan.vcc': 'two' } })
    const { sources, nodes } = evaluate(plan, catalogue).power
    const fed = sources.flatMap(source => source.loads.map(load => load.node)).sort()
    expect(fed).toEqual(nodes.filter(node => node.role === 'load').map(node => node.id).sort())
    expect(sources.find(source => source.node === 'two')!.peakMa).toBeCloseTo(180, 0)
  })
})

describe('two ways side by side', () => {
  it('the same way twice is the same, and suffers from nothing alone', () => {
    const now = arrangementOf(desk, 'now', 'Now')
    const [left, right] = compareArrangements(desk, catalogue, now, now)
    expect(left).toEqual(right)
    expect(left.onlyHere).toEqual([])
    expect(arranged(desk, now)).toEqual(desk)
  })

  it('another supply leaves behind what was said of the old one\'s lead', () => {
    const plan = withPower(desk, { figures: { '@cable': { awg: 28 }, '@board': { typicalMa: 700 } } })
    expect(withSupply(plan, 'adapter-5v-5a', 'Large').figures).toEqual({ '@board': { typicalMa: 700 } })
  })

  it('a battery is compared by its hours, and a plan without a supply by nothing that it has not', () => {
    const bank = comparedOf(desk, catalogue, withSupply(desk, 'power-bank-12ah', 'Bank'))
    expect(bank.hours).toBeGreaterThan(3)
    expect(bank.price).toBe(catalogue.supplies.get('power-bank-12ah')!.price)
    const none = comparedOf(desk, catalogue, { ...arrangementOf(desk, 'none', 'None'), supply: null })
    expect([none.hours, none.spareMa, none.typicalV]).toEqual([null, null, null])
  })
})
