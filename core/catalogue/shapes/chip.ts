/**
 * What a part's folder says in `chip.ts`: how the part answers on the simulated board, so that a raw read shows what a
 * real one would. Written from the chip's side, never from the program that reads it.
 */
import type { Quantity } from './part'

export interface ChipState {
  /** The quantity at the part, in the unit of its kind: °C, %, hPa, lux, ppm, mm, g, V. */
  of: (what: Quantity) => number
  /** Wall clock of the board. */
  now: Date
  /** What a program wrote at a register, if any did. */
  written: (register: number) => number | undefined
}

/** A part with registers on I²C. */
export interface Registers {
  /** Bytes of one register. */
  width: 1 | 2
  at: (register: number, state: ChipState) => number
  /** Of a part that takes commands of two bytes and has no registers: what it answers to one. */
  answers?: (command: number, state: ChipState) => number[]
}

/**
 * What a chip on SPI knows while it answers: the room around it, and figures that it keeps from one message
 * to the next.
 */
export interface SpiState {
  of: (what: Quantity) => number
  kept: { get: (name: string) => number | undefined, set: (name: string, value: number) => void }
}

/** One message with its select low: as many bytes back as were sent; nothing where the chip says nothing to it. */
export type SpiChip = (sent: readonly number[], state: SpiState) => number[] | undefined

/** A part that speaks on a serial port. */
export interface Talker {
  /** Every so many seconds it says something. */
  everyS?: number
  says?: (nth: number) => string
  /** What it answers to a line; null for nothing. */
  answers?: (line: string) => string | null
}

export interface PartChip { registers?: Registers, spi?: SpiChip, talker?: Talker }
