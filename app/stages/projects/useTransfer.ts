/** Plans in and out of the browser: import, export, the demo projects, and backups of everything. */
import { answered, inWords } from '~/database/failures'
import { readPending, unsaved } from '~/database/journal'
import type { ProjectRecord } from '~/database/projects'
import { useSlots } from '~/database/slots'
import type { Problem } from '~~/core/failure'
import { completed } from '~~/core/plan/create'
import { applyEdit } from '~~/core/plan/edits'
import { isRecord } from '~~/core/plan/same'
import { writePlanText } from '~~/core/plan/text-of'
import type { Plan } from '~~/core/plan/types'

export type ImportResult = { ok: true, name: string } | { ok: false, file: string, problems: readonly Problem[] }

const MOST_BYTES = 4 * 1024 * 1024
const MOST_BACKUP_BYTES = 512 * 1024 * 1024
const ENDING = '.voltaris.json'

export function useTransfer() {
  const database = useDatabase()

  /** Reads a plan file into a new project; on any problem nothing changes. */
  async function importFile(file: File): Promise<ImportResult> {
    const refuse = (message: string): ImportResult => ({ ok: false, file: file.name, problems: [{ path: '', message }] })
    if (file.size > MOST_BYTES) return refuse(`The file has ${(file.size / 1024 / 1024).toFixed(1)} MiB; a plan has at most 4.`)
    if ((await file.slice(0, 2).text()) === 'PK') {
      return refuse('This is a zip. A backup is brought back by Backup, Bring backups back; of a zip of projects take the files out first.')
    }
    // The reader brings its schema library, which the rest of the application can do without.
    const { readPlanText } = await import('~~/core/plan/read')
    try {
      const text = await file.text()
      const isSheet = /^\s*<!doctype html/i.test(text.slice(0, 200))
      const plan = isSheet ? (await import('~~/core/share/sheet')).planTextOfSheet(text) : text
      if (plan === null) return refuse('This page carries no plan. A sheet that Voltaris saved does.')
      const read = readPlanText(plan)
      if (!read.ok) return { ok: false, file: file.name, problems: read.problems }
      const { plan: kept } = await answered(database.create(read.plan))
      return { ok: true, name: kept.name }
    }
    catch (error) {
      return refuse(inWords(error))
    }
  }

  function exportPlan(plan: Plan): void {
    download(fileName(plan.name, ENDING), writePlanText(plan), 'application/json')
  }

  /** A record as it lies in the storage, whatever it is. */
  function exportRecord(record: unknown): void {
    const name = isRecord(record) && isRecord(record.plan) && typeof record.plan.name === 'string' ? record.plan.name : 'damaged project'
    download(fileName(name, '.record.json'), JSON.stringify(record, null, 2) + '\n', 'application/json')
  }

  /** The plan with what another tab has not got into the storage yet. Throws what reading throws. */
  async function wholePlan(id: string): Promise<Plan> {
    const record: ProjectRecord = await answered(database.read(id))
    const edits = readPending(useSlots(), id).flatMap(pending => unsaved(pending, record.seen ?? {}))
    return completed(edits.reduce((plan, { edit }) => applyEdit(plan, edit).plan, record.plan))
  }

  /** One project as a file, several as a zip of files under their own names. */
  async function exportProjects(ids: readonly string[]): Promise<void> {
    const plans = await Promise.all(ids.map(wholePlan))
    if (plans.length === 1) return exportPlan(plans[0]!)
    const { zipOf } = await import('~~/core/zip')
    const taken = new Set<string>()
    download('voltaris-projects.zip', zipOf(plans.map(plan => (
      { path: freeName(plan.name, taken) + ENDING, bytes: new TextEncoder().encode(writePlanText(plan)) }
    ))), 'application/zip')
  }

  /** Adds the three demo projects as new ones. */
  async function loadDemo(): Promise<void> {
    const { demoPlans } = await import('~~/demo')
    for (const plan of [...demoPlans].reverse()) await answered(database.create(plan))
  }

  /** Hands out a backup of everything, or of what changed since the last one. Gives how many projects are in it. */
  async function backUp(since?: string): Promise<number> {
    const { makeBackup } = await import('~/database/backup')
    const now = new Date()
    const { name, bytes, projects } = await makeBackup(database, useSlots(), since, now)
    download(name, bytes, 'application/zip')
    await answered(database.facts.put({ key: 'backup', value: now.toISOString() }))
    return projects
  }

  /** Brings backups back; a sentence on what came of it. Throws with the reason, and nothing has changed then. */
  async function restore(files: readonly File[]): Promise<string> {
    const large = files.find(file => file.size > MOST_BACKUP_BYTES)
    if (large) throw new Error(`"${large.name}" has ${Math.round(large.size / 1024 / 1024)} MiB; a backup of at most 512 is read.`)
    const { restoreBackups } = await import('~/database/backup')
    const zips = await Promise.all(files.map(async file => new Uint8Array(await file.arrayBuffer())))
    const { added, same, beside, renewed } = await restoreBackups(database, useSlots(), zips)
    const said = [
      ...added.length ? [`${added.length} came back`] : [], ...renewed.length ? [`${renewed.length} brought up to the later backup`] : [],
      ...beside.length ? [`${beside.length} had changed here and came in beside: ${beside.slice(0, 3).join(', ')}`] : [],
      ...same ? [`${same} ${same === 1 ? 'was' : 'were'} here already`] : [],
    ]
    return said.length ? `${said.join('; ')}.` : 'The backup holds no project.'
  }

  return { importFile, exportPlan, exportRecord, exportProjects, loadDemo, backUp, restore }
}
