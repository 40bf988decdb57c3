/** The judgement on plans with long boot files: worked out by a worker, a little after the last letter. */
import { shallowRef } from 'vue'
import type { Report } from '~~/core/evaluate'
import type { Edit } from '~~/core/plan/edits'
import type { Plan } from '~~/core/plan/types'
import type { JudgeService, Look } from '~/workers/services/judge'
import { startWorker, within } from '~/workers/start'

export type Judgement = ReturnType<JudgeService['judge']>

/** Longer boot files than these, in letters, are not read between two keystrokes. */
const MAX_AT_ONCE = 60_000
/** So long after the last edit the reading begins. */
const PAUSE_MS = 250
/** Longer than the longest reading seen, by far. */
const MAX_MS = 60_000

/** Letters of all files of the plan that are read as text. */
export function bootLetters({ boot }: Plan): number {
  if (!boot) return 0
  return boot.text.length + (boot.commandLine?.length ?? 0)
    + Object.values(boot.includes ?? {}).reduce((sum, text) => sum + text.length, 0)
    + (boot.overlays ?? []).reduce((sum, overlay) => sum + overlay.content.length, 0)
}

export const isLong = (plan: Plan): boolean => bootLetters(plan) > MAX_AT_ONCE

const touchesBoot = (edit: Edit): boolean => edit.edit === 'set-boot' || edit.edit === 'edit-text'
  || (edit.edit === 'all' && edit.edits.some(touchesBoot))

/**
 * A report whose fixes leave the boot files alone: they were written for a text that is not, or no longer, that
 * of the plan.
 */
export function withoutBootFixes(report: Report): Report {
  return {
    ...report,
    findings: report.findings.map(finding =>
      finding.fixes.some(fix => fix.edits.some(touchesBoot)) ? { ...finding, fixes: [] } : finding),
  }
}

/** True when two plans differ in their boot files alone. */
function sameBesideBoot(a: Plan, b: Plan): boolean {
  const keys = new Set([...Object.keys(a), ...Object.keys(b)]) as Set<keyof Plan>
  keys.delete('boot')
  return [...keys].every(key => a[key] === b[key])
}

interface Asks {
  judge: (plan: Plan, look: Look) => Promise<Judgement>
  around: (look: Look) => Promise<Judgement['window']>
}

export class LateJudge {
  private end = () => {}
  private service: Asks | null = null
  private timer: ReturnType<typeof setTimeout> | undefined
  private asked = 0
  private readonly last = shallowRef<{ plan: Plan, judgement: Judgement, stale?: Judgement } | null>(null)
  private look: Look = { file: '', line: 1 }
  /** Explained lines around the one that is looked at. */
  readonly window = shallowRef<Judgement['window'] | null>(null)
  /** A reading is under way or about to begin. */
  readonly busy = shallowRef(false)

  constructor(private readonly onFailure: (message: string) => void) {}

  /**
   * What was last worked out, if it was for this plan but for its boot files; of an earlier text its fixes
   * are left out.
   */
  of(plan: Plan): Judgement | null {
    const { value } = this.last
    if (!value) return null
    if (value.plan === plan) return value.judgement
    if (!sameBesideBoot(value.plan, plan)) return null
    // The same object as long as it is of the same reading: what shows it is not drawn again with each letter.
    value.stale ??= {
      ...value.judgement, report: withoutBootFixes(value.judgement.report),
      findings: value.judgement.findings.map(finding => ({ ...finding, fixes: [] })),
    }
    return value.stale
  }

  /** Has the plan read, once nothing has changed for a moment; a later plan takes its place. */
  ask(plan: Plan): void {
    clearTimeout(this.timer)
    this.busy.value = true
    this.timer = setTimeout(() => void this.read(plan), PAUSE_MS)
  }

  /** Has the lines around another one explained; nothing happens while they are there already. */
  async lookAt(look: Look): Promise<void> {
    this.look = look
    const lines = this.window.value?.file === look.file ? this.window.value.lines : []
    const near = lines.length > 0 && lines[0]!.line <= look.line && look.line <= lines.at(-1)!.line
    if (near || !this.service || !this.last.value) return
    const window = await this.service.around(look)
    if (this.look === look) this.window.value = window
  }

  stop(): void {
    clearTimeout(this.timer)
    this.asked++
    this.end()
    this.service = null
    this.last.value = null
    this.window.value = null
    this.busy.value = false
  }

  private async read(plan: Plan): Promise<void> {
    const mine = ++this.asked
    try {
      const service = await this.open()
      const judgement = await service.judge(JSON.parse(JSON.stringify(plan)), this.look)
      if (mine !== this.asked) return
      this.last.value = { plan, judgement }
      this.window.value = judgement.window
    }
    catch (error) {
      if (mine !== this.asked) return
      this.onFailure(`The boot files could not be read beside the page: ${(error as Error).message}. Change them again `
        + 'to try once more.')
      this.end()
      this.service = null
    }
    this.busy.value = false
  }

  private async open(): Promise<Asks> {
    if (this.service) return this.service
    const { service, failed, end } = await startWorker('judge')
    this.end = end
    // Whichever comes first: an answer, or the news that there will be none.
    this.service = {
      judge: (plan, look) =>
        within(MAX_MS, Promise.race([service.judge(plan, look), failed]), 'the worker did not answer'),
      around: look => Promise.race([service.around(look), failed]),
    }
    return this.service
  }
}
