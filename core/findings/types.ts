/** One vocabulary for everything Voltaris judges. */
import type { Origin } from '../catalogue/types'
import type { Facts } from '../facts/types'
import type { Edit } from '../plan/edits'
import type { StageId } from '../plan/types'
import type { Need } from '../boot/needs'
import type { Merged } from '../boot/own/merge'
import type { BootLine } from '../boot/dialects/key-value'
import type { Power } from '../power/report'
import type { SignalFigures } from '../signals/figures'
import type { Worksheet } from '../worksheets'

/** `stop`: it will not work or something is damaged. `caution`: it may not. `note`: good to know. */
export type Severity = 'stop' | 'caution' | 'note'

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
  /** Line of the boot file, 1-based. */
  bootLine?: number
}

export interface Figure {
  label: string
  value: number | string
  unit?: string
  limit?: number | string
  origin?: Origin
  /** Key under which the maker can replace the limit. */
  limitKey?: string
}

export interface Fix {
  label: string
  edits: Edit[]
}

export interface Finding {
  /** Stable, e.g. `level.too-high`. */
  code: string
  /** Stable within a plan: the code and what it is about. */
  id: string
  severity: Severity
  stages: StageId[]
  title: string
  /** What will happen, then what to do. */
  sentence: string
  subjects: Subject[]
  figures: Figure[]
  fixes: Fix[]
  /** A worksheet that works it out, filled with the finding's figures. */
  worksheet?: Worksheet
}

/** What a rule may look at. */
export interface Evidence {
  facts: Facts
  power: Power
  needs: Need[]
  bootLines: BootLine[]
  /** The boot file with the plan's lines in it. */
  merged: Merged
  signals: SignalFigures
}

export type Rule = (evidence: Evidence) => Finding[]
