/** Loose wires or an add-on board: one function both ways. */
import type { Catalogue, Part } from '../catalogue/types'
import { wayOf } from '../catalogue/ways'
import type { Plan } from '../plan/types'
import { trySet, type PartTrial } from './parts'

export interface WayTrial {
  title: string
  parts: Part[]
  trial: PartTrial
}

/**
 * Both ways tried in place of the part. Of the loose way only as many of the plan's parts go as the way has. Null where
 * the part has but one way, or the catalogue lacks one of them.
 */
export function tryWays(plan: Plan, partId: string, catalogue: Catalogue): [loose: WayTrial, addOn: WayTrial] | null {
  const here = plan.parts.find(({ id }) => id === partId)
  const way = here && wayOf(here.type, catalogue)
  if (!way) return null
  const partsOf = (types: readonly string[]) => types.flatMap(type => catalogue.parts.get(type) ?? [])
  const loose = partsOf(way.loose)
  const addOn = partsOf([way.addOn])
  if (loose.length !== way.loose.length || !addOn.length) return null
  const gone = [partId]
  if (here.type !== way.addOn) {
    for (const type of way.loose.slice(1)) {
      const other = plan.parts.find(part => part.type === type && !gone.includes(part.id))
      if (other) gone.push(other.id)
    }
  }
  return [
    { title: 'By loose wires', parts: loose, trial: trySet(plan, loose, catalogue, 'loose', gone) },
    { title: 'As an add-on board', parts: addOn, trial: trySet(plan, addOn, catalogue, 'add-on', gone) },
  ]
}
