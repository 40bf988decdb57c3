/**
 * What can be looked at, measured and tried, in an order in which nothing is switched on before it was looked at; and
 * what is seen there in a given thing. Minutes are common practice, no source.
 */
import { deviceProbeId, isUsbReturnPin, isUsbSupplyPin } from '../plan/ids'
import type { Wire } from '../construction/wires'
import type { ResolvedPart, Terminal } from '../facts/types'
import { writeNeed } from '../overlays/asks/write'
import { WAY_WORDS } from '../mechanics/plugged'
import { positionOfPin } from '../netlist/spots'
import type { Expected } from '../bringup/expected'
import { NO_SHORT, SHORT, SHORT_READING } from '../vocabulary/reading'
import { LOOKING, NOTHING, REVERSED } from './names'
import { thinGrounds } from './faults'
import { nodeIsThere } from './nodes'
import { inDoubt } from './doubt'
import { follows, movedBy } from './drive'
import { isChipThere, linePinsOf, type LinePin } from './line-pins'
import { worksAs } from './works'
import { CONTACTS, MINUTES, MUST, type Looking } from './looking'
import { NOT_UP, type Workshop, type World } from './world'
import type { Conductor } from '../netlist/types'
import type { Change } from './types'

/** Everything that can be tried with a plan, in the order of the phases. Law: each probe has a name of its own. */
export function probesOf(shop: Workshop, wires: readonly Wire[], expected: Expected): Looking[] {
  return [
    ...beforePower(shop, wires), ...firstPower(shop, expected), ...afterStart(shop, expected),
    ...eachPart(shop, expected),
    ...underLoad(shop),
    ...inDoubt(shop, wires),
  ]
}

const first = (shop: Workshop, kind: string) => shop.facts.board?.header.find(entry => entry.kind === kind)?.position

function beforePower(shop: Workshop, wires: readonly Wire[]): Looking[] {
  const { netlist } = shop
  const [five, three, ground] = ['5V', '3V3', 'ground'].map(kind => first(shop, kind))
  const between = (position: number) =>
    `${MUST}Meter on resistance, between position ${position} and position ${ground}.`
  const found: Looking[] = []
  const short = (id: string, rail: string, position: number | undefined, isShort: (world: World) => boolean) => {
    if (position === undefined || ground === undefined) return
    found.push({
      probe: {
        id, phase: 'before power', title: `No short between ${rail} and ground`, how: between(position),
        minutes: MINUTES.ohm,
        at: { positions: [position, ground] }, reading: SHORT_READING,
        caution: `Below ${SHORT_READING.min} Ω do not switch on.`,
      },
      see: world => isShort(world) ? SHORT : NO_SHORT,
    })
  }
  short('ohm:5V', '5 V', five, world => world.isShorted)
  short('ohm:3V3', '3.3 V', three, world => world.isShorted3V3)
  for (const wire of wires) {
    const conductor = netlist.conductors.find(({ id }) => id === wire.key)!
    let place: string
    if (conductor.kind === 'seat') place = `${wire.partName} sits with position 1 over position 1`
    else place = conductor.kind === 'flat cable'
      ? `The flat cable of ${wire.partName} is in to its mark, contacts as the Build stage says`
      : `${wire.partName}, ${wire.from} goes to ${wire.to}`
    found.push({
      probe: {
        id: `look:${wire.key}`, phase: 'before power', title: place,
        how: `${MUST}Look along it from end to end, and count from position 1.`, minutes: MINUTES.look,
        at: { conductors: [wire.key], ...wire.position !== undefined && { positions: [wire.position] },
          ...wire.partId !== undefined && { parts: [wire.partId] } },
      },
      see: ({ changes }) => placeSeen(changes, conductor, wires),
    })
  }
  return found
}

/** Where the eye finds a conductor. A wire without contact looks like one with it. */
function placeSeen(changes: readonly Change[], { id, kind }: Conductor, wires: readonly Wire[]): string {
  for (const change of changes) {
    if (change.change === 'move' && change.conductor === id) return `it is at position ${positionOfPin(change.to)}`
    if (change.change === 'seat' && change.conductor === id) return WAY_WORDS[change.way].toLowerCase()
    if (change.change === 'swap' && change.conductors.includes(id)) {
      const other = change.conductors.find(entry => entry !== id)
      return `it is swapped with ${wires.find(({ key }) => key === other)?.from ?? other}`
    }
    if (change.change === 'open' && kind === 'flat cable'
      && change.conductor === id) return 'it is turned, or not all the way in'
  }
  return 'as planned'
}

function firstPower(shop: Workshop, expected: Expected): Looking[] {
  if (!shop.facts.board) return []
  const found: Looking[] = [{
    probe: {
      id: LOOKING.lamps, phase: 'first power', title: 'Lamps of the board', minutes: MINUTES.lamp, at: {},
      how: 'Switch on and look: red for power, green flickers while the card is read. Switch off at once if anything '
        + 'smells or gets hot.',
    },
    see: (world) => {
      if (!world.isPowered) return 'none'
      if (world.isShorted3V3 || world.has('card')) return 'red alone'
      return world.has('old-image') ? 'green in counted flashes' : 'red, and green flickers'
    },
  }]
  const [five, ground] = [first(shop, '5V'), first(shop, 'ground')]
  const rail = expected.voltages.some(({ node }) => node === '@5V') ? shop.span('@5V') : null
  if (five !== undefined && ground !== undefined && rail) found.push({
    probe: {
      id: 'volt:5V', phase: 'first power', title: '5 V at the header', minutes: MINUTES.volt,
      at: { positions: [five, ground] },
      how: `Meter on DC volts, position ${five} against position ${ground}. A slipped tip shorts two positions.`,
      reading: { unit: 'V', ...rail },
    },
    see: world => world.isPowered ? 'as planned' : 'nothing',
  })
  for (const owner of shop.parts) {
    const [supply] = shop.healthy.supplyPins(owner).filter(pin => !isUsbSupplyPin(pin))
    const [back] = shop.healthy.returnPins(owner).filter(pin => !isUsbReturnPin(pin))
    if (!supply || !back || owner.part.isAddOn) continue
    const label = owner.supplies.find(({ id }) => supply === `${owner.id}.${id}`)!.label
    const fed = shop.healthy.fedBy(supply)
    if (fed === 'nothing' || fed === 'ground') continue
    const span = shop.span(supply)
    found.push({
      probe: {
        id: `volt:${supply}`, phase: 'first power', title: `${owner.name}: supply at its own pins`,
        minutes: MINUTES.volt,
        how: `Meter on DC volts at the part: ${label} against ${owner.grounds[0]?.label ?? 'its return'}.`,
        at: { parts: [owner.id] },
        ...span && { reading: { unit: 'V' as const, ...span } },
      },
      see: world => voltsAt(world, owner, supply, shop),
    })
  }
  return found
}

/** Volts of what stands at a pin; a source's own are told by its name. */
const RAIL_V: Readonly<Record<string, number>> = { 'ground': 0, '3V3': 3.3, '5V': 5 }
/** Below it a meter shows nothing. */
const NO_VOLTS = 0.3

/** What the meter shows between a part's supply and its return. A pin that hangs on nothing shows nothing. */
function voltsAt(world: World, owner: ResolvedPart, supply: string, shop: Workshop): string {
  const planned = shop.healthy.fedBy(supply)
  const fed = world.fedBy(supply)
  const back = world.returnPins(owner).filter(pin => shop.healthy.wiring.fedBy(pin) === 'ground')
    .map(pin => world.fedBy(pin))
    .filter(found => found !== 'nothing')
  if (!world.isPowered || fed === 'nothing' || !back.length) return NOTHING
  if (back.includes('ground')) {
    if (fed === planned) return 'as planned'
    if (fed === 'ground') return 'nothing'
    return fed === 'source' ? 'the supply\'s own volts in its place' : `${RAIL_V[fed]} V in its place`
  }
  const [from, to] = [back[0]!, fed].map(found => RAIL_V[found] ?? null)
  // Beside a supply of the maker's own only the sign is sure.
  if (from === null || to === null) return to === 0 ? REVERSED : 'nothing'
  const volts = to! - from!
  if (Math.abs(volts) < NO_VOLTS) return 'nothing'
  return volts < 0 ? REVERSED : `${volts.toFixed(1)} V in its place`
}

function afterStart(shop: Workshop, expected: Expected): Looking[] {
  if (!shop.facts.board) return []
  const found: Looking[] = [{
    probe: { id: 'up', phase: 'after the start', title: 'The system is there',
      how: 'A picture, or a login over the network.',
      minutes: MINUTES.lamp, at: {} },
    see: world => world.isUp ? 'it is there' : 'it does not come',
  }]
  // A pattern may stand for things of several parts: one of them is enough for it to be there.
  const own = ownNodes(shop)
  for (const path of new Set(expected.nodes.map(node => node.path))) {
    // What the board has by itself, or one more of it, tells nothing.
    if (own.some(name =>
      name === path || (path.includes('*') && name.startsWith(path.slice(0, path.indexOf('*')))))) continue
    const nodes = expected.nodes.filter(node => node.path === path)
    const owners = nodes.flatMap(({ partId }) => shop.parts.some(({ id }) => id === partId) ? [partId!] : [])
    found.push({
      probe: {
        id: deviceProbeId(path), phase: 'after the start', title: `${path}: ${nodes.map(({ what }) => what).join('; ')}`,
        how: 'List it.',
        command: `ls -d ${path}`, minutes: MINUTES.list, at: owners.length ? { parts: owners } : {},
      },
      see: (world) => {
        if (!world.isUp) return NOT_UP
        return nodes.some(node => nodeIsThere(world, node, shop)) ? 'it is there' : 'it is missing'
      },
    })
  }
  for (const { busId, label, command } of expected.scans) {
    const bus = shop.facts.buses.find(({ id }) => id === busId)
    if (!bus || !shop.facts.devices.some(device => device.busId === busId)) continue
    found.push({
      probe: {
        id: `scan:${busId}`, phase: 'after the start', title: `Scan of ${label}`,
        how: 'Run it, and paste what it prints.', command,
        minutes: MINUTES.scan, at: {},
      },
      see: world => world.scan(bus),
    })
  }
  return found
}

/** Nodes that are there with none of the plan's lines; sound has its list always. */
function ownNodes(shop: Workshop): string[] {
  const lines = new Set(shop.needs.map(({ need }) => writeNeed(need)))
  const without = [shop.rehearsed(lines, false), shop.rehearsed(new Set(), true)].flatMap(({ devices }) => devices)
  return [...without.filter(({ node }) => node !== 'plug').map(({ path }) => path), '/proc/asound/cards']
}

function eachPart(shop: Workshop, expected: Expected): Looking[] {
  const found: Looking[] = []
  const pins = linePinsOf(shop, expected)
  for (const owner of shop.parts) {
    found.push({
      probe: {
        id: `works:${owner.id}`, phase: 'each part', title: `${owner.name} does what it is for`, minutes: MINUTES.try,
        how: STIMULUS[owner.part.group] ?? 'Make it do what it is for, and look.', at: { parts: [owner.id] },
        ...owner.part.contacts && { caution: CONTACTS },
      },
      see: world => worksAs(world, owner, shop),
    })
    for (const terminal of shop.placed(owner)) {
      const own = isPlainLine(terminal) ? pinOf(terminal, pins) : undefined
      if (own) found.push(lineProbe(terminal, owner, own, pins, shop))
    }
    const port = shop.facts.groups.find(group => group.owner === owner && group.kind === 'serial')?.bus
    if (port?.controller?.device) found.push({
      probe: {
        id: `loop:${owner.id}`, phase: 'each part', title: `${port.label} by itself: transmit joined to receive`,
        minutes: MINUTES.try,
        how: `Power off. Take both data wires of ${owner.name} off the header, join the two positions, power on: what `
          + 'is sent comes back.',
        at: { parts: [owner.id] },
      },
      see: (world) => {
        if (!world.isUp) return NOT_UP
        if (!world.hasNode(port.controller!.device!)) return 'there is no such port'
        return world.has('console', owner.id) ? 'lines that nobody sent come with it' : 'it comes back'
      },
    })
  }
  return found
}

/** How a part is made to do something. Common practice. */
const STIMULUS: Readonly<Record<string, string>> = {
  sensing: 'Read it, then change what it measures: breathe on it, warm it, cover it, lean on it: the value follows.',
  showing: 'Show one picture or one line of text on it.', input: 'Press, turn or touch each of its keys in turn.',
  switching: 'Switch each channel on and off: a click, its lamp, and the bare contact measured with the '
    + 'meter on resistance.',
  lighting: 'Switch it on, one colour after another.',
  sounding: 'Play one tone.', moving: 'Let it move one way and back, with nothing in its way.',
  talking: 'Send a line each way.',
  timing: 'Read the time twice, a few seconds apart.', expanding: 'Set one of its lines and read it back.',
}

/** A line that a program reads or sets by itself. */
const isPlainLine = ({ signal, owner }: Terminal) => !owner.part.isAddOn
  && (signal!.role === 'line' || signal!.role === 'pwm')
  && !owner.part.boot?.length

/** Published: libgpiod, man pages of gpiomon and gpioset; which chip has the header, `gpiodetect` says. */
const CHIP = 'That is for libgpiod 1.6; from 2 on "-c" stands before the chip. gpiodetect names the chip of the header.'
const EXPANDER = 'That is for libgpiod 1.6; from 2 on "-c" stands before the chip. gpiodetect tells the number of the '
  + 'expander\'s chip, which other chips can change.'
const NO_CHIP = 'there is no such chip'

/** The line that a terminal is planned on; undefined where no program gets at it. */
const pinOf = ({ place }: Terminal, pins: readonly LinePin[]): LinePin | undefined => {
  if (place?.kind === 'header') return pins.find(({ host, line }) => host === null && line === place.line?.line)
  return place?.kind === 'terminal' ? pins.find(({ pin }) => pin === `${place.owner.id}.${place.terminal}`) : undefined
}

function lineProbe(terminal: Terminal, owner: ResolvedPart, own: LinePin, pins: readonly LinePin[],
  shop: Workshop): Looking {
  const { name, chip, line, host } = own
  const reads = terminal.signal!.direction === 'out'
  const said = host ? EXPANDER : CHIP
  return {
    probe: {
      id: `line:${terminal.key}`, phase: 'each part',
      title: `${owner.name} ${terminal.label}: ${host ? name : `line ${name}`}`,
      minutes: MINUTES.try,
      how: reads
        ? `Watch the lines, and make ${owner.name} change: one of them moves. ${said}`
        : `Set ${name} on and off, and hold the meter at ${owner.name} ${terminal.label} against ground: it goes up `
          + `and down. ${said}`,
      command: reads ? `gpiomon ${chip} ${line}` : `gpioset ${chip} ${line}=1`, at: { parts: [owner.id] },
    },
    see: (world) => {
      if (!world.isUp) return NOT_UP
      if (!isChipThere(world, own, shop)) return NO_CHIP
      if (!reads) return follows(world, terminal) ? 'it moves' : 'it does not move'
      const moved = movedBy(world, terminal, pins).filter(pin => isChipThere(world, pin, shop))
      if (!moved.length) return 'it does not move'
      if (!moved.includes(own)) return `${moved[0]!.name} moves instead`
      return moved.length > 1 ? 'another one moves with it' : 'it moves'
    },
  }
}

function underLoad(shop: Workshop): Looking[] {
  const { facts } = shop
  if (!facts.board) return []
  const gives = (world: World) => !world.has('weak-supply') && !world.has('thin-cable')
  const found: Looking[] = [{
    probe: {
      id: 'load', phase: 'under load', title: 'Everything at once, for ten minutes', minutes: MINUTES.load, at: {},
      how: 'Load all cores, and let every part do its most; then read the throttle word, where the board has one: 0x0 '
        + 'is well, bits 0 and 16 are under-voltage.',
    },
    see: (world) => {
      if (!world.isUp) return NOT_UP
      return gives(world) ? 'it runs on' : 'under-voltage, or it starts anew'
    },
  }]
  const [five, ground] = ['5V', 'ground'].map(kind => facts.board!.header.find(entry => entry.kind === kind)?.position)
  if (ground !== undefined) for (const owner of thinGrounds(shop)) found.push({
    probe: {
      id: `back:${owner.id}`, phase: 'under load', title: `${owner.name}: volts along its way back`,
      minutes: MINUTES.volt,
      how: `With ${owner.name} doing its most: meter on DC volts, from its own `
        + `${owner.grounds[0]!.label} to position ${ground}.`,
      at: { parts: [owner.id], positions: [ground] }, reading: { unit: 'V', min: -BACK_V, max: BACK_V },
    },
    see: world => world.has('thin-ground', owner.id) && world.isFed(owner) ? 'too high' : 'as planned',
  })
  if (five !== undefined && ground !== undefined) found.push({
    probe: {
      id: 'volt:load', phase: 'under load', title: '5 V at the header, under load', minutes: MINUTES.volt * 2,
      at: { positions: [five,
        ground] },
      how: `With everything running: meter on DC volts, position ${five} against position ${ground}.`,
      // memory: the under-voltage sign comes below 4.63 V
      reading: { unit: 'V', min: shop.loadLeastV, max: USB_MAX_V },
    },
    see: (world) => {
      if (!world.isPowered) return NOTHING
      return gives(world) ? 'as planned' : 'too low'
    },
  })
  return found
}
/** More than that along one wire is too much. Common practice, no source. */
const BACK_V = 0.1
/** Published: USB 2.0 §7.2. */
const USB_MAX_V = 5.25
