/**
 * What faults of every kind show, on the demos and on small plans by hand. Positions and lines are those of the
 * handbook's table of the header; that a lamp rests or flickers is common practice.
 */
import { describe, expect, it } from 'vitest'
import { asBuiltOf, asBuiltPaper } from '../../../core/share/as-built'
import { diagnose } from '../../../core/diagnosis/diagnose'
import { runSheetOf } from '../../../core/diagnosis/sheet'
import { diagnosisInWords, noteOf } from '../../../core/diagnosis/words'
import { modelOf, type Model } from '../../../core/diagnosis/table'
import { exercisesOf, GRADES } from '../../../core/diagnosis/trainer'
import { changedConductors } from '../../../core/diagnosis/wiring'
import { gatherFacts } from '../../../core/facts/gather'
import { wiresOf } from '../../../core/construction/wires'
import { netlistOf } from '../../../core/netlist/build'
import { needsOf } from '../../../core/overlays/asks/needs'
import { powerOf } from '../../../core/power/report'
import type { Conductor } from '../../../core/netlist/types'
import { applyEdit } from '../../../core/plan/edits'
import type { Plan } from '../../../core/plan/types'
import { demoPlans } from '../../../demo'
import { catalogue, planOf } from '../../plans'

const modelFor = (plan: Plan) => modelOf(gatherFacts(plan, catalogue))
const [hive, signals, kiosk] = demoPlans.map(modelFor) as [Model, Model, Model]

/** What the first fault that begins so shows. */
function shows({ table }: Model, fault: string) {
  const row = table.faults.findIndex(({ id }) => id === fault || id.startsWith(fault))
  expect(row, `no fault ${fault}`).toBeGreaterThanOrEqual(0)
  return (probe: string) => {
    const column = table.probes.findIndex(({ id }) => id === probe)
    expect(column, `no probe ${probe}`).toBeGreaterThanOrEqual(0)
    return table.seen[row]![column]
  }
}

describe('the whole board', () => {
  it('without supply no lamp, without card red alone, with an old image counted flashes', () => {
    expect(['supply:none', 'card', 'image'].map(fault => shows(hive, fault)('lamps'))).toEqual(['none', 'red alone',
      'green in counted flashes'])
    expect(['supply:none', 'card', 'image'].map(fault => shows(hive, fault)('up')))
      .toEqual(Array.from({ length: 3 }, () =>
        'it does not come'))
    expect(['supply:none', 'card'].map(fault => shows(hive, fault)('volt:5V'))).toEqual(['nothing', 'as planned'])
  })

  it('a weak supply and a thin cable are seen under load alone, and told apart by changing one of them', () => {
    for (const [fault, change] of [['supply:weak', 'other:supply'], ['supply:cable', 'other:cable']] as const) {
      const at = shows(hive, fault)
      expect([at('lamps'), at('volt:5V'), at('works:porch'), at('load'), at('volt:load'), at(change)])
        .toEqual(['red, and green flickers', 'as planned', 'it does', 'under-voltage, or it starts anew', 'too low',
          'with it, it runs'])
    }
  })

  it('a cable that is not in leaves everything dark, and is found from end to end', () => {
    const at = shows(hive, 'open:@cable')
    expect([at('lamps'), at('volt:5V'), at('volt:porch.vcc'), at('through:@cable')])
      .toEqual(['none', 'nothing', 'nothing', 'open'])
  })

  it('a plan without a supply is taken as fed', () => {
    const { table } = modelFor(planOf('forty-usb-c', { oled: 'oled-i2c' },
      { supply: null, assignments: { 'oled.sda': { position: 3 } } }))
    expect(table.planned[table.probes.findIndex(({ id }) => id === 'lamps')]).toBe('red, and green flickers')
    expect(table.probes.some(({ id }) => id === 'volt:5V')).toBe(false)
  })
})

describe('serial, USB, boards and stages', () => {
  it('a console on the port is seen at the port by itself, another rate only with the partner', () => {
    const [console_, rate] = [shows(hive, 'console:'), shows(hive, 'rate:modem')]
    expect([console_('loop:modem'), console_('works:modem')]).toEqual(Array.from({ length: 2 }, () =>
      'lines that nobody sent come with it'))
    expect([rate('loop:modem'), rate('works:modem'), rate('settings:modem')])
      .toEqual(['it comes back', 'signs that make no sense',
        'they differ'])
  })

  it('transmit and receive swapped: nothing comes, the port by itself is well', () => {
    const at = shows(hive, 'swap:modem.tx@10:modem.rx@8')
    expect([at('works:modem'), at('loop:modem'), at('volt:modem.vcc')])
      .toEqual(['nothing', 'it comes back', 'as planned'])
  })

  it('a line of the boot file that is away takes what it brings along', () => {
    const at = shows(hive, 'line:enable_uart=1')
    expect([at('node:/dev/serial0'), at('loop:modem'), at('file:enable_uart=1'), at('works:porch')])
      .toEqual(['it is missing', 'there is no such port', 'it is not there', 'it does'])
    expect(shows(hive, 'hidden:enable_uart=1')('file:enable_uart=1')).toBe('it stands below a filter of another board')
  })

  it('the other copy of the file brings nothing of the plan, whoever wrote its lines', () => {
    const at = shows(signals, 'line:copy')
    expect(at('scan:i2c1')).toBe('there is no such bus')
  })

  it('a panel whose cable is off stays without a picture; one that is pushed on turned does nothing', () => {
    const panel = shows(kiosk, 'open:panel@video')
    expect([panel('works:panel'), panel('works:labels'), panel('through:panel@video')])
      .toEqual(['lit and white, or black, without a picture', 'it does', 'open'])
    const turned = shows(kiosk, 'seat:voice:turned')
    expect([turned('works:voice'), turned('look:voice@seat')]).toEqual(['nothing', 'turned by half a turn'])
  })

  it('a driving stage without its return drives nothing', () => {
    const at = shows(hive, 'open:stage:vent.drive.gnd')
    expect([at('works:vent'), at('works:scale')]).toEqual(['nothing', 'it does'])
  })

  it('what hangs behind a ribbon goes with it', () => {
    const behind = planOf('forty-usb-c', { ribbon: 'ribbon-breakout-40', keys: 'buttons-4' }, {
      supply: { type: 'adapter-5v-3a' }, assignments: { 'keys.b1': { position: 11 }, 'keys.gnd': { position: 14 } },
    })
    const { table } = modelFor(behind)
    const seats = table.faults.filter(({ id }) => id.startsWith('seat:'))
    const up = seats.find(({ id }) => id.endsWith('column up'))!
    // One column on, the return at 14 comes to 16, which is line 23: nothing pulls the key's line down.
    expect(shows({ table, see: () => [] }, up.id)('line:keys.b1')).toBe('it does not move')
    expect(shows({ table, see: () => [] }, up.id)('works:keys')).toBe('nothing')
  })
})

describe('changes of conductors', () => {
  const wire = (id: string, from: string, to: string): Conductor =>
    ({ id, kind: 'wire', role: 'signal', from: 'a', to: 'b', lengthM: 0.1, ways: [{ from, to }] })
  const wires = [wire('one', 'a.x', '@P3'), wire('two', 'a.y', '@P5')]
  const ways = (changes: Parameters<typeof changedConductors>[1]) => changedConductors(wires, changes).map(entry =>
    entry.ways[0]?.to ?? null)

  it('open, moved, exchanged, and both at once', () => {
    expect(ways([])).toEqual(['@P3', '@P5'])
    expect(ways([{ change: 'open', conductor: 'one', way: 0 }])).toEqual([null, '@P5'])
    expect(ways([{ change: 'move', conductor: 'two', way: 0, to: '@P7' }])).toEqual(['@P3', '@P7'])
    expect(ways([{ change: 'swap', conductors: ['one', 'two'] }])).toEqual(['@P5', '@P3'])
    expect(ways([{ change: 'open', conductor: 'one', way: 0 }, { change: 'swap', conductors: ['one', 'two'] }]))
      .toEqual([null, '@P3'])
    expect(ways([{ change: 'swap', conductors: ['one', 'two'] }, { change: 'open', conductor: 'one', way: 0 }]))
      .toEqual([null, '@P3'])
  })
})

describe('what was seen, in the plan', () => {
  const at = '2026-05-01T10:00:00.000Z'

  it('the last sighting of a probe counts; taking it back leaves none; undo brings it', () => {
    const plan = planOf('forty-usb-c', { oled: 'oled-i2c' })
    const first = applyEdit(plan, { edit: 'see', id: 'lamps', sighting: { outcome: 'none', at } })
    const second = applyEdit(first.plan, { edit: 'see', id: 'lamps', sighting: { outcome: 'red alone', at } })
    expect(second.plan.seen).toEqual([{ id: 'lamps', outcome: 'red alone', at }])
    expect(applyEdit(second.plan, { edit: 'see', id: 'lamps', sighting: null }).plan.seen).toEqual([])
    expect(applyEdit(second.plan, second.inverse).plan.seen).toEqual(first.plan.seen)
  })

  it('sightings at what the plan has no more are told, and explain nothing', () => {
    const plan = { ...planOf('forty-usb-c', { oled: 'oled-i2c' }),
      seen: [{ id: 'works:gone', outcome: 'nothing', at }] }
    const { stray, diagnosis } = runSheetOf(gatherFacts(plan, catalogue))
    expect([stray, diagnosis.odd]).toEqual([['works:gone'], []])
  })

  it('a part is proved when it works and nothing about it is odd', () => {
    const plan = demoPlans[0]!
    const states = (seen: Plan['seen']) => Object.fromEntries(runSheetOf(gatherFacts({ ...plan, seen }, catalogue),
      hive).proofs
      .map(({ partId, state }) => [partId, state]))
    expect(states([])).toMatchObject({ porch: 'open', clock: 'open' })
    expect(states([{ id: 'works:porch', outcome: 'it does', at }])).toMatchObject({ porch: 'works', clock: 'open' })
    const low = [{ id: 'works:porch', outcome: 'it does', at }, { id: 'volt:porch.vcc', outcome: 'too low', at }]
    expect(states(low)).toMatchObject({ porch: 'odd' })
  })

  it('the logbook says of itself what was measured, what was odd, and what is in order again; a tick it does not say',
    () => {
      const row = (seen?: { outcome: string }) => ({
        probe: hive.table.probes.find(({ id }) => id === 'volt:porch.vcc')!, planned: 'as planned', outcomes: [],
        ...seen && { seen: { ...seen, at, isPlanned: seen.outcome === 'as planned' } },
      })
      expect(noteOf(row(), 'as planned')).toBeNull()
      expect(noteOf(row({ outcome: 'nothing' }), null)).toBeNull()
      expect(noteOf(row(), 'as planned', 3.28)).toBe('Measured: Porch screen: supply at its own pins: 3.28 V.')
      expect(noteOf(row(), 'too low', 2.4)).toBe('Measured: Porch screen: supply at its own pins: 2.4 V, too low.')
      expect(noteOf(row(), 'nothing')).toBe('Seen: Porch screen: supply at its own pins: nothing.')
      expect(noteOf(row({ outcome: 'nothing' }), 'as planned'))
        .toBe('In order again: Porch screen: supply at its own pins: as planned.')
    })

  it('the demo that has seen something odd is explained by one fault', () => {
    const found = diagnose(hive, demoPlans[0]!.seen.map(({ id, outcome }) => ({ probe: id, outcome })))
    expect(found.candidates.map(({ faults }) => faults.map(({ id }) => id))).toEqual([['strap:air:0x77']])
  })
})

describe('exercises', () => {
  it('the demos give some of every grade, and a sign that one notices', () => {
    const all = [hive, signals, kiosk].map(({ table }) => exercisesOf(table))
    for (const grade of GRADES) expect(all.flat().some(entry => entry.grade === grade), grade).toBe(true)
    for (const { sign } of all.flat()) expect(sign.probe)
      .toMatch(/^(lamps|works:|up|node:|scan:|load|volt:load|steady)/)
  })
})

describe('the diagnosis in words', () => {
  const at = '2026-05-01T10:00:00.000Z'
  /** The lines for what was seen on the hive, by probe. */
  const words = (seen: Readonly<Record<string, string>>) => {
    const marks = Object.entries(seen).map(([id, outcome]) => ({ id, outcome, at }))
    const { diagnosis, rows } = runSheetOf(gatherFacts({ ...demoPlans[0]!, seen: marks }, catalogue), hive)
    return diagnosisInWords(diagnosis, rows)
  }

  it('says that nothing is odd', () => {
    expect(words({})).toEqual(['Nothing odd was seen.'])
    expect(words({ lamps: 'red, and green flickers' })).toEqual(['Nothing odd was seen.'])
  })

  it('one fault is named with what mends it, and asks for nothing more', () => {
    const lines = words({ 'works:modem': 'signs that make no sense' })
    expect(lines.slice(0, 5)).toEqual([
      'Seen and not planned:', '  Field modem does what it is for: signs that make no sense', '', 'It is:',
      '  Field modem and the program talk at different rates or frames',
    ])
    expect(lines.join('\n')).toContain('To mend it: Set both ends to one rate')
    expect(lines.join('\n')).not.toContain('Try next')
  })

  it('several are shares of a whole, with the next test and how it is done', () => {
    const lines = words({ 'works:scale': 'nothing' })
    const shares = lines.flatMap(line => /^ {2}(\d+) %/.exec(line)?.[1] ?? []).map(Number)
    expect(shares.length).toBeGreaterThan(1)
    expect(shares).toEqual([...shares].sort((a, b) => b - a))
    expect(lines.at(-2)).toMatch(/^Try next: .* \([\d.]+ min\)$/)
    expect(lines.some(line => /^ {2}… and \d+ more$/.test(line))).toBe(true)
  })

  it('two at once, and what may be old, stand beside each other', () => {
    const lines = words({ 'scan:i2c1': 'answers at 0x3c, 0x68, 0x77', 'works:modem': 'signs that make no sense' })
    expect(lines).toContain('No single fault shows all of it. Two at once may:')
    expect(lines).toContain('  Scan of I²C 1: answers at 0x3c, 0x68, 0x77')
    expect(lines).toContain('Or one of these is old or misread; without it a single fault does, or none:')
    expect(lines.some(line => /different rates.*strapped to 0x77|strapped to 0x77.*different rates/.test(line)))
      .toBe(true)
  })

  it('what cannot be together is said so', () => {
    expect(words({ lamps: 'none', up: 'it is there' })).toContain(
      'Nothing that the model knows shows all of it: look at the readings once more.')
  })
})

describe('the sheet of what stands there', () => {
  it('has every part, wire, sighting and entry once, on every demo', () => {
    for (const [i, plan] of demoPlans.entries()) {
      const facts = gatherFacts(plan, catalogue)
      const model = [hive, signals, kiosk][i]!
      const sheet = runSheetOf(facts, model)
      const lines = asBuiltOf(facts, sheet).split('\n')
      const from = (title: string) => {
        const start = lines.indexOf(`## ${title}`)
        if (start < 0) return []
        const end = lines.findIndex((line, at) => at > start && line.startsWith('## '))
        return lines.slice(start + 1, end < 0 ? undefined : end).filter(line => line.startsWith('- ')
          || /^\| (?!---|Part |Step |Test )/.test(line))
      }
      expect(from('Parts')).toHaveLength(facts.parts.length)
      expect(from('Wires')).toHaveLength(wiresOf(facts, netlistOf(facts, powerOf(facts).tree)).length)
      expect(from('What was seen')).toHaveLength(sheet.rows.filter(({ seen }) => seen).length)
      expect(from('Logbook')).toHaveLength(plan.log.length)
      expect(from('Lines of the boot file')).toHaveLength(needsOf(facts).length)
    }
  })

  it('counts photos in the text, and has those at hand on paper, each once under its entry', () => {
    const refs = ['one', 'two', 'gone'].map(id => ({ id, widthPx: 1600, heightPx: 1200 }))
    const [first, ...rest] = demoPlans[0]!.log
    const facts = gatherFacts({ ...demoPlans[0]!, log: [{ ...first!, photos: refs }, ...rest] }, catalogue)
    const sheet = runSheetOf(facts, hive)
    expect(asBuiltOf(facts, sheet)).toContain(`${first!.text} (3 photos)`)
    const paper = JSON.stringify(asBuiltPaper(facts, sheet,
      new Map([['one', 'data:1'], ['two', 'data:2'], ['stray', 'data:3']])))
    expect(paper.match(/data:\d/g)).toEqual(['data:1', 'data:2'])
    expect(paper).toContain('1 photo is named in the logbook and not in this browser')
    expect(JSON.stringify(asBuiltPaper(gatherFacts(demoPlans[0]!, catalogue), sheet))).not.toContain('Photos')
  })

  it('says what was predicted beside what was measured, and what was odd', () => {
    const facts = gatherFacts(demoPlans[0]!, catalogue)
    const text = asBuiltOf(facts, runSheetOf(facts, hive))
    expect(text).toMatch(/- position 2 against a ground: \d\.\d\d V predicted, 5\.04 V measured\./)
    expect(text).toContain('- Scan of I²C 1: answers at 0x3c, 0x68, 0x77')
    expect(text).toContain('2026-04-18 15:12')
  })

  it('of a plan with nothing in it says that', () => {
    const facts = gatherFacts(planOf(null as never, {}, { supply: null }), catalogue)
    expect(asBuiltOf(facts, runSheetOf(facts))).toContain('Board: none chosen. Supply: none chosen.')
  })
})
