import { describe, expect, it } from 'vitest'
import { celsiusOf, hectopascalOf, humidityOf, trimmedRegister } from '../../../core/catalogue/families/trimmed-air'
import { LineRequest } from '../../../core/simulated/line-request'
import { Machine } from '../../../core/simulated/machine'
import { converse } from '../../../core/simulated/buses'
import { wordSum } from '../../../core/catalogue/families/registers'
import { benchOf } from '../../../core/diagnosis/table'
import { smallProgramsOf } from '../../../core/first-programs'
import { reachedParts } from '../../../core/first-programs/access'
import { gatherFacts } from '../../../core/facts/gather'
import { programAgainst } from '../../../core/programs'
import type { Part } from '../../../core/catalogue/types'
import type { Plan } from '../../../core/plan/types'
import { demoPlans } from '../../../demo'
import { placedPlans } from '../../generated'
import { catalogue, fixedAt, planOf } from '../../plans'

const plans = [...demoPlans, ...placedPlans(12, 4100, 10)]

describe('small programs', () => {
  it('every part has programs or a reason, and every file a name of its own', () => {
    for (const plan of plans) {
      const bench = benchOf(gatherFacts(plan, catalogue))
      const { programs, without } = smallProgramsOf(bench)
      const files = programs.map(({ file }) => file)
      expect(new Set(files).size).toBe(files.length)
      for (const { owner } of reachedParts(bench)) {
        const has = programs.some(({ partId }) => partId === owner.id)
        const reason = without.find(({ partId }) => partId === owner.id)
        expect([owner.part.id, has !== (reason !== undefined)]).toEqual([owner.part.id, true])
        if (reason) expect(reason.why).toMatch(/\.$/)
      }
      for (const { text, start, see } of programs) {
        expect(text).not.toMatch(/undefined|NaN|\[object/)
        expect(start.length && see.length).toBeGreaterThan(0)
      }
    }
  })

  it('what they have of lines, addresses, rates and nodes is what the plan says: read back, nothing contradicts',
    () => {
      let agreed = 0
      for (const plan of plans) {
        const facts = gatherFacts(plan, catalogue)
        for (const { file, text, language } of smallProgramsOf(benchOf(facts)).programs) {
          if (language === 'cpp' || language === 'micropython') continue
          const { held, counts } = programAgainst(text, { name: file, numbering: 'line' }, facts)
          expect([file, held.filter(({ verdict }) => verdict === 'contradicts')]).toEqual([file, []])
          agreed += counts.agrees
        }
      }
      expect(agreed).toBeGreaterThan(50)
    })

  it('a rate that ports have no name for has a reason, and no program', () => {
    const [hive] = demoPlans as [Plan]
    const modem = catalogue.parts.get('modem-serial')!
    const odd = { ...modem, id: 'own-odd',
      serial: { ...modem.serial!, baud: 31_250, baudOption: undefined } } as unknown as Part
    const plan = { ...hive, own: { ...hive.own, parts: [odd] }, parts: hive.parts.map(part => part.id === 'modem'
      ? { ...part, type: 'own-odd' }
      : part) }
    const { without } = smallProgramsOf(benchOf(gatherFacts(plan, catalogue)))
    expect(without.find(({ partId }) => partId === 'modem')?.why).toContain('31250')
  })

  it('a line that a driver has is set by no program, nor one that cuts the power', () => {
    for (const plan of plans) {
      const bench = benchOf(gatherFacts(plan, catalogue))
      const taken = new Set(bench.shop.healthy.rehearsal.claims.filter(({ as, clash }) => as !== 'pins' && !clash)
        .map(({ line }) => line))
      for (const { owner, reached } of reachedParts(bench)) {
        if (reached.by === 'out') for (const { line } of reached.lines) {
          expect([owner.part.id, taken.has(line)]).toEqual([owner.part.id, false])
        }
        if (owner.part.id === 'power-latch') expect(reached.by).toBe('nothing')
      }
    }
  })

  it('a relay that pulls in when its line is low rests high', () => {
    const plan = planOf('forty-classic', { r: 'relay-board-4' },
      { assignments: fixedAt({ 'r.vcc': 2, 'r.gnd': 6, 'r.in1': 11 }) })
    const [found] = reachedParts(benchOf(gatherFacts(plan, catalogue)))
    expect(found?.reached).toMatchObject({ by: 'out', lines: [{ line: 17, where: 'position 11', rest: 1 }] })
  })
})

describe('a pressure sensor from within', () => {
  it('turns the raw figures of its sheet into the air of its sheet', () => {
    // Published: Bosch Sensortec, data sheet BMP280, BST-BMP280-DS001, §3.12: 25.08 °C, 100653.27 Pa.
    expect(celsiusOf(519888)).toBeCloseTo(25.08, 2)
    expect(hectopascalOf(415148, 519888)).toBeCloseTo(1006.5327, 2)
  })

  it('has raw figures for any air', () => {
    for (const celsius of [-20, 0, 21,
      60]) for (const hectopascal of [500, 998.9, 1080]) for (const humidity of [5, 45, 95]) {
      const byte = (register: number) => trimmedRegister(register, { celsius, hectopascal, humidity }, true, true)
      const raw = (first: number) => byte(first) << 12 | byte(first + 1) << 4 | byte(first + 2) >> 4
      expect(celsiusOf(raw(0xFA))).toBeCloseTo(celsius, 2)
      expect(hectopascalOf(raw(0xF7), raw(0xFA))).toBeCloseTo(hectopascal, 1)
      expect(humidityOf(byte(0xFD) << 8 | byte(0xFE), raw(0xFA))).toBeCloseTo(humidity, 1)
    }
  })

  it('says nothing of the air before it is told to measure', () => {
    expect(trimmedRegister(0xF7, { celsius: 21, hectopascal: 1000, humidity: 40 }, false, true)).toBe(0x80)
  })
})

describe('what programs ask of the kernel', () => {
  const places = { 'r.vcc': 2, 'r.gnd': 6, 'r.in1': 11, 'b.b': 13, 'b.gnd': 14 }
  const relay = () => new Machine(gatherFacts(
    planOf('forty-classic', { r: 'relay-board-1', b: 'button-1' }, { assignments: fixedAt(places) }), catalogue))

  it('refuses a line that the chip has not, and one that a driver has', () => {
    expect(LineRequest.of(relay(), [99], {})).toBe('EINVAL')
    const hive = new Machine(gatherFacts(demoPlans[0]!, catalogue))
    const fan = hive.rehearsal.claims.find(({ as, line }) => as === 'gpio' && line !== null)!.line!
    expect(LineRequest.of(hive, [fan], { output: true })).toBe('EBUSY')
  })

  it('tells an edge when a key is pressed, at its time, and none when nobody does', () => {
    const machine = relay()
    const asked = LineRequest.of(machine, [27], { edges: true, bias: 'up' }) as LineRequest
    const start = machine.nowS
    machine.later(start + 2, () => machine.active.add('b.b'))
    machine.later(start + 3, () => machine.active.delete('b.b'))
    expect(asked.next(1)).toBeNull()
    expect(asked.next(10)).toEqual({ line: 27, rising: false, atS: start + 2 })
    expect(asked.next(10)).toEqual({ line: 27, rising: true, atS: start + 3 })
    expect(asked.next(10)).toBeNull()
    expect(machine.nowS).toBeCloseTo(start + 13)
  })

  it('a word has the sum of its sheet', () => {
    // Published: Sensirion, data sheet SCD4x, §3.11: the sum of 0xBEEF is 0x92.
    expect(wordSum([0xBE, 0xEF])).toBe(0x92)
  })

  it('speaks with a part of commands, and with nobody where nobody is', () => {
    const machine = new Machine(gatherFacts(planOf('forty-classic', { c: 'carbon-dioxide-i2c' },
      { assignments: fixedAt({ 'c.vcc': 1, 'c.gnd': 9, 'c.sda': 3, 'c.scl': 5 }) }), catalogue))
    expect(converse(machine, '1', 0x62, [0xEC, 0x05], 9)).toBeNull()
    expect(converse(machine, '1', 0x62, [0xEC, 0x05], 0)).toEqual([])
    const answer = converse(machine, '1', 0x62, [], 9)!
    expect(answer[0]! << 8 | answer[1]!).toBe(600)
    expect(answer[2]).toBe(wordSum(answer.slice(0, 2)))
    expect(converse(machine, '1', 0x63, [0], 1)).toBeNull()
    expect(converse(machine, '7', 0x62, [0], 1)).toBeNull()
  })
})
