/** Findings on files, with the place in the text and fixes that are changes of text. */
import type { Board } from '../../catalogue/types'
import type { ClockPlan } from '../../plan/power'
import type { TextChange } from '../../plan/text'
import type { Code } from '../../vocabulary/codes'
import type { Figure, Severity } from '../../vocabulary/finding'
import type { BootFiles, Effective } from '../scope/effective'
import type { OverlayNeed } from '../../overlays/asks/fit'
import type { Need } from '../../overlays/asks/needs'

export type { TextChange }

export interface TextFix {
  label: string
  /** `''` is the boot file, `cmdline.txt` the command line, any other name an included file. */
  file: string
  changes: TextChange[]
}

export interface LintFinding {
  /** Stable, e.g. `boot.key-unknown`. */
  code: Code
  severity: Severity
  file: string
  /** 1-based. */
  line: number
  from: number
  to: number
  title: string
  /** What will happen, then what to do. */
  sentence: string
  figures: Figure[]
  fixes: TextFix[]
  /** Parts of the plan that it is about. */
  partIds: string[]
}

/** What a plan adds to the reading of its files. */
export interface PlanSide {
  needs: readonly Need[]
  /** Line → part that has it in the plan. */
  lineOwners: ReadonlyMap<number, { partId: string, name: string, serves: string, compatible?: string }>
  /** Line → part that drives it against whatever else would. */
  outputs: ReadonlyMap<number, { partId: string, name: string, serves: string }>
  /** The clock that the plan asks for: a rule of the plan speaks of it. */
  clock: ClockPlan
  /** Parts with a PWM output that the kernel drives. */
  pwmUsers: readonly { partId: string, name: string }[]
  /** Parts that the kernel knows, with the overlay made for each and those of the library that its file asks for. */
  loads: readonly { partId: string, name: string, made: string, isMade: boolean, library: readonly OverlayNeed[] }[]
  /** Controllers that parts of the plan lie on, with those parts. */
  buses: ReadonlyMap<string, { partIds: string[], names: string[] }>
}

export interface LintInput {
  files: BootFiles
  board: Board | null
  /** Which generation of image the card holds: on newer ones the file lies under `/boot/firmware/`. */
  image?: 'older' | 'newer'
  plan?: PlanSide
}

export interface LintContext extends LintInput {
  effective: Effective
}

export type LintRule = (context: LintContext) => LintFinding[]

export { withChanges as applyChanges } from '../../plan/text'
