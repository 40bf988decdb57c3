/**
 * gpiodetect, gpioinfo, gpioget, gpioset and gpiomon of libgpiod, in the manner of its major versions 1 and 2.
 * Published: the man pages of both; version 1 is held against Debian's own programs, version 2 is from memory.
 */
import { shortName } from '../../boot/rehearse/kernel'
import type { LineEvent, Machine } from '../machine'
import { chipNamed, chipNumberOf, lineKeyOf, offsetOf, type SimulatedChip } from '../chips'
import { optionsOf, type Command, type Printed } from './types'

/** The chip that has the header's lines. */
const CHIP = 'gpiochip0'

/** Who has a line: a driver of the kernel, by the node that asked for it. */
export const lineConsumer = ({ rehearsal }: Machine, line: number): string | null => {
  const claim = rehearsal.claims.find(entry => entry.line === line && entry.as !== 'pins' && !entry.clash)
  return claim ? shortName(claim.node).split('/').at(-1)! : null
}

/** What a tool says it was doing when it failed, version 1. */
const DOING: Readonly<Record<string, string>> = {
  gpioget: 'error reading GPIO values', gpioset: 'error setting the GPIO line values',
  gpiomon: 'error waiting for events',
}
const failed = (tool: string, why: string): Printed => ({ err: `${tool}: ${DOING[tool]}: ${why}\n`, status: 1 })
const noChip = (tool: string, name: string, version: 1 | 2): Printed => {
  if (version === 2) return { err: `${tool}: cannot find GPIO chip character device '${name}'\n`, status: 1 }
  return tool === 'gpioinfo'
    ? { err: `gpioinfo: looking up chip ${name}: No such file or directory\n`, status: 1 }
    : failed(tool, 'No such file or directory')
}

export const gpiodetect: Command = ({ machine, args }) => args.some(arg => /^(-v|--version)$/.test(arg))
  ? { out: `gpiodetect (libgpiod) v${machine.lineTools === 1 ? '1.6.3' : '2.2'}\n` }
  : { out: machine.lineChips.map(({ name, label, count }) => `${name} [${label}] (${count} lines)\n`).join('') }

/** `in` and `out` as the kernel has them: a driver's line is what the driver made of it. */
const isOutput = (machine: Machine, line: number) => machine.outputs.has(line)
  || machine.rehearsal.claims.some(claim => claim.line === line && claim.direction === 'out' && !claim.clash)

/** Fields as version 1 pads them: once one is too long, those after it are not padded any more. */
function padded(fields: readonly (readonly [string, number])[]): string {
  let isOver = false
  return fields.map(([text, width]) => {
    const shown = isOver ? text : text.padStart(width)
    isOver ||= text.length > width
    return shown
  }).join(' ')
}

export const gpioinfo: Command = ({ machine, args }) => {
  const { flags, rest } = optionsOf(args, ['c', 'chip'])
  const asked = machine.lineTools === 1 ? rest[0] : flags.get('c') ?? flags.get('chip')
  const named = asked === undefined ? null : chipNamed(machine, asked)
  if (asked !== undefined && !named) return noChip('gpioinfo', asked, machine.lineTools)
  const only = machine.lineTools === 2 && rest.length ? new Set(rest.map(Number)) : null
  return { out: (named ? [named] : machine.lineChips).map(chip => chipInfo(machine, chip, only)).join('') }
}

function chipInfo(machine: Machine, chip: SimulatedChip, only: ReadonlySet<number> | null): string {
  const rows = Array.from({ length: chip.count }, (_, offset) => offset).filter(offset => !only || only.has(offset))
    .map((offset) => {
      const line = lineKeyOf(chip, offset)
      const consumer = lineConsumer(machine, line)
      const direction = isOutput(machine, line) ? 'output' : 'input'
      if (machine.lineTools === 1) {
        return `\tline ${String(offset).padStart(3)}: ${padded([
          ['unnamed', 12], [consumer ? `"${consumer}"` : 'unused', 12], [direction, 7], ['active-high', 12],
        ])} ${consumer ? '[used]' : ''}`
      }
      return '\tline '
        + `${String(offset).padStart(3)}:\t${'unnamed'.padEnd(16)}\t${direction}${consumer ? ` consumer="${consumer}"` : ''}`
    })
  return `${chip.name} - ${chip.count} lines:\n${rows.join('\n')}\n`
}

/** Chip and lines of a command in either manner, with the rest of its words; or what it says. */
function linesOf(tool: string, machine: Machine, args: readonly string[],
): { words: string[], flags: Map<string, string>, chip: SimulatedChip } | Printed {
  const two = machine.lineTools === 2
  const { flags, rest } = optionsOf(args, two
    ? ['c', 'chip', 'n', 'num-events', 'b', 'bias', 'p', 't', 'e', 'edges']
    : ['n', 'num-events', 'B', 'bias', 'm', 'mode', 's', 'u', 'F'])
  const name = two ? flags.get('c') ?? flags.get('chip') : rest.shift()
  if (two && name === undefined) return { err: `${tool}: the lines have no names here: say the chip, "${tool} -c ${CHIP} …"\n`, status: 1 }
  if (name === undefined) return { err: `${tool}: gpiochip must be specified\n`, status: 1 }
  const chip = chipNamed(machine, name)
  if (!chip) return noChip(tool, name, machine.lineTools)
  if (!rest.length) {
    const wanted = tool === 'gpioset' ? 'offset to value mapping' : 'offset'
    return { err: `${tool}: at least one GPIO line ${wanted} must be specified
`, status: 1 }
  }
  for (const word of rest) {
    const offset = /^\d+/.exec(word)?.[0]
    if (offset === undefined) return { err: `${tool}: invalid GPIO offset: ${word}\n`, status: 1 }
    if (Number(offset) >= chip.count) return failed(tool, 'Invalid argument')
    if (lineConsumer(machine, lineKeyOf(chip, Number(offset))) !== null) {
      return two
        ? { err: `${tool}: unable to request lines: Device or resource busy\n`, status: 1 }
        : failed(tool, 'Device or resource busy')
    }
  }
  return { words: rest, flags, chip }
}

const BIAS: Readonly<Record<string, 'up' | 'down' | 'none'>> = {
  'pull-up': 'up', 'pull-down': 'down', 'disable': 'none', 'disabled': 'none',
}
/** A line is let go, and its inner pull set where one was asked for. */
function asInput(machine: Machine, line: number, flags: ReadonlyMap<string, string>): void {
  const bias = BIAS[flags.get('B') ?? flags.get('bias') ?? flags.get('b') ?? '']
  machine.outputs.delete(line)
  if (bias) machine.bias.set(line, bias)
}

export const gpioget: Command = ({ machine, args }) => {
  const given = linesOf('gpioget', machine, args)
  if (!('words' in given)) return given
  const low = given.flags.has('l') || given.flags.has('active-low')
  const values = given.words.map((word) => {
    const line = lineKeyOf(given.chip, Number(word))
    asInput(machine, line, given.flags)
    return (machine.level(line) === 1) !== low ? 1 : 0
  })
  machine.pass(0.02)
  return { out: machine.lineTools === 1
    ? `${values.join(' ')}\n`
    : `${given.words.map((word, i) => `"${word}"=${values[i] ? 'active' : 'inactive'}`).join(' ')}\n` }
}

export const gpioset: Command = ({ machine, args }) => {
  const given = linesOf('gpioset', machine, args)
  if (!('words' in given)) return given
  const settings = given.words.map(word => /^(\d+)=(0|1|on|off|active|inactive)$/.exec(word))
  const wrong = settings.findIndex(setting => setting === null)
  if (wrong >= 0) return { err: `gpioset: invalid offset<->value mapping: ${given.words[wrong]}\n`, status: 1 }
  for (const setting of settings) machine.setLine(lineKeyOf(given.chip, Number(setting![1])),
    /^(1|on|active)$/.test(setting![2]!) ? 1 : 0)
  machine.pass(0.02)
  // Toggled after no time: it sets them and ends.
  return machine.lineTools === 1 || given.flags.get('t') === '0'
    ? {}
    : { out: '(it holds its lines until it is stopped, Ctrl+C; here it runs on in the background)\n' }
}

/** Watches lines until the next command; what changes meanwhile is told with it. */
export const gpiomon: Command = ({ machine, args }) => {
  const given = linesOf('gpiomon', machine, args)
  if (!('words' in given)) return given
  const lines = given.words.map(word => lineKeyOf(given.chip, Number(word)))
  for (const line of lines) asInput(machine, line, given.flags)
  machine.watching = new Map(lines.map(line => [line, machine.level(line)]))
  return { out: '(it watches: press or move something; the next command stops it, as Ctrl+C does)\n' }
}

const seconds = (atS: number) => atS.toFixed(9)

/** An event as the watching program prints it. */
export const eventText = ({ line, rising, atS }: LineEvent, version: 1 | 2): string => version === 1
  ? `event:  ${rising ? 'RISING EDGE' : 'FALLING EDGE'} offset: ${offsetOf(line)} timestamp: [${seconds(atS).padStart(18)}]\n`
  : `${seconds(atS)}\t${rising ? 'rising' : 'falling'}\tgpiochip${chipNumberOf(line)} ${offsetOf(line)}\n`
