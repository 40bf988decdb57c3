/**
 * Projects in the browser. A record has a revision that rises by one at every save; beside it stand what the list shows
 * of it, its earlier states, and its trail of steps. What is written together is written in one transaction, and is on
 * the disk when it is said to be saved.
 */
import Dexie, { type EntityTable, type Table } from 'dexie'
import { completed } from '~~/core/plan/create'
import { merge, type MergeConflict } from '~~/core/plan/merge'
import { soundness } from '~~/core/plan/stored-record'
import type { Trail } from '~~/core/plan/trail'
import type { StockEntry } from '~~/core/stock/shape'
import type { Plan } from '~~/core/plan/types'
import { noteBlocked } from './failures'
import { headOf } from './heads'
import { newId } from './id'
import {
  ProjectDamaged, ProjectMissing, ProjectNewer, type Fact, type Head, type PastState, type PhotoRecord,
  type ProjectRecord,
  type TrailRecord,
} from './records'

export { ProjectDamaged, ProjectMissing, ProjectNewer, type Head, type PastState, type ProjectRecord } from './records'

const DAY_MS = 86_400_000
/** So long a project waits in the bin. */
export const BIN_MS = 30 * DAY_MS
/**
 * No more than this is believed to have gone by between two looks at the clock: a clock that was set must not
 * empty the bin.
 */
const MAX_BETWEEN_LOOKS_MS = 7 * DAY_MS
/** Earlier states that are kept of a project, by kind. Marks are the person's own and stay. */
const MAX_STATES = { day: 60, before: 20, mark: Infinity } as const
/** Tabs whose last number a record remembers. */
const MAX_SEEN = 24

/** What a tab wants kept. */
export interface Save {
  plan: Plan
  /** The plan and the revision that it began from. */
  base: Plan
  baseRevision: number
  tab: string
  /** Number of the last edit that the plan holds, and those of other tabs whose edits were taken in. */
  number: number
  adopted?: Readonly<Record<string, number>>
  trail?: Trail
}

export interface Saved {
  revision: number
  at: string
  /** What is kept: the tab's plan, or that joined with what another tab had kept meanwhile. */
  plan: Plan
  collisions: readonly MergeConflict[]
}

export class ProjectDatabase extends Dexie {
  projects!: EntityTable<ProjectRecord, 'id'>
  heads!: EntityTable<Head, 'id'>
  states!: EntityTable<PastState, 'key'>
  trails!: EntityTable<TrailRecord, 'id'>
  /** What the maker owns. */
  stock!: EntityTable<StockEntry, 'id'>
  facts!: EntityTable<Fact, 'key'>
  photos!: Table<PhotoRecord, [project: string, id: string]>

  constructor(name = 'voltaris') {
    // Saved means on the disk, not on its way there.
    super(name, { chromeTransactionDurability: 'strict' })
    this.version(1).stores({ projects: 'id, updatedAt' })
    this.version(2).stores({ projects: 'id, updatedAt', heads: 'id', states: '++key, project', trails: 'id',
      facts: 'key' })
    this.version(3).stores({
      projects: 'id, updatedAt', heads: 'id', states: '++key, project', trails: 'id', facts: 'key', stock: 'id',
    })
    this.version(4).stores({ photos: '[project+id], project' })
    this.on('blocked', () => noteBlocked(true))
    this.on('ready', () => noteBlocked(false))
  }

  /**
   * All heads, those in the bin too, the last changed first. Records without a head get theirs, heads
   * without a record go.
   */
  async allHeads(): Promise<Head[]> {
    const [heads, ids] = await this.transaction('r', this.heads, this.projects, () => Promise.all([
      this.heads.toArray(), this.projects.toCollection().primaryKeys(),
    ]))
    const known = new Set(heads.map(head => head.id))
    const there = new Set(ids)
    const without = ids.filter(id => !known.has(id))
    const made = (await this.projects.bulkGet(without)).filter(record => record !== undefined).map(headOf)
    if (made.length) await this.heads.bulkPut(made)
    return [...heads.filter(head => there.has(head.id)), ...made].sort((a, b) => a.updatedAt < b.updatedAt ? 1 : -1)
  }

  /** Heads of the projects that are not in the bin. */
  async list(): Promise<Head[]> {
    return (await this.allHeads()).filter(head => !head.deletedAt)
  }

  /** The project. Throws `ProjectMissing`, `ProjectNewer` or `ProjectDamaged`. */
  async read(id: string): Promise<ProjectRecord> {
    const record = await this.projects.get(id)
    if (!record || record.deletedAt) throw new ProjectMissing(id)
    return sound(record)
  }

  async create(plan: Plan, now = new Date()): Promise<ProjectRecord> {
    const at = now.toISOString()
    const record: ProjectRecord = { id: newId(), plan, revision: 1, createdAt: at, updatedAt: at }
    await this.transaction('rw', this.projects, this.heads, async () => {
      await this.projects.add(record)
      await this.heads.put(headOf(record))
    })
    return record
  }

  /**
   * Keeps a plan. Where another tab has kept something since, both are joined, and this tab's own plan becomes an
   * earlier state when not everything of it could be. A project in the bin comes out of it: somebody is still working
   * on it. Throws `ProjectMissing`.
   */
  async save(id: string, { plan, base, baseRevision, tab, number, adopted, trail }: Save,
    now = new Date()): Promise<Saved> {
    return this.transaction('rw', [this.projects, this.heads, this.states, this.trails], async () => {
      const stored = await this.projects.get(id)
      if (!stored) throw new ProjectMissing(id)
      notNewer(stored)
      // A revision that only this tab has gone past is its own, though it may not have heard of it.
      const isMine = stored.revision === baseRevision
        || (stored.savedBy === tab && (stored.alone ?? stored.revision) <= baseRevision)
      const joined = isMine ? { plan, collisions: [] } : merge(base, plan, sound(stored).plan)
      const at = now.toISOString()
      if (joined.collisions.length) await this.keepState(
        id, { kind: 'before', label: 'This tab\'s, before it was joined with another tab\'s', plan }, now,
      )
      if (dayOf(stored.updatedAt) !== dayOf(at)) await this.keepState(id, { kind: 'day', plan: stored.plan },
        new Date(stored.updatedAt))
      const revision = stored.revision + 1
      const record: ProjectRecord = {
        id, plan: joined.plan, revision, createdAt: stored.createdAt, updatedAt: at, savedBy: tab,
        alone: stored.savedBy === tab ? stored.alone ?? stored.revision : stored.revision,
        seen: latest({ ...stored.seen, ...adopted, [tab]: number }),
      }
      await this.projects.put(record)
      await this.heads.put(headOf(record))
      if (trail) await this.trails.put({ ...trail, id })
      return { revision, at, ...joined }
    })
  }

  /** Puts a project back that has gone from under an open tab. */
  async putBack(id: string, { plan, tab, number, trail }: Save, now = new Date()): Promise<Saved> {
    return this.transaction('rw', [this.projects, this.heads, this.trails], async () => {
      const at = now.toISOString()
      const record: ProjectRecord = {
        id, plan, revision: 1, createdAt: at, updatedAt: at, savedBy: tab, alone: 1, seen: { [tab]: number },
      }
      await this.projects.put(record)
      await this.heads.put(headOf(record))
      if (trail) await this.trails.put({ ...trail, id })
      return { revision: 1, at, plan, collisions: [] }
    })
  }

  /** Another name, from the list. Throws `ProjectMissing`, `ProjectNewer` or `ProjectDamaged`. */
  async rename(id: string, name: string, now = new Date()): Promise<void> {
    await this.transaction('rw', this.projects, this.heads, async () => {
      const stored = await this.projects.get(id)
      if (!stored) throw new ProjectMissing(id)
      // Whoever has it open joins this with what it does.
      const { savedBy: _by, alone: _alone, ...rest } = sound(stored)
      const record = { ...rest, plan: { ...stored.plan, name }, revision: stored.revision + 1,
        updatedAt: now.toISOString() }
      await this.projects.put(record)
      await this.heads.put(headOf(record))
    })
  }

  async putInBin(ids: readonly string[], now = new Date()): Promise<void> {
    // What went by until now does not count for these.
    await this.emptyOldBin(now)
    await this.transaction('rw', this.projects, this.heads, async () => {
      const deletedAt = now.toISOString()
      for (const id of ids) {
        await this.projects.update(id, { deletedAt })
        await this.heads.update(id, { deletedAt, binMs: 0 })
      }
    })
  }

  async takeFromBin(ids: readonly string[]): Promise<void> {
    await this.transaction('rw', this.projects, this.heads, async () => {
      await this.projects.where('id').anyOf([...ids]).modify((record) => {
        delete record.deletedAt
      })
      await this.heads.where('id').anyOf([...ids]).modify((head) => {
        delete head.deletedAt
        delete head.binMs
      })
    })
  }

  /** Removes projects for good, with everything that is kept of them. */
  async remove(ids: readonly string[]): Promise<void> {
    await this.transaction('rw', [this.projects, this.heads, this.states, this.trails, this.photos], async () => {
      await this.projects.bulkDelete([...ids])
      await this.heads.bulkDelete([...ids])
      await this.trails.bulkDelete([...ids])
      await this.states.where('project').anyOf([...ids]).delete()
      await this.photos.where('project').anyOf([...ids]).delete()
    })
  }

  /**
   * Looks at the clock, lets the time since the latest one seen count for what is in the bin, and removes what has been
   * there for thirty days. A clock that is set back, and on again, counts nothing twice; each leap ahead counts a week
   * at most. Gives how many were removed.
   */
  async emptyOldBin(now = new Date()): Promise<number> {
    const binned = (await this.allHeads()).filter(head => head.deletedAt)
    const latestSeen = (await this.facts.get('clock'))?.value
    const sinceMs = latestSeen === undefined ? 0 : now.getTime() - Date.parse(latestSeen)
    if (latestSeen === undefined || sinceMs > 0) await this.facts.put({ key: 'clock', value: now.toISOString() })
    if (sinceMs <= 0) return 0
    const gone = Math.min(MAX_BETWEEN_LOOKS_MS, sinceMs)
    const old = binned.filter(head => (head.binMs ?? 0) + gone >= BIN_MS).map(head => head.id)
    await this.remove(old)
    await this.transaction('rw', this.heads, async () => {
      for (const head of binned) await this.heads.update(head.id, { binMs: (head.binMs ?? 0) + gone })
    })
    return old.length
  }

  /** Earlier states of a project, the newest first. */
  async statesOf(id: string): Promise<PastState[]> {
    const states = await this.states.where('project').equals(id).toArray()
    return states.sort((a, b) => {
      if (a.at < b.at) return 1
      return a.at > b.at ? -1 : (b.key ?? 0) - (a.key ?? 0)
    })
  }

  /** Keeps a state of a project; the oldest of its kind go when there are many. */
  async keepState(id: string, state: Pick<PastState, 'kind' | 'label' | 'plan'>, now = new Date()): Promise<void> {
    await this.transaction('rw', this.states, async () => {
      await this.states.add({ project: id, at: now.toISOString(), ...state })
      const keys = await this.states.where('project').equals(id).filter(other => other.kind === state.kind)
        .primaryKeys()
      const max = MAX_STATES[state.kind]
      if (keys.length > max) await this.states.bulkDelete(keys.slice(0, keys.length - max) as number[])
    })
  }
}

/** Throws `ProjectNewer`: what a newer Voltaris kept is not written over, whoever has it open. */
function notNewer(record: ProjectRecord): void {
  const state = soundness(record.plan)
  if (state.state === 'newer') throw new ProjectNewer(record, state.version)
}

/** The record as it can be worked with. Throws `ProjectNewer` or `ProjectDamaged`. */
function sound(record: ProjectRecord): ProjectRecord {
  const state = soundness(record.plan)
  if (state.state === 'newer') throw new ProjectNewer(record, state.version)
  if (state.state === 'damaged') throw new ProjectDamaged(record, state.message)
  return { ...record, plan: completed(record.plan) }
}

const dayOf = (at: string) => {
  const date = new Date(at)
  return `${date.getFullYear()}-${date.getMonth()}-${date.getDate()}`
}

/** The numbers of the tabs that wrote last: keys stand in the order of their first writing. */
const latest = (seen: Record<string, number>): Record<string, number> =>
  Object.fromEntries(Object.entries(seen).slice(-MAX_SEEN))
