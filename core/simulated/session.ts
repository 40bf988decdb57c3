/**
 * A sitting at the simulated board: lines typed at its prompt, and what hands do beside it. What hands do begins with a
 * colon, as `:press door.b`; everything else goes to the shell.
 */
import type { Facts, ResolvedPart } from '../facts/types'
import { BOARD_ID } from '../netlist/board'
import { LOOKING } from '../diagnosis/names'
import { INFO } from './info'
import { lookAt } from './look'
import { pinByName, type Levels } from './levels'
import { eventText } from './commands/lines'
import { Machine, START_S, type MachineOptions } from './machine'
import { COMMAND_NAMES, openShell, type Shell } from './shell'
import type { Surroundings } from './surroundings'

/** What came of one line. */
export interface Shown {
  prompt: string
  line: string
  out: string
  err: string
  status: number
}

/** What hands can do, with what it takes, for help and for whoever draws buttons. */
export const ACTS: readonly { act: string, takes: string, does: string }[] = [
  { act: 'lamps', takes: '', does: 'look at the lamps of the board' },
  { act: 'look', takes: 'PART', does: 'look at a part, and listen' },
  { act: 'off', takes: '', does: 'shut down and pull the supply' },
  { act: 'on', takes: '', does: 'switch the supply on' },
  { act: 'cut', takes: '', does: 'pull the supply without shutting down' },
  { act: 'restart', takes: '', does: 'off and on again' },
  { act: 'volt', takes: 'PIN PIN', does: 'meter on DC volts, from the first to the second: 1 to 40, or PART.TERMINAL' },
  { act: 'ohm', takes: 'PIN PIN', does: 'meter on resistance; with the power off alone' },
  { act: 'amps', takes: '', does: 'current that the supply gives' },
  { act: 'press', takes: 'PART.TERMINAL', does: 'press a key, move before a detector: hold an output active' },
  { act: 'release', takes: 'PART.TERMINAL', does: 'let it go' },
  { act: 'breathe', takes: 'PART', does: 'breathe on it' }, { act: 'warm', takes: 'PART', does: 'warm it' },
  { act: 'set', takes: 'WHAT FIGURE',
    does: 'air °C, humidity %, height m, light lux, co2 ppm, distance mm, weight g, volts' },
  { act: 'pull', takes: 'PART', does: 'pull its plug or wires' }, { act: 'plug', takes: 'PART', does: 'put them back' },
  { act: 'move', takes: 'PART|board', does: 'take its wires between the fingers and keep moving them' },
  { act: 'still', takes: 'PART|board', does: 'let them go' },
  { act: 'loop', takes: 'PORT on|off', does: 'join transmit and receive of a port, its part taken off' },
  { act: 'load', takes: 'on|off', does: 'keep all cores busy' },
  { act: 'wait', takes: 'SECONDS', does: 'let time pass' },
]

const WORLD: Readonly<Record<string, { field: keyof Surroundings, min: number, max: number, unit: string }>> = {
  air: { field: 'airC', min: -40, max: 85, unit: '°C' }, humidity: { field: 'humidity', min: 0, max: 100, unit: '%' },
  height: { field: 'heightM', min: -400, max: 9000, unit: 'm' },
  light: { field: 'lux', min: 0, max: 100_000, unit: 'lux' },
  co2: { field: 'co2Ppm', min: 0, max: 40_000, unit: 'ppm' },
  distance: { field: 'distanceMm', min: 0, max: 10_000, unit: 'mm' },
  weight: { field: 'weightG', min: 0, max: 200_000, unit: 'g' }, volts: { field: 'volts', min: 0, max: 5, unit: 'V' },
}
/** A day is enough for any look. */
const MAX_WAIT_S = 86_400
export const MAX_LINE = 4096

class Wrong extends Error {}

/** A list that goes to the screen is in columns; into a pipe or a file it has a line for each name. */
const onScreen = (text: string, line: string, columns: number) => /^(sudo\s+)?ls\b[^|<>;&$`()\n]*$/.test(text)
  ? line.replace(/\bls\b/, `ls -C -w${columns}`)
  : line

/**
 * Throws `RangeError` for a plan without a board, `DeviceTreeError` for a base tree of the maker's that cannot be read.
 */
export class Session {
  readonly machine: Machine
  private shell: Shell | null = null
  private readonly typed: string[] = []

  /** Characters that the screen is wide. */
  private readonly columns: number

  constructor(facts: Facts, { columns = 80, ...options }: MachineOptions & { columns?: number } = {}) {
    this.columns = columns
    this.machine = new Machine(facts, options)
  }

  get prompt(): string {
    if (!this.machine.isUp) return this.machine.isOn ? '(no login) ' : '(off) '
    return `${INFO.user}@${INFO.host}:${this.shell?.folder() ?? '~'} $ `
  }

  /** Lamps as they are seen now. */
  get lamps(): string {
    if (!this.machine.isOn) return 'none'
    return this.machine.bench.looks.find(({ probe }) => probe.id === LOOKING.lamps)?.see(this.machine.world) ?? 'none'
  }

  async run(line: string): Promise<Shown> {
    const { prompt, machine } = this
    const shown = (out: string, err = '',
      status = err ? 1 : 0): Shown => ({ prompt, line, out: out + this.events(), err, status })
    if (line.length > MAX_LINE) return shown('',
      `A line may have ${MAX_LINE} characters; this one has ${line.length}.\n`)
    const text = line.trim()
    if (!text || text.startsWith('#')) return shown('')
    if (text.startsWith(':')) {
      try {
        return shown(`${this.act(text.slice(1).trim().split(/\s+/))}\n`)
      }
      catch (error) {
        if (!(error instanceof Wrong)) throw error
        return shown('', `${error.message}\n`)
      }
    }
    machine.watching = null
    if (!machine.isUp) {
      const why = machine.isOn
        ? `the board does not start; lamps: ${this.lamps}`
        : 'the power is off (":on" switches it on)'
      return shown('', `Nothing answers: ${why}.\n`)
    }
    if (text === 'help') return shown(`${COMMAND_NAMES.join(' ')}\nhands: ":help"\n`)
    if (text === 'history') return shown(this.typed.map((entry, i) => `${String(i + 1).padStart(5)}  ${entry}\n`)
      .join(''))
    this.typed.push(line)
    if (text === 'clear') return shown('')
    if (/^(sudo\s+)?(poweroff|halt|shutdown\b.*)$/.test(text)) return shown(`${this.act(['off'])}\n`)
    if (/^(sudo\s+)?reboot$/.test(text)) return shown(`${this.act(['restart'])}\n`)
    this.shell ??= openShell(machine)
    const { out, err, status } = await this.shell.run(onScreen(text, line, this.columns))
    return { prompt, line, out, err, status }
  }

  private events(): string {
    return this.machine.changed().map(event => eventText(event, this.machine.lineTools)).join('')
  }

  private part(name: string | undefined, what: string): ResolvedPart {
    const { parts } = this.machine.bench.shop
    const found = parts.find(({ id }) => id === name)
      ?? parts.find(owner => owner.name.toLowerCase() === name?.toLowerCase())
    if (!found) throw new Wrong(`:${what} takes a part: `
      + `${parts.map(({ id }) => id).join(', ') || 'the plan has none that is wired'}.`)
    return found
  }

  private pins(words: readonly string[], what: string): [string, string] {
    const found = words.map(word => pinByName(word, this.machine.bench))
    const [a, b] = found
    if (words.length !== 2 || !a || !b) {
      const wrong = words.find((_, i) => !found[i])
      const why = wrong ? `; "${wrong}" is neither` : ''
      throw new Wrong(`:${what} takes two pins: positions of the header by number, or PART.TERMINAL${why}.`)
    }
    return [a, b]
  }

  private act([name = '', ...words]: string[]): string {
    const { machine } = this
    machine.pass(1)
    switch (name) {
      case 'help': return ACTS.map(({ act, takes, does }) => `:${`${act} ${takes}`.trim().padEnd(22)} ${does}`)
        .join('\n')
      case 'look': return lookAt(machine, this.part(words.join(' '), name))
      case 'lamps': return `lamps: ${this.lamps}`
      case 'off':
        machine.switch(false)
        this.shell = null
        return 'The green lamp rests; the supply is off.'
      case 'cut': {
        if (!machine.isOn) throw new Wrong('The power is off (":on" switches it on).')
        const wasUp = machine.isUp
        machine.cut()
        this.shell = null
        return wasUp
          ? 'The supply is pulled while the card may be written: what was not on it yet is gone, and the next start '
          + 'has to mend it.'
          : 'The supply is pulled.'
      }
      case 'on': case 'restart':
        if (name === 'on' && machine.isOn) throw new Wrong('It is on. ":restart" starts it anew.')
        machine.switch(true)
        this.shell = null
        return machine.isUp
          ? `It starts; after ${START_S} s one can log in. lamps: ${this.lamps}`
          : `It does not start. lamps: ${this.lamps}`
      case 'volt': return this.volts(this.pins(words, name), machine.levels)
      case 'ohm': {
        const pins = this.pins(words, name)
        if (machine.isOn) throw new Wrong('Power off and plug drawn first: a meter on resistance feeds current of '
          + 'its own (":off").')
        const ohms = machine.levels.ohms(...pins)
        if (ohms === null) return 'open: over 10 MΩ'
        return ohms < 1000 ? `${ohms.toFixed(ohms < 1 ? 1 : 0)} Ω` : `${(ohms / 1000).toFixed(2)} kΩ`
      }
      case 'amps': return this.amps()
      case 'press': case 'release': {
        const terminal = machine.facts.terminals.find(entry =>
          entry.key === words[0] && entry.signal && entry.signal.direction !== 'in')
        if (!terminal) {
          const outputs = machine.facts.terminals.filter(({ signal }) =>
            signal?.role === 'line' && signal.direction === 'out')
          const keys = outputs.map(({ key }) => key)
          throw new Wrong(`:${name} takes an output of a part: ${keys.join(', ') || 'the plan has none'}.`)
        }
        if (name === 'press') machine.active.add(terminal.key)
        else machine.active.delete(terminal.key)
        return `${terminal.owner.name} ${terminal.label}: ${name === 'press' ? 'held' : 'let go'}`
      }
      case 'breathe': case 'warm': {
        const owner = this.part(words.join(' '), name)
        machine.touch(owner.id, name === 'breathe' ? 'breath' : 'warmth')
        return name === 'breathe' ? `You breathe on ${owner.name}.` : `You warm ${owner.name}.`
      }
      case 'set': return this.setWorld(words)
      case 'pull': case 'plug': {
        const owner = this.part(words.join(' '), name)
        if (machine.isIn(owner.id) === (name === 'plug')) throw new Wrong(`${owner.name} is ${name === 'plug' ? 'in' : 'off'} already.`)
        machine.plug(owner, name === 'plug')
        return `${owner.name} is ${name === 'plug' ? 'in' : 'off'}.`
      }
      case 'move': case 'still': return this.move(words.join(' '), name === 'move')
      case 'loop': {
        const [path = '', state = 'on'] = words
        const port = machine.portPath(path) ?? (machine.ports.has(path) ? path : null)
        if (port === null) throw new Wrong(':loop takes a port: '
          + `${[...machine.ports.keys()].join(', ') || 'the plan uses none'}.`)
        machine.loop(port, state !== 'off')
        return state === 'off' ? `${path} is as it was.` : `${path}: transmit and receive are joined, the part is off.`
      }
      case 'load':
        if (words[0] !== 'on' && words[0] !== 'off') throw new Wrong(':load takes on or off.')
        machine.load(words[0] === 'on')
        return words[0] === 'on' ? 'All cores are busy.' : 'The cores rest.'
      case 'wait': {
        const seconds = Number(words[0])
        if (!(seconds > 0) || seconds > MAX_WAIT_S) throw new Wrong(`:wait takes seconds, up to ${MAX_WAIT_S}.`)
        machine.pass(seconds)
        return `${seconds} s later`
      }
      default: throw new Wrong(`There is no ":${name}"; ":help" lists what hands can do.`)
    }
  }

  private move(called: string, isMoved: boolean): string {
    const { machine } = this
    const { id, name } = called === 'board'
      ? { id: BOARD_ID, name: machine.facts.board!.name }
      : this.part(called, isMoved ? 'move' : 'still')
    if (machine.inHand.has(id) === isMoved) throw new Wrong(`The wires of ${name} are `
      + `${isMoved ? 'in your hand' : 'still'} already.`)
    const wasUp = machine.isUp
    machine.move(id, isMoved)
    if (wasUp !== machine.isUp) this.shell = null
    let now: '' | ' The board goes off!' | ' The board starts anew.'
    if (wasUp && !machine.isUp) now = ' The board goes off!'
    else now = !wasUp && machine.isUp ? ' The board starts anew.' : ''
    return `You ${isMoved ? 'move' : 'let go'} the wires of ${name}.${now}`
  }

  private setWorld([what = '', figure = '']: readonly string[]): string {
    const known = Object.hasOwn(WORLD, what) ? WORLD[what] : undefined
    const value = figure === '' ? Number.NaN : Number(figure)
    if (!known) throw new Wrong(`:set takes one of ${Object.keys(WORLD).join(', ')}, and a figure.`)
    if (!(value >= known.min
      && value <= known.max)) throw new Wrong(`${what} goes from ${known.min} to ${known.max} ${known.unit}.`)
    this.machine.surroundings = { ...this.machine.surroundings, [known.field]: value }
    return `${what}: ${value} ${known.unit}`
  }

  private volts(pins: [string, string], levels: Levels): string {
    if (!this.machine.isOn) return '0.00 V'
    const volts = levels.between(...pins)
    return volts === null
      ? 'it drifts near 0 V: one of the two hangs on nothing'
      : `${(Math.abs(volts) < 0.005 ? 0 : volts).toFixed(2)} V`
  }

  private amps(): string {
    const { machine } = this
    const { tree, states } = machine.bench.power
    const sources = tree.assumed ? [] : tree.nodes.filter(({ role }) => role === 'source')
    if (!sources.length) throw new Wrong('The plan has no supply: choose one on the Power stage.')
    if (!machine.isOn || !machine.world.isPowered) return sources.map(({ name }) => `${name}: 0 mA`).join('\n')
    const state = states.find(({ id }) => id === (machine.busySinceS === null ? 'typical' : 'peak'))
    return sources.map(({ id, name }) => {
      const figures = state?.nodes[id]
      return figures ? `${name}: ${Math.round(figures.currentMa)} mA at ${figures.voltageV.toFixed(2)} V` : `${name}: not known`
    }).join('\n')
  }
}
