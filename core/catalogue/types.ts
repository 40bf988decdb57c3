/**
 * The vocabulary of the catalogue: boards, parts and supplies as they stand in their files. What each field is, and
 * what its check lets through, is declared in `shapes/`.
 */
import type { Board } from './shapes/board'
import type { Part } from './shapes/part'
import type { PowerItem, SupplyUnit } from './shapes/power'

export type * from './shapes/board'
export type * from './shapes/common'
export type * from './shapes/kernel'
export type * from './shapes/part'
export type * from './shapes/power'
export type * from './shapes/starter'

/** All that the core knows of hardware. Immutable; the same object serves every evaluation. */
export interface Catalogue {
  boards: ReadonlyMap<string, Board>
  parts: ReadonlyMap<string, Part>
  supplies: ReadonlyMap<string, SupplyUnit>
  powerItems: ReadonlyMap<string, PowerItem>
}
