/**
 * What a part's folder says in `program.ts`: how a first program reads it, in terms that every language is written
 * from. Formulas are written so that Python and C read them alike: `d` is the block that was read, `k` what the part
 * was trimmed to, and the functions are `u16be`, `u16le`, `s16be`, `s16le`, `s8` and `bcd` (`core/bringup/programs`).
 */
import type { Quantity } from './part'

/** `waitMs`: between what is written and what is read, of a part that thinks first: it answers nobody meanwhile. */
export interface Block { register: readonly number[], bytes: number, waitMs?: number }

export interface Wake { send: readonly number[], ms?: number }

export interface RecipeValue {
  label: string
  unit: string
  digits: number
  formula: string
  what?: Quantity
}

/** How a part without a driver of the kernel is read over I²C. */
export interface Recipe {
  /** Bytes at a register that tell who it is. */
  who?: { register: number, value: number }
  /** Written once before all readings, each with the milliseconds that it takes. */
  wake?: readonly Wake[]
  /** Written before each reading, with the milliseconds until it is there. */
  ask?: readonly (readonly number[])[]
  askMs?: number
  /** Read once, one after the other into `k`. */
  trimmed?: readonly Block[]
  /** Read for each reading, one after the other into `d`. */
  blocks: readonly Block[]
  /** Steps between, each a name and its formula. */
  steps?: readonly (readonly [string, string])[]
  values: readonly RecipeValue[]
}

/**
 * `read` once or each second; `watch` what happens; `move` something; `show` something on it; `loopback` of a port;
 * `link` both ends; `serve` readings; `fan` by threshold; `shutdown` by a button.
 */
export type ProgramAim = 'read' | 'watch' | 'move' | 'show' | 'loopback' | 'link' | 'serve' | 'fan' | 'shutdown'

/** The body of a program in one language, and the functions that it needs beside those of the language's own file. */
export interface ProgramBody { functions?: string, main: string }

/** A program for a part that is spoken to over SPI in a way of its own. */
export interface SpiProgram {
  aim: ProgramAim
  title: string
  does: string
  /**
   * Signals beside the bus that it cannot do without; it is left out where one of them lies on no line of the header.
   */
  needs: readonly string[]
  python: ProgramBody
  c: ProgramBody
  see: string
  /** What it is given as an example. */
  arguments?: string
}

export interface PartProgram { i2c?: Recipe, spi?: SpiProgram }

/** A value that is one of the quantities that the surroundings have. */
export const value = (what: Quantity, label: string, unit: string, digits: number, formula: string): RecipeValue =>
  ({ label, unit, digits, formula, what })
export const celsius = (formula: string): RecipeValue => value('temperature', 'temperature', '°C', 1, formula)
/** A recipe that only asks who the part is. */
export const identity = (register: number,
  found: number): Recipe => ({ who: { register, value: found }, blocks: [], values: [] })
