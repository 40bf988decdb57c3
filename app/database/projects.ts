/** Projects in the browser: one record each, with a revision that rises by one at every save. */
import Dexie, { type EntityTable } from 'dexie'
import { completed } from '~~/core/plan/create'
import type { Plan } from '~~/core/plan/types'

export interface ProjectRecord {
  id: string
  plan: Plan
  revision: number
  createdAt: string
  updatedAt: string
  /** The tab that saved last. */
  savedBy?: string
  /** Set while the project waits in the bin. */
  deletedAt?: string
}

/** Another tab saved the project since this one read it. */
export class RevisionConflict extends Error {
  constructor(readonly theirs: ProjectRecord) {
    super('The project was changed in another tab.')
    this.name = 'RevisionConflict'
  }
}

/** The project is gone, e.g. its data was cleared in the browser. */
export class ProjectMissing extends Error {
  constructor(id: string) {
    super(`There is no project "${id}" in this browser.`)
    this.name = 'ProjectMissing'
  }
}

const DAYS_IN_BIN = 30

export class ProjectDatabase extends Dexie {
  projects!: EntityTable<ProjectRecord, 'id'>

  constructor(name = 'voltaris') {
    super(name)
    this.version(1).stores({ projects: 'id, updatedAt' })
    this.projects.hook('reading', record => record && { ...record, plan: completed(record.plan) })
  }

  /** Projects that are not in the bin, the last changed first. */
  async list(): Promise<ProjectRecord[]> {
    const all = await this.projects.orderBy('updatedAt').reverse().toArray()
    return all.filter(record => !record.deletedAt)
  }

  async read(id: string): Promise<ProjectRecord> {
    const record = await this.projects.get(id)
    if (!record || record.deletedAt) throw new ProjectMissing(id)
    return record
  }

  async create(plan: Plan, now = new Date()): Promise<ProjectRecord> {
    const at = now.toISOString()
    const record: ProjectRecord = { id: crypto.randomUUID(), plan, revision: 1, createdAt: at, updatedAt: at }
    await this.projects.add(record)
    return record
  }

  /**
   * Saves on top of the revision this caller last saw, and gives the new revision.
   * A project that another tab put in the bin comes out of it: somebody is still working on it.
   * Throws `RevisionConflict` when somebody else saved in between, `ProjectMissing` when the project is gone.
   */
  async save(id: string, plan: Plan, baseRevision: number, now = new Date(), savedBy?: string): Promise<number> {
    return this.transaction('rw', this.projects, async () => {
      const stored = await this.projects.get(id)
      if (!stored) throw new ProjectMissing(id)
      if (stored.revision !== baseRevision) throw new RevisionConflict(stored)
      const revision = baseRevision + 1
      await this.projects.update(id, { plan, revision, updatedAt: now.toISOString(), deletedAt: undefined, savedBy })
      return revision
    })
  }

  async putInBin(id: string, now = new Date()): Promise<void> {
    await this.projects.update(id, { deletedAt: now.toISOString() })
  }

  async takeFromBin(id: string): Promise<void> {
    await this.projects.where('id').equals(id).modify((record) => {
      delete record.deletedAt
    })
  }

  /** Removes for good what has been in the bin for thirty days. */
  async emptyOldBin(now = new Date()): Promise<number> {
    const before = new Date(now.getTime() - DAYS_IN_BIN * 86_400_000).toISOString()
    return this.projects.filter(record => !!record.deletedAt && record.deletedAt < before).delete()
  }
}
