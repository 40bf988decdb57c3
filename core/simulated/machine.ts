/**
 * The simulated board: the plan's thing with its faults, its surroundings and a clock that only what is done moves on.
 * It runs nowhere but here: what it shows comes from the model that finds faults, so that the two cannot disagree.
 */
import { INFO } from './info'
import { BOARD_ID } from '../netlist/board'
import type { Bus, Facts, ResolvedPart } from '../facts/types'
import type { Quantity } from '../catalogue/types'
import type { Rehearsal } from '../boot/rehearse/types'
import { baseOf } from '../boot/rehearse/rehearse'
import { benchOf, type Bench } from '../diagnosis/table'
import { opened, type World } from '../diagnosis/world'
import type { Change } from '../diagnosis/types'
import type { Conductor } from '../netlist/types'
import { devicesIn, type Present } from '../diagnosis/devices'
import { controllersOf, driversOf, type Driver } from '../diagnosis/drivers'
import { lineChips, lineKeyOf, pinOfChipLine, usualBias, type SimulatedChip } from './chips'
import { Levels, type Driven } from './levels'
import { listen, portsOf, read, write, type Port } from './ports'
import { LineParts } from './line-parts'
import { quantityAt, USUAL, type Surroundings, type Touch } from './surroundings'
import { pointAt, warmingOf, type Warming } from './warmth'

export interface MachineOptions {
  /** The bench of the plan, where it is made already. */
  bench?: Bench
  /** Faults made in the thing. */
  changes?: readonly Change[]
  /** Major version of the line tools on the image; their options and what they print differ. */
  lineTools?: 1 | 2
  /** Wall clock at which the power comes on. */
  at?: Date
}

/** A moment a line changed while somebody watched. */
export interface LineEvent { line: number, rising: boolean, atS: number }

/** From power to a login. Common practice, no source. */
export const START_S = 19
/** How long the chip takes to cool and warm where no load test says more. Common practice, no source. */
const COOL_S = 180

export class Machine {
  readonly bench: Bench
  readonly lineTools: 1 | 2
  readonly startedAt: Date
  world: World
  rehearsal: Rehearsal
  surroundings: Surroundings
  isOn = true
  /** Seconds since the power came on. */
  nowS = START_S
  readonly active = new Set<string>()
  readonly outputs = new Map<number, 0 | 1>()
  readonly bias = new Map<number, 'up' | 'down' | 'none'>()
  /** What a program wrote into registers: `part register` → value. */
  readonly written = new Map<string, number>()
  /** All bytes that programs sent to a part, by its id. */
  readonly bytes = new Map<string, number[]>()
  /** Lines that a program watches, with the level that each had last; null while none does. */
  watching: Map<number, 0 | 1> | null = null
  /** Wall seconds at which all cores became busy; null at rest. */
  busySinceS: number | null = null
  private readonly touches = new Map<string, Touch[]>()
  private readonly unplugged = new Set<string>()
  private readonly looped = new Set<string>()
  /** Parts whose wires are moved now, and `@board` for what goes to the board by itself. */
  private readonly moved = new Set<string>()
  /** A moved wire took the supply away from a running system. */
  private wentOff = false
  /** Temperature when the load last changed. */
  private warmth: { atS: number, celsius: number } | null = null
  private wasLow = false
  /** The supply went while the system ran, and the start since then had the card to mend. */
  isUnclean = false
  private warmed: { world: World, airC: number, run: Warming | null } | null = null
  /** Parts that were plugged or pulled since the start, for the kernel's messages. */
  readonly plugs: { atS: number, owner: ResolvedPart, isIn: boolean }[] = []
  private chipsIn: { world: World, chips: SimulatedChip[] } | null = null
  ports: Map<string, Port>
  readonly lineParts = new LineParts(this)
  /** What hands are going to do, and when. */
  private hands: { atS: number, act: () => void }[] = []

  /** Throws `DeviceTreeError` for a base tree of the maker's that cannot be read, `RangeError` without a board. */
  constructor(readonly facts: Facts, private readonly options: MachineOptions = {}) {
    if (!facts.board) throw new RangeError('The plan has no board: choose one.')
    this.bench = options.bench ?? benchOf(facts)
    this.lineTools = options.lineTools ?? 1
    // The room is that of the plan's load test.
    this.surroundings = { ...USUAL, airC: facts.plan.power.heat.ambientC }
    this.startedAt = options.at ?? new Date(INFO.usualStart)
    this.world = this.bench.shop.worldOf(this.changes)
    this.rehearsal = this.world.rehearsal
    this.ports = portsOf(this.bench)
  }

  /** The faults, and what was pulled or joined by hand. */
  private get changes(): Change[] {
    const { netlist } = this.bench.shop
    const pulled = netlist.conductors.filter(({ partId }) => partId !== undefined && this.unplugged.has(partId))
      .flatMap(({ id, ways }) => ways.map((_, way): Change => ({ change: 'open', conductor: id, way })))
    return [...opened(this.options.changes ?? [], netlist, conductor => this.isMoved(conductor)), ...pulled]
  }

  /** A wire of what is moved, or one that it meets on its way to the board. */
  private isMoved({ partId, from, to }: Conductor): boolean {
    if (partId !== undefined) return this.moved.has(partId)
    if (this.moved.has(BOARD_ID)) return true
    return this.bench.shop.netlist.conductors.some(other => other.partId !== undefined && this.moved.has(other.partId)
      && [other.from, other.to].some(end => end !== BOARD_ID && (end === from || end === to)))
  }

  /** Takes the wires of a part, or those of the board, between the fingers and moves them, until they are let go. */
  move(id: string, isMoved: boolean): void {
    const wasUp = this.isUp
    if (isMoved) this.moved.add(id)
    else this.moved.delete(id)
    this.rebuild()
    if (wasUp && !this.world.isUp) this.wentOff = true
    if (!this.wentOff || !this.world.isUp) return
    this.switch(true)
    this.isUnclean = true
    this.wentOff = false
  }

  /** What has its wires moved now. */
  get inHand(): ReadonlySet<string> {
    return this.moved
  }

  private rebuild(): void {
    this.world = this.bench.shop.worldOf(this.changes)
  }

  /** True while somebody can type at it. */
  get isUp(): boolean {
    return this.isOn && this.world.isUp && this.nowS >= START_S
  }

  get now(): Date {
    return new Date(this.startedAt.getTime() + this.nowS * 1000)
  }

  /** What hands do once it is that late. */
  later(atS: number, act: () => void): void {
    this.hands = [...this.hands, { atS, act }].sort((a, b) => a.atS - b.atS)
  }

  /** When hands do something next; null for never. */
  get nextS(): number | null {
    return this.hands[0]?.atS ?? null
  }

  pass(seconds: number): void {
    const untilS = this.nowS + seconds
    while (this.hands[0] && this.hands[0].atS <= untilS) {
      const { atS, act } = this.hands.shift()!
      this.nowS = Math.max(this.nowS, atS)
      act()
    }
    this.nowS = untilS
    for (const port of this.ports.values()) listen(port, this.bench, this.world, this.nowS)
    if (this.isLow) this.wasLow = true
  }

  get levels(): Levels {
    const { outputs, bias, active, isBusy } = this
    return new Levels(this.bench, this.world, { outputs, bias, active, isBusy, chips: this.chipPins() })
  }

  /**
   * Lines of other chips that a program set or gave a pull, or that pull up by themselves, with the pins that they
   * come out at.
   */
  private chipPins(): Driven['chips'] {
    return this.lineChips.slice(1).flatMap(chip => Array.from({ length: chip.count }, (_, offset) => {
      const line = lineKeyOf(chip, offset)
      const output = this.outputs.get(line)
      return { pin: pinOfChipLine(this, line)!, ...output !== undefined && { output },
        bias: this.bias.get(line) ?? usualBias(chip) }
    }))
  }

  /** Chips of lines that are there now; asked at every look at a line. */
  get lineChips(): readonly SimulatedChip[] {
    if (this.chipsIn?.world !== this.world) this.chipsIn = { world: this.world,
      chips: lineChips(this.facts, this.devices) }
    return this.chipsIn.chips
  }

  /** Nodes that are there now. */
  get devices(): Present[] {
    return devicesIn(this.world, this.bench, this.rehearsal)
  }

  /** Nodes of the tree that were taken up by a driver. */
  get drivers(): Driver[] {
    return driversOf(this.rehearsal.tree, baseOf(this.facts))
  }

  /** Path in the tree of a bus of the board. */
  busPath({ controller }: Bus): string | null {
    const id = controller?.id.replace(/\.\d+$/, '')
    return id === undefined ? null : this.controllers.find(({ labels }) => labels.includes(id))?.path ?? null
  }

  private get controllers() {
    return controllersOf(this.rehearsal.tree)
  }

  /** Every part with a plug or wires that can be pulled. */
  get pluggable(): ResolvedPart[] {
    return this.bench.shop.parts.filter(({ part }) => !part.isAddOn)
  }

  isIn(partId: string): boolean {
    return !this.unplugged.has(partId)
  }

  plug(owner: ResolvedPart, isIn: boolean): void {
    if (isIn) this.unplugged.delete(owner.id)
    else this.unplugged.add(owner.id)
    this.plugs.push({ atS: this.nowS, owner, isIn })
    this.rebuild()
  }

  /** Transmit and receive of a port joined, its part taken off; or as it was. */
  loop(path: string, isLooped: boolean): void {
    if (isLooped) this.looped.add(path)
    else this.looped.delete(path)
  }

  isLooped(path: string): boolean {
    return this.looped.has(path)
  }

  touch(partId: string, what: Touch['what']): void {
    this.touches.set(partId, [...this.touches.get(partId) ?? [], { what, atS: this.nowS }])
  }

  /** What a part measures now, of what it can measure. */
  quantity(owner: ResolvedPart, what: Quantity): number {
    return quantityAt(what, this.surroundings, this.touches.get(owner.id) ?? [], this.nowS)
  }

  /** Pulls the supply from under whatever runs: the card is told at the next start. */
  cut(): void {
    const isUnclean = this.isUnclean || this.isUp
    this.switch(false)
    this.isUnclean = isUnclean
  }

  switch(isOn: boolean): void {
    // A start that comes to its end has put the card in order.
    if (this.isUp) this.isUnclean = false
    this.isOn = isOn
    this.nowS = isOn ? START_S : 0
    this.outputs.clear()
    this.lineParts.reset()
    this.hands = []
    this.bias.clear()
    this.written.clear()
    this.bytes.clear()
    this.watching = null
    this.busySinceS = null
    this.warmth = null
    this.wasLow = false
    this.plugs.length = 0
    this.wentOff = false
    this.touches.clear()
    this.ports = portsOf(this.bench)
    this.rehearsal = this.world.rehearsal
  }

  load(isBusy: boolean): void {
    this.warmth = { atS: this.nowS, celsius: this.chipC }
    this.busySinceS = isBusy ? this.busySinceS ?? this.nowS : null
  }

  /** The load test in this air and with this fan; worked out when one of them changes. */
  private get warming(): Warming | null {
    const { airC } = this.surroundings
    if (this.warmed?.world !== this.world || this.warmed.airC !== airC) {
      this.warmed = { world: this.world, airC, run: warmingOf(this.facts, this.bench.power, this.world, airC) }
    }
    return this.warmed.run
  }

  /** Temperature of the processor, °C, and how fast its fan turns, in percent. */
  get heat(): { chipC: number, fanPercent: number } {
    const run = this.warming
    const rest = run ? pointAt(run, 0) : { temperatureC: this.surroundings.airC + INFO.idleAboveAirC, fanPercent: 0 }
    if (this.busySinceS !== null && run) {
      const { temperatureC, fanPercent } = pointAt(run, this.nowS - this.busySinceS)
      return { chipC: Math.max(temperatureC, this.cooling(rest.temperatureC)), fanPercent }
    }
    return { chipC: this.cooling(rest.temperatureC), fanPercent: rest.fanPercent }
  }

  /** From where it was when the load last changed back to rest. */
  private cooling(restC: number): number {
    return this.warmth
      ? restC + Math.max(0, this.warmth.celsius - restC) * Math.exp(-(this.nowS - this.warmth.atS) / COOL_S)
      : restC
  }

  get chipC(): number {
    return this.heat.chipC
  }

  get isBusy(): boolean {
    return this.busySinceS !== null
  }

  /** The supply does not hold at this moment. */
  get isLow(): boolean {
    return this.isOn && this.busySinceS !== null && (this.world.has('weak-supply') || this.world.has('thin-cable'))
  }

  /** Bits as in the throttle word: 0 low now, 2 slowed now, 16 and 18 the same since the start. */
  get throttleWord(): number {
    const run = this.warming
    const isSlow = run !== null && this.busySinceS !== null && this.chipC >= run.slowsC
    return (this.isLow ? 1 : 0) | (isSlow ? 4 : 0) | (this.isLow || this.wasLow ? 0x1_0000 : 0) | (isSlow
      ? 0x4_0000
      : 0)
  }

  /** The port behind a path: a link leads to the same one. */
  portPath(path: string): string | null {
    if (this.ports.has(path)) return this.devices.some(device => device.path === path) ? path : null
    // The first port of the board under its other name.
    const isFirst = /^\/dev\/tty(S|AMA)\d+$/.test(path) && this.devices.some(device => device.path === path)
    return isFirst
      ? [...this.ports.keys()].find(name => name.startsWith('/dev/serial')
        && this.devices.some(device => device.path === name)) ?? null
      : null
  }

  /** Writes to a port, and lets the answer come. */
  send(path: string, sent: string | readonly number[]): void {
    const port = this.ports.get(path)
    if (port) write(port, sent, this.bench, this.world, this.looped.has(path))
  }

  /** What came at a port; waits a moment for it. */
  receive(path: string): number[] {
    const port = this.ports.get(path)
    if (!port) return []
    listen(port, this.bench, this.world, this.nowS)
    return read(port)
  }

  /** What changed on the lines that are watched since this was last asked. */
  changed(): LineEvent[] {
    const { watching, nowS } = this
    if (!watching) return []
    const found: LineEvent[] = []
    for (const [line, before] of watching) {
      const now = this.level(line)
      if (now !== before) found.push({ line, rising: now === 1, atS: nowS })
      watching.set(line, now)
    }
    return found
  }

  /** A program puts a level on a line. */
  setLine(line: number, level: 0 | 1): void {
    const before = this.outputs.get(line)
    this.outputs.set(line, level)
    this.lineParts.moved(line, before, level)
  }

  /** Level that a program reads on a line; a line that nothing holds reads 0. */
  level(line: number): 0 | 1 {
    const answered = this.lineParts.level(line)
    if (answered !== undefined) return answered
    const pin = pinOfChipLine(this, line)
    if (pin === null) return this.outputs.get(line) ?? 0
    const level = this.levels.at(pin)
    return 'volts' in level && level.volts > INFO.readsHighAboveV ? 1 : 0
  }
}
