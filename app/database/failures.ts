/** What went wrong with the browser's storage, and what to do about it, in one sentence each. */

export type StorageTrouble = 'full' | 'blocked' | 'silent' | 'refused' | 'deleted' | 'gone' | 'newer' | 'damaged' | 'other'

/** The storage did not answer. */
export class StorageSilent extends Error {
  constructor(seconds: number) {
    super(`The browser's storage has not answered for ${seconds} seconds.`)
    this.name = 'StorageSilent'
  }
}

/** Another tab holds an older form of the database open. */
export class StorageBlocked extends Error {
  constructor() {
    super('Another tab of Voltaris holds the storage open in an older form.')
    this.name = 'StorageBlocked'
  }
}

const KINDS: readonly [RegExp, StorageTrouble][] = [
  [/QuotaExceeded/, 'full'], [/StorageBlocked/, 'blocked'], [/StorageSilent|Timeout/, 'silent'],
  [/ProjectMissing/, 'gone'], [/ProjectNewer/, 'newer'], [/ProjectDamaged/, 'damaged'], [/DatabaseClosed/, 'deleted'],
  [/OpenFailed|MissingAPI|Security|InvalidState|InvalidAccess|NotAllowed|UnknownError/, 'refused'],
]

/** Which trouble an error is. Names are looked for through its causes: the library wraps them. */
export function troubleOf(error: unknown): StorageTrouble {
  for (let at = error as { name?: string, inner?: unknown, message?: string } | undefined, depth = 0; at && depth < 5; depth++) {
    // An error of the library names the one of the browser in its text.
    const kind = KINDS.find(([name]) => name.test(at!.name ?? '') || (name.source === 'QuotaExceeded' && /QuotaExceeded/.test(at!.message ?? '')))
    if (kind) return kind[1]
    at = at.inner as typeof at
  }
  return 'other'
}

const SENTENCES: Readonly<Record<Exclude<StorageTrouble, 'other' | 'gone' | 'newer' | 'damaged'>, string>> = {
  full: 'The browser\'s storage is full. Empty the bin, export and delete old projects, or free space on the disk; then try again.',
  blocked: 'Another tab of Voltaris holds the storage open in an older form. Close the other tabs, then try again.',
  silent: 'The browser\'s storage does not answer. Close other tabs of Voltaris or start the browser anew; until then nothing is kept.',
  refused: 'This browser does not let Voltaris keep anything: private windows, blocked site data and damaged profiles are the usual reasons. '
    + 'What is open can still be exported.',
  deleted: 'The browser\'s storage for Voltaris was closed or deleted, e.g. by "clear site data". What is open here is still in this tab.',
}

/** The trouble in words: what, and what to do. */
export function inWords(error: unknown): string {
  const trouble = troubleOf(error)
  if (trouble in SENTENCES) return SENTENCES[trouble as keyof typeof SENTENCES]
  const message = error instanceof Error ? error.message : String(error)
  return /[.!?]$/.test(message) ? message : `${message}.`
}

/** Waits for an answer of the storage, but not for ever. Throws `StorageSilent`. */
export function answered<T>(work: PromiseLike<T>, seconds = 8): Promise<T> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(() => reject(new StorageSilent(seconds)), seconds * 1000)
    work.then(resolve, reject).then(() => clearTimeout(timer), () => clearTimeout(timer))
  })
}
