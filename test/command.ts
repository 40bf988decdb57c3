/** The command in the test's own process, with what it prints: a start of the program itself takes half a second. */
import { main } from '../cli/main'

export interface Printed { status: number | null, stdout: string, stderr: string }

const asText = (chunk: unknown) => typeof chunk === 'string' ? chunk : Buffer.from(chunk as Uint8Array).toString('utf8')

/** Runs the command with these arguments and gives what the program would print and end with. */
export function runCommand(args: string[]): Printed {
  const said = { stdout: '', stderr: '' }
  const kept = { log: console.log, error: console.error, write: process.stdout.write }
  console.log = (...words: unknown[]) => {
    said.stdout += `${words.join(' ')}\n`
  }
  console.error = (...words: unknown[]) => {
    said.stderr += `${words.join(' ')}\n`
  }
  process.stdout.write = (chunk: unknown) => {
    said.stdout += asText(chunk)
    return true
  }
  try {
    return { status: main(args), ...said }
  }
  finally {
    console.log = kept.log
    console.error = kept.error
    process.stdout.write = kept.write
  }
}
