import { shippedCatalogue } from '../core/catalogue'
import { stepsOf } from '../core/construction/from-facts'
import { bodiesAsCsv, buildAsMarkdown, cutsAsCsv, labelsAsCsv, partsAsCsv, stepsAsCsv,
  wiresAsCsv } from '../core/construction/table'
import { evaluateFacts } from '../core/evaluate'
import { gatherFacts } from '../core/facts/gather'
import { isOpenStop } from '../core/findings/set-aside'
import { bodiesOf } from '../core/mechanics/from-facts'
import { readArguments, UnusableInput } from './input'

/** Prints parts list, steps in their order and wires; 1 when something stops the building. */
export function build(args: string[]): number {
  const { plan, values } = readArguments(args, {
    json: { type: 'boolean' }, steps: { type: 'boolean' }, wires: { type: 'boolean' },
    parts: { type: 'boolean' }, cuts: { type: 'boolean' }, labels: { type: 'boolean' }, bodies: { type: 'boolean' },
  })
  if (Object.values(values).filter(Boolean).length > 1) {
    throw new UnusableInput('voltaris build: one of --json, --steps, --wires, --cuts, --labels, --bodies and --parts '
      + 'at a time.')
  }
  const facts = gatherFacts(plan, shippedCatalogue)
  const { wires, partsList, findings } = evaluateFacts(facts)
  const build = stepsOf(facts)
  const here = findings.filter(finding => finding.stages.includes('build'))
  if (values.json) console.log(JSON.stringify({ wires, partsList, ...build, bodies: bodiesOf(facts).bodies,
    findings: here }, null, 2))
  else if (values.wires) process.stdout.write(wiresAsCsv(wires))
  else if (values.steps) process.stdout.write(stepsAsCsv(build, wires))
  else if (values.cuts) process.stdout.write(cutsAsCsv(wires))
  else if (values.labels) process.stdout.write(labelsAsCsv(wires))
  else if (values.bodies) process.stdout.write(bodiesAsCsv(bodiesOf(facts).bodies))
  else if (values.parts) process.stdout.write(partsAsCsv(partsList))
  else {
    process.stdout.write(buildAsMarkdown(plan.name, wires, partsList, build))
    for (const { severity, code, title } of here) console.log(`${severity}  ${code}  ${title}`)
  }
  return here.some(isOpenStop) ? 1 : 0
}
