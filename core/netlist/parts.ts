/** Parts as components, and the conductors between them, what stands in their wires, and the board. */
import { stageComponent, stagePin, wireKey, terminalKey } from '../plan/ids'
import { passesThrough } from '../facts/seats'
import type { Facts, ResolvedPart, Terminal } from '../facts/types'
import { isHeaderRail } from '../catalogue/rails'
import { BOARD_ID, positionPin, returnOf } from './board'
import { positionOfPin, type BoardSpots, type Spot } from './spots'
import { BESIDE, DRIVES_LOAD, stagesOf, type Stage } from './stages'
import type { SupplyLayout } from './supplies'
import { plugsOf } from './supply/plugged'
import type { SupplyTree } from './supply/types'
import type { Component, Conductor, ConductorRole, Pin, PinId } from './types'

/** Where nothing else is said, a wire is so long. */
const USUAL_LENGTH_M = 0.2
/** A video or USB cable, where the part says nothing. */
const USUAL_CABLE_M = 1
/** A 1-Wire line wants one, and a breakout may or may not carry it. practice: 4.7 kΩ */
const ONE_WIRE_PULL = '4.7 kΩ'

/** A load of two terminals: every signal that has to be there drives it. */
const isPlainLoad = (owner: ResolvedPart) =>
  owner.signals.some(signal => signal.load) && owner.signals.every(signal => signal.load || signal.optional)

export function partComponent(owner: ResolvedPart): Component {
  const pin = (id: string, label: string): Pin => ({ id: `${owner.id}.${id}`, label })
  const contacts = (owner.inPlan.loads ?? []).map(load => load.contact)
  const pins: Pin[] = [
    ...owner.signals.map(signal => pin(signal.id, signal.label)),
    ...owner.supplies.filter(supply => supply.from !== 'usb').map(supply => pin(supply.id, supply.label)),
    ...owner.supplies.filter(supply => supply.socket)
      .flatMap(supply => [
        pin(`${supply.id}.socket`, `${supply.label} socket`),
        pin(`${supply.id}.socket-`, `${supply.label} socket, return`),
      ]),
    ...owner.grounds.map(ground => pin(ground.id, ground.label)),
    ...(owner.part.offers ?? []).flatMap(offer =>
      Object.values(offer.terminals).map(terminal => pin(terminal, terminal))),
    ...plugsOf(owner).flatMap(({ socket }) => [
      { id: plugPin(owner, socket), label: `${socket === 'usb' ? 'USB' : socket} plug` },
      ...socket === 'usb' ? [{ id: returnOf(plugPin(owner, socket)), label: 'USB plug, return' }] : [],
    ]),
    ...[...new Set(contacts)].flatMap(contact => [
      { id: `${owner.id}#${contact}.com`, label: `contact ${contact} COM` },
      { id: `${owner.id}#${contact}.no`, label: `contact ${contact} NO` },
    ]),
  ]
  const unique = pins.filter((entry, i) => pins.findIndex(other => other.id === entry.id) === i)
  const sockets = owner.supplies.filter(supply => supply.socket)
    .map(supply => [`${owner.id}.${supply.id}`, `${owner.id}.${supply.id}.socket`])
  const returns = [
    ...owner.grounds.map(ground => `${owner.id}.${ground.id}`),
    ...owner.supplies.filter(supply => supply.socket).map(supply => `${owner.id}.${supply.id}.socket-`),
  ]
  return {
    id: owner.id, kind: 'part', name: owner.name, what: owner.part.name, partId: owner.id, type: owner.part.id,
    pins: unique,
    inside: [...sockets, returns].filter(list => list.length > 1),
    ...owner.part.price !== undefined && { price: owner.part.price },
  }
}

const plugPin = (owner: ResolvedPart, socket: string): PinId => `${owner.id}#${socket}`

export class PartLayout {
  readonly components: Component[] = []
  readonly conductors: Conductor[] = []

  constructor(
    private readonly facts: Facts, private readonly tree: SupplyTree, private readonly supply: SupplyLayout,
    private readonly spots: BoardSpots,
  ) {
    for (const owner of facts.parts) this.components.push(partComponent(owner))
    const stages = stagesOf(facts.terminals)
    for (const owner of facts.parts) {
      if (owner.part.isAddOn) this.laySeat(owner)
      else for (const terminal of facts.terminals) if (terminal.owner === owner) this.layTerminal(terminal)
      this.layOwnFeeds(owner)
      this.layPlugs(owner)
    }
    for (const stage of stages) this.layStage(stage)
    this.layOneWirePull()
  }

  /** The pin that a terminal's place is. */
  private placeOf({ place }: Terminal): Spot | null {
    if (place?.kind === 'header') return { pin: positionPin(place.position), component: BOARD_ID }
    return place?.kind === 'terminal' ? { pin: `${place.owner.id}.${place.terminal}`, component: place.owner.id } : null
  }

  private wire(terminal: Terminal, id: string, from: Spot, to: Spot, role: ConductorRole,
    more: Partial<Conductor> = {}): void {
    const { owner, key } = terminal
    const position = positionOfPin(to.pin)
    this.conductors.push({
      id, kind: 'wire', role, from: from.component, to: to.component, terminal: key, partId: owner.id,
      ...position !== undefined && { position },
      lengthM: this.facts.plan.build.wires[key]?.lengthM ?? owner.part.leadM ?? USUAL_LENGTH_M, ...more,
      ways: [{ from: from.pin, to: to.pin }],
    })
  }

  private layTerminal(terminal: Terminal): void {
    const { key, owner } = terminal
    const from: Spot = { pin: key, component: owner.id }
    if (terminal.is === 'supply') return this.laySupply(terminal, from)
    const place = this.placeOf(terminal)
    if (!place) return
    if (terminal.is === 'ground') {
      // Behind a driving stage a plain load has no return of its own, and an isolated input keeps its return apart.
      if (this.goesThroughStage(owner)) return
      this.wire(terminal, wireKey(key, placeKey(place)), from, place, 'ground')
    }
    else if (!terminal.between
      || BESIDE.has(terminal.between.kind)) this.wire(terminal, wireKey(key, placeKey(place)), from, place, 'signal')
  }

  private goesThroughStage(owner: ResolvedPart): boolean {
    const stages = this.facts.terminals.filter(terminal => terminal.owner === owner && terminal.between)
    return (isPlainLoad(owner) && stages.some(terminal => DRIVES_LOAD.has(terminal.between!.kind)))
      || (stages.length > 0 && stages.every(terminal => terminal.between!.kind === 'opto-coupler'))
  }

  /** A supply terminal goes to what feeds it, which the supply graph says. */
  private laySupply(terminal: Terminal, from: Spot): void {
    const wire = this.tree.byId.get(`${terminal.key}@wire`)
    const [feeder] = wire?.from ?? []
    const place = feeder === undefined ? null : this.supply.outputOf(feeder)
    // What has no place on the header yet is open, not wired to the rail.
    if (!place || feeder === '@5V' || feeder === '@3V3') return
    const onHeader = positionOfPin(place.pin) !== undefined
    const rail = terminal.supply!.rail
    this.wire(
      terminal, wireKey(terminal.key, placeKey(place)), from, place, onHeader ? rail : 'supply',
      { node: wire!.id, ...wireFigures(wire) },
    )
    if (!onHeader) this.layReturn(terminal, place)
  }

  /** Beside a feed that is not the header's runs its return. */
  private layReturn({ owner, key }: Terminal, place: Spot): void {
    const ground = owner.grounds[0]
    const stage = this.facts.terminals.find(other =>
      other.owner === owner && other.between && DRIVES_LOAD.has(other.between.kind))
    let from: Spot | null
    if (stage && isPlainLoad(owner)) from = { pin: stagePin(stage.key, 'gnd'), component: stageComponent(stage.key) }
    else from = ground
      ? { pin: `${owner.id}.${ground.id}`, component: owner.id }
      : null
    if (!from) return
    this.conductors.push({
      id: `${key}@return`, kind: 'wire', role: 'ground', from: from.component, to: place.component, partId: owner.id,
      lengthM: owner.part.leadM ?? USUAL_LENGTH_M, ways: [{ from: from.pin, to: this.spots.returnFor(place.pin) }],
    })
  }

  /** Terminals that only a supply of the maker's feeds. */
  private layOwnFeeds(owner: ResolvedPart): void {
    for (const supply of owner.supplies.filter(entry => entry.from === 'own')) {
      const key = `${owner.id}.${supply.id}`
      const wire = this.tree.byId.get(`${key}@wire`)
      const [feeder] = wire?.from ?? []
      const place = feeder === undefined ? null : this.supply.outputOf(feeder)
      if (!place) continue
      this.conductors.push({
        id: wireKey(key, placeKey(place)), kind: 'wire', role: isHeaderRail(supply.rail) ? 'supply' : supply.rail,
        from: owner.id,
        to: place.component, partId: owner.id, node: wire!.id, lengthM: owner.part.leadM ?? USUAL_LENGTH_M,
        ...wireFigures(wire),
        ways: [{ from: key, to: place.pin }],
      })
      this.layReturn({ owner, key } as Terminal, place)
    }
  }

  /** Everything at once: the board is pushed on. */
  private laySeat(owner: ResolvedPart): void {
    const ways = this.facts.terminals
      .filter(terminal => terminal.owner === owner && terminal.place?.kind === 'header')
      .map(terminal => ({ from: terminal.key, to: this.placeOf(terminal)!.pin }))
    if (!this.facts.board || !owner.part.seat) return
    if (owner.part.seat.passesOption && passesThrough(owner)) {
      this.components.push({
        id: `header:${owner.id}`, kind: 'item', name: `Header with long pins below ${owner.name}`,
        what: 'Header with long pins',
        partId: owner.id, pins: [], inside: [], price: 2,
      })
    }
    this.conductors.push({
      id: `${owner.id}@seat`, kind: 'seat', role: 'data', from: owner.id, to: BOARD_ID, partId: owner.id, lengthM: 0,
      ways,
    })
  }

  private layPlugs(owner: ResolvedPart): void {
    for (const { socket } of plugsOf(owner)) {
      const pin = plugPin(owner, socket)
      const supply = socket === 'usb' ? owner.supplies.find(entry => entry.from === 'usb') : undefined
      const wire = supply && this.tree.byId.get(`${owner.id}.${supply.id}@wire`)
      const [feeder] = wire?.from ?? []
      const into = feeder !== undefined && feeder !== '@usb' ? this.supply.outputOf(feeder) : this.spots.socket(socket)
      if (!into) continue
      const flat = socket === 'display'
      this.conductors.push({
        id: `${owner.id}@${socket}`, kind: flat ? 'flat cable' : 'plug', role: 'data', from: owner.id,
        to: into.component,
        partId: owner.id, ...wire && { node: wire.id },
        lengthM: wire?.figures.lengthM?.value ?? owner.part.leadM ?? USUAL_CABLE_M,
        ways: [{ from: pin, to: into.pin },
          ...socket === 'usb' ? [{ from: returnOf(pin), to: this.spots.returnFor(into.pin) }] : []],
      })
    }
  }

  private layStage({ component, ends }: Stage): void {
    this.components.push(component)
    for (const { pin, end, terminal } of ends) {
      const here: Spot = { pin, component: component.id }
      const place = this.placeOf(terminal)
      const near = place ? positionOfPin(place.pin) : undefined
      if (end === 'part') this.wire(terminal, `${terminal.key}@stage`,
        { pin: terminal.key, component: terminal.owner.id }, here, 'signal')
      else if (end === 'place' && place
        && BESIDE.has(terminal.between!.kind)) this.common(pin, here, terminal, place, 'signal')
      else if (end === 'place'
        && place) this.wire(terminal, wireKey(terminal.key, placeKey(place)), here, place, 'signal')
      else if (end === 'ground') this.common(pin, here, terminal, this.groundFor(terminal, near), 'ground')
      else if (end === '3V3') this.common(pin, here, terminal, this.spots.nearest('3V3', near), '3V3')
      else if (end === 'part supply') this.common(pin, here, terminal, this.supplyFor(terminal, near), '5V')
      else if (end === 'part return') {
        const ground = terminal.owner.grounds[0]
        if (ground) this.common(pin, { pin: `${terminal.owner.id}.${ground.id}`, component: terminal.owner.id },
          terminal, here, 'ground')
      }
    }
  }

  private common(id: string, from: Spot, { owner }: Terminal, to: Spot | null, role: ConductorRole): void {
    if (!to) return
    const position = positionOfPin(to.pin)
    this.conductors.push({
      id: wireKey(id, placeKey(to)), kind: 'wire', role, from: from.component, to: to.component, partId: owner.id,
      ...position !== undefined && { position }, lengthM: USUAL_LENGTH_M, ways: [{ from: from.pin, to: to.pin }],
    })
  }

  /** The ground that the plan gives the part, else the one nearest to the wire. */
  private groundFor({ owner }: Terminal, near: number | undefined): Spot | null {
    const own = this.facts.terminals.find(other =>
      other.owner === owner && other.is === 'ground' && other.place?.kind === 'header')
    return own ? this.placeOf(own) : this.spots.nearest('ground', near)
  }

  /** What feeds the part on the far side of a shifter; the header's 5 V where it is not fed from here. */
  private supplyFor({ owner }: Terminal, near: number | undefined): Spot | null {
    const own = owner.supplies.map(supply => this.tree.byId.get(`${owner.id}.${supply.id}@wire`)?.from[0])
      .find(feeder => feeder !== undefined && feeder !== '@5V' && feeder !== '@3V3')
    return (own !== undefined ? this.supply.outputOf(own) : null) ?? this.spots.nearest('5V', near)
  }

  /** The resistor of the 1-Wire line, where no part of it carries one. */
  private layOneWirePull(): void {
    const first = this.facts.terminals.find(terminal =>
      terminal.signal?.role === 'onewire' && terminal.place?.kind === 'header')
    const pulled = this.facts.terminals.some(terminal =>
      terminal.signal?.role === 'onewire' && (terminal.signal.pull || terminal.between?.kind === 'pull-up'))
    const place = first && this.placeOf(first)
    const rail = this.spots.nearest('3V3', place ? positionOfPin(place.pin) : undefined)
    if (!first || !place || !rail || pulled) return
    const id = stageComponent(terminalKey('onewire', 'pull-up'))
    this.components.push({
      id, kind: 'stage', name: `Pull-up of the 1-Wire line, ${ONE_WIRE_PULL}`, what: `Resistor, ${ONE_WIRE_PULL}`,
      partId: first.owner.id,
      pins: [{ id: `${id}.a`, label: 'one end' }, { id: `${id}.b`, label: 'other end' }], inside: [], price: 0.1,
    })
    this.common(`${id}.a`, { pin: `${id}.a`, component: id }, first, place, 'signal')
    this.common(`${id}.b`, { pin: `${id}.b`, component: id }, first, rail, '3V3')
  }
}

/** `38` for a header position, else the pin. */
const placeKey = ({ pin }: Spot) => String(positionOfPin(pin) ?? pin)

const wireFigures = (wire: ReturnType<SupplyTree['byId']['get']>): Partial<Conductor> => wire?.kind === 'cable'
  ? { ...wire.figures.awg && { awg: wire.figures.awg.value },
      ...wire.figures.lengthM && { lengthM: wire.figures.lengthM.value } }
  : {}
