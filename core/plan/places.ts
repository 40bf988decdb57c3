/** Where a part is put. */
import type { Plan } from './types'

/** Beside the board, where there is room; what was said of the part itself stays. */
export function besideBoard({ build: { places } }: Pick<Plan, 'build'>, id: string): Plan['build']['places'][string] {
  const clampedMm = places[id]?.clampedMm
  return { on: 'table', ...clampedMm !== undefined && { clampedMm } }
}
