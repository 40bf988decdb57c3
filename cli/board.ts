/**
 * `bin/voltaris board PLAN`: the simulated board of a plan at a prompt, or what a script of lines makes it print. A
 * program of its own: its shell comes from a library that a snapshot cannot hold.
 */
import { createInterface } from 'node:readline/promises'
import { modelOf } from '../core/diagnosis/table'
import type { Change } from '../core/diagnosis/types'
import { Session, type Shown } from '../core/simulated/session'
import { shippedCatalogue } from '../core/catalogue'
import { DeviceTreeError } from '../core/devicetree/types'
import { gatherFacts } from '../core/facts/gather'
import type { Facts } from '../core/facts/types'
import { readArguments, UnusableInput } from './input'

/** The changes of the faults named. Throws `UnusableInput` for a fault that the plan does not have. */
function changesOf(facts: Facts, names: readonly string[]): Change[] {
  if (!names.length) return []
  const { faults } = modelOf(facts).table
  return names.flatMap((name) => {
    const fault = faults.find(({ id }) => id === name)
    if (!fault) throw new UnusableInput(`voltaris board: the plan has no fault "${name}". --faults lists them.`)
    return fault.changes
  })
}

const write = ({ out, err }: Shown) => {
  process.stdout.write(out.replaceAll('\0', ''))
  process.stderr.write(err.replaceAll('\0', ''))
}

/** Reads lines until the end of the input. The exit code is that of the last line. */
export async function board(args: string[]): Promise<number> {
  const { plan, values } = readArguments(args, {
    fault: { type: 'string', multiple: true }, faults: { type: 'boolean' }, run: { type: 'string', multiple: true },
    tools: { type: 'string' },
  })
  const facts = gatherFacts(plan, shippedCatalogue)
  if (!facts.board) throw new UnusableInput('voltaris board: the plan has no board: choose one.')
  if (values.tools !== undefined && !/^[12]$/.test(values.tools)) {
    throw new UnusableInput('voltaris board: --tools takes 1 or 2, the major version of libgpiod on the image.')
  }
  if (values.faults) {
    for (const { id, title } of modelOf(facts).table.faults) console.log(`${id}\t${title}`)
    return 0
  }
  const session = new Session(facts,
    { changes: changesOf(facts, values.fault ?? []), lineTools: values.tools === '2' ? 2 : 1,
      columns: process.stdout.columns ?? 80 })
  let status = 0
  const take = async (line: string) => {
    const shown = await session.run(line)
    write(shown)
    status = shown.status
  }
  if (values.run) {
    for (const line of values.run) await take(line)
    return status
  }
  const isTyped = process.stdin.isTTY
  if (isTyped) console.log(`${facts.board.name}. lamps: ${session.lamps}. ":help" lists what hands can do; Ctrl+D ends.`)
  const lines = createInterface({ input: process.stdin,
    ...isTyped && { output: process.stdout, prompt: session.prompt } })
  if (isTyped) lines.prompt()
  for await (const line of lines) {
    if (/^\s*(exit|logout)\s*$/.test(line)) break
    await take(line)
    lines.setPrompt(session.prompt)
    if (isTyped) lines.prompt()
  }
  return status
}

/** Runs the command and sets the exit code. */
export async function runBoard(args: string[]): Promise<void> {
  try {
    process.exitCode = await board(args)
  }
  catch (error) {
    if (!(error instanceof UnusableInput) && !(error instanceof DeviceTreeError)) throw error
    console.error(error instanceof DeviceTreeError
      ? `voltaris board: the plan's base tree cannot be read: ${error.message}`
      : error.message)
    process.exitCode = 2
  }
}
