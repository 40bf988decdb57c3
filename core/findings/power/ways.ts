/** Ways out of a shortage: each is tried on the circuit before it is offered, and carries the figure it comes to. */
import { POWER_CHANGES, type PowerEdit } from '../../plan/power-edits'
import type { Plan } from '../../plan/types'
import type { Edit } from '../../plan/edits'
import { solvePower, type Power } from '../../power/report'
import type { Facts } from '../../facts/types'
import type { Fix } from '../types'

/** An edit that only touches how the plan is fed. */
export type FeedEdit = PowerEdit | Extract<Edit, { edit: 'choose-supply' }>

export interface PowerFix {
  label: string
  edits: FeedEdit[]
  /** Made-up price, for the order: what costs nothing comes first. */
  price: number
}

export type Solved = Pick<Power, 'tree' | 'states'>

/** What a way comes to: whether it is enough, and the figure to show. */
export interface Outcome {
  enough: boolean
  figure: string
  /** Larger is better; ways that make nothing better are not offered. */
  gain: number
}

const MAX_OFFERED = 4
/** Two ways together are tried among so many of the best. */
const MAX_PAIRED = 4

/** What was tried before, by what it depends on: most edits of a plan do not touch its supply. The oldest go first. */
const known = new Map<string, Fix[]>()
const MAX_KNOWN = 200

/**
 * The ways that help in the states named, those that are enough first and the cheapest of them before the others. Where
 * none is enough by itself, two together are tried. `about` names the finding: with the supply it decides the outcome,
 * so that the same question about the same supply is answered from memory.
 */
export function waysOut(
  { facts, power }: Asked, about: string, ways: () => PowerFix[], states: readonly string[],
  judge: (solved: Solved) => Outcome,
): Fix[] {
  const key = `${about} ${supplyKey(facts, power)}`
  const before = known.get(key)
  if (before) return before
  const fixes = tryOut(facts, ways(), states, judge)
  if (known.size >= MAX_KNOWN) known.delete(known.keys().next().value!)
  known.set(key, fixes)
  return fixes
}

interface Asked { facts: Facts, power: Pick<Power, 'tree'> }

const keys = new WeakMap<object, string>()

/** All that the outcome of a trial depends on, as text: parts and their places show in the tree's nodes. */
function supplyKey({ plan, board, supplyMa }: Facts, { tree }: Pick<Power, 'tree'>): string {
  const made = keys.get(tree)
  if (made) return made
  const nodes = tree.nodes.map((
    { id, kind, name, from, figures, open, upstream },
  ) => [id, kind, name, from, upstream, open, Object.entries(figures)
    .map(([figure, { value }]) => [figure, value])])
  const key = JSON.stringify([
    nodes, plan.power, plan.supply, plan.limits, supplyMa, board?.id, board?.limits, board?.power, board?.clocking,
    board?.draw,
  ])
  keys.set(tree, key)
  return key
}

function tryOut(facts: Facts, ways: PowerFix[], states: readonly string[], judge: (solved: Solved) => Outcome): Fix[] {
  const tried = (way: PowerFix) => ({ way, outcome: judge(solvePower(changedFacts(facts, way.edits), states)) })
  const helping = ways.map(tried).filter(({ outcome }) => outcome.gain > 0)
    .sort((a, b) => Number(b.outcome.enough) - Number(a.outcome.enough) || (a.outcome.enough
      ? a.way.price - b.way.price
      : b.outcome.gain - a.outcome.gain))
  const together = helping.length && !helping[0]!.outcome.enough
    ? enoughTogether(helping.slice(0, MAX_PAIRED).map(({ way }) => way), tried)
    : []
  return [...together, ...onceEach(helping)].slice(0, MAX_OFFERED)
    .map(({ way, outcome }) => ({
      label: `${way.label}: ${outcome.figure}${outcome.enough ? '' : ', not enough by itself'}`, edits: way.edits,
      ...!outcome.enough && { isPartial: true as const },
    }))
}

/**
 * Of several values of one figure the first: a lead that is thicker still says nothing new, and takes the place
 * of another way.
 */
function onceEach<T extends { way: PowerFix }>(tried: T[]): T[] {
  const seen = new Set<string>()
  return tried.filter(({ way: { edits: [edit] } }) => {
    if (edit!.edit !== 'set-figure') return true
    const key = touched(edit!)
    return seen.has(key) ? false : (seen.add(key), true)
  })
}

/** The first two ways that are enough together. */
function enoughTogether<T extends { outcome: Outcome }>(ways: PowerFix[], tried: (way: PowerFix) => T): T[] {
  for (const [i, first] of ways.entries()) {
    for (const second of ways.slice(i + 1)) {
      if (first.edits[0]!.edit === second.edits[0]!.edit
        && touched(first.edits[0]!) === touched(second.edits[0]!)) continue
      const pair = tried({
        label: `${first.label}, and ${second.label.charAt(0).toLowerCase()}${second.label.slice(1)}`,
        edits: [...first.edits, ...second.edits], price: first.price + second.price,
      })
      if (pair.outcome.enough) return [pair]
    }
  }
  return []
}

/** What an edit is about: two that are about the same thing do not add up. */
const touched = (edit: FeedEdit): string => edit.edit === 'set-figure' ? `${edit.node} ${edit.figure}` : edit.edit

/** Facts as they are after edits that touch only the feeding. */
export function changedFacts(facts: Facts, edits: readonly FeedEdit[]): Facts {
  const plan = edits.reduce<Plan>((current, edit) => edit.edit === 'choose-supply'
    ? { ...current, supply: edit.supply }
    : change(current, edit), facts.plan)
  if (plan.supply === facts.plan.supply) return { ...facts, plan }
  const supply = plan.supply ? facts.catalogue.supplies.get(plan.supply.type) ?? null : null
  return { ...facts, plan, supply, supplyMa: supply
    ? plan.limits['supply.currentMa']?.value ?? plan.supply?.currentMa ?? supply.currentMa
    : null }
}

function change(plan: Plan, edit: PowerEdit): Plan {
  const apply = POWER_CHANGES[edit.edit] as (plan: Plan, edit: PowerEdit) => Plan
  return apply(plan, edit)
}
