/** Example code against the plan: read, held against it, put right; and a plan begun from it. */
import { evaluateFacts, type Report } from '../evaluate'
import type { Facts } from '../facts/types'
import { corrected, type Correction } from './correct'
import { heldAgainst, type Held } from './judge'
import { readProgram, type ReadAs } from './reading'
import type { ProgramReading } from './types'

export interface ProgramAgainstPlan {
  reading: ProgramReading
  held: Held[]
  counts: Record<Held['verdict'], number>
  /** The text put right. */
  corrected: string
  corrections: Correction[]
}

/** A text read and held against the plan. Never throws on a text. */
export function programAgainst(text: string, as: ReadAs, facts: Facts, report: Pick<Report, 'expected'> = evaluateFacts(
  facts)): ProgramAgainstPlan {
  const reading = readProgram(text, as)
  const held = heldAgainst(reading, facts, report.expected)
  const { text: mended, corrections } = corrected(text, held)
  const count = (verdict: Held['verdict']) => held.filter(entry => entry.verdict === verdict).length
  return {
    reading, held, counts: { agrees: count('agrees'), contradicts: count('contradicts'), unknown: count('unknown') },
    corrected: mended, corrections,
  }
}
