/** The vocabulary of the catalogue: boards, parts and supplies as they stand in their files. */
import type { Board } from './types/board'
import type { Part } from './types/part'
import type { PowerItem, SupplyUnit } from './types/power'

export type * from './types/board'
export * from './types/common'
export type * from './types/part'
export type * from './types/power'

/** All that the core knows of hardware. Immutable; the same object serves every evaluation. */
export interface Catalogue {
  boards: ReadonlyMap<string, Board>
  parts: ReadonlyMap<string, Part>
  supplies: ReadonlyMap<string, SupplyUnit>
  powerItems: ReadonlyMap<string, PowerItem>
}
