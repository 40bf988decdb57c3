/**
 * Pasted texts. The layout of the grid is that of i2c-tools' `i2cdetect` (Debian), of listings that of coreutils' `ls`.
 */
import { describe, expect, it } from 'vitest'
import { diagnose } from '../../../core/diagnosis/diagnose'
import { modelOf } from '../../../core/diagnosis/table'
import { readPasted } from '../../../core/diagnosis/pasted/paste'
import { gatherFacts } from '../../../core/facts/gather'
import { placedPlans } from '../../generated'
import { catalogue } from '../../plans'
import { demoPlans } from '../../../demo'

const beehive = modelOf(gatherFacts(demoPlans.find(({ parts }) => parts.some(({ id }) => id === 'porch'))!, catalogue))
const read = (text: string, bus: string | null = 'i2c1') => readPasted(text, beehive.table.probes, bus)

/** As i2cdetect prints it: `src/i2cdetect.c` of i2c-tools, which asks 0x08 to 0x77 (the source's own default). */
function grid(answers: readonly number[], held: readonly number[] = []): string {
  const hex = (value: number) => value.toString(16).padStart(2, '0')
  const cell = (address: number) => address < 8 || address > 0x77
    ? '   '
    : held.includes(address) ? 'UU ' : answers.includes(address) ? `${hex(address)} ` : '-- '
  const rows = Array.from({ length: 8 }, (_, row) => `${hex(row * 16)}: `
    + Array.from({ length: 16 }, (_, column) => cell(row * 16 + column)).join(''))
  return ['     0  1  2  3  4  5  6  7  8  9  a  b  c  d  e  f', ...rows].join('\n')
}

describe('whatever was copied', () => {
  it('several outputs in one text, prompts and all', () => {
    const { found, unread } = read([
      'maker@hive:~ $ i2cdetect -y 1', grid([0x3C, 0x76], [0x68]), 'maker@hive:~ $ ls -d /dev/rtc0', '/dev/rtc0',
      'maker@hive:~ $ ls /sys/bus/w1/devices/28-*', 'ls: cannot access \'/sys/bus/w1/devices/28-*\': No such '
      + 'file or directory',
      'maker@hive:~ $ cat /sys/class/thermal/thermal_zone0/temp', '51540', 'maker@hive:~ $ uptime', ' 10:02:11 up 3 min,  1 user',
    ].join('\n'))
    expect(found.map(entry =>
      entry.kind === 'seen' ? `${entry.probe} ${entry.outcome}` : `${entry.kind} ${entry.words}`)).toEqual([
      'scan:i2c1 answers at 0x3c, 0x68, 0x76', 'node:/dev/rtc0 it is there',
      'node:/sys/bus/w1/devices/28-* it is missing',
      'said The processor has 51.5 °C',
    ])
    expect(unread).toBe(1)
  })

  it('a whole listing of /dev says what is missing too', () => {
    const { found } = read('$ ls /dev\nautofs  fb0   i2c-1  null   serial0  ttyS0  zero\nconsole full  mem    random urandom')
    expect(found.flatMap(entry => entry.kind === 'seen' ? [[entry.probe, entry.outcome]] : [])).toEqual([
      ['node:/dev/serial0', 'it is there'], ['node:/dev/i2c-1', 'it is there'], ['node:/dev/rtc0', 'it is missing'],
    ])
    // "serial0" is not "serial01", and part of a word is no name.
    const others = read('$ ls /dev\nserial01 xserial0 null').found
    expect(others.map(entry => entry.kind === 'seen' && entry.outcome)).not.toContain('it is there')
  })

  it('a stuck bus, a refused scan, a bus that is not there, a grid cut off, another bus', () => {
    const all = Array.from({ length: 0x70 }, (_, i) => i + 8)
    expect(read(grid(all)).found).toMatchObject([{ outcome: 'every address answers: a line is held low' }])
    expect(read('$ i2cdetect -y 1\nError: Could not open file `/dev/i2c-1\': Permission denied').found)
      .toMatchObject([{ kind: 'refused' }])
    expect(read('$ i2cdetect -y 1\nError: Could not open file `/dev/i2c-1\' or `/dev/i2c/1\': No such file or directory').found)
      .toMatchObject([{ probe: 'scan:i2c1', outcome: 'there is no such bus' }])
    expect(read('30: -- 44 -- --').found).toMatchObject([{ kind: 'refused' }])
    expect(read(`$ sudo i2cdetect -y 5\n${grid([0x20])}`).found).toMatchObject([{ kind: 'said' }])
    expect(read('good morning\nit rains').found).toEqual([])
    expect(read('good morning\nit rains').unread).toBe(2)
    expect(read('').found).toEqual([])
  })

  it('the throttle word tells under-voltage apart from heat', () => {
    // memory: bits 0 and 16 are under-voltage, 2 and 18 slowed down
    expect(read('throttled=0x50005').found)
      .toMatchObject([{ probe: 'load', outcome: 'under-voltage, or it starts anew' }])
    expect(read('throttled=0x0').found).toMatchObject([{ probe: 'load', outcome: 'it runs on' }])
    expect(read('throttled=0x40000').found)
      .toMatchObject([{ outcome: 'it runs on', words: expect.stringContaining('slowed down since') }])
  })

  it('the last of two outputs counts', () => {
    expect(read(`$ i2cdetect -y 1\n${grid([])}\n$ i2cdetect -y 1\n${grid([0x76])}`).found)
      .toMatchObject([{ outcome: 'answers at 0x76' }])
  })

  it('what the model says of a fault on generated plans is read back from its printed grid, and explains it', () => {
    let count = 0
    for (const plan of placedPlans(30, 40, 6)) {
      const model = modelOf(gatherFacts(plan, catalogue))
      const { table } = model
      for (const [column, { id }] of table.probes.entries()) {
        if (!id.startsWith('scan:i2c')) continue
        for (const [row, seen] of table.seen.entries()) {
          const outcome = seen[column]!
          if (outcome === table.planned[column] || !/answers at|nothing answers/.test(outcome) || row % 5) continue
          const addresses = [...outcome.matchAll(/0x([0-9a-f]{2})/g)].map(match => Number.parseInt(match[1]!, 16))
          const text = `$ i2cdetect -y ${id.slice('scan:i2c'.length)}\n${grid(addresses)}`
          const { found } = readPasted(text, table.probes, null)
          expect(found).toMatchObject([{ probe: id, outcome }])
          const marks = found.flatMap(entry =>
            entry.kind === 'seen' ? [{ probe: entry.probe, outcome: entry.outcome }] : [])
          expect(diagnose(model, marks).candidates.some(({ faults }) => faults.includes(table.faults[row]!))).toBe(true)
          count++
        }
      }
    }
    expect(count).toBeGreaterThan(20)
  })
})
