/** What a source gives without load, and the resistance of sources and cables. */
import { pairOhm } from '../copper'
import type { SupplyNode } from './types'

const value = (node: SupplyNode, name: string, otherwise = 0): number => node.figures[name]?.value ?? otherwise

/** Without load, in V: a transformer gives its rated voltage at its rated current, and more without. */
export const sourceEmfV = (source: SupplyNode): number => value(source, 'voltageV') * value(source, 'noLoadFactor', 1)

/**
 * Of a transformer that says no resistance of its own: what brings it down to its rated voltage at its rated current.
 */
export function sourceOhm(source: SupplyNode): number {
  const own = value(source, 'ohm')
  if (own > 0 || source.kind !== 'transformer') return own
  return (sourceEmfV(source) - value(source, 'voltageV')) / (value(source, 'currentMa', 1000) / 1000)
}

/** There and back, in ohms: as measured, or by gauge and length. */
export const cableOhm = (cable: SupplyNode): number =>
  value(cable, 'measuredOhm') > 0
    ? value(cable, 'measuredOhm')
    : pairOhm(value(cable, 'awg', 24), value(cable, 'lengthM', 1)) + value(cable, 'contactOhm')
