/** Boards as they stand in their files. */
import type { BootNeed, ControllerKind, Origin, Rail, Sourced } from './common'
import type { BoardClocking, BoardHeat, BoardPower } from './power'

/** What one header line can be switched to. `setting` is the multiplexer setting; `signal` is the controller's own name for it. */
export interface LineFunction {
  setting: string
  controller: string
  signal?: string
}

export interface BoardLine {
  line: number
  resetPull: 'up' | 'down'
  /** A resistor soldered to the board from this line to 3V3, in ohms. */
  fixedPullUpOhm?: number
  /** Moves by itself while the board starts; says what moves it. */
  startNoise?: string
  functions: LineFunction[]
}

export interface HeaderPosition {
  position: number
  kind: 'line' | Rail | 'ground'
  line?: number
  /** Kept for an add-on board's identity memory. */
  identity?: boolean
}

/** One way to bring a controller out on the header: controller signal → line. */
export interface Route {
  lines: Record<string, number>
  boot: BootNeed[]
}

/**
 * What a controller derives its rate from.
 * `fractional-64`: serial, source ÷ 16 ÷ (whole + n/64). `eighth`: serial, source ÷ 8 ÷ (n + 1). `even`: SPI, source ÷ an
 * even number. `whole`: source ÷ a whole number. `fractional-4096`: I²S, source ÷ (whole + n/4096).
 */
export interface Clock {
  source: string
  sourceHz: number
  divider: 'fractional-64' | 'eighth' | 'even' | 'whole' | 'fractional-4096'
  /** Follows the processor's core clock, so a change of that changes the rate. */
  followsCore?: boolean
  origin: Origin
}

/** Which circuit serves a controller's place, where the boot file can choose. */
export interface Variant {
  id: string
  label: string
  /** Serial: has parity, a deep buffer and a clock of its own. */
  full: boolean
  clock: Clock
  boot: BootNeed[]
  note?: string
}

export interface Controller {
  id: string
  kind: ControllerKind
  label: string
  /** Default instances are taken first. */
  isDefault: boolean
  /** The node a program opens once the bus is on. */
  device?: string
  clock?: Clock
  /** The first one is what the board starts with. */
  variants?: Variant[]
  routes: Route[]
}

export interface Draw {
  idleMa: number
  typicalMa: number
  peakMa: number
  origin: Origin
}

export interface BoardLimits {
  /** Highest voltage an input line stands. */
  inputMaxV: Sourced
  /** Lowest voltage an input line is sure to read as high. */
  inputHighMinV: Sourced
  /** Highest voltage an input line is sure to read as low. */
  inputLowMaxV: Sourced
  /** What an output line gives when lightly loaded. */
  outputHighV: Sourced
  /** Most current one line drives. */
  lineMaxMa: Sourced
  /** Most current all lines drive together. */
  linesTotalMaxMa: Sourced
  /** What the 3V3 header positions give together. */
  rail3V3BudgetMa: Sourced
  /** What the board's USB data ports give together. */
  usbBudgetMa: Sourced
  /** Inner pull resistors of the lines, least and most. */
  innerPullMinOhm: Sourced
  innerPullMaxOhm: Sourced
}

/** What one sees on a board, for telling it apart without a name. Question → answer; both are in `recognise.ts`. */
export type Signs = Record<string, string>

/** What overlays for the board have to know of its tree. */
export interface BoardTree {
  /** Of the base, as an overlay names it. */
  compatible: string
  /** Line chips by label: number of their first line, and cells of a line's place in a property. With three the first is the bank of 32. */
  chips: { label: string, first: number, cells: 2 | 3 }[]
  /** How pin settings are written; `none` where an overlay needs none. */
  binding: 'numbered' | 'named' | 'none'
  /** Labels of the rails' regulators. */
  rails?: Partial<Record<Rail, string>>
  /** The tree has labels that overlays can name. */
  symbols: boolean
}

export interface Board {
  id: string
  name: string
  summary: string
  /** The same in words, for the card. */
  seen: string[]
  signs: Signs
  header: HeaderPosition[]
  /** The header comes without its pins: they are soldered first. */
  headerUnpopulated?: boolean
  lines: BoardLine[]
  controllers: Controller[]
  limits: BoardLimits
  draw: Draw
  /** Where it is missing the usual figures of `core/power/board.ts` stand in; the same for heat and clocking. */
  power?: BoardPower
  heat?: BoardHeat
  clocking?: BoardClocking
  advisedSupplyMa: Sourced
  /** `usbSideBySide`: wide plugs that fit beside each other. */
  sockets: { usb: number, video: number, usbSideBySide?: number, fan?: number, display?: number }
  bootPath: string
  /** Where nothing is said, that of the base trees that ship. */
  tree?: BoardTree
  /** Words by which section filters of the key-value dialect know the board. */
  bootModels?: string[]
  /** How its boot file is written; key-value where nothing is said. */
  bootDialect?: 'key-value' | 'extlinux' | 'environment'
  cautions?: string[]
}
