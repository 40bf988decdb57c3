import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyEdit } from '../../../core/plan/edits'
import { siftLog } from '../../../core/plan/logbook'
import { readPlan } from '../../../core/plan/read'
import type { LogEntry } from '../../../core/plan/types'
import { demoPlans } from '../../../demo'

const entry = (id: string, at: string, stage: LogEntry['stage'], text: string, marked?: true): LogEntry =>
  ({ id, at, stage, text, ...marked && { marked } })
const LOG = [
  entry('a', '2026-03-01T10:00:00.000Z', 'board', 'Box mounted, screws M2.5'),
  entry('b', '2026-03-03T10:00:00.000Z', 'build', 'Soldered the scale'),
  entry('c', '2026-03-02T10:00:00.000Z', 'bringup', 'Scale reads 12.4 kg', true),
]
const EVERYTHING = { stage: null, words: '', isMarked: false }

describe('the logbook', () => {
  it('is shown whole, the newest first', () => {
    expect(siftLog(LOG, EVERYTHING).map(({ id }) => id)).toEqual(['b', 'c', 'a'])
  })

  it('is sifted by stage, by words in any order and case, and by marks', () => {
    const ids = (more: object) => siftLog(LOG, { ...EVERYTHING, ...more }).map(({ id }) => id)
    expect(ids({ stage: 'board' })).toEqual(['a'])
    expect(ids({ words: 'SCALE' })).toEqual(['b', 'c'])
    expect(ids({ words: '  kg scale ' })).toEqual(['c'])
    expect(ids({ isMarked: true })).toEqual(['c'])
    expect(ids({ isMarked: true, stage: 'board' })).toEqual([])
  })

  it('loses nothing and makes nothing: each sieve gives some of what is there, and two of them what both give', () => {
    const entries = fc.array(fc.record({
      id: fc.uuid(), at: fc.constantFrom('2026-01-01T00:00:00.000Z', '2026-01-02T00:00:00.000Z'),
      stage: fc.constantFrom('board' as const, 'build' as const),
      text: fc.constantFrom('wire', 'Wire red', 'red lamp', ''),
      marked: fc.constantFrom(true as const, undefined),
    }))
    fc.assert(fc.property(entries, fc.constantFrom('', 'red', 'wire', 'red wire'), fc.boolean(),
      (log, words, isMarked) => {
        const both = siftLog(log, { stage: null, words, isMarked })
        const one = siftLog(log, { ...EVERYTHING, words })
        const other = siftLog(log, { ...EVERYTHING, isMarked })
        expect(new Set(both)).toEqual(new Set(one.filter(kept => other.includes(kept))))
        expect(siftLog(log, EVERYTHING)).toHaveLength(log.length)
      }))
  })

  it('a mark is kept with the plan, and is taken off by undo', () => {
    const plan = demoPlans[0]!
    const [first] = plan.log
    const { plan: marked, inverse } = applyEdit(plan, { edit: 'log', entry: { ...first!, marked: true } })
    const read = readPlan(JSON.parse(JSON.stringify(marked)))
    expect(read.ok && siftLog(read.plan.log, { ...EVERYTHING, isMarked: true }).map(({ id }) => id))
      .toEqual([first!.id])
    expect(applyEdit(marked, inverse).plan.log).toEqual(plan.log)
  })
})
