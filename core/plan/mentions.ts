/** Who mentions whom in a plan: what has to go when a part, a node of the supply or a step goes. */
import { supplyPin, wireKey } from './ids'
import type { Host } from './host-shape'
import type { Arrangement, NodeRef, PowerPlan } from './power'
import { withTook } from './durations'
import type { BootFile, Plan } from './types'

/**
 * True for keys that belong to a part: `part`, `part.terminal`, `part.terminal@38`, `part#1`,
 * `part@usb`, `stage:part.terminal.gnd@9`, `header:part`.
 */
export const isOfPart = (partId: string) => (key: string): boolean => {
  const bare = key.replace(/^(stage|header):/, '')
  return bare === partId || (bare.startsWith(partId) && /^[.#@]/.test(bare.slice(partId.length)))
}

const without = <T>(record: Record<string, T>, drop: (key: string, value: T) => boolean): Record<string, T> => {
  const entries = Object.entries(record)
  const kept = entries.filter(([key, value]) => !drop(key, value))
  return kept.length === entries.length ? record : Object.fromEntries(kept)
}

/** The list itself when nothing of it goes. */
const kept = <T>(list: T[], keep: (entry: T) => boolean): T[] => list.every(keep) ? list : list.filter(keep)

type Feeding = Pick<PowerPlan, 'nodes' | 'feeds' | 'joins' | 'figures'>

/** Feeding without what is fed by, into or at something of the part. Nodes that it fed are fed by nothing. */
function feedingWithout<T extends Feeding>(feeding: T, mine: (key: string) => boolean): T {
  const nodes = feeding.nodes.some(node => (node.from && mine(node.from)) || (node.upstream && mine(node.upstream)))
    ? feeding.nodes.map(node => ({
        ...node, ...node.from && mine(node.from) && { from: null },
        ...node.upstream && mine(node.upstream) && { upstream: null },
      }))
    : feeding.nodes
  const feeds = without(feeding.feeds, (key, from) => mine(key) || (from !== null && mine(from)))
  const joins = kept(feeding.joins, join => !mine(join.from) && !mine(join.into))
  const figures = without(feeding.figures, mine)
  const same = nodes === feeding.nodes && feeds === feeding.feeds && joins === feeding.joins
    && figures === feeding.figures
  return same ? feeding : { ...feeding, nodes, feeds, joins, figures }
}

/** The power field without any mention of a part. */
export function powerWithoutPart(power: PowerPlan, partId: string): PowerPlan {
  const mine = isOfPart(partId)
  const feeding = feedingWithout(power, mine)
  const steps = power.steps.some(step => Object.keys(step.loads).some(mine) || step.open.some(mine))
    ? power.steps.map(step => ({ ...step, loads: without(step.loads, mine),
        open: step.open.filter(ref => !mine(ref)) }))
    : power.steps
  const arrangements = power.arrangements.map((arrangement): Arrangement => feedingWithout(arrangement, mine))
  const sameArrangements = arrangements.every((arrangement, i) => arrangement === power.arrangements[i])
  return feeding === power && steps === power.steps && sameArrangements
    ? power
    : { ...feeding, steps, arrangements: sameArrangements ? power.arrangements : arrangements }
}

/**
 * The boot files without the part among those that are switched off or have an overlay made. The text
 * itself is the maker's.
 */
function bootWithoutPart(boot: BootFile | null, partId: string): BootFile | null {
  if (!boot?.off?.includes(partId) && !boot?.made?.includes(partId)) return boot
  return {
    ...boot, ...boot.off && { off: boot.off.filter(id => id !== partId) },
    ...boot.made && { made: boot.made.filter(id => id !== partId) },
  }
}

/** What the board is told without the part's keys and the name of its socket. */
function hostWithoutPart(host: Host, partId: string): Host {
  const matrix = without(host.matrix, key => key === partId)
  const usbNames = kept(host.usbNames, entry => entry.partId !== partId)
  return matrix === host.matrix && usbNames === host.usbNames ? host : { ...host, matrix, usbNames }
}

/**
 * The plan without a part and without every mention of it, but for what the maker wrote: notes, logbook, pasted scans
 * and the text of the boot file, whose lines of ours go when it is written the next time.
 */
export function withoutPart(plan: Plan, partId: string): Plan {
  return plan.parts.some(part => part.id === partId) ? withoutMentions(plan, partId) : plan
}

/** The plan without a part, and without what names it, whether the part itself is still there or not. */
export function withoutMentions(plan: Plan, partId: string): Plan {
  const mine = isOfPart(partId)
  return {
    ...plan,
    parts: plan.parts.filter(part => part.id !== partId),
    assignments: without(plan.assignments,
      (key, { terminal }) => mine(key) || (terminal !== undefined && mine(terminal))),
    between: without(plan.between, mine),
    limits: without(plan.limits, mine),
    stack: kept(plan.stack, id => id !== partId),
    // Channels of a hub are buses by its name.
    clocks: without(plan.clocks, mine),
    power: powerWithoutPart(plan.power, partId),
    worksheets: kept(plan.worksheets, ({ sheet }) => !(typeof sheet.node === 'string' && mine(sheet.node))),
    boot: bootWithoutPart(plan.boot, partId),
    host: hostWithoutPart(plan.host, partId),
    scans: kept(plan.scans, scan => !mine(scan.bus)),
    seen: kept(plan.seen, ({ id }) => !probesPart(id, mine)),
    aside: kept(plan.aside, entry => !entry.id.split(' ').some(word => word === partId || mine(word))),
    build: withTook({
      ...plan.build, wires: without(plan.build.wires, mine), places: without(plan.build.places, mine),
      ...plan.build.mount?.onto === partId && { mount: { ...plan.build.mount, onto: undefined } },
      measured: without(plan.build.measured, mine), ...stepsWithout(plan.build, partId),
      done: kept(plan.build.done, key => !mine(key) && !mentionsPlace(key, mine) && !isStepOf(key, partId)),
    }),
  }
}

/** `works:scale`, `volt:scale.vcc`, `look:scale.dout@29`, `through:other.s1@east.A3`, `scan:hub.ch0`. */
const probesPart = (id: string, mine: (key: string) => boolean) => {
  const key = id.slice(id.indexOf(':') + 1)
  return mine(key) || mentionsPlace(key, mine)
}

/** `part:scale`, `step:seat:scale`, `power:node:fuse`: a step that is about it. */
const isStepOf = (key: string, id: string) => key.includes(':') && (key.endsWith(`:${id}`) || key === id)

function stepsWithout({ order, rules }: Plan['build'], id: string): Pick<Plan['build'], 'order' | 'rules'> {
  return {
    order: kept(order, step => !isStepOf(step, id)),
    rules: kept(rules, ({ first, then }) => !isStepOf(first, id) && !isStepOf(then, id)),
  }
}

/** `other.s1@east.A3` ends at a terminal of the part. */
const mentionsPlace = (key: string, mine: (key: string) => boolean) => {
  const at = key.indexOf('@')
  return at > 0 && mine(key.slice(at + 1).replace(/^node:/, ''))
}

/** The worksheets and ticks without a node of the supply that goes. */
export function withoutNode(plan: Plan, node: NodeRef): Plan {
  const mine = (ref: string) => ref === node || ref.startsWith(wireKey(node, '')) || ref.startsWith(supplyPin(node, ''))
  const worksheets = kept(plan.worksheets, ({ sheet }) => !(typeof sheet.node === 'string' && mine(sheet.node)))
  // `look:fuse@buck`, `through:@socket@fuse`: sightings at its wires.
  const seen = kept(plan.seen, ({ id }) => !id.slice(id.indexOf(':') + 1).split('@').some(mine))
  const { build } = plan
  const done = kept(build.done, key => !mine(key) && !key.split('@').slice(1).some(mine) && !isStepOf(key, node))
  const { order, rules } = stepsWithout(build, node)
  const sameBuild = done === build.done && order === build.order && rules === build.rules
  return worksheets === plan.worksheets && seen === plan.seen && sameBuild
    ? plan
    : { ...plan, worksheets, seen, build: sameBuild ? build : withTook({ ...build, done, order, rules }) }
}
