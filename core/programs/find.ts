/** Goes through a program and notes each pin, bus, address, rate and device in it where it is written. */
import { CALL_SHAPES, DEVICE, SAYS, type CallShape } from './shapes'
import { positional, Resolver, type Written } from './resolve'
import type { Argument, Call, Expr, PassedOver, Program, Sighting, SightingKind } from './types'
import { functionOfBoard, isAddressName, isBaudName, isBusName, isClockName, pinNamed, pinText, wordsOf } from './words'

const MAX_LINE = 57
/** The fastest rate that the kernel names (B4000000 of termbits.h). */
const FASTEST_BAUD = 4_000_000
/** Words of calls and habits, which name nothing. */
const SAYS_NOTHING = /^(set|setup|get|pin|pins|mode|write|read|digital|analog|gpio|gpios|line|lines|output|input|open|sync|init|add|argument|k|self|this|my|the|new|config|settings|value|request|export)$/
const OUT = /(^|\.)(OUT|OUTPUT|Direction\.OUTPUT|out|high|low|ALT|PWM)$/i
const IN = /(^|\.)(IN|INPUT|INPUT_PULLUP|INPUT_PULLDOWN|in)$/i

export class Finder {
  readonly sightings: Sighting[] = []
  private readonly resolver: Resolver
  private readonly resolved = new Set<number>()
  private readonly lines: number[]

  constructor(private readonly text: string, private readonly program: Program) {
    this.resolver = new Resolver(program)
    this.lines = lineStarts(text)
  }

  find(): { sightings: Sighting[], passedOver: PassedOver[] } {
    for (const call of this.program.calls) this.readCall(call)
    for (const definition of this.program.definitions) this.readMember(definition.name, definition.value,
      definition.scope)
    const passedOver = this.readNamed()
    this.readPaths()
    const sightings = this.sightings.filter((entry, i) =>
      this.sightings.findIndex(other => other.from === entry.from && other.kind === entry.kind) === i)
      .sort((a, b) => a.from - b.from)
    return { sightings, passedOver: [...passedOver, ...this.deadOnes(sightings)] }
  }

  private lineOf(offset: number): number {
    return lineNumberAt(this.lines, offset)
  }

  private readCall(call: Call): void {
    const own = call.path.at(-1) ?? ''
    // `import Button as Btn`: what it is, is said by the name that it has at home.
    const name = call.path.length === 1 ? this.program.aliases.get(own)?.split('.').at(-1) ?? own : own
    const isImported = name !== own && !CALL_SHAPES.some(shape => shape.name.test(own))
    if (SAYS.test(own)) return
    const on = this.onOf(call)
    for (const shape of CALL_SHAPES) {
      if (shape.name.test(isImported ? name : own) && (!shape.on || on.some(before => shape.on!.test(before)))) {
        this.readShape(shape, call)
        break
      }
    }
    this.readKeywords(call, own)
    this.readFunctions(call)
    this.readOnBus(call)
    if (own === 'ioctl') this.readControl(call)
    this.readExport(call)
    if (/^(add_argument|option|add_option)$/.test(own)) this.readOption(call)
  }

  /** What stands before the last name, with imported names, and with what a variable was made by. */
  private onOf({ path }: Call): string[] {
    const before = path.slice(0, -1)
    const first = before[0] ?? ''
    const made = this.program.calls.find(other => other.into !== undefined && other.into === before.at(-1))
    // Something made of a pin is asked by its own name: what it is told is no pin.
    if (made && /^[A-Z](?!\w*Serial)/.test(made.path.at(-1) ?? '') && CALL_SHAPES.some(({ name, args, rest }) =>
      (args[0] === 'pin' || rest === 'pin') && name.test(made.path.at(-1)!))) return ['(made of a pin)']
    const aliased = this.program.aliases.get(first)
    return [
      before.join('.'), ...aliased !== undefined ? [[aliased, ...before.slice(1)].join('.')] : [],
      ...made ? [made.path.join('.')] : [],
    ]
  }

  private readShape(shape: CallShape, call: Call): void {
    const args = positional(call.args)
    const direction = shape.direction ?? directionOf(call.args)
    const note = (kind: SightingKind, value: Expr, called?: string) => this.note(kind, value, call, {
      ...direction && { direction }, ...shape.numbering && { numbering: shape.numbering },
      by: `${call.path.join('.')}(…)`,
      ...called !== undefined && { called },
    })
    // A device or a chip that is named first moves all the rest by one.
    const told = args[0] ? this.resolver.resolve(args[0].value, call.scope) : []
    const isNamed = told.some(({ expr }) => expr.is === 'text' && /^\/dev\/|^gpiochip\d/.test(expr.value))
    const isHandle = !told.length && args[0]?.value.is === 'name' && pinText(args[0].value.path.at(-1)!) === null
      && /^[A-Z]/.test(call.path.at(-1) ?? '') && args[1] !== undefined
      && this.resolver.resolve(args[1].value, call.scope).some(({ expr }) => expr.is === 'number')
    const isShifted = (isNamed || isHandle) && /^(pin|spi-bus)$/.test(shape.args[0] ?? '')
    for (const [at, kind] of Object.entries(shape.args)) {
      const arg = args[Number(at) + (isShifted ? 1 : 0)]
      // An object says by its keys which of its values is the pin.
      const said = kind === 'pin' && arg?.value.is === 'map'
        ? arg.value.entries.filter(({ key }) => key.is === 'text' && pinNamed(key.value) === 2)
        : []
      if (said.length) for (const { value } of said) note('pin', value)
      else if (arg && !(isShifted && kind !== 'pin')) note(kind!, arg.value)
    }
    if (shape.rest) for (const arg of args) note(shape.rest, arg.value)
    for (const { name, value } of call.args) {
      const kind = name !== undefined ? shape.keys?.[name] : undefined
      if (!kind) continue
      if (value.is === 'map' && kind === 'pin') for (const { key } of value.entries) note(kind, key)
      else note(kind, value, name)
    }
    const map = args.find(({ value }) => value.is === 'map')
    if (shape.keys?.[0] && map?.value.is === 'map') for (const { key } of map.value.entries) note('pin', key)
    if (shape.args[0] === 'pin' && call.args.some(arg => arg.name === 'pin')) {
      note('pin', call.args.find(arg => arg.name === 'pin')!.value, call.into ?? 'pin')
    }
  }

  /**
   * `display(dc=25, rst=27, address=0x3c)`: arguments that say by their name what they are, fields of an object
   * handed over too.
   */
  private readKeywords(call: Call, callee: string): void {
    const fields = call.args.flatMap((arg): Argument[] => {
      if (arg.name !== undefined) return [arg]
      const maps = arg.value.is === 'map'
        || (arg.value.is === 'name' && /^[A-Z]|init|setup|display|screen/.test(callee))
        ? this.resolver.expressionsOf(arg.value, call.scope)
            .flatMap(({ expr }) => expr.is === 'map' ? expr.entries : [])
        : []
      return maps.length
        ? maps.map(({ key,
            value }) => ({ name: key.is === 'text' ? key.value : key.is === 'name' ? key.path.at(-1)! : '', value }))
        : [arg]
    })
    for (const { name: said, label, value } of fields) {
      const name = said ?? label
      if (!name) continue
      const kind = kindByName(name, /^[A-Z]|display|screen|device|driver|sensor|init|create|setup/.test(callee))
      if (kind) this.note(kind, value, call, { by: `${name}=`, called: name })
    }
  }

  /** `Sensor("/dev/i2c-1", 0x76)`: something on a bus that is named by its path. */
  private readOnBus(call: Call): void {
    const [bus, address] = positional(call.args)
    const isBus = bus && this.resolver.resolve(bus.value, call.scope)
      .some(({ expr }) => expr.is === 'text' && /^\/dev\/i2c-\d+$/.test(expr.value))
    if (isBus && address?.value.is === 'number') this.note('address', address.value, call,
      { by: `${call.path.join('.')}(…)` })
  }

  /** `SPI(board.SCK, MOSI=board.MOSI)`: pins by what the header has there. */
  private readFunctions(call: Call): void {
    for (const { value } of call.args) {
      const line = value.is === 'name' ? functionOfBoard(value.path) : null
      if (value.is !== 'name' || line === null) continue
      const last = value.path.at(-1)!
      this.add('pin', line, { from: value.to - last.length, to: value.to }, {
        by: value.path.join('.'), numbering: 'line', names: [last, ...call.into !== undefined ? [call.into] : []],
      }, last)
    }
  }

  /** `writeFileSync('/sys/class/gpio/export', line)` */
  private readExport(call: Call): void {
    const [path, line] = positional(call.args)
    const isExport = path && line && this.resolver.resolve(path.value, call.scope).some(({ expr }) =>
      expr.is === 'text' && /\/gpio\/(un)?export$/.test(expr.value))
    if (isExport) this.note('pin', line.value, call, { by: '/sys/class/gpio/export', numbering: 'line' })
  }

  private readControl(call: Call): void {
    const [, what, value] = positional(call.args)
    if (what?.value.is === 'name' && /I2C_(SLAVE|RDWR)/.test(what.value.path.at(-1)!) && value) this.note(
      'address', value.value, call, { by: 'ioctl(I2C_SLAVE)' },
    )
  }

  /** `parser.add_argument('--pin', default=17)` */
  private readOption(call: Call): void {
    const name = positional(call.args).map(({ value }) => value)
      .find(value => value.is === 'text' && value.value.startsWith('-'))
    const value = call.args.find(arg => arg.name === 'default')?.value
    const kind = name?.is === 'text' ? kindByName(name.value.replace(/^-+/, '').replaceAll('-', '_'), true) : null
    if (kind && value && name?.is === 'text') this.note(kind, value, call, { by: name.value, called: name.value })
  }

  /** `spi.max_speed_hz = 8000000`, `serial.baudrate = 9600` */
  private readMember(name: string, value: Expr, scope: Call['scope'] | null): void {
    if (!name.includes('.')) return
    const baud = isBaudName(name) ? 'baud' : null
    const kind = isClockName(name.split('.').at(-1)!) ? 'clock' : baud
    if (kind) this.note(kind, value,
      { scope: scope ?? undefined, path: [], args: [], from: value.from, to: value.to } as unknown as Call, {
        by: `${name} =`, called: name,
      })
  }

  private note(
    kind: SightingKind, value: Expr, call: Call,
    more: { by: string, direction?: 'in' | 'out', numbering?: 'line', called?: string },
  ): void {
    const last = value.is === 'name' ? value.path.at(-1)! : ''
    const named = kind === 'pin' ? pinText(last) : null
    if (named) {
      const from = value.to - last.length + named.digits
      const names = call.into ? [call.into] : []
      return this.add(kind, named.value, { from, to: value.to }, { ...more, numbering: named.numbering, names }, last)
    }
    // `B57600`: a rate by the kernel's name for it.
    const rate = kind === 'baud' ? /^B(\d{2,7})$/.exec(last) : null
    if (rate) return this.add(kind, Number(rate[1]), { from: value.to - rate[1]!.length, to: value.to },
      { ...more, names: [] }, last)
    for (const written of this.resolver.resolve(value, call.scope)) this.addWritten(kind, written, call, more)
  }

  private addWritten(
    kind: SightingKind, { expr, names }: Written, call: Call,
    { by, direction, numbering, called }: { by: string, direction?: 'in' | 'out', numbering?: 'line', called?: string },
  ): void {
    const holder = call.into && call.into !== 'self' ? [call.into] : []
    const all = [...called !== undefined ? [called] : [], ...[...names].reverse(), ...holder, ...call.path.slice(-1)]
    const extra = { by, ...direction && { direction }, ...numbering && { numbering }, names: all }
    if (expr.is === 'text') return this.addText(kind, expr, extra)
    let fits: boolean
    if (kind === 'pin') fits = Number.isInteger(expr.value) && expr.value >= 0 && expr.value <= MAX_LINE
    else fits = kind === 'address'
      ? Number.isInteger(expr.value) && expr.value >= 3 && expr.value <= 0x7f
      : expr.value >= 0
    // No serial port is as fast: it is the clock of a bus that is called by the other's word.
    const isClock = kind === 'baud' && expr.value > FASTEST_BAUD
    if (fits) this.add(isClock ? 'clock' : kind, expr.value, expr, extra, this.text.slice(expr.from, expr.to))
  }

  private addText(kind: SightingKind, expr: Written['expr'] & { is: 'text' }, extra: Extra): void {
    const pin = kind === 'pin'
      ? pinText(expr.value) ?? (/^\d{1,2}$/.test(expr.value)
        ? { value: Number(expr.value), numbering: undefined, digits: 0 }
        : null)
      : null
    if (pin) {
      const from = expr.from + pin.digits
      this.add('pin', pin.value, { from, to: from + String(pin.value).length }, { ...extra, ...pin.numbering
      && { numbering: pin.numbering } },
      expr.value)
    }
    else if (kind === 'address'
      && /^0x[\da-f]{1,2}$/i.test(expr.value)) this.add(kind, Number(expr.value), expr, extra, expr.value)
    else if (kind === 'baud'
      && /^\d{3,7}$/.test(expr.value)) this.add(kind, Number(expr.value), expr, extra, expr.value)
  }

  private add(
    kind: SightingKind, value: number | string, { from, to }: { from: number, to: number }, extra: Extra, text: string,
  ): void {
    this.resolved.add(from)
    const line = this.lineOf(from)
    const names = extra.names.filter(name => name && !/^\d+$/.test(name))
    const heard = new Set(names.flatMap(wordsOf).filter(word => !SAYS_NOTHING.test(word)))
    this.sightings.push({
      kind, value, text, line, from, to, name: names[0] ?? '', by: extra.by, words: [...new Set([
        ...heard, ...this.commentWords(line),
      ])], ...extra.direction && { direction: extra.direction }, ...extra.numbering && { numbering: extra.numbering },
    })
  }

  private commentWords(line: number): string[] {
    return this.program.comments.filter(comment => this.lineOf(comment.from) === line)
      .flatMap(({ text }) => wordsOf(text)).slice(0, 12)
  }

  /**
   * Constants that no known call takes, by what they are called. Those that nothing in the program uses are told apart.
   */
  private readNamed(): PassedOver[] {
    const passed: PassedOver[] = []
    const uses = this.sightings.some(({ kind }) => kind === 'pin' || kind === 'address')
    const isHeader = !this.program.calls.length
    for (const { name, value, scope, each } of this.program.definitions) {
      if (each !== undefined) continue
      if (value.is === 'map'
        && /(^|\.)(exports|config|settings|pins|wiring|gpio)$/i.test(name)) this.readConfiguration(value, [name], scope)
      const last = name.split('.').at(-1)!
      const kind = kindByName(last, true)
      if (!kind) continue
      const sure = kind !== 'pin' || pinNamed(last) === 2
      const isConfiguration = scope?.is === 'class' && /pins|wiring|config|gpio/i.test(scope.name)
      if (!sure && !isConfiguration && !/^(k[A-Z]|[A-Z][A-Z\d_]*$)/.test(last)) continue
      const isUsed = isHeader || (this.program.mentions.get(last) ?? 0) > 1 || scope?.is === 'class'
      for (const written of this.resolver.resolve(value, scope, [last])) {
        if (this.resolved.has(written.expr.from)) continue
        // One number under a name of many is how many there are.
        if (!sure && value.is === 'number' && /s$/i.test(last) && !/ss$/i.test(last)) continue
        if (isUsed || !uses) this.addWritten(
          kind, written, { path: [], args: [], scope: scope!, from: 0, to: 0 }, { by: `the name ${last}` },
        )
        else passed.push({
          from: written.expr.from, to: written.expr.to, line: this.lineOf(written.expr.from),
          text: this.text.slice(written.expr.from, written.expr.to), why: `${last} is never used`,
        })
      }
    }
    return passed
  }

  /** An object that holds a configuration: a value is what its key, and those around it, say. */
  private readConfiguration({ entries }: Expr & { is: 'map' }, keys: readonly string[],
    scope: Call['scope'] | null): void {
    for (const { key, value } of entries) {
      let own: string
      if (key.is === 'text') own = key.value
      else own = key.is === 'name' ? key.path.at(-1)! : ''
      if (value.is === 'map') this.readConfiguration(value, [...keys, own], scope)
      const kind = kindByKeys(own, keys)
      if (!kind || value.is === 'map') continue
      for (const written of this.resolver.resolve(value, scope, [own])) {
        if (!this.resolved.has(written.expr.from)) this.addWritten(
          kind, written, { path: [], args: [], scope: scope!, from: 0, to: 0 }, { by: `the key ${own}` },
        )
      }
    }
  }

  /** Device paths, where a text holds nothing else; not in what is only printed. */
  private readPaths(): void {
    const printed = this.program.calls.filter(call => SAYS.test(call.path.at(-1) ?? ''))
    const seen = new Set<number>()
    const visit = (expr: Expr, names: readonly string[], scope: Call['scope'] | null): void => {
      if (expr.is === 'text' && !seen.has(expr.from)
        && !printed.some(({ from, to }) => expr.from >= from && expr.to <= to)) {
        seen.add(expr.from)
        this.addPath(expr, names)
      }
      if (expr.is === 'list') expr.items.forEach(item => visit(item, names, scope))
      if (expr.is === 'either') expr.of.forEach(item => visit(item, names, scope))
      if (expr.is === 'map') expr.entries.forEach(({ value }) => visit(value, names, scope))
      if (expr.is === 'call') expr.call.args.forEach(({ value }) => visit(value, names, scope))
    }
    for (const { name, value, scope } of this.program.definitions) visit(value, [name], scope)
    for (const { args, path, into, scope } of this.program.calls) {
      for (const { value, name } of args) visit(value,
        [...name ? [name] : [], ...into ? [into] : [], ...path.slice(-1)], scope)
    }
  }

  private addPath(expr: Expr & { is: 'text' }, names: readonly string[]): void {
    const extra = { by: 'the path', names: [...names] }
    if (DEVICE.test(expr.value)) return this.add('device', expr.value, expr, extra, expr.value)
    const line = /^\/sys\/class\/gpio\/gpio(\d+)(\/|$)/.exec(expr.value)
    if (line) {
      const from = expr.from + expr.value.indexOf(line[1]!, 20)
      this.add('pin', Number(line[1]), { from, to: from + line[1]!.length }, { ...extra, numbering: 'line' }, line[1]!)
    }
  }

  /** What would have been found in the dead parts, told by their line only. */
  private deadOnes(sightings: readonly Sighting[]): PassedOver[] {
    return this.program.dead.flatMap(({ from, to, why }): PassedOver[] => {
      const part = this.text.slice(from, to)
      return [...part.matchAll(/(?<![\w.])\d{1,2}(?![\w.])/g)].slice(0, 4)
        .map(match => ({ from: from + match.index, to: from + match.index + match[0].length,
          line: this.lineOf(from + match.index),
          text: match[0], why }))
        .filter(entry => !sightings.some(sighting => sighting.from === entry.from))
    }).slice(0, 40)
  }
}

interface Extra { by: string, names: string[], direction?: 'in' | 'out', numbering?: 'header' | 'line' }

/** What a name says that its value is. `wide` lets names of terminals be pins. */
export function kindByName(name: string, wide: boolean): SightingKind | null {
  if (isAddressName(name)) return 'address'
  if (isBaudName(name)) return 'baud'
  if (isClockName(name)) return 'clock'
  if (isBusName(name)) return 'i2c-bus'
  const pin = pinNamed(name)
  return pin === 2 || (pin === 1 && wide) ? 'pin' : null
}

/** By the key itself; by those around it where it says only which. */
export function kindByKeys(key: string, around: readonly string[]): SightingKind | null {
  const own = kindByName(key, true)
  if (/^(freq(uency)?|clock|speed)(_?hz)?$/i.test(key)
    && around.some(outer => /^(spi|i2c)\d?$/i.test(outer))) return 'clock'
  if (around.some(outer => /^spi\d?$/i.test(outer))) {
    if (own === 'i2c-bus') return 'spi-bus'
    if (/^(device|select|cs|ce)$/i.test(key)) return 'spi-select'
  }
  if (own === 'pin' && pinNamed(key) === 1
    && around.some(outer => /^(timing|timers?|limits?|colou?rs?|levels?)$/i.test(outer))) return null
  if (own) return own
  if (/^ports?$/i.test(key) && isSwitching(around)) return 'pin'
  const inside = around.some(outer => pinNamed(outer) === 2 || /^(pins|gpios?|lines|wiring)$/i.test(outer))
  return inside && !/count|mode|state|name|label|pull|invert|active|debounce|type/i.test(key) ? 'pin' : null
}

/** Among things that are switched or watched a port is a pin. */
export const isSwitching = (keys: readonly string[]) =>
  keys.some(key => /^(switch(es)?|outputs?|inputs?|binary_sensors?|relays?|lights?|leds?|buttons?|covers?|fans?|pumps?|valves?)$/i.test(key))

function directionOf(args: readonly Argument[]): 'in' | 'out' | null {
  for (const { value } of args.slice(1)) {
    let said: string
    if (value.is === 'name') said = value.path.join('.')
    else said = value.is === 'text' ? value.value : ''
    if (OUT.test(said)) return 'out'
    if (IN.test(said)) return 'in'
  }
  return null
}

/** Offsets at which lines begin. */
export function lineStarts(text: string): number[] {
  const starts = [0]
  for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) starts.push(at + 1)
  return starts
}

/** 1-based line of an offset. */
export function lineNumberAt(starts: readonly number[], offset: number): number {
  let [low, high] = [0, starts.length - 1]
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (starts[middle]! <= offset) low = middle
    else high = middle - 1
  }
  return low + 1
}
