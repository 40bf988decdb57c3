/** What went wrong with the browser's storage, and what to do about it, in one sentence each. */

export type StorageTrouble = 'full' | 'blocked' | 'silent' | 'refused' | 'deleted' | 'gone' | 'newer' | 'damaged'
  | 'other'

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

/**
 * Which trouble an error is. Names are looked for through its causes: the library wraps them, and "closed" is what it
 * says of any.
 */
export function troubleOf(error: unknown): StorageTrouble {
  const chain = causesOf(error).map(({ name = '', message = '' }) =>
    // An error of the library names the one of the browser in its text.
    KINDS.find(([pattern]) => pattern.test(name))?.[1] ?? (/QuotaExceeded/.test(message) ? 'full' : null))
  return chain.find(trouble => trouble !== null && trouble !== 'deleted')
    ?? (chain.includes('deleted') ? 'deleted' : 'other')
}

function causesOf(error: unknown): { name?: string, message?: string }[] {
  const chain = []
  for (let at = error; typeof at === 'object' && at !== null
    && chain.length < 6; at = (at as { inner?: unknown }).inner) chain.push(at)
  return chain
}

const SENTENCES: Readonly<Record<Exclude<StorageTrouble, 'other' | 'gone' | 'newer' | 'damaged'>, string>> = {
  full: 'The browser\'s storage is full. Empty the bin, export and delete old projects, or free space on the disk; '
    + 'then try again.',
  blocked: 'Another tab of Voltaris holds the storage open in an older form. Close the other tabs, then try again.',
  silent: 'The browser\'s storage does not answer. Close other tabs of Voltaris or start the browser anew; until then '
    + 'nothing is kept.',
  refused: 'This browser does not let Voltaris keep anything: private windows, blocked site data and damaged profiles '
    + 'are the usual reasons. What is open can still be exported.',
  deleted: 'The browser\'s storage for Voltaris was closed or deleted, e.g. by "clear site data". '
    + 'A project that is open in a tab is still in that tab.',
}

/** The trouble in words: what, and what to do. */
export function inWords(error: unknown): string {
  const trouble = troubleOf(error)
  if (trouble in SENTENCES) return SENTENCES[trouble as keyof typeof SENTENCES]
  const message = error instanceof Error ? error.message : String(error)
  return /[.!?]$/.test(message) ? message : `${message}.`
}

let isBlocked = false

/** Told by the database: another tab keeps it from being opened, or does no more. */
export function noteBlocked(blocked: boolean): void {
  isBlocked = blocked
}

/** Waits for an answer of the storage, but not for ever. Throws `StorageSilent` or `StorageBlocked`. */
export function answered<T>(work: PromiseLike<T>, seconds = 8): Promise<T> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(() => reject(isBlocked ? new StorageBlocked() : new StorageSilent(seconds)),
      seconds * 1000)
    work.then(resolve, reject).then(() => clearTimeout(timer), () => clearTimeout(timer))
  })
}
