/**
 * Figures of a part that the maker can replace in the plan's limits: what the file says, and what stands in its place.
 */
import type { Origin } from '../catalogue/types'
import type { Plan } from '../plan/types'
import type { ResolvedPart } from './types'

export interface PartFigure {
  /** In the plan's `limits`. */
  key: string
  label: string
  unit: string
  /** What the file says; null where it says nothing. */
  file: number | null
  origin: Origin
  /** The maker's own; null while the file's holds. */
  own: number | null
  min: number
  max: number
}

/** Pictures a second that are wanted where the maker says nothing. practice */
export const SMOOTH_PICTURES = 15

const LEVELS = { inputHighMinV: 'reads high from', inputMaxV: 'stands', outputHighV: 'gives when high' } as const

/**
 * All of a part's replaceable figures: its resistors and capacitance on a bus, wanted pictures, and the levels
 * of its signals.
 */
export function partFigures(owner: ResolvedPart, { limits }: Pick<Plan, 'limits'>,
  file: ResolvedPart = owner): PartFigure[] {
  const figure = (
    key: string, label: string, unit: string, value: number | null, origin: Origin, min: number, max: number,
  ): PartFigure => {
    const name = `${owner.id}.${key}`
    return { key: name, label, unit, file: value, origin, own: limits[name]?.value ?? null, min, max }
  }
  const { i2c, display, strip, spi } = file.part
  return [
    ...i2c
      ? [
          figure('pullUpOhm', 'pull-up resistors on it; 0: taken off', 'Ω', i2c.pullUpOhm ?? null, 'memory', 0, 1e6),
          figure('capacitancePf', 'capacitance on its bus', 'pF', i2c.capacitancePf ?? null, 'memory', 0, 1000),
        ]
      : [],
    ...(display && spi) || strip
      ? [figure('picturesPerS', 'pictures a second wanted', '/s', SMOOTH_PICTURES, 'practice', 0.1, 1000)]
      : [],
    ...file.signals.flatMap(signal => (Object.keys(LEVELS) as (keyof typeof LEVELS)[]).flatMap((level) => {
      const value = signal[level]
      return value
        ? [figure(`${signal.id}.${level}`, `${signal.label} ${LEVELS[level]}`, 'V', value.value,
            value.origin, 0.1, 100)]
        : []
    })),
  ]
}
