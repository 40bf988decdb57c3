/** The thing with its faults: what is joined, what is fed, what the files bring, who answers. */
import { terminalKey, usbReturnPin, usbSupplyPin } from '../plan/ids'
import { gatherFacts } from '../facts/gather'
import type { Bus, Facts, ResolvedPart, Terminal } from '../facts/types'
import { rehearse } from '../boot/rehearse/rehearse'
import type { Rehearsal } from '../boot/rehearse/types'
import { mergedFile } from '../boot/own/file'
import type { Conductor, Netlist } from '../netlist/types'
import { positionPin } from '../netlist/board'
import { needsOf, type Need } from '../overlays/asks/needs'
import { writeNeed } from '../overlays/asks/write'
import type { Power } from '../power/report'
import { partsUsed } from './faults'
import { answersAt, NO_BUS, STUCK } from './names'
import { Wiring, wiringBaseOf, type Fed, type WiringBase } from './wiring'
import type { Change, Flag } from './types'

/** What the files bring, with some of the plan's lines away. */
interface FileEffect {
  dark: ReadonlySet<string>
  nodes: ReadonlySet<string>
}

/** The under-voltage sign of a board whose file says none. memory */
const UNDER_VOLTAGE_V = 4.63
/** A meter and a regulator together. Common practice. */
const METER_SHARE = 0.05

const plannedPin = ({ place }: Terminal): string | null => {
  if (place?.kind === 'header') return positionPin(place.position)
  return place?.kind === 'terminal' ? `${place.owner.id}.${place.terminal}` : null
}

/** A plan's thing, ready to be looked at with any changes. Answers are kept: the same files are rehearsed once. */
export class Workshop {
  readonly base: WiringBase
  readonly needs: Need[]
  readonly parts: ResolvedPart[]
  readonly healthy: World
  /** Volts at which the board reports under-voltage. */
  readonly signV: number | undefined
  private readonly effects = new Map<string, FileEffect>()
  private readonly worlds = new Map<string, World>()
  private readonly placedOf: ReadonlyMap<string, Terminal[]>
  private readonly cablesOf: ReadonlyMap<string, Conductor[]>

  constructor(readonly facts: Facts, private readonly power: Pick<Power, 'tree' | 'states'>,
    readonly netlist: Netlist) {
    const { tree } = power
    const sources = tree.assumed ? [] : tree.nodes.filter(node => node.role === 'source').map(node => node.id)
    this.base = wiringBaseOf(facts, netlist, sources)
    this.needs = needsOf(facts)
    this.signV = tree.byId.get('@board')?.figures.signV?.value
    this.parts = partsUsed({ facts, netlist })
    const isPlaced = (terminal: Terminal) => terminal.is === 'signal' && plannedPin(terminal) !== null
    this.placedOf = new Map(facts.parts.map(owner => [
      owner.id, facts.terminals.filter(terminal => terminal.owner === owner && isPlaced(terminal)),
    ]))
    this.cablesOf = new Map(facts.parts.map(({ id }) => [
      id, netlist.conductors.filter(({ kind, partId }) => partId === id && (kind === 'plug' || kind === 'flat cable')),
    ]))
    this.healthy = new World(this, [])
  }

  /** The thing with these changes; the same changes make one thing. */
  worldOf(changes: readonly Change[]): World {
    const key = JSON.stringify(changes)
    return kept(this.worlds, key, () => new World(this, changes))
  }

  /**
   * What the circuit has at a node over all states, with what a meter and a regulator may be off; null
   * where it knows nothing.
   */
  span(node: string): { min: number, max: number } | null {
    const volts = this.power.states.flatMap(({ ok, nodes }) => ok && nodes[node] ? [nodes[node].voltageV] : [])
      .filter(value => value > 0)
    const round = (value: number) => Number(value.toFixed(2))
    return volts.length
      ? { min: round(Math.min(...volts) * (1 - METER_SHARE)), max: round(Math.max(...volts) * (1 + METER_SHARE)) }
      : null
  }

  /**
   * Volts at the header under load below which a supply does not hold: the board's sign, or what the plan's own
   * circuit comes to.
   */
  get loadLeastV(): number {
    const peak = this.power.states.find(({ id }) => id === 'peak')
    const planned = peak?.ok ? peak.nodes['@5V']?.voltageV : undefined
    const min = this.signV ?? UNDER_VOLTAGE_V
    return planned !== undefined && planned > 0 ? Math.min(min, Number((planned * (1 - METER_SHARE)).toFixed(2))) : min
  }

  /** Signals of a part that have a place. */
  placed({ id }: ResolvedPart): readonly Terminal[] {
    return this.placedOf.get(id)!
  }

  /** Cables of a part that go into a socket. */
  cables({ id }: ResolvedPart): readonly Conductor[] {
    return this.cablesOf.get(id)!
  }

  /** What the files bring without these lines; with `otherCopy` a file is read that has nothing of the plan. */
  effectWithout(lines: ReadonlySet<string>, otherCopy: boolean, instead: readonly string[] = []): FileEffect {
    const key = otherCopy ? 'another copy' : [...[...lines].sort(), ...instead.map(line => `+${line}`)].join('\n')
    const before = this.effects.get(key)
    if (before) return before
    const { parts, devices } = this.rehearsed(lines, otherCopy, instead)
    const effect = {
      dark: new Set(parts.filter(({ state }) => state === 'dark').map(({ partId }) => partId)),
      nodes: new Set(devices.map((
        { path }) => path)),
    }
    this.effects.set(key, effect)
    return effect
  }

  /** A start without these lines, or with none of the plan's; `instead` stands before all others. */
  rehearsed(lines: ReadonlySet<string>, otherCopy: boolean, instead: readonly string[] = []): Rehearsal {
    const { facts } = this
    const { text: merged } = mergedFile(facts, this.needs.filter(({ need }) => !lines.has(writeNeed(need))))
    // Lines that the maker wrote are there whatever the plan asks for.
    const text = otherCopy ? '' : [...instead, ...merged.split('\n').filter(line => !lines.has(line.trim()))].join('\n')
    const boot = { ...facts.plan.boot, text }
    return rehearse(gatherFacts({ ...facts.plan, boot }, facts.catalogue))
  }
}

export type SignalAt
  = | { at: 'planned' }
    | { at: 'nowhere' }
    | { at: 'rail', rail: string }
    | { at: 'position', position: number }

/** One thing as it may lie there. */
export class World {
  readonly wiring: Wiring
  private readonly files: FileEffect
  /** Lines that lack on the card; whether it is another copy that is read; what stands there in their place. */
  private readonly onCard: [lines: ReadonlySet<string>, otherCopy: boolean, instead: readonly string[]]
  private readonly flags: ReadonlySet<string>
  private readonly dead: ReadonlySet<string>
  private readonly straps: ReadonlyMap<string, number>
  private readonly pulls: ReadonlyMap<string, 'none' | 'strong'>
  private readonly fed = new Map<string, boolean>()
  private readonly wired = new Map<string, boolean>()
  private open: World | null = null
  /** Signals by what they get to. */
  private readonly together = new Map<string, Terminal[]>()

  constructor(private readonly shop: Workshop, readonly changes: readonly Change[]) {
    this.wiring = new Wiring(shop.base, changes)
    const lines = changes.flatMap(change => change.change === 'line' ? [change] : [])
    this.onCard = [new Set(lines.map(({ line }) => line)), lines.some(({ how }) => how === 'wrong-copy'),
      lines.flatMap(({ as }) => as ?? [])]
    this.files = shop.effectWithout(...this.onCard)
    this.flags = new Set(changes.flatMap(change =>
      change.change === 'flag' ? [flagKey(change.flag, change.partId)] : []))
    this.dead = new Set(changes.flatMap(change => change.change === 'dead' ? [change.partId] : []))
    this.straps = new Map(changes.flatMap(change =>
      change.change === 'strap' ? [[change.partId, change.address] as const] : []))
    this.pulls = new Map(changes.flatMap(change =>
      change.change === 'pull' ? [[change.busId, change.how] as const] : []))
    for (const terminal of shop.facts.terminals) if (terminal.is === 'signal') {
      const net = this.wiring.signalNet(terminal.key)
      const list = this.together.get(net)
      if (list) list.push(terminal)
      else this.together.set(net, [terminal])
    }
  }

  has(flag: Flag, partId?: string): boolean {
    return this.flags.has(flagKey(flag, partId))
  }

  /** What is wrong with what pulls a bus up; undefined for nothing. */
  pullOf(busId: string | undefined): 'none' | 'strong' | undefined {
    return busId === undefined ? undefined : this.pulls.get(busId)
  }

  isDead(partId: string): boolean {
    return this.dead.has(partId)
  }

  /** Something in it has contact at rest alone. */
  get isLoose(): boolean {
    return this.changes.some(({ change }) => change === 'loose')
  }

  /** The same thing while everything that is loose has no contact. */
  get shaken(): World {
    const { netlist } = this.shop
    return this.open ??= this.isLoose ? this.shop.worldOf(opened(this.changes, netlist)) : this
  }

  /** A conductor that has contact at rest alone. */
  isLooseAt(conductor: string): boolean {
    return this.changes.some(change => change.change === 'loose' && change.conductor === conductor)
  }

  /** 5 V stands on the board. */
  get isPowered(): boolean {
    // What the plan itself leaves open or shorts is a finding of the plan's, not of the bench.
    return (this.wiring.isFed || !this.planned.isFed) && !this.has('no-supply') && !this.isShorted
  }

  get isShorted(): boolean {
    return this.wiring.isShorted && !this.planned.isShorted
  }

  get isShorted3V3(): boolean {
    return this.wiring.isShorted3V3 && !this.planned.isShorted3V3
  }

  private get planned(): Wiring {
    return (this.shop.healthy ?? this).wiring
  }

  /** The system runs, so that commands can be typed. */
  get isUp(): boolean {
    return this.isPowered && !this.isShorted3V3 && !this.has('card') && !this.has('old-image')
  }

  /** What feeds a pin, and nothing where that is off. */
  fedBy(pin: string): Fed {
    const fed = this.wiring.fedBy(pin)
    if (fed === '5V') return this.isPowered ? fed : 'nothing'
    if (fed === '3V3') return this.isPowered && !this.isShorted3V3 ? fed : 'nothing'
    return fed === 'source' && (this.has('no-supply') || this.isShorted) ? 'nothing' : fed
  }

  /** Every supply and return that the part has as planned is there. */
  isFed(owner: ResolvedPart): boolean {
    return kept(this.fed, owner.id, () => this.feeds(owner))
  }

  private feeds(owner: ResolvedPart): boolean {
    if (!this.isPowered) return false
    const { healthy } = this.shop
    if (this === healthy) return true
    const supplies = this.supplyPins(owner)
    const returns = this.returnPins(owner).filter(pin => healthy.wiring.fedBy(pin) === 'ground')
    const asPlanned = (pin: string) => this.fedBy(pin) === healthy.fedBy(pin)
    return supplies.every(asPlanned) && (!returns.length || returns.some(pin => this.wiring.fedBy(pin) === 'ground'))
  }

  supplyPins(owner: ResolvedPart): string[] {
    const { ownerOf } = this.shop.netlist
    const pins: string[] = owner.supplies.map(({ id }) => terminalKey(owner.id, id))
    return [...pins, usbSupplyPin(owner.id)].filter(pin => ownerOf.has(pin))
  }

  returnPins(owner: ResolvedPart): string[] {
    const { ownerOf } = this.shop.netlist
    const pins: string[] = owner.grounds.map(({ id }) => terminalKey(owner.id, id))
    return [...pins, usbReturnPin(owner.id)].filter(pin => ownerOf.has(pin))
  }

  /** Where a signal gets to: `planned`, a rail, another position, or nowhere. */
  signalAt(terminal: Terminal): SignalAt {
    const pin = plannedPin(terminal)!
    const { healthy } = this.shop
    const reaches = this.wiring.reaches(terminal.key, pin)
    if (this === healthy) return { at: 'planned' }
    const rail = this.wiring.stuckAt(terminal.key)
    if (rail && rail !== healthy.wiring.stuckAt(terminal.key)) return { at: 'rail', rail }
    if (reaches || !healthy.wiring.reaches(terminal.key, pin)) return { at: 'planned' }
    const other = this.shop.facts.board?.header.find(({ position, kind }) =>
      kind === 'line' && this.wiring.reaches(terminal.key, positionPin(position)))
    return other ? { at: 'position', position: other.position } : { at: 'nowhere' }
  }

  /** Signals that a terminal's wire gets to, itself among them. */
  joinedWith(terminal: Terminal): readonly Terminal[] {
    return this.together.get(this.wiring.signalNet(terminal.key))!
  }

  /** Joined with a signal that it is kept apart from. */
  isCrossed(terminal: Terminal): boolean {
    if (this === this.shop.healthy) return false
    const { healthy } = this.shop
    const isI2c = ({ signal }: Terminal) => signal!.role.startsWith('i2c.')
    // A device whose two lines are swapped hears nothing and pulls nothing down: the others go on talking.
    return this.joinedWith(terminal).some(other => other !== terminal
      && !(isI2c(terminal) && isI2c(other)) && !healthy.wiring.reaches(terminal.key, other.key))
  }

  /** All that a part needs of its wires. */
  isWired(owner: ResolvedPart): boolean {
    return kept(this.wired, owner.id, () =>
      this.shop.placed(owner).every(terminal => this.signalAt(terminal).at === 'planned' && !this.isCrossed(terminal))
      && this.shop.cables(owner).every(({ ways }) => ways.every(({ from, to }) => this.wiring.isJoined(from, to))))
  }

  hasNode(path: string): boolean {
    return this.isUp && (this.files.nodes.has(path) || !this.shop.healthy.files.nodes.has(path))
  }

  /** Its driver or its bus is not there for want of a line. */
  isDark(partId: string): boolean {
    if (!this.files.dark.has(partId) || this.shop.healthy.files.dark.has(partId)) return false
    const away = new Set(this.changes.flatMap(change => change.change === 'line' ? [change.line] : []))
    const lost = this.shop.needs.filter(({ need, partIds }) => partIds.includes(partId) && away.has(writeNeed(need)))
    // A bus whose own line is away may be on all the same: an overlay of another part switches it on too.
    return !lost.length || !lost.every(({ busId }) => busId !== undefined && this.busIsOn(busId))
  }

  private busIsOn(busId: string): boolean {
    const device = this.shop.facts.buses.find(({ id }) => id === busId)?.controller?.device
    return device !== undefined && this.files.nodes.has(device)
  }

  /** The wires of a bus at the header, by role. */
  private busPins(bus: Bus): { sda: string, scl: string } | null {
    const pin = (role: string) => {
      const terminal = this.shop.facts.groups.filter(group => group.bus?.id === bus.id)
        .flatMap(group => group.terminals)
        .find(entry => entry.signal!.role === role && plannedPin(entry))
      return terminal ? plannedPin(terminal) : null
    }
    const [sda, scl] = [pin('i2c.sda'), pin('i2c.scl')]
    return sda && scl ? { sda, scl } : null
  }

  /** True when a device on I²C hears and is heard. */
  answers(owner: ResolvedPart, bus: Bus): boolean {
    return this.isFed(owner) && !this.isDead(owner.id) && this.isWired(owner) && !this.busTrouble(bus)
  }

  /** What keeps a whole bus from working; null for nothing. */
  private busTrouble(bus: Bus): 'no bus' | 'stuck' | 'silent' | null {
    if (!this.isUp) return 'no bus'
    if (bus.controller?.device && !this.hasNode(bus.controller.device)) return 'no bus'
    if (this.pullOf(bus.id)) return 'silent'
    const pins = this.busPins(bus)
    if (!pins) return null
    const { healthy } = this.shop
    const rails = [pins.sda, pins.scl].map(pin => this.wiring.stuckAt(pin) === healthy.wiring.stuckAt(pin)
      ? null
      : this.wiring.stuckAt(
          pin))
    if (rails[0] === 'ground') return 'stuck'
    const crossed = this.wiring.reaches(pins.sda, pins.scl) && !healthy.wiring.reaches(pins.sda, pins.scl)
    return rails.some(rail => rail) || crossed ? 'silent' : null
  }

  /** Who answers on a bus and where, or what keeps all of it from working. */
  heard(bus: Bus): { owner: ResolvedPart, address: number }[] | 'no bus' | 'stuck' {
    const trouble = this.busTrouble(bus)
    if (trouble === 'no bus' || trouble === 'stuck') return trouble
    const devices = this.shop.facts.devices.filter(({ busId, also }) => busId === bus.id && !also)
    return devices.filter(({ owner }) => this.answers(owner, bus)).map(({ owner, address, optionId }) => ({
      owner, address: optionId !== undefined ? this.straps.get(owner.id) ?? address : address,
    }))
  }

  /** What a scan of the bus shows. */
  scan(bus: Bus): string {
    if (!this.isUp) return NOT_UP
    const heard = this.heard(bus)
    if (heard === 'no bus') return NO_BUS
    return heard === 'stuck' ? STUCK : answersAt(heard.map(({ address }) => address))
  }

  /** What the start comes to with the files as they lie on the card. */
  get rehearsal(): Rehearsal {
    return this.shop.rehearsed(...this.onCard)
  }

  isMisstrapped(partId: string): boolean {
    return this.straps.has(partId)
  }
}

/** With every contact that comes and goes gone: those of some conductors alone, where it is said which. */
export const opened = (changes: readonly Change[], { conductors }: Netlist,
  isMoved: (conductor: Conductor) => boolean = () => true):
Change[] => changes.flatMap((change): Change[] => {
  const conductor = change.change === 'loose' ? conductors.find(({ id }) => id === change.conductor) : undefined
  return conductor && isMoved(conductor)
    ? conductor.ways.map((_, way) => ({ change: 'open', conductor: conductor.id, way }))
    : [change]
})

/** The answer of a question that was asked before, or a new one. */
function kept<T>(answers: Map<string, T>, key: string, ask: () => T): T {
  const before = answers.get(key)
  if (before !== undefined) return before
  const answer = ask()
  answers.set(key, answer)
  return answer
}

export const NOT_UP = 'the board does not start'

const flagKey = (flag: Flag, partId?: string) => partId === undefined ? flag : `${flag}:${partId}`
