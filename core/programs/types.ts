/**
 * The vocabulary of programs that are read: what stands in them, and what was found of pins, buses, addresses,
 * rates and devices.
 */

export type Language = 'python' | 'c' | 'javascript' | 'shell' | 'yaml' | 'json' | 'boot' | 'table'

export interface Span {
  /** Offsets into the text, `to` excluded. */
  from: number
  to: number
}

/** A value as it is written. */
export type Expr
  = | Span & { is: 'number', value: number }
  /** Between its quotes. */
    | Span & { is: 'text', value: string }
  /** `LED`, `board.D18`, `self.pin`; of a call's result only what follows it. */
    | Span & { is: 'name', path: readonly string[] }
    | Span & { is: 'list', items: readonly Expr[] }
    | Span & { is: 'map', entries: readonly { key: Expr, value: Expr }[] }
    | Span & { is: 'call', call: Call }
    | Span & { is: 'index', of: Expr, at: Expr | null }
    | Span & { is: 'field', of: Expr, name: string }
  /** One of these: both sides of a choice. */
    | Span & { is: 'either', of: readonly Expr[] }
    | Span & { is: 'other' }

export interface Argument {
  name?: string
  /** Said in a comment before it. */
  label?: string
  value: Expr
}

export interface Call extends Span {
  /** `GPIO.setup` → `['GPIO', 'setup']`. */
  path: readonly string[]
  args: readonly Argument[]
  /** What it is called upon, where that is more than a name. */
  on?: Expr
  /** Name that its result is given. */
  into?: string
  scope: Scope
}

/** Where a name is looked up: function in class in file; null is the file. */
export interface Scope {
  /** Function or class. */
  is: 'function' | 'class'
  name: string
  outer: Scope | null
}

export interface Definition extends Span {
  name: string
  value: Expr
  scope: Scope | null
  /** The items of the value are meant, one after the other; or those at a place of each, or the keys of a map. */
  each?: 'items' | 'keys' | number
}

export interface FunctionFound extends Span {
  name: string
  /** Parameters in their order, without the object itself. */
  params: readonly { name: string, value?: Expr }[]
  outer: Scope | null
  scope: Scope
  /** Something beside the program calls it: a decorator, an entry point, a method. */
  isEntry: boolean
}

export interface Comment extends Span {
  text: string
}

/** A program as a list of what matters in it. Dead parts are left out. */
export interface Program {
  calls: Call[]
  definitions: Definition[]
  functions: FunctionFound[]
  comments: Comment[]
  /** Fields of structures and data classes in their order, by name where they have one. */
  structures: { name: string, fields: readonly string[] }[]
  /** Imported name → what it stands for. */
  aliases: Map<string, string>
  /** Every name in the live text, with how often. */
  mentions: ReadonlyMap<string, number>
  /** What no run ever reaches. */
  dead: (Span & { why: string })[]
}

/** How pins are counted: by position on the header, by line, or by a numbering of one library's own. */
export type Numbering = 'header' | 'line' | 'own'

export type SightingKind = 'pin' | 'address' | 'i2c-bus' | 'spi-bus' | 'spi-select' | 'clock' | 'baud' | 'device'

export interface Sighting extends Span {
  kind: SightingKind
  /** A number; of a device its path. */
  value: number | string
  /** As it is written. */
  text: string
  /** 1-based. */
  line: number
  /** What it is called there: words of names, keys, classes and comments, the nearest first. */
  words: readonly string[]
  /** The name of the constant, variable or parameter. */
  name: string
  /** Said at the place itself, e.g. by `GPIO17`. */
  numbering?: Numbering
  direction?: 'in' | 'out'
  /** How it is known to be one. */
  by: string
  /** Of an address: the bus that it is asked on, where the program says so. */
  bus?: number
}

/** Something that looks like one and counts for nothing. */
export interface PassedOver extends Span {
  line: number
  text: string
  why: string
}

export interface Clue {
  /** 1-based; 0 for the whole. */
  line: number
  says: string
  for: Numbering
  weight: number
}

/** All that was found in a text. */
export interface ProgramReading {
  language: Language
  sightings: Sighting[]
  passedOver: PassedOver[]
  numbering: Numbering
  /** True where nothing but custom speaks for it. */
  isUnsure: boolean
  evidence: Clue[]
  /** The text is a program of a microcontroller: its pins are its own. */
  isController: boolean
  /** Where the text could not be read. */
  problems: string[]
}
