/** Small programs that try one part, or the plan as a whole, with the plan's lines, addresses and ports in them. */

/** `cpp` and `micropython` run on a microcontroller at the other end of a serial link. */
import type { ProgramAim } from '../catalogue/shapes/program'

export type ProgramLanguage = 'python' | 'c' | 'shell' | 'cpp' | 'micropython'

export type { ProgramAim }

export interface SmallProgram {
  /** File name, unique in the plan. */
  file: string
  /** Null for the plan as a whole. */
  partId: string | null
  aim: ProgramAim
  language: ProgramLanguage
  title: string
  text: string
  /** Commands that build and start it, one for each line. */
  start: string[]
  /** What must be seen. */
  see: string[]
  cautions: string[]
}

/** A part that no program is written for, and why. */
export interface WithoutProgram { partId: string, name: string, why: string }

export interface SmallPrograms { programs: SmallProgram[], without: WithoutProgram[] }

/** A line that a program sets. `where`: "position 8", or the name that it has at an expander. */
export interface OutLine { label: string, line: number, where: string, rest: 0 | 1 }
/** A line that a program reads. */
export interface InLine {
  label: string
  line: number
  where: string
  bias: 'pull-up' | 'pull-down' | 'none'
  active: 0 | 1
}

/** A GPIO beside a bus, with its pin. */
export interface SideLine { line: number, position: number }

/**
 * A program of a part before it has its name: what it is for, its text, and the words that are given to it
 * as an example.
 */
export interface ProgramText { aim: ProgramAim, text: string, arguments: string }
