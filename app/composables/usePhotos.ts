/** Photos of the open project: made small, kept in the browser's database, and shown from there. */
import { answered, inWords } from '~/database/failures'
import { newId } from '~/database/id'
import { keepPhoto, MAX_PX } from '~/database/photos'
import type { PhotoRecord } from '~/database/records'
import type { PhotoRef } from '~~/core/plan/types'

/** Of JPEG, between small and good to read a label by. */
const QUALITY = 0.8

/**
 * The picture at most so wide and high, as JPEG, turned as it was held, without place, time or camera in it. Throws
 * where it is none.
 */
async function madeSmall(file: File): Promise<Blob> {
  const { default: Compressor } = await import('compressorjs')
  return new Promise((resolve, reject) => new Compressor(file, {
    strict: false, maxWidth: MAX_PX, maxHeight: MAX_PX, quality: QUALITY, mimeType: 'image/jpeg', convertSize: 0,
    success: resolve,
    error: () => reject(new Error('it is no picture that this browser can read. Save it as JPEG or PNG and take that')),
  }))
}

async function sizeOf(picture: Blob): Promise<{ widthPx: number, heightPx: number }> {
  const { width, height, close } = await createImageBitmap(picture).then(map => ({
    width: map.width, height: map.height, close: () => map.close(),
  }))
  close()
  return { widthPx: width, heightPx: height }
}

export function usePhotos() {
  const project = useProjectStore()
  const view = useViewStore()
  const database = useDatabase()
  const isTaking = ref(false)

  /** Keeps pictures of the project; those that cannot be are told by name. */
  async function take(files: readonly File[]): Promise<PhotoRef[]> {
    const refs: PhotoRef[] = []
    isTaking.value = true
    for (const file of files) {
      try {
        const picture = await madeSmall(file)
        const ref = { id: newId(), ...await sizeOf(picture) }
        const jpeg = new Uint8Array(await picture.arrayBuffer())
        await answered(keepPhoto(database, { ...ref, project: project.id!, at: new Date().toISOString(), jpeg }))
        refs.push(ref)
      }
      catch (error) {
        view.say(`"${file.name}" was not kept: ${inWords(error)}`, { tone: 'stop' })
      }
    }
    isTaking.value = false
    return refs
  }

  return { take, isTaking }
}

/**
 * The address of a picture as long as whoever shows it is there; null until it was read; `failure` says why
 * it cannot be.
 */
export function usePhotoUrl(id: () => string) {
  const project = useProjectStore()
  const database = useDatabase()
  const url = ref<string | null>(null)
  /** Why it is not shown. */
  const failure = ref<string | null>(null)
  const jpeg = shallowRef<Uint8Array | null>(null)
  const forget = () => {
    if (url.value) URL.revokeObjectURL(url.value)
    url.value = null
  }
  watch(id, async (wanted) => {
    let record: PhotoRecord | undefined
    try {
      record = await answered(database.photos.get([project.id!, wanted]))
    }
    catch (error) {
      return void (failure.value = inWords(error))
    }
    if (wanted !== id()) return
    forget()
    failure.value = record
      ? null
      : 'A photo is named here that is not in this browser: the plan came without its pictures.'
    jpeg.value = record?.jpeg ?? null
    if (record) url.value = URL.createObjectURL(new Blob([record.jpeg as BlobPart], { type: 'image/jpeg' }))
  }, { immediate: true })
  onScopeDispose(forget)
  return { url, failure, jpeg }
}
