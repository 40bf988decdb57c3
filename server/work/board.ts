/** The simulated board: lines typed at it, one after the other, from the moment that it is switched on. */
import Joi from 'joi'
import { modelOf } from '../../core/diagnosis/table'
import { MAX_LINE, Session } from '../../core/simulated/session'
import { shippedCatalogue } from '../../core/catalogue'
import { gatherFacts } from '../../core/facts/gather'
import { readPlan } from '../../core/plan/read'
import { bodyFrom, treeWork } from './bodies'
import { unusable } from './problem'

/** A sitting is short; whoever wants more goes on with the command or in the browser. */
const MAX_LINES = 200

interface Sitting { plan: object, faults: string[], tools: 1 | 2, lines: string[] }

const sitting = Joi.object<Sitting>({
  plan: Joi.object().unknown().required(),
  faults: Joi.array().items(Joi.string().max(500)).max(4).default([]),
  tools: Joi.number().valid(1, 2).default(1),
  lines: Joi.array().items(Joi.string().allow('').max(MAX_LINE)).max(MAX_LINES).default([]),
})

/** `{ plan, faults?, tools?, lines? }` → what each line prints, and the lamps at the end. */
export async function boardSitting(body: string) {
  const { plan, faults, tools, lines } = bodyFrom(body, sitting)
  const read = readPlan(plan)
  if (!read.ok) throw unusable('plan', read.problems)
  const facts = gatherFacts(read.plan, shippedCatalogue)
  if (!facts.board) throw unusable('plan', [{ path: 'plan.board', message: 'The plan has no board: choose one.' }])
  const known = faults.length ? treeWork('plan.boot.base', () => modelOf(facts)).table.faults : []
  const changes = faults.flatMap((name, i) => {
    const fault = known.find(({ id }) => id === name)
    if (!fault) throw unusable('body', [{ path: `faults.${i}`, message: `The plan has no fault "${name}".` }])
    return fault.changes
  })
  const session = treeWork('plan.boot.base', () => new Session(facts, { changes, lineTools: tools }))
  const shown = []
  for (const line of lines) shown.push(await session.run(line))
  return { shown, lamps: session.lamps,
    faults: known.filter(({ id }) => faults.includes(id)).map(({ id, title }) => ({ id, title })) }
}
