/** Boards as they stand in their files. */
import { flag, list, map, number, object, oneOf, optional, text, type Of } from '../../shape/shape'
import { bodyShape } from './body'
import {
  boardOutline, bootNeed, cautions, controllerKind, id, key, line,
  notNegative, origin, plugSize, positive, position, sourced, words,
} from './common'
import { boardClocking, boardHeat, boardPower } from './power'

/**
 * What one header line can be switched to. `setting` is the multiplexer setting; `signal` is the controller's own
 * name for it.
 */
const lineFunction = object({ setting: text(), controller: key, signal: optional(text()) })

const boardLine = object({
  line,
  resetPull: oneOf('up', 'down'),
  /** A resistor soldered to the board from this line to 3V3, in ohms. */
  fixedPullUpOhm: optional(positive),
  /** Moves by itself while the board starts; says what moves it. */
  startNoise: optional(words),
  functions: list(lineFunction),
})

const headerPosition = object({
  position,
  kind: oneOf('line', '5V', '3V3', 'ground'),
  line: optional(line),
  /** Kept for an add-on board's identity memory. */
  identity: optional(flag),
})

/** One way to bring a controller out on the header: controller signal → line. */
const route = object({ lines: map(number({ whole: true })), boot: list(bootNeed) })

/**
 * What a controller derives its rate from. `fractional-64`: serial, source ÷ 16 ÷ (whole + n/64). `eighth`: serial,
 * source ÷ 8 ÷ (n + 1). `even`: SPI, source ÷ an even number. `whole`: source ÷ a whole number. `fractional-4096`: I²S,
 * source ÷ (whole + n/4096).
 */
const clock = object({
  source: words,
  sourceHz: positive,
  divider: oneOf('fractional-64', 'eighth', 'even', 'whole', 'fractional-4096'),
  /** Follows the processor's core clock, so a change of that changes the rate. */
  followsCore: optional(flag),
  origin,
})

/** Which circuit serves a controller's place, where the boot file can choose. */
const variant = object({
  id: key,
  label: words,
  /** Serial: has parity, a deep buffer and a clock of its own. */
  full: flag,
  clock,
  boot: list(bootNeed),
  note: optional(words),
})

const controller = object({
  id: key,
  kind: controllerKind,
  label: words,
  /** Default instances are taken first. */
  isDefault: flag,
  /** The node a program opens once the bus is on. */
  device: optional(text()),
  clock: optional(clock),
  /** SPI: clock modes that its driver does; all four where nothing is said. */
  modes: optional(list(oneOf(0, 1, 2, 3), { min: 1, unique: true })),
  /** The first one is what the board starts with. */
  variants: optional(list(variant, { min: 1 })),
  routes: list(route, { min: 1 }),
})

const draw = object({ idleMa: notNegative, typicalMa: notNegative, peakMa: notNegative, origin })

const limits = object({
  /** Highest voltage an input line stands. */
  inputMaxV: sourced,
  /** Lowest voltage an input line is sure to read as high. */
  inputHighMinV: sourced,
  /** Highest voltage an input line is sure to read as low. */
  inputLowMaxV: sourced,
  /** What an output line gives when lightly loaded. */
  outputHighV: sourced,
  /** Most current one line drives. */
  lineMaxMa: sourced,
  /** Most current all lines drive together. */
  linesTotalMaxMa: sourced,
  /** What the 3V3 header positions give together. */
  rail3V3BudgetMa: sourced,
  /** What the board's USB data ports give together. */
  usbBudgetMa: sourced,
  /** Inner pull resistors of the lines, least and most. */
  innerPullMinOhm: sourced,
  innerPullMaxOhm: sourced,
})

/** What overlays for the board have to know of its tree. */
const tree = object({
  /** Of the base, as an overlay names it. */
  compatible: words,
  /**
   * Line chips by label: number of their first line, and cells of a line's place in a property. With three the first is
   * the bank of 32.
   */
  chips: list(object({ label: words, first: line, cells: oneOf(2, 3) })),
  /** How pin settings are written; `none` where an overlay needs none. */
  binding: oneOf('numbered', 'named', 'none'),
  /** Labels of the rails' regulators. */
  rails: optional(object({ '5V': optional(words), '3V3': optional(words) })),
  /** Label of the processor's heat zone, whose trips switch fans. */
  thermalZone: optional(words),
  /** The tree has labels that overlays can name. */
  symbols: flag,
})

/** What one sees on a board, for telling it apart without a name. Question → answer; both are in `recognise.ts`. */
const signs = map(text())
const count = number({ min: 0, whole: true })

export const boardShape = object({
  id,
  name: words,
  summary: words,
  /** The same as the signs in words, for the card. */
  seen: list(words, { min: 2 }),
  signs,
  header: list(headerPosition, { min: 2, unique: 'position' }),
  /** The header comes without its pins: they are soldered first. */
  headerUnpopulated: optional(flag),
  lines: list(boardLine, { unique: 'line' }),
  controllers: list(controller, { unique: 'id' }),
  limits,
  draw,
  /** Where it is missing the usual figures of `core/facts/board.ts` stand in; the same for heat and clocking. */
  power: optional(boardPower),
  heat: optional(boardHeat),
  clocking: optional(boardClocking),
  advisedSupplyMa: sourced,
  /** `usbSideBySide`: wide plugs that fit beside each other. */
  sockets: object({ usb: count, video: count, usbSideBySide: optional(count), fan: optional(count),
    display: optional(count) }),
  /** Circuits by which programs for addressable strips make their signal here; PWM and SPI where nothing is said. */
  stripBy: optional(list(oneOf('pwm', 'i2s', 'spi'), { min: 1, unique: true })),
  /** Analog sound on a socket of its own, made by the PWM circuit that the header's channels come from. */
  soundSocket: optional(flag),
  /** Where nothing is said nobody knows which case fits. */
  outline: optional(boardOutline),
  /** The room that it takes, and where its sockets lie. */
  body: optional(bodyShape),
  /** Sizes of its USB and video sockets; full where nothing is said. */
  socketSizes: optional(object({ usb: optional(plugSize), video: optional(plugSize) })),
  /** Of two like sockets one carries no data: which one does, in words. */
  dataSocket: optional(words),
  /** Made-up price in the maker's own currency, for comparing. */
  price: optional(notNegative),
  /** Least generation of image that starts on it. */
  leastImage: optional(oneOf('older', 'newer')),
  /** Month of the first images that knew it. */
  imageSince: optional(object({ month: text({ pattern: /^\d{4}-\d{2}$/, called: 'year and month such as 2019-06' }),
    origin })),
  bootPath: text(),
  /** Where nothing is said, that of the base trees that ship. */
  tree: optional(tree),
  /** Words by which section filters of the key-value dialect know the board. */
  bootModels: optional(list(words)),
  /** How its boot file is written; key-value where nothing is said. */
  bootDialect: optional(oneOf('key-value', 'extlinux', 'environment')),
  cautions,
})

export interface LineFunction extends Of<typeof lineFunction> {}
export interface BoardLine extends Of<typeof boardLine> {}
export interface HeaderPosition extends Of<typeof headerPosition> {}
export interface Route extends Of<typeof route> {}
export interface Clock extends Of<typeof clock> {}
export interface Variant extends Of<typeof variant> {}
export interface Controller extends Of<typeof controller> {}
export interface Draw extends Of<typeof draw> {}
export interface BoardLimits extends Of<typeof limits> {}
export type Signs = Of<typeof signs>
export interface BoardTree extends Of<typeof tree> {}
export interface Board extends Of<typeof boardShape> {}
