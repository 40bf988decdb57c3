import { emptyPower, type PowerPlan } from './power'
import { firstFields, PLAN_FORMAT, PLAN_VERSION, type Plan } from './shape'

/** A plan with nothing in it but its name. */
export function emptyPlan(name: string): Plan {
  return {
    ...firstFields(), format: PLAN_FORMAT, version: PLAN_VERSION, name, notes: '', board: null, supply: null,
    parts: [], assignments: {},
  } as Plan
}

/**
 * A plan kept by an earlier Voltaris of the same version, with the fields that have come since at their first values.
 */
export function completed(plan: Partial<Plan> & { name: string }): Plan {
  const empty = emptyPlan(plan.name)
  return {
    ...empty, ...plan, power: completedPower(plan.power ?? {}), host: { ...empty.host, ...plan.host },
    build: { ...empty.build, ...plan.build },
  }
}

/** The power field with what is missing at its usual values. */
function completedPower(power: Partial<PowerPlan>): PowerPlan {
  const usual = emptyPower()
  return {
    ...usual, ...power, store: { ...usual.store, ...power.store }, heat: { ...usual.heat, ...power.heat },
    clock: { ...usual.clock, ...power.clock },
  }
}

/** A part id that is free in the plan, from the part type: the type itself, then `…-2`, `…-3` */
export function freePartId(plan: Plan, type: string): string {
  const base = type.slice(0, 34)
  const taken = new Set(plan.parts.map(part => part.id))
  if (!taken.has(base)) return base
  let n = 2
  while (taken.has(`${base}-${n}`)) n++
  return `${base}-${n}`
}
