/** How the kernel knows a part: its node in the device tree. */
import { flag, list, map, object, number, oneOf, optional, text, type Of } from '../../shape/shape'
import { origin, rail } from './common'
import { terminalId } from './terminal'

const word = text({ pattern: /^[A-Za-z0-9,._+?#-]{1,80}$/, called: 'a name of the device tree' })
/** Source of properties, a line each. */
const source = list(text({ max: 300 }), { max: 100 })
const pull = optional(oneOf('up', 'down'))

/** A node below the part's own, e.g. one key of several. With a signal it takes that signal's line in `property`. */
const kernelChild = object({
  name: text({ pattern: /^[A-Za-z0-9,._+@-]{1,60}$/, called: 'a name of a node' }),
  signal: optional(text({ max: 36 })),
  property: optional(word),
  low: optional(flag),
  pull,
  properties: source,
})

/** Start commands of a screen whose driver is told by a file of them, `/lib/firmware/NAME.bin`. */
const startFile = object({
  /** A command with its parameters in pairs of hexadecimal digits, or `wait` with milliseconds. */
  commands: list(text({
    pattern: /^(wait \d{1,3}|[0-9A-F]{2}( [0-9A-F]{2}){0,64})$/, called: 'bytes as "CF 00 C1", or "wait 100"',
  }), { min: 1, max: 200 }),
  /** Rotation in degrees → byte of the address mode, command 0x36. */
  addressModes: map(text({ pattern: /^[0-9A-F]{2}$/, called: 'a byte as "48"' })),
  origin,
})

export const kernelBinding = object({
  node: word,
  compatible: text({ pattern: /^(?:[A-Za-z0-9,._+?#-]{1,80}|\{start-file\})$/, called: 'a name of the device tree' }),
  /** A second `compatible`, of the kind it belongs to, that its driver is found by. */
  generic: optional(word),
  on: oneOf('i2c', 'spi', 'lines'),
  origin,
  /** Properties that name a line each. */
  gpios: optional(list(object({ property: word, signal: terminalId, low: optional(flag), pull }), { max: 64 })),
  /** One property that names several lines. */
  gpioList: optional(object({ property: word, signals: list(terminalId, { max: 64 }), pull })),
  /** Rows and columns of a matrix, by the signals that are repeated. */
  gpioRows: optional(object({ rows: terminalId, columns: terminalId })),
  /** Edge or level by its number: 1 rising, 2 falling, 4 high, 8 low. */
  interrupt: optional(object({
    signal: terminalId, type: oneOf(1, 2, 3, 4, 8), pull,
    /** Properties instead, while the line is not wired: the driver then asks from time to time. */
    otherwise: optional(source),
  })),
  /** Signals without which the driver has nothing to do: no node is made while one has no place. */
  must: optional(list(terminalId, { max: 16 })),
  /** Its unit address is the line of this signal, where the binding wants one. */
  unit: optional(terminalId),
  /** It cools the processor: switched on and off by the plan's fan threshold. */
  cools: optional(flag),
  /** Supply property → rail. */
  supplies: optional(map(rail, word)),
  /** A crystal of its own. */
  clock: optional(object({ hz: number({ above: 0, max: 1e9 }) })),
  /** Source of further properties, a line each; `{option:id}` is filled in. */
  properties: optional(source),
  children: optional(list(kernelChild, { max: 64 })),
  startFile: optional(startFile),
})

export interface StartFileSource extends Of<typeof startFile> {}
export interface KernelChild extends Of<typeof kernelChild> {}
export interface KernelBinding extends Of<typeof kernelBinding> {}
