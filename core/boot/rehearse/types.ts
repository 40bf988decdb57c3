/** The vocabulary of a rehearsal: what the loader does, what the kernel meets, what comes alive. */
import type { Edit } from '../../plan/edits'
import type { DeviceTree } from '../../devicetree/types'

export interface BootStep {
  outcome: 'done' | 'failed' | 'skipped' | 'note'
  /** File and line it comes from; absent for what the loader does by itself. */
  file?: string
  line?: number
  title: string
  detail: string
}

/** A node of the tree that has a line. */
export interface LineClaim {
  /** As the board counts; null for lines of other chips. */
  line: number | null
  /** In words: its number, or chip and number. */
  where: string
  node: string
  /** `pins`: by its pin settings; `gpio`: asked for as a line; `interrupt`: listens on it. */
  as: 'pins' | 'gpio' | 'interrupt'
  /** Which way its driver makes it, where it was asked for as a line. */
  direction?: 'in' | 'out'
  /** Who had it before, where it was refused or lost. */
  clash?: string
}

export interface LineClash {
  what: 'line' | 'address' | 'select'
  /** Line number, `pmic_gpio 3`, `i2c1 0x68`, `spi0.0`. */
  where: string
  first: string
  second: string
  sentence: string
}

export interface DeviceNode {
  path: string
  what: string
  node: string
}

export type PartState
  /** Its driver binds, or its bus is there for its program. */
  = | 'alive'
    | 'dark'
  /** Nothing of it is the kernel's business. */
    | 'no-driver'

/** Why a part stays dark. */
export type DarkCause
  = | 'no-board' | 'unplaced' | 'off' | 'missing-line' | 'overlay-failed' | 'bus-off' | 'line-taken' | 'seat-taken'
    | 'console'
  /** Its driver finds its node, and not what it wants there. */
    | 'driver-wants'
  /** It answers at the address of another part; the address rule tells it. */
    | 'address-twin'
  /** The base tree is that of another kind of board. */
    | 'other-tree'

export interface PartOutcome {
  partId: string
  name: string
  state: PartState
  /** Of a part that stays dark. */
  cause?: DarkCause
  why: string
  /** What would bring it alive. */
  fix?: { label: string, line: string, edits: Edit[] }
}

export interface Rehearsal {
  steps: BootStep[]
  claims: LineClaim[]
  collisions: LineClash[]
  devices: DeviceNode[]
  parts: PartOutcome[]
  /** The tree as the kernel gets it. */
  tree: DeviceTree
}
