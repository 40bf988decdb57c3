import { writeFileSync } from 'node:fs'
import { shippedCatalogue } from '../core/catalogue'
import { placementEdits, placePlan } from '../core/placement/place'
import { applyEdit } from '../core/plan/edits'
import { writePlanText } from '../core/plan/read'
import { readArguments } from './input'

/** Prints the placements with their costs, or what cannot be met together; 1 when it is impossible. */
export function place(args: string[]): number {
  const { plan, values } = readArguments(args,
    { json: { type: 'boolean' }, all: { type: 'boolean' }, write: { type: 'string' } })
  const result = placePlan(plan, shippedCatalogue, { scope: values.all ? 'all' : 'rest' })
  if (values.json) console.log(JSON.stringify(result, null, 2))
  else if (!result.ok) {
    console.log(`impossible: ${result.sentence}`)
    for (const way of result.waysOut) console.log(`way out: ${way.label}`)
  }
  else {
    for (const [terminal, { position, terminal: other, fixed }] of Object.entries(result.assignments))
      console.log(`${terminal.padEnd(24)} ${position ?? other}${fixed ? '  fixed' : ''}`)
    for (const strap of result.straps) console.log(`strap ${strap.partId}: ${strap.option} ${strap.value}`)
    for (const bus of result.softwareBuses) console.log(`software bus ${bus.id}: SDA ${bus.sda}, SCL ${bus.scl}`)
    for (const row of result.costs) console.log(`cost ${String(row.cost).padStart(8)}  ${row.what}`)
    console.log(`cost ${String(result.cost).padStart(8)}  in all, `
      + `${result.provedBest ? 'proved least' : 'not proved least'}`)
    console.log(`cost ${String(result.powerCost).padStart(8)}  supplies and grounds`)
    for (const terminal of result.leftOut) console.log(`left out: ${terminal}`)
  }
  if (result.ok && values.write !== undefined) {
    writeFileSync(values.write,
      writePlanText(applyEdit(plan, { edit: 'all', edits: placementEdits(plan, result) }).plan))
  }
  return result.ok ? 0 : 1
}
