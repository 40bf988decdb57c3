/**
 * What makers say in their own words: a list of sentences with what each has to be taken for, and laws over generated
 * plans. The sentences are our own (common practice, no source); each set of them was written down before the reader
 * was run on it.
 */
import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { diagnose, outcomeOfReading } from '../../../core/diagnosis/diagnose'
import { runSheetOf } from '../../../core/diagnosis/sheet'
import { modelOf } from '../../../core/diagnosis/table'
import { addressesIn, positionsIn, readingSaid } from '../../../core/diagnosis/symptoms/figures'
import { readSaid, type Said } from '../../../core/diagnosis/symptoms/read'
import { marksHeard, saidInLines } from '../../../core/diagnosis/symptoms/tell'
import { clausesOf, occasionOf } from '../../../core/said/stems'
import { gatherFacts } from '../../../core/facts/gather'
import type { Plan } from '../../../core/plan/types'
import { demoPlans } from '../../../demo'
import { placed, placedPlans, written } from '../../generated'
import { catalogue, planOf } from '../../plans'
import { draws, judgedAtLeast } from '../../random'

/** A plan of nine parts with names as makers give them; its strip behind a level shifter. */
const NAMES: Readonly<Record<string, [type: string, name: string]>> = {
  front: ['screen-spi-24', 'Front screen'], pump: ['relay-board-1', 'Pump relay'],
  lights: ['strip-addressable', 'Shelf lights'],
  air: ['pressure-humidity-i2c', 'Room air'], keys: ['buttons-4', 'Keys'], gps: ['positioning-serial', 'Position'],
  tank: ['probe-onewire', 'Tank probe'], flap: ['servo-small', 'Flap servo'], fan: ['fan-5v', 'Fan'],
}
const unlifted = (): Plan => {
  const parts = Object.fromEntries(Object.entries(NAMES)
    .map(([id, [type]]) => [id, [type, {}] as [string, Record<string, string>]]))
  const plan = written(placed(planOf('forty-usb-c', parts, { supply: { type: 'adapter-5v-5a' } }))!)
  return { ...plan, parts: plan.parts.map(part => ({ ...part, name: NAMES[part.id]![1] })) }
}
const bench: Plan = { ...unlifted(),
  between: { ...unlifted().between, 'lights.din': { kind: 'level-shifter', fit: 'push-pull' } } }

const earOf = (plan: Plan) => {
  const facts = gatherFacts(plan, catalogue)
  const model = modelOf(facts)
  return { ...runSheetOf(facts, model), model }
}
const [hive, signals, kiosk] = demoPlans as [Plan, Plan, Plan]
const ears = { bench: earOf(bench), hive: earOf(hive), signals: earOf(signals), kiosk: earOf(kiosk) }

const asText = (said: readonly Said[]) => {
  const all = said.map(entry => entry.kind === 'seen'
    ? `${entry.mark.probe}=${entry.mark.outcome}`
    : entry.kind === 'which'
      ? `?${entry.marks.map(({ probe, outcome }) => `${probe}=${outcome}`).join(' // ')}`
      : entry.kind)
  return (all.length > 1 ? all.filter(text => text !== 'unknown') : all).join(' ;; ')
}
/** All that was taken or is asked. */
const marksOf = (said: readonly Said[]) => said.flatMap(entry =>
  entry.kind === 'seen' ? [entry.mark] : entry.kind === 'which' ? entry.marks : [])
const sentences = readFileSync(fileURLToPath(new URL('../../data/said.txt', import.meta.url)), 'utf8').split('\n')
  .filter(line => line && !line.startsWith('#')).map(line => line.split(' | ') as [keyof typeof ears, string, string])

describe('sentences', () => {
  it.each(sentences)('%s: "%s"', (plan, words, pattern) => {
    expect(asText(readSaid(words, ears[plan]))).toMatch(new RegExp(pattern))
  })

  it('each clause says its own, and goes on about the part of the one before', () => {
    expect(asText(readSaid('The front screen lights up, but stays white. GPS talks nonsense.', ears.bench)))
      .toBe('works:front=lit and white, or black, without a picture ;; works:gps=signs that make no sense')
    expect(clausesOf('It has 4.7 V. See /dev/i2c-1, and 0x3c, 0x76, and no lamp.'))
      .toEqual(['It has 4.7 V', 'See /dev/i2c-1, and 0x3c, 0x76', 'no lamp'])
    expect(occasionOf('it reboots whenever the relay pulls'))
      .toEqual({ main: 'it reboots', occasion: 'whenever the relay pulls' })
  })

  it('an input that the board does not reach is the plan\'s own, and told as such', () => {
    const [said] = readSaid('first lamp flickers', earOf(unlifted()))
    expect(said).toMatchObject({ kind: 'told' })
    // 0.7 of 5 V, the input of a 5 V CMOS part: the part's file says so.
    expect((said as { words: string }).words).toMatch(/Shelf lights, DIN, takes 3\.5 V .* 3\.3 V/)
  })
})

describe('from words to what is wrong', () => {
  const explain = (words: string) => diagnose(ears.bench.model, marksHeard(readSaid(words, ears.bench))).candidates
    .flatMap(({ faults }) => faults.map(({ id }) => id))

  it('the five of the trade come to their usual causes', () => {
    expect(explain('reboots when the relay pulls')).toEqual(expect.arrayContaining(['supply:weak', 'supply:cable']))
    const white = explain('screen stays white')
    expect(white).toContain('line:copy')
    expect(white.some(id => /^open:front\.dc@/.test(id))).toBe(true)
    expect(white.every(id => /front|^(line|hidden|figure|bridge|open:splice)/.test(id)), white.join(' ')).toBe(true)
    expect(explain('garbage on the port')).toEqual(['rate:gps'])
    expect(explain('first lamp flickers')).toEqual(['level:lights'])
    expect(explain('nothing answers').some(id => id.startsWith('swap:air.'))).toBe(true)
  })

  it('two sentences leave less than one', () => {
    const one = explain('room air is not found')
    const two = explain('room air is not found. 0.1 V at room air')
    expect(two.length).toBeLessThan(one.length)
    expect(two.every(id => one.includes(id))).toBe(true)
    expect(explain('the tank probe drops out now and then').every(id => /^(loose|open|ground|splice)/.test(id)))
      .toBe(true)
  })
})

describe('figures', () => {
  it('are told from rails and from what should be', () => {
    expect(readingSaid('the 5 V pin has 4.7 V')).toEqual({ unit: 'V', value: 4.7, rail: '5V' })
    expect(readingSaid('4.7 V instead of 5 V')).toEqual({ unit: 'V', value: 4.7, rail: '5V' })
    expect(readingSaid('I get 320 mV on the 3.3 V rail')).toEqual({ unit: 'V', value: 0.32, rail: '3V3' })
    expect(readingSaid('4,7 kOhm between 3v3 and SDA')).toEqual({ unit: 'Ω', value: 4700, rail: '3V3' })
    expect(readingSaid('5V is shorted')).toBeNull()
    expect(readingSaid('30 seconds')).toBeNull()
  })

  it('addresses are those that answer, and those that do not', () => {
    expect(addressesIn('answers at 0x77 instead of 0x76')).toEqual({ there: [0x77], gone: [0x76], isAll: false })
    expect(addressesIn('only 3c and 68 answer')).toEqual({ there: [0x3c, 0x68], gone: [], isAll: true })
    expect(addressesIn('0x76 is missing')).toEqual({ there: [], gone: [0x76], isAll: false })
    expect(addressesIn('it shows 5 V after 30 s')).toEqual({ there: [], gone: [], isAll: false })
  })

  it('positions are those of the header', () => {
    expect([positionsIn('pins 3 and 5 touch'), positionsIn('it sits on position 41'), positionsIn('pin #7')])
      .toEqual([[3, 5], [], [7]])
  })
})

describe('laws, over generated plans', () => {
  const plans = [...demoPlans, ...placedPlans(8, 900, 6)]
  const all = plans.map(plan => ({ plan, ...earOf(plan) }))

  it('a part that is named and dead is that part and no other', () => {
    let told = 0
    for (const { plan, rows, subjects, rails } of all) for (const { partId, name } of subjects) {
      const row = rows.find(({ probe }) => probe.id === `works:${partId}`)
      if (!row?.outcomes.includes('nothing') || subjects.filter(other => other.name === name).length > 1) continue
      const said = readSaid(`${name} is dead`, { rows, subjects, rails })
      expect([plan.name, name, asText(said)]).toEqual([plan.name, name, `works:${partId}=nothing`])
      told++
    }
    expect(told).toBeGreaterThan(judgedAtLeast(40))
  })

  it('volts at a part are what the sheet makes of the same figure', () => {
    for (const { rows, subjects, rails, model } of all) for (const { probe } of rows) {
      const [partId] = probe.at.parts ?? []
      if (!probe.id.startsWith('volt:') || !probe.reading || partId === undefined) continue
      const { name } = subjects.find(subject => subject.partId === partId)!
      for (const volts of [0.1, 1.2, 3.29, 4.98, 12.4]) {
        const marks = marksOf(readSaid(`${volts} V at ${name}`, { rows, subjects, rails }))
        const own = marks.find(mark => mark.probe === probe.id)
        if (own) expect([name, volts, own.outcome])
          .toEqual([name, volts, outcomeOfReading(model.table, probe.id, volts)])
        else expect(subjects.filter(subject => subject.name === name).length, name).toBeGreaterThan(1)
      }
    }
  })

  it('whatever is typed, each clause is answered, and what is taken is at a test of the sheet', () => {
    const pieces = fc.constantFrom('screen', 'the relay', 'white', 'nothing', '0x76', '4.2 V', 'pin 7', 'reboots',
      'when', ',', '.', 'not',
      'SDA', '/dev/i2c-1',
      'another card', 'same', 'button 2', '3.3 V', 'swapped', '?', '0.2 ohm')
    const typed = fc.oneof(fc.string({ maxLength: 80 }),
      fc.array(pieces, { maxLength: 12 }).map(words => words.join(' ')))
    fc.assert(fc.property(typed, fc.integer({ min: 0, max: all.length - 1 }), (text, nth) => {
      const { rows, subjects, rails } = all[nth]!
      const said = readSaid(text, { rows, subjects, rails })
      expect(said.every(({ clause }) => clause.length > 0)).toBe(true)
      for (const mark of marksOf(said)) {
        const row = rows.find(({ probe }) => probe.id === mark.probe)!
        expect(row, mark.probe).toBeDefined()
        expect(mark.words).toBe(`${row.probe.title}: ${mark.outcome}`)
        if (!/^(scan|volt)/.test(mark.probe)) expect(row.outcomes).toContain(mark.outcome)
      }
      expect(saidInLines(said).length).toBeGreaterThanOrEqual(said.length)
    }), { numRuns: draws(400) })
  })
})
