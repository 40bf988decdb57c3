/** One vocabulary for everything Voltaris judges: parts, nets, files, steps and measurements alike. */
import type { Origin } from '../catalogue/types'
import type { Code } from './codes'
import type { Edit } from '../plan/edits'
import type { StageId } from '../plan/types'
import type { Worksheet } from './worksheets'

/** `stop`: it will not work or something is damaged. `caution`: it may not. `note`: good to know. */
export type Severity = 'stop' | 'caution' | 'note'

/** The gravest first. */
export const GRAVITY: Readonly<Record<Severity, number>> = { stop: 0, caution: 1, note: 2 }

/** A stretch of one of the plan's files. */
export interface TextPlace {
  /** `''` is the boot file, `cmdline.txt` the command line, any other name an included file. */
  file: string
  /** 1-based. */
  line: number
  /** Offsets in the text. */
  from: number
  to: number
}

export interface Subject {
  partId?: string
  /** `part.terminal` */
  terminal?: string
  position?: number
  busId?: string
  address?: number
  rail?: string
  /** Node of the power tree. */
  node?: string
  /** Conductor of the netlist. */
  conductor?: string
  /** Place in a file of the plan. */
  text?: TextPlace
}

export interface Figure {
  label: string
  value: number | string
  unit?: string
  limit?: number | string
  origin?: Origin
  /** Key under which the maker can replace the limit. */
  limitKey?: string
  /** Figure of a node of the power tree that is the limit, and can be replaced there. */
  replaces?: { node: string, figure: string }
}

export interface Fix {
  label: string
  /** Changes of the plan and of its files; they are made one after another and undone as one. */
  edits: Edit[]
  /** It helps and does not mend it all: the finding stays. */
  isPartial?: true
}

export interface Finding {
  /** Stable, e.g. `level.too-high`. */
  code: Code
  /** Stable within a plan: the code and what it is about. */
  id: string
  severity: Severity
  /** Every stage at which it counts; the first is the one where it is mended. */
  stages: StageId[]
  title: string
  /** What will happen, then what to do. */
  sentence: string
  subjects: Subject[]
  figures: Figure[]
  fixes: Fix[]
  /** A worksheet that works it out, filled with the finding's figures. */
  worksheet?: Worksheet
  /** The maker judged it acceptable as it stands: it does not count. */
  aside?: { reason: string, at: string }
  /** It was set aside, and counts again: it is graver than it was, or its figures are others. */
  lapsed?: { reason: string, at: string, because: 'graver' | 'figures' }
}
