/** The logbook as it is looked through: by stage, by words, and what was marked. */
import type { LogEntry } from './types'

export interface LogSieve {
  /** Null for every stage. */
  stage: LogEntry['stage'] | null
  /** Each of its words must be there, in any order, whatever the case. */
  words: string
  isMarked: boolean
}

/** Entries that go through, the newest first; those of one moment stay as they were written. */
export function siftLog(log: readonly LogEntry[], { stage, words, isMarked }: LogSieve): LogEntry[] {
  const wanted = words.toLocaleLowerCase('en').split(/\s+/).filter(Boolean)
  return log
    .filter(entry => (stage === null || entry.stage === stage) && (!isMarked || entry.marked === true)
      && wanted.every(word => entry.text.toLocaleLowerCase('en').includes(word)))
    .sort((a, b) => b.at.localeCompare(a.at))
}
