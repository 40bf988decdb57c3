/**
 * How long placing takes on made-up plans of any parts over all boards, and the same problems given to HiGHS as integer
 * programmes: the same least cost, and the ratio of the times, all in this one run.
 */
import loadHighs from 'highs'
import { shippedCatalogue as catalogue } from '../core/catalogue'
import { gatherFacts } from '../core/facts/gather'
import { emptyPlan } from '../core/plan/create'
import type { Plan } from '../core/plan/types'
import { placePlan } from '../core/placement/place'
import { placementProblem } from '../core/placement/problem'
import { WEIGHT_TABLE } from '../core/placement/weights'
import { pick, random } from '../test/generated'
import { programmeOf } from '../test/optimum'

const TYPES = [...catalogue.parts.keys()]
const BOARDS = [...catalogue.boards.keys()]

/** A plan of so many parts, nothing placed. */
function madeUp(next: () => number, min: number, max: number): Plan {
  const count = min + Math.floor(next() * (max - min + 1))
  return {
    ...emptyPlan('Bench'), board: pick(next, BOARDS), supply: { type: 'adapter-5v-5a' },
    parts: Array.from({ length: count }, (_, i) => ({ id: `p${i}`, type: pick(next, TYPES), name: `p${i}` })),
  }
}

/**
 * A plan of so many parts that fits its board whole, without a clash of addresses and with every optional wire: parts
 * are drawn one after another, and those that no longer go are left out again.
 */
function fitting(next: () => number, min: number, max: number): Plan | null {
  const count = min + Math.floor(next() * (max - min + 1))
  let plan: Plan = { ...emptyPlan('Bench'), board: pick(next, BOARDS), supply: { type: 'adapter-5v-5a' } }
  for (let tries = 0; plan.parts.length < count && tries < count * 3; tries++) {
    const grown = { ...plan, parts: [...plan.parts, { id: `p${tries}`, type: pick(next, TYPES), name: `p${tries}` }] }
    const result = placePlan(grown, catalogue, { scope: 'all', brief: true })
    if (result.ok && !result.leftOut.length && result.cost < WEIGHT_TABLE.addressClash.value) plan = grown
  }
  return plan.parts.length >= min ? plan : null
}

interface Run { plan: Plan, ms: number, ok: boolean, proved: boolean, cost: number }

function timed(plan: Plan): Run {
  const start = performance.now()
  const result = placePlan(plan, catalogue, { scope: 'all' })
  const ms = performance.now() - start
  return { plan, ms, ok: result.ok, proved: result.ok && result.provedBest, cost: result.ok ? result.cost : NaN }
}

const at = (runs: readonly Run[], share: number) => {
  const sorted = runs.map(run => run.ms).sort((a, b) => a - b)
  return sorted.length ? sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))]! : NaN
}
const ms = (value: number) => `${value.toFixed(0)} ms`

function show(name: string, runs: readonly Run[]): void {
  const placed = runs.filter(run => run.ok)
  const impossible = runs.filter(run => !run.ok)
  console.log(`${name.padEnd(24)} placed ${String(placed.length).padStart(3)}: median ${ms(at(placed, 0.5))}, 95 `
    + `% ${ms(at(placed, 0.95))}, worst ${ms(at(placed, 1))}, cut short `
    + `${placed.filter(run => !run.proved).length}   impossible ${String(impossible.length).padStart(3)}: median `
    + `${ms(at(impossible, 0.5))}, worst ${ms(at(impossible, 1))}`)
}

const next = random(2026)
// Those that are thrown away let the engine warm up.
for (let i = 0; i < 10; i++) timed(madeUp(next, 4, 8))
const usual = Array.from({ length: 60 }, () => timed(madeUp(next, 8, 15)))
show('8 to 15 parts', usual)
show('16 to 25 parts', Array.from({ length: 20 }, () => timed(madeUp(next, 16, 25))))
const large: Run[] = []
while (large.length < 40) {
  const plan = fitting(next, 16, 25)
  if (plan) large.push(timed(plan))
}
show('16 to 25 that fit', large)

/** Longer than this the solver is not waited for. */
const MAX_S = 10
const highs = await loadHighs()
const ratios: number[] = []
let same = 0
let cut = 0
// Boards with long pins change the problem after it is made: they are left out of the comparison.
for (const run of usual.filter(({ ok, plan }) => ok && !plan.parts.some(part => catalogue.parts.get(part.type)!.seat))
  .slice(0, 12)) {
  const facts = gatherFacts({ ...run.plan, assignments: {} }, catalogue)
  const programme = programmeOf(placementProblem(facts, facts.board!))
  const start = performance.now()
  const solution = highs.solve(programme, { mip_rel_gap: 0, mip_abs_gap: 1e-7, output_flag: false, time_limit: MAX_S })
  const took = performance.now() - start
  if (solution.Status !== 'Optimal') cut++
  else if (Math.abs(solution.ObjectiveValue - run.cost) < 1e-3) same++
  ratios.push(took / run.ms)
}
ratios.sort((a, b) => a - b)
console.log(
  `HiGHS on ${ratios.length} of the same: the same least cost ${same}, not done within ${MAX_S} s `
  + `${cut}; its time / ours: median ${ratios[ratios.length >> 1]?.toFixed(0)}, least `
  + `${ratios[0]?.toFixed(1)}, most ${ratios.at(-1)?.toFixed(0)}`,
)
