/** Plans with a supply of their own for tests, and copper worked out from the standards. */
import type { PowerNode, PowerPlan } from '../core/plan/power'
import type { Plan } from '../core/plan/types'
import { planOf } from './plans'

type Parts = Parameters<typeof planOf>[1]

/** A plan fed by a supply, with fields of its power replaced. */
export function fed(
  board: string | null, supply: string | null, power: Partial<PowerPlan> = {}, parts: Parts = {},
  more: Partial<Plan> = {},
): Plan {
  const plan = planOf(board, parts, more)
  return { ...plan, supply: supply ? { type: supply } : null, power: { ...plan.power, ...power } }
}

export const node = (id: string, type: string, from?: string, figures?: Record<string, number>): PowerNode => ({
  id, type, name: id, ...from && { from }, ...figures && { figures },
})

/**
 * Ω of copper there and back. published: IEC 60028 (ρ = 1.7241·10⁻⁸ Ω·m) and ASTM B258 (d = 0.127 mm · 92^((36
 * − n) ÷ 39)).
 */
export function copperOhm(awg: number, lengthM: number): number {
  const d = 0.000127 * 92 ** ((36 - awg) / 39)
  return 2 * lengthM * 1.7241e-8 / (Math.PI * d * d / 4)
}
