/**
 * What a maker hears about signals before the first wire. Limits come with their origin; the figures are worked out in
 * `test/reference/signals.test.ts`.
 */
import { describe, expect, it } from 'vitest'
import { evaluate } from '../../../core/evaluate'
import { placementEdits, placePlan } from '../../../core/placement/place'
import { applyEdit } from '../../../core/plan/edits'
import { chosenDivider } from '../../../core/signals/divider'
import type { Plan } from '../../../core/plan/types'
import { catalogue, codesOf, EMPTY_BUILD, findingsOf, fixedAt, planOf } from '../../plans'

const find = (plan: Plan, code: string) => findingsOf(plan).find(finding => finding.code === code)
const afterFix = (plan: Plan, code: string, which = 0) => applyEdit(
  plan, { edit: 'all', edits: find(plan, code)!.fixes[which]!.edits },
).plan
const at = (places: Record<string, number | string>) => ({ assignments: fixedAt(places) })

describe('levels that are no logic levels', () => {
  it('24 V of a machine is a stop, an opto-coupler first, and a divider worked for 24 V besides', () => {
    const plan = planOf('forty-classic', { s: 'switch-24v-process' }, at({ 's.out': 16 }))
    const finding = find(plan, 'level.too-high')!
    expect(finding).toMatchObject({ severity: 'stop', worksheet: { kind: 'divider', inputV: 24 } })
    expect(finding.fixes[0]!.label).toBe('Opto-coupler')
    expect(finding.fixes.length).toBe(2)
    for (const which of [0, 1]) {
      expect(codesOf(afterFix(plan, 'level.too-high', which)).filter(code => code.startsWith('level'))).toEqual([])
    }
  })

  it('RS-232 goes negative: a divider is no way out, a converter is', () => {
    const plan = planOf('forty-classic', { i: 'instrument-rs232' }, at({ 'i.tx': 10, 'i.rx': 8 }))
    expect(find(plan, 'level.negative')).toMatchObject({
      severity: 'stop', figures: [{ value: -12, origin: 'published: TIA-232-F, ±3 to ±15 V' }],
    })
    expect(codesOf(afterFix(plan, 'level.negative'))).not.toContain('level.negative')
    expect(codesOf(afterFix(plan, 'level.negative'))).not.toContain('level.too-high')
  })

  it('a varying voltage on a digital line is a stop, and the fix brings a converter', () => {
    const plan = planOf('forty-classic', { g: 'gas-analog' }, at({ 'g.aout': 16 }))
    expect(find(plan, 'level.analog')).toMatchObject({ severity: 'stop' })
    const after = afterFix(plan, 'level.analog')
    expect(after.parts.some(part => catalogue.parts.get(part.type)!.offers?.some(offer => offer.kind === 'analog')))
      .toBe(true)
    expect(codesOf(after)).not.toContain('level.analog')
  })

  it('5 V into a converter that stands 3.6 V is a stop with a divider', () => {
    const plan = planOf('forty-classic', { g: 'gas-analog', a: 'analog-4-i2c' }, at({ 'g.aout': 'a.A0' }))
    expect(find(plan, 'level.analog-too-high')).toMatchObject({ severity: 'stop', figures: [{ value: 5, limit: 3.6 }] })
    expect(codesOf(afterFix(plan, 'level.analog-too-high'))).not.toContain('level.analog-too-high')
  })

  it('a push-pull shifter on an open-drain bus is a stop, and an open-drain one on a fast SPI wire a caution', () => {
    const bus = planOf(
      'forty-classic', { t: 'text-display-i2c' },
      { ...at({ 't.sda': 3, 't.scl': 5 }), between: { 't.sda': { kind: 'level-shifter', fit: 'push-pull' } } },
    )
    expect(find(bus, 'level.shifter-unfit')).toMatchObject({ severity: 'stop' })
    const spi = planOf(
      'forty-classic', { m: 'matrix-8x8-spi' },
      { ...at({ 'm.clk': 23 }), between: { 'm.clk': { kind: 'level-shifter', fit: 'open-drain' } } },
    )
    expect(find(spi, 'level.shifter-unfit')).toMatchObject({ severity: 'caution' })
    expect(codesOf(afterFix(spi, 'level.shifter-unfit'))).not.toContain('level.shifter-unfit')
  })

  it('a divider too large for the bit rate is a caution, and the one offered keeps its edges', () => {
    const slow = planOf(
      'forty-classic', { p: 'label-printer-serial' },
      { ...at({ 'p.tx': 10, 'p.rx': 8 }),
        between: { 'p.tx': { kind: 'divider', upperOhm: 180_000, lowerOhm: 330_000 } } },
    )
    expect(find(slow, 'level.divider-slow')).toMatchObject({ severity: 'caution', worksheet: { kind: 'divider' } })
    expect(codesOf(afterFix(slow, 'level.divider-slow'))).not.toContain('level.divider-slow')
  })
})

describe('I²C as a circuit', () => {
  it('six boards with pull-ups of their own pull too hard for 3 mA', () => {
    const types = ['humidity-i2c', 'colour-i2c', 'gesture-i2c', 'magnetic-i2c', 'acceleration-i2c', 'thermal-array-i2c']
    const plan = planOf(
      'forty-classic', Object.fromEntries(types.map((type, i) => [`p${i}`, type])),
      { assignments: fixedAt(Object.fromEntries(types.flatMap((_, i) => [[`p${i}.sda`, 3], [`p${i}.scl`, 5]]))) },
    )
    // published: UM10204 §7.1: (3.3 − 0.4) ÷ 3 mA = 967 Ω; here 1.8 kΩ ∥ 6 × 10 kΩ = 865 Ω
    expect(find(plan, 'i2c.pull-up-strong')).toMatchObject({
      severity: 'caution', figures: [{ value: 865, limit: 967, origin: 'published: NXP UM10204 §7.1' }],
      worksheet: { kind: 'pull-up' },
    })
  })

  it('a bus away from the board\'s own resistors has none, and says which to solder', () => {
    const plan = planOf('forty-usb-c', { a: 'memory-i2c' }, at({ 'a.sda': 15, 'a.scl': 16 }))
    expect(find(plan, 'i2c.no-pull-up')).toMatchObject({ severity: 'stop' })
    expect(codesOf(planOf('forty-usb-c', { a: 'memory-i2c' },
      at({ 'a.sda': 3, 'a.scl': 5 })))).not.toContain('i2c.no-pull-up')
  })

  it('long wires are too slow for 400 kHz, and the fix slows the bus down to what it keeps', () => {
    const plan = planOf(
      'forty-usb-c', { a: 'light-i2c' },
      { ...at({ 'a.sda': 15, 'a.scl': 16 }), clocks: { i2c6: 400_000 },
        build: { ...EMPTY_BUILD, done: [], wires: { 'a.sda': { lengthM: 0.6 } } } },
    )
    expect(find(plan, 'i2c.pull-up-weak'))
      .toMatchObject({ severity: 'caution', figures: [{ limit: 300, unit: 'ns' }, {}] })
    const after = afterFix(plan, 'i2c.pull-up-weak')
    expect(after.clocks).toEqual({})
    expect(codesOf(after)).not.toContain('i2c.pull-up-weak')
  })

  it('a part that follows 100 kHz stops a bus of 400 kHz; the boot line carries the speed', () => {
    const plan = planOf(
      'forty-classic', { t: 'thermometer-distance-i2c' },
      { ...at({ 't.sda': 3, 't.scl': 5 }), clocks: { i2c1: 400_000 } },
    )
    expect(find(plan, 'i2c.too-fast')).toMatchObject({ severity: 'stop', figures: [{ limit: 100_000 }] })
    expect(evaluate(plan, catalogue).boot.needs.map(need => need.line)).toContain('dtparam=i2c_arm_baudrate=400000')
    expect(codesOf(afterFix(plan, 'i2c.too-fast'))).not.toContain('i2c.too-fast')
  })

  it('more asking than there is time is a stop, and running faster mends it', () => {
    const plan = planOf(
      'forty-classic', { o: 'oled-i2c', c: 'thermal-array-i2c', g: 'gesture-i2c', s: 'servo-16-i2c' },
      at({ 'o.sda': 3, 'o.scl': 5, 'c.sda': 3, 'c.scl': 5, 'g.sda': 3, 'g.scl': 5, 's.sda': 3, 's.scl': 5 }),
    )
    expect(find(plan, 'i2c.busy')).toBeDefined()
    expect(codesOf(afterFix(plan, 'i2c.busy'))).not.toContain('i2c.busy')
  })
})

describe('two parts that cannot change their one address', () => {
  const plan = planOf('forty-classic', { a: 'light-i2c', b: 'light-i2c' },
    at({ 'a.sda': 3, 'a.scl': 5, 'b.sda': 3, 'b.scl': 5 }))

  it('are told apart by a bus switch that one press brings, and placing puts each behind a channel of its own', () => {
    const after = afterFix(plan, 'address.clash')
    expect(after.parts.map(part => part.type)).toContain('hub-2-i2c')
    const result = placePlan(after, catalogue, { scope: 'rest' })
    if (!result.ok) throw new Error(result.sentence)
    expect([
      result.assignments['a.sda']!.terminal, result.assignments['b.sda']!.terminal,
    ].sort()).toEqual(['hub-2-i2c.SD0', 'hub-2-i2c.SD1'])
    expect(codesOf(applyEdit(after,
      { edit: 'all', edits: placementEdits(after, result) }).plan)).not.toContain('address.clash')
  })

  it('use the switch that is there already', () => {
    const hub = { ...plan, parts: [...plan.parts, { id: 'h', type: 'hub-8-i2c', name: 'h' }] }
    expect(find(hub, 'address.clash')!.fixes.map(fix => fix.label)).toEqual(['Take a and b off, then place the rest'])
    expect(codesOf(afterFix(hub, 'address.clash'))).not.toContain('address.clash')
  })
})

describe('serial links', () => {
  it('115 200 from 16 MHz is two per cent off and a caution; another rate is offered', () => {
    const plan = planOf('forty-classic', { m: ['controller-5v-serial', { baud: '115200' }] },
      { ...at({ 'm.tx': 10, 'm.rx': 8 }) })
    // memory: 16 MHz ÷ 8·17 = 117 647, +2.12 %; practice: ±2 % each end is safe
    expect(find(plan, 'serial.rate-apart')).toMatchObject({
      severity: 'caution', figures: [{ value: 2.12, limit: 2 }], worksheet: { kind: 'serial', partHz: 16_000_000 },
    })
    expect(codesOf(afterFix(plan, 'serial.rate-apart'))).not.toContain('serial.rate-apart')
  })

  it('parity on the small port is a stop; the full port mends it, with its boot line', () => {
    const plan = planOf('forty-classic', { e: 'energy-meter-485' }, at({ 'e.ro': 10, 'e.di': 8, 'e.de': 12 }))
    expect(find(plan, 'serial.no-parity')).toMatchObject({ severity: 'stop' })
    const after = afterFix(plan, 'serial.no-parity')
    expect(after.controllers).toEqual({ uart0: 'full' })
    expect(codesOf(after)).not.toContain('serial.no-parity')
    expect(evaluate(after, catalogue).boot.needs.map(need => need.line)).toEqual(expect.arrayContaining([
      'enable_uart=1', 'dtoverlay=miniuart-bt',
    ]))
    expect(codesOf(planOf(
      'early-26', { e: 'energy-meter-485' }, at({ 'e.ro': 10, 'e.di': 8, 'e.de': 12 }),
    ))).not.toContain('serial.no-parity')
  })

  it('without its direction line an RS-485 part never answers', () => {
    expect(find(
      planOf('early-26', { e: 'energy-meter-485' }, at({ 'e.ro': 10, 'e.di': 8 })), 'serial.no-direction',
    )).toMatchObject({ severity: 'stop' })
  })

  it('more than the rate carries is a stop', () => {
    const plan = planOf('forty-classic', { m: ['controller-5v-serial', { baud: '9600' }] },
      at({ 'm.tx': 10, 'm.rx': 8 }))
    expect(find(plan, 'serial.too-slow')).toMatchObject({ severity: 'stop', figures: [{ value: 1000, limit: 960 }] })
  })
})

describe('channels, strips and currents', () => {
  it('a servo and a fan on one channel are a stop: 50 Hz and 25 kHz', () => {
    const plan = planOf('forty-classic', { s: 'servo-small', f: 'fan-4wire-pwm' }, at({ 's.pulse': 12, 'f.pwm': 32 }))
    expect(find(plan, 'pwm.frequencies-differ')).toMatchObject({ severity: 'stop' })
    expect(codesOf(planOf(
      'forty-classic', { s: 'servo-small', f: 'fan-4wire-pwm' }, at({ 's.pulse': 12, 'f.pwm': 33 }),
    ))).not.toContain('pwm.frequencies-differ')
  })

  it('a strip of three thousand pixels changes slowly, one of three hundred does not', () => {
    const strip = catalogue.parts.get('strip-addressable')!
    const long = { ...strip, id: 'own-long', options: strip.options!.map(option => ({ ...option, max: 5000 })) }
    const of = (pixels: string) => planOf(
      'forty-classic', { s: ['own-long', { pixels }] }, { ...at({ 's.din': 12 }), own: { boards: [], parts: [long] } },
    )
    // memory: pixels × 24 bits × 1.25 µs and a pause of 280 µs: 90.3 ms, 11.1 a second; and 108 a second
    expect(find(of('3000'), 'strip.slow')).toMatchObject({ severity: 'note', figures: [{ value: 11.1, limit: 15 }] })
    expect(codesOf(of('300'))).not.toContain('strip.slow')
    expect(evaluate(of('300'), catalogue).signals.strips[0]!.framesPerS).toBeCloseTo(108, 0)
  })

  it('a transistor under a 1.2 A strip burns; a MOSFET does not', () => {
    const plan = planOf(
      'forty-classic', { s: 'strip-plain-12v' },
      { ...at({ 's.drive': 12 }), between: { 's.drive': { kind: 'transistor' } } },
    )
    expect(find(plan, 'stage.too-weak')).toMatchObject({ severity: 'stop', figures: [{ value: 1200, limit: 500 }] })
    expect(codesOf(afterFix(plan, 'stage.too-weak'))).not.toContain('stage.too-weak')
  })

  it('a driving stage comes worked out: gate or base resistor, and a diode across a coil only', () => {
    const labels = (type: string, terminal: string) => find(
      planOf('forty-classic', { x: type }, at({ [`x.${terminal}`]: 16 })), 'line.driven-straight',
    )!.fixes.map(fix => fix.label)
    expect(labels('relay-bare', 'coil')).toEqual([
      'Add a MOSFET stage (gate 220 Ω, 10 kΩ to ground, flyback diode)',
      'Add a transistor stage (base 680 Ω, flyback diode)',
    ])
    expect(labels('infrared-sender', 'in').every(label => !label.includes('diode'))).toBe(true)
  })

  it('something that must be still flutters on the console\'s line', () => {
    expect(find(
      planOf('forty-classic', { r: 'relay-board-1' }, at({ 'r.in1': 8 })), 'start.flutters',
    )).toMatchObject({ severity: 'caution' })
    expect(codesOf(planOf('forty-classic', { r: 'relay-board-1' },
      at({ 'r.in1': 16 })))).not.toContain('start.flutters')
  })

  it('a 10 kΩ pull-down hangs between two pulls on the lines with fixed 1.8 kΩ, and not elsewhere', () => {
    expect(find(
      planOf('forty-classic', { l: 'power-latch' }, at({ 'l.hold': 3 })), 'pull.against',
    )).toMatchObject({ figures: [{ value: 2.8, limit: 0.8 }] })
    expect(codesOf(planOf('forty-classic', { l: 'power-latch' }, at({ 'l.hold': 7 })))).not.toContain('pull.against')
  })

  it('fast SPI over half a metre rings; slowed down it does not', () => {
    const plan = planOf(
      'forty-classic', { s: 'screen-spi-24' },
      { ...at({ 's.sclk': 23, 's.mosi': 19, 's.select': 24 }),
        build: { ...EMPTY_BUILD, done: [], wires: { 's.sclk': { lengthM: 0.5 } } } },
    )
    expect(find(plan, 'spi.wire-long')).toMatchObject({ severity: 'caution', figures: [{ value: 0.5, limit: 0.3 }] })
    expect(codesOf(afterFix(plan, 'spi.wire-long'))).not.toContain('spi.wire-long')
  })

  it('a 1-Wire line of twenty metres wants less than 4.7 kΩ', () => {
    const plan = planOf(
      'forty-classic', { p: 'probe-onewire' }, { ...at({ 'p.dq': 7 }),
        build: { ...EMPTY_BUILD, done: [], wires: { 'p.dq': { lengthM: 20 } } } },
    )
    expect(find(plan, 'onewire.pull-up')).toBeDefined()
    expect(codesOf(planOf('forty-classic', { p: 'probe-onewire' }, at({ 'p.dq': 7 })))).not.toContain('onewire.pull-up')
  })

  it('keys without diodes show ghosts until each has one', () => {
    const plan = planOf('forty-classic', { k: 'keypad-matrix' })
    expect(find(plan, 'keys.ghosts'))
      .toMatchObject({ figures: [{ value: 2, limit: 16 }], worksheet: { kind: 'matrix', keys: 16 } })
    expect(codesOf(afterFix(plan, 'keys.ghosts'))).not.toContain('keys.ghosts')
  })
})

describe('lines that tell the board of something', () => {
  it('an interrupt behind an expander is heard late', () => {
    const plan = planOf('forty-classic', { x: 'expander-16-i2c', l: 'light-i2c' }, at({ 'l.int': 'x.A0' }))
    expect(find(plan, 'line.tells-late')).toMatchObject({ severity: 'caution' })
    expect(codesOf(afterFix(plan, 'line.tells-late'))).not.toContain('line.tells-late')
    expect(codesOf(planOf('forty-classic', { l: 'light-i2c' }, at({ 'l.int': 16 })))).not.toContain('line.tells-late')
  })

  it('only position 5 wakes a halted board', () => {
    // memory
    expect(find(
      planOf('forty-classic', { l: 'power-latch' }, at({ 'l.button': 16 })), 'line.wakes-not',
    )).toMatchObject({ severity: 'note', figures: [{ value: 23, limit: 3 }] })
    expect(codesOf(planOf('forty-classic', { l: 'power-latch' },
      at({ 'l.button': 5 })))).not.toContain('line.wakes-not')
  })
})

describe('stacks', () => {
  it('a board that passes nothing through has to be on top', () => {
    const plan = planOf('forty-classic', { s: 'sensor-add-on-10', r: 'relay-add-on-3' })
    expect(find(plan, 'stack.blocked')).toMatchObject({ severity: 'stop' })
    const after = afterFix(plan, 'stack.blocked')
    expect(after.stack).toEqual(['r', 's'])
    expect(codesOf(after)).not.toContain('stack.blocked')
  })

  it('two of them on the same positions fit only with long pins below the lower one', () => {
    const finding = find(planOf('forty-classic', { a: 'sensor-add-on-10', b: 'clock-add-on' }), 'stack.blocked')!
    expect(finding.fixes.map(fix => fix.label)).toEqual(['A header with long pins below a'])
    expect(finding.sentence).toContain('long pins')
  })

  it('two identity memories answer at once', () => {
    expect(find(
      planOf('forty-classic', { a: 'audio-add-on', b: 'audio-dac-add-on' }), 'stack.identities',
    )).toMatchObject({ severity: 'stop', figures: [{ value: 2, limit: 1 }] })
  })

  it('a battery board belongs at the bottom, a ribbon on top', () => {
    expect(find(planOf('forty-classic', { a: 'relay-add-on-3', b: 'power-add-on-battery' }),
      'stack.order')!.subjects[0]!.partId).toBe('b')
    expect(find(planOf('forty-classic', { a: 'ribbon-breakout-40', b: 'relay-add-on-3' }),
      'stack.order')!.subjects[0]!.partId).toBe('a')
  })

  it('wires under a board that passes nothing through are told of', () => {
    const plan = planOf('forty-classic', { s: 'sensor-add-on-10', a: 'light-i2c' }, at({ 'a.sda': 3, 'a.scl': 5 }))
    expect(find(plan, 'stack.covers')).toMatchObject({ severity: 'caution', figures: [{ value: 2, limit: 0 }] })
  })

  it('a long board on a short header reaches past its end', () => {
    expect(find(planOf('early-26', { a: 'relay-add-on-3' }), 'stack.too-long'))
      .toMatchObject({ figures: [{ value: 40, limit: 26 }] })
  })

  it('wide sticks fit above each other and not side by side: two in one pair of sockets, three in no two pairs', () => {
    const sticks = { a: 'modem-wide-stick', b: 'receiver-wide-stick' }
    expect(find(planOf('early-26', sticks), 'sockets.stacked')).toMatchObject({ severity: 'note' })
    expect(find(planOf('forty-classic', sticks), 'sockets.stacked')?.sentence).toContain(
      'a into USB socket 1, lower, b into USB socket 2, upper')
    expect(codesOf(planOf('forty-classic', sticks))).not.toContain('sockets.side-by-side')
    expect(find(planOf('forty-classic', { ...sticks, c: 'modem-wide-stick' }), 'sockets.side-by-side'))
      .toMatchObject({ severity: 'caution', figures: [{ value: 3, limit: 2 }] })
    expect(find(
      planOf('forty-classic', { f: 'fan-socket' }), 'sockets.exceeded',
    )).toMatchObject({ severity: 'stop', figures: [{ value: 1, limit: 0 }] })
    expect(codesOf(planOf('forty-io-bridge', { f: 'fan-socket' }))).not.toContain('sockets.exceeded')
  })
})

describe('the divider of a finding and of its worksheet', () => {
  it.each(['distance-echo-5v', 'controller-5v-serial'])('is one and the same, for %s on every board', (type) => {
    let compared = 0
    for (const board of catalogue.boards.keys()) {
      for (const position of [8, 10, 13]) for (const signal of catalogue.parts.get(type)!.signals) {
        const plan = planOf(board, { p: type }, { assignments: { [`p.${signal.id}`]: { position } } })
        for (const finding of findingsOf(plan)) {
          const edit = finding.fixes.flatMap(fix => fix.edits)
            .find(entry => entry.edit === 'set-between' && entry.between?.kind === 'divider')
          if (finding.worksheet?.kind !== 'divider' || edit?.edit !== 'set-between') continue
          const { inputV, mostV, leastV, bitHz, series } = finding.worksheet
          expect(chosenDivider({ inputV, mostV, leastV, bitHz, series })).toMatchObject({
            upperOhm: edit.between!.upperOhm, lowerOhm: edit.between!.lowerOhm,
          })
          compared++
        }
      }
    }
    expect(compared).toBeGreaterThan(2)
  })
})
