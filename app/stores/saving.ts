/** Saves one project as it changes: journal first, then database, one save after the other. */
import { dropPending, writePending, type Slots } from '~/database/journal'
import { RevisionConflict, type ProjectDatabase, type ProjectRecord } from '~/database/projects'
import type { Plan } from '~~/core/plan/types'

export type SaveState
  = | { state: 'saved', at: string }
    | { state: 'saving' }
    | { state: 'failed', message: string }
    | { state: 'conflict', theirs: ProjectRecord }

export class Saver {
  private wanted: Plan | null = null
  private running: Promise<void> | null = null
  /** This tab, for telling its own saves from others'. */
  private readonly tab = crypto.randomUUID()

  constructor(
    private readonly database: ProjectDatabase,
    private readonly slots: Slots,
    readonly id: string,
    public revision: number,
    private readonly onState: (state: SaveState) => void,
    private readonly onSaved: (revision: number) => void = () => {},
  ) {}

  /** True while something is not in the database yet. */
  get dirty(): boolean {
    return this.wanted !== null || this.running !== null
  }

  save(plan: Plan): void {
    writePending(this.slots, this.id, { plan, baseRevision: this.revision, savedBy: this.tab })
    this.wanted = plan
    this.onState({ state: 'saving' })
    this.running ??= this.run().finally(() => {
      this.running = null
    })
  }

  /** Resolves when everything asked for so far is saved or has failed. */
  async settled(): Promise<void> {
    while (this.running) await this.running
  }

  private async run(): Promise<void> {
    while (this.wanted) {
      const plan = this.wanted
      this.wanted = null
      try {
        this.revision = await this.database.save(this.id, plan, this.revision, new Date(), this.tab)
        this.onSaved(this.revision)
        if (!this.wanted) {
          dropPending(this.slots, this.id)
          this.onState({ state: 'saved', at: new Date().toISOString() })
        }
        else writePending(this.slots, this.id, { plan: this.wanted, baseRevision: this.revision, savedBy: this.tab })
      }
      catch (error) {
        this.wanted = null
        if (error instanceof RevisionConflict) this.onState({ state: 'conflict', theirs: error.theirs })
        else this.onState({ state: 'failed', message: (error as Error).message })
        return
      }
    }
  }
}
