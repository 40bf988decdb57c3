/**
 * Supplies, what stands between a supply and its loads, and what a board's file says of its supply, its heat
 * and its clocks.
 */
import { flag, list, map, number, object, oneOf, optional, type Of } from '../../shape/shape'
import { cautions, id, notNegative, origin, origins, positive, share, words } from './common'

const supplyKind = oneOf(
  'adapter', 'usb-port', 'internal-usb', 'bench', 'din-rail', 'transformer', 'lithium', 'lead', 'solar-panel',
  'power-bank',
  'solar-battery', 'vehicle', 'network-cable',
)

/** The lead that belongs to a supply. Length one way; the return is counted as well. */
const lead = object({
  awg: number({ min: 0, max: 40 }),
  lengthM: positive,
  /** Both plugs together, there and back. */
  contactOhm: notNegative,
  plug: oneOf('micro-usb', 'usb-c', 'round', 'screw'),
})

/** For what a finding offers it as a fix; of those for the same, the smallest that carries enough. */
const inFixes = oneOf(
  'diode', 'fuse', 'bridge', 'step-up', 'step-down', 'step-up-down', 'regulator-3v3', 'hub', 'hub-adapter',
)

export const supplyUnit = object({
  id, name: words, summary: words,
  kind: supplyKind,
  /** Without load; of a transformer V rms at its rated current. */
  voltageV: positive,
  currentMa: positive,
  /** Inner resistance: how far the voltage falls as current is drawn. */
  ohm: optional(notNegative),
  /** Above its current it holds the current and lets the voltage fall. */
  limitsCurrent: optional(flag),
  /** Takes current back, as a battery does. */
  takesBack: optional(flag),
  /** Cannot be asked for more, whatever the plug: a port of another device. */
  fixed: optional(flag),
  /** What a USB-C source tells over its CC wire. */
  advertisesMa: optional(positive),
  cable: optional(lead),
  /** Of a transformer's mains. */
  hz: optional(positive),
  /** Of a transformer: its voltage without load over that at its rated current. */
  noLoadFactor: optional(number({ min: 1, max: 2 })),
  /** Energy store behind it, if any. */
  capacityMah: optional(positive),
  /** Voltage at which the capacity counts. */
  cellV: optional(positive),
  efficiency: optional(share),
  chemistry: optional(oneOf('lithium', 'lead')),
  /** Part of the capacity that may be used, 1 where it is not given. */
  usableShare: optional(share),
  emptyV: optional(positive),
  fullV: optional(positive),
  /** What it draws for itself at its own output. */
  selfUseMa: optional(notNegative),
  /** Switches off when less than this is drawn for `lowLoadS`. */
  lowLoadMa: optional(positive),
  lowLoadS: optional(positive),
  /**
   * Vehicle: its voltage while the engine is started, how long it is that low, and what it is for the seconds after.
   */
  crankV: optional(positive),
  crankS: optional(positive),
  crankRestV: optional(positive),
  /** Vehicle: its spike when the battery comes off while it is charged. */
  dumpV: optional(positive),
  /** Network cable: what may be taken at its far end, in W. */
  classW: optional(positive),
  /** Solar panel: peak power. */
  panelW: optional(positive),
  inFixes: optional(inFixes),
  origin, origins,
  /** Made-up price in the maker's own currency, for comparing. */
  price: optional(notNegative),
  cautions,
})

const powerItemKind = oneOf(
  'cable', 'connector', 'fuse', 'fuse-resettable', 'diode', 'ideal-diode', 'switch', 'latch',
  'linear', 'step-down', 'step-up', 'rectifier', 'capacitor', 'hub', 'load', 'guard',
)
export const loadLaw = oneOf('power', 'current', 'resistance')
const efficiencyPoint = object({ currentMa: positive, efficiency: share })

export const powerItem = object({
  id, name: words, summary: words,
  kind: powerItemKind,
  /** By name; which names a kind has and their units stand in `core/netlist/supply/kinds.ts`. */
  figures: map(number()),
  /** Converters: efficiency by output current. */
  efficiency: optional(list(efficiencyPoint, { min: 2 })),
  /** Loads: what stays the same as the voltage changes. */
  law: optional(loadLaw),
  inFixes: optional(inFixes),
  origin, origins,
  price: optional(notNegative),
  cautions,
})

/** The board's own supply circuit. */
export const boardPower = object({
  /** Socket, input fuse and track together. */
  socketOhm: positive,
  socketRatedMa: positive,
  /** There is a fuse behind the socket; the header goes past it. */
  fused: flag,
  /** Least supply it starts with. */
  leastSupplyMa: positive,
  /** Below it on the 5 V rail the board reports under-voltage, or would if it had a detector. */
  signV: positive,
  /** It has no detector: nothing reports under-voltage. */
  noDetector: optional(flag),
  /** Below it the board stops. */
  leastV: positive,
  usbOhm: positive,
  /** With a smaller supply the USB sockets give less together. */
  usbSmallSupply: optional(object({ belowMa: positive, budgetMa: positive, origin })),
  rail3V3: oneOf('linear', 'step-down'),
  rail3V3Efficiency: share,
  rail3V3HeadroomV: notNegative,
  /** One header position, contact and return. */
  positionOhm: positive,
  positionRatedMa: positive,
  /** For a moment when power comes. */
  inrushMa: notNegative,
  /** From the call to shut down until it is safe to switch off. */
  shutdownS: positive,
  origin, origins,
})

/** How warm the processor gets. */
export const boardHeat = object({
  /** Processor above the air, in K per W of its own heat, without a cooler. */
  bareKw: positive,
  /** Heat it stores, in J per K. */
  storeJk: positive,
  /** Part of the board's draw that becomes heat at the processor. */
  chipShare: share,
  /** Clocks fall from here on, hard at `stopsC`. */
  slowsC: positive,
  stopsC: positive,
  origin,
})

/** What lower clocks and core voltage can do. */
export const boardClocking = object({
  coreMhz: positive,
  leastMhz: positive,
  coreV: positive,
  /** Part of the draw above idle that goes with clock × voltage². */
  dynamicShare: share,
  /** Lowest step of 25 mV at which boards of this kind usually still run. */
  stepsLeast: number({ max: 0, whole: true }),
  origin,
})

export type FixUse = Of<typeof inFixes>
export type SupplyKind = Of<typeof supplyKind>
export interface Lead extends Of<typeof lead> {}
export interface SupplyUnit extends Of<typeof supplyUnit> {}
export type PowerItemKind = Of<typeof powerItemKind>
export interface PowerItem extends Of<typeof powerItem> {}
export interface EfficiencyPoint extends Of<typeof efficiencyPoint> {}
export type LoadLaw = Of<typeof loadLaw>
export interface BoardPower extends Of<typeof boardPower> {}
export interface BoardHeat extends Of<typeof boardHeat> {}
export interface BoardClocking extends Of<typeof boardClocking> {}
