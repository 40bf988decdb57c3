/** How a program gets at a part in this plan: through files of a driver, a bus, a port, or lines of the header. */
import type { Bus, ResolvedPart, Terminal } from '../facts/types'
import type { Quantity } from '../catalogue/types'
import { offsetOfTerminal } from '../facts/expander-lines'
import type { Bench } from '../diagnosis/table'
import { devicesIn, type Present } from '../diagnosis/devices'
import { recipeOf, spiProgramOf } from '../catalogue/programs'
import type { Recipe } from '../catalogue/shapes/program'
import type { InLine, OutLine, SideLine } from './types'

export type Access
  /** Files under /sys, found by what stands in `name`. `nth` of those with that name. */
  = | { by: 'files', folder: 'iio' | 'hwmon', name: string, nth: number, quantities: Quantity[] }
    | { by: 'probes', count: number }
    | { by: 'clock', rtc: string }
    | { by: 'i2c', device: string, number: string, address: number, recipe: Recipe | null }
    | { by: 'serial', device: string, baud: number, frame: string, isUsb: boolean }
    | { by: 'scale', data: number, clock: number }
    | { by: 'echo', trigger: number, echo: number }
    /** Of one chip. `left`: why others of its lines are not among them. */
    | { by: 'out', chip: LineChipOf, lines: OutLine[], left: string[] }
    | { by: 'in', chip: LineChipOf, lines: InLine[], left: string[] }
    | { by: 'pulses', chip: string, channel: number, periodNs: number, duties: { label: string, ns: number }[] }
    | { by: 'pixels', device: string, count: number, kind: 'clocked' | 'one wire' }
    /** `lines`: those beside the bus, by the part's own signal. */
    | { by: 'spi', device: string, hz: number, lines: Readonly<Record<string, SideLine>> }
    | { by: 'events', device: string }
    | { by: 'sound', plays: boolean, records: boolean }

/** How a part is got at; or why no program is written for it. */
export type Reached = Access | { by: 'nothing', why: string }

/** The chip that has the lines of a part: its node, and the expander where it is one. */
export interface LineChipOf { node: string, expander: string | null }
const HEADER: LineChipOf = { node: '/dev/gpiochip0', expander: null }

/** Line of a chip, and where that is in words. */
interface At { line: number, where: string }

/** The line of an expander that a terminal hangs on, where the expander's driver makes a chip of it; undefined else. */
function onExpander({ place, label }: Terminal,
  present: readonly Present[]): { chip: LineChipOf, at: At } | string | undefined {
  if (place?.kind !== 'terminal') return undefined
  const offset = offsetOfTerminal(place.owner, place.terminal)
  if (offset === undefined) return undefined
  const node = present.find(({ owner, path }) => owner === place.owner && path.startsWith('/dev/gpiochip'))?.path
  return node === undefined
    ? `${label} is on ${place.owner.name}, which has no driver in this plan's boot file.`
    : { chip: { node, expander: place.owner.name },
        at: { line: offset, where: `${place.terminal} of ${place.owner.name}` } }
}

/** Line and position of a terminal that lies on the header and that no driver has; a reason otherwise. */
function lineOf(terminal: Terminal, taken: ReadonlySet<number>): (SideLine & At) | string {
  const { place } = terminal
  if (place === null) return `${terminal.label} has no place yet.`
  if (place.kind === 'terminal') {
    return `${terminal.label} is on ${place.owner.name}, whose lines are reached by way of that part.`
  }
  if (place.kind !== 'header' || !place.line) return `${terminal.label} is at no line of the header.`
  const { line } = place.line
  return taken.has(line)
    ? `A driver of the kernel has line ${line}, ${terminal.label}: it works by itself.`
    : { line, position: place.position, where: `position ${place.position}` }
}

/**
 * Each of several lines that a program can have, all of one chip: that of the first; and why the others are left. Or
 * the first reason where there is none.
 */
function linesOf<T>(terminals: readonly Terminal[], taken: ReadonlySet<number>, present: readonly Present[],
  make: (terminal: Terminal, at: At) => T): { chip: LineChipOf, lines: T[], left: string[] } | string {
  const lines: T[] = []
  const left: string[] = []
  let chip: LineChipOf | null = null
  for (const terminal of terminals) {
    const behind = onExpander(terminal, present)
    const found = behind === undefined ? lineOf(terminal, taken) : behind
    if (typeof found === 'string') {
      left.push(found)
      continue
    }
    const here = 'chip' in found ? found : { chip: HEADER, at: found }
    chip ??= here.chip
    if (here.chip.node === chip.node) lines.push(make(terminal, here.at))
    else left.push(`${terminal.label} is at another chip, ${here.chip.node}.`)
  }
  return chip ? { chip, lines, left } : left[0] ?? ''
}

const inLine = ({ signal, label }: Terminal, { line, where }: At): InLine => {
  const falls = signal!.drive === 'contact' || signal!.drive === 'open-drain' || signal!.idleLevel === 'high'
  return { line, where, label, active: falls ? 0 : 1, bias: signal!.pull || !falls ? 'none' : 'pull-up' }
}
const outLine = ({ signal, label }: Terminal, { line, where }: At): OutLine =>
  ({ line, where, label, rest: signal!.idleLevel === 'high' ? 1 : 0 })

/** Every part of a plan with how it is got at, from the thing as it is planned. */
export function reachedParts(bench: Bench): { owner: ResolvedPart, reached: Reached }[] {
  const { shop } = bench
  const rehearsal = shop.healthy.rehearsal
  const present = devicesIn(shop.healthy, bench, rehearsal)
  const taken = new Set(rehearsal.claims.flatMap(({ line, as, clash }) =>
    line === null || as === 'pins' || clash ? [] : [line]))
  return shop.facts.parts.filter(({ signals, part }) => signals.length || part.plugs?.length)
    .map(owner => ({ owner, reached: reach(owner, bench, present, taken) }))
}

function reach(owner: ResolvedPart, bench: Bench, present: readonly Present[], taken: ReadonlySet<number>): Reached {
  const { facts } = bench.shop
  const own = present.filter(entry => entry.owner === owner)
  const byFiles = throughFiles(owner, own, present)
  if (byFiles) return byFiles
  const { byKey, groups } = facts
  const terminals = facts.terminals.filter(terminal => terminal.owner === owner && terminal.signal)
  const group = groups.find(entry => entry.owner === owner && entry.kind !== 'pwm')
  const { answers } = owner.part
  if (answers) {
    const pair = answers.by === 'bits' ? [answers.data, answers.clock] : [answers.trigger, answers.echo]
    const found = pair.map(id => lineOf(byKey.get(`${owner.id}.${id}`)!, taken))
    const why = found.find(entry => typeof entry === 'string')
    if (why !== undefined) return { by: 'nothing', why: why as string }
    const [a, b] = found as { line: number }[]
    return answers.by === 'bits'
      ? { by: 'scale', data: a!.line, clock: b!.line }
      : { by: 'echo', trigger: a!.line, echo: b!.line }
  }
  const usb = own.find(({ path }) => /^\/dev\/tty(ACM|USB)\d+$/.test(path))
  if (usb) return serial(owner, usb.path, true)
  if (group) return throughBus(owner, group.bus, bench, taken)
  if (terminals.some(({ signal }) => signal!.role === 'strip')) {
    return { by: 'nothing',
      why: 'The kernel makes no pulses for a strip on this line; a library that drives the circuit itself does.' }
  }
  if (terminals.some(({ signal }) => signal!.analog)) {
    return { by: 'nothing',
      why: 'It gives a voltage that varies: read it with the program of the converter that it hangs on.' }
  }
  const pulses = terminals.filter(({ signal }) => signal!.role === 'pwm')
  if (pulses.length) return throughPulses(pulses[0]!, bench)
  const plain = terminals.filter(({ signal }) => signal!.role === 'line')
  const outs = plain.filter(({ signal }) => signal!.direction === 'in')
  const ins = plain.filter(({ signal }) => signal!.direction === 'out')
  if (outs.length && owner.part.boot?.length) return { by: 'nothing',
    why: 'Its driver in the kernel moves it, and nobody else should.' }
  if (outs.length) {
    const found = linesOf(outs, taken, present, outLine)
    return typeof found === 'string' ? { by: 'nothing', why: found } : { by: 'out', ...found }
  }
  if (ins.length) {
    const found = linesOf(ins, taken, present, inLine)
    return typeof found === 'string' ? { by: 'nothing', why: found } : { by: 'in', ...found }
  }
  return { by: 'nothing', why: owner.part.plugs?.some(({ socket }) => socket === 'display')
    ? 'The desktop or the console shows on it by itself.'
    : 'It works by itself, or a driver has it.' }
}

function throughFiles(owner: ResolvedPart, own: readonly Present[], all: readonly Present[]): Access | null {
  const { part } = owner
  for (const { path } of own) {
    if (path.includes('/w1/devices/')) return { by: 'probes', count: own.length }
    const rtc = /^\/dev\/(rtc\d+)$/.exec(path)?.[1]
    if (rtc) return { by: 'clock', rtc }
    if (path.startsWith('/dev/input/event')) return { by: 'events', device: path }
    if (path === '/proc/asound/cards') {
      const has = (role: string) => owner.signals.some(signal => signal.role === role)
      return { by: 'sound', plays: has('i2s.dataOut'), records: has('i2s.dataIn') }
    }
    let folder: 'iio' | 'hwmon' | null
    if (path.includes('/iio/')) folder = 'iio'
    else folder = path.includes('/hwmon/') ? 'hwmon' : null
    const name = owner.part.kernel?.compatible.split(',').at(-1)
    if (folder && name && part.reads?.length) {
      const alike = all.filter(entry => entry.path.includes(`/${folder}/`) && entry.owner
        && entry.owner.part.kernel?.compatible.split(',').at(-1) === name)
      return { by: 'files', folder, name, nth: alike.findIndex(entry => entry.path === path), quantities: part.reads }
    }
  }
  return null
}

/** Rates that the kernel's interface has a name for. Published: termios(3), Linux's additions among them. */
const RATES = new Set([1200, 2400, 4800, 9600, 19_200, 38_400, 57_600, 115_200, 230_400, 460_800, 921_600])

function serial(owner: ResolvedPart, device: string, isUsb: boolean): Reached {
  const { serial: port } = owner.part
  const chosen = Number(port?.baudOption ? owner.options[port.baudOption] : port?.baud)
  const baud = Number.isFinite(chosen) && chosen > 0 ? chosen : 9600
  return RATES.has(baud)
    ? { by: 'serial', device, baud, frame: port?.frame ?? '8N1', isUsb }
    : { by: 'nothing',
        why: `The usual interface of a port has no name for a rate of ${baud}: its maker's program sets it.` }
}

function throughBus(owner: ResolvedPart, bus: Bus | null, { shop }: Bench, taken: ReadonlySet<number>): Reached {
  const { facts } = shop
  if (!bus) return { by: 'nothing', why: 'Its wires lie on no bus yet.' }
  if (bus.kind === 'serial') {
    return bus.controller?.device
      ? serial(owner, bus.controller.device, false)
      : { by: 'nothing', why: 'Its port has no name of its own.' }
  }
  if (bus.kind === 'i2c') {
    const device = facts.devices.find(entry => entry.owner === owner && !entry.also && Number.isFinite(entry.address))
    const number = bus.software
      ? String(bus.software.number)
      : /^\/dev\/i2c-(\d+)$/.exec(bus.controller?.device ?? '')?.[1]
    if (!device || number === undefined) {
      return { by: 'nothing',
        why: bus.upstream ? 'It hangs behind a hub, which has to be told the channel first.' : 'It has no address.' }
    }
    if (shop.healthy.heard(bus) === 'no bus') return { by: 'nothing',
      why: `${bus.label} is off in this plan's boot file.` }
    if (owner.part.boot?.length) return { by: 'nothing', why: 'A driver of the kernel has it: it works by itself.' }
    return { by: 'i2c', device: `/dev/i2c-${number}`, number, address: device.address, recipe: recipeOf(owner.part.id) }
  }
  if (bus.kind === 'spi') {
    const strip = owner.part.strip
    if (!strip && owner.part.boot?.length) return { by: 'nothing',
      why: 'A driver of the kernel has it: it works by itself.' }
    const select = facts.terminals.find(terminal => terminal.owner === owner && terminal.signal?.role === 'spi.select')
    const device = bus.controller?.device?.replace('{select}',
      String(select ? facts.selectNumbers.get(select.key) ?? 0 : 0))
    if (!device) return { by: 'nothing', why: 'Its bus has no node.' }
    if (!strip) {
      const program = spiProgramOf(owner.part.id)
      if (!program) {
        return { by: 'nothing', why: 'It is spoken to in a way of its own over SPI: its maker\'s program does that.' }
      }
      const lines: Record<string, SideLine> = {}
      for (const id of program.needs) {
        const at = lineOf(facts.byKey.get(`${owner.id}.${id}`)!, taken)
        if (typeof at === 'string') return { by: 'nothing', why: at }
        lines[id] = at
      }
      return { by: 'spi', device, hz: Math.min(owner.part.spi?.maxClockHz ?? SPI_HZ, SPI_HZ), lines }
    }
    return { by: 'pixels', device, count: Math.max(1, Number(owner.options[strip.pixelsOption]) || 1),
      kind: owner.signals.some(({ role }) => role === 'spi.clock') ? 'clocked' : 'one wire' }
  }
  return { by: 'nothing', why: 'A driver of the kernel has it: it works by itself.' }
}

/** Slow enough for every wire on a table. Common practice. */
const SPI_HZ = 1_000_000

function throughPulses(terminal: Terminal, { shop: { facts } }: Bench): Reached {
  const bus = facts.groups.find(group => group.kind === 'pwm' && group.terminals.includes(terminal))?.bus
  const path = /^(.*)\/pwm(\d+)$/.exec(bus?.controller?.device ?? '')
  const need = terminal.signal!.pwm
  if (!path || !need) return { by: 'nothing', why: `${terminal.label} lies at no pulse channel of the board.` }
  const periodNs = Math.round(1e9 / need.frequencyHz)
  const share = (percent: number) => ({ label: `${percent} %`, ns: Math.round(periodNs * percent / 100) })
  const duties = need.pulseMinUs !== undefined && need.pulseMaxUs !== undefined
    ? ([['one end', 0], ['the middle', 0.5], ['the other end', 1]] as const).map(([label, at]) =>
        ({ label, ns: Math.round((need.pulseMinUs! + (need.pulseMaxUs! - need.pulseMinUs!) * at) * 1000) }))
    : [share(30), share(60), share(100)]
  return { by: 'pulses', chip: path[1]!, channel: Number(path[2]), periodNs, duties }
}
