/** Where add-on boards sit on the header, and what they leave free above them. */
import type { ResolvedPart } from './types'

/** Header positions a board lies on, shifted along with it; null for what is no add-on board. */
export function coverOf({ part, options }: Pick<ResolvedPart, 'part' | 'options'>): { from: number, to: number }
  | null {
  if (!part.seat) return null
  const shift = part.seat.shiftOption ? 2 * (Math.floor(Number(options[part.seat.shiftOption])) || 0) : 0
  return { from: part.seat.from + shift, to: part.seat.to + shift }
}

/** Value of a `passesOption` with which the header's pins come out above the board. */
export const LONG_PINS = 'long'

/** True when the header comes out again above the board: by itself, or by a header with long pins below it. */
export function passesThrough({ part, options }: Pick<ResolvedPart, 'part' | 'options'>): boolean {
  return part.seat?.passes === true
    || (part.seat?.passesOption !== undefined && options[part.seat.passesOption] === LONG_PINS)
}

/** The edit-free way out where it does not: the option that a header with long pins is chosen by. */
export const longPinsOption = ({ part, options }: Pick<ResolvedPart, 'part' | 'options'>): string | null => {
  const option = part.seat?.passesOption
  return option !== undefined && options[option] !== LONG_PINS ? option : null
}
