/** Fault finding off the main thread: every fault held against every probe takes its time. */
import { asBuiltOf, asBuiltPaper } from '~~/core/share/as-built'
import { judgeCurve } from '~~/core/curves/judge'
import { runSheetOf } from '~~/core/diagnosis/sheet'
import { benchOf, modelOf, type Model } from '~~/core/diagnosis/table'
import { seriesOf } from '~~/core/diagnosis/series'
import { exercisesOf, solutionOf, type Exercise } from '~~/core/diagnosis/trainer'
import type { Mark } from '~~/core/diagnosis/types'
import { smallProgramsOf, type SmallPrograms } from '~~/core/first-programs'
import { shippedCatalogue } from '~~/core/catalogue'
import { gatherFacts } from '~~/core/facts/gather'
import type { KeptCurve, Plan } from '~~/core/plan/types'

let made: { key: string, model: Model } | null = null

/** The model of the plan as it is but for what was seen, which it does not depend on. */
function modelFor(plan: Plan): Model {
  const key = JSON.stringify({ ...plan, seen: [], log: [], notes: '', scans: [], name: '' })
  if (made?.key !== key) made = { key, model: modelOf(gatherFacts(plan, shippedCatalogue)) }
  return made.model
}

const withMarks = (plan: Plan, marks: readonly Mark[]): Plan =>
  ({ ...plan, seen: marks.map(({ probe, outcome }) => ({ id: probe, outcome, at: '' })) })

export const service = {
  /** The run sheet with what was seen. */
  sheet: (plan: Plan) => runSheetOf(gatherFacts(plan, shippedCatalogue), modelFor(plan)),
  /** Small programs for its parts; none without a board. */
  programs(plan: Plan): SmallPrograms {
    const facts = gatherFacts(plan, shippedCatalogue)
    return facts.board ? smallProgramsOf(benchOf(facts)) : { programs: [], without: [] }
  },
  /** A measured curve beside the prediction. */
  curve: (plan: Plan, curve: KeptCurve) => judgeCurve(gatherFacts(plan, shippedCatalogue), curve),
  /** The sheet of what stands there, as Markdown. */
  asBuilt(plan: Plan) {
    const facts = gatherFacts(plan, shippedCatalogue)
    return asBuiltOf(facts, runSheetOf(facts, modelFor(plan)))
  },
  asBuiltPaper(plan: Plan, pictures: ReadonlyMap<string, string>) {
    const facts = gatherFacts(plan, shippedCatalogue)
    return asBuiltPaper(facts, runSheetOf(facts, modelFor(plan)), pictures)
  },
  /** Every exercise that the plan gives, with the name of its fault kept back. */
  exercises: (plan: Plan) => exercisesOf(modelFor(plan).table),
  /** Lessons of the usual mistakes, of those that the plan can have. */
  series: (plan: Plan) => seriesOf(modelFor(plan).table),
  /** The run sheet of an exercise: what was tried so far is what was seen. */
  exerciseSheet: (plan: Plan, marks: readonly Mark[]) =>
    runSheetOf(gatherFacts(withMarks(plan, marks), shippedCatalogue), modelFor(plan)),
  /** What a probe shows in an exercise. */
  shown(plan: Plan, { row }: Exercise, probe: string): string {
    const { table } = modelFor(plan)
    return table.seen[row]![table.probes.findIndex(({ id }) => id === probe)]!
  },
  /** Names to choose from, and the best way to the fault. */
  faults: (plan: Plan) => modelFor(plan).table.faults.map(({ id, title }) => ({ id, title })),
  solution(plan: Plan, exercise: Exercise) {
    const { table } = modelFor(plan)
    return { ...solutionOf(table, exercise), fault: table.faults[exercise.row]! }
  },
}

export type BringupService = typeof service
