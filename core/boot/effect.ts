/** What the plan's files, as they lie there, say and will do: read once for every rule, page, command and route. */
import type { Need } from '../overlays/asks/needs'
import { DeviceTreeError } from '../devicetree/types'
import type { Facts } from '../facts/types'
import { parseBoot, type BootLine } from './dialects/key-value'
import { filesOf } from './files'
import { lintBoot, planSide } from './lint'
import type { LintFinding } from './lint/types'
import { mergedFile } from './own/file'
import type { MergedFile } from './own/merge'
import { outcomesOf, type OtherTree } from './rehearse/outcomes'
import { otherTreeOf, rehearsedStart } from './rehearse/rehearse'
import type { PartOutcome } from './rehearse/types'
import { filtersOf } from './scope/filters'
import type { BootFiles } from './scope/effective'

export interface BootEffect {
  files: BootFiles
  /** Lines of the boot file in the key-value dialect; empty in the others. */
  lines: BootLine[]
  /** The boot file with the plan's lines in it. */
  merged: MergedFile
  lint: LintFinding[]
  /** What becomes of each part in a start; empty while the plan has no files or no board. */
  outcomes: PartOutcome[]
  /** The maker's own base tree cannot be read; in words. */
  baseTrouble: string | null
  /** The maker's own base tree is none of this board's. */
  otherTree: OtherTree | null
}

/** Reads the plan's files against what the plan needs of them. Never throws. */
export function effectOf(facts: Facts, needs: readonly Need[]): BootEffect {
  const { plan, board } = facts
  const files = filesOf(plan, board)
  const merged = mergedFile(facts, needs)
  const lint = plan.boot
    ? lintBoot({ files, board, plan: planSide(facts, needs), ...(plan.boot.image && { image: plan.boot.image }) })
    : []
  const effect: BootEffect = {
    files, lines: files.dialect === 'key-value' ? parseBoot(files.text, filtersOf(board)) : [], merged, lint,
    outcomes: [],
    baseTrouble: null, otherTree: otherTreeOf(facts),
  }
  if (!plan.boot || !board) return effect
  try {
    return { ...effect,
      outcomes: outcomesOf({ facts, needs, lint, merged, ...rehearsedStart(facts), otherTree: effect.otherTree }) }
  }
  catch (error) {
    if (!(error instanceof DeviceTreeError)) throw error
    return { ...effect, baseTrouble: error.message }
  }
}
