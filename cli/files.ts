import { mkdirSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { shippedCatalogue } from '../core/catalogue'
import { evaluateFacts } from '../core/evaluate'
import { gatherFacts } from '../core/facts/gather'
import { hostFilesOf, nameInBundle } from '../core/host/bundle'
import type { After } from '../core/host/types'
import { readArguments } from './input'

const inWords = (after: After) => {
  if (after.is === 'reload') return `then: ${after.command}`
  if (after.is === 'first start') return 'read at the very first start only'
  return after.is === 'restart' ? 'read at a restart' : 'counts from the next login'
}

/** Prints or writes every small file of a plan; 1 when one of them has a stop. */
export function files(args: string[]): number {
  const { plan, values } = readArguments(args, { json: { type: 'boolean' }, output: { type: 'string', short: 'o' } })
  const facts = gatherFacts(plan, shippedCatalogue)
  const report = evaluateFacts(facts)
  const made = hostFilesOf(facts, report.expected)
  if (values.output !== undefined) {
    const put = (name: string, text: string) => {
      const path = join(values.output!, name)
      mkdirSync(dirname(path), { recursive: true })
      writeFileSync(path, text)
    }
    for (const file of made.files) put(nameInBundle(file), file.text)
    if (made.script) put('apply.sh', made.script)
  }
  if (values.json) console.log(JSON.stringify(made, null, 2))
  else {
    if (!made.files.length) console.log('Nothing is said of the board yet: see "host" in docs/plan-format.md.')
    for (const file of made.files) {
      console.log(`# ${file.path}  (${file.owner}, ${file.mode}; `
        + `${inWords(file.after)})${file.collides ? '  kept as it lies there' : ''}`)
      if (file.needs) console.log(`# needs: ${file.needs}`)
      if (file.secret) console.log(`# secret: ${file.secret}`)
      if (values.output === undefined) console.log(file.text)
    }
    for (const { what, opens } of made.switchedOn) console.log(`${what} is on: ${opens}`)
  }
  const stops = report.findings.filter(({ code, severity }) => code.startsWith('host.') && severity === 'stop')
  for (const { title, sentence } of stops) console.error(`stop: ${title}. ${sentence}`)
  return stops.length ? 1 : 0
}
