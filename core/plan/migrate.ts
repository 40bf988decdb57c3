/**
 * Brings an older plan document up to the current version, one step at a time.
 * A step takes a document of version n and gives one of version n + 1; it keeps fields it does not know.
 */
import { PLAN_VERSION } from './types'

export type Document = Record<string, unknown>
export type Migration = (document: Document) => Document

/** Step by the version it starts from. */
export const MIGRATIONS: Readonly<Record<number, Migration>> = {
  // Version 0 named one list of wires; version 1 keeps places by terminal.
  0: document => ({
    ...document,
    assignments: document.assignments ?? Object.fromEntries(
      (Array.isArray(document.wires) ? document.wires as { from: string, position: number }[] : [])
        .map(wire => [wire.from, { position: wire.position, fixed: true }])),
  }),
}

/**
 * The document at `PLAN_VERSION`. Laws: a current document comes back as it is; the version never falls.
 * A step that is missing leaves the document as it is, for the schema to refuse.
 */
export function migrate(document: Document, steps = MIGRATIONS): Document {
  let current = document
  while (typeof current.version === 'number' && current.version < PLAN_VERSION) {
    const step = steps[current.version]
    if (!step) break
    current = { ...step(current), version: current.version + 1 }
  }
  return current
}
