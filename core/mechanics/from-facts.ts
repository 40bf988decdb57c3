/** Bodies and room straight from facts, for whoever has no power tree at hand. */
import type { Facts } from '../facts/types'
import type { SupplyTree } from '../netlist/supply/types'
import { powerOf } from '../power/report'
import { assemblyOf, type Assembly } from './assembly'
import { roomOf, type Room } from './room'

export function bodiesOf(facts: Facts, tree: SupplyTree = powerOf(facts).tree): Assembly & { room: Room } {
  const assembly = assemblyOf(facts, tree)
  return { ...assembly,
    room: roomOf(assembly, owner => facts.parts.find(({ id }) => id === owner)?.part.thing?.cooler === 'active') }
}
