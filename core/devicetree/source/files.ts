/** Files that were given together with a source: by upload, from a folder, in a request. */
import type { Files } from './types'

/** A name without `.` and `..`; what leads out of the top is dropped. */
function plain(path: string): string {
  const steps: string[] = []
  for (const step of path.replace(/\\/g, '/').split('/')) {
    if (step === '..') steps.pop()
    else if (step && step !== '.') steps.push(step)
  }
  return steps.join('/')
}

const folderOf = (file: string) => file.includes('/') ? file.slice(0, file.lastIndexOf('/') + 1) : ''

/**
 * Files by their names, with or without folders. An include is looked for beside the file that wants it, then by its
 * path from any folder (as with include folders), then by its last name, where one file alone has that.
 */
export function givenFiles(texts: ReadonlyMap<string, string>,
  binaries: ReadonlyMap<string, Uint8Array> = new Map()): Files {
  const find = (names: readonly string[], wanted: string, from: string): string | null => {
    const beside = plain(folderOf(from) + wanted)
    const path = plain(wanted)
    const exact = names.find(name => plain(name) === beside)
      ?? names.find(name => plain(name) === path || plain(name).endsWith(`/${path}`))
    if (exact !== undefined) return exact
    const last = path.slice(path.lastIndexOf('/') + 1)
    const alike = names.filter(name => plain(name).split('/').at(-1) === last)
    return alike.length === 1 ? alike[0]! : null
  }
  return {
    read: (wanted, from) => {
      const file = find([...texts.keys()], wanted, from)
      return file === null ? null : { text: texts.get(file)!, file }
    },
    bytes: (wanted, from) => {
      const file = find([...binaries.keys()], wanted, from)
      return file === null ? null : binaries.get(file)!
    },
  }
}
