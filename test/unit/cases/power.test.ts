/**
 * Shapes of projects whose supply has to come out right, each told in general. What is expected is common practice of
 * the trade unless a source stands beside it.
 */
import { describe, expect, it } from 'vitest'
import { COMPARED_ROWS, compareArrangements, isBetter, likeSupply, withSupply } from '../../../core/choose/arrangements'
import { evaluate } from '../../../core/evaluate'
import { placementEdits, placePlan } from '../../../core/placement/place'
import { applyEdit } from '../../../core/plan/edits'
import type { PowerPlan } from '../../../core/plan/power'
import { arrangementOf } from '../../../core/plan/power-edits'
import type { Plan } from '../../../core/plan/types'
import { catalogue, findingsOf, planOf } from '../../plans'

const placed = (plan: Plan): Plan => {
  const result = placePlan(plan, catalogue, { scope: 'rest' })
  if (!result.ok) throw new Error(result.sentence)
  return applyEdit(plan, { edit: 'all', edits: placementEdits(plan, result) }).plan
}
const fed = (board: string, supply: string | null, parts: Parameters<typeof planOf>[1] = {},
  power: Partial<PowerPlan> = {}): Plan => {
  const plan = placed(planOf(board, parts))
  return { ...plan, supply: supply ? { type: supply } : null, power: { ...plan.power, ...power } }
}
const find = (plan: Plan, code: string) => findingsOf(plan).find(finding => finding.code === code)
const grave = (plan: Plan) => findingsOf(plan)
  .filter(finding => finding.stages.includes('power') && finding.severity === 'stop')
  .map(finding => finding.code)
const mend = (plan: Plan, code: string,
  which = 0) => applyEdit(plan, { edit: 'all', edits: find(plan, code)!.fixes[which]!.edits }).plan
const powerOf = (plan: Plan) => evaluate(plan, catalogue).power
const state = (plan: Plan, id: string) => powerOf(plan).states.find(entry => entry.id === id)!

describe('first set-up of a current board: 15 W against 27 W', () => {
  const desk = (supply: string) => fed(
    'forty-io-bridge', supply, { a: 'modem-wide-stick', b: 'receiver-wide-stick' },
    { heat: { ...planOf(null, {}).power.heat, cooler: 'active',
      fan: { mode: 'threshold', onC: 60, hysteresisC: 10 } } },
  )

  it('with 15 W the USB sockets give 600 mA and two sticks are too much; with 27 W they give 1.6 A', () => {
    // memory: 600 mA together on 5 V 3 A, 1.6 A with 5 V 5 A on the newest family
    expect(find(desk('adapter-5v-3a'), 'usb.small-supply')).toMatchObject({ figures: [{ value: 600, limit: 1600 }] })
    expect(grave(desk('adapter-5v-3a'))).toContain('rail.over-budget')
    expect(grave(desk('adapter-5v-5a'))).toEqual([])
  })

  it('side by side: margin, voltage, price, and what only the small one suffers from', () => {
    const plan = desk('adapter-5v-3a')
    const [small, large] = compareArrangements(
      plan, catalogue, arrangementOf(plan, 'now', 'now'), withSupply(plan, 'adapter-5v-5a', 'large'),
    )
    expect(large.spareMa!).toBeGreaterThan(small.spareMa!)
    expect(large.peakV!).toBeGreaterThan(small.peakV!)
    expect([small.usbMa, large.usbMa]).toEqual([600, 1600])
    expect(large.price).toBeGreaterThan(small.price)
    expect(small.onlyHere).toContain('The USB sockets are overloaded')
    expect(large.onlyHere).toEqual([])
  })

  it('cooler and case lid do not go together; the load test has a temperature curve', () => {
    const lid = { ...desk('adapter-5v-5a') }
    expect(grave({ ...lid, power: { ...lid.power, heat: { ...lid.power.heat, enclosure: 'closed' } } }))
      .toContain('cooler.under-lid')
    const { heat } = powerOf(desk('adapter-5v-5a'))
    expect(heat!.points.length).toBeGreaterThan(100)
    expect(heat!.slowsAtS).toBeNull()
    expect(powerOf({
      ...lid, power: { ...lid.power, heat: { ...lid.power.heat, cooler: 'none', fan: { mode: 'none' } } },
    }).heat!.slowsAtS).toBeGreaterThan(60)
  })
})

describe('a touch panel in a machine: one DIN-rail supply, two cables', () => {
  const machine = (lead: Record<string, number>) => fed('forty-usb-c', 'din-rail-5v-5a', { panel: 'panel-video-7' }, {
    nodes: [{ id: 'panel-lead', type: 'wire-pair', name: 'Lead to the panel', from: '@supply', figures: lead }],
    feeds: { 'panel.usb': 'panel-lead' }, figures: { '@cable': { awg: 18, lengthM: 1.5 } },
  })

  it('both loads and both drops come out of one supply', () => {
    const plan = machine({ awg: 18, lengthM: 1.5 })
    const peak = state(plan, 'peak')
    const [source] = powerOf(plan).sources
    expect(source!.peakMa).toBeCloseTo(peak.nodes['@cable']!.currentMa + peak.nodes['panel-lead']!.currentMa, 1)
    // arithmetic: 2 × 1.5 m of 20.95 mΩ/m and the joints, on each way
    for (const [id, joints] of [['@cable', 0.01], ['panel-lead', 0.01]] as const) {
      const { inputV, voltageV, currentMa } = peak.nodes[id]!
      expect(inputV! - voltageV).toBeCloseTo(currentMa / 1000 * (3 * 0.02095 + joints), 3)
    }
    expect(grave(plan)).toEqual([])
    expect(find(plan, 'mains.electrician')!.sentence).toMatch(/local codes.*licensed electrician/)
  })

  it('a long thin lead starves the panel, not the board', () => {
    const plan = machine({ awg: 26, lengthM: 3 })
    expect(find(plan, 'load.under-voltage')).toMatchObject({ subjects: [{ partId: 'panel' }, {}] })
    expect(state(plan, 'typical').nodes['@5V']!.voltageV).toBeGreaterThan(4.7)
  })
})

describe('a tiny board on a carrier', () => {
  it('is fed through its header by the carrier: allowed, with what is given up', () => {
    const plan = fed('tiny-unpopulated', 'adapter-5v-3a', {}, { feeds: { '@socket': null, '@header': '@cable' } })
    expect(find(plan, 'header.past-fuse')).toMatchObject({ severity: 'note' })
    expect(grave(plan)).toEqual([])
    expect(state(plan, 'typical').nodes['@header']!.currentMa).toBeGreaterThan(200)
  })

  it('a plug in its own socket as well is two supplies on one rail', () => {
    const plan = fed(
      'tiny-unpopulated', 'adapter-5v-3a', {},
      { nodes: [{ id: 'carrier', type: 'din-rail-5v-5a', name: 'Carrier' }], feeds: { '@header': 'carrier' } },
    )
    expect(grave(plan)).toContain('rail.two-sources')
  })
})

describe('a status screen inside a computer', () => {
  const inside = fed('forty-classic', 'internal-usb-500', { screen: 'screen-spi-35-touch' })

  it('the internal port cannot give what the board asks: under-voltage sign, too small, and it cannot be asked for more', () => {
    // published: USB 2.0 §7.2, 500 mA
    expect(find(inside, 'supply.too-small')).toMatchObject({
      severity: 'stop', figures: [{ limit: 500 }, {}, {}],
      sentence: expect.stringContaining('cannot be asked for more'),
    })
    expect(find(inside, 'supply.below-least')).toMatchObject({ severity: 'stop' })
    expect(find(inside, 'rail.under-voltage')).toBeDefined()
  })

  it('ways out: a better source, which is enough; or a lower clock and core voltage, with their lines and '
    + 'what they save', () => {
    const { fixes } = find(inside, 'supply.too-small')!
    expect(grave(mend(inside, 'supply.too-small'))).toEqual([])
    const lower = fixes.find(fix => fix.label.includes('arm_freq'))!
    const slow = applyEdit(inside, { edit: 'all', edits: lower.edits }).plan
    expect(evaluate(slow, catalogue).boot.needs.map(need => need.line))
      .toEqual(expect.arrayContaining(['arm_freq=600', 'over_voltage=-4']))
    expect(state(slow, 'peak').nodes['@supply']!.currentMa)
      .toBeLessThan(state(inside, 'peak').nodes['@supply']!.currentMa - 150)
    expect(find(slow, 'clock.lowered')).toMatchObject({ severity: 'note' })
    // An early board that rests most of the time lives on it; at peak the port is still too small.
    expect(lower.label).toContain('not enough by itself')
  })
})

describe('a programming adapter on a desk', () => {
  it('6 W least and 12 W advised on the early class', () => {
    // practice: 5 V 1.2 A least, 5 V 2.4 A advised
    expect(find(fed('early-26', 'usb-port-3'), 'supply.below-least')).toMatchObject({
      severity: 'stop', sentence: expect.stringContaining('6 W at least'),
    })
    expect(find(fed('early-26', 'adapter-5v-1a2'), 'supply.below-advised')!.sentence).toContain('12 W is advised')
    expect(findingsOf(fed('early-26', 'adapter-5v-2a4')).filter(finding => finding.code.startsWith('supply.below')))
      .toEqual([])
  })

  it('a powered hub takes the load off the board', () => {
    const desk = fed('early-26', 'adapter-5v-2a4', { stick: 'modem-wide-stick', radio: 'receiver-wide-stick' })
    const before = state(desk, 'peak').nodes['@supply']!.currentMa
    const hub = mend(desk, 'rail.over-budget')
    expect(state(hub, 'peak').nodes['@supply']!.currentMa).toBeLessThan(before - 600)
    expect(state(hub, 'peak').nodes['@usb']!.currentMa).toBeCloseTo(0, 0)
    expect(grave(hub)).toEqual([])
  })
})

describe('a panel on the display connector: who feeds whom', () => {
  const panel = (power: Partial<PowerPlan>) => fed('forty-classic', 'adapter-5v-3a', { panel: 'panel-flat-7' }, power)

  it('the plug in the board: the board feeds the panel', () => {
    const plan = panel({})
    expect(state(plan, 'typical').nodes['panel.vcc@wire']!.currentMa).toBeGreaterThan(350)
    expect(grave(plan)).toEqual([])
  })

  it('the plug in the panel: the panel feeds the board, past its input fuse', () => {
    const plan = panel({ feeds: { '@socket': null }, joins: [{ from: '@supply', into: 'panel.vcc' }] })
    expect(state(plan, 'typical').nodes['panel.vcc@wire']!.currentMa).toBeLessThan(-400)
    expect(find(plan, 'panel.feeds-board'))
      .toMatchObject({ severity: 'note', sentence: expect.stringContaining('input fuse') })
    expect(grave(plan)).toEqual([])
  })

  it('both plugs in: they feed each other, a stop with both ways out', () => {
    const plan = panel({
      nodes: [{ id: 'second', type: 'adapter-5v-2a4', name: 'Second adapter' }],
      joins: [{ from: 'second', into: 'panel.vcc' }],
    })
    expect(find(plan, 'rail.two-sources'))
      .toMatchObject({ severity: 'stop', title: 'panel and the board feed each other' })
    for (const which of [0, 1]) expect(grave(mend(plan, 'rail.two-sources', which))).toEqual([])
  })

  it('takes position 2 or 4 and a ground', () => {
    const plan = panel({})
    expect([2, 4]).toContain(plan.assignments['panel.vcc']!.position)
    expect(catalogue.boards.get('forty-classic')!.header.find(entry =>
      entry.position === plan.assignments['panel.gnd']!.position)!.kind).toBe('ground')
  })
})

describe('hours from a battery', () => {
  it('12 000 mAh carry a board of 3.8 W for ten hours', () => {
    // practice: 12 Ah × 3.7 V × 0.85 ÷ 10 h = 3.77 W
    const plan = fed('forty-classic', 'power-bank-12ah', {}, { figures: { '@board': { typicalMa: 730 } } })
    const power = powerOf(plan)
    expect(power.stores[0]!.meanW).toBeGreaterThan(3.6)
    expect(power.stores[0]!.meanW).toBeLessThan(3.95)
    expect(power.hours! * power.stores[0]!.meanW).toBeCloseTo(12 * 3.7 * 0.85, 6)
    expect(power.hours!).toBeGreaterThan(9.5)
    expect(power.hours!).toBeLessThan(10.5)
  })

  it('ten hours asked of less are a stop, with what saves most', () => {
    const plan = fed('forty-usb-c', 'power-bank-12ah', { gps: 'positioning-serial', fan: 'fan-5v' })
    const asked = { ...plan, power: { ...plan.power, store: { ...plan.power.store, hoursAsked: 10 } } }
    expect(find(asked, 'pack.too-small'))
      .toMatchObject({ severity: 'stop', sentence: expect.stringContaining('What saves most') })
    expect(powerOf(asked).stores[0]!.savings[0]!.gainedHours).toBeGreaterThan(0)
  })
})

describe('an old keyboard with new insides: 9 V AC in, latching power', () => {
  const keyboard = (holdS: number,
    capacitanceUf = 4700) => fed('tiny-unpopulated', 'transformer-9v-ac', { keys: 'keypad-matrix' }, {
    nodes: [
      { id: 'bridge', type: 'rectifier-bridge', name: 'Bridge', from: '@cable', figures: { capacitanceUf } },
      { id: 'latch', type: 'latch-power', name: 'Latch', from: 'bridge', figures: { holdS } },
      { id: 'buck', type: 'step-down-5v-3a', name: 'Step-down', from: 'latch' },
    ], feeds: { '@socket': 'buck' },
  })

  it('rectifier, capacitor and the step-down\'s least input are worked out from the plan', () => {
    const [front] = powerOf(keyboard(30)).fronts
    // textbook: below U·√2 − 2·Ud of what comes without load; the ripple at most I ÷ (2·f·C), which counts on no pulse
    // to refill it
    expect(front!.peakV).toBeLessThan(front!.emfV * Math.SQRT2 - 1.4)
    expect(front!.rippleV).toBeLessThan(front!.currentMa / 1000 / (2 * 50 * 0.0047))
    expect(front!.rippleV).toBeGreaterThan(front!.currentMa / 1000 / (2 * 50 * 0.0047) * 0.5)
    expect(front!.wantedV).toBeCloseTo(6.5, 6)
    expect(front!.valleyV).toBeGreaterThan(front!.wantedV)
    expect(grave(keyboard(30))).toEqual([])
    expect(grave(keyboard(30, 220))).toContain('rectifier.valley')
  })

  it('the step-down gives the board its 5 V and takes less current than it gives', () => {
    const { buck } = state(keyboard(30), 'typical').nodes
    expect(buck!.voltageV).toBeCloseTo(5.1, 1)
    expect(state(keyboard(30), 'typical').nodes.latch!.currentMa).toBeLessThan(buck!.currentMa)
  })

  it('holds after switch-off until the shutdown is done, or says that it does not', () => {
    expect(grave(keyboard(5))).toContain('hold.too-short')
    expect(find(keyboard(5), 'hold.too-short')!.figures[0]).toMatchObject({ value: 5, limit: 18 })
    expect(grave(keyboard(30))).not.toContain('hold.too-short')
  })
})

describe('what is better', () => {
  const desk = fed('forty-io-bridge', 'adapter-5v-3a')
  const beside = (plan: Plan, type: string) =>
    compareArrangements(plan, catalogue, arrangementOf(plan, 'now', 'now'), withSupply(plan, type, type))

  it('nothing with a stop is, whatever its figures: 12 V on the 5 V rail is no gain', () => {
    const [now, twelve] = beside(desk, 'adapter-12v-5a')
    expect(twelve.stops).toBeGreaterThan(now.stops)
    for (const row of Object.values(COMPARED_ROWS)) expect(isBetter(row, twelve, now), row.label).toBe(false)
    expect(isBetter(COMPARED_ROWS.peakV, now, twelve)).toBe(true)
  })

  it('of two rails the nearer to 5.0 V', () => {
    const [now] = beside(desk, 'adapter-5v-5a')
    const at = (peakV: number) => ({ ...now, peakV })
    expect([isBetter(COMPARED_ROWS.peakV, at(5.05), at(4.85)), isBetter(COMPARED_ROWS.peakV, at(5.4), at(4.85))])
      .toEqual([true, false])
  })

  it('the first to compare with is of the same voltage and plug, wherever one is', () => {
    for (const unit of catalogue.supplies.values()) {
      const like = likeSupply(fed('forty-usb-c', unit.id), catalogue)
      if (like) expect(Math.abs(like.voltageV - unit.voltageV), unit.id).toBeLessThan(0.3)
    }
    expect(likeSupply(desk, catalogue)).toMatchObject({ id: 'adapter-5v-5a' })
    expect(likeSupply(fed('forty-usb-c', 'adapter-12v-2a'), catalogue)).toMatchObject({ id: 'adapter-12v-5a' })
  })
})
