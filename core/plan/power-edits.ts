/**
 * Named edits of the power field. Pure, like all edits; one that names what the plan does not have gives the plan back
 * as it is.
 */
import type { Arrangement, Join, KeptWorksheet, NodeRef, PowerNode, PowerPlan } from './power'
import { BASE_STATES } from './power-shape'
import { withoutNode } from './mentions'
import type { Plan } from './types'

export type PowerEdit
  /** Puts a node in; with `before` that consumer is fed by it from now on. */
  = | { edit: 'add-node', node: PowerNode, before?: NodeRef }
  /** Takes a node out; what it fed is fed by what fed it. */
    | { edit: 'remove-node', id: NodeRef }
    | { edit: 'edit-node', id: NodeRef, changes: Partial<Omit<PowerNode, 'id'>> }
    | { edit: 'set-figure', node: NodeRef, figure: string, value: number | null }
  /** Who feeds a consumer: a node, null for nothing, `usual` for what the plan says by itself. */
    | { edit: 'feed', consumer: NodeRef, from: NodeRef | null | { usual: true } }
    | { edit: 'join', join: Join }
    | { edit: 'unjoin', join: Join }
    | { edit: 'set-power', power: Partial<PowerPlan> }
    | { edit: 'keep-arrangement', arrangement: Arrangement }
    | { edit: 'take-arrangement', id: string }
    | { edit: 'drop-arrangement', id: string }
    | { edit: 'keep-worksheet', kept: KeptWorksheet }
    | { edit: 'drop-worksheet', id: string }

type Of<Name extends PowerEdit['edit']> = Extract<PowerEdit, { edit: Name }>

const without = <T>(record: Record<string, T>, drop: (key: string, value: T) => boolean): Record<string, T> =>
  Object.fromEntries(Object.entries(record).filter(([key, value]) => !drop(key, value)))

const sameJoin = (a: Join, b: Join) => a.from === b.from && a.into === b.into
const isOwn = (power: PowerPlan, id: NodeRef) => power.nodes.some(node => node.id === id)
const editOwn = (
  power: PowerPlan, id: NodeRef, to: (node: PowerNode) => PowerNode,
): PowerPlan => ({ ...power, nodes: power.nodes.map(node => node.id === id
  ? to(node)
  : node) })

function fed(power: PowerPlan, consumer: NodeRef, from: Of<'feed'>['from']): PowerPlan {
  const usual = typeof from === 'object' && from !== null
  if (isOwn(power, consumer)) return editOwn(power, consumer, node => ({ ...node, from: usual ? null : from }))
  return { ...power,
    feeds: usual ? without(power.feeds, key => key === consumer) : { ...power.feeds, [consumer]: from } }
}

function removed(power: PowerPlan, id: NodeRef): PowerPlan {
  const gone = power.nodes.find(node => node.id === id)
  if (!gone) return power
  const further = gone.from ?? null
  const passedOn = (ref: NodeRef | null | undefined) => ref === id || ref === `${id}@lead` ? further : ref
  return {
    ...power,
    nodes: power.nodes.filter(node => node.id !== id)
      .map(node => passedOn(node.from) === node.from && node.upstream !== id
        ? node
        : { ...node, from: passedOn(node.from), ...node.upstream === id && { upstream: null } }),
    // What a source fed goes back to its usual feed; what another node fed is fed by what fed that.
    feeds: Object.fromEntries(Object.entries(power.feeds)
      .flatMap(([key, ref]) => {
        if (passedOn(ref) === ref) return [[key, ref]]
        return further === null ? [] : [[key, further]]
      })),
    joins: power.joins.filter(join => ![id, `${id}@lead`].includes(join.from) && join.into !== id),
    figures: without(power.figures, key => key === id || key === `${id}@lead`),
    steps: power.steps.some(step => step.open.includes(id) || Object.hasOwn(step.loads, id))
      ? power.steps.map(step => ({ ...step, open: step.open.filter(open => open !== id),
          loads: without(step.loads, key => key === id) }))
      : power.steps,
  }
}

function withFigure(power: PowerPlan, node: NodeRef, figure: string, value: number | null): PowerPlan {
  const set = (figures: Record<string, number> = {}) => value === null
    ? without(figures, key => key === figure)
    : { ...figures, [figure]: value }
  if (isOwn(power, node)) return editOwn(power, node, own => ({ ...own, figures: set(own.figures) }))
  const figures = set(power.figures[node])
  return { ...power, figures: Object.keys(figures).length
    ? { ...power.figures, [node]: figures }
    : without(power.figures, key => key === node) }
}

/** Hours of the day go with the step that they name. */
function withoutStrayHours(power: PowerPlan): PowerPlan {
  const steps = new Set<string>([...BASE_STATES, ...power.steps.map(step => step.id)])
  return power.day.every(part => steps.has(part.step))
    ? power
    : { ...power, day: power.day.filter(part => steps.has(part.step)) }
}

const onPower = (plan: Plan, to: (power: PowerPlan) => PowerPlan): Plan => {
  const power = to(plan.power)
  return power === plan.power ? plan : { ...plan, power }
}

export const POWER_CHANGES: { [Name in PowerEdit['edit']]: (plan: Plan, edit: Of<Name>) => Plan } = {
  'add-node': (plan, { node, before }) => onPower(plan, (power) => {
    if (isOwn(power, node.id)) return power
    const added = { ...power, nodes: [...power.nodes, node] }
    return before === undefined ? added : fed(added, before, node.id)
  }),
  'remove-node': (plan,
    { id }) => isOwn(plan.power, id) ? withoutNode(onPower(plan, power => removed(power, id)), id) : plan,
  'edit-node': (plan, { id, changes }) => onPower(plan, power => isOwn(power, id)
    ? editOwn(power, id, node => ({ ...node, ...changes }))
    : power),
  'set-figure': (plan, { node, figure, value }) => onPower(plan, power => withFigure(power, node, figure, value)),
  'feed': (plan, { consumer, from }) => onPower(plan, power => fed(power, consumer, from)),
  'join': (plan, { join }) => onPower(plan, power => power.joins.some(other => sameJoin(other, join))
    ? power
    : { ...power, joins: [...power.joins, join] }),
  'unjoin': (plan, { join }) => onPower(plan, power => power.joins.some(other => sameJoin(other, join))
    ? { ...power, joins: power.joins.filter(other => !sameJoin(other, join)) }
    : power),
  'set-power': (plan, { power }) => onPower(plan, before => withoutStrayHours({ ...before, ...power })),
  'keep-arrangement': (plan, { arrangement }) => onPower(
    plan, power => ({ ...power,
      arrangements: [...power.arrangements.filter(other => other.id !== arrangement.id), arrangement] }),
  ),
  'take-arrangement': (plan, { id }) => {
    const kept = plan.power.arrangements.find(arrangement => arrangement.id === id)
    return kept ? arranged(plan, kept) : plan
  },
  'drop-arrangement': (plan, { id }) => onPower(
    plan, power => ({ ...power, arrangements: power.arrangements.filter(arrangement => arrangement.id !== id) }),
  ),
  'keep-worksheet': (plan,
    { kept }) => ({ ...plan, worksheets: [...plan.worksheets.filter(other => other.id !== kept.id), kept] }),
  'drop-worksheet': (plan, { id }) => plan.worksheets.some(kept => kept.id === id)
    ? { ...plan, worksheets: plan.worksheets.filter(kept => kept.id !== id) }
    : plan,
}

/** The plan fed as an arrangement says. */
export function arranged(plan: Plan, { supply, nodes, feeds, joins, figures }: Omit<Arrangement, 'id' | 'name'>): Plan {
  return { ...plan, supply, power: { ...plan.power, nodes, feeds, joins, figures } }
}

/** How the plan is fed now, to be kept and compared. */
export function arrangementOf({ supply, power: { nodes, feeds, joins, figures } }: Plan, id: string,
  name: string): Arrangement {
  return { id, name, supply, nodes, feeds, joins, figures }
}

/** A node id that is free in the plan: `fuse`, then `fuse-2`, … */
export function freeNodeId(power: PowerPlan, type: string): string {
  const base = type.slice(0, 34)
  const taken = new Set(power.nodes.map(node => node.id))
  if (!taken.has(base)) return base
  let n = 2
  while (taken.has(`${base}-${n}`)) n++
  return `${base}-${n}`
}
