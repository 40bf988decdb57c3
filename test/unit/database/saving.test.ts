import 'fake-indexeddb/auto'
import { beforeEach, describe, expect, it } from 'vitest'
import { readPending, type Slots } from '../../../app/database/journal'
import { ProjectDatabase, ProjectMissing, RevisionConflict } from '../../../app/database/projects'
import { Saver, type SaveState } from '../../../app/stores/saving'
import { emptyPlan } from '../../../core/plan/create'

class MemorySlots implements Slots {
  readonly held = new Map<string, string>()
  getItem = (key: string) => this.held.get(key) ?? null
  setItem = (key: string, value: string) => void this.held.set(key, value)
  removeItem = (key: string) => void this.held.delete(key)
}

let database: ProjectDatabase
let count = 0
beforeEach(() => {
  database = new ProjectDatabase(`test-${count++}`)
})

const named = (name: string) => emptyPlan(name)

describe('projects in the database', () => {
  it('are listed with the last changed first, without those in the bin', async () => {
    const a = await database.create(named('A'), new Date('2026-01-01'))
    const b = await database.create(named('B'), new Date('2026-01-02'))
    await database.save(a.id, named('A2'), 1, new Date('2026-01-03'))
    expect((await database.list()).map(record => record.plan.name)).toEqual(['A2', 'B'])
    await database.putInBin(b.id)
    expect((await database.list()).map(record => record.plan.name)).toEqual(['A2'])
    await expect(database.read(b.id)).rejects.toBeInstanceOf(ProjectMissing)
    await database.takeFromBin(b.id)
    expect((await database.read(b.id)).plan.name).toBe('B')
  })

  it('kept by an earlier Voltaris are read with the fields that have come since', async () => {
    const { softwareBuses: _s, own: _o, weights: _w, ...older } = named('Old')
    const { id } = await database.create(older as never)
    expect((await database.read(id)).plan).toEqual(named('Old'))
    expect((await database.list())[0]!.plan.own).toEqual({ boards: [], parts: [] })
    const slots = new MemorySlots()
    slots.setItem('voltaris.pending.x', JSON.stringify({ plan: older, baseRevision: 1 }))
    expect(readPending(slots, 'x')).toEqual({ plan: named('Old'), baseRevision: 1 })
  })

  it('come out of the bin when another tab still works on them', async () => {
    const { id } = await database.create(named('A'))
    await database.putInBin(id)
    await database.save(id, named('still here'), 1)
    expect((await database.list()).map(record => record.plan.name)).toEqual(['still here'])
  })

  it('leave the bin for good only after thirty days', async () => {
    const { id } = await database.create(named('A'))
    await database.putInBin(id, new Date('2026-01-01'))
    expect(await database.emptyOldBin(new Date('2026-01-30'))).toBe(0)
    expect(await database.emptyOldBin(new Date('2026-02-01'))).toBe(1)
  })

  it('are not overwritten by a tab that has not seen the last save', async () => {
    const { id } = await database.create(named('A'))
    expect(await database.save(id, named('first tab'), 1)).toBe(2)
    await expect(database.save(id, named('second tab'), 1)).rejects.toBeInstanceOf(RevisionConflict)
    expect((await database.read(id)).plan.name).toBe('first tab')
  })
})

describe('saving', () => {
  const saverFor = async (slots: Slots, states: SaveState[] = []) => {
    const { id } = await database.create(named('A'))
    return { id, saver: new Saver(database, slots, id, 1, state => states.push(state)) }
  }

  it('has every edit in the journal at once, and in the database when it has settled', async () => {
    const slots = new MemorySlots()
    const { id, saver } = await saverFor(slots)
    saver.save(named('B'))
    expect(readPending(slots, id)?.plan.name).toBe('B')
    expect(saver.dirty).toBe(true)
    await saver.settled()
    expect((await database.read(id)).plan.name).toBe('B')
    expect(readPending(slots, id)).toBeNull()
    expect(saver.dirty).toBe(false)
  })

  it('ends with the last of many edits, in order', async () => {
    const { id, saver } = await saverFor(new MemorySlots())
    for (let i = 0; i < 50; i++) saver.save(named(`edit ${i}`))
    await saver.settled()
    expect((await database.read(id)).plan.name).toBe('edit 49')
  })

  it('stops at a conflict, says whose plan is stored, and keeps this one in the journal', async () => {
    const slots = new MemorySlots()
    const states: SaveState[] = []
    const { id, saver } = await saverFor(slots, states)
    await database.save(id, named('theirs'), 1)
    saver.save(named('mine'))
    await saver.settled()
    expect(states.at(-1)).toMatchObject({ state: 'conflict', theirs: { plan: { name: 'theirs' } } })
    expect(readPending(slots, id)?.plan.name).toBe('mine')
  })

  it('says so when the project is gone', async () => {
    const states: SaveState[] = []
    const saver = new Saver(database, new MemorySlots(), 'nobody', 1, state => states.push(state))
    saver.save(named('A'))
    await saver.settled()
    expect(states.at(-1)).toMatchObject({ state: 'failed', message: expect.stringContaining('no project') })
  })

  it('reads nothing from a journal that was cut short', () => {
    const slots = new MemorySlots()
    slots.setItem('voltaris.pending.x', '{"plan":')
    expect(readPending(slots, 'x')).toBeNull()
  })
})
