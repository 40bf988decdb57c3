/** Which circuit serves a controller, and from which clock. */
import type { Clock, Controller, Variant } from '../catalogue/types'
import type { Plan } from '../plan/types'

/** The circuit the plan chose for the controller, or the one the board starts with; null where there is no choice. */
export function circuitOf(controller: Controller, plan: Plan): Variant | null {
  const variants = controller.variants ?? []
  return variants.find(variant => variant.id === plan.controllers[controller.id]) ?? variants[0] ?? null
}

/** What the controller derives its rate from; undefined where the board file does not say. */
export function clockOf(controller: Controller, plan: Plan): Clock | undefined {
  return circuitOf(controller, plan)?.clock ?? controller.clock
}
