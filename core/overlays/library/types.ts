/**
 * The vocabulary of the overlay library: what a line of a boot file may ask for, what that takes and what it brings.
 */
import type { Origin } from '../../catalogue/types'

export type ParamKind
  /** Line number of the header. */
  = | 'line'
  /** Stands alone, or with on/off. */
    | 'flag'
    | 'number'
    | 'choice'
  /** 7-bit bus address. */
    | 'address'
    | 'text'

export interface ParamSpec {
  name: string
  kind: ParamKind
  what: string
  /** As it would be written; absent where the overlay leaves it out. */
  default?: string
  min?: number
  max?: number
  values?: readonly string[]
}

export interface Appears {
  path: string
  what: string
}

/** One of several parts that an overlay serves, chosen by a flag. */
export interface Choice {
  compatible: string
  what: string
  address?: string
  appears?: Appears[]
}

export interface OverlaySpec {
  name: string
  what: string
  group: 'bus' | 'serial' | 'sensing' | 'showing' | 'sounding' | 'input' | 'switching' | 'talking' | 'storing'
    | 'system'
  /** Where parameters, defaults and claims come from. */
  origin: Origin
  params: ParamSpec[]
  /** Flags of which one is chosen. */
  choices?: Record<string, Choice>
  /** Bus on which its device lies; `{bus}` follows the bus flags. */
  bus?: string
  /** Parameter or figure for the address on that bus. */
  address?: string
  /** Parameter or figure for the chip select. */
  select?: string
  /** Controllers that it switches on. */
  enables?: string[]
  /** Lines taken whatever the parameters say, with what for. */
  lines?: Record<number, string>
  /** Lines taken with a flag; the default entry stands under ''. */
  linesBy?: Record<string, number[]>
  /** Clocks or other single circuits that two cannot have at once. */
  holds?: string[]
  appears: Appears[]
  /** Source of what it lays onto the base tree; `{param}` is filled in. */
  tree: string
  /** Parameters of nearly the same name that mean the same: pattern and name. */
  alike?: [pattern: string, name: string][]
  /** Said when it is loaded with others that do the same job. */
  excludes?: string[]
  /** Why one would not use it (again). */
  caution?: string
}

/** What an overlay with given parameters takes. */
export type Claim
  = | { kind: 'line', line: number, as: string, param?: string }
    | { kind: 'address', bus: string, address: number }
    | { kind: 'select', bus: string, select: number }
  /** Wants the bus on. */
    | { kind: 'bus', bus: string }
  /** Switches it on itself. */
    | { kind: 'enables', bus: string }
    | { kind: 'circuit', name: string }

/** A plain setting of the key-value dialect. */
export interface SettingSpec {
  name: string
  what: string
  kind: 'number' | 'switch' | 'text' | 'choice'
  min?: number
  max?: number
  values?: readonly string[]
  unit?: string
  group: 'clock' | 'screen' | 'memory' | 'start' | 'interface' | 'camera' | 'supply' | 'line'
  origin: Origin
  /** The display drivers under which it has an effect; every one where nothing is said. */
  displayDrivers?: readonly ('full' | 'firmware' | 'legacy')[]
  /** May stand more than once with different values. */
  repeats?: boolean
  /** Kinds of image or board on which it does nothing any more. */
  gone?: string
}
