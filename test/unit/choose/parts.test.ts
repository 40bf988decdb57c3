/** Which of these parts: laws over generated plans and all parts, and a choice worked through by hand. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bestParts, trialRows, tryPart } from '../../../core/choose/parts'
import { evaluate } from '../../../core/evaluate'
import { isOpen } from '../../../core/findings/set-aside'
import { applyEdit } from '../../../core/plan/edits'
import type { Plan } from '../../../core/plan/types'
import { anyPlan, placed } from '../../generated'
import { catalogue, planOf } from '../../plans'
import { draws } from '../../random'

const PARTS = [...catalogue.parts.values()]

describe('a part tried on a plan', () => {
  it('law: what it brings is what the rules say after taking it and did not say before; it is taken back whole', () => {
    fc.assert(fc.property(fc.nat(1e6), fc.constantFrom(...PARTS), (seed, part) => {
      const plan: Plan = placed(anyPlan(seed, 4)) ?? anyPlan(seed, 4)
      const trial = tryPart(plan, part, catalogue)
      const { plan: after, inverse } = applyEdit(plan, { edit: 'all', edits: trial.edits })
      const [before, now] = [evaluate(plan, catalogue), evaluate(after, catalogue)]
      const brought = now.findings.filter(finding => isOpen(finding)
        && !before.findings.some(old => old.id === finding.id)
        && finding.stages.some(stage => stage !== 'boot' && stage !== 'bringup'))
      const titles = (severity: string) =>
        new Set(brought.filter(finding => finding.severity === severity).map(({ title }) => title))
      expect(new Set(trial.stops)).toEqual(titles('stop'))
      expect(new Set(trial.cautions)).toEqual(titles('caution'))
      expect(trial.lines.taken).toBe(now.lines.used - before.lines.used)
      // Wires that were placed stay, but for those that are told.
      const at = (of: Plan, key: string) => `${of.assignments[key]?.position} ${of.assignments[key]?.terminal}`
      const signals = new Set(before.placements.map(({ terminal }) => terminal))
      const moved = Object.keys(plan.assignments).filter(key => signals.has(key) && at(plan, key) !== at(after, key))
      if (trial.placed) expect(trial.moves).toBe(moved.length)
      expect(now.findings.filter(({ code }) => code === 'header.missing' || code === 'adapter.missing')
        .filter(({ id }) => !before.findings.some(old => old.id === id))).toEqual([])
      expect(applyEdit(after, inverse).plan).toEqual(plan)
    }), { numRuns: draws(50) })
  })

  it('without a board there is no room, and it says why', () => {
    const trial = tryPart(planOf(null, {}), catalogue.parts.get('oled-i2c')!, catalogue)
    expect(trial.placed).toBe(false)
    expect(trial.noRoom).toContain('no board')
  })
})

describe('several side by side', () => {
  // Lines by hand: on a bus that is there already a part takes none; over SPI with data and reset it takes those, a
  // select, and the bus.
  const plan = placed(planOf('forty-classic', { weather: 'pressure-humidity-i2c' }))!
  const trials = ['oled-i2c', 'oled-spi-15'].map(id => tryPart(plan, catalogue.parts.get(id)!, catalogue))

  it('a screen on the bus that is there takes no line, one on another bus takes its own', () => {
    expect(trials[0]!.lines.taken).toBe(0)
    expect(trials[1]!.lines.taken).toBeGreaterThanOrEqual(4)
  })

  it('says in rows what differs, and has nothing to say where none does', () => {
    const rows = trialRows(trials)
    expect(rows.find(({ label }) => label === 'lines it takes')).toMatchObject({ differs: true })
    expect(rows.find(({ label }) => label === 'place on this board')).toMatchObject({
      differs: false, values: ['there is room', 'there is room'],
    })
    expect(rows.every(({ values }) => values.some(value => value !== ''))).toBe(true)
  })

  it('a relay by itself on a line brings a stop, a board with its driver none: the board goes first', () => {
    const relays = ['relay-bare', 'relay-board-1'].map(id => tryPart(plan, catalogue.parts.get(id)!, catalogue))
    expect(relays[0]!.stops.join()).toContain('driven straight')
    expect(relays[1]!.stops).toEqual([])
    expect(bestParts(relays).map(({ partId }) => partId)).toEqual(['relay-board-1', 'relay-bare'])
  })

  it('a panel of video on a board with small sockets wants an adapter, which is in its price', () => {
    const trial = tryPart(planOf('forty-usb-c', {}), catalogue.parts.get('panel-video-5')!, catalogue)
    expect(trial.wants.map(({ type }) => type)).toEqual(['adapter-video-micro'])
    expect(trial.price)
      .toBe(catalogue.parts.get('panel-video-5')!.price! + catalogue.parts.get('adapter-video-micro')!.price!)
  })
})
