/**
 * The vocabulary of the catalogue: boards, parts and supplies as they stand in their files.
 * Units are in the names. An origin says where a figure comes from; it is shown beside every limit.
 */

/** `published: …` (the source follows), `practice`, `memory`, or `yours` (typed in by the maker). */
export type Origin = string

export interface Sourced {
  value: number
  origin: Origin
}

export type Rail = '5V' | '3V3'

export type ControllerKind = 'i2c' | 'spi' | 'serial' | 'pwm' | 'i2s'

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

export interface Controller {
  id: string
  kind: ControllerKind
  label: string
  /** Default instances are taken first. */
  isDefault: boolean
  /** The node a program opens once the bus is on. */
  device?: string
  routes: Route[]
}

/** One line a boot file has to hold: a base parameter, an overlay with parameters, or a plain setting. */
export type BootNeed
  = | { kind: 'param', name: string, value: string }
    | { kind: 'overlay', name: string, params?: Record<string, string> }
    | { kind: 'setting', name: string, value: string }

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
}

export interface Board {
  id: string
  name: string
  summary: string
  /** What one sees on it, for telling it apart without a name. */
  seen: string[]
  header: HeaderPosition[]
  lines: BoardLine[]
  controllers: Controller[]
  limits: BoardLimits
  draw: Draw
  advisedSupplyMa: Sourced
  sockets: { usb: number, video: number }
  bootPath: string
}

/** From the part's side: what a terminal wants from the place it is wired to. */
export type SignalRole
  = | 'line' | 'onewire' | 'pwm' | 'strip'
    | 'i2c.sda' | 'i2c.scl'
    | 'spi.clock' | 'spi.mosi' | 'spi.miso' | 'spi.select'
    | 'serial.tx' | 'serial.rx' | 'serial.rts' | 'serial.cts'
    | 'i2s.clock' | 'i2s.frame' | 'i2s.dataIn' | 'i2s.dataOut'

/** True when the chosen options have these values. */
export type Condition = Record<string, string>

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
  /** Least voltage this terminal is sure to read as high. */
  inputHighMinV?: Sourced
  /** Most voltage this terminal stands. */
  inputMaxV?: Sourced
  /** Steady current this terminal takes from the line when driven. */
  inputCurrentMa?: Sourced
  /** What hangs on the terminal when nothing stands between: needs a driving stage. */
  load?: 'coil' | 'motor' | 'lamp'
  /** Level at which the attached thing is idle: a reset pull to the other level moves it at start. */
  idleLevel?: 'low' | 'high'
  /** May sit on an expander's terminal: slow and not timed by the kernel. */
  slow?: boolean
  /** Add-on boards: the header position the terminal is bound to. */
  claimsPosition?: number
  /** Not needed for the part to work: may stay unplaced without a finding. */
  optional?: boolean
}

export interface Supply {
  id: string
  label: string
  rail: Rail
  /** `header`: two wires to the header. `usb`: through a USB plug. */
  from: 'header' | 'usb'
  when?: Condition
  idleMa: number
  typicalMa: number
  peakMa: number
  /** For parts whose draw grows with a count option: the figures are for each unit of it. */
  perOption?: string
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
  meaning?: 'i2c-address' | 'link' | 'count' | 'rotation'
}

/** Terminals a part gives to others: an expander's lines, a hub's channels. */
export interface Offer {
  id: string
  kind: 'line' | 'i2c'
  label: string
  /** Terminals of the offer: `line` for a line; `sda` and `scl` for a channel. */
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

export interface Part {
  id: string
  name: string
  summary: string
  group: PartGroup
  options?: PartOption[]
  signals: Signal[]
  supplies: Supply[]
  grounds: Ground[]
  /** Plugs that go into the board's sockets. */
  plugs?: { socket: 'usb' | 'video', when?: Condition }[]
  i2c?: {
    /** 7-bit address, e.g. `0x44`; `optionId` names the option that chooses it. */
    address?: string
    addressOption?: string
    maxClockHz?: number
    pullUpOhm?: number
    when?: Condition
  }
  spi?: { maxClockHz: number, mode: number }
  serial?: { baud: number, frame: string, when?: Condition }
  offers?: Offer[]
  contacts?: Contacts
  isAddOn?: boolean
  /** What the boot file needs for it; `{signal}` in a value is replaced by that signal's line, `{option:id}` by the option's value, `{select}` by the chip select number, `{bus}` by the bus number. */
  boot?: (BootNeed & { when?: Condition })[]
  /** Device nodes or folders that appear; the same replacements hold. */
  nodes?: { path: string, what: string, when?: Condition }[]
  cautions?: string[]
  leadM?: number
  /** Made-up price in the maker's own currency, for comparing. */
  price?: number
}

export type PartGroup
  = | 'sensing' | 'showing' | 'switching' | 'sounding' | 'talking'
    | 'timing' | 'moving' | 'lighting' | 'input' | 'expanding'

export interface SupplyUnit {
  id: string
  name: string
  summary: string
  kind: 'adapter' | 'power-bank' | 'solar-battery' | 'internal-usb' | 'din-rail'
  voltageV: number
  currentMa: number
  /** Energy store behind it, if any. */
  capacityMah?: number
  cellV?: number
  efficiency?: number
  origin: Origin
  cautions?: string[]
}

/** All that the core knows of hardware. Immutable; the same object serves every evaluation. */
export interface Catalogue {
  boards: ReadonlyMap<string, Board>
  parts: ReadonlyMap<string, Part>
  supplies: ReadonlyMap<string, SupplyUnit>
}
