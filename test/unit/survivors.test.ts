/** Changes to the core that tests once did not notice: each has a check that fails when it is made. */
import { describe, expect, it } from 'vitest'
import { lintBoot } from '../../core/boot/lint'
import { readOwn } from '../../core/catalogue/own-read'
import { placePlan } from '../../core/placement/place'
import { fittingFuseMa } from '../../core/power/front/fuse'
import { applyEdit } from '../../core/plan/edits'
import { HISTORY_DEPTH, record, startHistory, undo } from '../../core/plan/history'
import type { PowerNode, PowerPlan } from '../../core/plan/power'
import type { Plan } from '../../core/plan/types'
import { evaluate } from '../../core/evaluate'
import { catalogue, codesOf, EMPTY_BUILD, findingsOf, planOf } from '../plans'

const node = (id: string, type: string, from?: string, more: Partial<PowerNode> = {}): PowerNode => ({
  id, type, name: id, ...from && { from }, ...more,
})
const fed = (plan: Plan, supply: string | null, power: Partial<PowerPlan>): Plan => ({ ...plan, supply: supply
  ? { type: supply }
  : null, power: { ...plan.power, ...power } })
const at = (places: Record<string, number>) => ({ assignments: Object.fromEntries(Object.entries(places)
  .map(([terminal, position]) => [terminal, { position }])) })

describe('the document', () => {
  it('a part that goes takes its place in the stack, its clock and its wires along', () => {
    const plan = planOf('forty-classic', { a: 'audio-add-on', b: 'relay-add-on-3', m: 'matrix-8x8-spi' }, {
      stack: ['b', 'a'], clocks: { m: 1_000_000, i2c1: 400_000 },
      build: { ...EMPTY_BUILD, done: ['m.clk@23', 'a@seat', 'b@seat'],
        wires: { 'm.clk': { colour: 'blue' } } },
    } as Partial<Plan>)
    const without = (id: string) => applyEdit(plan, { edit: 'remove-part', id }).plan
    expect(without('a')).toMatchObject({ stack: ['b'], build: { ...EMPTY_BUILD,
      done: ['m.clk@23', 'b@seat'] } })
    expect(without('m')).toMatchObject({ stack: ['b', 'a'], clocks: { i2c1: 400_000 },
      build: { ...EMPTY_BUILD, done: ['a@seat', 'b@seat'], wires: {} } })
    expect(without('m').clocks).not.toHaveProperty('m')
  })

  it('history keeps the latest steps, not the first', () => {
    let history = startHistory(planOf('forty-classic', {}))
    for (let i = 0; i < HISTORY_DEPTH
      + 20; i++) history = record(history, { edit: 'rename', name: `name ${i}` }, `step ${i}`)
    expect(history.past).toHaveLength(HISTORY_DEPTH)
    expect(history.past.at(-1)!.label).toBe(`step ${HISTORY_DEPTH + 19}`)
    expect(history.past[0]!.label).toBe('step 20')
    expect(undo(history).plan.name).toBe(`name ${HISTORY_DEPTH + 18}`)
  })

  it('an own part with an option that its conditions do not know is refused', () => {
    const own = {
      id: 'own-x', name: 'X', summary: 'x', group: 'sensing', supplies: [], grounds: [],
      options: [{
        id: 'link', label: 'Link', kind: 'choice', values: [{ value: 'a', label: 'a' }, { value: 'b', label: 'b' }],
        default: 'a',
      }],
      signals: [{ id: 'o', label: 'O', role: 'line', direction: 'out', when: { link: 'a' } }],
    }
    const tried = (change: object) => readOwn(JSON.stringify({ ...own, ...change })).ok
    expect(tried({})).toBe(true)
    expect(tried({ signals: [{ ...own.signals[0], when: { other: 'a' } }] })).toBe(false)
    expect(tried({ options: [{ ...own.options[0], default: 'z' }] })).toBe(false)
  })
})

describe('the supply', () => {
  it('a fuse is fitted to the surge as well as to the steady current', () => {
    // published: IEC 60127-2, a quick fuse carries four times its rating for 10 ms at least, and has blown after 0.3 s
    const fitting = (surgeMa: number, shortMa = 20_000,
      surgeS = 0.01) => fittingFuseMa({ steadyMa: 700, surgeMa, surgeS, shortMa })
    expect([fitting(0), fitting(4200), fitting(4200, 20_000, 0.001), fitting(0, 2000)])
      .toEqual([1000, 1250, 1000, null])
    // A wire behind it that stands less, and warmth.
    expect(fittingFuseMa({ steadyMa: 700, surgeMa: 0, surgeS: 0, shortMa: 20_000, wireMa: 900 })).toBeNull()
    expect(fittingFuseMa({ steadyMa: 700, surgeMa: 0, surgeS: 0, shortMa: 20_000, temperatureC: 60 })).toBe(1250)
  })

  it('a converter hides the store from what is behind it', () => {
    const power = { nodes: [node('cell', 'cell-lithium-1'), node('up', 'step-up-5v-2a', 'cell')],
      feeds: { '@socket': 'up' } }
    const [store] = evaluate(fed(planOf('tiny-unpopulated', {}), null, power), catalogue).power.stores
    // The board wants some 4.6 V and the cell gives 3.7: behind the step-up that does not matter.
    expect(store!.hours).toBeGreaterThan(1)
    const bare = evaluate(
      fed(planOf('tiny-unpopulated', {}), null,
        { nodes: [node('cell', 'cell-lithium-1')], feeds: { '@socket': 'cell' } }), catalogue,
    ).power.stores
    expect(bare[0]!.hours ?? 0).toBeLessThan(store!.hours!)
  })

  it('a transformer gives more without load, and the capacitor has to stand that', () => {
    const power = {
      nodes: [node('bridge', 'rectifier-bridge', '@cable'), node('buck', 'step-down-5v-3a', 'bridge')],
      feeds: { '@socket': 'buck' },
    }
    const [front] = evaluate(fed(planOf('tiny-unpopulated', {}), 'transformer-9v-ac', power), catalogue).power.fronts
    const dropV = catalogue.powerItems.get('rectifier-bridge')!.figures.dropV!
    // practice: some 15 % more without load; textbook: peak is √2 times the effective voltage
    expect(front!.highestV).toBeCloseTo(9 * 1.15 * Math.SQRT2 - dropV, 6)
  })

  it('what hangs on a hub behind a hub is asked of the first one too', () => {
    const plan = fed(
      planOf('forty-usb-c', { m: 'modem-wide-stick' }), 'adapter-5v-3a',
      { nodes: [node('h1', 'hub-bus', '@usb'), node('h2', 'hub-bus', 'h1')], feeds: { 'm.usb': 'h2' } },
    )
    const peak = evaluate(plan, catalogue).power.states.find(state => state.id === 'peak')!
    expect(peak.nodes.h1!.currentMa).toBeGreaterThan(peak.nodes['m.usb']!.currentMa)
    expect(peak.nodes.h1!.currentMa).toBeGreaterThanOrEqual(peak.nodes.h2!.currentMa)
  })
})

describe('files', () => {
  const repeats = (text: string) =>
    lintBoot({
      files: { dialect: 'key-value', text }, board: catalogue.boards.get('forty-classic')!,
    }).filter(finding => finding.code === 'boot.repeated').length

  it('a line under another filter is no repeat', () => {
    expect(repeats('gpu_mem=64\ngpu_mem=64\n')).toBe(1)
    expect(repeats('gpu_mem=64\n[none]\ngpu_mem=64\n')).toBe(0)
    expect(repeats('dtoverlay=disable-bt\ndtoverlay=disable-bt\n')).toBe(1)
    expect(repeats('dtoverlay=disable-bt\n[EDID=Made-Up]\ndtoverlay=disable-bt\n')).toBe(0)
  })
})

describe('places', () => {
  it('the identity positions are never given to anybody', () => {
    const identity = catalogue.boards.get('forty-classic')!.header.filter(entry => entry.identity)
      .map(entry => entry.position)
    // published: the board's own file, 27 and 28
    expect(identity).toEqual([27, 28])
    const buttons = planOf('forty-classic',
      Object.fromEntries(Array.from({ length: 6 }, (_, i) => [`b${i}`, 'buttons-4'])))
    const result = placePlan(buttons, catalogue, { scope: 'rest' })
    expect(result.ok).toBe(true)
    const used = result.ok ? Object.values(result.assignments).flatMap(place => place.position ?? []) : []
    expect(used.length).toBeGreaterThanOrEqual(24)
    expect(used.filter(position => identity.includes(position))).toEqual([])
  })

  it('twins keep the order of the plan, and renaming them changes nothing', () => {
    const first = (parts: Record<string, string>) => {
      const result = placePlan(planOf('forty-classic', parts), catalogue, { scope: 'rest' })
      return result.ok ? Object.keys(parts).map(id => result.assignments[`${id}.in1`]!.position!) : []
    }
    const [one, two] = first({ one: 'relay-board-1', two: 'relay-board-1' })
    expect(one).not.toBe(two)
    expect(first({ zed: 'relay-board-1', alf: 'relay-board-1' })).toEqual([one, two])
  })

  it('wires that share a position are marked, in the note and on the list', () => {
    const plan = planOf('forty-classic', { a: 'humidity-i2c', b: 'light-i2c' },
      at({ 'a.sda': 3, 'b.sda': 3, 'a.scl': 5, 'b.scl': 5 }))
    expect(findingsOf(plan).find(finding => finding.code === 'position.shared')).toMatchObject({
      subjects: [{ position: 3 }, { position: 5 }],
    })
    expect(codesOf(planOf('forty-classic', { a: 'humidity-i2c' },
      at({ 'a.sda': 3, 'a.scl': 5 })))).not.toContain('position.shared')
  })

  it('flow control wants both of its wires', () => {
    const part = [...catalogue.parts.values()].find(entry =>
      entry.signals.some(signal => signal.role === 'serial.rts')
      && entry.signals.some(signal => signal.role === 'serial.cts'))!
    const id = (role: string) => `m.${part.signals.find(signal => signal.role === role)!.id}`
    const wired = (places: Record<string, number>) => evaluate(
      planOf('forty-classic', { m: part.id }, at({ [id('serial.tx')]: 10, [id('serial.rx')]: 8, ...places })),
      catalogue,
    ).signals.serial[0]!
    // published: the board's own file, 16 clear to send and 17 request to send on positions 36 and 11
    expect(wired({}).flowControlWired).toBe(false)
    expect(wired({ [id('serial.rts')]: 36 }).flowControlWired).toBe(false)
    expect(wired({ [id('serial.cts')]: 11 }).flowControlWired).toBe(false)
    expect(wired({ [id('serial.rts')]: 36, [id('serial.cts')]: 11 }).flowControlWired).toBe(true)
  })
})
