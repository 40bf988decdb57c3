/** Judges a plan off the main thread: for plans whose boot files are too long to be read between two letters. */
import { explainFiles, type Explained } from '~~/core/boot/explain'
import { filesOf } from '~~/core/boot/files'
import { lintBoot, planSide } from '~~/core/boot/lint'
import { shippedCatalogue } from '~~/core/catalogue'
import { evaluateFacts } from '~~/core/evaluate'
import { gatherFacts } from '~~/core/facts/gather'
import type { Plan } from '~~/core/plan/types'

export interface Look { file: string, line: number }

/** So many explained lines are handed over at once: those around the one that is looked at. */
const MAX_LINES = 80
let explained: Explained[] = []

/** Explained lines of a file around one of them, and where the file ends. */
function around({ file, line }: Look) {
  const all = explained.filter(entry => entry.file === file)
  const at = all.findIndex(entry => entry.line >= line)
  const first = Math.max(0, Math.min(all.length - MAX_LINES, (at < 0 ? all.length : at) - MAX_LINES / 2))
  return { file, lines: all.slice(first, first + MAX_LINES), last: all.at(-1)?.line ?? 0 }
}

export const service = {
  judge(plan: Plan, look: Look) {
    const facts = gatherFacts(plan, shippedCatalogue)
    const files = filesOf(plan, facts.board)
    explained = explainFiles(files, facts.board)
    return {
      report: evaluateFacts(facts),
      findings: lintBoot({ files, board: facts.board, plan: planSide(facts),
        ...(plan.boot?.image && { image: plan.boot.image }) }),
      window: around(look),
    }
  },
  around,
}

export type JudgeService = typeof service
