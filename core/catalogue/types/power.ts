/** Supplies, and what stands between a supply and its loads, as they stand in their files. */
import type { Origin } from './common'

export type SupplyKind
  = | 'adapter' | 'usb-port' | 'internal-usb' | 'bench' | 'din-rail' | 'transformer'
    | 'lithium' | 'lead' | 'solar-panel' | 'power-bank' | 'solar-battery'

/** The lead that belongs to a supply. Length one way; the return is counted as well. */
export interface Lead {
  awg: number
  lengthM: number
  /** Both plugs together, there and back. */
  contactOhm: number
  plug: 'micro-usb' | 'usb-c' | 'round' | 'screw'
}

export interface SupplyUnit {
  id: string
  name: string
  summary: string
  kind: SupplyKind
  /** Without load; V rms for a transformer. */
  voltageV: number
  currentMa: number
  /** Inner resistance: how far the voltage falls as current is drawn. */
  ohm?: number
  /** Above its current it holds the current and lets the voltage fall. */
  limitsCurrent?: boolean
  /** Takes current back, as a battery does. */
  takesBack?: boolean
  /** Cannot be asked for more, whatever the plug: a port of another device. */
  fixed?: boolean
  /** What a USB-C source tells over its CC wire. */
  advertisesMa?: number
  cable?: Lead
  /** Of a transformer's mains. */
  hz?: number
  /** Energy store behind it, if any. */
  capacityMah?: number
  /** Voltage at which the capacity counts. */
  cellV?: number
  efficiency?: number
  chemistry?: 'lithium' | 'lead'
  /** Part of the capacity that may be used, 1 where it is not given. */
  usableShare?: number
  emptyV?: number
  fullV?: number
  /** What it draws for itself at its own output. */
  selfUseMa?: number
  /** Switches off when less than this is drawn for `lowLoadS`. */
  lowLoadMa?: number
  lowLoadS?: number
  /** Solar panel: peak power. */
  panelW?: number
  origin: Origin
  price?: number
  cautions?: string[]
}

export type PowerItemKind
  = | 'cable' | 'connector' | 'fuse' | 'fuse-resettable' | 'diode' | 'ideal-diode' | 'switch' | 'latch'
    | 'linear' | 'step-down' | 'step-up' | 'rectifier' | 'capacitor' | 'hub' | 'load'

export interface PowerItem {
  id: string
  name: string
  summary: string
  kind: PowerItemKind
  /** By name; which names a kind has and their units stand in `core/power/kinds.ts`. */
  figures: Record<string, number>
  /** Converters: efficiency by output current. */
  efficiency?: EfficiencyPoint[]
  /** Loads: what stays the same as the voltage changes. */
  law?: LoadLaw
  origin: Origin
  price?: number
  cautions?: string[]
}

export interface EfficiencyPoint {
  currentMa: number
  efficiency: number
}

export type LoadLaw = 'power' | 'current' | 'resistance'

/** The board's own supply circuit. */
export interface BoardPower {
  /** Socket, input fuse and track together. */
  socketOhm: number
  socketRatedMa: number
  /** There is a fuse behind the socket; the header goes past it. */
  fused: boolean
  /** Least supply it starts with. */
  leastSupplyMa: number
  /** Below it on the 5 V rail the board gives the under-voltage sign. */
  signV: number
  /** Below it the board stops. */
  leastV: number
  usbOhm: number
  /** With a smaller supply the USB sockets give less together. */
  usbSmallSupply?: { belowMa: number, budgetMa: number, origin: Origin }
  rail3V3: 'linear' | 'step-down'
  rail3V3Efficiency: number
  rail3V3HeadroomV: number
  /** One header position, contact and return. */
  positionOhm: number
  positionRatedMa: number
  /** For a moment when power comes. */
  inrushMa: number
  /** From the call to shut down until it is safe to switch off. */
  shutdownS: number
  origin: Origin
}

/** How warm the processor gets. */
export interface BoardHeat {
  /** Processor above the air, in K per W of its own heat, without a cooler. */
  bareKw: number
  /** Heat it stores, in J per K. */
  storeJk: number
  /** Part of the board's draw that becomes heat at the processor. */
  chipShare: number
  /** Clocks fall from here on, hard at `stopsC`. */
  slowsC: number
  stopsC: number
  origin: Origin
}

/** What lower clocks and core voltage can do. */
export interface BoardClocking {
  coreMhz: number
  leastMhz: number
  coreV: number
  /** Part of the draw above idle that goes with clock × voltage². */
  dynamicShare: number
  /** Lowest step of 25 mV at which boards of this kind usually still run. */
  stepsLeast: number
  origin: Origin
}
