/**
 * Lines that a program can watch and set, with the pins they come out at: those of the header, and of expanders
 * with a driver.
 */
import { linesOffered } from '../facts/expander-lines'
import type { ResolvedPart } from '../facts/types'
import { positionPin } from '../netlist/board'
import type { PinId } from '../netlist/types'
import type { Expected } from '../bringup/expected'
import { devicesIn } from './devices'
import { isHeard } from './nodes'
import type { Workshop, World } from './world'

export interface LinePin {
  /** `G5`, `Expander west A3`. */
  name: string
  pin: PinId
  /** As the tools name it. */
  chip: string
  line: number
  /** Null for the board's own. */
  host: ResolvedPart | null
}

/** The chip of an expander by its number, where the plan's files bring its driver. */
export function linePinsOf(shop: Workshop, expected: Expected): LinePin[] {
  const own = (shop.facts.board?.header ?? []).flatMap(({ kind, line, position }): LinePin[] =>
    kind === 'line'
      ? [{ name: `G${line}`, pin: positionPin(position), chip: 'gpiochip0', line: line!,
          host: null }]
      : [])
  const hosts = shop.parts.filter(owner => linesOffered(owner).length)
  if (!hosts.length) return own
  const present = devicesIn(shop.healthy, { shop, expected }, shop.healthy.rehearsal)
  return [...own, ...hosts.flatMap((host): LinePin[] => {
    const chip = /^\/dev\/(gpiochip\d+)$/.exec(present.find(({ owner, path }) =>
      owner === host && path.startsWith('/dev/gpiochip'))?.path ?? '')?.[1]
    return chip === undefined
      ? []
      : linesOffered(host).flatMap((offer, line) => Object.values(offer.terminals).slice(0, 1).map(terminal => ({
          name: `${host.name} ${terminal}`, pin: `${host.id}.${terminal}`, chip, line, host,
        })))
  })]
}

/** How a rehearsal names the chips of expanders. */
const CHIPS = '/dev/gpiochip*'

/** Whether the chip of a line is there: the board's own always, an expander's while its driver hears it. */
export const isChipThere = (world: World, { host }: Pick<LinePin, 'host'>, shop: Workshop): boolean =>
  world.isUp && (host === null || (world.hasNode(CHIPS) && isHeard(world, host, shop) && !world.isDark(host.id)))
