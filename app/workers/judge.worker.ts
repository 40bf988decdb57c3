/** Judges a plan off the main thread: for plans whose boot files are too long to be read between two letters. */
import { expose } from 'comlink'
import { explainFiles } from '~~/core/boot/explain'
import { filesOf } from '~~/core/boot/files'
import { lintBoot, planSide } from '~~/core/boot/lint'
import { shippedCatalogue } from '~~/core/catalogue'
import { evaluateFacts } from '~~/core/evaluate'
import { gatherFacts } from '~~/core/facts/gather'
import type { Plan } from '~~/core/plan/types'

const service = {
  judge(plan: Plan) {
    const facts = gatherFacts(plan, shippedCatalogue)
    const files = filesOf(plan, facts.board)
    return {
      report: evaluateFacts(facts),
      findings: lintBoot({ files, board: facts.board, plan: planSide(facts), ...(plan.boot?.image && { image: plan.boot.image }) }),
      explained: explainFiles(files, facts.board),
    }
  },
}

export type JudgeService = typeof service

expose(service)
