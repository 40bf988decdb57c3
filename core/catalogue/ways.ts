/** Functions that are had by loose wires and as an add-on board, as the add-on boards' files say under `byWires`. */
import type { Catalogue } from './types'

export interface Alternative {
  does: string
  addOn: string
  /** What does the same by wires; one type as often as it takes. */
  loose: readonly string[]
}

/** Every function of the catalogue that is had both ways. */
export const waysIn = ({ parts }: Pick<Catalogue, 'parts'>): Alternative[] => [...parts.values()]
  .flatMap(({ id, byWires }) => byWires ? [{ does: byWires.does, addOn: id, loose: byWires.parts }] : [])

/** Both ways for a part of the plan; null where there is but one. */
export const wayOf = (type: string, catalogue: Pick<Catalogue, 'parts'>): Alternative | null =>
  waysIn(catalogue).find(({ addOn, loose }) => addOn === type || loose[0] === type) ?? null
