/** Undo and redo as they are kept: a plan to begin with, and the steps that lead on from there. */
import type { Edit } from './edits'
import { applyEdit } from './edits'
import { record, startHistory, undo, type History, type HistoryStep } from './history'
import { same } from './same'
import type { Plan } from './types'

export interface Trail {
  /** The plan before the first step. */
  base: Plan
  steps: readonly { label: string, edit: Edit, joinKey?: string }[]
  /** So many of the steps are done; the others were taken back. */
  done: number
}

/** Steps that are kept in each direction; older ones are forgotten with the tab. */
export const TRAIL_DEPTH = 100

/** What has to be kept of a history so that undo goes on after the tab was closed. */
export function trailOf({ plan, past, future }: History): Trail {
  const back = past.slice(-TRAIL_DEPTH)
  const steps = [...back, ...future.slice(0, TRAIL_DEPTH)]
  return {
    base: back.reduceRight((now, step) => applyEdit(now, step.undo).plan, plan),
    steps: steps.map(({ label, redo, joinKey }) => ({ label, edit: redo, ...(joinKey !== undefined && { joinKey }) })),
    done: back.length,
  }
}

/**
 * The history of a plan from its trail. Where the trail leads to another plan than the stored one, what came in between
 * is a step of its own. A trail that cannot be followed gives a history without steps.
 */
export function followed(trail: Trail | undefined, plan: Plan, between: string): History {
  if (!trail) return startHistory(plan)
  let history: History
  try {
    history = replay(trail)
  }
  catch {
    // A trail of another version: the plan itself is what counts.
    return startHistory(plan)
  }
  if (same(history.plan, plan)) return { ...history, plan }
  return record({ ...history, future: [] }, replacing(history.plan, plan), between)
}

function replay({ base, steps, done }: Trail): History {
  // Steps taken back are walked too, and undone again.
  let history = startHistory(base)
  for (const { label, edit, joinKey } of steps) {
    const { plan, inverse } = applyEdit(history.plan, edit)
    const step: HistoryStep = { label, undo: inverse, redo: edit,
      ...(joinKey !== undefined && { joinKey: `${joinKey} kept` }) }
    history = { plan, past: [...history.past, step], future: [] }
  }
  for (let i = steps.length; i > done; i--) history = undo(history)
  return history
}

/** An edit that makes `from` equal to `to`, field by field. */
export function replacing(from: Plan, to: Plan): Edit {
  const gone = Object.fromEntries(Object.keys(from).filter(name => !(name in to)).map(name => [name, undefined]))
  const changed = Object.fromEntries(Object.entries(to).filter(([name, value]) => !same(from[name], value)))
  return { edit: 'put-back', fields: { ...gone, ...changed } }
}
