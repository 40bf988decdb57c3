/**
 * Projects as files: a plan by itself, or with its photos as a zip of plan and pictures, which comes in again whole.
 */
import { strFromU8, strToU8 } from 'fflate'
import { writePlanText } from '~~/core/plan/text-of'
import type { Plan } from '~~/core/plan/types'
import { readZip, zipOf, ZipError, type BundledFile } from '~~/core/documents/zip'
import { isJpeg, MAX_PHOTO_BYTES, photosNamed } from './photos'
import type { PhotoRecord } from './records'
import { freeName } from '~/composables/useFormat'

export const ENDING = '.voltaris.json'
/** Pictures lie here, each under its own id. */
const FOLDER = 'photos/'
const IN_FOLDER = /(^|\/)photos\//
const LIMITS = { maxBytes: 512 * 1024 * 1024, maxFiles: 10_000 }

export interface Bundle { plan: Plan, photos: readonly Pick<PhotoRecord, 'id' | 'jpeg'>[] }

/** Plans under their own names with the pictures that they name. */
export function bundleOf(projects: readonly Bundle[]): Uint8Array {
  const taken = new Set<string>()
  const pictures = new Map<string, Uint8Array>()
  const plans = projects.map(({ plan, photos }): BundledFile => {
    const named = new Set(photosNamed(plan.log).map(({ id }) => id))
    for (const { id, jpeg } of photos) if (named.has(id)) pictures.set(id, jpeg)
    return { path: freeName(plan.name, taken) + ENDING, bytes: strToU8(writePlanText(plan)) }
  })
  return zipOf([...plans, ...[...pictures].map(([id, bytes]) => ({ path: `${FOLDER}${id}.jpg`, bytes }))])
}

export interface Unbundled {
  plans: { file: string, text: string }[]
  /** By id. */
  pictures: Map<string, Uint8Array>
  /** Sentences on what was left out. */
  left: string[]
}

/** What is in a zip of projects. Null where it is a backup. Throws `ZipError`. */
export function unbundle(bytes: Uint8Array): Unbundled | null {
  // A folder around it, as a zip made by hand has one, and what one system puts beside it are no matter.
  const files = readZip(bytes, LIMITS).filter(({ path }) => !/(^|\/)(__MACOSX\/|\._)/.test(path))
  if (files.some(({ path }) => path === 'backup.json')) return null
  const pictures = new Map<string, Uint8Array>()
  const left: string[] = []
  for (const { path, bytes: jpeg } of files.filter(file => IN_FOLDER.test(file.path))) {
    const id = /\bphotos\/([A-Za-z0-9-]{1,60})\.jpg$/.exec(path)?.[1]
    if (id === undefined) left.push(`"${path}" is no photo that a plan can name`)
    else if (!isJpeg(jpeg) || jpeg.length > MAX_PHOTO_BYTES) left.push(`"${path}" is no JPEG of up to 4 MiB`)
    else pictures.set(id, jpeg)
  }
  const plans = files.filter(({ path }) => !IN_FOLDER.test(path) && path.endsWith('.json'))
    .map(({ path, bytes: text }) => ({
      file: path.split('/').at(-1)!, text: strFromU8(text),
    }))
  if (!plans.length) throw new ZipError(`it holds no plan: nothing in it ends in ${ENDING}`)
  return { plans, pictures, left }
}
