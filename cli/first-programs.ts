/** `voltaris first-programs PLAN`: small programs for the parts of a plan. */
import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { benchOf } from '../core/diagnosis/table'
import { LANGUAGES, smallProgramsOf } from '../core/first-programs'
import { shippedCatalogue } from '../core/catalogue'
import { gatherFacts } from '../core/facts/gather'
import { readArguments, UnusableInput } from './input'

/** Lists, prints or writes the programs asked for; 1 when there is none of that kind. */
export function firstPrograms(args: string[]): number {
  const { plan, values } = readArguments(args, {
    part: { type: 'string' }, language: { type: 'string' }, json: { type: 'boolean' },
    output: { type: 'string', short: 'o' },
  })
  const { part, language } = values
  if (language !== undefined && !Object.hasOwn(LANGUAGES, language)) {
    throw new UnusableInput(`voltaris first-programs: --language takes one of ${Object.keys(LANGUAGES).join(', ')}.`)
  }
  if (part !== undefined && !plan.parts.some(({ id }) => id === part)) {
    const has = plan.parts.map(({ id }) => id).join(', ') || 'none'
    throw new UnusableInput(`voltaris first-programs: the plan has no part "${part}"; it has ${has}.`)
  }
  const facts = gatherFacts(plan, shippedCatalogue)
  if (!facts.board) throw new UnusableInput('voltaris first-programs: the plan has no board: choose one.')
  const { programs, without } = smallProgramsOf(benchOf(facts))
  const chosen = programs.filter(entry => (part === undefined || entry.partId === part)
    && (language === undefined || entry.language === language))
  const silent = without.filter(({ partId }) => part === undefined || partId === part)
  if (values.output !== undefined) {
    mkdirSync(values.output, { recursive: true })
    for (const { file, text } of chosen) writeFileSync(join(values.output, file), text)
  }
  if (values.json) console.log(JSON.stringify({ programs: chosen, without: silent }, null, 2))
  else {
    for (const { file, title, start, see, cautions } of chosen) {
      console.log(`${file}: ${title}`)
      for (const line of start) console.log(`  $ ${line}`)
      for (const line of [...see, ...cautions.map(text => `Take care: ${text}`)]) console.log(`  ${line}`)
    }
    for (const { name, why } of silent) console.log(`${name}: none. ${why}`)
  }
  return chosen.length ? 0 : 1
}
