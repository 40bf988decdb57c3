/**
 * `npm run bench`, fifth part: fault finding. The table of a plan of fifteen parts, the ranking of what explains a
 * sign, the next test, and the opening of the simulated board.
 */
import { shippedCatalogue as catalogue } from '../core/catalogue'
import { diagnose, groupsOf, testsFor } from '../core/diagnosis/diagnose'
import { benchOf, modelOf } from '../core/diagnosis/table'
import { exercisesOf } from '../core/diagnosis/trainer'
import { Session } from '../core/simulated/session'
import { gatherFacts } from '../core/facts/gather'
import { placePlan } from '../core/placement/place'
import { emptyPlan } from '../core/plan/create'
import type { Plan } from '../core/plan/types'

const fifteen: Plan = {
  ...emptyPlan('Fifteen'), board: 'forty-usb-c', supply: { type: 'adapter-5v-3a' },
  parts: [
    'oled-i2c', 'pressure-humidity-i2c', 'light-i2c', 'clock-cell-i2c', 'motion-i2c', 'analog-4-i2c', 'screen-spi-24', 'card-reader-spi',
    'modem-serial', 'button-1', 'probe-onewire', 'servo-small', 'fan-5v', 'relay-board-1', 'motion-passive',
  ].map((type, i) => ({ id: `p${i}`, type, name: type })),
}
const placed = placePlan(fifteen, catalogue, { scope: 'all' })
if (!placed.ok) throw new Error('the plan of the benchmark cannot be placed')
const facts = gatherFacts({ ...fifteen, assignments: placed.assignments }, catalogue)

function median(runs: number, work: () => unknown): number {
  work()
  const times = Array.from({ length: runs }, () => {
    const start = performance.now()
    work()
    return performance.now() - start
  })
  return times.sort((a, b) => a - b)[Math.floor(runs / 2)]!
}

const model = modelOf(facts)
const { table } = model
const signs = exercisesOf(table).map(({ sign }) => sign)
const all = groupsOf(table, table.seen.map((_, i) => i))
const making = median(5, () => modelOf(facts))
let turn = 0
const ranking = median(40, () => diagnose(model, [signs[turn++ % signs.length]!]))
const next = median(20, () => testsFor(table, all, new Set()))
const bench = benchOf(facts)
const opening = median(10, () => new Session(facts, { bench }))
const show = (name: string, ms: number, allowed?: number) => {
  const share = allowed ? `   share of the ${allowed} ms allowed: ${(ms / allowed).toFixed(2)}` : ''
  console.log(`${name.padEnd(62)} median ${ms.toFixed(1).padStart(8)} ms${share}`)
}
console.log(`\nfault finding: ${fifteen.parts.length} parts, ${table.faults.length} faults, ${table.probes.length} tests`)
show('every fault against every test, once for a plan', making)
show('what explains a sign, ranked', ranking, 300)
show('the next test, with every fault still possible', next, 500)
show('the simulated board switched on', opening)
console.log(`table / ranking: ${(making / ranking).toFixed(1)}`)
