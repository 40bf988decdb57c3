import { describe, expect, it } from 'vitest'
import { evaluate } from '../../../core/evaluate'
import { applyEdit } from '../../../core/plan/edits'
import type { Plan } from '../../../core/plan/types'
import { demoPlans } from '../../../demo'
import { catalogue, codesOf, findingsOf, fixedAt, planOf } from '../../plans'

const find = (plan: Plan, code: string) => findingsOf(plan).find(finding => finding.code === code)
const afterFix = (plan: Plan, code: string, which = 0) => applyEdit(
  plan, { edit: 'all', edits: find(plan, code)!.fixes[which]!.edits },
).plan
const at = (places: Record<string, number | string>) => ({ assignments: fixedAt(places) })
/** Wiring judged alone: what the boot file lacks is another matter. */
const wiring = (plan: Plan) => findingsOf(plan)
  .filter(finding => finding.stages[0] === 'wiring' && finding.severity !== 'note')
  .map(finding => finding.code)

describe('levels', () => {
  const mcu = planOf('forty-classic', { mcu: 'controller-5v-serial' }, at({ 'mcu.tx': 10, 'mcu.rx': 8 }))

  it('5 V transmit into a 3.3 V receive is a stop; each fix it offers mends it', () => {
    expect(find(mcu, 'level.too-high'))
      .toMatchObject({ severity: 'stop', figures: [{ value: 5, limit: 3.6, origin: 'memory' }] })
    expect(find(mcu, 'level.too-high')!.fixes).toHaveLength(2)
    expect(wiring(afterFix(mcu, 'level.too-high', 0))).toEqual([])
    expect(wiring(afterFix(mcu, 'level.too-high', 1))).toEqual([])
  })

  it('by USB there is no level problem, and a device node appears', () => {
    const usb = planOf('forty-classic', { mcu: ['controller-5v-serial', { link: 'usb' }] })
    expect(wiring(usb)).toEqual([])
    expect(evaluate(usb, catalogue).expected.nodes.map(node => node.path)).toEqual(['/dev/ttyACM0'])
  })

  it('a divider that leaves too little is a stop', () => {
    const weak = { ...mcu, between: { 'mcu.tx': { kind: 'divider' as const, upperOhm: 3300, lowerOhm: 1800 } } }
    expect(find(weak, 'level.divided-too-low'))
      .toMatchObject({ severity: 'stop', figures: [{ value: 1.76, limit: 2 }] })
  })

  it('a limit the maker sets is the one that judges, and is called theirs', () => {
    const own = { ...mcu, limits: { 'board.inputMaxV': { value: 5.5 } } }
    expect(codesOf(own)).not.toContain('level.too-high')
    const strict = { ...mcu, limits: { 'board.inputMaxV': { value: 3.4 } } }
    expect(find(strict, 'level.too-high')!.figures[0]).toMatchObject({ limit: 3.4, origin: 'yours' })
  })

  it('3.3 V into a 5 V strip is a caution, gone with a level shifter', () => {
    const strip = planOf('forty-classic', { s: 'strip-addressable' }, at({ 's.din': 12 }))
    expect(find(strip, 'level.too-low')).toMatchObject({ severity: 'caution', figures: [{ value: 3.3, limit: 3.5 }] })
    expect(codesOf(afterFix(strip, 'level.too-low'))).not.toContain('level.too-low')
  })
})

describe('claims and functions', () => {
  it('two signals on one position are a stop; releasing either ends it', () => {
    const plan = planOf('forty-classic', { a: 'buttons-4', b: 'fan-5v' }, at({ 'a.b1': 16, 'b.drive': 16 }))
    expect(find(plan, 'position.claimed-twice'))
      .toMatchObject({ severity: 'stop', subjects: [{ position: 16 }, { position: 16 }] })
    for (const which of [0,
      1]) expect(codesOf(afterFix(plan, 'position.claimed-twice', which))).not.toContain('position.claimed-twice')
  })

  it('a shared bus is no claim', () => {
    expect(wiring(planOf(
      'forty-classic', { a: 'oled-i2c', b: 'light-i2c' }, at({ 'a.sda': 3, 'a.scl': 5, 'b.sda': 3, 'b.scl': 5 }),
    ))).toEqual([])
  })

  it('two functions of one board on one position are found as soon as both are entered, and cannot be released', () => {
    const plan = planOf('forty-classic', { v: 'audio-add-on', l: 'fan-5v' }, at({ 'l.drive': 12 }))
    const finding = find(plan, 'position.claimed-twice')!
    expect(finding.sentence).toContain('BCLK')
    expect(finding.fixes.map(fix => fix.label)).toEqual(['Release l FAN −'])
  })

  it('swapped SDA and SCL, and transmit to transmit, are told as such', () => {
    expect(find(
      planOf('forty-classic', { a: 'oled-i2c' }, at({ 'a.sda': 5, 'a.scl': 3 })), 'function.unavailable',
    )!.sentence).toContain('swapped')
    expect(find(
      planOf('forty-classic', { m: 'modem-serial' }, at({ 'm.tx': 8, 'm.rx': 10 })), 'function.unavailable',
    )!.sentence).toContain('cross the two wires')
  })

  it('a signal on a supply is a short circuit, a supply on a signal is not on its rail', () => {
    expect(find(
      planOf('forty-classic', { f: 'fan-5v' }, at({ 'f.drive': 2 })), 'function.unavailable',
    )!.sentence).toContain('short circuit')
    expect(find(
      planOf('forty-classic', { f: 'fan-5v' }, at({ 'f.vcc': 1 })), 'function.unavailable',
    )!.sentence).toContain('not on the 5V rail')
  })

  it('terminals of one part on two buses are a stop', () => {
    expect(find(
      planOf('forty-usb-c', { a: 'oled-i2c' }, at({ 'a.sda': 3, 'a.scl': 29 })), 'function.unavailable',
    )!.sentence).toContain('different buses')
  })

  it('a place that does not exist is said, not ignored', () => {
    expect(find(
      planOf('forty-classic', { a: 'oled-i2c' }, at({ 'a.sda': 77 })), 'function.unavailable',
    )!.sentence).toContain('Position 77 does not exist')
    expect(find(
      planOf('forty-classic', { a: 'oled-i2c' }, at({ 'a.sda': 'ghost.SD0' })), 'function.unavailable',
    )!.sentence).toContain('Ghost.SD0 does not exist')
  })

  it('a reserved position is a stop, the identity memory a caution', () => {
    expect(find(
      planOf('forty-classic', { f: 'fan-5v' },
        { ...at({ 'f.drive': 40 }), reserved: [{ position: 40, reason: 'bent' }] }),
      'position.reserved',
    )).toMatchObject({ severity: 'stop' })
    expect(find(
      planOf('forty-classic', { a: 'oled-i2c' }, at({ 'a.sda': 27, 'a.scl': 28 })), 'position.reserved',
    )).toMatchObject({ severity: 'caution' })
  })

  it('two outputs on one PWM channel share frequency and duty: a caution', () => {
    expect(find(
      planOf('forty-classic', { a: 'servo-small', b: 'servo-small' }, at({ 'a.pulse': 12, 'b.pulse': 32 })),
      'pwm.channel-shared',
    )).toMatchObject({ severity: 'caution' })
    expect(codesOf(planOf(
      'forty-classic', { a: 'servo-small', b: 'servo-small' }, at({ 'a.pulse': 12, 'b.pulse': 33 }),
    ))).not.toContain('pwm.channel-shared')
  })

  it('more signals than lines is a stop that an expander mends', () => {
    const plan = planOf('forty-classic',
      { a: 'lever-sensors-8', b: 'lever-sensors-8', c: 'lever-sensors-8', d: 'relay-board-4' })
    expect(find(plan, 'lines.exceeded')).toMatchObject({ severity: 'stop', figures: [{ value: 28, limit: 26 }] })
    expect(codesOf(afterFix(plan, 'lines.exceeded'))).not.toContain('lines.exceeded')
  })

  it('a misspelt terminal, an unknown part, board or option value do not pass in silence', () => {
    expect(codesOf(planOf('forty-classic', { a: 'oled-i2c' }, at({ 'a.sdaa': 3 })))).toContain('plan.stray-key')
    expect(codesOf(planOf('forty-classic', { a: 'no-such-part' }))).toContain('catalogue.unknown')
    expect(codesOf(planOf('no-such-board', {}))).toContain('catalogue.unknown')
    expect(codesOf(planOf('forty-classic', { a: ['oled-i2c', { address: '0x99' }] }))).toContain('option.invalid')
    expect(codesOf(planOf('forty-classic', { a: ['strip-addressable', { pixels: '-4' }] }))).toContain('option.invalid')
  })
})

describe('addresses', () => {
  const both = { 'a.sda': 3, 'a.scl': 5, 'b.sda': 3, 'b.scl': 5 }

  it('two parts at one address are a stop; strapping one of them mends it', () => {
    const plan = planOf('forty-classic', { a: 'clock-cell-i2c', b: 'motion-i2c' }, at(both))
    expect(find(plan, 'address.clash')).toMatchObject({ severity: 'stop', title: 'Two parts answer at 0x68' })
    expect(find(plan, 'address.clash')!.fixes.map(fix => fix.label)).toEqual(['Strap b to 0x69'])
    expect(codesOf(afterFix(plan, 'address.clash'))).not.toContain('address.clash')
  })

  it('on two buses, or behind two channels of a hub, they do not meet; a channel hears the bus above it', () => {
    expect(codesOf(planOf(
      'forty-usb-c', { a: 'light-i2c', b: 'light-i2c' }, at({ ...both, 'b.sda': 7, 'b.scl': 29 }),
    ))).not.toContain('address.clash')
    const hub = { 'h.sda': 3, 'h.scl': 5 }
    expect(codesOf(planOf(
      'forty-classic', { h: 'hub-8-i2c', a: 'light-i2c', b: 'light-i2c' },
      at({ ...hub, 'a.sda': 'h.SD0', 'a.scl': 'h.SC0', 'b.sda': 'h.SD1', 'b.scl': 'h.SC1' }),
    ))).not.toContain('address.clash')
    expect(codesOf(planOf(
      'forty-classic', { h: 'hub-8-i2c', a: 'light-i2c', b: 'light-i2c' },
      at({ ...hub, ...both, 'a.sda': 'h.SD0', 'a.scl': 'h.SC0' }),
    ))).toContain('address.clash')
  })
})

describe('currents, rails and contacts', () => {
  it('a coil straight on a line is a stop; a stage ends it', () => {
    const plan = planOf('forty-classic', { r: 'relay-bare' }, at({ 'r.coil': 16 }))
    expect(find(plan, 'line.driven-straight')).toMatchObject({ severity: 'stop', figures: [{ value: 72, limit: 16 }] })
    for (const which of [0,
      1]) expect(codesOf(afterFix(plan, 'line.driven-straight', which))).not.toContain('line.driven-straight')
  })

  it('a fan is no better, and an expander\'s line no stronger', () => {
    expect(find(
      planOf('forty-classic', { f: 'fan-5v' }, at({ 'f.drive': 16 })), 'line.driven-straight',
    )).toMatchObject({ figures: [{ value: 180 }] })
    expect(codesOf(planOf(
      'forty-classic', { x: 'expander-16-i2c', r: 'relay-bare' }, at({ 'r.coil': 'x.A0' }),
    ))).toContain('line.driven-straight')
  })

  it('a low-level relay input on a line that starts low is a caution', () => {
    expect(find(planOf('forty-classic', { r: 'relay-board-4' }, at({ 'r.in1': 11 })), 'start.moves'))
      .toMatchObject({ severity: 'caution' })
    expect(codesOf(planOf('forty-classic', { r: 'relay-board-4' }, at({ 'r.in1': 29 })))).not.toContain('start.moves')
  })

  it('the 3V3 rail over its budget is a stop with the largest load named', () => {
    const screens = Object.fromEntries([1, 2, 3, 4, 5, 6].map(n => [`s${n}`, 'screen-spi-24']))
    expect(find(planOf('forty-usb-c', screens), 'rail.over-budget')).toMatchObject({
      severity: 'stop', figures: [{ value: 540, limit: 500 }, {}],
    })
  })

  it('a supply too small for the sum is a stop; the larger one that is offered mends it', () => {
    const plan = planOf('forty-usb-c', { s: ['strip-addressable', { pixels: '40' }] })
    const asked = Number(find(plan, 'supply.too-small')!.figures[0]!.value)
    // 40 × 60 mA and the board's 1280 mA at 5 V, which are more at the voltage that arrives.
    expect(asked).toBeGreaterThan(3680)
    expect(asked).toBeLessThan(3680 * 1.1)
    expect(codesOf(afterFix(plan, 'supply.too-small'))).not.toContain('supply.too-small')
  })

  it('plugs beyond the sockets and their current are stops', () => {
    const panels = planOf(
      'forty-classic', { a: 'panel-video-7', b: 'panel-video-7', c: 'panel-video-7' },
      { supply: { type: 'adapter-5v-5a' } },
    )
    expect(find(panels, 'sockets.exceeded')).toMatchObject({ title: 'More video plugs than sockets' })
    expect(find(panels, 'rail.over-budget')).toMatchObject({ title: 'The USB sockets are overloaded' })
  })

  const load = (what: object) => ({
    ...planOf('forty-classic', {}),
    parts: [{
      id: 'r', type: 'relay-board-4', name: 'R',
      loads: [{ contact: 1, what: 'Heater', kind: 'AC' as const, voltageV: 230, currentA: 4, ...what }],
    }],
  })

  it('mains on a contact is a caution that defers to local codes and a licensed electrician', () => {
    expect(find(load({}), 'contact.mains')).toMatchObject({
      severity: 'caution', sentence: expect.stringMatching(/local codes.*licensed electrician/),
    })
    expect(codesOf(load({ voltageV: 24 }))).not.toContain('contact.mains')
  })

  it('a contact past its rating is a stop, and DC counts by its own rating', () => {
    expect(codesOf(load({ currentA: 16 }))).toContain('contact.over-rating')
    expect(codesOf(load({ kind: 'DC', voltageV: 48, currentA: 1 }))).toContain('contact.over-rating')
    expect(codesOf(load({ kind: 'DC', voltageV: 24, currentA: 1 }))).not.toContain('contact.over-rating')
  })
})

describe('boot and console', () => {
  it('a bus the file does not switch on is a caution that one click ends', () => {
    const plan = planOf('forty-classic', { a: 'light-i2c' }, at({ 'a.sda': 3, 'a.scl': 5 }))
    expect(find(plan, 'bus.not-enabled')).toMatchObject({ severity: 'caution', title: 'I²C 1 is not switched on' })
    expect(codesOf(afterFix(plan, 'bus.not-enabled'))).not.toContain('bus.not-enabled')
  })

  it('a console on the port that a part uses is a stop; freeing it leaves the rest of the line', () => {
    const plan = planOf(
      'forty-classic', { m: 'modem-serial' },
      { ...at({ 'm.tx': 10, 'm.rx': 8 }),
        boot: { text: '', commandLine: 'console=serial0,115200 console=tty1 rootwait' } },
    )
    expect(find(plan, 'serial.console')).toMatchObject({ severity: 'stop' })
    expect(afterFix(plan, 'serial.console').boot!.commandLine).toBe('console=tty1 rootwait')
  })
})

describe('the last scan', () => {
  it('offers to plan the strap that was found', () => {
    const hive = demoPlans[0]!
    expect(find(hive, 'scan.missing')).toMatchObject({ title: 'Air in the lid did not answer' })
    const mended = afterFix(hive, 'scan.missing')
    expect(codesOf(mended)).not.toContain('scan.missing')
    expect(codesOf(mended)).not.toContain('scan.unexpected')
  })
})

describe('every finding', () => {
  it('has figures with an origin for each limit, a sentence, and fixes that change the plan', () => {
    for (const plan of [...demoPlans,
      planOf('forty-classic', { r: 'relay-bare', f: 'fan-5v' }, at({ 'r.coil': 16, 'f.drive': 16 }))]) {
      for (const finding of findingsOf(plan)) {
        expect(finding.sentence.length).toBeGreaterThan(20)
        for (const figure of finding.figures) if (figure.limit !== undefined) expect(figure.origin, finding.code)
          .toBeTruthy()
        for (const fix of finding.fixes) {
          expect(applyEdit(plan, { edit: 'all', edits: fix.edits }).plan,
            `${finding.code}: ${fix.label}`).not.toEqual(plan)
        }
      }
    }
  })

  it('has an id of its own within a plan', () => {
    for (const plan of demoPlans) {
      const ids = findingsOf(plan).map(finding => finding.id)
      expect(new Set(ids).size).toBe(ids.length)
    }
  })

  it('of the broken demo is one of the six that its notes tell of', () => {
    const box = demoPlans[1]!
    const stops = findingsOf(box).filter(finding => finding.severity !== 'note').map(finding => finding.code)
    expect(stops.sort()).toEqual([
      'address.clash', 'address.clash', 'level.too-high', 'line.driven-straight', 'path.over-rating',
      'path.over-rating',
      'position.claimed-twice', 'rail.under-voltage', 'supply.too-small',
    ])
    expect(box.notes!.match(/^\d\. /gm)).toHaveLength(6)
  })

  it('comes out byte for byte the same from the same plan', () => {
    for (const plan of demoPlans) {
      expect(JSON.stringify(evaluate(structuredClone(plan), catalogue))).toBe(JSON.stringify(evaluate(plan, catalogue)))
    }
  })
})
