/** How warm the processor is: the load test of the Power stage, with all cores busy, in the air of the room. */
import { heatTask, type Power } from '../power/report'
import { runHeat, type HeatPoint } from '../power/heat/run'
import type { Facts } from '../facts/types'
import type { World } from '../diagnosis/world'

export interface Warming {
  points: HeatPoint[]
  slowsC: number
}

/** Longer than any case takes to warm through. */
const MINUTES = 180

/**
 * From rest on, second by second, with all cores busy. A fan that is not joined, fed and whole does not turn. Null
 * without a board.
 */
export function warmingOf(facts: Facts, power: Power, world: World, airC: number): Warming | null {
  const task = heatTask(facts, power, 0)
  if (!task) return null
  const fans = facts.parts.filter(owner => owner.part.kernel?.cools)
  const turns = fans.every(owner =>
    world.isFed(owner) && world.isWired(owner) && !world.isDead(owner.id) && !world.isDark(owner.id))
  const peak = power.states.find(({ id }) => id === 'peak')?.nodes['@board']?.powerMw
  const { points } = runHeat({
    ...task, ambientC: airC, minutes: MINUTES, boardW: peak === undefined ? task.boardW : peak / 1000,
    ...!turns && { fan: { mode: 'none' as const } },
  })
  return { points, slowsC: task.heat.slowsC }
}

/** The point of a warming at a second. */
export const pointAt = ({ points }: Warming, second: number): HeatPoint =>
  points[Math.min(points.length - 1, Math.max(0, Math.floor(second / 10)))]!
