/**
 * Shapes of projects that have to come out right, in the form that the rules have today. Each is told in general;
 * what is expected is common practice of the trade unless a source stands beside it.
 */
import { describe, expect, it } from 'vitest'
import { evaluate } from '../../../core/evaluate'
import { placePlan } from '../../../core/placement/place'
import { applyEdit } from '../../../core/plan/edits'
import type { Plan } from '../../../core/plan/types'
import { faultsOf, refOf } from '../../checker'
import { catalogue, codesOf, findingsOf, fixedAt, planOf } from '../../plans'

/** The plan as a maker has it after pressing "Place the rest". */
const placed = (plan: Plan): Plan => {
  const result = placePlan(plan, catalogue, { scope: 'rest' })
  if (!result.ok) throw new Error(result.sentence)
  return { ...plan, assignments: { ...plan.assignments, ...result.assignments } }
}
/** With everything written into the boot file that the plan needs. */
const booted = (plan: Plan): Plan => ({ ...plan, boot: { ...plan.boot, text: evaluate(plan, catalogue).boot.text } })
const positionOf = (plan: Plan, terminal: string) => plan.assignments[terminal]?.position
const grave = (plan: Plan) =>
  findingsOf(plan).filter(finding => finding.severity !== 'note').map(finding => finding.code)

describe('serial to a 5 V microcontroller', () => {
  const link = placed(planOf('forty-classic', { mcu: 'controller-5v-serial' }, { supply: { type: 'adapter-5v-2a4' } }))

  it('crosses transmit and receive on positions 10 and 8', () => {
    expect(positionOf(link, 'mcu.tx')).toBe(10)
    expect(positionOf(link, 'mcu.rx')).toBe(8)
  })

  it('stops 5 V at the receive, offers a worked divider first, and is clear once it is in', () => {
    expect(grave(link)).toContain('level.too-high')
    const [divider] = findingsOf(link).find(finding => finding.code === 'level.too-high')!.fixes
    expect(divider!.label).toBe('Divider 1.8 kΩ over 3.3 kΩ (3.24 V)')
    const mended = booted(applyEdit(link, { edit: 'all', edits: divider!.edits }).plan)
    expect(grave(mended)).toEqual([])
    expect(evaluate(mended, catalogue).wires.find(wire => wire.terminal === 'mcu.tx')!.through).toContain('Divider')
  })

  it('needs the port switched on and the console off it', () => {
    const report = evaluate(link, catalogue)
    expect(report.boot.needs.map(need => need.line)).toContain('enable_uart=1')
    expect(codesOf({ ...link, boot: { text: '', commandLine: 'console=ttyS0,115200 rootwait' } }))
      .toContain('serial.console')
    expect(codesOf({ ...link,
      boot: { text: '', commandLine: 'console=tty1 rootwait' } })).not.toContain('serial.console')
  })
})

describe('15 W against 27 W', () => {
  const kiosk = (supply: string) => planOf(
    'forty-usb-c', { panel: 'panel-video-7', strip: ['strip-addressable', { pixels: '24' }] },
    { supply: { type: supply } },
  )

  it('the small one is too small for a panel and a strip at full white, the large one is not', () => {
    expect(codesOf(kiosk('adapter-5v-3a'))).toContain('supply.too-small')
    expect(codesOf(kiosk('adapter-5v-5a')).filter(code => code.startsWith('supply'))).toEqual([])
  })
})

describe('a board fed from a port inside a computer', () => {
  it('is asked for more than the port gives', () => {
    // published: USB 2.0 §7.2, 500 mA
    const finding = findingsOf(planOf(
      'forty-classic', { screen: 'screen-spi-24' }, { supply: { type: 'internal-usb-500' } },
    )).find(entry => entry.code === 'supply.too-small')
    expect(finding).toMatchObject({ severity: 'stop' })
    expect(finding!.figures[0]).toMatchObject({ limit: 500, origin: 'published: USB 2.0 §7.2.1' })
  })
})

describe('relays from lines that the software dictates', () => {
  const lines = { 26: 37, 20: 38, 21: 40 } as const
  const plan = placed(planOf('forty-classic', { r: 'relay-board-4' }, {
    assignments: fixedAt({ 'r.in1': lines[26], 'r.in2': lines[20], 'r.in3': lines[21], 'r.in4': 29 }),
  }))

  it('keeps the lines where the software wants them, and says which pull in while the board starts', () => {
    expect(['r.in1', 'r.in2', 'r.in3'].map(terminal => positionOf(plan, terminal))).toEqual([37, 38, 40])
    expect(findingsOf(plan).filter(finding => finding.code === 'start.moves')
      .map(finding => finding.subjects[0]!.terminal)).toEqual(['r.in1', 'r.in2', 'r.in3'])
  })

  it('gives a ground close by, and a supply', () => {
    expect([34, 39]).toContain(positionOf(plan, 'r.gnd'))
    expect([2, 4]).toContain(positionOf(plan, 'r.vcc'))
  })
})

describe('an audio board with a screen and buttons', () => {
  const board = planOf('forty-classic', { voice: 'audio-add-on', screen: 'screen-spi-24' })

  it('keeps everything else off what the add-on board claims', () => {
    const plan = placed(board)
    const claimed = new Set(catalogue.parts.get('audio-add-on')!.signals.map(signal => signal.claimsPosition))
    for (const terminal of ['sclk', 'mosi', 'select', 'dc', 'reset', 'light']) {
      expect(claimed.has(positionOf(plan, `screen.${terminal}`))).toBe(false)
    }
    expect(evaluate(plan, catalogue).boot.needs.map(need => need.line)).toEqual(expect.arrayContaining([
      'dtoverlay=wm8960-soundcard', 'dtparam=i2c_arm=on', 'dtparam=spi=on',
    ]))
  })

  it('finds an example\'s wrong number as soon as it is entered: the backlight on the sound clock', () => {
    const wrong = { ...board, assignments: fixedAt({ 'screen.light': 12 }) }
    const finding = findingsOf(wrong).find(entry => entry.code === 'position.claimed-twice')!
    expect(finding.sentence).toContain('voice BCLK and screen LED want position 12')
    expect(placePlan(wrong, catalogue, { scope: 'rest' }))
      .toMatchObject({ ok: false, sentence: expect.stringContaining('screen LED') })
  })

  it('two of them cannot sit on one header', () => {
    expect(placePlan(planOf('forty-classic', { a: 'audio-add-on', b: 'audio-add-on' }), catalogue,
      { scope: 'rest' }).ok).toBe(false)
  })
})

describe('an I²C sensor', () => {
  it('takes four positions at the corner, and one of two addresses', () => {
    const plan = placed(planOf('forty-classic', { air: 'pressure-humidity-i2c' }))
    expect(['air.vcc', 'air.sda', 'air.scl', 'air.gnd'].map(terminal => positionOf(plan, terminal)))
      .toEqual([1, 3, 5, 6])
    // practice: a common pressure-humidity sensor answers at 0x76 or 0x77
    expect(evaluate(plan, catalogue).expected.addresses.map(entry => entry.address)).toEqual([0x76])
    const strapped = applyEdit(plan, { edit: 'set-option', id: 'air', option: 'address', value: '0x77' }).plan
    expect(evaluate(strapped, catalogue).expected.addresses.map(entry => entry.address)).toEqual([0x77])
    expect(evaluate(plan, catalogue).expected.scans)
      .toEqual([{ busId: 'i2c1', label: 'I²C 1', command: 'i2cdetect -y 1' }])
  })
})

describe('a receiver stack', () => {
  it('uses the second full port of the board that has one, and says so where there is none', () => {
    const stack = { receiver: 'positioning-serial', modem: 'modem-serial' } as const
    const plan = placed(planOf('forty-usb-c', stack))
    const report = evaluate(plan, catalogue)
    expect(report.buses.filter(bus => bus.kind === 'serial')).toHaveLength(2)
    expect(report.boot.needs.some(need => /^dtoverlay=uart[2-5]$/.test(need.line))).toBe(true)
    expect(placePlan(planOf('forty-classic', stack), catalogue, { scope: 'rest' })).toMatchObject({
      ok: false, conflict: [{ label: 'receiver: serial' }, { label: 'modem: serial' }],
    })
  })
})

describe('a status screen and a fan', () => {
  const plan = booted(placed(planOf(
    'forty-classic', { screen: 'screen-spi-24', fan: 'fan-5v' },
    { supply: { type: 'adapter-5v-2a4' }, between: { 'fan.drive': { kind: 'mosfet' } } },
  )))

  it('is clear once placed and written, with its overlay naming the lines it was given', () => {
    expect(grave(plan)).toEqual([])
    const line = (terminal: string) =>
      catalogue.boards.get('forty-classic')!.header.find(entry => entry.position === positionOf(plan, terminal))!.line
    expect(plan.boot!.text).toContain(`reset-gpio=${line('screen.reset')},dc-gpio=${line('screen.dc')}`)
    expect(plan.boot!.text).toContain(`dtoverlay=gpio-fan,gpiopin=${line('fan.drive')},temp=60000`)
  })

  it('follows when a line is moved by hand: the old overlay no longer counts', () => {
    const moved = applyEdit(plan, { edit: 'assign', terminal: 'fan.drive', to: { position: 40, fixed: true } }).plan
    expect(codesOf(moved)).toContain('overlay.missing')
    expect(booted(moved).boot!.text).toContain('gpiopin=21')
    expect(booted(moved).boot!.text.match(/^dtoverlay=gpio-fan/gm)).toHaveLength(1)
  })
})

describe('select lines', () => {
  it('three SPI parts get three selects, on two buses where one has only two', () => {
    const plan = placed(planOf('forty-classic', { a: 'card-reader-spi', b: 'card-reader-spi', c: 'card-reader-spi' }))
    expect(faultsOf(plan, Object.fromEntries(Object.entries(plan.assignments).map(([key, to]) => [key, refOf(to)]))))
      .toEqual([])
    expect(evaluate(plan, catalogue).buses.filter(bus => bus.kind === 'spi').map(bus => bus.partIds.length).sort())
      .toEqual([1, 2])
    expect(new Set(['a', 'b', 'c'].map(id => positionOf(plan, `${id}.select`))).size).toBe(3)
  })

  it('a plain line on the second select asks for the overlay that lets it go', () => {
    const plan = placed(planOf('forty-classic', { a: 'card-reader-spi', f: 'fan-5v' },
      { assignments: fixedAt({ 'f.drive': 26 }) }))
    expect(evaluate(plan, catalogue).boot.needs.map(need => need.line)).toContain('dtoverlay=spi0-1cs')
  })
})
