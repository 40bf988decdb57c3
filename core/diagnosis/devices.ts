/** The nodes that a simulated board has, with numbers where the plan knows only a pattern, and whose they are. */
import type { ResolvedPart } from '../facts/types'
import { baseOf } from '../boot/rehearse/rehearse'
import type { Expected } from '../bringup/expected'
import { isHeard, nodeIsThere } from './nodes'
import { driversOf } from './drivers'
import type { Workshop, World } from './world'
import type { Rehearsal } from '../boot/rehearse/types'

export interface Present {
  path: string
  what: string
  owner?: ResolvedPart
}

/** First free number of what is counted; the board has some of its own already. */
const FIRST: Readonly<Record<string, number>> = { '/dev/gpiochip*': 2, '/dev/dri/card*': 1,
  '/sys/class/pwm/pwmchip*': 2,
  '/sys/class/net/eth*': 1 }
/** A name on the 1-Wire bus: family 28 and six bytes of its own. Published: Linux, Documentation/w1/w1-generic. */
const wireName = (nth: number) => `28-0000${(0x0a5c31 + nth * 0x1357).toString(16).padStart(8, '0')}`

/** Every node of the plan that is there in this world, and those that the files bring besides. */
export function devicesIn(world: World, bench: { shop: Workshop, expected: Expected },
  rehearsal: Rehearsal): Present[] {
  if (!world.isUp) return []
  const { shop, expected } = bench
  const claimed = new Set(expected.nodes.map(({ path }) => path))
  const partOf = (id: string | undefined) => shop.facts.parts.find(entry => entry.id === id)
  /** Part whose driver has a node of the tree, found by its binding, and on I²C by its address. */
  const drivers = driversOf(rehearsal.tree, baseOf(shop.facts))
  const ownerOf = (node: string) => {
    const driver = drivers.find(({ path }) => path === node)
    return driver && shop.facts.parts.find((owner) => {
      const binding = owner.part.kernel
      const device = shop.facts.devices.find(entry => entry.owner === owner && !entry.also)
      return binding && [binding.compatible, binding.generic].some(name =>
        name !== undefined && driver.compatible.includes(name))
      && (!device || driver.address === null || device.address === driver.address)
    })
  }
  const wanted = [
    ...expected.nodes.filter(node => nodeIsThere(world, node, shop))
      .map(({ path, what, partId }) => ({ path, what, owner: partOf(partId) })),
    ...rehearsal.devices.filter(({ path, node }) => node !== 'plug' && !claimed.has(path) && world.hasNode(path))
      .map(({ path, what, node }) => ({ path, what, owner: ownerOf(node) }))
      // A driver that asks its part first makes nothing where nobody answers.
      .filter(({ owner }) => !owner || isHeard(world, owner, shop)),
  ]
  const counted = new Map<string, number>()
  const found = new Map<string, Present>()
  for (const { path, what, owner } of wanted) for (let unit = 0; unit < unitsOf(path, owner); unit++) {
    const nth = (counted.get(path) ?? FIRST[path] ?? 0)
    if (path.includes('*')) counted.set(path, nth + 1)
    const name = path.endsWith('/28-*') ? path.replace('28-*', wireName(nth)) : path.replace('*', String(nth))
    if (!found.has(name)) found.set(name, { path: name, what, ...owner && { owner } })
  }
  return [...found.values()]
}

/** Probes on one wire have a folder each. */
function unitsOf(path: string, owner: ResolvedPart | undefined): number {
  if (!path.endsWith('/28-*') || !owner) return 1
  const count = owner.part.options?.find(({ kind, meaning }) => kind === 'count' && (meaning ?? 'count') === 'count')
  return count ? Math.max(1, Number(owner.options[count.id])) : 1
}
