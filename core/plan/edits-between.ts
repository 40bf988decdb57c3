/**
 * The edits that lead from one state of a plan to another: named ones where there are such, the rest field by field.
 */
import { applyEdit, type Edit } from './edits'
import { fieldsOf, same } from './same'
import type { Plan, PlanPart } from './types'

/**
 * Edits from one state to another. Law: applied one after the other they make the second of the first; none where both
 * are the same. Each changes something.
 */
export function editsBetween(before: Plan, after: Plan): Edit[] {
  const edits: Edit[] = []
  let now = before
  const take = (edit: Edit) => {
    const { plan } = applyEdit(now, edit)
    if (same(plan, now)) return
    edits.push(edit)
    now = plan
  }
  if (before.name !== after.name) take({ edit: 'rename', name: after.name })
  if ((before.notes ?? '') !== (after.notes ?? '')) take({ edit: 'write-notes', notes: after.notes ?? '' })
  if (before.board !== after.board) take({ edit: 'choose-board', board: after.board })
  if (!same(before.supply, after.supply)) take({ edit: 'choose-supply', supply: after.supply })
  for (const { id, type } of before.parts) {
    const other = after.parts.find(part => part.id === id)
    if (other?.type !== type) take({ edit: 'remove-part', id })
  }
  for (const part of after.parts) {
    const other = now.parts.find(({ id }) => id === part.id)
    if (other) partEdits(other, part).forEach(take)
    else take({ edit: 'add-part', part })
  }
  for (const terminal of fieldsOf(now.assignments, after.assignments)) {
    const to = after.assignments[terminal]
    if (same(now.assignments[terminal], to)) continue
    take(to ? { edit: 'assign', terminal, to } : { edit: 'release', terminal })
  }
  for (const terminal of fieldsOf(now.between, after.between)) {
    if (!same(now.between[terminal], after.between[terminal])) {
      take({ edit: 'set-between', terminal, between: after.between[terminal] ?? null })
    }
  }
  for (const entry of after.log) if (!same(now.log.find(({ id }) => id === entry.id),
    entry)) take({ edit: 'log', entry })
  for (const { id, ...sighting } of after.seen) {
    if (!same(now.seen.find(other => other.id === id), { id, ...sighting })) take({ edit: 'see', id, sighting })
  }
  // What is left has no name of its own, or lies in another order.
  const fields = Object.fromEntries(fieldsOf(now, after).filter(name => !same(now[name], after[name]))
    .map(name => [name, after[name]]))
  if (Object.keys(fields).length) take({ edit: 'put-back', fields })
  return edits
}

function partEdits(before: PlanPart, { id, name, notes, options, loads }: PlanPart): Edit[] {
  return [
    ...before.name === name ? [] : [{ edit: 'rename-part' as const, id, name }],
    ...(before.notes ?? '') === (notes ?? '') ? [] : [{ edit: 'note-part' as const, id, notes: notes ?? '' }],
    ...Object.entries(options ?? {}).filter(([option, value]) => before.options?.[option] !== value)
      .map(([option, value]) => ({ edit: 'set-option' as const, id, option, value })),
    ...same(before.loads, loads) ? [] : [{ edit: 'set-loads' as const, id, loads: loads ?? [] }],
  ]
}
