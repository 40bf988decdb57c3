/** What the engines and rules judge: the plan joined with the catalogue. Derived, never stored. */
import type {
  Board, BoardLine, Catalogue, Controller, ControllerKind, Ground, HeaderPosition, Offer, Part, Route, Signal, Supply,
  SupplyUnit,
} from '../catalogue/types'
import type { HeatPlan } from '../plan/power'
import type { Assignment, Between, Plan, PlanPart } from '../plan/types'

/** A part of the plan with its catalogue entry and its options filled in. */
export interface ResolvedPart {
  id: string
  name: string
  /** Place in the plan, 0-based; the interface's owner colours follow it. */
  index: number
  inPlan: PlanPart
  part: Part
  options: Record<string, string>
  signals: Signal[]
  supplies: Supply[]
  grounds: Ground[]
}

export type Place
  = | { kind: 'header', position: number, header: HeaderPosition, line?: BoardLine }
    | { kind: 'terminal', owner: ResolvedPart, offer: Offer, terminal: string }
  /** The plan names a place that does not exist. */
    | { kind: 'nowhere', text: string }

/** One end of a wire: a terminal of a part and where the plan puts it. */
export interface Terminal {
  /** `part.terminal` */
  key: string
  owner: ResolvedPart
  label: string
  is: 'signal' | 'supply' | 'ground'
  signal?: Signal
  supply?: Supply
  ground?: Ground
  assignment?: Assignment
  place: Place | null
  between?: Between
}

/** A bus that things hang on: a controller of the board, or a channel of a hub. */
export interface Bus {
  /** `i2c1`, or `hub.ch0` for a hub's channel. */
  id: string
  kind: ControllerKind
  label: string
  controller?: Controller
  route?: Route
  /** Header positions of a bus that the kernel makes on plain lines. */
  software?: { sda: number, scl: number, number: number }
  /** The hub's own bus, for a channel. */
  upstream?: string
}

/** The terminals of one part that must lie on one bus together. */
export interface BusGroup {
  owner: ResolvedPart
  kind: ControllerKind
  terminals: Terminal[]
  /** The bus all placed terminals agree on; null while none is placed or when they disagree. */
  bus: Bus | null
}

export interface I2cDevice {
  owner: ResolvedPart
  address: number
  /** The option that chooses the address, when there is one. */
  optionId?: string
  /** It answers here besides its own address: what does. May be missing on a board of its kind. */
  also?: string
  busId: string | null
}

export interface Facts {
  plan: Plan
  catalogue: Catalogue
  board: Board | null
  supply: SupplyUnit | null
  /** Supply current in mA after the maker's own figure. */
  supplyMa: number | null
  parts: ResolvedPart[]
  /** Parts of the plan whose type the catalogue does not know. */
  unknownParts: PlanPart[]
  terminals: Terminal[]
  byKey: ReadonlyMap<string, Terminal>
  /** Header position → terminals wired to it. */
  atPosition: ReadonlyMap<number, Terminal[]>
  groups: BusGroup[]
  buses: Bus[]
  devices: I2cDevice[]
  /** By SPI bus: its chip selects and how they are brought out. */
  selectPlans: ReadonlyMap<string, SelectPlan>
  /** `part.terminal` of a select → its number on its bus. */
  selectNumbers: ReadonlyMap<string, number>
  /** Add-on boards from the lowest up. */
  stack: ResolvedPart[]
  /** What the load test runs with. */
  heat: HeatFacts
}

/** What the load test runs with: the setting of the plan joined with its things. */
export interface HeatFacts {
  /** As it counts. */
  set: HeatPlan
  /** The parts that decide it; null where the plan's own setting does. */
  cooler: ResolvedPart | null
  enclosure: ResolvedPart | null
  /** On the board's own socket: the board runs it where the plan does not say how. */
  fan: ResolvedPart | null
}

/** Chip selects of one SPI bus in use. */
export interface SelectPlan {
  busId: string
  /** Lines by select number. */
  lines: number[]
  /**
   * `usual`: as the bus comes with its base parameter, numbers as the hardware has them. `overlay`: an overlay names
   * just those that are used, because others of the bus's select lines serve somebody else, or because the bus is
   * brought out by an overlay anyway.
   */
  by: 'usual' | 'overlay'
  /** Lines that the hardware has for the selects, by its own numbers. */
  hardware: number[]
}
