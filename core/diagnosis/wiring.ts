/** What is joined with what in a thing that may differ from its netlist. */
import { supplyPin } from '../plan/ids'
import { BOARD_ID, positionPin, returnOf, SOCKET_PIN } from '../netlist/board'
import { positionOfPin } from '../netlist/spots'
import { stagesOf, type Stage } from '../netlist/stages'
import type { Conductor, Netlist, PinId } from '../netlist/types'
import type { Facts } from '../facts/types'
import type { Change } from './types'

/** Pins with those that they are joined to. */
class Joined {
  private readonly parent = new Map<PinId, PinId>()

  root(pin: PinId): PinId {
    let root = pin
    while (this.parent.has(root)) root = this.parent.get(root)!
    for (let at = pin; at !== root;) {
      const up = this.parent.get(at)!
      this.parent.set(at, root)
      at = up
    }
    return root
  }

  join(a: PinId, b: PinId): void {
    const [first, second] = [this.root(a), this.root(b)]
    if (first !== second) this.parent.set(first, second)
  }

  copy(): Joined {
    const copy = new Joined()
    for (const [pin, up] of this.parent) copy.parent.set(pin, up)
    return copy
  }
}

/** What carries the supply at a pin. */
export type Fed = '5V' | '3V3' | 'ground' | 'source' | 'nothing'

/** Everything about a plan's wires that does not depend on a fault. */
export interface WiringBase {
  netlist: Netlist
  stages: Stage[]
  fives: PinId[]
  threes: PinId[]
  grounds: PinId[]
  /** Plus pins of everything that gives a supply; empty where none is chosen, and the board is taken as fed. */
  sources: PinId[]
}

export function wiringBaseOf(facts: Facts, netlist: Netlist, sources: readonly string[]): WiringBase {
  const of = (kind: string) =>
    (facts.board?.header ?? []).filter(entry => entry.kind === kind).map(entry => positionPin(entry.position))
  const outs = sources.map(id => supplyPin(id, 'out')).filter(pin => netlist.ownerOf.has(pin))
  return { netlist, stages: stagesOf(facts.terminals), fives: of('5V'), threes: of('3V3'), grounds: of('ground'),
    sources: outs }
}

type Way = Conductor['ways'][number]

/** A way of what was pushed on somewhere else; none where it hangs beside the header. */
function overThere({ from, to }: Way, moved: ReadonlyMap<number, number | null>): Way | null {
  const ends = [from, to].map((pin) => {
    const position = positionOfPin(pin)
    if (position === undefined || !moved.has(position)) return pin
    const meets = moved.get(position)
    return meets ? positionPin(meets) : null
  })
  return ends.includes(null) ? null : { from: ends[0]!, to: ends[1]! }
}

/**
 * The conductors with the changes made to them, one after the other; what is open stays so whatever else is done to it.
 */
export function changedConductors(conductors: readonly Conductor[], changes: readonly Change[]): Conductor[] {
  let list = conductors.map(conductor => ({ conductor, ways: conductor.ways as (Way | null)[] }))
  const edit = (id: string, way: number,
    make: (way: Way) => Way | null) => list = list.map(entry => entry.conductor.id === id
    ? { ...entry, ways: entry.ways.map((old, i) => i === way && old ? make(old) : old) }
    : entry)
  const farEnd = (id: string) => conductors.find(entry => entry.id === id)!.ways[0]!.to
  for (const change of changes) {
    if (change.change === 'open') edit(change.conductor, change.way, () => null)
    else if (change.change === 'move') edit(change.conductor, change.way, way => ({ ...way, to: change.to }))
    else if (change.change === 'swap') {
      const [a, b] = change.conductors
      edit(a, 0, way => ({ ...way, to: farEnd(b) }))
      edit(b, 0, way => ({ ...way, to: farEnd(a) }))
    }
    else if (change.change === 'seat') {
      const isOwn = conductors.some(({ id, ways }) => id === change.conductor && ways.length > 0)
      // A ribbon has no ways of its own: what hangs behind it goes with it.
      list = list.map(({ conductor, ways }) => (isOwn ? conductor.id === change.conductor : conductor.kind !== 'seat')
        ? { conductor, ways: ways.map(way => way && overThere(way, change.moved)) }
        : { conductor, ways })
    }
  }
  return list.map(({ conductor, ways }) => ({ ...conductor, ways: ways.filter(way => way !== null) }))
}

/** What is joined with what, and what feeds it. */
export class Wiring {
  private readonly plain = new Joined()
  private readonly power: Joined
  private readonly signal: Joined
  readonly isShorted: boolean
  readonly isShorted3V3: boolean
  readonly isFed: boolean

  constructor(private readonly base: WiringBase, changes: readonly Change[]) {
    const { components } = base.netlist
    for (const { inside } of components) for (const [first,
      ...others] of inside) for (const pin of others) this.plain.join(first!, pin)
    for (const { ways } of changedConductors(base.netlist.conductors,
      changes)) for (const { from, to } of ways) this.plain.join(from, to)
    for (const change of changes) if (change.change === 'bridge') this.plain.join(...change.pins)
    this.power = this.plain.copy()
    this.joinPower()
    const { power } = this
    const [five, three, ground] = this.rails()
    this.isShorted = (five !== undefined && power.root(five) === power.root(ground!))
      || base.sources.some(pin => power.root(pin) === power.root(returnOf(pin)))
    this.isShorted3V3 = three !== undefined
      && [five, ground].some(pin => pin !== undefined && power.root(three) === power.root(pin))
    this.isFed = !base.sources.length || five === undefined
      || base.sources.some(pin =>
        power.root(pin) === power.root(five) && power.root(returnOf(pin)) === power.root(ground!))
    this.signal = this.plain.copy()
    this.joinStages()
  }

  private rails() {
    return [this.base.fives[0], this.base.threes[0], this.base.grounds[0]]
  }

  /**
   * What stands between a source and its loads lets the supply through; the board brings its socket to its header and
   * its USB sockets.
   */
  private joinPower(): void {
    const { netlist, fives } = this.base
    for (const { kind, id } of netlist.components) if (kind === 'item') {
      this.power.join(`${id}.in`, `${id}.out`)
      this.power.join(returnOf(`${id}.in`), returnOf(`${id}.out`))
    }
    const [five] = fives
    if (five === undefined) return
    this.power.join(SOCKET_PIN, five)
    for (const { id } of netlist.byId.get(BOARD_ID)?.pins ?? []) if (/^@usb\d+$/.test(id)) this.power.join(id, five)
  }

  /** A stage passes its signal on when what it needs for that reaches it. */
  private joinStages(): void {
    const { stages, netlist } = this.base
    for (const { ends } of stages) {
      const wants = (end: string) => end === 'ground' || end === '3V3' ? end : null
      const works = ends.every(({ pin, end }) => {
        const wanted = wants(end)
        return !wanted || this.fedBy(pin) === wanted || !netlist.ownerOf.has(pin)
      })
      if (!works) continue
      const channels = new Map<string, PinId[]>()
      for (const { pin, end, terminal } of ends) if (end === 'part' || end === 'place') {
        channels.set(terminal.key, [...channels.get(terminal.key) ?? [], pin])
      }
      for (const [first, second] of channels.values()) if (second !== undefined) this.signal.join(first!, second)
    }
  }

  /** The name of all that a signal at this pin gets to. */
  signalNet(pin: PinId): PinId {
    return this.signal.root(pin)
  }

  /** True when a signal gets from the one to the other. */
  reaches(a: PinId, b: PinId): boolean {
    return this.signal.root(a) === this.signal.root(b)
  }

  /** True for two pins with nothing between them. */
  isJoined(a: PinId, b: PinId): boolean {
    return this.plain.root(a) === this.plain.root(b)
  }

  /** Which supply stands at a pin. */
  fedBy(pin: PinId): Fed {
    const root = this.power.root(pin)
    const [five, three, ground] = this.rails()
    if (ground !== undefined && root === this.power.root(ground)) return 'ground'
    if (five !== undefined && root === this.power.root(five)) return '5V'
    if (three !== undefined && root === this.power.root(three)) return '3V3'
    if (this.base.sources.some(source => this.power.root(source) === root)) return 'source'
    return this.base.sources.some(source => this.power.root(returnOf(source)) === root) ? 'ground' : 'nothing'
  }

  /** The rail that a signal hangs on straight, where it should hang on none. */
  stuckAt(pin: PinId): '5V' | '3V3' | 'ground' | null {
    const root = this.signal.root(pin)
    const [five, three, ground] = this.rails()
    if (ground !== undefined && root === this.signal.root(ground)) return 'ground'
    if (five !== undefined && root === this.signal.root(five)) return '5V'
    return three !== undefined && root === this.signal.root(three) ? '3V3' : null
  }
}
