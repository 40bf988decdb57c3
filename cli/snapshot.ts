/**
 * The command as a snapshot of a Node.js that has it loaded already: it starts in a third of the time. Built by
 * `scripts/command.mjs`, started by `bin/voltaris`.
 */
import { startupSnapshot } from 'node:v8'
import { shippedCatalogue } from '../core/catalogue'
import { evaluate } from '../core/evaluate'
import { readPlan } from '../core/plan/read'
import { demoPlans } from '../demo'
import { run } from './main'

// What has run once lies in the snapshot compiled.
for (const plan of demoPlans) {
  const read = readPlan(JSON.parse(JSON.stringify(plan)))
  if (read.ok) evaluate(read.plan, shippedCatalogue)
}

startupSnapshot.setDeserializeMainFunction(() => run(process.argv.slice(1)))
