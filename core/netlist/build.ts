/** The netlist of a plan, derived once from its facts and its supply graph. */
import { headerSpliceKey, spliceComponent } from '../plan/ids'
import type { Facts } from '../facts/types'
import { BOARD_ID, boardComponent } from './board'
import { netsOf } from './nets'
import { PartLayout } from './parts'
import { BoardSpots } from './spots'
import { SupplyLayout } from './supplies'
import type { SupplyTree } from './supply/types'
import type { Component, Conductor, Netlist } from './types'

/**
 * Components, conductors and nets. Laws: each conductor's ends are pins of components in the list; no two conductors
 * have one id; a header position carries one plug, so that where several wires meet a splice stands between; each pin
 * lies on one net.
 */
export function netlistOf(facts: Facts, tree: SupplyTree): Netlist {
  const spots = new BoardSpots(facts.board, new Set(facts.plan.reserved.map(entry => entry.position)))
  const supply = new SupplyLayout(tree, spots)
  const parts = new PartLayout(facts, tree, supply, spots)
  const board = facts.board ? [boardComponent(facts.board)] : []
  const spliced = splicedAtPositions([...supply.conductors, ...parts.conductors])
  const components = [...board, ...parts.components, ...supply.components, ...spliced.components]
  const ownerOf = new Map(components.flatMap(component => component.pins.map(pin => [pin.id, component] as const)))
  const conductors = spliced.conductors.filter(({ ways }) =>
    ways.every(({ from, to }) => ownerOf.has(from) && ownerOf.has(to)))
  const nets = netsOf(components, conductors)
  return {
    components, conductors, nets, ownerOf, byId: new Map(components.map(component => [component.id, component])),
    netOf: new Map(nets.flatMap(net => net.pins.map(pin => [pin, net] as const))),
  }
}

const POSITION = /^@P\d+$/

/**
 * Where more than one plug would sit on a header position, one wire leads from there to a splice, and all others
 * meet at it.
 */
function splicedAtPositions(conductors: Conductor[]): { conductors: Conductor[], components: Component[] } {
  const ends = new Map<string, number>()
  const plugged = conductors.filter(conductor => conductor.kind !== 'seat')
  for (const { ways } of plugged) for (const { from, to } of ways) for (const pin of [from,
    to]) if (POSITION.test(pin)) {
    ends.set(pin, (ends.get(pin) ?? 0) + 1)
  }
  const shared = [...ends].filter(([, count]) => count > 1).map(([pin]) => pin)
  if (!shared.length) return { conductors, components: [] }
  const meets = new Set(shared)
  const spliceId = (pin: string) => spliceComponent(pin.slice(1))
  const over = (pin: string) => meets.has(pin) ? spliceId(pin) : pin
  const moved = conductors.map((conductor): Conductor => {
    if (conductor.kind === 'seat') return conductor
    const ways = conductor.ways.map(({ from, to }) => ({ from: over(from), to: over(to) }))
    const first = ways[0]!
    return {
      ...conductor, ways,
      ...conductor.from === BOARD_ID && first.from !== conductor.ways[0]!.from && { from: first.from },
      ...conductor.to === BOARD_ID && first.to !== conductor.ways[0]!.to && { to: first.to },
    }
  })
  const components = shared.map((pin): Component => ({
    id: spliceId(pin), kind: 'splice', name: `Splice at position ${pin.slice(2)}`,
    what: 'Rail of a breadboard, or a terminal block',
    pins: [{ id: spliceId(pin), label: 'rail' }], inside: [],
  }))
  const feeders = shared.map((pin): Conductor => ({
    id: headerSpliceKey(pin.slice(2)), kind: 'wire', role: roleAt(conductors, pin), from: BOARD_ID, to: spliceId(pin),
    position: Number(pin.slice(2)), lengthM: 0.15, ways: [{ from: pin, to: spliceId(pin) }],
  }))
  return { conductors: [...moved, ...feeders], components }
}

/** What a shared position carries: as the wires to it say, returns first. */
function roleAt(conductors: readonly Conductor[], pin: string): Conductor['role'] {
  const roles = conductors.filter(({ ways }) => ways.some(way => way.from === pin || way.to === pin))
    .map(({ role, ways }) => ways[0]!.to === pin || ways[0]!.from === pin ? role : 'ground')
  return roles.includes('ground')
    ? 'ground'
    : roles.find(role => role === '5V' || role === '3V3') ?? roles[0] ?? 'signal'
}
