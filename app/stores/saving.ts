/**
 * Keeps one project as it changes: journal first, then database, one save after the other. Where another tab has kept
 * something since, the database joins both, and this tab takes over what came of it. A save that failed is tried again
 * by itself and when asked.
 */
import { answered, inWords, troubleOf, type StorageTrouble } from '~/database/failures'
import { dropPending, writePending, type PendingEdit } from '~/database/journal'
import { ProjectMissing, type ProjectDatabase, type Save, type Saved } from '~/database/projects'
import type { Slots } from '~/database/slots'
import type { Edit } from '~~/core/plan/edits'
import type { MergeConflict } from '~~/core/plan/merge'
import type { Trail } from '~~/core/plan/trail'
import type { Plan } from '~~/core/plan/types'

export type SaveState
  = | { state: 'saved', at: string }
    | { state: 'saving' }
    | { state: 'failed', message: string, trouble: StorageTrouble }

/** What the tab has to do with a save. */
export interface Tab {
  /** Its id. */
  id: string
  /** The plan as it stands in the tab, and the trail that leads to it. */
  plan: () => Plan
  trail: () => Trail
  onState: (state: SaveState) => void
  onSaved?: (revision: number) => void
  /** Another tab's changes came in: `kept` was `sent` joined with them. Gives the plan that the tab shows now. */
  onJoined: (sent: Plan, kept: Plan, collisions: readonly MergeConflict[]) => Plan
}

/** A failed save is tried again after this time. */
const AGAIN_MS = 10_000

export class Saver {
  private wanted = false
  private running: Promise<void> | null = null
  private number = 0
  private pending: PendingEdit[] = []
  private adopted: Record<string, number> = {}
  private timer: ReturnType<typeof setTimeout> | undefined

  constructor(
    private readonly database: ProjectDatabase,
    private readonly slots: Slots,
    readonly id: string,
    /** The plan that is stored, as far as this tab knows, and its revision. */
    public base: Plan,
    public revision: number,
    private readonly tab: Tab,
    seen: Readonly<Record<string, number>> = {},
  ) {
    this.number = seen[tab.id] ?? 0
  }

  /** True while something is not in the database yet. */
  get dirty(): boolean {
    return this.wanted || this.running !== null
  }

  /** An edit was made: it is written down at once, and kept as soon as the one before is. */
  save(label: string, edit: Edit): void {
    this.pending.push({ number: ++this.number, label, edit })
    this.writeDown()
    this.want()
  }

  /** Takes in that edits of a tab that is gone are part of the plan now. */
  adopt(tab: string, number: number): void {
    this.adopted[tab] = number
    this.want()
  }

  /** Tries again after a failure. */
  retry(): void {
    if (!this.running && this.wanted) this.start()
  }

  /** Puts the project back where it has gone from under this tab. */
  async putBack(): Promise<void> {
    const { plan, request, number } = this.request()
    const saved = await answered(this.database.putBack(this.id, request))
    this.wanted = this.number > number
    this.taken(saved, plan, number)
    if (this.wanted) this.start()
    else this.tab.onState({ state: 'saved', at: saved.at })
  }

  /** Resolves when everything asked for so far is saved or has failed. */
  async settled(): Promise<void> {
    while (this.running) await this.running
  }

  /** The tab lets go of the project: nothing is tried again. */
  close(): void {
    clearTimeout(this.timer)
  }

  private want(): void {
    this.wanted = true
    this.tab.onState({ state: 'saving' })
    this.start()
  }

  private start(): void {
    clearTimeout(this.timer)
    this.running ??= this.run().finally(() => {
      this.running = null
    })
  }

  private writeDown(): void {
    writePending(this.slots, this.id, { tab: this.tab.id, baseRevision: this.revision, edits: this.pending })
  }

  private request(): { plan: Plan, request: Save, number: number } {
    const plan = this.tab.plan()
    const { number } = this
    return {
      plan, number,
      request: {
        plan, base: this.base, baseRevision: this.revision, tab: this.tab.id, number, adopted: { ...this.adopted },
        trail: this.tab.trail(),
      },
    }
  }

  private async run(): Promise<void> {
    while (this.wanted) {
      this.wanted = false
      const { plan, request, number } = this.request()
      try {
        const saved = await answered(this.database.save(this.id, request))
        this.taken(saved, plan, number)
        if (!this.wanted) this.tab.onState({ state: 'saved', at: saved.at })
      }
      catch (error) {
        this.wanted = true
        this.tab.onState({ state: 'failed', message: inWords(error), trouble: troubleOf(error) })
        // What has been taken away comes back only when asked for.
        if (!(error instanceof ProjectMissing)) this.timer = setTimeout(() => this.retry(), AGAIN_MS)
        return
      }
    }
  }

  /** What came of a save: what is kept needs no journal any more, and what another tab did is shown. */
  private taken(saved: Saved, sent: Plan, number: number): void {
    this.revision = saved.revision
    this.base = saved.plan
    this.pending = this.pending.filter(entry => entry.number > number)
    if (this.pending.length) this.writeDown()
    else dropPending(this.slots, this.id, this.tab.id)
    this.tab.onSaved?.(this.revision)
    if (saved.plan !== sent && this.tab.onJoined(sent, saved.plan, saved.collisions) !== saved.plan) this.wanted = true
  }
}
