import 'fake-indexeddb/auto'
import fc from 'fast-check'
import { beforeEach, describe, expect, it } from 'vitest'
import { inWords, StorageSilent, troubleOf } from '../../../app/database/failures'
import { readPending, unsaved, writePending } from '../../../app/database/journal'
import { BIN_MS, ProjectDamaged, ProjectDatabase, ProjectMissing, ProjectNewer,
  type Save } from '../../../app/database/projects'
import { memorySlots, type Slots } from '../../../app/database/slots'
import { Saver, type SaveState } from '../../../app/stores/saving'
import { emptyPlan } from '../../../core/plan/create'
import { startHistory } from '../../../core/plan/history'
import { merge } from '../../../core/plan/merge'
import { trailOf } from '../../../core/plan/trail'
import type { Plan } from '../../../core/plan/types'
import { draws } from '../../random'

let database: ProjectDatabase
let count = 0
beforeEach(() => {
  database = new ProjectDatabase(`test-${count++}`)
})

const named = (name: string) => emptyPlan(name)
const DAY = 86_400_000
const asSave = (plan: Plan, base: Plan, baseRevision: number, more: Partial<Save> = {}): Save =>
  ({ plan, base, baseRevision, tab: 'a', number: 1, ...more })

describe('projects in the database', () => {
  it('are listed with the last changed first, without those in the bin', async () => {
    const a = await database.create(named('A'), new Date('2026-01-01'))
    const b = await database.create(named('B'), new Date('2026-01-02'))
    await database.save(a.id, asSave(named('A2'), a.plan, 1), new Date('2026-01-03'))
    expect((await database.list()).map(head => head.name)).toEqual(['A2', 'B'])
    await database.putInBin([b.id])
    expect((await database.list()).map(head => head.name)).toEqual(['A2'])
    await expect(database.read(b.id)).rejects.toBeInstanceOf(ProjectMissing)
    await database.takeFromBin([b.id])
    expect((await database.read(b.id)).plan.name).toBe('B')
  })

  it('kept by an earlier Voltaris are read with the fields that have come since, and get their heads', async () => {
    const { softwareBuses: _s, own: _o, weights: _w, ...older } = named('Old')
    await database.projects.add({ id: 'old', plan: older as never, revision: 3, createdAt: '2026-01-01',
      updatedAt: '2026-01-01' })
    expect((await database.list())[0]).toMatchObject({ id: 'old', name: 'Old' })
    expect((await database.read('old')).plan).toEqual(named('Old'))
  })

  it('that are damaged or newer are listed with the reason, hide no other, and are never written to', async () => {
    const fine = await database.create(named('Fine'))
    const at = { revision: 1, createdAt: '2026-01-01', updatedAt: '2026-01-01' }
    await database.projects.bulkAdd([
      { id: 'no-plan', plan: null as never, ...at },
      { id: 'parts', plan: { ...named('Parts'), parts: 'many' } as never, ...at },
      { id: 'newer', plan: { ...named('Newer'), version: 2, wonder: true } as never, ...at },
    ])
    const heads = Object.fromEntries((await database.list()).map(head => [head.id, head.trouble?.kind]))
    expect(heads).toEqual({ [fine.id]: undefined, 'no-plan': 'damaged', 'parts': 'damaged', 'newer': 'newer' })
    await expect(database.read('no-plan')).rejects.toBeInstanceOf(ProjectDamaged)
    await expect(database.read('newer')).rejects.toBeInstanceOf(ProjectNewer)
    await expect(database.rename('newer', 'Mine now')).rejects.toBeInstanceOf(ProjectNewer)
    const theirs = await database.projects.get('newer')
    await expect(database.save('newer', asSave(named('Over'), named('Base'), 0))).rejects.toBeInstanceOf(ProjectNewer)
    // Not by a tab either that had it open before the newer one wrote it, and has heard of the revision.
    await expect(database.save('newer', asSave(named('Over'), named('Base'), 1))).rejects.toBeInstanceOf(ProjectNewer)
    expect(await database.projects.get('newer')).toEqual(theirs)
  })

  it('come out of the bin when another tab still works on them', async () => {
    const { id, plan } = await database.create(named('A'))
    await database.putInBin([id])
    await database.save(id, asSave(named('still here'), plan, 1))
    expect((await database.list()).map(head => head.name)).toEqual(['still here'])
  })

  it('keep the last state of each day, and what is marked; the oldest days go', async () => {
    const { id } = await database.create(named('day 0'), new Date(2026, 0, 1, 12))
    let base = named('day 0')
    for (let day = 1; day <= 65; day++) for (const hour of [9, 15]) {
      const plan = named(`day ${day}, ${hour}`)
      const { revision } = await database.projects.get(id).then(record => record!)
      await database.save(id, asSave(plan, base, revision), new Date(2026, 0, 1 + day, hour))
      base = plan
    }
    await database.keepState(id, { kind: 'mark', label: 'Before the move', plan: base })
    const states = await database.statesOf(id)
    const days = states.filter(state => state.kind === 'day').map(state => state.plan.name)
    expect(days).toHaveLength(60)
    expect(days[0]).toBe('day 64, 15')
    expect(days.at(-1)).toBe('day 5, 15')
    expect(states.find(state => state.kind === 'mark')?.label).toBe('Before the move')
  })
})

describe('the bin', () => {
  const inBin = async () => (await database.allHeads()).filter(head => head.deletedAt).length

  it('keeps a project for thirty days, whatever the clock does in between', async () => {
    await fc.assert(fc.asyncProperty(fc.array(fc.integer({ min: -4000, max: 4000 }), { maxLength: 12 }),
      async (leaps) => {
        const bin = new ProjectDatabase(`bin-${count++}`)
        const { id } = await bin.create(named('A'))
        // The true time, and what the clock shows: it leaps by so many days between two looks.
        let [trueMs, shownMs] = [0, Date.parse('2026-01-01')]
        await bin.emptyOldBin(new Date(shownMs))
        await bin.putInBin([id], new Date(shownMs))
        for (const leap of leaps) {
          trueMs += DAY
          shownMs += DAY + leap * DAY
          await bin.emptyOldBin(new Date(shownMs))
          // Each look lets a week go by at most: four leaps forward are too few to empty it.
          const forward = leaps.filter(days => days > 0).length
          if (forward < 4 && trueMs < BIN_MS) expect(await bin.heads.get(id)).toBeDefined()
        }
        bin.close()
      }), { numRuns: draws(40) })
  })

  it('counts no time from before a project came there, and lets it go after thirty days of looks', async () => {
    const { id } = await database.create(named('A'))
    const start = Date.parse('2026-03-01')
    await database.emptyOldBin(new Date(start))
    await database.putInBin([id], new Date(start + 6 * DAY))
    for (let day = 7; day < 36; day++) expect(await database.emptyOldBin(new Date(start + day * DAY)), String(day))
      .toBe(0)
    expect(await inBin()).toBe(1)
    expect(await database.emptyOldBin(new Date(start + 36 * DAY))).toBe(1)
    expect(await database.projects.count()).toBe(0)
  })

  it('outlives twenty starts of a board whose clock begins in 1970 each time', async () => {
    const { id } = await database.create(named('A'))
    const right = Date.parse('2026-11-27')
    await database.putInBin([id], new Date(right))
    for (let start = 1; start <= 20; start++) {
      await database.emptyOldBin(new Date(start * 1000))
      await database.emptyOldBin(new Date(right + start * DAY))
    }
    expect(await inBin()).toBe(1)
    for (let day = 21; day <= 30; day++) await database.emptyOldBin(new Date(right + day * DAY))
    expect(await inBin()).toBe(0)
  })

  it('outlives a clock that starts in 1970 and is set right later', async () => {
    const { id } = await database.create(named('A'))
    await database.putInBin([id], new Date(0))
    await database.emptyOldBin(new Date('2026-11-27'))
    expect(await inBin()).toBe(1)
  })
})

/** A tab that has a project open: its plan changes by whole names and notes here. */
class TestTab {
  plan: Plan
  readonly states: SaveState[] = []
  readonly told: string[] = []
  saver!: Saver

  constructor(readonly id: string, readonly database: ProjectDatabase, readonly slots: Slots, project: string,
    plan: Plan, revision = 1) {
    this.plan = plan
    this.saver = new Saver(database, slots, project, plan, revision, {
      id, plan: () => this.plan, trail: () => trailOf(startHistory(this.plan)),
      onState: state => this.states.push(state),
      onJoined: (sent, kept, collisions) => {
        const joined = merge(sent, this.plan, kept)
        this.told.push(...[...collisions, ...joined.collisions].map(({ mine }) => JSON.stringify(mine)))
        return this.plan = joined.plan
      },
    })
  }

  change(fields: Partial<Plan>) {
    this.plan = { ...this.plan, ...fields }
    this.saver.save('Change', { edit: 'put-back', fields })
  }
}

const opened = async (slots = memorySlots(), id = 'a') => {
  const { id: project, plan } = await database.create(named('A'))
  return { project, slots, tab: new TestTab(id, database, slots, project, plan) }
}

describe('saving', () => {
  it('has every edit in the journal at once, and in the database when it has settled', async () => {
    const { project, slots, tab } = await opened()
    tab.change({ name: 'B' })
    expect(readPending(slots, project)).toMatchObject([{ tab: 'a', baseRevision: 1, edits: [{ number: 1 }] }])
    expect(tab.saver.dirty).toBe(true)
    await tab.saver.settled()
    expect((await database.read(project)).plan.name).toBe('B')
    expect(readPending(slots, project)).toEqual([])
    expect(tab.saver.dirty).toBe(false)
  })

  it('ends with the last of many edits, in order', async () => {
    const { project, tab } = await opened()
    for (let i = 0; i < 50; i++) tab.change({ name: `edit ${i}` })
    await tab.saver.settled()
    expect((await database.read(project)).plan.name).toBe('edit 49')
    expect((await database.projects.get(project))!.seen).toEqual({ a: 50 })
  })

  it('joins what another tab kept meanwhile, tells what could not be, and keeps the own state of it', async () => {
    const { project, slots, tab } = await opened()
    const other = new TestTab('b', database, slots, project, tab.plan)
    other.change({ name: 'Theirs', notes: 'of theirs' })
    await other.saver.settled()
    tab.change({ name: 'Mine', story: 'of mine' })
    await tab.saver.settled()
    expect((await database.read(project)).plan).toMatchObject({ name: 'Theirs', notes: 'of theirs', story: 'of mine' })
    expect(tab.plan).toMatchObject({ name: 'Theirs', notes: 'of theirs' })
    expect(tab.told).toEqual(['"Mine"'])
    expect((await database.statesOf(project)).map(state => [state.kind, state.plan.name])).toEqual([['before', 'Mine']])
  })

  it('does not take its own save for another tab\'s when the answer to it was lost', async () => {
    const { project, tab } = await opened()
    const { plan } = tab
    await database.save(project, asSave({ ...plan, name: 'Half a na' }, plan, 1, { number: 3 }))
    tab.change({ name: 'Half a name' })
    await tab.saver.settled()
    expect((await database.read(project)).plan.name).toBe('Half a name')
    expect(tab.told).toEqual([])
  })

  it('says so when the project is gone, and puts it back when asked', async () => {
    const { project, tab } = await opened()
    await database.remove([project])
    tab.change({ name: 'Still here' })
    await tab.saver.settled()
    expect(tab.states.at(-1)).toMatchObject({ state: 'failed', trouble: 'gone' })
    await tab.saver.putBack()
    expect((await database.read(project)).plan.name).toBe('Still here')
    expect(tab.states.at(-1)).toMatchObject({ state: 'saved' })
    tab.change({ name: 'And on' })
    await tab.saver.settled()
    expect((await database.read(project)).plan.name).toBe('And on')
  })

  it('keeps a failed edit in the journal, and saves it when tried again', async () => {
    const { project, slots, tab } = await opened()
    const { save } = database
    database.save = () => Promise.reject(Object.assign(new Error('no room'), { name: 'QuotaExceededError' }))
    tab.change({ name: 'B' })
    await tab.saver.settled()
    expect(tab.states.at(-1))
      .toMatchObject({ state: 'failed', trouble: 'full', message: expect.stringContaining('storage is full') })
    expect(readPending(slots, project)[0]!.edits).toHaveLength(1)
    database.save = save
    tab.saver.retry()
    await tab.saver.settled()
    expect((await database.read(project)).plan.name).toBe('B')
    tab.saver.close()
  })

  it('loses no letter of two tabs, in any interleaving of typing and saving', async () => {
    // Each letter is one of its tab and its place in the order of typing, in a field that both write, and one of the
    // tab's own.
    const step = fc.record({ tab: fc.nat(1), field: fc.constantFrom('notes', 'story', 'log'), settle: fc.nat(3) })
    await fc.assert(fc.asyncProperty(fc.array(step, { maxLength: 24 }), async (steps) => {
      const shared = new ProjectDatabase(`pair-${count++}`)
      const { id, plan } = await shared.create(named('Pair'))
      const slots = memorySlots()
      const tabs = [new TestTab('a', shared, slots, id, plan), new TestTab('b', shared, slots, id, plan)]
      const typed: string[] = []
      for (const [i, { tab: which, field, settle }] of steps.entries()) {
        const tab = tabs[which]!
        const token = `<${which}:${i}>`
        typed.push(token)
        if (field === 'log') {
          tab.change({ log: [...tab.plan.log,
            { id: token, at: '2026-01-01T00:00:00.000Z', stage: 'build', text: token }] })
        }
        else tab.change({ [field]: `${tab.plan[field] as string ?? ''}${token}` })
        if (settle === 1) await tab.saver.settled()
        if (settle === 2) await Promise.all(tabs.map(other => other.saver.settled()))
        if (settle === 3) await new Promise(resolve => setTimeout(resolve, 0))
      }
      for (const tab of [...tabs, ...tabs]) await tab.saver.settled()
      const stored = JSON.stringify((await shared.read(id)).plan)
      const told = JSON.stringify([tabs.map(tab => tab.told), await shared.statesOf(id)])
      for (const token of typed) expect(stored.includes(token) || told.includes(token), token).toBe(true)
      // What was told of could not be joined; of notes, stories and logs all can.
      expect(tabs.flatMap(tab => tab.told)).toEqual([])
      shared.close()
    }), { numRuns: draws(60) })
  })
})

describe('the journal', () => {
  it('gives what a record has not seen yet, and nothing of what the browser brings back from earlier', () => {
    const slots = memorySlots()
    const edit = (number: number) => ({ number, label: 'x', edit: { edit: 'rename' as const, name: `n${number}` } })
    writePending(slots, 'p', { tab: 'a', baseRevision: 4, edits: [edit(7), edit(8), edit(9)] })
    const [pending] = readPending(slots, 'p')
    expect(unsaved(pending!, { a: 8, b: 99 }).map(entry => entry.number)).toEqual([9])
    expect(unsaved(pending!, { a: 12 })).toEqual([])
    expect(unsaved(pending!, {})).toHaveLength(3)
  })

  it('reads nothing from an entry that was cut short, and drops it', () => {
    const slots = memorySlots()
    for (const text of ['{"tab":', '{}', 'null', '{"tab":"a","baseRevision":1,"edits":[{}]}']) {
      slots.setItem('voltaris.pending.x.a', text)
      expect(readPending(slots, 'x')).toEqual([])
      expect(slots.keys()).toEqual([])
    }
  })
})

describe('troubles of the storage', () => {
  it('have a sentence each, found through what the library wraps around them', () => {
    const error = (name: string, inner?: unknown) => Object.assign(new Error(name), { name, inner })
    for (const [given, trouble] of [
      [error('AbortError', error('QuotaExceededError')), 'full'],
      [error('OpenFailedError', error('SecurityError')), 'refused'],
      [error('DatabaseClosedError'), 'deleted'], [new StorageSilent(8), 'silent'], [new ProjectMissing('x'), 'gone'],
      [error('UnknownError'), 'refused'], [new Error('something else'), 'other'], ['no error at all', 'other'],
    ] as const) {
      expect([troubleOf(given), given]).toEqual([trouble, given])
      expect(inWords(given)).toMatch(/[.!?]$/)
    }
    expect(
      new Set(['QuotaExceededError', 'StorageSilent', 'DatabaseClosedError', 'SecurityError'].map(name =>
        inWords(error(name)))).size,
    ).toBe(4)
  })
})
