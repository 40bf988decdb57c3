/** Plans in and out of the browser: import, export, the demo projects, and backups of everything. */
import { answered, inWords } from '~/database/failures'
import { readPending, unsaved } from '~/database/journal'
import { keepPhoto, photosNamed, photosOf } from '~/database/photos'
import type { ProjectRecord } from '~/database/projects'
import { useSlots } from '~/database/slots'
import type { Problem } from '~~/core/documents/failure'
import { completed } from '~~/core/plan/create'
import { applyEdit } from '~~/core/plan/edits'
import { isRecord } from '~~/core/plan/same'
import { writePlanText } from '~~/core/plan/text-of'
import type { Plan } from '~~/core/plan/types'

/** What came of files that were to be taken in. */
export interface Imported {
  names: string[]
  /** Files of which nothing was kept, with the reasons. */
  refused: { file: string, problems: readonly Problem[] }[]
  /** Sentences on what did not come along with a project that did. */
  left: string[]
}

const MAX_BYTES = 4 * 1024 * 1024
const MAX_BACKUP_BYTES = 512 * 1024 * 1024
const ENDING = '.voltaris.json'

export function useTransfer() {
  const database = useDatabase()

  /** Keeps what was read as a new project, with the pictures that it names and that came along. */
  async function keep(file: string, text: string, pictures: ReadonlyMap<string, Uint8Array>,
    into: Imported): Promise<void> {
    // The reader brings its schema library, which the rest of the application can do without.
    const { readPlanText } = await import('~~/core/plan/read')
    const isSheet = /^\s*<!doctype html/i.test(text.slice(0, 200))
    const plan = isSheet ? (await import('~~/core/share/sheet')).planTextOfSheet(text) : text
    if (plan === null) throw new Error('This page carries no plan. A sheet that Voltaris saved does.')
    const read = readPlanText(plan)
    if (!read.ok) return void into.refused.push({ file, problems: read.problems })
    const record = await answered(database.create(read.plan))
    into.names.push(record.plan.name)
    try {
      for (const { id, widthPx, heightPx } of photosNamed(record.plan.log)) {
        const jpeg = pictures.get(id)
        if (jpeg) await answered(keepPhoto(database,
          { project: record.id, id, at: record.createdAt, widthPx, heightPx, jpeg }))
      }
    }
    catch (error) {
      into.left.push(`Not all photos of "${record.plan.name}" could be kept: ${inWords(error)}`)
    }
  }

  /**
   * Reads files into new projects, each plan of a zip into one of its own. What goes wrong with one is told and keeps
   * no other out.
   */
  async function importFiles(files: readonly File[]): Promise<Imported> {
    const into: Imported = { names: [], refused: [], left: [] }
    const guarded = async (file: string, work: () => Promise<void>) => {
      try {
        await work()
      }
      catch (error) {
        into.refused.push({ file, problems: [{ path: '', message: inWords(error) }] })
      }
    }
    for (const file of files) await guarded(file.name, () => importFile(file, into, guarded))
    return into
  }

  type Guarded = (file: string, work: () => Promise<void>) => Promise<void>
  async function importFile(file: File, into: Imported, guarded: Guarded): Promise<void> {
    const isZip = (await file.slice(0, 2).text()) === 'PK'
    const max = isZip ? MAX_BACKUP_BYTES : MAX_BYTES
    if (file.size > max) {
      throw new Error(`The file has ${(file.size / 1024 / 1024).toFixed(1)} MiB; ${max / 1024 / 1024} are read at most.`)
    }
    if (!isZip) return keep(file.name, await file.text(), new Map(), into)
    const { unbundle } = await import('~/database/transfer')
    const found = unbundle(new Uint8Array(await file.arrayBuffer()))
    if (!found) throw new Error('This is a backup: it is brought back by Backup, Bring backups back.')
    for (const { file: name, text } of found.plans) await guarded(name, () => keep(name, text, found.pictures, into))
    into.left.push(...found.left.map(words => `${words}.`))
  }

  function exportPlan(plan: Plan): void {
    download(fileName(plan.name, ENDING), writePlanText(plan), 'application/json')
  }

  /** A record as it lies in the storage, whatever it is. */
  function exportRecord(record: unknown): void {
    const name = isRecord(record) && isRecord(record.plan) && typeof record.plan.name === 'string'
      ? record.plan.name
      : 'damaged project'
    download(fileName(name, '.record.json'), JSON.stringify(record, null, 2) + '\n', 'application/json')
  }

  /** The plan with what another tab has not got into the storage yet. Throws what reading throws. */
  async function wholePlan(id: string): Promise<Plan> {
    const record: ProjectRecord = await answered(database.read(id))
    const edits = readPending(useSlots(), id).flatMap(pending => unsaved(pending, record.seen ?? {}))
    return completed(edits.reduce((plan, { edit }) => applyEdit(plan, edit).plan, record.plan))
  }

  /** The open plan with its photos: as a file, or as a zip where there are any. */
  async function exportWhole(id: string, plan: Plan): Promise<void> {
    const photos = plan.log.some(entry => entry.photos) ? await answered(photosOf(database, id)) : []
    if (!photos.length) return exportPlan(plan)
    const { bundleOf } = await import('~/database/transfer')
    download(fileName(plan.name, '.voltaris.zip'), bundleOf([{ plan, photos }]), 'application/zip')
  }

  /** One project as a file, several as a zip of files under their own names; with photos always as a zip. */
  async function exportProjects(ids: readonly string[]): Promise<void> {
    const projects = await Promise.all(ids.map(async id => ({ id, plan: await wholePlan(id) })))
    if (projects.length === 1) return exportWhole(projects[0]!.id, projects[0]!.plan)
    const bundles = await Promise.all(projects.map(async ({ id, plan }) => ({ plan,
      photos: await answered(photosOf(database, id)) })))
    const { bundleOf } = await import('~/database/transfer')
    download('voltaris-projects.zip', bundleOf(bundles), 'application/zip')
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
    const large = files.find(file => file.size > MAX_BACKUP_BYTES)
    if (large) throw new Error(`"${large.name}" has ${Math.round(large.size / 1024 / 1024)} MiB; a backup of at most `
      + '512 is read.')
    const { restoreBackups } = await import('~/database/backup')
    const zips = await Promise.all(files.map(async file => new Uint8Array(await file.arrayBuffer())))
    const { added, same, beside, renewed } = await restoreBackups(database, useSlots(), zips)
    const said = [
      ...added.length ? [`${added.length} came back`] : [],
      ...renewed.length ? [`${renewed.length} brought up to the later backup`] : [],
      ...beside.length ? [`${beside.length} had changed here and came in beside: ${beside.slice(0, 3).join(', ')}`] : [],
      ...same ? [`${same} ${same === 1 ? 'was' : 'were'} here already`] : [],
    ]
    return said.length ? `${said.join('; ')}.` : 'The backup holds no project.'
  }

  return { importFiles, exportPlan, exportWhole, exportRecord, exportProjects, loadDemo, backUp, restore }
}
