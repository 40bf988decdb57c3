/** The kinds of nodes in a power tree: what each is called, and which figures it has. Adding a kind is adding a row. */
import { tableOf } from '../../collections/table'
import type { PowerItemKind, SupplyKind } from '../../catalogue/types'

/** Kinds that follow from the plan and are in no catalogue. */
export type DerivedKind = 'socket' | 'header-input' | 'position' | 'rail' | 'board' | 'usb-rail' | 'part' | 'contact'
  | 'contact-load'
export type NodeKind = SupplyKind | PowerItemKind | DerivedKind

/** `source` gives, `path` passes on, `joint` only joins, `load` takes. */
export type NodeRole = 'source' | 'path' | 'joint' | 'load'

export interface FigureSpec {
  label: string
  unit: string
  /** Least value that makes sense. */
  min: number
  max: number
}

const figure = (label: string, unit: string, min: number, max: number): FigureSpec => ({ label, unit, min, max })

/** Figures by name; a name means the same wherever it stands. */
export const FIGURES = tableOf<FigureSpec>({
  voltageV: figure('voltage', 'V', 0.1, 400), currentMa: figure('gives at most', 'mA', 1, 100_000),
  ohm: figure('resistance', 'Ω', 0, 1000),
  noLoadFactor: figure('without load, × that', '', 1, 2),
  awg: figure('gauge', 'AWG', 0, 40), lengthM: figure('length, one way', 'm', 0.01, 200),
  contactOhm: figure('plugs and joints', 'Ω', 0, 10), measuredOhm: figure('measured; 0: by gauge', 'Ω', 0, 100),
  bundledPairs: figure('pairs in the bundle', '', 1, 40),
  ratedMa: figure('rated', 'mA', 1, 100_000), holdMa: figure('holds', 'mA', 1, 100_000),
  tripMa: figure('trips', 'mA', 1, 100_000),
  crankV: figure('while starting', 'V', 0, 100), crankS: figure('that low for', 's', 0, 60),
  crankRestV: figure('then', 'V', 0, 100),
  dumpV: figure('load dump', 'V', 1, 400), classW: figure('class', 'W', 0.1, 100),
  clampV: figure('clamps at', 'V', 1, 400),
  dropV: figure('takes', 'V', 0, 5), setV: figure('makes', 'V', 0.5, 60),
  headroomV: figure('wants above it', 'V', 0, 10),
  leastInV: figure('least input', 'V', 0, 100), mostInV: figure('most input', 'V', 0.5, 400),
  quiescentMa: figure('for itself', 'mA', 0, 1000), copperCm2: figure('copper to cool it', 'cm²', 0, 200),
  slowsC: figure('slows from', '°C', 40, 120), stopsC: figure('slowest at', '°C', 40, 130),
  rthKw: figure('warms by', 'K/W', 0.1, 500), hottestC: figure('hottest', '°C', 20, 250),
  capacitanceUf: figure('capacitor', 'µF', 1, 1e6), capacitorV: figure('capacitor stands', 'V', 1, 400),
  hz: figure('mains', 'Hz', 16, 400), capacitanceF: figure('capacitor', 'F', 1e-9, 1000),
  mostV: figure('stands', 'V', 0.5, 400),
  ownMa: figure('for itself', 'mA', 0, 5000), ports: figure('ports', '', 1, 30),
  portMa: figure('each port gives', 'mA', 1, 10_000),
  backOhm: figure('path back, 0 for none', 'Ω', 0, 100),
  idleMa: figure('idle', 'mA', 0, 100_000), typicalMa: figure('typical', 'mA', 0, 100_000),
  peakMa: figure('peak', 'mA', 0, 100_000),
  surgeMa: figure('surge', 'mA', 0, 200_000), surgeS: figure('surge lasts', 's', 1e-5, 10),
  ratedV: figure('at', 'V', 0.5, 400), leastV: figure('least', 'V', 0, 400), holdS: figure('holds for', 's', 0, 1e6),
  capacityMah: figure('capacity', 'mAh', 1, 1e7), signV: figure('under-voltage sign', 'V', 0, 400),
  leastSupplyMa: figure('least supply', 'mA', 1, 1e5),
})

export interface KindSpec {
  label: string
  role: NodeRole
  figures: readonly string[]
}

const kind = (label: string, role: NodeRole, ...figures: string[]): KindSpec => ({ label, role, figures })

export const KINDS: Readonly<Record<NodeKind, KindSpec>> = {
  'adapter': kind('Mains adapter', 'source', 'voltageV', 'currentMa', 'ohm'),
  'usb-port': kind('USB port', 'source', 'voltageV', 'currentMa', 'ohm'),
  'internal-usb': kind('USB port inside a computer', 'source', 'voltageV', 'currentMa', 'ohm'),
  'bench': kind('Bench supply', 'source', 'voltageV', 'currentMa', 'ohm'),
  'din-rail': kind('DIN-rail supply', 'source', 'voltageV', 'currentMa', 'ohm'),
  'transformer': kind('AC transformer', 'source', 'voltageV', 'currentMa', 'noLoadFactor', 'ohm'),
  'lithium': kind('Lithium pack', 'source', 'voltageV', 'currentMa', 'ohm', 'capacityMah'),
  'lead': kind('Lead battery', 'source', 'voltageV', 'currentMa', 'ohm', 'capacityMah'),
  'solar-panel': kind('Solar panel', 'source', 'voltageV', 'currentMa', 'ohm'),
  'power-bank': kind('Power bank', 'source', 'voltageV', 'currentMa', 'ohm', 'capacityMah'),
  'solar-battery': kind('Solar battery', 'source', 'voltageV', 'currentMa', 'ohm', 'capacityMah'),
  'vehicle': kind('Vehicle supply', 'source', 'voltageV', 'currentMa', 'ohm', 'crankV', 'crankS', 'crankRestV',
    'dumpV'),
  'network-cable': kind('Supply by the network cable', 'source', 'voltageV', 'currentMa', 'ohm', 'classW'),
  'guard': kind('Surge guard', 'path', 'clampV', 'ohm', 'ratedMa'),
  'cable': kind('Cable', 'path', 'awg', 'lengthM', 'contactOhm', 'bundledPairs', 'measuredOhm'),
  'connector': kind('Connector', 'path', 'ohm', 'ratedMa'),
  'fuse': kind('Fuse', 'path', 'ratedMa', 'ohm'),
  'fuse-resettable': kind('Resettable fuse', 'path', 'holdMa', 'tripMa', 'ohm'),
  'diode': kind('Diode', 'path', 'dropV', 'ohm', 'ratedMa'),
  'ideal-diode': kind('Ideal diode', 'path', 'dropV', 'ohm', 'ratedMa'),
  'switch': kind('Switch', 'path', 'ohm', 'ratedMa'),
  'latch': kind('Latching switch', 'path', 'ohm', 'ratedMa', 'quiescentMa', 'holdS'),
  'linear': kind(
    'Linear regulator', 'path', 'setV', 'headroomV', 'ratedMa', 'quiescentMa', 'mostInV', 'copperCm2', 'rthKw',
    'hottestC', 'ohm',
  ),
  'step-down': kind(
    'Step-down converter', 'path', 'setV', 'headroomV', 'leastInV', 'mostInV', 'ratedMa', 'quiescentMa', 'rthKw',
    'hottestC', 'ohm',
  ),
  'step-up': kind('Step-up converter', 'path', 'setV', 'leastInV', 'mostInV', 'ratedMa', 'quiescentMa', 'rthKw',
    'hottestC', 'ohm'),
  'rectifier': kind('Bridge and capacitor', 'path', 'dropV', 'capacitanceUf', 'capacitorV', 'hz', 'ratedMa', 'ohm'),
  'capacitor': kind('Capacitor', 'path', 'capacitanceF', 'mostV', 'ohm'),
  'hub': kind('USB hub', 'path', 'ownMa', 'ports', 'portMa', 'ratedMa', 'ohm', 'backOhm'),
  'load': kind('Load', 'load', 'idleMa', 'typicalMa', 'peakMa', 'surgeMa', 'surgeS', 'ratedV', 'leastV', 'mostV'),
  'socket': kind('Power socket', 'path', 'ohm', 'ratedMa'),
  'header-input': kind('In through the header', 'path', 'ohm', 'ratedMa'),
  'position': kind('Header position', 'path', 'ohm', 'ratedMa'),
  'rail': kind('Rail', 'joint'),
  'board': kind('Board', 'load', 'idleMa', 'typicalMa', 'peakMa', 'surgeMa', 'surgeS', 'leastV', 'mostV', 'signV',
    'slowsC', 'stopsC'),
  'usb-rail': kind('USB sockets', 'path', 'ohm', 'ratedMa'),
  'part': kind('Part', 'load', 'idleMa', 'typicalMa', 'peakMa', 'surgeMa', 'surgeS', 'ratedV', 'leastV', 'mostV'),
  'contact': kind('Relay contact', 'path', 'ohm', 'ratedMa'),
  'contact-load': kind('On the contact', 'load', 'idleMa', 'typicalMa', 'peakMa', 'surgeMa', 'surgeS', 'ratedV',
    'leastV', 'mostV'),
}

/** Kinds that let current through one way only. */
export const ONE_WAY: ReadonlySet<NodeKind> = new Set<NodeKind>(['diode', 'ideal-diode', 'linear', 'step-down',
  'step-up', 'rectifier'])

/** Kinds that keep energy. */
export const STORES: ReadonlySet<NodeKind> = new Set<NodeKind>(['lithium', 'lead', 'power-bank', 'solar-battery'])

/**
 * Heat of a small regulator soldered to copper: K per W falls with the area. Memory, for a common small power package.
 */
export const copperRth = (copperCm2: number): number => 50 + 86 / (1 + copperCm2 / 1.6)

/** Least input of a converter or regulator, in V. */
export const wantsV = (
  { figures, kind }: { kind: NodeKind, figures: Readonly<Record<string, { value: number }>> },
): number =>
  Math.max(figures.leastInV?.value ?? 0,
    kind === 'step-up' ? 0 : (figures.setV?.value ?? 0) + (figures.headroomV?.value ?? 0))
