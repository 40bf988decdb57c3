/** The files before they were written or replaced: always kept, newest last. */
import type { BootFile } from '../plan/types'

/** Earlier files that are kept. */
export const MAX_BEFORE = 10

/** The next state of the files, with the present one kept when it differs. `at` is the time in ISO form. */
export function keepBefore(now: BootFile | null, next: BootFile, at: string): BootFile {
  if (!now || (now.text === next.text && now.commandLine === next.commandLine)
    || (now.text === '' && !now.commandLine)) return next
  const kept = { at, text: now.text, ...(now.commandLine !== undefined && { commandLine: now.commandLine }) }
  return { ...next, before: [...now.before ?? [], kept].slice(-MAX_BEFORE) }
}
