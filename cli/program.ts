import { readFileSync, writeFileSync } from 'node:fs'
import { shippedCatalogue } from '../core/catalogue'
import { gatherFacts } from '../core/facts/gather'
import { writePlanText } from '../core/plan/text-of'
import { programAgainst } from '../core/programs'
import { constantsOf } from '../core/programs/correct'
import { LANGUAGE_NAMES } from '../core/programs/names'
import { readProgram, type ReadAs } from '../core/programs/reading'
import { planFrom } from '../core/programs/start'
import type { Language, Numbering } from '../core/programs/types'
import { parsed, readPlanFile, UnusableInput } from './input'

const AS = { language: { type: 'string' }, numbering: { type: 'string' } } as const
const NUMBERINGS: readonly string[] = ['line', 'header', 'own'] satisfies Numbering[]

/** The text of a file. Throws `UnusableInput`. */
function textIn(file: string): string {
  try {
    return readFileSync(file === '-' ? 0 : file, 'utf8')
  }
  catch (error) {
    throw new UnusableInput(`voltaris: ${file} cannot be read: ${(error as Error).message}`)
  }
}

function readAs(name: string, { language, numbering }: { language?: string, numbering?: string }): ReadAs {
  if (language !== undefined && !Object.hasOwn(LANGUAGE_NAMES, language)) {
    throw new UnusableInput(`voltaris: --language is one of ${Object.keys(LANGUAGE_NAMES).join(', ')}.`)
  }
  if (numbering !== undefined && !NUMBERINGS.includes(numbering)) {
    throw new UnusableInput(`voltaris: --numbering is one of ${NUMBERINGS.join(', ')}.`)
  }
  return { name, ...language && { language: language as Language },
    ...numbering && { numbering: numbering as Numbering } }
}

const COUNTED: Readonly<Record<Numbering, string>> = {
  line: 'by line number', header: 'by header position', own: 'by a numbering of the library\'s own',
}

/** A program held against a plan; 1 when something in it contradicts the plan. */
export function program(args: string[]): number {
  const { values, positionals: [planFile, file, ...more] } = parsed(args, {
    ...AS, json: { type: 'boolean' }, constants: { type: 'boolean' }, output: { type: 'string', short: 'o' },
  })
  if (!planFile || !file
    || more.length) throw new UnusableInput('voltaris: give a plan file and a program, or - for one of them.')
  const facts = gatherFacts(readPlanFile(planFile), shippedCatalogue)
  const against = programAgainst(textIn(file), readAs(file, values), facts)
  const { reading, held, counts, corrections } = against
  if (values.output !== undefined) writeFileSync(values.output, against.corrected)
  if (values.json) console.log(JSON.stringify(against, null, 2))
  else if (values.constants) process.stdout.write(constantsOf(facts, reading.language, reading.numbering))
  else {
    for (const problem of reading.problems) console.log(problem)
    console.log(`${LANGUAGE_NAMES[reading.language]}, pins `
      + `${COUNTED[reading.numbering]}${reading.isUnsure ? ' (not sure)' : ''}`)
    if (!held.length && !reading.problems.length) console.log('Nothing of pins, buses, addresses and devices was '
      + 'found in it.')
    for (const { says, line } of reading.evidence.slice(0,
      3)) console.log(`  since ${line ? `line ${line}: ` : ''}${says}`)
    for (const { sighting, verdict, says, should } of held) {
      const what = `${sighting.name && sighting.name !== sighting.text ? `${sighting.name} ` : ''}${sighting.text}`
      console.log(`${file}:${sighting.line}: ${verdict}: ${what}${should === undefined ? '' : ` → ${should}`}: ${says}`)
    }
    console.log(`${counts.agrees} agree, ${counts.contradicts} contradict, ${counts.unknown} not told${
      values.output === undefined ? '' : `; ${corrections.length} put right in ${values.output}`}`)
  }
  return counts.contradicts ? 1 : 0
}

/** A plan begun from a program or a table, printed or written. */
export function begin(args: string[]): number {
  const { values, positionals: [file, ...more] } = parsed(args, {
    ...AS, board: { type: 'string' }, supply: { type: 'string' }, name: { type: 'string' },
    output: { type: 'string', short: 'o' },
  })
  if (!file || more.length) throw new UnusableInput('voltaris: give one program or table, or - for standard input.')
  const { board = '', supply } = values
  if (!shippedCatalogue.boards.has(board)) {
    throw new UnusableInput(`voltaris: --board is one of ${[...shippedCatalogue.boards.keys()].join(', ')}.`)
  }
  if (supply !== undefined && !shippedCatalogue.supplies.has(supply)) {
    throw new UnusableInput(`voltaris: --supply is one of ${[...shippedCatalogue.supplies.keys()].join(', ')}.`)
  }
  const reading = readProgram(textIn(file), readAs(file, values))
  const { plan, left } = planFrom(reading,
    { name: values.name ?? (file.split('/').at(-1) || 'Begun'), board, supply: supply ?? null },
    shippedCatalogue)
  for (const problem of reading.problems) console.error(`${file}: ${problem}`)
  for (const { line, text, why } of left) console.error(`${file}:${line}: ${text} is left out: ${why}`)
  const text = writePlanText(plan)
  if (values.output === undefined) process.stdout.write(text)
  else writeFileSync(values.output, text)
  if (!plan.parts.length && !left.length && !reading.problems.length) {
    console.error(`${file}: nothing in it could be told: there is no pin, address or device in it.`)
  }
  return plan.parts.length ? 0 : 1
}
