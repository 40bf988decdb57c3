/** Findings on files, with the place in the text and fixes that are changes of text. */
import type { Board } from '../../catalogue/types'
import type { Figure, Severity } from '../../findings/types'
import type { BootFiles, Effective } from '../scope/effective'
import type { Need } from '../needs'

/** Replaces a stretch of one file. Offsets are those of the text before. */
export interface TextChange {
  from: number
  to: number
  insert: string
}

export interface TextFix {
  label: string
  /** `''` is the boot file, `cmdline.txt` the command line, any other name an included file. */
  file: string
  changes: TextChange[]
}

export interface LintFinding {
  /** Stable, e.g. `boot.key-unknown`. */
  code: string
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

/** The text with changes made. They may stand in any order; of two that overlap the first in the text is made. */
export function applyChanges(text: string, changes: readonly TextChange[]): string {
  let at = 0
  let out = ''
  for (const { from, to, insert } of [...changes].sort((a, b) => a.from - b.from || a.to - b.to)) {
    if (from < at) continue
    out += text.slice(at, from) + insert
    at = to
  }
  return out + text.slice(at)
}
