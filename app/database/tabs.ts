/**
 * Which tabs are open. Each holds a lock of its own as long as it lives; the browser lets go of it whatever
 * ends the tab.
 */
import { newId } from './id'

const NAME = 'voltaris.tab.'
let mine: string | null = null

/** The id of this tab. */
export function thisTab(): string {
  if (mine) return mine
  const tab = mine = newId()
  // Held until the tab ends. Browsers keep this interface to pages that came over a secure connection or from
  // this machine.
  globalThis.navigator?.locks?.request(NAME + tab, () => new Promise(() => {}))
    .catch(error => console.error('This tab could not be marked as open:', error))
  return tab
}

/** Writers of this page that are at work, and how many there have been. */
const writers = new Set<string>()
let count = 0

/** A name for one opening of a project in this tab: it tells its edits from those of an earlier one. */
export function newWriter(): string {
  const writer = `${thisTab()}~${++count}`
  writers.add(writer)
  return writer
}

/** The writer has let go of its project. */
export function endWriter(writer: string): void {
  writers.delete(writer)
}

/** Tells which writers are still at work: their edits are not taken up by others. */
export async function livingWriters(): Promise<(writer: string) => boolean> {
  const held = (await globalThis.navigator?.locks?.query())?.held ?? []
  const others = new Set(held.flatMap(({ name }) => name?.startsWith(NAME) ? [name.slice(NAME.length)] : []))
  others.delete(thisTab())
  return writer => writers.has(writer) || others.has(writer.split('~')[0]!)
}
