/** Components, conductors and nets: what a person would lay on the table and join, and what the views say of it. */
import { describe, expect, it } from 'vitest'
import { evaluate } from '../../../core/evaluate'
import { gatherFacts } from '../../../core/facts/gather'
import { netlistOf } from '../../../core/netlist/build'
import { netsOf } from '../../../core/netlist/nets'
import { buildTree } from '../../../core/netlist/supply/build'
import type { Component, Conductor } from '../../../core/netlist/types'
import type { PowerNode, PowerPlan } from '../../../core/plan/power'
import type { Plan } from '../../../core/plan/types'
import { catalogue, planOf } from '../../plans'

const node = (id: string, type: string, from?: string): PowerNode => ({ id, type, name: id, ...from && { from } })
const fed = (
  parts: Parameters<typeof planOf>[1], places: Record<string, number>, power: Partial<PowerPlan> = {},
  more: Partial<Plan> = {},
): Plan => {
  const plan = planOf(
    'forty-classic', parts,
    {
      supply: { type: 'adapter-5v-2a4' },
      assignments: Object.fromEntries(Object.entries(places).map(([terminal, position]) => [terminal, { position }])),
      ...more,
    },
  )
  return { ...plan, power: { ...plan.power, ...power } }
}
const listOf = (plan: Plan) => {
  const facts = gatherFacts(plan, catalogue)
  return netlistOf(facts, buildTree(facts))
}
const together = (plan: Plan, a: string, b: string) => listOf(plan).netOf.get(a)!.pins.includes(b)
const ends = (plan: Plan) =>
  listOf(plan).conductors.flatMap(({ ways }) => ways.map(({ from, to }) => `${from} > ${to}`))

describe('nets', () => {
  const two = (id: string): Component => ({
    id, kind: 'part', name: id, what: id, pins: [{ id: `${id}.a`, label: 'a' }, { id: `${id}.b`, label: 'b' }],
    inside: [],
  })
  const wire = (from: string, to: string): Conductor => ({
    id: `${from}-${to}`, kind: 'wire', role: 'signal', from: from.split('.')[0]!, to: to.split('.')[0]!, lengthM: 1,
    ways: [{ from, to }],
  })

  it('are the pins joined with nothing between, each pin on one of them, named by the least', () => {
    const nets = netsOf([two('x'), two('y'), { ...two('z'), inside: [['z.a', 'z.b']] }],
      [wire('x.b', 'y.a'), wire('y.a', 'z.a')])
    expect(nets.map(net => [net.id, [...net.pins].sort()])).toEqual([
      ['x.a', ['x.a']], ['x.b', ['x.b', 'y.a', 'z.a', 'z.b']], ['y.b', ['y.b']],
    ])
  })

  it('a conductor to a pin that is not there joins nothing', () => {
    expect(netsOf([two('x')], [wire('x.a', 'gone.a')])).toHaveLength(2)
  })
})

describe('what stands in a wire', () => {
  it('a two-wire fan behind a MOSFET stage: plus to the rail, minus to the stage, the stage to line and ground', () => {
    const plan = fed(
      { fan: 'fan-5v' }, { 'fan.drive': 11, 'fan.vcc': 4, 'fan.gnd': 9 }, {},
      { between: { 'fan.drive': { kind: 'mosfet' } } },
    )
    expect(ends(plan)).toEqual(expect.arrayContaining([
      'fan.vcc > @P4', 'fan.drive > stage:fan.drive.load', 'stage:fan.drive.in > @P11', 'stage:fan.drive.gnd > @P9',
    ]))
    // The load has two leads: its minus goes to the stage and nowhere else.
    expect(ends(plan).filter(end => end.startsWith('fan.'))).toHaveLength(2)
    expect(together(plan, 'fan.drive', '@P11')).toBe(false)
    expect(together(plan, 'stage:fan.drive.gnd', '@P6')).toBe(true)
  })

  it('a divider parts the net in two; a pull-up stands beside it', () => {
    const echo = { e: 'distance-echo-5v' }
    const places = { 'e.echo': 13, 'e.trig': 15, 'e.vcc': 2, 'e.gnd': 9 }
    expect(together(
      fed(echo, places, {}, { between: { 'e.echo': { kind: 'divider', upperOhm: 1800, lowerOhm: 3300 } } }), 'e.echo',
      '@P13',
    )).toBe(false)
    expect(together(fed(echo, places), 'e.echo', '@P13')).toBe(true)
    expect(together(fed(echo, places, {}, { between: { 'e.echo': { kind: 'pull-up', ohm: 4700 } } }), 'e.echo', '@P13'))
      .toBe(true)
  })
})

describe('supplies', () => {
  const strip = (power: Partial<PowerPlan>) => fed(
    { s: ['strip-addressable', { pixels: '30' }] }, { 's.din': 12, 's.vcc': 2, 's.gnd': 6 }, power,
  )

  it('a strip fed from the supply itself has no wire to the header\'s 5 V, in every view', () => {
    expect(ends(strip({}))).toContain('s.vcc > @P2')
    const plan = strip({ feeds: { 's.vcc': '@cable' } })
    const report = evaluate(plan, catalogue)
    expect(ends(plan).some(end => end.startsWith('s.vcc > @P'))).toBe(false)
    expect(report.wires.some(wire => wire.position === 2)).toBe(false)
    expect(report.power.nodes.some(entry => entry.id === '@P2')).toBe(false)
    expect(together(plan, 's.gnd', '@P6')).toBe(true)
  })

  it('a 12 V strip is a load of the circuit, and its supply, leads and fuse are on the lists', () => {
    const plan = fed(
      { s: 'strip-plain-12v' }, {},
      { nodes: [node('twelve', 'adapter-12v-2a'), node('f', 'fuse-3150', 'twelve')], feeds: { 's.vcc': 'f' } },
    )
    const report = evaluate(plan, catalogue)
    const typical = report.power.states.find(state => state.id === 'typical')!
    // published: the adapter's file, 12.1 V; what is lost on the way is little
    expect(typical.nodes['s.vcc']!.voltageV).toBeGreaterThan(11)
    expect(typical.nodes.twelve!.currentMa).toBeGreaterThan(100)
    for (const name of ['twelve', 'f']) {
      expect(report.partsList.some(item => item.names.includes(name) || item.what === name), name).toBe(true)
    }
    expect(report.wires.filter(wire => /twelve|^f\b|s\.vcc/.test(`${wire.from} ${wire.to} ${wire.partName}`)).length)
      .toBeGreaterThan(0)
  })

  it('a hub takes the plugs from the board and has one of its own', () => {
    const plan = fed(
      { m: 'modem-wide-stick' }, {},
      { nodes: [node('a', 'hub-adapter-5v-4a'), { ...node('hub', 'hub-powered', 'a'), upstream: '@usb' }],
        feeds: { 'm.usb': 'hub' } },
    )
    const { conductors } = listOf(plan)
    expect(conductors.find(entry => entry.partId === 'm' && entry.kind === 'plug')).toMatchObject({ to: 'node:hub' })
    expect(conductors.find(entry => entry.id === 'hub@data')).toMatchObject({ kind: 'plug', to: '@board' })
  })
})

describe('places', () => {
  it('a position holds one plug: two wires meet at a splice with one wire to it', () => {
    const plan = fed({ a: 'humidity-i2c', b: 'light-i2c' },
      { 'a.sda': 3, 'a.scl': 5, 'b.sda': 3, 'b.scl': 5, 'a.gnd': 6, 'b.gnd': 9 })
    expect(ends(plan)).toEqual(expect.arrayContaining(['@P3 > splice:P3', 'a.sda > splice:P3', 'b.sda > splice:P3']))
    expect(ends(plan).filter(end => /@P3\b/.test(end))).toHaveLength(1)
    expect(together(plan, 'a.sda', 'b.sda')).toBe(true)
  })

  it.each([
    ['an add-on board alone', { a: 'audio-add-on' }, 'seat'], ['a USB stick alone', { a: 'modem-wide-stick' }, 'plug'],
    ['a panel alone', { a: 'panel-video-7' }, 'plug'], ['a flat panel alone', { a: 'panel-flat-7' }, 'flat cable'],
  ] as const)('%s has a Build stage: its own row, the supply\'s lead, and both on the parts list', (_, parts, kind) => {
    const { wires, partsList } = evaluate(fed(parts, {}), catalogue)
    expect(wires.map(wire => wire.kind)).toEqual(expect.arrayContaining([kind, 'lead']))
    expect(partsList.some(item => item.what === catalogue.parts.get(parts.a)!.name)).toBe(true)
  })
})
