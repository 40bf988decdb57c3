/**
 * Shapes of projects rebuilt by hand, with what an expert hears about each before wiring. Each is told in general; what
 * is expected is common practice of the trade unless a source stands beside it.
 */
import { describe, expect, it } from 'vitest'
import { evaluate } from '../../../core/evaluate'
import { placementEdits, placePlan } from '../../../core/placement/place'
import { applyEdit } from '../../../core/plan/edits'
import type { Plan } from '../../../core/plan/types'
import { catalogue, codesOf, findingsOf, fixedAt, planOf } from '../../plans'

const placed = (plan: Plan): Plan => {
  const result = placePlan(plan, catalogue, { scope: 'rest' })
  if (!result.ok) throw new Error(result.sentence)
  return applyEdit(plan, { edit: 'all', edits: placementEdits(plan, result) }).plan
}
const stops = (plan: Plan) =>
  findingsOf(plan).filter(finding => finding.severity === 'stop').map(finding => finding.code)
const find = (plan: Plan, code: string) => findingsOf(plan).find(finding => finding.code === code)
const mend = (plan: Plan, code: string,
  which = 0) => applyEdit(plan, { edit: 'all', edits: find(plan, code)!.fixes[which]!.edits }).plan
const lineAt = (board: string,
  position: number) => catalogue.boards.get(board)!.header.find(entry => entry.position === position)!.line

describe('serial to a microcontroller', () => {
  const header = placed(planOf(
    'forty-classic', { m: ['controller-5v-serial', { baud: '115200' }] },
    { boot: { text: '', commandLine: 'console=serial0,115200 root=x' } },
  ))

  it('by the header: 5 V and the console are stops, both ends\' rates are compared, and all of it can be mended',
    () => {
      expect(stops(header).sort()).toEqual(['level.too-high', 'serial.console'])
      expect(find(header, 'serial.rate-apart')!.sentence).toContain('+2.12 %')
      const mended = ['level.too-high', 'serial.console', 'serial.rate-apart'].reduce((plan, code) => mend(plan, code),
        header)
      expect(stops(mended)).toEqual([])
      expect(codesOf(mended)).not.toContain('serial.rate-apart')
    })

  it('by USB: no level problem, and a device node to look for', () => {
    const usb = planOf('forty-classic', { m: ['controller-5v-serial', { link: 'usb' }] })
    expect(stops(usb)).toEqual([])
    expect(evaluate(usb, catalogue).expected.nodes.map(node => node.path)).toEqual(['/dev/ttyACM0'])
  })
})

describe('a ribbon to a breadboard', () => {
  it('passes everything through, goes on top, and tells of stripe, labels and bent pins', () => {
    const plan = placed(planOf('forty-classic', { ribbon: 'ribbon-breakout-40', s: 'humidity-i2c' }))
    expect(codesOf(plan).filter(code => code.startsWith('stack'))).toEqual([])
    expect(catalogue.parts.get('ribbon-breakout-40')!.cautions!.join(' ')).toMatch(/stripe.*labels.*bent pins/is)
    expect(find(
      planOf('forty-classic', { ribbon: 'ribbon-breakout-40', r: 'relay-add-on-3' }), 'stack.order',
    )!.fixes[0]!.edits).toEqual([{ edit: 'set-stack', stack: ['r', 'ribbon'] }])
  })
})

describe('relays from line numbers', () => {
  // The software dictates lines 26, 20, 21, 16, 19 and 13.
  const lines = [26, 20, 21, 16, 19, 13]
  const header = catalogue.boards.get('forty-classic')!.header
  const positions = lines.map(line => header.find(entry => entry.line === line)!.position)
  const plan = placed(planOf('forty-classic', { a: 'relay-board-4', b: 'relay-bare', c: 'relay-bare' }, {
    assignments: fixedAt({
      'a.in1': positions[0]!, 'a.in2': positions[1]!, 'a.in3': positions[2]!, 'a.in4': positions[3]!,
      'b.coil': positions[4]!,
      'c.coil': positions[5]!,
    }),
    parts: [
      {
        id: 'a', type: 'relay-board-4', name: 'a',
        loads: [
          { contact: 1, what: 'Pump', kind: 'DC', voltageV: 48, currentA: 2 },
          { contact: 2, what: 'Lamp', kind: 'AC', voltageV: 230, currentA: 0.5 },
        ],
      },
      { id: 'b', type: 'relay-bare', name: 'b' }, { id: 'c', type: 'relay-bare', name: 'c' },
    ],
  }))

  it('lines become positions and back, each keeping its number', () => {
    expect(positions).toEqual([37, 38, 40, 36, 35, 33])
    expect(positions.map(position => lineAt('forty-classic', position))).toEqual(lines)
    for (const [i, key] of ['a.in1', 'a.in2', 'a.in3', 'a.in4', 'b.coil', 'c.coil'].entries()) {
      expect(plan.assignments[key]!.position).toBe(positions[i])
    }
  })

  it('bare coils want a stage, contacts past their DC rating stop, mains is for an electrician', () => {
    expect(stops(plan)).toEqual(expect.arrayContaining(['line.driven-straight', 'contact.over-rating']))
    expect(find(plan, 'contact.mains')!.sentence).toContain('licensed electrician')
    expect(stops(mend(
      mend(plan, 'line.driven-straight'), 'line.driven-straight', 1,
    )).filter(code => code === 'line.driven-straight')).toEqual([])
  })

  it('every relay of the low-level board pulls in while the board starts, and is told of', () => {
    expect(findingsOf(plan).filter(finding => finding.code === 'start.moves')
      .map(finding => finding.subjects[0]!.terminal)).toEqual(['a.in1', 'a.in2', 'a.in3', 'a.in4'])
  })

  it('gets a ground close by and a supply at the end that is easy to find', () => {
    expect([34, 39, 30]).toContain(plan.assignments['a.gnd']!.position)
    expect([2, 4]).toContain(plan.assignments['a.vcc']!.position)
  })
})

describe('an audio board with screen and buttons', () => {
  it('a wrong documented number is found as soon as both functions are entered', () => {
    // One board, one position, two functions: the backlight sits on the mute line.
    const wrong = planOf(
      'forty-classic', { sound: 'audio-dac-add-on', screen: 'screen-spi-24' },
      { assignments: fixedAt({ 'screen.light': 15 }) },
    )
    expect(find(wrong, 'position.claimed-twice')!.sentence).toContain('sound MUTE and screen LED want position 15')
    const mended = placed(mend(wrong, 'position.claimed-twice'))
    expect(stops(mended)).toEqual([])
    expect(mended.assignments['screen.light']!.position).not.toBe(15)
  })

  it('a board whose own file has it wrong is found too, and cannot be released', () => {
    const board = structuredClone(catalogue.parts.get('audio-dac-add-on')!)
    const faulty = {
      ...board, id: 'own-sound',
      signals: [...board.signals,
        { ...board.signals.find(signal => signal.id === 'mute')!, id: 'light', label: 'BACKLIGHT' }],
    }
    const finding = find(planOf('forty-classic', { s: 'own-sound' }, { own: { boards: [], parts: [faulty] } }),
      'position.claimed-twice')!
    expect(finding).toMatchObject({ severity: 'stop', subjects: [{ position: 15 }, { position: 15 }], fixes: [] })
  })
})

describe('a receiver stack', () => {
  const stack = planOf(
    'early-26', { s: 'sensor-add-on-10', a: 'modem-wide-stick', b: 'receiver-wide-stick', p: 'positioning-serial',
      f: 'fan-5v' },
    { supply: { type: 'power-bank-12ah' }, between: { 'f.drive': { kind: 'mosfet' } } },
  )

  it('the sensor board holds the end, the fan and the module stay off it, and the sticks go one above the other',
    () => {
      const plan = placed(stack)
      // One pair of sockets, one above the other: by their sizes the sticks go in so, and beside each other they
      // would not.
      expect(find(plan, 'sockets.stacked')?.sentence)
        .toContain('Put a into USB socket 1, lower, b into USB socket 2, upper')
      expect(stops(plan).filter(code =>
        !code.startsWith('supply') && !code.startsWith('rail') && !code.startsWith('path'))).toEqual([])
      // memory: the early board's input fuse holds 1.1 A, and the sticks with the rest ask for more
      expect(find(plan, 'path.over-rating')).toMatchObject({ severity: 'stop', subjects: [{ node: '@socket' }, {}] })
      for (const key of ['f.drive',
        'p.pps']) if (plan.assignments[key]) expect([1, 3, 5, 9]).not.toContain(plan.assignments[key].position)
      // The serial port lies under the sensor board: a header with long pins brings it out again.
      expect(plan.parts.find(part => part.id === 's')!.options).toMatchObject({ header: 'long' })
      expect(find(plan, 'stack.covers')).toBeUndefined()
      expect(evaluate(plan, catalogue).partsList.map(item => item.what)).toContain('Header with long pins')
    })

  it('the early board\'s 3V3 gives too little for the module, and the battery\'s hours are known', () => {
    expect(find(placed(stack), 'rail.over-budget')!.figures[0]).toMatchObject({ limit: 50, origin: 'memory' })
    expect(evaluate(placed(stack), catalogue).power.hours).toBeGreaterThan(3)
  })
})

describe('an I²C sensor', () => {
  it('four positions at the corner, one of two addresses, and a strap that answers is offered', () => {
    const plan = placed(planOf('forty-io-bridge', { air: 'pressure-humidity-i2c' }))
    expect(['vcc', 'sda', 'scl', 'gnd'].map(id => plan.assignments[`air.${id}`]!.position)).toEqual([1, 3, 5, 6])
    const scanned = { ...plan,
      scans: [{ id: '1', bus: 'i2c1', takenAt: '2026-01-01T00:00:00Z', text: '70: -- -- -- -- -- -- -- 77' }] }
    // practice: a common pressure-humidity sensor answers at 0x76 or 0x77
    expect(codesOf(mend(scanned, 'scan.missing'))).not.toContain('scan.missing')
  })

  it('swapped wires are found by name', () => {
    expect(find(
      planOf('forty-classic', { a: 'humidity-i2c' }, { assignments: fixedAt({ 'a.sda': 5, 'a.scl': 3 }) }),
      'function.unavailable',
    )!.sentence).toContain('look swapped')
  })
})

describe('an old keyboard with new insides', () => {
  const plan = placed(planOf(
    'forty-classic', { keys: ['keypad-matrix', { rows: '8', columns: '8' }], stick: 'joystick-contacts',
      latch: 'power-latch' },
  ))

  it('places all sixteen rows and columns, the joystick and the latch on twenty-six lines', () => {
    expect(Object.keys(plan.assignments).filter(key => key.startsWith('keys.'))).toHaveLength(16)
    expect(stops(plan)).toEqual([])
  })

  it('keeps the latch off lines that would let go of the power while the board starts', () => {
    const position = plan.assignments['latch.hold']!.position!
    const line = catalogue.boards.get('forty-classic')!.lines.find(entry =>
      entry.line === lineAt('forty-classic', position))!
    expect(line.resetPull).toBe('down')
    expect(line.startNoise).toBeUndefined()
    expect(codesOf(plan).filter(code => code.startsWith('start.') || code.startsWith('pull.'))).toEqual([])
  })

  it('tells of ghosts and scan time, and the overlay of the latch names its lines', () => {
    expect(find(plan, 'keys.ghosts')!.figures[0]).toMatchObject({ value: 2, limit: 64 })
    expect(evaluate(plan, catalogue).signals.keys[0]).toMatchObject({ rows: 8, columns: 8, lines: 16 })
    expect(evaluate(plan, catalogue).boot.needs.map(need =>
      need.line)).toContain(
      `dtoverlay=gpio-poweroff,gpiopin=${lineAt('forty-classic', plan.assignments['latch.hold']!.position!)},active_low`,
    )
  })
})
