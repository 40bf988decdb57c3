/** Switching on: who asks how much for how long, and what a source with its capacitors can give meanwhile. */
import type { NodeRef } from '../plan/power'
import { pathUp, sharesAt } from './shares'
import { stateNamed, type PowerState } from './states'
import { USUAL_SURGE_S } from '../netlist/supply/figures'
import type { SupplyTree } from '../netlist/supply/types'

/** A rail may fall by this much for a moment. practice */
export const SURGE_FALL_V = 0.25

export interface Surge {
  /** Asked together, in mA, by all that surges at least so long, and what the others draw. */
  currentMa: number
  seconds: number
}

/**
 * What a source is asked for when everything is switched on at once: one entry for each length of surge among its
 * loads, the shortest first.
 */
export function surgesAt(tree: SupplyTree, states: readonly PowerState[], place: NodeRef): Surge[] {
  const start = sharesAt(tree, stateNamed(states, 'start'), place)
  const typical = new Map(sharesAt(tree, stateNamed(states, 'typical'), place)
    .map(share => [share.node, share.currentMa]))
  const lengthOf = (node: NodeRef) => {
    const { surgeMa, surgeS } = tree.byId.get(node)?.figures ?? {}
    return surgeMa && surgeMa.value > 0 ? surgeS?.value ?? USUAL_SURGE_S : 0
  }
  const lengths = [...new Set(start.map(share => lengthOf(share.node)).filter(length => length > 0))].sort((a,
    b) => a - b)
  return lengths.map(seconds => ({
    seconds,
    currentMa: start.reduce((sum,
      share) => sum + (lengthOf(share.node) >= seconds ? share.currentMa : typical.get(share.node) ?? 0), 0),
  }))
}

/**
 * Times its rating that a regulated source gives: 1.5 for 20 ms and less, its rating from half a second on, between
 * them falling with the logarithm of the time. Memory.
 */
export function overloadFor(seconds: number): number {
  const [shortS, longS, max] = [0.02, 0.5, 1.5]
  const part = Math.log(longS / Math.max(seconds, 1e-6)) / Math.log(longS / shortS)
  return 1 + (max - 1) * Math.min(1, Math.max(0, part))
}

/**
 * What a capacitor adds for so long while the rail falls by `fallV`, in mA: the fall over its own resistance and what
 * it gives off.
 */
export const capacitorAddsMa = (farad: number, ohm: number, seconds: number, fallV = SURGE_FALL_V): number =>
  fallV / (ohm + seconds / farad) * 1000

/** How far a rail falls when a capacitor alone gives a current for so long, in V. Textbook: I·R + I·t ÷ C. */
export const sagV = (currentMa: number, farad: number, ohm: number, seconds: number): number =>
  currentMa / 1000 * (ohm + seconds / farad)

/** What all capacitors behind a source add together for so long, in mA. */
export function capacitorsMa(tree: SupplyTree, states: readonly PowerState[], source: NodeRef,
  seconds: number): number {
  const start = stateNamed(states, 'start')
  return tree.nodes
    .filter(node => node.kind === 'capacitor' && !node.open
      && pathUp(tree, start, node.id).some(entry => entry.id === source))
    .reduce((sum, node) =>
      sum + capacitorAddsMa(node.figures.capacitanceF!.value, node.figures.ohm?.value ?? 0, seconds), 0)
}
