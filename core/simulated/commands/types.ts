/** What a command of the simulated board is: from its words to what it prints. */
import type { Machine } from '../machine'

export interface Printed { out?: string, err?: string, status?: number }

export interface Given {
  machine: Machine
  args: string[]
  /** What comes by the pipe. */
  input: string
}

export type Command = (given: Given) => Printed

/** Splits `-y`, `-n 3`, `--num-events=3` off. Options named in `withValue` take the next word. */
export function optionsOf(args: readonly string[],
  withValue: readonly string[] = []): { flags: Map<string, string>, rest: string[] } {
  const flags = new Map<string, string>()
  const rest: string[] = []
  for (let i = 0; i < args.length; i++) {
    const arg = args[i]!
    const long = /^--([\w-]+)(?:=(.*))?$/.exec(arg)
    const short = /^-([A-Za-z])(.*)$/.exec(arg)
    if (arg === '--') {
      rest.push(...args.slice(i + 1))
      break
    }
    if (long) flags.set(long[1]!, long[2] ?? (withValue.includes(long[1]!) ? args[++i] ?? '' : ''))
    else if (short && withValue.includes(short[1]!)) flags.set(short[1]!, short[2] || (args[++i] ?? ''))
    else if (short && !/^-\d/.test(arg)) for (const letter of arg.slice(1)) flags.set(letter, '')
    else rest.push(arg)
  }
  return { flags, rest }
}
