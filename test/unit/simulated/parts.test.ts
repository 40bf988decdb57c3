/** What the parts of the simulated board say and measure, held against published figures named beside each. */
import { describe, expect, it } from 'vitest'
import { wireSum } from '../../../core/simulated/files'
import { Machine } from '../../../core/simulated/machine'
import { messagesOf } from '../../../core/simulated/messages'
import { partSetting, portsOf, read, write } from '../../../core/simulated/ports'
import { registersOf, talkerOf } from '../../../core/catalogue/chips'
import { pressureHpa, quantityAt, USUAL } from '../../../core/simulated/surroundings'
import type { Change } from '../../../core/diagnosis/types'
import { gatherFacts } from '../../../core/facts/gather'
import { demoPlans } from '../../../demo'
import { catalogue, planOf } from '../../plans'

const text = (bytes: readonly number[]) => String.fromCharCode(...bytes)
const hive = (changes: Change[] = []) => new Machine(gatherFacts(demoPlans[0]!, catalogue), { changes })

describe('surroundings', () => {
  it.each([[0, 1013.25], [500, 954.61], [1000, 898.75], [2000, 794.95], [5000, 540.2]])(
    'at %d m the air presses with %d hPa (published: ISO 2533, table of the standard atmosphere)',
    (height, pressure) => {
      expect(Math.abs(pressureHpa(height) - pressure)).toBeLessThan(0.1)
    })

  it('breath rises within seconds, fades, and never leaves what can be', () => {
    const at = (nowS: number) => quantityAt('humidity', USUAL, [{ what: 'breath', atS: 10 }], nowS)
    expect([at(0), at(10)]).toEqual([USUAL.humidity, USUAL.humidity])
    expect(at(13)).toBeGreaterThan(75)
    expect(at(200)).toBeCloseTo(USUAL.humidity, 1)
    for (let second = 0; second < 120; second++) {
      expect(at(second)).toBeGreaterThanOrEqual(USUAL.humidity)
      expect(at(second)).toBeLessThanOrEqual(100)
    }
    const dry = { ...USUAL, humidity: 99 }
    expect(quantityAt('humidity', dry, [{ what: 'breath', atS: 0 }], 3)).toBe(99)
  })

  it('warmth is felt in degrees, and by nothing else', () => {
    const warm = [{ what: 'warmth' as const, atS: 0 }]
    expect(quantityAt('temperature', USUAL, warm, 15)).toBeGreaterThan(USUAL.airC + 5)
    for (const what of ['humidity', 'pressure', 'light', 'distance', 'weight', 'voltage', 'carbon-dioxide'] as const) {
      expect(quantityAt(what, USUAL, warm, 15)).toBe(quantityAt(what, USUAL, [], 15))
    }
  })
})

describe('talkers', () => {
  it('a position has the sum that its standard asks for', () => {
    // Published: NMEA 0183: all characters between $ and * exclusive-ored; its well-known example ends in *47.
    const sum = (sentence: string) => [...sentence].reduce((all, sign) => all ^ sign.charCodeAt(0),
      0).toString(16).toUpperCase().padStart(2, '0')
    expect(sum('GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,')).toBe('47')
    const [, body, end] = /^\$(.*)\*([0-9A-F]{2})\r\n$/.exec(talkerOf('positioning-serial').says!(3661))!
    expect(body).toContain('010101.00')
    expect(end).toBe(sum(body!))
  })

  it('a modem answers as its standard asks, with an error for what it does not know', () => {
    const ask = talkerOf('modem-serial').answers!
    expect(ask('at')).toBe('\r\nOK\r\n')
    expect(ask('AT+CSQ')).toMatch(/^\r\n\+CSQ: \d+,99\r\n\r\nOK\r\n$/)
    expect([ask('AT+NOPE'), ask('  ')]).toEqual(['\r\nERROR\r\n', null])
  })

  it('a part whose words are not known is silent', () => {
    expect(talkerOf('dust-serial')).toEqual({})
  })
})

describe('ports', () => {
  const answered = (machine: Machine, baud = 115_200) => {
    const port = portsOf(machine.bench).get('/dev/serial0')!
    port.setting = { ...port.setting, baud }
    write(port, 'AT\n', machine.bench, machine.world, false)
    return text(read(port))
  }

  it('bring an answer at the part\'s own rate', () => {
    expect(partSetting(hive().facts.parts.find(({ id }) => id === 'modem')!, hive().world))
      .toEqual({ baud: 115_200, bits: 8, parity: 'N',
        stop: 1 })
    expect(answered(hive())).toBe('\r\nOK\r\n')
  })

  it('bring no answer with one wire off, with two exchanged, or from a part that is broken', () => {
    const conductor = (terminal: string) =>
      hive().bench.shop.netlist.conductors.find(entry => entry.terminal === terminal)!.id
    const [tx, rx] = [conductor('modem.tx'), conductor('modem.rx')]
    const none: Change[][] = [
      [{ change: 'open', conductor: tx, way: 0 }], [{ change: 'open', conductor: rx, way: 0 }],
      [{ change: 'swap', conductors: [tx, rx] }],
      [{ change: 'dead', partId: 'modem' }],
    ]
    for (const changes of none) expect(answered(hive(changes))).toBe('')
  })

  it('bring something else where rates differ, and an error where the console talks in between', () => {
    expect(answered(hive([{ change: 'flag', flag: 'rate', partId: 'modem' }]))).not.toContain('OK')
    expect(answered(hive([{ change: 'flag', flag: 'console', partId: 'modem' }]))).toContain('ERROR')
  })

  it('give back what is sent while their two positions are joined, whatever hangs there', () => {
    const machine = hive([{ change: 'dead', partId: 'modem' }])
    const port = portsOf(machine.bench).get('/dev/serial0')!
    write(port, 'round\n', machine.bench, machine.world, true)
    expect([text(read(port)), text(read(port))]).toEqual(['round\n', ''])
  })
})

describe('registers and sums', () => {
  it('the sum of the 1-Wire is that of its published example', () => {
    // Published: Maxim application note 27, the ROM 02 1C B8 01 00 00 00 has the sum A2.
    expect(wireSum([0x02, 0x1C, 0xB8, 0x01, 0x00, 0x00, 0x00])).toBe(0xA2)
    expect(wireSum([])).toBe(0)
  })

  it('a clock counts in decimal digits, its thermometer in quarters of a degree', () => {
    const now = new Date('2026-12-31T23:59:58.000Z')
    const at = (register: number) =>
      registersOf('clock-cell-i2c')!.at(register, { of: () => 25.25, now, written: () => undefined })
    expect([0, 1, 2, 4, 5, 6].map(at)).toEqual([0x58, 0x59, 0x23, 0x31, 0x12, 0x26])
    expect([at(0x11), at(0x12)]).toEqual([25, 0x40])
  })

  it('a converter gives its volts in steps, and stops at its ends', () => {
    const at = (volts: number) =>
      registersOf('analog-4-i2c')!.at(0, { of: () => volts, now: new Date(), written: () => undefined })
    expect([at(0), at(1.024), at(9), at(-1)]).toEqual([0, 0x4000, 0x7FFF, 0])
  })

  it('every part whose registers are known is one of the catalogue, and is on I²C', () => {
    for (const [type, part] of catalogue.parts) if (registersOf(type)) expect(part.i2c, type).toBeDefined()
  })
})

describe('messages', () => {
  it('come in their order, and name what did not answer', () => {
    const well = messagesOf(hive())
    expect(well.map(({ atS }) => atS)).toEqual([...well.map(({ atS }) => atS)].sort((a, b) => a - b))
    expect(well.some(({ level }) => level === 'err')).toBe(false)
    const broken = messagesOf(hive([{ change: 'dead', partId: 'clock' }]))
    expect(broken.filter(({ level }) => level === 'err').map(({ text: words }) => words))
      .toEqual([expect.stringMatching(/1-0068: .*-121/)])
  })

  it('tell of a plug that was pulled and of one that was put in', () => {
    const machine = new Machine(gatherFacts(
      planOf('forty-usb-c', { stick: ['controller-5v-serial', { link: 'usb' }] },
        { supply: { type: 'adapter-5v-3a' } }), catalogue))
    const stick = machine.facts.parts[0]!
    machine.pass(60)
    machine.plug(stick, false)
    expect(messagesOf(machine).at(-1)!.text).toMatch(/^usb 1-1\.1: USB disconnect/)
    machine.plug(stick, true)
    expect(messagesOf(machine).at(-1)!.text).toContain('ttyACM0')
  })
})
