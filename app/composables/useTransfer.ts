/** Plans in and out of the browser: import, export, and the demo projects. */
import type { ProjectRecord } from '~/database/projects'
import type { Problem } from '~~/core/failure'
import type { Plan } from '~~/core/plan/types'

export type ImportResult = { ok: true, record: ProjectRecord } | { ok: false, file: string, problems: Problem[] }

const MOST_BYTES = 4 * 1024 * 1024

export function useTransfer() {
  const database = useDatabase()

  /** Reads a plan file into a new project; on any problem nothing changes. */
  async function importFile(file: File): Promise<ImportResult> {
    const refuse = (message: string): ImportResult => ({ ok: false, file: file.name, problems: [{ path: '', message }] })
    if (file.size > MOST_BYTES) return refuse(`The file has ${(file.size / 1024 / 1024).toFixed(1)} MiB; a plan has at most 4.`)
    // The reader brings its schema library, which the rest of the application can do without.
    const { readPlanText } = await import('~~/core/plan/read')
    const read = readPlanText(await file.text())
    if (!read.ok) return { ok: false, file: file.name, problems: read.problems }
    return { ok: true, record: await database.create(read.plan) }
  }

  function exportPlan(plan: Plan): void {
    download(fileName(plan.name, '.voltaris.json'), JSON.stringify(plan, null, 2) + '\n', 'application/json')
  }

  /** Adds the three demo projects as new ones. */
  async function loadDemo(): Promise<void> {
    const { demoPlans } = await import('~~/demo')
    for (const plan of [...demoPlans].reverse()) await database.create(plan)
  }

  return { importFile, exportPlan, loadDemo }
}
