/**
 * The best order of a build against an integer programme: HiGHS (Huangfu and Hall, "Parallelizing the dual revised simplex method", 2018;
 * npm package `highs`), over generated benches.
 */
import loadHighs from 'highs'
import { beforeAll, describe, expect, it } from 'vitest'
import { bestOrder } from '../../core/build/steps/order'
import { anyBench, orderProgramme, TURN } from '../benches'

let highs: Awaited<ReturnType<typeof loadHighs>>
beforeAll(async () => {
  highs = await loadHighs()
})

describe('the best order of a build', () => {
  it.each([1, 2, 3, 4, 5, 6, 7, 8])('turns and changes as seldom as the integer programme says, bench %i', (seed) => {
    const bench = anyBench(seed * 31, 8 + seed % 3, 0.3)
    const solution = highs.solve(orderProgramme(bench), { mip_rel_gap: 0, output_flag: false })
    expect(solution.Status).toBe('Optimal')
    const best = bestOrder(bench)!
    expect(best.isBest).toBe(true)
    expect(best.flips * TURN + best.toolChanges).toBe(Math.round(solution.ObjectiveValue))
  })
})
