/** Rails and sources against what they can give, read off the solved circuit. */
import type { Origin } from '../catalogue/types'
import type { Facts } from '../facts/types'
import { boardPower } from '../facts/board'
import { pathUp, sharesAt } from './shares'
import type { PowerState } from './states'
import type { SupplyTree, SupplyNode } from '../netlist/supply/types'

export interface RailLoad {
  /** Part, or null for the board itself and for what stands between. */
  partId: string | null
  /** Node of the power tree. */
  node: string
  name: string
  idleMa: number
  typicalMa: number
  peakMa: number
  through: 'header' | 'usb' | 'board' | '3V3 regulator' | 'own feed'
  origin: Origin
}

export interface RailBudget {
  rail: '5V' | '3V3' | 'USB'
  loads: RailLoad[]
  idleMa: number
  typicalMa: number
  peakMa: number
  /** Voltage on the rail at peak. */
  peakV: number
  /** What the rail can give; null while no supply or board is chosen. */
  availableMa: number | null
  origin: Origin
  limitKey: string
}

export interface SourceBudget {
  /** Node of the power tree. */
  node: string
  name: string
  loads: RailLoad[]
  idleMa: number
  typicalMa: number
  peakMa: number
  startMa: number
  peakW: number
  availableMa: number
  origin: Origin
}

interface Solved { tree: SupplyTree, states: PowerState[] }

const stateOf = (states: PowerState[], id: string) => states.find(state => state.id === id)!
const total = (loads: RailLoad[]) => {
  const sum = (pick: (load: RailLoad) => number) => loads.reduce((all, load) => all + pick(load), 0)
  return { idleMa: sum(load => load.idleMa), typicalMa: sum(load => load.typicalMa), peakMa: sum(load => load.peakMa) }
}

/** The three rails of the board; USB only where something is plugged in. */
export function railBudgets(facts: Facts, solved: Solved): RailBudget[] {
  const { plan, board } = facts
  const own = (key: string, value: number | undefined, origin: Origin = '') => plan.limits[key]
    ? { availableMa: plan.limits[key].value, origin: plan.limits[key].origin ?? 'yours' }
    : { availableMa: value ?? null, origin }
  const on5V = loadsAt(solved, '@5V')
  const on3V3 = loadsAt(solved, '@3V3')
  const onUsb = loadsAt(solved, '@usb')
  const voltage = (node: string) => stateOf(solved.states, 'peak').nodes[node]?.voltageV ?? 0
  const feed = feedLimit(facts, solved)
  const rails: RailBudget[] = [
    { rail: '5V', loads: on5V, ...total(on5V), peakV: voltage('@5V'), ...feed, limitKey: 'supply.currentMa' },
    {
      rail: '3V3', loads: on3V3, ...total(on3V3), peakV: voltage('@3V3'),
      ...own('board.rail3V3BudgetMa', board?.limits.rail3V3BudgetMa.value, board?.limits.rail3V3BudgetMa.origin),
      limitKey: 'board.rail3V3BudgetMa',
    },
  ]
  if (onUsb.length) {
    const given = usbBudget(facts, feed.availableMa)
    rails.push({
      rail: 'USB', loads: onUsb, ...total(onUsb), peakV: voltage('@usb'),
      ...own('board.usbBudgetMa', given?.value, given?.origin),
      limitKey: 'board.usbBudgetMa',
    })
  }
  return rails
}

/** What the USB sockets give together; less where the board sees a small supply. `feedMa` is what its feed gives. */
export function usbBudget({ board }: Facts,
  feedMa: number | null): { value: number, origin: Origin, small: boolean } | null {
  if (!board) return null
  const small = boardPower(board).usbSmallSupply
  if (small && feedMa !== null
    && feedMa < small.belowMa) return { value: small.budgetMa, origin: small.origin, small: true }
  return { ...board.limits.usbBudgetMa, small: false }
}

/**
 * What the feed of the 5 V rail gives: the weakest converter or source on the way up, of two feeds that which
 * carries the most.
 */
export function feedLimit({ plan, supplyMa, supply }: Facts,
  { tree, states }: Solved): { availableMa: number | null, origin: Origin } {
  const own = plan.limits['supply.currentMa'] ?? plan.supply?.currentMa
  // Before a board is chosen the supply is all there is to compare with.
  if (!tree.byId.has('@5V')) return { availableMa: supplyMa, origin: own ? 'yours' : supply?.origin ?? '' }
  for (const at of pathUp(tree, states.find(state => state.id === 'peak') ?? states[0]!, '@5V')) {
    if (at.role === 'source') {
      return {
        availableMa: at.figures.currentMa?.value ?? null,
        origin: at.id === '@supply' && own ? 'yours' : at.figures.currentMa?.origin ?? '',
      }
    }
    if (at.kind === 'step-down' || at.kind === 'step-up' || at.kind === 'linear') {
      return { availableMa: at.figures.ratedMa?.value ?? null, origin: at.figures.ratedMa?.origin ?? '' }
    }
  }
  return { availableMa: null, origin: '' }
}

/** Every source with all that it feeds. */
export function sourceBudgets(solved: Solved): SourceBudget[] {
  return solved.tree.nodes.filter(node => node.role === 'source').map((node) => {
    const at = (state: string) => stateOf(solved.states, state).nodes[node.id]!
    return {
      node: node.id, name: node.name, loads: loadsAt(solved, node.id), idleMa: at('idle').currentMa,
      typicalMa: at('typical').currentMa,
      peakMa: at('peak').currentMa, startMa: at('start').currentMa,
      peakW: at('peak').powerMw / 1000, availableMa: node.figures.currentMa!.value,
      origin: node.figures.currentMa!.origin,
    }
  })
}

/** Loads as they count at a node, in the order of the tree. */
export function loadsAt({ tree, states }: Solved, place: string): RailLoad[] {
  const at = (id: string) =>
    new Map(sharesAt(tree, stateOf(states, id), place).map(share => [share.node, share.currentMa]))
  const idle = at('idle')
  const typical = at('typical')
  const peak = at('peak')
  return [...new Set([...idle.keys(), ...typical.keys(), ...peak.keys()])].map((id) => {
    const node = tree.byId.get(id)!
    return {
      partId: node.partId ?? null, node: id, name: node.kind === 'board' ? 'Board' : node.name,
      through: throughOf(tree, node),
      idleMa: idle.get(id) ?? 0, typicalMa: typical.get(id) ?? 0, peakMa: peak.get(id) ?? 0,
      origin: (node.figures.typicalMa ?? node.figures.ownMa ?? node.figures.quiescentMa)?.origin ?? 'memory',
    }
  })
}

function throughOf(tree: SupplyTree, node: SupplyNode): RailLoad['through'] {
  if (node.kind === 'board') return 'board'
  const seen = new Set<SupplyNode>()
  let at: SupplyNode | undefined = node
  while (at && !seen.has(at)) {
    seen.add(at)
    if (at.id === '@usb') return 'usb'
    if (at.id === '@3V3') return '3V3 regulator'
    if (at.id === '@5V') return 'header'
    at = at.from.length ? tree.byId.get(at.from[0]!) : undefined
  }
  return 'own feed'
}
