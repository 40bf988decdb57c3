/**
 * The build of a plan: its steps in order, what an order of the maker's breaks, and what was done and has
 * to be taken back.
 */
import { terminalNames, wireEnds } from '../../plan/ids'
import type { Facts } from '../../facts/types'
import type { Netlist } from '../../netlist/types'
import type { Wire } from '../wires'
import { workbenchOf } from './make'
import { bestOrder, brokenBy, costOf, smallestCircle } from './order'
import type { Workbench, Order, Precedence, BuildStep } from './types'

export interface BuildSteps {
  /** In the order in which they are done: the maker's where there is one, else the computed one. */
  steps: BuildStep[]
  bench: Workbench
  /** The computed order; null where rules go round in a circle. */
  best: Order | null
  /** Of the order that is shown. */
  flips: number
  toolChanges: number
  /** Whether the maker's own order is shown. */
  isOwn: boolean
  /** Rules that the order shown breaks. */
  broken: Precedence[]
  circle: Precedence[] | null
  /** Wires that were ticked and are no longer in the plan: they are still there on the bench. */
  leftovers: Leftover[]
  minutes: number
}

export interface Leftover {
  /** As it was ticked. */
  key: string
  words: string
}

/** Everything about building, from a plan's facts. Pure. */
export function buildOf(facts: Facts, netlist: Netlist, wires: readonly Wire[]): BuildSteps {
  const bench = workbenchOf(facts, netlist, wires)
  const best = bestOrder(bench)
  const { order } = facts.plan.build
  const isOwn = order.length > 0
  const byId = new Map(bench.steps.map(step => [step.id, step]))
  const shown = shownOrder(order, bench, best)
  const steps = shown.map(id => byId.get(id)!)
  return {
    steps, bench, best, isOwn, broken: brokenBy(shown, bench.precedences), circle: smallestCircle(bench),
    leftovers: leftoversOf(facts,
      netlist),
    minutes: steps.reduce((sum, { minutes }) => sum + minutes, 0), ...costOf(shown, bench.steps),
  }
}

/**
 * The order that is shown and judged: the maker's with what came later, else the computed one; as they were made where
 * there is none.
 */
export function shownOrder(own: readonly string[], { steps }: Workbench, best: Order | null): string[] {
  const computed = best?.ids ?? steps.map(({ id }) => id)
  const ids = new Set(computed)
  return own.length ? withNew(own.filter(id => ids.has(id)), computed) : computed
}

/** The maker's order with steps that came later, each behind the one that it follows in the computed order. */
function withNew(own: readonly string[], computed: readonly string[]): string[] {
  const list = [...own]
  computed.forEach((id, i) => {
    if (list.includes(id)) return
    const before = computed.slice(0, i).findLast(other => list.includes(other))
    list.splice(before === undefined ? 0 : list.indexOf(before) + 1, 0, id)
  })
  return list
}

/** Mark of a ticked step among the ticked wires. */
export const stepKey = (id: string): string => `step:${id}`

/** Whether a step is done: its wires are, and its own tick where it has none or holds. */
export function isDone(step: BuildStep, done: ReadonlySet<string>): boolean {
  return step.conductors.every(id => done.has(id))
    && (done.has(stepKey(step.id)) || (step.conductors.length > 0 && !step.hold))
}

/** Ticks of conductors that the netlist no longer has. */
function leftoversOf({ plan, parts, board }: Facts, { conductors }: Netlist): Leftover[] {
  const there = new Set(conductors.map(({ id }) => id))
  return plan.build.done.filter(key => !key.startsWith('step:') && !there.has(key)).map((key) => {
    const { from, to } = wireEnds(key)
    const { partId, terminal } = terminalNames(from)
    const owner = parts.find(({ id }) => id === partId)
    const label = [...owner?.signals ?? [], ...owner?.part.supplies ?? [], ...owner?.part.grounds
      ?? []].find(({ id }) =>
      id === terminal)?.label
    let what: string
    if (owner) what = `${owner.name} ${label ?? terminal ?? ''}`.trim()
    else what = from === 'splice'
      ? 'the wire of the splice'
      : from
        || 'what was joined'
    const line = /^\d+$/.test(to) ? board?.header.find(({ position }) => position === Number(to))?.line : undefined
    let where: string
    if (/^\d+$/.test(to)) where = ` off position ${to}${line === undefined ? '' : ` (G${line})`}`
    else where = to === 'seat' ? ' off the header' : ' off'
    return { key, words: `Take ${what}${where}: the plan has changed since it was joined.` }
  })
}
