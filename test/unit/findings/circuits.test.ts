/**
 * What an expert looks for on the signal side: circuits for strips, pull-ups, second addresses, sound beside PWM. Each
 * fix is tried.
 */
import { describe, expect, it } from 'vitest'
import { placementEdits, placePlan } from '../../../core/placement/place'
import { applyEdit } from '../../../core/plan/edits'
import type { Between, Plan } from '../../../core/plan/types'
import { evaluate } from '../../../core/evaluate'
import { readPlan } from '../../../core/plan/read'
import { catalogue, codesOf, EMPTY_BUILD, findingsOf, fixedAt, planOf } from '../../plans'

const placed = (plan: Plan): Plan => {
  const result = placePlan(plan, catalogue, { scope: 'all' })
  if (!result.ok) throw new Error(result.sentence)
  return applyEdit(plan, { edit: 'all', edits: placementEdits(plan, result) }).plan
}
const found = (plan: Plan, code: string) => findingsOf(plan).find(finding => finding.code === code)
const mended = (plan: Plan, code: string, fix = 0): Plan =>
  applyEdit(plan, { edit: 'all', edits: found(plan, code)!.fixes[fix]!.edits }).plan

describe('circuits for a strip', () => {
  const at = (board: string,
    position: number) => planOf(board, { s: 'strip-addressable' }, { assignments: fixedAt({ 's.din': position }) })
  const works = (board: string, position: number) => !codesOf(at(board, position)).includes('function.unavailable')

  // memory: programs for strips drive PWM, the sound bus's data wire or SPI data out on the classic families; on the
  // board whose lines hang on an I/O bridge only SPI.
  it.each(['forty-classic', 'forty-usb-c', 'tiny-unpopulated'])('%s: lines 18, 21 and 10', (board) => {
    expect([12, 40, 19, 11].map(position => works(board, position))).toEqual([true, true, true, false])
  })

  it('forty-io-bridge: SPI data out alone, and placement finds it', () => {
    expect([12, 40, 19].map(position => works('forty-io-bridge', position))).toEqual([false, false, true])
    expect(placed(planOf('forty-io-bridge', { s: 'strip-addressable' })).assignments['s.din']!.position).toBe(19)
  })

  it('on the sound bus it keeps sound out, and the kernel drives nothing there', () => {
    const plan = at('forty-classic', 40)
    expect(evaluate(plan, catalogue).boot.needs.map(need => need.line)).not.toContain('dtparam=i2s=on')
    expect(placePlan(
      planOf('forty-classic', { s: 'strip-addressable', a: 'amplifier-i2s' }, plan), catalogue, { scope: 'rest' },
    ).ok).toBe(true)
    const both = planOf('forty-classic', { s: 'strip-addressable', a: 'amplifier-i2s' },
      { assignments: fixedAt({ 's.din': 40 }) })
    const result = placePlan(both, catalogue, { scope: 'rest' })
    expect(result.ok).toBe(false)
  })

  it('says noise on the sound socket only where there is one', () => {
    expect(codesOf(at('forty-classic', 12))).toContain('strip.and-sound')
    expect(codesOf(at('tiny-unpopulated', 12))).not.toContain('strip.and-sound')
  })
})

describe('PWM beside analog sound', () => {
  const servo = (board: string,
    text: string): Plan => ({ ...placed(planOf(board, { a: 'servo-small' })), boot: { text } })

  it('is told where the file switches sound on and the board has its socket; the fix switches it off', () => {
    const plan = servo('forty-classic', 'dtparam=audio=on\n')
    expect(found(plan, 'pwm.and-sound'))
      .toMatchObject({ severity: 'caution', subjects: [{ partId: 'a' }, { text: { line: 1 } }] })
    const after = mended(plan, 'pwm.and-sound')
    expect(after.boot!.text).toBe('dtparam=audio=off\n')
    expect(codesOf(after)).not.toContain('pwm.and-sound')
  })

  it.each([
    ['tiny-unpopulated', 'dtparam=audio=on\n'], ['forty-classic', 'dtparam=audio=off\n'],
    ['forty-classic', 'dtparam=audio=on,audio=off\n'],
    ['forty-classic', '[none]\ndtparam=audio=on\n'],
  ])('is not told on %s with %j', (board, text) => {
    expect(codesOf(servo(board, text))).not.toContain('pwm.and-sound')
  })
})

describe('pull-ups', () => {
  const eight = () => placed(planOf('forty-classic', {
    a: 'oled-i2c', b: 'humidity-i2c', c: 'light-i2c', d: 'motion-i2c', e: 'air-quality-i2c', f: 'magnetic-i2c',
    g: 'analog-4-i2c',
    h: 'pressure-humidity-i2c',
  }))

  it('of eight boards and the board are too strong, and the fix takes off as many as it needs', () => {
    // published: NXP UM10204 §7.1: least Rp = (VDD − VOL) ÷ IOL = (3.3 − 0.4) ÷ 3 mA = 967 Ω. 1.8 kΩ beside n × 10 kΩ:
    // 1 ÷ (1/1800 + n/10000),
    // 738 Ω with eight, 947 Ω with five, 1047 Ω with four: four stay at the most.
    const plan = eight()
    expect(found(plan, 'i2c.pull-up-strong')!.figures[0]).toMatchObject({ value: 738, limit: 967 })
    const after = mended(plan, 'i2c.pull-up-strong')
    expect(Object.keys(after.limits)).toHaveLength(4)
    expect(codesOf(after)).not.toContain('i2c.pull-up-strong')
    expect(evaluate(after, catalogue).signals.i2c[0]!.pullUpOhm).toBeCloseTo(1 / (1 / 1800 + 4 / 10_000), 0)
    const { plan: without } = applyEdit(after,
      { edit: 'remove-part', id: Object.keys(after.limits)[0]!.split('.')[0]! })
    expect(Object.keys(without.limits)).toHaveLength(3)
  })

  it('beyond a level shifter are sunk together with those here and do not quicken the edges here', () => {
    const shifter: Between = { kind: 'level-shifter', fit: 'open-drain' }
    const plan = placed(planOf('forty-classic', { t: 'text-display-i2c' }))
    const [bare] = evaluate(plan, catalogue).signals.i2c
    const [apart] = evaluate({ ...plan, between: { 't.sda': shifter, 't.scl': shifter } }, catalogue).signals.i2c
    // practice: shifter boards for open-drain lines have 10 kΩ on each side. Here: 1.8 kΩ beside 10 kΩ.
    expect(apart!.pullUpOhm).toBeCloseTo(1 / (1 / 1800 + 1 / 10_000), 0)
    // Beyond: 10 kΩ and the part's 4.7 kΩ to 5 V draw as 6.6 and 3.1 kΩ to 3.3 V would.
    expect(apart!.sinkOhm).toBeCloseTo(1 / (1 / 1800 + 1 / 10_000 + 1 / 6600 + 1 / 3102), 0)
    expect(bare!.pullUpOhm).toBeCloseTo(1 / (1 / 1800 + 1 / 4700), 0)
  })

  it('and capacitances follow what the maker measured', () => {
    const plan = placed(planOf('forty-classic', { a: 'oled-i2c' }, {
      build: { ...EMPTY_BUILD, done: [], wires: { 'a.sda': { lengthM: 1 } } } }))
    const pf = (limits: Plan['limits']) => evaluate({ ...plan, limits }, catalogue).signals.i2c[0]!.capacitancePf
    expect(pf({ 'wire.pfPerM': { value: 50 } })).toBeCloseTo(pf({}) - 30, 6)
    expect(pf({ 'a.capacitancePf': { value: 112 } })).toBeCloseTo(pf({}) + 100, 6)
  })
})

describe('addresses that a part takes besides its own', () => {
  const wired = (parts: Parameters<typeof planOf>[1]) => planOf('forty-classic', parts, {
    assignments: fixedAt(Object.fromEntries(Object.keys(parts).flatMap(id => [[`${id}.sda`, 3], [`${id}.scl`, 5]]))),
  })

  it('clash with a strapped memory, whose strap is the way out; placing finds it', () => {
    // memory: boards with this clock chip often carry a 24C32 at 0x57.
    const plan = wired({ clock: 'clock-cell-i2c', m: ['memory-i2c', { address: '0x57' }] })
    expect(found(plan, 'address.clash')).toMatchObject({ subjects: [{ address: 0x57 }, { address: 0x57 }] })
    expect(codesOf(mended(plan, 'address.clash'))).not.toContain('address.clash')
    const again = placed(planOf('forty-classic', { clock: 'clock-cell-i2c', m: ['memory-i2c', { address: '0x57' }] }))
    expect(again.parts.find(part => part.id === 'm')!.options!.address).not.toBe('0x57')
  })

  it('that call all chips of a kind are common to those, and clash with a bus switch at that address', () => {
    // memory: all-call address of the 16-channel PWM chip, 0x70, on from power-up; the bus switch's first address is
    // 0x70 too.
    expect(codesOf(wired({ a: 'servo-16-i2c',
      b: ['servo-16-i2c', { address: '0x41' }] }))).not.toContain('address.clash')
    expect(codesOf(wired({ a: 'servo-16-i2c', h: 'hub-8-i2c' }))).toContain('address.clash')
  })

  it('are no surprise in a scan, and not missed when they do not answer', () => {
    const plan = wired({ clock: 'clock-cell-i2c' })
    const scan = (cells: string) => ({ ...plan,
      scans: [{ id: 's', bus: 'i2c1', takenAt: '2026-01-01T00:00:00Z', text: cells }] })
    const head = '     0  1  2  3  4  5  6  7  8  9  a  b  c  d  e  f\n'
    const row = (tens: string, at: number | null, name = '') =>
      `${tens}0: ${Array.from({ length: 16 }, (_, i) => i === at ? name : '--').join(' ')}\n`
    expect(codesOf(scan(head + row('5', 7, '57') + row('6', 8, '68')))).not.toContain('scan.unexpected')
    expect(codesOf(scan(head + row('5', null) + row('6', 8, '68')))).not.toContain('scan.missing')
    expect(codesOf(scan(head + row('5', null) + row('6', null)))).toContain('scan.missing')
  })

  it('are fields of a part file', () => {
    const own = { ...catalogue.parts.get('clock-cell-i2c')!, id: 'own-clock' }
    const read = readPlan({ ...planOf(null, {}), own: { boards: [], parts: [own] } })
    expect(read.ok).toBe(true)
  })
})

describe('a clash of fixed addresses', () => {
  it('is mended by another bus where the board has one free', () => {
    const plan = planOf('forty-usb-c', { a: 'light-i2c', b: 'light-i2c' }, {
      assignments: fixedAt({ 'a.sda': 3, 'a.scl': 5, 'b.sda': 3, 'b.scl': 5 }),
    })
    const after = mended(plan, 'address.clash')
    expect(found(plan, 'address.clash')!.fixes[0]!.label).toMatch(/^Put b on I²C \d, positions/)
    expect(codesOf(after).filter(code => /address|function|position/.test(code))).toEqual([])
  })

  it('is not sent to a bus that the board has not', () => {
    const plan = planOf('forty-classic', { a: 'light-i2c', b: 'light-i2c' }, {
      assignments: fixedAt({ 'a.sda': 3, 'a.scl': 5, 'b.sda': 3, 'b.scl': 5 }),
    })
    expect(found(plan, 'address.clash')!.fixes.map(fix => fix.label)).toEqual([expect.stringContaining('bus switch')])
  })
})

describe('SPI', () => {
  const own = (mode: number) => ({ ...catalogue.parts.get('pressure-spi')!, id: 'own-spi',
    spi: { maxClockHz: 1_000_000, mode: mode as 0
    | 3 } })
  const at = (board: string, mode: number, places: Record<string, number>) => planOf(board, { a: 'own-spi' }, {
    own: { boards: [], parts: [own(mode)] }, assignments: fixedAt(places),
  })
  const terminals = catalogue.parts.get('pressure-spi')!.signals
  const byRole = (role: string) => `a.${terminals.find(signal => signal.role === role)!.id}`
  const aux = {
    [byRole('spi.clock')]: 40, [byRole('spi.mosi')]: 38, [byRole('spi.miso')]: 35, [byRole('spi.select')]: 12,
  }

  it('mode 3 on the auxiliary bus of the classic family is a stop; placed again it lies on one that does it', () => {
    // memory: Linux kernel, drivers/spi/spi-bcm2835aux.c: mode_bits without SPI_CPHA
    const plan = at('forty-classic', 3, aux)
    expect(found(plan, 'spi.mode')).toMatchObject({ severity: 'stop', figures: [{ value: 3, limit: '0, 2' }] })
    const again = placed(mended(plan, 'spi.mode'))
    expect(codesOf(again)).not.toContain('spi.mode')
    expect(again.assignments[byRole('spi.clock')]!.position).toBe(23)
    expect(codesOf(at('forty-classic', 0, aux))).not.toContain('spi.mode')
  })

  it('the step above is told against what the part stands, or what was asked', () => {
    const plan = placed(planOf('forty-classic', { a: 'screen-spi-24' }))
    const max = catalogue.parts.get('screen-spi-24')!.spi!.maxClockHz
    const slow = { ...plan, clocks: { a: 9_000_000 } }
    expect(found(slow, 'spi.step-below')?.sentence ?? '').not.toContain('the part stands')
    for (const clocks of [{}, { a: 9_000_000 }, { a: 33_000_000 }] as Plan['clocks'][]) {
      const finding = found({ ...plan, clocks }, 'spi.step-below')
      const [, said] = /would be ([\d.]+) MHz, and the part stands/.exec(finding?.sentence ?? '') ?? []
      if (said) expect(Number(said) * 1e6).toBeGreaterThan(max)
    }
  })

  it('wanted pictures a second are the maker\'s to state', () => {
    const plan = placed(planOf('forty-classic', { a: 'screen-spi-24', s: ['strip-addressable', { pixels: '300' }] }))
    const wanted = (key: string, value: number) => codesOf({ ...plan, limits: { [key]: { value } } })
    expect(wanted('a.picturesPerS', 60)).toContain('spi.screen-slow')
    expect(wanted('a.picturesPerS', 1)).not.toContain('spi.screen-slow')
    // 300 × 24 × 1.25 µs + 280 µs = 9.28 ms a picture: 107.8 a second. memory: bit time and pause of such pixels
    expect(wanted('s.picturesPerS', 107)).not.toContain('strip.slow')
    expect(wanted('s.picturesPerS', 109)).toContain('strip.slow')
  })
})

describe('facts of parts and boards', () => {
  it('a bus controller fed from 5 V reads high from 3.5 V: a line does not reach that', () => {
    expect(codesOf(placed(planOf('forty-classic', { v: 'bus-vehicle-spi' })))).toContain('level.too-low')
  })

  it('a current meter is strapped to 0x40, 0x41, 0x44 or 0x45', () => {
    expect(catalogue.parts.get('current-meter-i2c')!.options![0]!.values!.map(entry =>
      entry.value)).toEqual(['0x40', '0x41', '0x44', '0x45'])
  })

  it('on the board with the I/O bridge lines 14 and 15 reach PWM 2 and 3', () => {
    const signal = catalogue.parts.get('servo-small')!.signals[0]!.id
    const plan = (position: number) => planOf(
      'forty-io-bridge', { s: 'servo-small' }, { assignments: fixedAt({ [`s.${signal}`]: position }) },
    )
    expect(codesOf(plan(8))).not.toContain('function.unavailable')
    expect(evaluate(plan(10), catalogue).boot.needs.map(need => need.line))
      .toEqual([expect.stringContaining('pin=15,func=4')])
  })
})

describe('more signals than lines', () => {
  const relays = (count: number,
    type: string) => Object.fromEntries(Array.from({ length: count }, (_, i) => [`r${i}`, type]))

  it('of slow ones: as many expanders as it takes, and the finding is gone', () => {
    // 48 slow inputs, 26 lines of which two go to the bus: 24 short of 48 on the header, and two for the bus
    const plan = planOf('forty-classic', relays(12, 'buttons-4'))
    const finding = found(plan, 'lines.exceeded')!
    expect(finding.figures[0]).toMatchObject({ value: 48, limit: 26 })
    expect(finding.fixes[0]!.label).toBe('Add 2 line expanders')
    expect(codesOf(mended(plan, 'lines.exceeded'))).not.toContain('lines.exceeded')
    expect(codesOf(mended(plan, 'lines.exceeded'))).not.toContain('address.clash')
  })

  it('of the header itself: no expander is offered, and who wants most is named', () => {
    const plan = planOf('forty-classic', { ...relays(14, 'distance-echo-5v') })
    const finding = found(plan, 'lines.exceeded')!
    expect(finding.fixes).toEqual([])
    expect(finding.sentence).toMatch(/r0 wants 2.*cannot lie on an expander/)
  })
})
