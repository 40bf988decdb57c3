/** Parts as they stand in their files: what they need from a board, and what they offer to others. */
import type { BootNeed, FeedRail, Origin, Rail, Sourced } from './common'
import type { LoadLaw } from './power'

/** From the part's side: what a terminal wants from the place it is wired to. */
export type SignalRole
  = | 'line' | 'onewire' | 'pwm' | 'strip'
    | 'i2c.sda' | 'i2c.scl'
    | 'spi.clock' | 'spi.mosi' | 'spi.miso' | 'spi.select'
    | 'serial.tx' | 'serial.rx' | 'serial.rts' | 'serial.cts'
    | 'i2s.clock' | 'i2s.frame' | 'i2s.dataIn' | 'i2s.dataOut'

/** True when the chosen options have these values. */
export type Condition = Record<string, string>

/** What a PWM input asks of its channel. */
export interface PwmNeed {
  frequencyHz: number
  minHz: number
  maxHz: number
  /** Duty steps that make sense, e.g. 180 for a servo of one degree. */
  steps?: number
  /** A servo's pulse, shortest and longest. */
  pulseMinUs?: number
  pulseMaxUs?: number
  origin: Origin
}

export interface Signal {
  id: string
  label: string
  role: SignalRole
  /** Seen from the part: `out` drives the board's line. */
  direction: 'in' | 'out' | 'both'
  when?: Condition
  drive?: 'push-pull' | 'open-drain' | 'contact'
  /** Voltage the part puts on the wire when high (or pulls it up to, for open drain). */
  outputHighV?: Sourced
  /** Voltage when low, where that is not near ground: RS-232 goes negative. */
  outputLowV?: Sourced
  /** A voltage that varies, not two levels: no digital line can read it. */
  analog?: boolean
  /** Least voltage this terminal is sure to read as high. */
  inputHighMinV?: Sourced
  /** Most voltage this terminal stands. */
  inputMaxV?: Sourced
  /** Steady current this terminal takes from the line when driven. */
  inputCurrentMa?: Sourced
  /** What hangs on the terminal when nothing stands between: needs a driving stage. */
  load?: 'coil' | 'motor' | 'lamp'
  /** A resistor on the part from this terminal to the other level. */
  pull?: { to: 'up' | 'down', ohm: Sourced }
  /** Level at which the attached thing is idle: a reset pull to the other level moves it at start. */
  idleLevel?: 'low' | 'high'
  /** Must not move while the board starts: something mechanical or final hangs on it. */
  still?: boolean
  pwm?: PwmNeed
  /** Tells the board of something: `wake` ones must reach it while it sleeps. */
  tells?: 'interrupt' | 'wake'
  /** May sit on an expander's terminal: slow and not timed by the kernel. */
  slow?: boolean
  /** Add-on boards: the header position the terminal is bound to. */
  claimsPosition?: number
  /** Not needed for the part to work: may stay unplaced without a finding. */
  optional?: boolean
  /** Stands once for each unit of a count option: `row` becomes `row1`, `row2`, … */
  repeat?: string
}

export interface Supply {
  id: string
  label: string
  rail: FeedRail
  /** `header`: two wires to the header. `usb`: through a USB plug. `own`: terminals that the maker feeds from a supply of its own. */
  from: 'header' | 'usb' | 'own'
  when?: Condition
  idleMa: number
  typicalMa: number
  peakMa: number
  /** For parts whose draw grows with a count option: the figures are for each unit of it. */
  perOption?: string
  /** For a moment when it is switched on. */
  surgeMa?: number
  /** What stays the same as the voltage changes; the current where nothing is said. */
  law?: LoadLaw
  /** Least voltage it works at, and most it stands; 0.9 and 1.1 of the rail where nothing is said. */
  leastV?: number
  mostV?: number
  /** Has a power socket of its own, joined inside to this terminal: whatever is plugged in there feeds the terminal's wire too. */
  socket?: boolean
  /** It feeds the rail while nothing else does: a board with a battery of its own, charged through its own socket. */
  gives?: boolean
  origin: Origin
  claimsPosition?: number
}

export interface Ground {
  id: string
  label: string
  when?: Condition
  claimsPosition?: number
}

export interface PartOption {
  id: string
  label: string
  kind: 'choice' | 'count'
  values?: { value: string, label: string }[]
  min?: number
  max?: number
  default: string
  /** What the choice stands for, so that a finding can offer another one. */
  meaning?: 'i2c-address' | 'link' | 'count' | 'rotation' | 'rate' | 'seat'
}

/** Terminals a part gives to others: an expander's lines, a hub's channels. */
export interface Offer {
  id: string
  kind: 'line' | 'i2c' | 'analog'
  label: string
  /** Most voltage the terminal stands, where that differs from the board's lines. */
  inputMaxV?: Sourced
  /** Terminals of the offer: `line` for a line or an analog input; `sda` and `scl` for a channel. */
  terminals: Record<string, string>
}

export interface Contacts {
  count: number
  maxAcV: number
  maxAcA: number
  maxDcV: number
  maxDcA: number
  origin: Origin
}

export interface I2cDeviceFile {
  /** 7-bit address, e.g. `0x44`; `addressOption` names the option that chooses it. */
  address?: string
  addressOption?: string
  maxClockHz?: number
  /** Pull-up resistors on the part, SDA and SCL alike. */
  pullUpOhm?: number
  /** Of its pins and tracks. */
  capacitancePf?: number
  /** Holds SCL low while it thinks. */
  stretchesClock?: boolean
  /** How often it is asked, and how many bytes pass each time, address bytes included. */
  poll?: { hz: number, bytes: number }
  when?: Condition
}

export interface SerialPortFile {
  baud: number
  /** Option that sets the rate, if it can be set. */
  baudOption?: string
  /** `8N1`, `7E1` … */
  frame: string
  /** What the wires carry. `rs232` is inverted and goes negative. */
  levels?: 'logic' | 'rs232'
  /** The part's own rate source: a controller's 16× (`sixteenth`) or 8× (`eighth`) divider of its clock. */
  clock?: { sourceHz: number, divider: 'sixteenth' | 'eighth', origin: Origin }
  /** What it sends when busy. */
  sendsBytesPerS?: number
  /** Drops bytes without RTS/CTS. */
  wantsFlowControl?: boolean
  /** RS-485: the signal that turns the driver round; absent when the part turns by itself. */
  directionSignal?: string
  when?: Condition
}

export interface StripFile {
  bitsPerPixel: number
  bitUs: number
  pauseUs: number
  pixelsOption: string
  /** Has a clock wire beside the data: any SPI speed will do. */
  clocked?: boolean
  origin: Origin
}

export interface Display {
  sizeInch: number
  width: number
  height: number
  bitsPerPixel: number
  touch: 'none' | 'resistive' | 'capacitive'
  picture: 'SPI' | 'I²C' | 'video' | 'flat cable'
  touchBy: 'none' | 'SPI' | 'I²C' | 'USB' | 'flat cable'
  backlight: 'none' | 'line' | 'PWM' | 'button'
  driver: 'overlay' | 'own program' | 'none needed' | 'ready image'
  /** Most frames a second the glass itself shows. */
  maxHz?: number
}

/** Where an add-on board sits and what it leaves free above it. */
export interface Seat {
  from: number
  to: number
  /** The header comes out again on its top, so that another board or wires can sit there. */
  passes: boolean
  /** Choice option: with its value `long` the header's pins are so long that they come out above the board after all. */
  passesOption?: string
  /** Count option by whose columns it may be shifted. */
  shiftOption?: string
  /** Has an identity memory on positions 27 and 28; one board of a stack may. */
  identity?: boolean
  /** Must be the lowest or the topmost of a stack. */
  wants?: 'lowest' | 'topmost'
}

/** A node below the part's own, e.g. one key of several. With a signal it takes that signal's line in `property`. */
export interface KernelChild {
  name: string
  signal?: string
  property?: string
  low?: boolean
  pull?: 'up' | 'down'
  /** Source of its properties, a line each. */
  properties: string[]
}

/** How the kernel knows the part: its node in the device tree. */
export interface KernelBinding {
  node: string
  compatible: string
  on: 'i2c' | 'spi' | 'lines'
  origin: Origin
  /** Properties that name a line each. */
  gpios?: { property: string, signal: string, low?: boolean, pull?: 'up' | 'down' }[]
  /** One property that names several lines. */
  gpioList?: { property: string, signals: string[], pull?: 'up' | 'down' }
  /** Rows and columns of a matrix, by the signals that are repeated. */
  gpioRows?: { rows: string, columns: string }
  /** Edge or level by its number: 1 rising, 2 falling, 4 high, 8 low. */
  interrupt?: { signal: string, type: number, pull?: 'up' | 'down' }
  /** Supply property → rail. */
  supplies?: Record<string, Rail>
  /** A crystal of its own. */
  clock?: { hz: number }
  /** Source of further properties, a line each; `{option:id}` is filled in. */
  properties?: string[]
  children?: KernelChild[]
}

export interface Part {
  id: string
  name: string
  summary: string
  group: PartGroup
  options?: PartOption[]
  signals: Signal[]
  supplies: Supply[]
  grounds: Ground[]
  /** Plugs that go into the board's sockets; `wide` ones cover their neighbour. */
  plugs?: { socket: 'usb' | 'video' | 'fan' | 'display', wide?: boolean, when?: Condition }[]
  i2c?: I2cDeviceFile
  spi?: { maxClockHz: number, mode: number, bytesPerS?: number }
  serial?: SerialPortFile
  strip?: StripFile
  i2s?: { rates: number[], bits: number, origin: Origin }
  matrix?: { rowsOption: string, columnsOption: string, diodesOption: string }
  display?: Display
  offers?: Offer[]
  contacts?: Contacts
  isAddOn?: boolean
  seat?: Seat
  /** What the boot file needs for it; `{signal}` in a value is replaced by that signal's line, `{option:id}` by the option's value, `{select}` by the chip select number, `{bus}` by the bus number. */
  boot?: (BootNeed & { when?: Condition, whenPlaced?: SignalParams, whenOpen?: SignalParams })[]
  /** How the kernel knows it; shipped parts have theirs in `core/overlays/bindings.ts`. */
  kernel?: KernelBinding
  /** Device nodes or folders that appear; the same replacements hold. */
  nodes?: { path: string, what: string, when?: Condition }[]
  cautions?: string[]
  leadM?: number
  /** Made-up price in the maker's own currency, for comparing. */
  price?: number
}

/** Parameters that an overlay line gets besides, by the signal whose place decides: signal → parameter → value. */
export type SignalParams = Record<string, Record<string, string>>

export type PartGroup
  = | 'sensing' | 'showing' | 'switching' | 'sounding' | 'talking'
    | 'timing' | 'moving' | 'lighting' | 'input' | 'expanding'
