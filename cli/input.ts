/** Arguments and plan files. */
import { readFileSync } from 'node:fs'
import { parseArgs, type ParseArgsConfig } from 'node:util'
import { readPlanText } from '../core/plan/read'
import type { Plan } from '../core/plan/types'

/** What the person gave cannot be used; the message says what, where and what to do. */
export class UnusableInput extends Error {}

/** Options and what stands beside them. Throws `UnusableInput` for options that are none. */
export function parsed<T extends NonNullable<ParseArgsConfig['options']>>(args: string[], options: T) {
  try {
    return parseArgs({ args, options, allowPositionals: true })
  }
  catch (error) {
    throw new UnusableInput(`voltaris: ${(error as Error).message}`)
  }
}

/** One plan file and the given options. */
export function readArguments<T extends NonNullable<ParseArgsConfig['options']>>(args: string[], options: T) {
  const { values, positionals: [file, ...more] } = parsed(args, options)
  if (!file || more.length) throw new UnusableInput('voltaris: give one plan file, or - for standard input.')
  return { plan: readPlanFile(file), values }
}

/** The plan in a file. Throws `UnusableInput` with the file, the path in it and the reason. */
export function readPlanFile(file: string): Plan {
  let text: string
  try {
    text = readFileSync(file === '-' ? 0 : file, 'utf8')
  }
  catch (error) {
    throw new UnusableInput(`voltaris: ${file} cannot be read: ${(error as Error).message}`)
  }
  const read = readPlanText(text)
  if (!read.ok) {
    throw new UnusableInput(read.problems.map(problem =>
      `${file}: ${problem.path ? `${problem.path}: ` : ''}${problem.message}`)
      .join('\n'))
  }
  return read.plan
}
