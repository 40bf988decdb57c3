/** Heat, hold-up and front ends as a plan puts them: what the power report says of them. */
import { describe, expect, it } from 'vitest'
import { evaluate } from '../../../core/evaluate'
import { gatherFacts } from '../../../core/facts/gather'
import type { PowerNode, PowerPlan } from '../../../core/plan/power'
import type { Plan } from '../../../core/plan/types'
import { boardClocking, boardDraw, boardHeat, boardPower } from '../../../core/facts/board'
import { COOLERS, enclosureOf, ENCLOSURES } from '../../../core/power/heat/coolers'
import { heatTask, solvePower } from '../../../core/power/report'
import { shutdownS } from '../../../core/power/hold-up'
import { copperRth } from '../../../core/netlist/supply/kinds'
import { catalogue, fixedAt, planOf } from '../../plans'

const node = (id: string, type: string, from: string, figures?: Record<string, number>): PowerNode => ({
  id, type, name: id, from, ...figures && { figures },
})
const made = (board: string, supply: string, power: Partial<PowerPlan>, more: Partial<Plan> = {}): Plan => {
  const plan = planOf(board, {}, more)
  return { ...plan, supply: { type: supply }, power: { ...plan.power, ...power } }
}
const report = (plan: Plan) => evaluate(plan, catalogue).power

describe('hold-up', () => {
  const behind = (nodes: PowerNode[], last: string, more: Partial<PowerPlan> = {}) => made(
    'tiny-unpopulated', 'adapter-12v-2a', { nodes, feeds: { '@socket': last }, ...more },
  )

  it('a capacitor before the step-down may fall to its least input: it holds far longer than one behind it', () => {
    const before = report(behind([node('c', 'capacitor-super', '@cable', { mostV: 16 }),
      node('b', 'step-down-5v-3a', 'c')], 'b')).holds[0]!
    const after = report(behind([node('b', 'step-down-5v-3a', '@cable'), node('c', 'capacitor-super', 'b')],
      'c')).holds[0]!
    expect([before.toV, after.toV]).toEqual([6.5, 4.63])
    expect(before.holdS).toBeGreaterThan(10 * after.holdS)
    // textbook: the energy above the least voltage, over the power drawn
    expect(before.holdS).toBeGreaterThan(10 * (11.5 ** 2 - 6.5 ** 2) / 2 / before.powerW!)
  })

  it('lists every stage on the way, the nearest to the board first', () => {
    const holds = report(behind(
      [node('l', 'latch-power', '@cable'), node('c', 'capacitor-super', 'l', { mostV: 16 }),
        node('b', 'step-down-5v-3a', 'c')], 'b',
    )).holds
    expect(holds.map(hold => [hold.node, hold.by])).toEqual([['c', 'capacitor'], ['l', 'latch']])
  })

  it('nothing on the way holds nothing, and a plan without a board wants nothing', () => {
    expect(report(made('tiny-unpopulated', 'adapter-5v-3a', {})).holds).toEqual([])
    expect(report({ ...made('tiny-unpopulated', 'adapter-5v-3a', {}), board: null }).holds).toEqual([])
  })

  it('a shutdown takes what the maker says, else what the board takes', () => {
    const facts = (power: Partial<PowerPlan>) =>
      gatherFacts(made('tiny-unpopulated', 'adapter-5v-3a', power), catalogue)
    expect([shutdownS(facts({})), shutdownS(facts({ shutdownS: 40 }))]).toEqual([18, 40]) // memory: the board file
  })
})

describe('the load test of a plan', () => {
  it('runs on the board\'s solved power, its cooler, its case and its room', () => {
    const plan = made(
      'forty-usb-c', 'adapter-5v-3a',
      {
        heat: {
          ...made('forty-usb-c', 'adapter-5v-3a', {}).power.heat, cooler: 'block', enclosure: 'closed', ambientC: 31,
          load: 'typical',
        },
      },
    )
    const { states } = report(plan)
    const solved = solvePower(gatherFacts(plan, catalogue))
    const task = heatTask(gatherFacts(plan, catalogue), solved, 0.5)!
    expect(task).toMatchObject({ ambientC: 31, otherW: 0.5, cooler: COOLERS.block, enclosure: ENCLOSURES.closed })
    expect(task.boardW).toBeCloseTo(states.find(state => state.id === 'typical')!.nodes['@board']!.powerMw / 1000, 9)
    const bare = gatherFacts({ ...plan, board: null }, catalogue)
    expect(heatTask(bare, solvePower(bare), 0)).toBeNull()
  })

  it('is warmer in a closed case, in a warm room, and cooler with a lower clock', () => {
    const hottest = (power: Partial<PowerPlan>, heat: object = {}) => {
      const plan = made('forty-classic', 'adapter-5v-3a', power)
      return report({ ...plan, power: { ...plan.power, heat: { ...plan.power.heat, ...heat } } }).heat!.hottestC
    }
    expect(hottest({}, { enclosure: 'closed' })).toBeGreaterThan(hottest({}))
    expect(hottest({}, { ambientC: 35 })).toBeGreaterThan(hottest({}, { ambientC: 15 }))
    expect(hottest({ clock: { coreMhz: 600, voltageSteps: -4 } })).toBeLessThan(hottest({}))
  })

  it('a case that is the heat sink itself has no warm air inside', () => {
    expect(enclosureOf('case-body', 'closed')).toBe(ENCLOSURES.open)
    expect(enclosureOf('fins', 'closed')).toBe(ENCLOSURES.closed)
  })

  it('a regulator in the plan warms by its copper: the more, the less', () => {
    const heat = (copperCm2: number) => report(made(
      'tiny-unpopulated', 'adapter-12v-2a',
      { nodes: [node('r', 'regulator-linear-5v', '@cable', { copperCm2 })], feeds: { '@socket': 'r' } },
    )).regulators[0]!
    expect(heat(20).temperatureC).toBeLessThan(heat(1).temperatureC)
    // memory: a common small power package, 136 K/W on nothing and near 50 K/W on much copper
    expect(copperRth(0)).toBe(136)
    expect(copperRth(1000)).toBeCloseTo(50, 0)
    // textbook: T = Ta + P·R
    expect(heat(5).temperatureC).toBeCloseTo(25 + heat(5).lossW * copperRth(5), 9)
  })
})

describe('a board file without supply figures', () => {
  it('is judged with usual ones', () => {
    const { power: _, heat: __, clocking: ___, ...bare } = catalogue.boards.get('forty-classic')!
    expect([boardPower(bare).signV, boardHeat(bare).slowsC]).toEqual([4.63, 80]) // memory
    expect(boardClocking(bare).coreMhz).toBeGreaterThan(0)
    const plan = {
      ...planOf('own-bare', { f: 'fan-5v' }, { assignments: fixedAt({ 'f.vcc': 2 }) }),
      own: { boards: [{ ...bare, id: 'own-bare' }], parts: [] },
    }
    const { states, assumed } = report(plan)
    expect(assumed).toBe(false)
    expect(states.every(state => state.ok)).toBe(true)
  })

  it('draws less above idle at a lower clock, and the same at idle', () => {
    const board = catalogue.boards.get('forty-usb-c')!
    const slow = boardDraw(board, { coreMhz: 600, voltageSteps: -4 })
    expect(slow.idleMa).toBe(board.draw.idleMa)
    expect(slow.peakMa).toBeLessThan(board.draw.peakMa)
    expect(boardDraw(board, { coreMhz: null, voltageSteps: 0 })).toEqual(board.draw)
  })
})
