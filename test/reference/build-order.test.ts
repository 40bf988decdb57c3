/**
 * The best order of a build against an integer programme: HiGHS (Huangfu and Hall, "Parallelizing the dual revised
 * simplex method", 2018; npm package `highs`), over generated benches.
 */
import loadHighs from 'highs'
import { beforeAll, describe, expect, it } from 'vitest'
import { bestOrder, brokenBy } from '../../core/construction/steps/order'
import { anyBench, orderProgramme, stretchProgramme, TURN } from '../benches'
import { few } from '../random'

let highs: Awaited<ReturnType<typeof loadHighs>>
beforeAll(async () => {
  highs = await loadHighs()
})

describe('the best order of a build', () => {
  it.each(few([1, 2, 3, 4, 5, 6, 7, 8]))('turns and changes as seldom as the integer programme says, bench %i',
    (seed) => {
      const bench = anyBench(seed * 31, 8 + seed % 3, 0.3)
      const solution = highs.solve(orderProgramme(bench), { mip_rel_gap: 0, output_flag: false })
      expect(solution.Status).toBe('Optimal')
      const best = bestOrder(bench)!
      expect(best.isBest).toBe(true)
      expect(best.flips * TURN + best.toolChanges).toBe(Math.round(solution.ObjectiveValue))
    })

  it.each(few([[1, 20], [2, 20], [3, 24], [4, 24], [5, 30], [6, 40]]))(
    'of a larger bench too: as few stretches of one side, and of those as few of one tool, bench %i of %i steps',
    (seed, count) => {
      const bench = anyBench(seed * 57, count, 0.12)
      const best = bestOrder(bench)!
      expect(best.isBest).toBe(true)
      expect(brokenBy(best.ids, bench.precedences)).toEqual([])
      // One stretch more than a better order could have: if there is one, it is found.
      const sides = highs.solve(stretchProgramme(bench, best.flips + 1, false), { mip_rel_gap: 0, output_flag: false })
      expect(sides.Status).toBe('Optimal')
      expect(Math.round(sides.ObjectiveValue / TURN)).toBe(best.flips)
      const both = highs.solve(stretchProgramme(bench, best.flips + best.toolChanges + 1, true),
        { mip_rel_gap: 0, output_flag: false })
      expect(both.Status).toBe('Optimal')
      expect(Math.round(both.ObjectiveValue)).toBe(best.flips * TURN + best.toolChanges)
    })
})
