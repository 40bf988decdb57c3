/**
 * Photos of projects: the pictures lie here, one by one, and a project's logbook names them. They stay as long as the
 * project does, so that what is undone and what lies among the earlier states has its pictures still.
 */
import type { LogEntry, PhotoRef } from '~~/core/plan/types'
import type { ProjectDatabase } from './projects'
import type { PhotoRecord } from './records'

/** Wider and higher no photo is kept, in pixels. */
export const MAX_PX = 1600
/** A picture of that size is well below; anything larger was not made here. */
export const MAX_PHOTO_BYTES = 4 * 1024 * 1024
/** Pictures of a project. */
export const MAX_PHOTOS = 400

/** The first bytes of every JPEG. (JPEG File Interchange Format: start of image, then a marker) */
export const isJpeg = (bytes: Uint8Array): boolean => bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff

/** Photos that the entries name, each once. */
export const photosNamed = (log: readonly Pick<LogEntry, 'photos'>[]): PhotoRef[] =>
  [...new Map(log.flatMap(({ photos }) => photos ?? []).map(ref => [ref.id, ref])).values()]

/** Keeps a picture; the same one again is the same. Throws where the project has as many as it may. */
export async function keepPhoto(database: ProjectDatabase, photo: PhotoRecord): Promise<void> {
  await database.transaction('rw', database.photos, async () => {
    if (await database.photos.where('project').equals(photo.project).count() >= MAX_PHOTOS) {
      throw new Error(`This project has ${MAX_PHOTOS} photos, and more are not kept. Keep the others beside `
        + 'it as files.')
    }
    await database.photos.put(photo)
  })
}

/** All pictures of a project, in the order in which they came. */
export const photosOf = async (database: ProjectDatabase, project: string): Promise<PhotoRecord[]> =>
  (await database.photos.where('project').equals(project).toArray()).sort((a,
    b) => {
    if (a.at < b.at) return -1
    return a.at > b.at ? 1 : 0
  })

/** Gives a copy of a project the pictures of the first. */
export async function copyPhotos(database: ProjectDatabase, from: string, to: string): Promise<void> {
  await database.photos.bulkPut((await photosOf(database, from)).map(photo => ({ ...photo, project: to })))
}

const addressOf = (jpeg: Uint8Array) => new Promise<string>((resolve, reject) => {
  const reader = new FileReader()
  reader.onload = () => resolve(String(reader.result))
  reader.onerror = () => reject(reader.error ?? new Error('a photo could not be read'))
  reader.readAsDataURL(new Blob([jpeg as BlobPart], { type: 'image/jpeg' }))
})

/** Pictures of a project as data addresses, by their id: for paper. */
export async function picturesOf(database: ProjectDatabase, project: string): Promise<Map<string, string>> {
  const photos = await photosOf(database, project)
  return new Map(await Promise.all(photos.map(async ({ id, jpeg }) => [id, await addressOf(jpeg)] as const)))
}
