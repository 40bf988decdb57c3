/** What lies in the browser's database. */
import type { Plan } from '~~/core/plan/types'
import type { Trail } from '~~/core/plan/trail'

export interface ProjectRecord {
  id: string
  plan: Plan
  /** Rises by one at every save. */
  revision: number
  createdAt: string
  updatedAt: string
  /** The tab that saved last, and the revision after which nobody else has saved. */
  savedBy?: string
  alone?: number
  /** The number of the last edit that the record holds of each tab. */
  seen?: Record<string, number>
  /** Set while the project waits in the bin. */
  deletedAt?: string
}

/** What the list of projects shows: read without the plans. */
export interface Head {
  id: string
  name: string
  story: string
  parts: number
  board: string | null
  createdAt: string
  updatedAt: string
  deletedAt?: string
  /** Time that has gone by in the bin, as far as the clock can be trusted. */
  binMs?: number
  /** What keeps the project from being opened. */
  trouble?: { kind: 'newer' | 'damaged', message: string }
}

/** An earlier state of a project. */
export interface PastState {
  key?: number
  project: string
  at: string
  /** The last of its day; marked by the person; before something that replaced much. */
  kind: 'day' | 'mark' | 'before'
  label?: string
  plan: Plan
}

export interface TrailRecord extends Trail {
  id: string
}

/** A picture of a project, made small, as JPEG. */
export interface PhotoRecord {
  project: string
  id: string
  at: string
  widthPx: number
  heightPx: number
  jpeg: Uint8Array
}

/** Small things that are known of the whole: when the clock was last looked at, when the last backup was made. */
export interface Fact {
  key: string
  value: string
}

/** Another tab put something else there, e.g. its data was cleared in the browser. */
export class ProjectMissing extends Error {
  constructor(readonly id: string) {
    super(`There is no project "${id}" in this browser.`)
    this.name = 'ProjectMissing'
  }
}

/** A newer Voltaris wrote it: it is left as it is. */
export class ProjectNewer extends Error {
  constructor(readonly record: unknown, version: number) {
    super(
      `This project was kept by a newer Voltaris (version ${version} of the plan). It is left as it is: load the page `
      + 'anew to get the newer one.',
    )
    this.name = 'ProjectNewer'
  }
}

/** The stored record is none that can be worked with. */
export class ProjectDamaged extends Error {
  constructor(readonly record: unknown, what: string) {
    super(
      `The stored record of this project is damaged: ${what}. It is left as it is; take it back from its earlier `
      + 'states, or save the record to a file.',
    )
    this.name = 'ProjectDamaged'
  }
}
