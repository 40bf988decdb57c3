/** What a part is seen to do: nothing, its work, or something that tells of what is wrong. */
import { drivenByProgram } from '../facts/roles'
import type { ResolvedPart } from '../facts/types'
import { DOES, FALTERS, FLICKERS, FOREIGN, GARBAGE, NOTHING, NO_PICTURE } from './names'
import { isHeard } from './nodes'
import { NOT_UP, type Workshop, type World } from './world'

/** What a part is seen to do in a given thing, in the words of its test. */
export function worksAs(world: World, owner: ResolvedPart, shop: Workshop): string {
  if (!world.isUp) return NOT_UP
  const isScreen = owner.part.group === 'showing' && owner.part.display?.backlight !== undefined
    && owner.part.display.backlight !== 'none'
  const lit = isScreen ? NO_PICTURE : NOTHING
  if (!world.isFed(owner)) return NOTHING
  if (world.isDead(owner.id)) return NOTHING
  const hosts = shop.placed(owner).flatMap(({ place }) => place?.kind === 'terminal' ? [place.owner] : [])
  if (hosts.some(host => host !== owner && ![DOES, FALTERS].includes(worksAs(world, host, shop)))) return lit
  if (!world.isWired(owner)) return lit
  if (world.isDark(owner.id)) return lit
  const group = shop.facts.groups.find(entry => entry.owner === owner && entry.bus)
  if (group?.bus?.kind === 'i2c' && shop.facts.devices.some(device => device.owner === owner)) {
    if (!isHeard(world, owner, shop)) return lit
  }
  const device = group?.bus?.controller?.device?.replace('{select}', '0')
  if (group && device && group.bus!.kind === 'serial' && !drivenByProgram(group.terminals, group.bus!)
    && !world.hasNode(device)) return lit
  if (world.has('low-level', owner.id)) return FLICKERS
  if (world.has('thin-ground', owner.id)) return FALTERS
  if (world.has('console', owner.id)) return FOREIGN
  if (world.has('rate', owner.id)) return GARBAGE
  return DOES
}

export const GOES_ON = 'it goes on'
export const NOW_AND_THEN = 'it stops now and then'

/**
 * What comes of moving a part's wires while it works. Where the ways of a contact that comes and goes are
 * open, it stops.
 */
export function steadyAs(world: World, owner: ResolvedPart, shop: Workshop): string {
  const now = worksAs(world, owner, shop)
  if (now !== DOES) return now === FALTERS || now === FLICKERS ? NOW_AND_THEN : now
  return world.isLoose && worksAs(world.shaken, owner, shop) !== DOES ? NOW_AND_THEN : GOES_ON
}
