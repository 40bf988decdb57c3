import { describe, expect, it } from 'vitest'
import { needsOf } from '../../../core/overlays/asks/needs'
import { writeNeed } from '../../../core/overlays/asks/write'
import { fillTemplate } from '../../../core/overlays/asks/placeholders'
import { expectedOf } from '../../../core/bringup/expected'
import { evaluate } from '../../../core/evaluate'
import { gatherFacts } from '../../../core/facts/gather'
import { openControllers } from '../../../core/facts/open'
import { linesWanted } from '../../../core/findings/claims'
import { placeOptions } from '../../../core/placement/options'
import { reasonsOf } from '../../../core/placement/reasons'
import { powerOf } from '../../../core/power/report'
import type { Plan } from '../../../core/plan/types'
import { catalogue, EMPTY_BUILD, fixedAt, planOf } from '../../plans'

const factsOf = (plan: Plan) => gatherFacts(plan, catalogue)
const busesOf = (plan: Plan) => factsOf(plan).groups.map(group => group.bus?.id ?? null)
const at = (places: Record<string, number | string>) => ({ assignments: fixedAt(places) })
const loose = (places: Record<string, number>) => ({ assignments: Object.fromEntries(Object.entries(places)
  .map(([key, position]) => [key, { position }])) })

describe('which bus a part lies on', () => {
  it.each([
    ['forty-classic', { 'a.sda': 3, 'a.scl': 5 }, 'i2c1'],
    ['forty-usb-c', { 'a.sda': 7, 'a.scl': 29 }, 'i2c3'],
    ['forty-usb-c', { 'a.sda': 24, 'a.scl': 21 }, 'i2c4'],
    ['forty-usb-c', { 'a.sda': 32, 'a.scl': 33 }, 'i2c5'],
    ['forty-usb-c', { 'a.sda': 15, 'a.scl': 16 }, 'i2c6'],
    ['forty-classic', { 'a.sda': 15, 'a.scl': 16 }, null],
    ['forty-classic', { 'a.sda': 3 }, 'i2c1'],
    ['forty-usb-c', { 'a.sda': 3, 'a.scl': 29 }, null],
    ['forty-classic', {}, null],
  ] as const)('on %s with %j is %s', (board, places, bus) => {
    expect(busesOf(planOf(board, { a: 'oled-i2c' }, loose(places)))).toEqual([bus])
  })

  it('is the hub\'s channel when it hangs there, with the bus above it known', () => {
    const facts = factsOf(planOf(
      'forty-classic', { h: 'hub-8-i2c', a: 'oled-i2c' },
      at({ 'h.sda': 3, 'h.scl': 5, 'a.sda': 'h.SD4', 'a.scl': 'h.SC4' }),
    ))
    expect(facts.buses.map(bus => [bus.id, bus.upstream])).toEqual([['i2c1', undefined], ['h.ch4', 'i2c1']])
    expect(facts.devices.map(device => device.busId)).toEqual(['i2c1', 'h.ch4'])
  })

  it('is none when data and clock hang on two channels', () => {
    expect(busesOf(planOf(
      'forty-classic', { h: 'hub-8-i2c', a: 'oled-i2c' },
      at({ 'h.sda': 3, 'h.scl': 5, 'a.sda': 'h.SD4', 'a.scl': 'h.SC5' }),
    ))).toEqual(['i2c1', null])
  })
})

describe('options', () => {
  it('leave only the terminals, supplies and nodes of the choice', () => {
    const header = factsOf(planOf('forty-classic', { m: 'controller-5v-serial' }))
    const usb = factsOf(planOf('forty-classic', { m: ['controller-5v-serial', { link: 'usb' }] }))
    expect(header.terminals.map(terminal => terminal.key)).toEqual(['m.tx', 'm.rx', 'm.vcc', 'm.gnd'])
    expect(usb.terminals).toEqual([])
    expect(powerOf(usb).report.rails.map(rail => rail.rail)).toEqual(['5V', '3V3', 'USB'])
    expect(expectedOf(header, powerOf(header)).nodes).toEqual([])
  })

  it('multiply a draw that is for each unit', () => {
    const peak = (probes: string) =>
      powerOf(factsOf(planOf('forty-classic', { p: ['probe-onewire', { probes }] }))).report.rails[1]!.peakMa
    expect(peak('8')).toBeCloseTo(8 * peak('1'), 9)
  })
})

describe('boot needs', () => {
  const linesOf = (plan: Plan) => needsOf(factsOf(plan)).map(need => writeNeed(need.need))

  it.each([
    ['forty-usb-c', 'oled-i2c', { 'a.sda': 7, 'a.scl': 29 }, ['dtoverlay=i2c3,pins_4_5']],
    ['forty-usb-c', 'clock-cell-i2c', { 'a.sda': 7, 'a.scl': 29 },
      ['dtoverlay=i2c3,pins_4_5', 'dtoverlay=i2c-rtc,ds3231,i2c3']],
    ['forty-classic', 'clock-cell-i2c', { 'a.sda': 3, 'a.scl': 5 }, ['dtparam=i2c_arm=on', 'dtoverlay=i2c-rtc,ds3231']],
    ['forty-usb-c', 'modem-serial', { 'a.tx': 29, 'a.rx': 7 }, ['dtoverlay=uart3']],
    ['forty-classic', 'servo-small', { 'a.pulse': 35 }, ['dtoverlay=pwm,pin=19,func=2']],
    ['forty-classic', 'probe-onewire', { 'a.dq': 11 }, ['dtoverlay=w1-gpio,gpiopin=17']],
    ['forty-classic', 'probe-onewire', {}, []],
    ['forty-classic', 'strip-addressable', { 'a.din': 12 }, []],
    ['forty-classic', 'strip-addressable', { 'a.din': 19 }, ['dtparam=spi=on']],
  ] as const)('on %s for %s at %j are %j', (board, type, places, lines) => {
    expect(linesOf(planOf(board, { a: type }, loose(places)))).toEqual(lines)
  })

  it('name both PWM channels in one overlay', () => {
    expect(linesOf(planOf(
      'forty-classic', { a: 'servo-small', b: 'servo-small' }, loose({ 'a.pulse': 32, 'b.pulse': 33 }),
    ))).toEqual(['dtoverlay=pwm-2chan,pin=12,func=4,pin2=13,func2=4'])
  })

  it('of the library cannot name a bus behind a hub: part and hub have overlays made for them', () => {
    expect(linesOf(planOf(
      'forty-classic', { h: 'hub-8-i2c', a: 'clock-cell-i2c' },
      at({ 'h.sda': 3, 'h.scl': 5, 'a.sda': 'h.SD0', 'a.scl': 'h.SC0' }),
    ))).toEqual(['dtparam=i2c_arm=on', 'dtoverlay=voltaris-h', 'dtoverlay=voltaris-a'])
  })

  it('fill a template only when everything in it is known', () => {
    const facts = factsOf(planOf(
      'forty-classic', { a: 'card-reader-spi' }, loose({ 'a.sck': 23, 'a.mosi': 19, 'a.miso': 21, 'a.select': 26 }),
    ))
    expect(fillTemplate('/dev/spidev{spi}.{select}', facts.parts[0]!, facts)).toBe('/dev/spidev0.1')
    expect(fillTemplate('{reset}', facts.parts[0]!, facts)).toBeNull()
  })
})

describe('lines wanted', () => {
  it('count a shared bus once and leave slow signals apart', () => {
    expect(linesWanted(factsOf(planOf('forty-classic', { a: 'oled-i2c', b: 'light-i2c', c: 'buttons-4' }))))
      .toEqual({ header: 2, slow: 4 })
    expect(linesWanted(factsOf(planOf(
      'forty-classic', { a: 'card-reader-spi', b: 'screen-spi-24' },
    )))).toEqual({ header: 3 + 2 + 3, slow: 0 })
  })
})

describe('where a terminal could go', () => {
  const plan = planOf(
    'forty-usb-c', { h: 'hub-8-i2c', x: 'expander-16-i2c', o: 'oled-i2c', b: 'buttons-4', f: 'fan-5v' },
    { ...at({ 'f.drive': 11 }), reserved: [{ position: 40 }] },
  )
  const optionsOf = (key: string) => placeOptions(factsOf(plan).byKey.get(key)!, factsOf(plan))

  it('is every place that can do it, and no other', () => {
    expect(optionsOf('o.sda').filter(option => option.to.position)
      .map(option => option.to.position)).toEqual([3, 7, 15, 19, 24, 27, 31, 32])
    expect(optionsOf('o.vcc').map(option => option.to.position)).toEqual([1, 17])
    expect(optionsOf('f.vcc').map(option => option.to.position)).toEqual([2, 4])
    expect(optionsOf('o.gnd').map(option => option.to.position)).toEqual([6, 9, 14, 20, 25, 30, 34, 39])
  })

  it('reaches channels of hubs for a bus and lines of expanders for slow signals only', () => {
    expect(optionsOf('o.sda').filter(option => option.to.terminal)
      .map(option => option.to.terminal)).toEqual(Array.from({ length: 8 }, (_, i) => `h.SD${i}`))
    expect(optionsOf('b.b1').filter(option => option.to.terminal)).toHaveLength(16)
    expect(optionsOf('f.drive').filter(option => option.to.terminal)).toEqual([])
  })

  it('says what is taken and what is reserved', () => {
    const byPosition = new Map(optionsOf('b.b1').map(option => [option.to.position, option]))
    expect(byPosition.get(11)!.takenBy).toEqual(['f FAN −'])
    expect(byPosition.get(40)!.reserved).toBe(true)
    expect(byPosition.get(27)!.reserved).toBe(true)
  })
})

describe('reasons', () => {
  const reasonOf = (plan: Plan, key: string) => reasonsOf(factsOf(plan)).get(key)

  it('tell a fixed place, a default bus, a shared one, a crossing and a claim apart', () => {
    const plan = planOf('forty-classic', { a: 'oled-i2c', b: 'light-i2c', m: 'modem-serial', v: 'audio-add-on' },
      {
        assignments: {
          'a.sda': { position: 3, fixed: true }, 'a.scl': { position: 5 }, 'b.sda': { position: 3 },
          'b.scl': { position: 5 },
          'm.tx': { position: 10 }, 'm.rx': { position: 8 },
        },
      })
    expect(reasonOf(plan, 'a.sda')).toMatch(/^You fixed it here\. I²C 1 \(alt0\), the default bus\./)
    expect(reasonOf(plan, 'b.scl')).toContain('Shared with a')
    expect(reasonOf(plan, 'm.tx')).toContain('transmit meets receive')
    expect(reasonOf(plan, 'v.dac')).toMatch(/^The add-on board is bound to it\./)
  })

  it('say what a pull does at reset for a relay', () => {
    const plan = (position: number) => planOf('forty-classic', { r: 'relay-board-4' }, loose({ 'r.in1': position }))
    expect(reasonOf(plan(29), 'r.in1')).toContain('stays idle')
    expect(reasonOf(plan(11), 'r.in1')).toContain('may move')
  })

  it('are there for every placed terminal', () => {
    const plan = planOf('forty-classic', { f: 'fan-5v' }, loose({ 'f.drive': 16, 'f.vcc': 2, 'f.gnd': 14 }))
    expect([...reasonsOf(factsOf(plan)).values()].every(reason => reason.length > 10)).toBe(true)
  })
})

describe('wires', () => {
  it('are one for a whole add-on board, and carry colour, length and what stands between as chosen', () => {
    const plan = planOf('forty-classic', { v: 'audio-add-on', f: 'fan-5v' }, {
      ...loose({ 'f.drive': 16, 'f.vcc': 2, 'f.gnd': 14 }), between: { 'f.drive': { kind: 'mosfet' } },
      build: { ...EMPTY_BUILD, done: [], wires: { 'f.drive': { colour: 'white',
        lengthM: 0.12 } } },
    })
    const stage = 'MOSFET stage with flyback diode'
    // Two wires of the fan and three of its stage: the fan's return runs through the stage.
    expect(evaluate(plan, catalogue).wires.map(wire => [wire.key, wire.colour, wire.lengthM, wire.through])).toEqual([
      ['v@seat', '', 0, null], ['stage:f.drive.gnd@14', 'black', 0.2, stage], ['f.drive@16', 'white', 0.12, stage],
      ['f.drive@stage', 'white', 0.12, stage], ['f.vcc@2', 'red', 0.25, null], ['@cable', 'red', 1.5, null],
    ])
  })

  it('change their key when they move, so that a moved wire is not ticked any more', () => {
    const key = (position: number) => evaluate(
      planOf('forty-classic', { f: 'fan-5v' }, loose({ 'f.drive': position })), catalogue,
    ).wires[0]!.key
    expect(key(16)).not.toBe(key(18))
  })
})

describe('controllers that nobody uses yet', () => {
  const open = (plan: Plan) =>
    Object.fromEntries(openControllers(gatherFacts(plan, catalogue)).map(entry => [entry.id, entry]))

  it('are free on the first way out whose positions nobody holds', () => {
    // published: BCM2835 ARM Peripherals, table 6-31: SPI 0 on lines 7 to 11, positions 26 24 21 19 23 of the header
    expect(open(planOf('forty-classic', {})).spi0).toMatchObject({ positions: [19, 21, 23, 24], held: [] })
  })

  it('say which positions are held, a select only where both are', () => {
    const at = (...positions: number[]) => open(planOf('forty-classic', { b: 'buttons-4' }, {
      assignments: fixedAt(Object.fromEntries(positions.map((position, i) => [`b.b${i + 1}`, position]))),
    })).spi0!
    expect(at(24)).toMatchObject({ positions: [19, 21, 23, 26], held: [] })
    expect(at(24, 26).held).toEqual([24])
    expect(at(19, 23).held).toEqual([19, 23])
    const kept = { ...planOf('forty-classic', {}), reserved: [{ position: 21 }] }
    expect(open(kept).spi0!.held).toEqual([21])
  })

  it('leave out what the plan uses', () => {
    const plan = planOf('forty-classic', { a: 'oled-i2c' }, { assignments: fixedAt({ 'a.sda': 3, 'a.scl': 5 }) })
    expect(Object.keys(open(plan))).not.toContain('i2c1')
  })
})
