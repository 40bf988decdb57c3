/**
 * Everything that is kept in this browser as one zip, and back again. Plans lie in it as files that can be imported one
 * by one; beside them their records, earlier states and steps, and the settings. Restored into an empty browser it
 * gives the same again.
 */
import Joi from 'joi'
import { strFromU8, strToU8 } from 'fflate'
import { parseJson } from '~~/core/documents/json'
import { readPlan } from '~~/core/plan/read'
import { stockSchema } from '~~/core/stock/check'
import type { StockEntry } from '~~/core/stock/shape'
import { same } from '~~/core/plan/same'
import type { Plan } from '~~/core/plan/types'
import { readZip, zipOf, ZipError, type BundledFile } from '~~/core/documents/zip'
import { freeName } from '~/composables/useFormat'
import { headOf } from './heads'
import { newId } from './id'
import type { ProjectDatabase } from './projects'
import { isJpeg, photosOf } from './photos'
import type { PastState, PhotoRecord, ProjectRecord, TrailRecord } from './records'
import type { Slots } from './slots'

const FORMAT = 'voltaris-backup'
const VERSION = 1
const LIMITS = { maxBytes: 1024 * 1024 * 1024, maxFiles: 30_000 }
const SETTINGS = 'voltaris.'

interface Contents {
  format: typeof FORMAT
  version: number
  at: string
  /** Only what changed after this; everything where it is missing. */
  since?: string
  projects: { id: string, name: string, plan: string, record: string }[]
}

/** What is kept of a project beside its plan. */
interface Beside {
  record: Omit<ProjectRecord, 'plan'>
  binMs?: number
  states: Omit<PastState, 'key'>[]
  /** Each with where its picture lies in the zip; missing in a backup from before there were any. */
  photos?: (Omit<PhotoRecord, 'project' | 'jpeg'> & { path: string })[]
  trail: Omit<TrailRecord, 'id'> | null
}

export interface Backup { name: string, bytes: Uint8Array, projects: number }

/** A backup of everything, or of the projects that changed after `since`. */
export async function makeBackup(database: ProjectDatabase, slots: Slots, since?: string,
  now = new Date()): Promise<Backup> {
  const files: BundledFile[] = []
  const put = (path: string,
    value: unknown) => void files.push({ path, bytes: strToU8(JSON.stringify(value, null, 1) + '\n') })
  const contents: Contents = {
    format: FORMAT, version: VERSION, at: now.toISOString(), ...(since !== undefined && { since }), projects: [],
  }
  const taken = new Set<string>()
  for (const head of await database.allHeads()) {
    if (since !== undefined && head.updatedAt <= since && (head.deletedAt ?? '') <= since) continue
    const [record, states, trail, photos] = await Promise.all(
      [database.projects.get(head.id), database.statesOf(head.id), database.trails.get(head.id),
        photosOf(database, head.id)],
    )
    if (!record) continue
    const own = freeName(head.name, taken)
    const names = { plan: `projects/${own}.voltaris.json`, record: `records/${own}.json` }
    const { plan, ...rest } = record
    const { id: _, ...steps } = trail ?? { id: '' }
    const beside: Beside = {
      record: rest, ...(head.binMs !== undefined && { binMs: head.binMs }),
      trail: trail ? steps as Omit<TrailRecord, 'id'> : null,
      states: states.map(({ key: _key, ...state }) => state).reverse(),
      photos: photos.map(({ id, at, widthPx, heightPx, jpeg }) => {
        const path = `photos/${own}/${id}.jpg`
        files.push({ path, bytes: jpeg })
        return { id, at, widthPx, heightPx, path }
      }),
    }
    put(names.plan, plan)
    put(names.record, beside)
    contents.projects.push({ id: head.id, name: head.name, ...names })
  }
  put('stock.json', await database.stock.toArray())
  put('settings.json',
    Object.fromEntries(slots.keys().filter(key => key.startsWith(SETTINGS)).map(key => [key, slots.getItem(key)])))
  put('backup.json', contents)
  const day = now.toISOString().slice(0, 10)
  return {
    name: `voltaris-backup-${day}${since === undefined ? '' : '-changes'}.zip`, bytes: zipOf(files),
    projects: contents.projects.length,
  }
}

export interface Restored {
  added: string[]
  /** There already, just as in the backup. */
  same: number
  /** There in another state: the backup's came in beside it. */
  beside: string[]
  /** Came back before and unchanged since: now as in this, later backup. */
  renewed: string[]
}

/** A backup that cannot be read, with what is wrong in it. Nothing was changed. */
export class BackupError extends Error {
  constructor(message: string) {
    super(message)
    this.name = 'BackupError'
  }
}

const text = Joi.string().allow('').max(400)
const contentsSchema = Joi.object<Contents>({
  format: Joi.string().valid(FORMAT).required(), version: Joi.number().valid(VERSION).required(),
  at: Joi.string().isoDate().required(),
  since: Joi.string().isoDate(),
  projects: Joi.array()
    .items(Joi.object({ id: text.required(), name: text.required(), plan: text.required(), record: text.required() })
      .unknown()).required(),
}).unknown()
const besideSchema = Joi.object<Beside>({
  record: Joi.object({
    id: text.required(), revision: Joi.number().integer().required(), createdAt: Joi.string().allow(''),
    updatedAt: Joi.string().required(),
    savedBy: text, alone: Joi.number(), seen: Joi.object().pattern(Joi.string(), Joi.number()), deletedAt: Joi.string(),
  }).unknown().required(),
  binMs: Joi.number(),
  states: Joi.array().items(Joi.object({
    project: text.required(), at: Joi.string().required(),
    kind: Joi.string().valid('day', 'mark', 'before').required(), label: text,
    plan: Joi.object().unknown().required(),
  }).unknown()).required(),
  photos: Joi.array().items(Joi.object({
    id: text.pattern(/^[A-Za-z0-9-]{1,60}$/).required(), at: Joi.string().required(), path: text.required(),
    widthPx: Joi.number().integer().min(1).required(), heightPx: Joi.number().integer().min(1).required(),
  }).unknown()),
  trail: Joi.object({ base: Joi.object().unknown().required(), steps: Joi.array().required(),
    done: Joi.number().integer().required() })
    .unknown().allow(null).required(),
}).unknown()
const settingsSchema = Joi.object<Record<string, string>>().pattern(
  Joi.string().pattern(/^voltaris\./), Joi.string().allow('').max(2_000_000),
)

interface Found { plan: Plan, beside: Beside, at: string, pictures: Omit<PhotoRecord, 'project'>[] }

/** What is in a backup. Throws `BackupError`. */
export function readBackup(bytes: Uint8Array): {
  contents: Contents
  projects: Found[]
  settings: Record<string, string>
  /** Null in a backup from before there was one. */
  stock: StockEntry[] | null
} {
  let files: Map<string, Uint8Array>
  try {
    files = new Map(readZip(bytes, LIMITS).map(file => [file.path, file.bytes]))
  }
  catch (error) {
    if (!(error instanceof ZipError)) throw error
    throw new BackupError(`This file cannot be read as a backup: ${error.message}.`)
  }
  const read = <T>(path: string, schema: Joi.Schema<T>): T => {
    const file = files.get(path)
    if (!file) throw new BackupError(`This is no whole backup of Voltaris: "${path}" is not in it.`)
    const parsed = parseJson(strFromU8(file))
    if (!parsed.ok) throw new BackupError(`"${path}" in the backup is no JSON: ${parsed.message}.`)
    const { value, error } = schema.validate(parsed.value, { convert: false })
    if (error) throw new BackupError(`"${path}" in the backup cannot be used: ${error.message}.`)
    return value as T
  }
  const contents = read('backup.json', contentsSchema)
  const projects = contents.projects.map((entry) => {
    const plan = read(entry.plan, Joi.object().unknown()) as unknown as Plan
    const beside = read(entry.record, besideSchema)
    // A record that was damaged when the backup was made comes back as it was; one that was whole has to be whole.
    if (!headOf({ ...beside.record, plan }).trouble) {
      const checked = readPlan(plan)
      if (!checked.ok) throw new BackupError(
        `"${entry.plan}" in the backup cannot be used: ${checked.problems[0]!.path} ${checked.problems[0]!.message}.`,
      )
    }
    const pictures = (beside.photos ?? []).map(({ path, ...photo }) => {
      const jpeg = files.get(path)
      if (!jpeg || !isJpeg(jpeg)) throw new BackupError(`"${path}" in the backup is ${jpeg ? 'no JPEG' : 'missing'}.`)
      return { ...photo, jpeg }
    })
    return { plan, beside, at: contents.at, pictures }
  })
  const stock = files.has('stock.json') ? read('stock.json', stockSchema) : null
  return { contents, projects, settings: read('settings.json', settingsSchema), stock }
}

/**
 * Brings backups back: of a project that is in several of them the latest state counts. Nothing that is there is
 * lost. Throws `BackupError`.
 */
export async function restoreBackups(database: ProjectDatabase, slots: Slots,
  zips: readonly Uint8Array[]): Promise<Restored> {
  const backups = zips.map(readBackup).sort((a, b) => a.contents.at < b.contents.at ? -1 : 1)
  const latest = new Map(backups.flatMap(({ projects }) => projects).map(found => [found.beside.record.id, found]))
  const restored: Restored = { added: [], same: 0, beside: [], renewed: [] }
  for (const found of latest.values()) await restoreOne(database, found, restored)
  await restoreStock(database, backups.findLast(({ stock }) => stock !== null)?.stock ?? [])
  for (const { settings } of backups) {
    for (const [key, value] of Object.entries(settings)) if (slots.getItem(key) === null) slots.setItem(key, value)
  }
  return restored
}

/** What is not there comes back; what is there stays as it is counted now. */
async function restoreStock(database: ProjectDatabase, stock: readonly StockEntry[]): Promise<void> {
  await database.transaction('rw', database.stock, async () => {
    const there = new Set(await database.stock.toCollection().primaryKeys())
    await database.stock.bulkAdd(stock.filter(({ id }) => !there.has(id)))
  })
}

async function restoreOne(database: ProjectDatabase, { plan, beside, at, pictures }: Found,
  restored: Restored): Promise<void> {
  const { record, states, trail, binMs } = beside
  await database.transaction('rw', [
    database.projects, database.heads, database.states, database.trails, database.facts, database.photos,
  ], async () => {
    const there = await database.projects.get(record.id)
    if (there && same(there.plan, plan)) return void restored.same++
    const mark = `restored.${record.id}`
    const isUntouched = there && (await database.facts.get(mark))?.value === String(there.revision)
    if (isUntouched && record.revision <= there.revision) return void restored.same++
    const id = there && !isUntouched ? newId() : record.id
    const named = id === record.id ? plan : { ...plan, name: `${plan.name} (backup of ${at.slice(0, 10)})` }
    if (isUntouched) await database.remove([id])
    const whole = { ...record, id, plan: named }
    await database.projects.put(whole)
    await database.heads.put({ ...headOf(whole), ...(binMs !== undefined && { binMs }) })
    await database.states.bulkAdd(states.map(state => ({ ...state, project: id })))
    if (trail) await database.trails.put({ ...trail, id })
    await database.photos.bulkPut(pictures.map(picture => ({ ...picture, project: id })))
    await database.facts.put({ key: `restored.${id}`, value: String(record.revision) })
    restored[!there ? 'added' : isUntouched ? 'renewed' : 'beside'].push(named.name)
  })
}

const DAY_MS = 86_400_000

export interface BackupNews {
  /** When the last one was made. */
  last: string | null
  /** Projects that have changed since. */
  changed: number
  /** It is time to ask for one. */
  isDue: boolean
}

/**
 * Whether a backup is wanted: something has changed, and the last one is two weeks old; asked again a week after it
 * was put off.
 */
export async function backupNews(database: ProjectDatabase, now = new Date()): Promise<BackupNews> {
  const [last, putOff,
    heads] = await Promise.all([database.facts.get('backup'), database.facts.get('backup-later'), database.allHeads()])
  const changed = heads.filter(head => !head.trouble && head.updatedAt > (last?.value ?? ''))
  const first = changed.map(head => head.createdAt || head.updatedAt).sort()[0]
  const age = (at: string | undefined) => at === undefined ? Infinity : Math.abs(now.getTime() - Date.parse(at))
  return {
    last: last?.value ?? null, changed: changed.length,
    isDue: changed.length > 0 && age(last?.value ?? first) > 14 * DAY_MS && age(putOff?.value) > 7 * DAY_MS,
  }
}
