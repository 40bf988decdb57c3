/**
 * The netlist: everything that lies on the table and all that joins it. Components have pins; conductors join pins of
 * two components; nets are the pins joined with nothing between. Derived from facts and the supply graph, never stored.
 */
import type { FeedRail } from '../catalogue/types'
import type { NodeRef } from '../plan/power'

/**
 * A pin by name: `@P3` header position 3 of the board, `@socket`, `@usb1`, `@video1`, `@fan1`, `@display1` its sockets;
 * `part.terminal` a part's terminal, `part#usb` its plug; `node:fuse.in` a terminal of a power item;
 * `stage:fan.drive.gate` one of what stands in a wire.
 */
export type PinId = string
export type ComponentId = string

export type ComponentKind
  = | 'board' | 'part'
  /** What stands in a signal's wire: divider, shifter, stage, opto-coupler, converter, pull-up. */
    | 'stage'
  /** A source, or what stands between a source and its loads. */
    | 'item'
  /** What hangs on a relay's contact. */
    | 'load'
  /** Where several wires meet: a rail of a breadboard, a terminal block. */
    | 'splice'

export interface Pin {
  id: PinId
  label: string
}

export interface Component {
  id: ComponentId
  kind: ComponentKind
  name: string
  /** What it is, for the parts list: "MOSFET stage with flyback diode", "USB hub". */
  what: string
  partId?: string
  /** In the catalogue: part, board, supply or power item. */
  type?: string
  /** Its node in the supply graph. */
  node?: NodeRef
  pins: Pin[]
  /** Pins joined inside, with nothing between. */
  inside: PinId[][]
  price?: number
}

export type ConductorKind
  /** A wire that is laid and plugged or soldered at both ends. */
  = | 'wire'
  /** Two wires there and back, or the lead of a supply with its plug. */
    | 'lead'
  /** A USB or video cable with its plugs. */
    | 'plug'
    | 'flat cable'
  /** An add-on board pushed onto the header: every position at once. */
    | 'seat'

export type ConductorRole = 'ground' | 'signal' | FeedRail | 'supply' | 'data'

export interface Conductor {
  /** Stays the same while it does: `part.terminal@38` for a wire to position 38. */
  id: string
  kind: ConductorKind
  role: ConductorRole
  /** Pairs of pins that it joins, one for each way. */
  ways: { from: PinId, to: PinId }[]
  from: ComponentId
  to: ComponentId
  /** `part.terminal` that it serves, for the maker's colour and length. */
  terminal?: string
  partId?: string
  /** Its node in the supply graph, where its resistance counts. */
  node?: NodeRef
  /** Header position that it ends at, itself or by way of a splice. */
  position?: number
  /** Known by a name of its own: a cable of the catalogue. */
  name?: string
  /** In the catalogue, where it is one of it. */
  type?: string
  awg?: number
  lengthM: number
  price?: number
}

export interface Net {
  /** Least pin by name. */
  id: PinId
  pins: PinId[]
}

export interface Netlist {
  components: Component[]
  conductors: Conductor[]
  nets: Net[]
  byId: ReadonlyMap<ComponentId, Component>
  /** Pin → component that has it. */
  ownerOf: ReadonlyMap<PinId, Component>
  netOf: ReadonlyMap<PinId, Net>
}
