import { shippedCatalogue } from '../core/catalogue'
import { buildAsMarkdown, partsAsCsv, wiresAsCsv } from '../core/build/table'
import { evaluate } from '../core/evaluate'
import { isOpenStop } from '../core/findings/set-aside'
import { readArguments, UnusableInput } from './input'

/** Prints the wire list in the order of connecting and the parts list; 1 when something stops the building. */
export function build(args: string[]): number {
  const { plan, values } = readArguments(args, { json: { type: 'boolean' }, wires: { type: 'boolean' }, parts: { type: 'boolean' } })
  if ([values.json, values.wires, values.parts].filter(Boolean).length > 1) {
    throw new UnusableInput('voltaris build: one of --json, --wires and --parts at a time.')
  }
  const { wires, partsList, findings } = evaluate(plan, shippedCatalogue)
  const here = findings.filter(finding => finding.stages.includes('build'))
  if (values.json) console.log(JSON.stringify({ wires, partsList, findings: here }, null, 2))
  else if (values.wires) process.stdout.write(wiresAsCsv(wires))
  else if (values.parts) process.stdout.write(partsAsCsv(partsList))
  else {
    process.stdout.write(buildAsMarkdown(plan.name, wires, partsList))
    for (const { severity, code, title } of here) console.log(`${severity}  ${code}  ${title}`)
  }
  return here.some(isOpenStop) ? 1 : 0
}
