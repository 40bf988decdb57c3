/** What the routes do, by name: from the text of a body to the value that is answered. Runs in a worker thread. */
import { stepsOf } from '../../core/construction/from-facts'
import { runSheetOf } from '../../core/diagnosis/sheet'
import { benchOf, modelOf } from '../../core/diagnosis/table'
import { readSaid } from '../../core/diagnosis/symptoms/read'
import { marksHeard } from '../../core/diagnosis/symptoms/tell'
import { smallProgramsOf } from '../../core/first-programs'
import { bodiesOf } from '../../core/mechanics/from-facts'
import { shippedCatalogue } from '../../core/catalogue'
import { tryBoards } from '../../core/choose/boards'
import { evaluate, evaluateFacts } from '../../core/evaluate'
import { catalogueOf, gatherFacts } from '../../core/facts/gather'
import { placePlan } from '../../core/placement/place'
import { smallFilesJob } from './files'
import { lintJob, rehearseJob, writeJob } from './boot'
import { planFrom, treeWork } from './bodies'
import { unusable } from './problem'
import { beginJob, programJob } from './program'
import { applyJob, boardJob, compileJob, decompileJob, overlayJob } from './tree'

export type Query = Readonly<Record<string, string>>
/** The answer, or the promise of it. */
export type Job = (body: string, query: Query) => unknown

export const JOBS = {
  /** All boards, parts, supplies and power items that ship. */
  'catalogue': () => ({
    boards: [...shippedCatalogue.boards.values()],
    parts: [...shippedCatalogue.parts.values()],
    supplies: [...shippedCatalogue.supplies.values()],
    powerItems: [...shippedCatalogue.powerItems.values()],
  }),
  /** The whole report on the plan in the body. */
  'check': body => evaluate(planFrom(body), shippedCatalogue),
  /** Every board tried on the plan, the best first. */
  'choose': (body) => {
    const plan = planFrom(body)
    return tryBoards(plan, catalogueOf(plan, shippedCatalogue))
  },
  /** Places for every terminal, or the demands that cannot be met together. `?scope=all` keeps only what is fixed. */
  'place': (body, { scope }) =>
    placePlan(planFrom(body), shippedCatalogue, { scope: scope === 'all' ? 'all' : 'rest' }),
  /** Voltage, current and power at every node in every state, and what the rules say of the supply. */
  'power': (body) => {
    const { power, findings } = evaluate(planFrom(body), shippedCatalogue)
    return { ...power, findings: findings.filter(finding => finding.stages.includes('power')) }
  },
  /** Wire list in the order of connecting, parts list, and what stops the building. */
  'build': (body) => {
    const facts = gatherFacts(planFrom(body), shippedCatalogue)
    const { wires, partsList, findings } = evaluateFacts(facts)
    return {
      wires, partsList, ...stepsOf(facts), bodies: bodiesOf(facts).bodies,
      findings: findings.filter(finding => finding.stages.includes('build')),
    }
  },
  /** The run sheet, what was seen, what it may come from, and what to try next. */
  'diagnose': (body, { say }) => {
    const facts = gatherFacts(planFrom(body), shippedCatalogue)
    const model = modelOf(facts)
    if (!say?.trim()) return runSheetOf(facts, model)
    const said = readSaid(say, runSheetOf(facts, model))
    const heard = marksHeard(said)
      .map(({ probe, outcome, value }) => ({ id: probe, outcome, at: '', ...value !== undefined && { value } }))
    const seen = [...facts.plan.seen.filter(({ id }) => !heard.some(other => other.id === id)), ...heard]
    return { ...runSheetOf({ ...facts, plan: { ...facts.plan, seen } }, model), said }
  },
  /** What lines typed at the simulated board print. Its shell is large: it is read when somebody asks for it. */
  'board': async body => (await import('./board')).boardSitting(body),
  /** Small programs for the parts of the plan, with how they are started and what must be seen. */
  'first-programs': (body) => {
    const facts = gatherFacts(planFrom(body), shippedCatalogue)
    if (!facts.board) throw unusable('plan', [{ path: 'plan.board', message: 'The plan has no board: choose one.' }])
    return smallProgramsOf(treeWork('plan.boot.base', () => benchOf(facts)))
  },
  /** Every small file with its text, what is switched on, and the script that puts them in place. */
  'files': body => smallFilesJob(gatherFacts(planFrom(body), shippedCatalogue)),
  'program': programJob,
  'begin': beginJob,
  'boot/lint': lintJob,
  'boot/write': writeJob,
  'boot/rehearse': rehearseJob,
  'dt/compile': compileJob,
  'dt/decompile': decompileJob,
  'dt/apply': applyJob,
  'dt/board': boardJob,
  /** Overlays made for the plan's parts: source and blob, or why there is none. */
  'dt/overlay': body => overlayJob(gatherFacts(planFrom(body), shippedCatalogue)),
} satisfies Record<string, Job>

export type JobName = keyof typeof JOBS
