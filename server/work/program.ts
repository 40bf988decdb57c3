/** Programs held against plans, and plans begun from programs. */
import Joi from 'joi'
import { shippedCatalogue } from '../../core/catalogue'
import { gatherFacts } from '../../core/facts/gather'
import { readPlan } from '../../core/plan/read'
import { programAgainst } from '../../core/programs'
import { constantsOf } from '../../core/programs/correct'
import { LANGUAGE_NAMES } from '../../core/programs/names'
import { MAX_CHARACTERS, readProgram, type ReadAs } from '../../core/programs/reading'
import { planFrom } from '../../core/programs/start'
import { bodyFrom } from './bodies'
import { unusable } from './problem'

interface Text extends ReadAs { text: string }

const textFields = {
  text: Joi.string().allow('').max(MAX_CHARACTERS).required(), name: Joi.string().max(300),
  language: Joi.string().valid(...Object.keys(LANGUAGE_NAMES)), numbering: Joi.string().valid('line', 'header', 'own'),
}
const against = Joi.object<Text & { plan: object }>({ ...textFields, plan: Joi.object().unknown().required() })
const begun = Joi.object<Text & { board: string, supply?: string, called?: string }>({
  ...textFields, board: Joi.string().valid(...shippedCatalogue.boards.keys()).required(),
  supply: Joi.string().valid(...shippedCatalogue.supplies.keys()), called: Joi.string().max(300),
})

/** `{ plan, text, name?, language?, numbering? }` → what stands in the text, held against the plan, put right,
  and the plan as constants. */
export function programJob(body: string) {
  const { plan, text, ...as } = bodyFrom(body, against)
  const read = readPlan(plan)
  if (!read.ok) throw unusable('plan', read.problems)
  const facts = gatherFacts(read.plan, shippedCatalogue)
  const found = programAgainst(text, as, facts)
  return { ...found, constants: constantsOf(facts, found.reading.language, found.reading.numbering) }
}

/** `{ text, board, supply?, called?, … }` → a plan begun from the text, and what was left out. */
export function beginJob(body: string) {
  const { text, board, supply, called, ...as } = bodyFrom(body, begun)
  return planFrom(readProgram(text, as),
    { name: called ?? as.name ?? 'Begun from a text', board, supply: supply ?? null },
    shippedCatalogue)
}
