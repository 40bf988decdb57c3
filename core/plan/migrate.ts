/**
 * Brings an older plan document up to the current version, one step at a time.
 * A step takes a document of version n and gives one of version n + 1; it keeps fields it does not know.
 */
import { PLAN_VERSION } from './types'

export type Document = Record<string, unknown>
export type Migration = (document: Document) => Document

/** Step by the version it starts from. Version 1 is the first there is: the next format adds its step here. */
export const MIGRATIONS: Readonly<Record<number, Migration>> = {}

/**
 * The document at version `target`. Laws: a current document comes back as it is; the version never falls.
 * A step that is missing leaves the document as it is, for the schema to refuse.
 */
export function migrate(document: Document, steps = MIGRATIONS, target = PLAN_VERSION): Document {
  let current = document
  while (typeof current.version === 'number' && current.version < target) {
    const step = steps[current.version]
    if (!step) break
    current = { ...step(current), version: current.version + 1 }
  }
  return current
}
