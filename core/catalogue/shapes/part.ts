/** Parts as they stand in their files: what they need from a board, and what they offer to others. */
import { choice, depending, flag, list, map, number, object, oneOf, optional, text, type Of } from '../../shape/shape'
import { bodyShape, bodySocket } from './body'
import {
  boardOutline, bootNeedWith, cautions, condition, feedRail, id, key, notNegative, origin, origins, plugSize, position,
  positive, rail,
  sourced, words,
} from './common'
import { kernelBinding } from './kernel'
import { loadLaw } from './power'
import { terminalId } from './terminal'

const when = optional(condition)

/** From the part's side: what a terminal wants from the place it is wired to. */
const signalRole = oneOf(
  'line', 'onewire', 'pwm', 'strip', 'i2c.sda', 'i2c.scl', 'spi.clock', 'spi.mosi', 'spi.miso', 'spi.select',
  'serial.tx', 'serial.rx', 'serial.rts', 'serial.cts', 'i2s.clock', 'i2s.frame', 'i2s.dataIn', 'i2s.dataOut',
)

/** What a part can measure of what is around it. */
const quantity = oneOf('temperature', 'humidity', 'pressure', 'light', 'carbon-dioxide', 'distance', 'weight',
  'voltage')

/** What a PWM input asks of its channel. */
const pwmNeed = object({
  frequencyHz: positive,
  minHz: positive,
  maxHz: positive,
  /** Duty steps that make sense, e.g. 180 for a servo of one degree. */
  steps: optional(positive),
  /** A servo's pulse, shortest and longest. */
  pulseMinUs: optional(positive),
  pulseMaxUs: optional(positive),
  origin,
})

const signal = object({
  id: terminalId,
  label: words,
  role: signalRole,
  /** Seen from the part: `out` drives the board's line. */
  direction: oneOf('in', 'out', 'both'),
  when,
  drive: optional(oneOf('push-pull', 'open-drain', 'contact')),
  /** Voltage the part puts on the wire when high (or pulls it up to, for open drain). */
  outputHighV: optional(sourced),
  /** Voltage when low, where that is not near ground: RS-232 goes negative. */
  outputLowV: optional(sourced),
  /** A voltage that varies, not two levels: no digital line can read it. */
  analog: optional(flag),
  /** Least voltage this terminal is sure to read as high. */
  inputHighMinV: optional(sourced),
  /** Most voltage this terminal stands. */
  inputMaxV: optional(sourced),
  /** Steady current this terminal takes from the line when driven. */
  inputCurrentMa: optional(sourced),
  /** What hangs on the terminal when nothing stands between: needs a driving stage. */
  load: optional(oneOf('coil', 'motor', 'lamp')),
  /** A resistor on the part from this terminal to the other level. */
  pull: optional(object({ to: oneOf('up', 'down'), ohm: sourced })),
  /** Level at which the attached thing is idle: a reset pull to the other level moves it at start. */
  idleLevel: optional(oneOf('low', 'high')),
  /** Must not move while the board starts: something mechanical or final hangs on it. */
  still: optional(flag),
  pwm: optional(pwmNeed),
  /** Tells the board of something: `wake` ones must reach it while it sleeps. */
  tells: optional(oneOf('interrupt', 'wake')),
  /** May sit on an expander's terminal: slow and not timed by the kernel. */
  slow: optional(flag),
  /** Add-on boards: the header position the terminal is bound to. */
  claimsPosition: optional(position),
  /** Not needed for the part to work: may stay unplaced without a finding. */
  optional: optional(flag),
  /** Stands once for each unit of a count option: `row` becomes `row1`, `row2`, … */
  repeat: optional(key),
})

const supply = object({
  id: terminalId,
  label: words,
  /** From the header there are only its own rails. */
  rail: depending('from', 'header', rail, feedRail),
  /**
   * `header`: two wires to the header. `usb`: through a USB plug. `own`: terminals that the maker feeds from a supply
   * of its own.
   */
  from: oneOf('header', 'usb', 'own'),
  when,
  idleMa: notNegative,
  typicalMa: notNegative,
  peakMa: notNegative,
  /** For parts whose draw grows with a count option: the figures are for each unit of it. */
  perOption: optional(key),
  /** Option that says how many percent of what it draws above idle it may draw: a brightness. */
  percentOption: optional(key),
  /** For a moment when it is switched on. */
  surgeMa: optional(notNegative),
  /** How long that lasts; 10 ms where nothing is said. */
  surgeS: optional(positive),
  /** What stays the same as the voltage changes; the current where nothing is said. */
  law: optional(loadLaw),
  /** Least voltage it works at, and most it stands; 0.9 and 1.1 of the rail where nothing is said. */
  leastV: optional(positive),
  mostV: optional(positive),
  /**
   * Has a power socket of its own, joined inside to this terminal: whatever is plugged in there feeds the
   * terminal's wire too.
   */
  socket: optional(flag),
  /** It feeds the rail while nothing else does: a board with a battery of its own, charged through its own socket. */
  gives: optional(flag),
  origin, origins,
  claimsPosition: optional(position),
})

const ground = object({ id: terminalId, label: words, when, claimsPosition: optional(position) })

const option = object({
  id: key,
  label: words,
  kind: oneOf('choice', 'count'),
  values: depending(
    'kind', 'choice', list(object({ value: text(), label: words }), { min: 2 }),
    optional(list(object({ value: text(), label: words }))),
  ),
  min: depending('kind', 'count', number(), optional(number())),
  max: depending('kind', 'count', number(), optional(number())),
  default: text(),
  /** What the choice stands for, so that a finding can offer another one. */
  meaning: optional(oneOf('i2c-address', 'link', 'count', 'percent', 'rotation', 'rate', 'seat')),
})

/** Terminals a part gives to others: an expander's lines, a hub's channels. */
const offer = object({
  id: key,
  kind: oneOf('line', 'i2c', 'analog'),
  label: words,
  /** Most voltage the terminal stands, where that differs from the board's lines. */
  inputMaxV: optional(sourced),
  /** Terminals of the offer: `line` for a line or an analog input; `sda` and `scl` for a channel. */
  terminals: map(text()),
})

const contacts = object({
  count: number({ min: 1, whole: true }), maxAcV: notNegative, maxAcA: notNegative, maxDcV: notNegative,
  maxDcA: notNegative, origin,
})

const i2cDevice = object({
  /** 7-bit address, e.g. `0x44`; `addressOption` names the option that chooses it. */
  address: optional(text({ pattern: /^0x[0-7][0-9a-f]$/, called: 'an address from 0x00 to 0x7f' })),
  addressOption: optional(key),
  /**
   * Addresses at which it answers besides, or a second chip on its board does. Those of like parts do not get in
   * each other's way.
   */
  also: optional(list(object({ address: text({ pattern: /^0x[0-7][0-9a-f]$/, called: 'an address from 0x00 to 0x7f' }),
    what: words, origin }))),
  maxClockHz: optional(positive),
  /** Pull-up resistors on the part, SDA and SCL alike. */
  pullUpOhm: optional(positive),
  /** Of its pins and tracks. */
  capacitancePf: optional(positive),
  /** Holds SCL low while it thinks. */
  stretchesClock: optional(flag),
  /** How often it is asked, and how many bytes pass each time, address bytes included. */
  poll: optional(object({ hz: positive, bytes: positive })),
  /** Addresses at which people mostly mean this part, where several answer there. */
  usualAt: optional(list(text({ pattern: /^0x[0-7][0-9a-f]$/, called: 'an address from 0x00 to 0x7f' }))),
  when,
}, { either: ['address', 'addressOption'] })

const serialPort = object({
  baud: positive,
  /** Option that sets the rate, if it can be set. */
  baudOption: optional(key),
  /** `8N1`, `7E1` … */
  frame: text({ pattern: /^[5-8][NEO][12]$/, called: 'data bits, parity, stop bits' }),
  /** What the wires carry. `rs232` is inverted and goes negative. */
  levels: optional(oneOf('logic', 'rs232')),
  /** The part's own rate source: a controller's 16× (`sixteenth`) or 8× (`eighth`) divider of its clock. */
  clock: optional(object({ sourceHz: positive, divider: oneOf('sixteenth', 'eighth'), origin })),
  /** What it sends when busy. */
  sendsBytesPerS: optional(positive),
  /** Drops bytes without RTS/CTS. */
  wantsFlowControl: optional(flag),
  /** RS-485: the signal that turns the driver round; absent when the part turns by itself. */
  directionSignal: optional(key),
  when,
})

const strip = object({
  bitsPerPixel: positive,
  bitUs: positive,
  pauseUs: notNegative,
  pixelsOption: key,
  /** Of its tracks from one pixel to the next, there and back. */
  ohmPerPixel: optional(positive),
  /** Option that says whether it is fed at `one` end or at `both`. */
  fedOption: optional(key),
  /** Has a clock wire beside the data: any SPI speed will do. */
  clocked: optional(flag),
  origin,
})

const display = object({
  sizeInch: positive,
  width: positive,
  height: positive,
  bitsPerPixel: positive,
  touch: oneOf('none', 'resistive', 'capacitive'),
  picture: oneOf('SPI', 'I²C', 'video', 'flat cable'),
  touchBy: oneOf('none', 'SPI', 'I²C', 'USB', 'flat cable'),
  backlight: oneOf('none', 'line', 'PWM', 'button'),
  driver: oneOf('overlay', 'own program', 'none needed', 'ready image'),
  /** Most frames a second the glass itself shows. */
  maxHz: optional(positive),
})

/** Where an add-on board sits and what it leaves free above it. */
const seat = object({
  from: position,
  to: position,
  /** The header comes out again on its top, so that another board or wires can sit there. */
  passes: flag,
  /**
   * Choice option: with its value `long` the header's pins are so long that they come out above the board after all.
   */
  passesOption: optional(key),
  /** Count option by whose columns it may be shifted. */
  shiftOption: optional(key),
  /** Has an identity memory on positions 27 and 28; one board of a stack may. */
  identity: optional(flag),
  /** Must be the lowest or the topmost of a stack. */
  wants: optional(oneOf('lowest', 'topmost')),
})

/** Parameters that an overlay line gets besides, by the signal whose place decides: signal → parameter → value. */
const signalParams = map(map(text({ empty: true })))

/** What a first program says on its serial port, and what is seen then. */
const hello = object({
  send: optional(text()),
  /**
   * `text`: lines come back or by themselves; `own-program`: what the maker's program on it says; `print`: it prints,
   * and is silent.
   */
  shows: oneOf('text', 'own-program', 'print'),
  origin: optional(origin),
})

/**
 * How programs and tables call the part or its terminals, in small letters: what a plan is begun from. Common usage.
 */
const called = object({
  /** Smaller is asked first where several parts answer to a word. */
  rank: optional(number()),
  words: optional(list(text(), { min: 1, unique: true })),
  /** Terminal → words for it; none where the part's own words mean it. */
  terminals: optional(map(list(text()))),
  /** It stands for so many of another part, whose terminals it numbers from 1: a board with several of them. */
  severalOf: optional(id),
  terminal: optional(key),
  max: optional(positive),
})

/** A part that answers on one GPIO to what a program does on another. */
const answers = choice('by', {
  /** A pulse as long as sound takes to a wall and back. */
  echo: { trigger: terminalId, echo: terminalId, afterS: positive, maxS: positive, origin },
  /** A figure, bit by bit. */
  bits: { data: terminalId, clock: terminalId, bits: positive, everyS: positive, stepsPerGram: positive, origin },
})

const partGroup = oneOf('sensing', 'showing', 'switching', 'sounding', 'talking', 'timing', 'moving', 'lighting',
  'input', 'expanding',
  'building')

/** A thing: everything a maker buys beside what has signals. Figures of room are measured from the top of the board. */
const thing = object({
  /** What its other figures say where it is missing. */
  is: optional(oneOf('case', 'cooler', 'fan', 'card', 'header', 'adapter', 'carrier', 'breadboard', 'terminals',
    'tool')),
  /** Outlines of boards that it goes with; any where nothing is said. */
  outlines: optional(list(boardOutline, { min: 1, unique: true })),
  cooler: optional(oneOf('fins', 'block', 'case-body', 'active')),
  enclosure: optional(oneOf('open', 'vented', 'closed')),
  /** How high a cooler stands over the board, in mm. */
  heightMm: optional(positive),
  /** Of a cooler: thickness of the pad between it and the chip, within its height, in mm. */
  padMm: optional(positive),
  /** Of a case: from the board to the lid, in mm. */
  lidMm: optional(positive),
  /** Of a case: between its walls, in mm; the board stands in the middle of it. */
  insideMm: optional(object({ widthMm: positive, depthMm: positive })),
  /** Of a case: sockets of the board that look out of a hole of it. */
  openings: optional(list(bodySocket, { unique: true })),
  /** Of a case: what is on the header comes out through a slot of it. */
  headerSlot: optional(flag),
  /** Of a case: an add-on board has room inside. */
  addOnInside: optional(flag),
  card: optional(object({ gigabytes: positive, manySmallWrites: flag })),
  /** From a socket of the board to one that takes full-size plugs. */
  adapts: optional(object({ socket: oneOf('usb', 'video'), size: plugSize })),
  /** Tools: steps that want it. */
  forWork: optional(oneOf('soldering', 'measuring', 'cutting', 'fastening')),
  origin: optional(origin),
})

export const partShape = object({
  id,
  name: words,
  summary: words,
  group: partGroup,
  options: optional(list(option, { unique: 'id' })),
  signals: list(signal, { unique: 'id' }),
  supplies: list(supply, { unique: 'id' }),
  grounds: list(ground, { unique: 'id' }),
  /** Plugs that go into the board's sockets; `wide` ones cover their neighbour. */
  plugs: optional(list(object({
    socket: oneOf('usb', 'video', 'fan', 'display'), wide: optional(flag),
    /** Of USB and video plugs; full size where nothing is said. */
    size: optional(plugSize),
    when,
  }))),
  i2c: optional(i2cDevice),
  spi: optional(object({ maxClockHz: positive, mode: oneOf(0, 1, 2, 3), bytesPerS: optional(positive) })),
  serial: optional(serialPort),
  strip: optional(strip),
  i2s: optional(object({ rates: list(positive, { min: 1 }), bits: positive, origin })),
  /** A thing without signals: what it is, what it goes with, and the room that it takes or leaves. */
  thing: optional(thing),
  matrix: optional(object({ rowsOption: key, columnsOption: key, diodesOption: key })),
  display: optional(display),
  offers: optional(list(offer, { unique: 'id' })),
  contacts: optional(contacts),
  isAddOn: optional(flag),
  seat: optional(seat),
  /**
   * What the boot file needs for it; `{signal}` in a value is replaced by that signal's line, `{option:id}` by the
   * option's value, `{select}` by the chip select number, `{bus}` by the bus number.
   */
  boot: optional(list(bootNeedWith({ when, whenPlaced: optional(signalParams), whenOpen: optional(signalParams) }))),
  /** How the kernel knows it. */
  kernel: optional(kernelBinding),
  /** Device nodes or folders that appear; the same replacements hold. */
  nodes: optional(list(object({ path: text(), what: words, when }))),
  /** What of its surroundings it measures. */
  reads: optional(list(quantity)),
  /** Further words by which people look for it. */
  search: optional(list(words)),
  hello: optional(hello),
  called: optional(called),
  answers: optional(answers),
  /**
   * Of an add-on board: what it does, and the parts that do the same by wires, as often as it takes. Common practice.
   */
  byWires: optional(object({ does: words, parts: list(id, { min: 1 }) })),
  /** Signal by which the board holds its own supply on until it has shut down. */
  holdsSupply: optional(terminalId),
  cautions,
  /** The room that it takes. */
  body: optional(bodyShape),
  leadM: optional(positive),
  /** Made-up price in the maker's own currency, for comparing. */
  price: optional(notNegative),
})

export type SignalRole = Of<typeof signalRole>
export type Quantity = Of<typeof quantity>
export interface PwmNeed extends Of<typeof pwmNeed> {}
export interface Signal extends Of<typeof signal> {}
export interface Supply extends Of<typeof supply> {}
export interface Ground extends Of<typeof ground> {}
export interface PartOption extends Of<typeof option> {}
export interface Offer extends Of<typeof offer> {}
export interface Contacts extends Of<typeof contacts> {}
export interface I2cDeviceFile extends Of<typeof i2cDevice> {}
export interface SerialPortFile extends Of<typeof serialPort> {}
export interface StripFile extends Of<typeof strip> {}
export type GpioAnswer = Of<typeof answers>
export interface Thing extends Of<typeof thing> {}
export interface Display extends Of<typeof display> {}
export interface Seat extends Of<typeof seat> {}
export type SignalParams = Of<typeof signalParams>
export type PartGroup = Of<typeof partGroup>
export interface Part extends Of<typeof partShape> {}
