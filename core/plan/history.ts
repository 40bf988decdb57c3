/** Undo and redo over edits. Immutable: each function gives a new history. */
import { applyEdit, type Edit } from './edits'
import type { Plan } from './types'

export interface HistoryStep {
  /** What the person did, in words: "Add the fan". */
  label: string
  undo: Edit
  redo: Edit
  /** Steps with the same key that follow each other at once are one step (typing in one field). */
  joinKey?: string
}

export interface History {
  plan: Plan
  past: readonly HistoryStep[]
  future: readonly HistoryStep[]
}

/** Steps kept for undo; older ones are dropped. */
export const HISTORY_DEPTH = 500

export function startHistory(plan: Plan): History {
  return { plan, past: [], future: [] }
}

/** The history after one more edit. An edit that changes nothing leaves the history as it is. */
export function record(history: History, edit: Edit, label: string, joinKey?: string): History {
  const { plan, inverse } = applyEdit(history.plan, edit)
  if (inverse.edit === 'put-back' && !Object.keys(inverse.fields).length) return history
  const last = history.past.at(-1)
  if (joinKey && last?.joinKey === joinKey && !history.future.length) {
    const joined: HistoryStep = { ...last,
      redo: { edit: 'all', edits: [...('edits' in last.redo ? last.redo.edits : [last.redo]), edit] } }
    // The earlier inverse already leads back past both, as long as it covers the same fields.
    if (inverse.edit === 'put-back' && last.undo.edit === 'put-back') {
      joined.undo = { edit: 'put-back', fields: { ...inverse.fields, ...last.undo.fields } }
      // Letters in a file stay letters; of other fields the last state is enough, however many letters led there.
      if (edit.edit !== 'edit-text') joined.redo = { edit: 'put-back',
        fields: pick(plan, Object.keys(joined.undo.fields)) }
    }
    return { plan, past: [...history.past.slice(0, -1), joined], future: [] }
  }
  return { plan, past: [...history.past, { label, undo: inverse, redo: edit, joinKey }].slice(-HISTORY_DEPTH),
    future: [] }
}

/** One step back; the same history when there is none. */
export function undo(history: History): History {
  const step = history.past.at(-1)
  if (!step) return history
  return {
    plan: applyEdit(history.plan, step.undo).plan, past: history.past.slice(0, -1),
    future: [{ ...step, joinKey: undefined }, ...history.future],
  }
}

/** One step forward again; the same history when there is none. */
export function redo(history: History): History {
  const step = history.future[0]
  if (!step) return history
  return { plan: applyEdit(history.plan, step.redo).plan, past: [...history.past, step],
    future: history.future.slice(1) }
}

const pick = (plan: Plan, names: readonly string[]) => Object.fromEntries(names.map(name => [name, plan[name]]))
