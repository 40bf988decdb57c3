/** Nets: the pins that are joined with nothing between. */
import type { Component, Conductor, Net, PinId } from './types'

/** Every net with at least one pin, in the order of the components. Law: each pin lies on exactly one net. */
export function netsOf(components: readonly Component[], conductors: readonly Conductor[]): Net[] {
  const parent = new Map<PinId, PinId>()
  const find = (pin: PinId): PinId => {
    let root = pin
    while (parent.get(root) !== root) root = parent.get(root)!
    // The way is shortened for the next time.
    for (let at = pin; at !== root;) {
      const up = parent.get(at)!
      parent.set(at, root)
      at = up
    }
    return root
  }
  for (const { pins } of components) for (const { id } of pins) parent.set(id, id)
  const union = (a: PinId, b: PinId) => {
    if (parent.has(a) && parent.has(b)) parent.set(find(a), find(b))
  }
  for (const { inside } of components) for (const [first,
    ...others] of inside) for (const other of others) union(first!, other)
  for (const { ways } of conductors) for (const { from, to } of ways) union(from, to)
  const nets = new Map<PinId, PinId[]>()
  for (const pin of parent.keys()) {
    const root = find(pin)
    const list = nets.get(root)
    if (list) list.push(pin)
    else nets.set(root, [pin])
  }
  return [...nets.values()].map(pins => ({ id: pins.reduce((min, pin) => pin < min ? pin : min), pins }))
}
