/**
 * What a meter shows: volts of every pin once power is on, ohms between any two before. From the wires as they lie,
 * with their faults; what drives and pulls a line is the board's, the parts' and whoever presses a key.
 */
import type { Terminal } from '../facts/types'
import { BOARD_ID, positionPin } from '../netlist/board'
import { positionOfPin } from '../netlist/spots'
import type { PinId } from '../netlist/types'
import type { Bench } from '../diagnosis/table'
import { forcedBy } from '../diagnosis/drive'
import type { World } from '../diagnosis/world'

/** What is put on the lines from both sides at this moment. */
export interface Driven {
  /** Line of the board → level that a program puts on it. */
  outputs: ReadonlyMap<number, 0 | 1>
  /** Terminals that somebody or something holds active: a key pressed, a motion seen. */
  active: ReadonlySet<string>
  /** Everything does its most. */
  isBusy: boolean
  /** Inner pulls that a program chose, by line. */
  bias: ReadonlyMap<number, 'up' | 'down' | 'none'>
  /** Lines of expanders: where they come out, what a program puts there, and what pulls them else. */
  chips: readonly { pin: PinId, output?: 0 | 1, bias: 'up' | 'down' | 'none' }[]
}

/** Volts, or nothing that holds it: a meter shows some figure near 0 then. */
export type Level = { volts: number } | { floats: true }

/** A wire with its two contacts. Common practice, no source. */
const CONTACT_OHM = 0.2
/** A board that is not fed, meter on resistance: what its regulators and capacitors show. memory */
const BOARD_OHM: Readonly<Record<'5V' | '3V3', number>> = { '5V': 1800, '3V3': 650 }
const HIGH_V = 3.3
/** Inner pull of an expander. memory */
const EXPANDER_PULL_OHM = 100_000
/** Along a thin way back when a part does its most. Common practice, no source. */
const LIFTED_V = 0.3
/** So far below the sign a rail goes that does not hold. Common practice, no source. */
const BROKEN_DOWN_V = 0.15

export class Levels {
  private readonly signals: readonly Terminal[]

  constructor(private readonly bench: Bench, private readonly world: World, private readonly driven: Driven) {
    this.signals = bench.shop.facts.terminals.filter(({ is }) => is === 'signal')
  }

  /** The circuit as it runs now: as usual, or with everything at its most. */
  private get state() {
    return this.bench.power.states.find(({ id }) => id === (this.driven.isBusy ? 'peak' : 'typical'))
  }

  /** Volts of a rail as the circuit has it; under load those of a weak supply or a thin cable break down. */
  private railV(rail: '5V' | '3V3'): number {
    const { state } = this
    let volts: number
    if (state?.ok) volts = state.nodes[rail === '5V' ? '@5V' : '@3V3']?.voltageV ?? Number.parseFloat(rail)
    else volts = rail === '5V' ? 5 : HIGH_V
    return rail === '5V' ? volts - this.sagV(volts) : volts
  }

  /** What a supply that does not hold lacks at the header. */
  private sagV(volts: number): number {
    const { driven, world, bench } = this
    const holds = !driven.isBusy || !(world.has('weak-supply') || world.has('thin-cable'))
    return holds ? 0 : Math.max(0, volts - bench.shop.loadLeastV + BROKEN_DOWN_V)
  }

  /** Volts at a pin against ground. */
  at(pin: PinId): Level {
    const { world, bench } = this
    const fed = world.fedBy(pin)
    if (fed === 'ground') return { volts: this.driven.isBusy && this.isLifted(pin) ? LIFTED_V : 0 }
    if (!world.isPowered && fed !== 'source') return { floats: true }
    if (fed === '5V' || fed === '3V3') return { volts: this.ownV(pin, fed) ?? this.railV(fed) }
    if (fed === 'source') {
      const source = bench.power.tree.nodes.find(({ id, role }) =>
        role === 'source' && bench.shop.netlist.ownerOf.get(pin)?.node !== id)
      const { state } = this
      const volts = this.ownV(pin, fed) ?? (source && state?.nodes[source.id]?.voltageV)
      return volts === undefined ? { floats: true } : { volts }
    }
    // A supply or a return that hangs on a line: what the part draws drags it along, no line holds it.
    const isLine = this.bench.shop.facts.byKey.get(pin)?.is === 'signal' || positionOfPin(pin) !== undefined
      || this.driven.chips.some(chip => chip.pin === pin)
    return isLine ? this.signalAt(pin) : { floats: true }
  }

  /** The part's own end of a way back that is too thin. */
  private isLifted(pin: PinId): boolean {
    const owner = this.bench.shop.parts.find(({ id, grounds }) => grounds.some(ground => `${id}.${ground.id}` === pin))
    return owner !== undefined && this.world.isPowered && this.world.has('thin-ground', owner.id)
  }

  /** The circuit's figure at a node of its own, where it is fed from what it should be. */
  private ownV(pin: PinId, fed: string): number | undefined {
    const { bench, state } = this
    const volts = state?.ok && bench.shop.healthy.fedBy(pin) === fed ? state.nodes[pin]?.voltageV : undefined
    const rail = state?.nodes['@5V']?.voltageV
    return volts !== undefined && fed === '5V' && rail !== undefined ? volts - this.sagV(rail) : volts
  }

  /** A line's level: who drives it, else what pulls it. */
  private signalAt(pin: PinId): Level {
    const { world, bench: { shop }, driven } = this
    const rail = world.wiring.stuckAt(pin)
    if (rail === 'ground') return { volts: 0 }
    if (rail) return { volts: this.railV(rail) }
    const board = shop.facts.board!
    const joined = board.header.filter(({ kind, position }) =>
      kind === 'line' && world.wiring.reaches(pin, positionPin(position)))
    const terminals = this.signals.filter(({ key }) => world.wiring.reaches(pin, key))
    const chips = driven.chips.filter(chip => world.wiring.reaches(pin, chip.pin))
    const forces = [
      ...chips.flatMap(({ output }) => output === undefined ? [] : [output * HIGH_V]),
      ...joined.flatMap(({ line }) => driven.outputs.has(line!) ? [driven.outputs.get(line!)! * HIGH_V] : []),
      // Behind a divider or a shifter a high is the board's own.
      ...terminals.flatMap(terminal => forcedBy(terminal, world, driven.active.has(terminal.key))
        .map(volts => world.wiring.isJoined(pin, terminal.key) ? volts : Math.min(volts, HIGH_V))),
    ]
    // Who pulls down wins over who pushes up: on a bench that is what a meter finds.
    if (forces.length) return { volts: Math.min(...forces) }
    const pulls = [
      ...chips.flatMap(({ bias }): Pull[] =>
        bias === 'none' ? [] : [{ volts: bias === 'up' ? HIGH_V : 0, ohm: EXPANDER_PULL_OHM }]),
      ...joined.flatMap(({ line }): Pull[] => {
        const entry = board.lines.find(other => other.line === line)
        const bias = driven.bias.get(line!) ?? entry?.resetPull
        const inner = (board.limits.innerPullMinOhm.value + board.limits.innerPullMaxOhm.value) / 2
        return [
          ...entry?.fixedPullUpOhm ? [{ volts: HIGH_V, ohm: entry.fixedPullUpOhm }] : [],
          ...entry?.fixedPullUpOhm || !bias || bias === 'none'
            ? []
            : [{ volts: bias === 'up' ? HIGH_V : 0, ohm: inner }],
        ]
      }),
      ...terminals.flatMap(terminal => this.pulledBy(terminal)),
      ...terminals.some(terminal => this.isPulledHard(terminal)) ? [{ volts: HIGH_V, ohm: STRONG_OHM }] : [],
    ]
    const conductance = pulls.reduce((sum, { ohm }) => sum + 1 / ohm, 0)
    return conductance
      ? { volts: pulls.reduce((sum, { volts, ohm }) => sum + volts / ohm, 0) / conductance }
      : { floats: true }
  }

  private busOf(terminal: Terminal): string | undefined {
    return this.bench.shop.facts.groups.find(group => group.terminals.includes(terminal))?.bus?.id
  }

  /** On a bus with far too strong a resistor. */
  private isPulledHard(terminal: Terminal): boolean {
    return terminal.signal!.role.startsWith('i2c.') && this.world.pullOf(this.busOf(terminal)) === 'strong'
  }

  /** Of its own module, in Ω; null where there is none, or where it is gone. */
  private ownPullUp(terminal: Terminal): number | null {
    const isI2c = terminal.signal!.role.startsWith('i2c.')
    return isI2c && this.world.pullOf(this.busOf(terminal)) !== 'none'
      ? terminal.owner.part.i2c?.pullUpOhm ?? null
      : null
  }

  private pulledBy(terminal: Terminal): Pull[] {
    const { signal, owner } = terminal
    const { world } = this
    if (!signal) return []
    const isFed = world.isFed(owner)
    const up = signal.outputHighV?.value ?? HIGH_V
    return [
      ...signal.pull && (signal.pull.to === 'down' || isFed)
        ? [{ volts: signal.pull.to === 'up' ? up : 0, ohm: signal.pull.ohm.value }]
        : [],
      ...isFed && this.ownPullUp(terminal) ? [{ volts: HIGH_V, ohm: this.ownPullUp(terminal)! }] : [],
    ]
  }

  /** What a meter on volts shows from one pin to the other; null where one of them hangs on nothing. */
  between(a: PinId, b: PinId): number | null {
    const [first, second] = [this.at(a), this.at(b)]
    return 'volts' in first && 'volts' in second ? first.volts - second.volts : null
  }

  /** What a meter on resistance shows with the power off; null for an open end. */
  ohms(a: PinId, b: PinId): number | null {
    const { wiring } = this.world
    if (a === b || wiring.isJoined(a, b)) return CONTACT_OHM
    const rails = [wiring.fedBy(a), wiring.fedBy(b)]
    const isShort = (this.world.isShorted && rails.includes('5V')) || (this.world.isShorted3V3 && rails.includes('3V3'))
    if (isShort && !rails.includes('nothing')) return CONTACT_OHM
    const hot = (['5V', '3V3'] as const).find(rail => rails.includes(rail))
    if (hot && rails.includes('ground')) return BOARD_OHM[hot]
    const pin = rails[0] === 'nothing' ? a : b
    const other = rails[pin === a ? 1 : 0]
    const pulls = this.resistorsTo(pin, other!)
    return pulls.length ? 1 / pulls.reduce((sum, ohm) => sum + 1 / ohm, 0) : null
  }

  /** Resistors from a line to a rail, on the board and on the parts: they are there with the power off too. */
  private resistorsTo(pin: PinId, rail: string): number[] {
    const { world, bench: { shop } } = this
    const board = shop.facts.board!
    const fixed = board.header.flatMap(({ kind, line, position }) => kind === 'line'
      && world.wiring.reaches(pin, positionPin(position))
      ? board.lines.find(entry => entry.line === line)?.fixedPullUpOhm ?? []
      : [])
    const own = this.signals.filter(({ key }) => world.wiring.reaches(pin, key)).flatMap((terminal) => {
      const { signal, owner } = terminal
      const supplies = world.supplyPins(owner).map(supply => world.wiring.fedBy(supply))
      return [
        ...signal?.pull && (signal.pull.to === 'down' ? rail === 'ground' : supplies.includes(rail as '5V'))
          ? [signal.pull.ohm.value]
          : [],
        ...supplies.includes(rail as '3V3') && this.ownPullUp(terminal) ? [this.ownPullUp(terminal)!] : [],
        ...rail === '3V3' && this.isPulledHard(terminal) ? [STRONG_OHM] : [],
      ]
    })
    return [...rail === '3V3' ? fixed : [], ...own]
  }
}

/** Far below what a part can sink against: NXP UM10204, 3 mA at 0.4 V asks for a kilohm about. */
const STRONG_OHM = 150

interface Pull { volts: number, ohm: number }

/**
 * A pin as it is typed: a header position by its number, `part.terminal`, or a name of the netlist. Null for
 * none of them.
 */
export function pinByName(text: string, { shop: { netlist, facts } }: Bench): PinId | null {
  const position = /^\d+$/.test(text) ? Number(text) : null
  if (position !== null) return facts.board!.header.some(entry => entry.position === position)
    ? positionPin(position)
    : null
  return netlist.ownerOf.has(text) ? text : null
}

/** Every pin that a tip can reach, the board's first, with its name for people. */
export function pinsToMeasure({ shop: { netlist } }: Bench): { pin: PinId, label: string }[] {
  const { components } = netlist
  return [...components].sort((a, b) => Number(b.id === BOARD_ID) - Number(a.id === BOARD_ID))
    .flatMap(({ name, pins, id }) =>
      pins.map(({ id: pin, label }) => ({ pin,
        label: id === BOARD_ID && positionOfPin(pin) !== undefined ? label : `${name}: ${label}` })))
}
