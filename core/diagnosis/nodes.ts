/** When a device node is there: its line, its bus, and for some things the thing itself. */
import type { ResolvedPart } from '../facts/types'
import type { ExpectedNode } from '../bringup/expected'
import type { Workshop, World } from './world'

/**
 * Nodes of things by USB, on 1-Wire and on I²C come when the thing itself answers: their drivers ask it first (memory,
 * for I²C; a probe that nobody answers makes no device).
 */
const showsByAnswer = (owner: ResolvedPart,
  { facts }: Workshop) => (owner.part.plugs?.some(({ socket }) => socket === 'usb') ?? false)
  || owner.signals.some(({ role }) => role === 'onewire') || facts.devices.some(device => device.owner === owner)

/** The thing is fed, joined, whole, and where it is asked. */
export function isHeard(world: World, owner: ResolvedPart, shop: Workshop): boolean {
  const bus = shop.facts.groups.find(group => group.owner === owner && group.kind === 'i2c')?.bus
  const isAsked = !bus || !shop.facts.devices.some(device => device.owner === owner)
    || (world.answers(owner, bus) && !world.isMisstrapped(owner.id))
  return world.isFed(owner) && world.isWired(owner) && !world.isDead(owner.id) && isAsked
}

/** Whether one of the nodes that are expected is there. */
export function nodeIsThere(world: World, { path, partId }: ExpectedNode, shop: Workshop): boolean {
  if (!world.hasNode(path)) return false
  const owner = shop.parts.find(({ id }) => id === partId)
  return !owner || (!world.isDark(owner.id) && (!showsByAnswer(owner, shop) || isHeard(world, owner, shop)))
}
