/** The figures of a plan's buses, ports and channels, as the lanes and worksheets show them. */
import { describe, expect, it } from 'vitest'
import { signalFigures } from '../../../core/signals/figures'
import { bitHzOf } from '../../../core/signals/edges'
import { circuitOf, clockOf } from '../../../core/facts/circuits'
import { gatherFacts } from '../../../core/facts/gather'
import { placementEdits, placePlan } from '../../../core/placement/place'
import { applyEdit } from '../../../core/plan/edits'
import type { Plan } from '../../../core/plan/types'
import { USUAL_WORKSHEETS, WORKSHEET_NAMES } from '../../../core/vocabulary/worksheets'
import { demoPlans } from '../../../demo'
import { catalogue, findingsOf, fixedAt, planOf } from '../../plans'

const figuresOf = (plan: Plan) => signalFigures(gatherFacts(plan, catalogue))
const placed = (plan: Plan): Plan => {
  const result = placePlan(plan, catalogue, { scope: 'rest' })
  if (!result.ok) throw new Error(result.sentence)
  return applyEdit(plan, { edit: 'all', edits: placementEdits(plan, result) }).plan
}

describe('figures of an I²C bus', () => {
  const bus = figuresOf(placed(planOf('forty-classic', { a: 'light-i2c', b: 'humidity-i2c' }))).i2c[0]!

  it('name every resistor, the board\'s first, and add them side by side', () => {
    expect(bus.pullUps.map(entry => [entry.name, entry.ohm])).toEqual([['Board', 1800], ['a', 10_000], ['b', 10_000]])
    expect(bus.pullUpOhm).toBeCloseTo(1323.5, 1) // arithmetic
  })

  it('add board, parts and wires to one capacitance', () => {
    // memory: 15 pF the board, 80 pF a metre of wire; the parts' own from their files
    const parts = ['light-i2c', 'humidity-i2c'].map(id => catalogue.parts.get(id)!)
    expect(bus.capacitancePf)
      .toBeCloseTo(15 + parts.reduce((sum, part) => sum + part.i2c!.capacitancePf! + 80 * part.leadM!, 0), 6)
  })

  it('know who holds the clock, who is slowest and how busy it is', () => {
    expect(bus.stretching).toEqual(['b'])
    expect(bus.slowest!.maxClockHz).toBe(400_000)
    expect(bus.busyShare).toBeGreaterThan(0)
    expect(bus.busyShare).toBeLessThan(0.05)
  })

  it('count what is polled behind a hub on the bus above it', () => {
    const plan = placed(planOf('forty-classic', { h: 'hub-8-i2c', a: 'light-i2c', b: 'light-i2c' }))
    const [above] = figuresOf(plan).i2c.filter(entry => entry.busId === 'i2c1')
    expect(above!.polls.length).toBeGreaterThanOrEqual(2)
  })

  it('are null, not endless, where nothing pulls up: a report is plain data', () => {
    const [bare] = figuresOf(planOf('forty-usb-c', { a: 'memory-i2c' },
      { assignments: fixedAt({ 'a.sda': 15, 'a.scl': 16 }) })).i2c
    expect(bare).toMatchObject({ pullUpOhm: null, riseS: null, reachable: null })
    expect(JSON.parse(JSON.stringify(bare))).toEqual(bare)
  })

  it('of a software bus have the board\'s resistors only on lines 2 and 3', () => {
    const plan = placed(planOf('forty-classic', { a: 'light-i2c', b: 'light-i2c' }))
    const soft = figuresOf(plan).i2c.find(entry => entry.busId.startsWith('i2c-soft'))!
    expect(soft.pullUps.every(entry => entry.partId !== null)).toBe(true)
  })
})

describe('figures of the other buses', () => {
  it('a screen gets the clock the divider makes, and shows what that carries', () => {
    const [screen] = figuresOf(placed(planOf('forty-classic', { s: 'screen-spi-24' }))).spi
    expect(screen!.clock!.rateHz).toBeCloseTo(31.25e6, 0) // arithmetic: 250 MHz ÷ 8
    expect(screen!.screen!.framesPerS).toBeCloseTo(25.4, 1)
    expect(figuresOf({
      ...placed(planOf('forty-classic', { s: 'screen-spi-24' })), clocks: { s: 10e6 },
    }).spi[0]!.clock!.rateHz).toBeLessThanOrEqual(10e6)
  })

  it('a serial link names its circuit, both errors and what it carries', () => {
    const plan = placed(planOf('forty-classic', { m: 'controller-5v-serial' }))
    const [link] = figuresOf(plan).serial
    expect(link).toMatchObject({
      baud: 57_600, frame: '8N1', circuit: { id: 'small' }, carriesBytesPerS: 5760, sendsBytesPerS: 1000,
      flowControlWired: false,
    })
    expect(link!.difference).toBeCloseTo((link!.board!.rateHz - link!.part!.rateHz) / 57_600, 9)
    expect(figuresOf({ ...plan, controllers: { uart0: 'full' } }).serial[0]!.circuit!.id).toBe('full')
  })

  it('a PWM channel lists its outputs and steps', () => {
    const [channel] = figuresOf(placed(planOf('forty-usb-c', { f: 'fan-4wire-pwm' }))).pwm
    expect(channel!.outputs.map(output => output.terminal)).toEqual(['f.pwm'])
    expect(channel!.steps).toBe(2160) // published: 25 kHz, fan specification rev 1.3; clock 54 MHz from memory
  })

  it('a strip on SPI is judged by the clock that would be right', () => {
    const plan = planOf('forty-classic', { s: 'strip-addressable' }, { assignments: fixedAt({ 's.din': 19 }) })
    const [strip] = figuresOf(plan).strips
    expect(strip!.by!.kind).toBe('spi')
    expect(Math.abs(strip!.spi!.error)).toBeLessThan(0.2)
    expect(figuresOf(planOf(
      'forty-classic', { s: 'strip-clocked' }, { assignments: fixedAt({ 's.di': 19, 's.ci': 23 }) },
    )).strips[0]!.spi).toBeNull()
  })

  it('sound rates that divide are even', () => {
    const [card] = figuresOf(placed(planOf('forty-io-bridge', { a: 'amplifier-i2s' }))).sound
    expect(card!.rates.find(rate => rate.rateHz === 48_000)!.even).toBe(true)
    expect(card!.rates.find(rate => rate.rateHz === 44_100)!.even).toBe(false)
  })

  it('1-Wire adds every wire and sensor; there is none without a probe', () => {
    const wire = figuresOf(placed(planOf('forty-classic', { a: 'probe-onewire', b: 'probe-onewire' }))).oneWire!
    expect(wire.partIds).toEqual(['a', 'b'])
    expect(wire.position).not.toBeNull()
    expect(figuresOf(planOf('forty-classic', { a: 'led-plain' })).oneWire).toBeNull()
  })

  it('keys have as many lines as rows and columns together', () => {
    const plan = planOf('forty-classic', { k: ['keypad-matrix', { rows: '5', columns: '6' }] })
    expect(figuresOf(plan).keys[0]).toMatchObject({ rows: 5, columns: 6, keys: 30, lines: 11 })
    expect(gatherFacts(plan, catalogue).terminals
      .filter(terminal => terminal.is === 'signal')
      .map(terminal => terminal.label)).toEqual(['R1', 'R2', 'R3', 'R4', 'R5', 'C1', 'C2', 'C3', 'C4', 'C5', 'C6'])
  })

  it('are finite or said to be missing, for every demo plan', () => {
    for (const plan of demoPlans) {
      const figures = figuresOf(plan)
      for (const bus of figures.i2c) expect(bus.capacitancePf).toBeGreaterThan(0)
      for (const link of figures.serial) expect(link.board === null || Number.isFinite(link.board.rateHz)).toBe(true)
      for (const device of figures.spi) expect(device.clock === null
        || device.clock.rateHz <= device.maxClockHz * (1 + 1e-9)).toBe(true)
    }
  })
})

describe('circuits, edges and worksheets', () => {
  it('the board starts with the first circuit, and the plan chooses another', () => {
    const uart = catalogue.boards.get('forty-classic')!.controllers.find(controller => controller.id === 'uart0')!
    expect(circuitOf(uart, planOf('forty-classic', {}))!.id).toBe('small')
    expect(clockOf(uart, planOf('forty-classic', {}, { controllers: { uart0: 'full' } }))!.divider)
      .toBe('fractional-64')
    expect(circuitOf(uart, planOf('forty-classic', {}, { controllers: { uart0: 'no such' } }))!.id).toBe('small')
  })

  it('a terminal\'s wire moves as fast as its part talks', () => {
    const facts = gatherFacts(
      planOf('forty-classic',
        { m: ['controller-5v-serial', { baud: '9600' }], s: 'screen-spi-24', l: 'led-plain', f: 'fan-4wire-pwm' }),
      catalogue,
    )
    const rate = (key: string) => bitHzOf(facts.byKey.get(key)!)
    expect([rate('m.tx'), rate('s.sclk'), rate('l.a'), rate('f.pwm')]).toEqual([9600, 32e6, null, 25_000])
  })

  it('every worksheet has a name and figures to start from', () => {
    for (const [kind, sheet] of Object.entries(USUAL_WORKSHEETS)) {
      expect(sheet.kind).toBe(kind)
      expect(WORKSHEET_NAMES[sheet.kind].length).toBeGreaterThan(3)
    }
  })
})

describe('facts that options change', () => {
  it('an add-on board shifted along the header takes positions further on', () => {
    const at = (shift: string) =>
      gatherFacts(
        planOf('forty-classic', { s: ['lamps-add-on-3', { shift }] }), catalogue,
      ).terminals.map(terminal => terminal.place?.kind === 'header'
        ? terminal.place.position
        : null)
    expect(at('0')).toEqual([12, 16, 18, 14])
    expect(at('10')).toEqual([32, 36, 38, 34])
  })

  it('two such boards find room beside each other, and not on the same place', () => {
    const both = (a: string, b: string) =>
      findingsOf(planOf('forty-classic', { a: ['lamps-add-on-3', { shift: a }], b: ['lamps-add-on-3', { shift: b }] }))
        .filter(finding => finding.severity === 'stop')
        .map(finding => finding.code)
    expect(both('0', '10')).toEqual([])
    expect(both('0', '0')).toEqual(expect.arrayContaining(['position.claimed-twice', 'stack.blocked']))
  })

  it('the stack follows the plan\'s order, then the order of parts', () => {
    const ids = (stack: string[]) =>
      gatherFacts(
        planOf('forty-classic', { a: 'relay-add-on-3', b: 'clock-add-on', c: 'audio-dac-add-on' }, { stack }),
        catalogue,
      ).stack.map(owner => owner.id)
    expect(ids([])).toEqual(['a', 'b', 'c'])
    expect(ids(['c'])).toEqual(['c', 'a', 'b'])
    expect(ids(['gone', 'b', 'a'])).toEqual(['b', 'a', 'c'])
  })
})
