/** The vocabulary of the catalogue: boards, parts and supplies as they stand in their files. */
import type { Board } from './types/board'
import type { Origin } from './types/common'
import type { Part } from './types/part'

export type * from './types/board'
export type * from './types/common'
export type * from './types/part'

export interface SupplyUnit {
  id: string
  name: string
  summary: string
  kind: 'adapter' | 'power-bank' | 'solar-battery' | 'internal-usb' | 'din-rail'
  voltageV: number
  currentMa: number
  /** Energy store behind it, if any. */
  capacityMah?: number
  cellV?: number
  efficiency?: number
  origin: Origin
  cautions?: string[]
}

/** All that the core knows of hardware. Immutable; the same object serves every evaluation. */
export interface Catalogue {
  boards: ReadonlyMap<string, Board>
  parts: ReadonlyMap<string, Part>
  supplies: ReadonlyMap<string, SupplyUnit>
}
