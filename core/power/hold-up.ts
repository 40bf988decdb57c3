/** What holds the board up after its supply is switched off: capacitors and latches on the way to it. */
import type { Facts } from '../facts/types'
import type { NodeRef } from '../plan/power'
import { boardPower } from '../facts/board'
import { capacitorHoldS } from './front/hold'
import type { FrontReport } from './fronts'
import { pathUp } from './shares'
import type { PowerState } from './states'
import type { SupplyTree, SupplyNode } from '../netlist/supply/types'

export interface HoldReport {
  node: NodeRef
  name: string
  by: 'capacitor' | 'latch'
  holdS: number
  /** What an orderly shutdown takes. */
  wantedS: number
  /** Capacitor: from and to voltage, and the power it carries. */
  fromV?: number
  toV?: number
  powerW?: number
  /** Capacitor: its series resistance. */
  ohm?: number
}

/** Seconds an orderly shutdown takes: the maker's figure or the board's. */
export const shutdownS = ({ plan, board }: Facts): number =>
  plan.power.shutdownS ?? (board ? boardPower(board).shutdownS : 0)

/**
 * Capacitors and latches between the source and the board, the nearest first. Idle draw counts: a board that
 * shuts down rests.
 */
export function holdsOf(facts: Facts, tree: SupplyTree, states: PowerState[],
  fronts: readonly FrontReport[]): HoldReport[] {
  if (!tree.byId.has('@5V') || !facts.board) return []
  const idle = states.find(state => state.id === 'idle')!
  const wantedS = shutdownS(facts)
  const path = pathUp(tree, idle, '@5V')
  return path.flatMap((node, i): HoldReport[] => {
    // A board that holds the latch by a line lets go once it has shut down, however long that takes.
    if (node.kind === 'latch') {
      return [{
        node: node.id, name: node.name, by: 'latch',
        holdS: heldByBoard(facts) ? wantedS : node.figures.holdS?.value ?? 0, wantedS,
      }]
    }
    if (node.kind !== 'capacitor' && node.kind !== 'rectifier') return []
    const { voltageV, currentMa } = idle.nodes[node.id]!
    const farad = node.kind === 'capacitor'
      ? node.figures.capacitanceF!.value
      : node.figures.capacitanceUf!.value * 1e-6
    // Behind a bridge the switch may open in the valley.
    const fromV = Math.min(voltageV, fronts.find(front => front.node === node.id)?.valleyV ?? voltageV)
    const ohm = node.kind === 'capacitor' ? node.figures.ohm?.value ?? 0 : 0
    const toV = minBelow(path.slice(0, i), facts)
    const powerW = voltageV * currentMa / 1000
    return [{
      node: node.id, name: node.name, by: 'capacitor', holdS: capacitorHoldS(farad, fromV, toV, powerW, ohm),
      wantedS, fromV, toV, powerW, ohm,
    }]
  })
}

/** A latch part of the plan whose hold line is wired to the board. */
const heldByBoard = ({ terminals }: Facts): boolean =>
  terminals.some(({ owner: { part }, signal, place }) =>
    part.holdsSupply !== undefined && signal?.id === part.holdsSupply && place?.kind === 'header')

/**
 * Voltage at which what is nearer to the board gives up: a converter's least input, else the
 * board's under-voltage sign.
 */
function minBelow(nearer: SupplyNode[], { board }: Facts): number {
  const converter = nearer.findLast(node => node.figures.setV)
  if (!converter) return boardPower(board!).signV
  return Math.max(converter.figures.leastInV?.value ?? 0, converter.kind === 'step-up'
    ? 0
    : (converter.figures.setV!.value) + (converter.figures.headroomV?.value ?? 0))
}
