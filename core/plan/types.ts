/**
 * The plan document: what the maker wants, and nothing that can be computed from it.
 * `docs/plan-format.md` says the same for people who write one by hand.
 */
import type { Board, Origin, Part } from '../catalogue/types'
import type { KeptWorksheet, PowerPlan } from './power'

export const PLAN_FORMAT = 'voltaris-plan'
export const PLAN_VERSION = 1

/** The stages, in the order of the work: the one table of them. */
export const STAGES = [
  { id: 'board', name: 'Board' }, { id: 'parts', name: 'Parts' }, { id: 'wiring', name: 'Wiring' }, { id: 'power', name: 'Power' },
  { id: 'boot', name: 'Boot files' }, { id: 'build', name: 'Build' }, { id: 'bringup', name: 'Bring-up' },
] as const

export type StageId = typeof STAGES[number]['id']
export const STAGE_IDS: readonly StageId[] = STAGES.map(stage => stage.id)

/** Where a terminal is wired: a header position, or another part's terminal such as `expander.A3`. */
export interface Assignment {
  position?: number
  terminal?: string
  /** The maker set it: placement leaves it alone. */
  fixed?: boolean
}

/** What stands between a part's terminal and the place it is wired to. */
export interface Between {
  kind: 'divider' | 'level-shifter' | 'transistor' | 'mosfet' | 'opto-coupler' | 'rs232-converter' | 'pull-up'
  /** Pull-up: resistor from the wire to 3V3. */
  ohm?: number
  /** Divider, from the driving side: resistor in the wire. */
  upperOhm?: number
  /** Divider: resistor from the tap to ground. */
  lowerOhm?: number
  /** Shifter: made for open-drain lines, or for push-pull ones of high speed. */
  fit?: 'open-drain' | 'push-pull'
}

/** A load on a relay's contact. */
export interface ContactLoad {
  contact: number
  what: string
  kind: 'AC' | 'DC'
  voltageV: number
  currentA: number
}

export interface PlanPart {
  /** Letters, digits and dashes; unique in the plan. */
  id: string
  /** A part of the catalogue. */
  type: string
  name: string
  options?: Record<string, string>
  loads?: ContactLoad[]
  notes?: string
  [unknown: string]: unknown
}

export interface BootFile {
  path?: string
  /** The file as it is on the card, kept byte for byte. */
  text: string
  /** `latin1` when the bytes were no UTF-8: one character is one byte. */
  encoding?: 'utf-8' | 'latin1'
  /** The kernel command line, if the maker pasted it. */
  commandLine?: string
  /** How the file is written; told from its text where nothing is said. */
  dialect?: 'key-value' | 'extlinux' | 'environment'
  /** Which generation of image the card holds. */
  image?: 'older' | 'newer'
  /** Files that the boot file includes, by name. */
  includes?: Record<string, string>
  /** Overlays of the maker's own: source text, or a blob in base64. */
  overlays?: { name: string, kind: 'source' | 'blob', content: string }[]
  /** A base tree of the maker's own, for rehearsing: a blob in base64. */
  base?: { name: string, content: string }
  /** Parts for which the overlay that Voltaris makes is loaded. */
  made?: string[]
  /** Parts whose lines are switched off. */
  off?: string[]
  /** What happens to lines of parts that are off or gone. */
  whenOff?: 'comment' | 'remove'
  /** The files before they were written, newest last. */
  before?: { at: string, text: string, commandLine?: string }[]
}

export interface Scan {
  id: string
  /** Bus the scan was made on, e.g. `i2c1`. */
  bus: string
  text: string
  takenAt: string
}

export interface LogEntry {
  id: string
  at: string
  stage: StageId
  text: string
}

/** An I²C bus that the kernel makes on two plain lines. */
export interface SoftwareBus {
  /** `i2c-soft-1` … */
  id: string
  /** Header positions. */
  sda: number
  scl: number
}

export interface Plan {
  format: typeof PLAN_FORMAT
  version: number
  name: string
  story?: string
  notes?: string
  board: string | null
  supply: { type: string, currentMa?: number } | null
  parts: PlanPart[]
  /** `part.terminal` → place. */
  assignments: Record<string, Assignment>
  /** `part.terminal` → what stands between. */
  between: Record<string, Between>
  /** Header positions nobody may be placed on, with the maker's reason. */
  reserved: { position: number, reason?: string }[]
  /** Which circuit serves a controller, where the board lets one choose: `{ "uart0": "full" }`. */
  controllers: Record<string, string>
  /** Clock of a bus in Hz, by bus; what is not here runs at its usual speed. */
  clocks: Record<string, number>
  /** Buses made by the kernel on plain lines. */
  softwareBuses: SoftwareBus[]
  /** Add-on boards from the lowest up, by part; those not here follow in plan order. */
  stack: string[]
  /** Weights of placement replaced by the maker, by name. */
  weights: Record<string, number>
  /** Boards and parts of the maker's own, kept in the plan so that it stands by itself. */
  own: { boards: Board[], parts: Part[] }
  /** Limits replaced by the maker, by key, e.g. `board.lineMaxMa`. */
  limits: Record<string, { value: number, origin?: Origin }>
  /** How it is fed, cooled and clocked. */
  power: PowerPlan
  /** Worksheets that were used. */
  worksheets: KeptWorksheet[]
  boot: BootFile | null
  build: {
    /** Wires done, by wire key. */
    done: string[]
    /** `part.terminal` → colour and length chosen by the maker. */
    wires: Record<string, { colour?: string, lengthM?: number }>
  }
  scans: Scan[]
  log: LogEntry[]
  [unknown: string]: unknown
}
