/** Rates that a controller can make from its clock, and how far they are from the ones asked. */
import type { Clock } from '../catalogue/types'

export interface Rate {
  /** In words a maker can look up: `divider 1 + 5/64`. */
  divider: string
  rateHz: number
  /** (made − asked) ÷ asked. */
  error: number
}

const made = (divider: string, rateHz: number,
  askedHz: number): Rate => ({ divider, rateHz, error: (rateHz - askedHz) / askedHz })

/**
 * The serial rate nearest to `baud`; null when the divider cannot go so fast or so slow.
 * `fractional-64`: clock ÷ (16 · (whole + n/64)), published: Arm DDI 0183. `eighth`: clock ÷ (8 · (n + 1)), memory.
 */
export function serialRate({ sourceHz, divider }: Pick<Clock, 'sourceHz' | 'divider'>, baud: number): Rate | null {
  if (divider === 'eighth') {
    const n = Math.max(0, Math.round(sourceHz / (8 * baud)) - 1)
    return n > 65_535 || sourceHz / 8 < baud * 0.9 ? null : made(`n = ${n}`, sourceHz / (8 * (n + 1)), baud)
  }
  const steps = Math.round(sourceHz * 4 / baud)
  const whole = Math.floor(steps / 64)
  if (whole < 1 || whole > 65_535) return null
  return made(`divider ${whole} + ${steps % 64}/64`, sourceHz * 4 / steps, baud)
}

/** A microcontroller's own divider: clock ÷ (16 or 8 · (n + 1)). Memory, as common small controllers have it. */
export function partSerialRate(clock: { sourceHz: number, divider: 'sixteenth' | 'eighth' }, baud: number): Rate {
  const factor = clock.divider === 'sixteenth' ? 16 : 8
  const n = Math.max(0, Math.round(clock.sourceHz / (factor * baud)) - 1)
  return made(`n = ${n}`, clock.sourceHz / (factor * (n + 1)), baud)
}

/** Both ends together within about two per cent each is safe. Common practice. */
export const SAFE_ERROR = 0.02
/** A frame of ten bits falls apart when both ends differ by half a bit at its end. Arithmetic: 0.5 ÷ 9.5. */
export const MAX_DIFFERENCE = 0.5 / 9.5

/** The fastest SPI clock no faster than `maxHz`, by dividers that the controller has. */
export function spiClock({ sourceHz, divider }: Pick<Clock, 'sourceHz' | 'divider'>, maxHz: number): Rate {
  const min = Math.max(divider === 'even' ? 2 : 1, Math.ceil(sourceHz / maxHz - 1e-9))
  const n = divider === 'even' ? min + min % 2 : min
  return made(`÷ ${n}`, sourceHz / n, maxHz)
}

/** The next faster step that the device does not stand, for telling what was missed. */
export function spiStepAbove(clock: Pick<Clock, 'sourceHz' | 'divider'>, atHz: number): number | null {
  const n = Math.round(clock.sourceHz / atHz) - (clock.divider === 'even' ? 2 : 1)
  return n < (clock.divider === 'even' ? 2 : 1) ? null : clock.sourceHz / n
}

/** I²S bit clock: rate × two channels × bits, from a divider of whole and n/4096 steps. Memory. */
export function i2sClock({ sourceHz }: Pick<Clock, 'sourceHz'>, rateHz: number,
  bits: number): Rate & { even: boolean } {
  const asked = rateHz * 2 * bits
  const steps = Math.round(sourceHz * 4096 / asked)
  return { ...made(`÷ ${Number((steps / 4096).toFixed(4))}`, sourceHz * 4096 / steps, asked), even: steps % 4096 === 0 }
}

/** Bytes a second at most: a byte takes start, data, parity and stop bits. 8N1 takes ten. */
export function bytesPerSecond(baud: number, frame: string): number {
  return baud / bitsPerByte(frame)
}

/** Bit times of one byte in a frame such as `8N1`. */
export function bitsPerByte(frame: string): number {
  return 1 + Number(frame[0]) + (frame[1] === 'N' ? 0 : 1) + Number(frame[2])
}

/** Frames a second at most that a bus can carry: clock ÷ (width · height · bits). Arithmetic. */
export function framesPerSecond(clockHz: number, width: number, height: number, bitsPerPixel: number): number {
  return clockHz / (width * height * bitsPerPixel)
}

/** Duty steps of a PWM channel at a frequency: whole clock ticks in a period. */
export function pwmSteps(sourceHz: number, frequencyHz: number): number {
  return Math.floor(sourceHz / frequencyHz)
}
