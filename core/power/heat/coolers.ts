/**
 * What coolers, cases and fans do to the way heat takes. All from memory: typical values of each kind, not
 * of one maker's.
 */
import type { Cooler, Enclosure, HeatPlan } from '../../plan/power'

export interface CoolerFigures {
  label: string
  /** Of the bare board's thermal resistance, with still air and with the fan at full speed. */
  stillShare: number
  blownShare: number
  /** Heat it stores beside the board, in J per K. */
  storeJk: number
  /** With still air in K per W, where the maker typed it: it holds in place of the share. */
  ownKw?: number
  /** Of chip and cooler together, where a load test was measured: it holds in place of both. */
  ownStoreJk?: number
  /** Has a fan of its own. */
  fan: boolean
  /** Above the board, in mm; 0 where a lid is no matter. */
  heightMm: number
  price: number
}

export const COOLERS: Readonly<Record<Cooler, CoolerFigures>> = {
  'none': { label: 'no cooler', stillShare: 1, blownShare: 0.55, storeJk: 0, fan: false, heightMm: 0, price: 0 },
  'fins': { label: 'small heat sinks', stillShare: 0.8, blownShare: 0.42, storeJk: 8, fan: false, heightMm: 6,
    price: 3 },
  'block': { label: 'large heat sink', stillShare: 0.55, blownShare: 0.32, storeJk: 45, fan: false, heightMm: 14,
    price: 8 },
  'case-body': { label: 'case as heat sink', stillShare: 0.4, blownShare: 0.33, storeJk: 160, fan: false, heightMm: 0,
    price: 16 },
  'active': { label: 'heat sink with its own fan', stillShare: 0.6, blownShare: 0.28, storeJk: 25, fan: true,
    heightMm: 22, price: 9 },
}

/**
 * The plan's cooler, with its K per W where the maker typed it or measured it; what was typed holds before
 * what was measured.
 */
export function coolerOf({ cooler, coolerKw,
  measured }: Pick<HeatPlan, 'cooler' | 'coolerKw' | 'measured'>): CoolerFigures {
  const ownKw = coolerKw ?? measured?.coolerKw
  return { ...COOLERS[cooler], ...ownKw !== undefined && { ownKw },
    ...measured?.storeJk !== undefined && { ownStoreJk: measured.storeJk } }
}

/** A cooler that nobody knows more of than its kind. */
export const OTHER_COOLER = { coolerKw: undefined, measured: undefined } as const

export interface EnclosureFigures {
  label: string
  /** Air inside above the room, in K per W of all heat inside. */
  stillKw: number
  blownKw: number
  storeJk: number
  /** From the board to the lid, in mm; null where there is none. */
  lidMm: number | null
}

export const ENCLOSURES: Readonly<Record<Enclosure, EnclosureFigures>> = {
  open: { label: 'in the open', stillKw: 0, blownKw: 0, storeJk: 0, lidMm: null },
  vented: { label: 'case with openings', stillKw: 1.3, blownKw: 0.6, storeJk: 60, lidMm: 26 },
  closed: { label: 'closed case', stillKw: 4, blownKw: 3, storeJk: 90, lidMm: 18 },
}

/** A case that is the heat sink gives its heat off outside: no air inside counts. */
export const enclosureOf = (cooler: Cooler, enclosure: Enclosure): EnclosureFigures => cooler === 'case-body'
  ? ENCLOSURES.open
  : ENCLOSURES[enclosure]

/** Between still and full speed resistance falls with the speed to this power. Memory. */
export const FAN_POWER = 0.7
