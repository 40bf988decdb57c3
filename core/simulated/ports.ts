/** Serial ports of a simulated board: what is written goes out bit by bit to whoever hangs there, and comes back so. */
import type { Bus, ResolvedPart, Terminal } from '../facts/types'
import type { Bench } from '../diagnosis/table'
import type { World } from '../diagnosis/world'
import { frameSetting, transferred, type FrameSetting } from './frames'
import { USUAL_MODES } from './modes'
import { talkerOf } from '../catalogue/chips'

/** A port that nobody has set. Published: Linux, drivers/tty/tty_io.c, tty_std_termios. */
const AS_OPENED = frameSetting(9600, '8N1')
/** So many bytes a port keeps for whoever reads. */
const MAX_WAITING = 4096

export interface Port {
  bus: Bus | null
  owner: ResolvedPart
  /** Plugged by USB: its bytes are carried whole, whatever rate is set. */
  isUsb: boolean
  setting: FrameSetting
  /** Modes of the port that are on, by stty's names. */
  modes: Set<string>
  waiting: number[]
  /** Second up to which what comes by itself was put down. */
  heardTo: number
}

const bytesOf = (text: string) => [...new TextEncoder().encode(text)]
const textOf = (bytes: readonly number[]) => String.fromCharCode(...bytes)

/** Rate and frame that the part itself is set to; the fault of rates has half of it. */
export function partSetting(owner: ResolvedPart, world: World): FrameSetting {
  const { serial } = owner.part
  const chosen = serial?.baudOption ? Number(owner.options[serial.baudOption]) : serial?.baud
  const baud = chosen && Number.isFinite(chosen) ? chosen : AS_OPENED.baud
  return frameSetting(world.has('rate', owner.id) ? baud / 2 : baud, serial?.frame ?? '8N1')
}

/** Ports by their path, as they are after a start. */
export function portsOf({ shop: { facts }, expected }: Bench): Map<string, Port> {
  const ports = new Map<string, Port>()
  const fresh = (owner: ResolvedPart, bus: Bus | null): Port =>
    ({ bus, owner, isUsb: bus === null, setting: AS_OPENED, modes: new Set(USUAL_MODES), waiting: [], heardTo: 0 })
  for (const { bus, owner, kind } of facts.groups) if (kind === 'serial' && bus?.controller?.device) {
    ports.set(bus.controller.device, fresh(owner, bus))
  }
  for (const { path, partId } of expected.nodes) if (/^\/dev\/tty(ACM|USB)\d+$/.test(path)) {
    const owner = facts.parts.find(({ id }) => id === partId)
    if (owner) ports.set(path, fresh(owner, null))
  }
  return ports
}

/**
 * Whether bytes get from the board to the part, and back. Wires of a pair that are exchanged bring nothing either way.
 */
function linked(port: Port, { shop }: Bench, world: World): { there: boolean, back: boolean } {
  const { owner, bus } = port
  const alive = world.isFed(owner) && !world.isDead(owner.id)
  if (!bus) return { there: alive && world.isWired(owner), back: alive && world.isWired(owner) }
  const isWell = (terminal: Terminal | undefined) =>
    alive && terminal !== undefined && world.signalAt(terminal).at === 'planned' && !world.isCrossed(terminal)
  const of = (role: string) =>
    shop.facts.terminals.find(terminal => terminal.owner === owner && terminal.signal?.role === role)
  return { there: isWell(of('serial.rx')), back: isWell(of('serial.tx')) }
}

const keep = (port: Port, bytes: readonly number[]) => port.waiting = [...port.waiting, ...bytes].slice(-MAX_WAITING)

/** Puts down what came by itself since it was last asked. */
export function listen(port: Port, bench: Bench, world: World, nowS: number): void {
  const { everyS, says } = talkerOf(port.owner.part.id)
  const from = Math.floor(port.heardTo)
  port.heardTo = nowS
  if (!everyS || !says || !linked(port, bench, world).back) return
  const theirs = partSetting(port.owner, world)
  // Nobody read for long: the port keeps the last of it.
  for (let second = Math.max(from + 1, Math.floor(nowS) - 60); second <= nowS; second++) if (second % everyS === 0) {
    const bytes = bytesOf(says(second))
    keep(port, port.isUsb ? bytes : transferred(bytes, theirs, port.setting))
  }
}

/** Writes to a port; what is answered waits to be read. `looped`: its two positions are joined. */
export function write(port: Port, sent: string | readonly number[], bench: Bench, world: World, looped: boolean): void {
  const bytes = typeof sent === 'string' ? bytesOf(sent) : [...sent]
  if (looped) return void keep(port, bytes)
  const { there, back } = linked(port, bench, world)
  if (!there) return
  const theirs = partSetting(port.owner, world)
  const arrived = textOf(port.isUsb ? bytes : transferred(bytes, port.setting, theirs))
  // The console talks in between: what the part gets is no line that it knows.
  const lines = world.has('console', port.owner.id) ? [`${arrived.trim()}\n[ 12.3 ] login:`] : arrived.split(/\r?\n|\r/)
  for (const line of lines) {
    const answer = talkerOf(port.owner.part.id).answers?.(line)
    if (!answer || !back) continue
    const said = bytesOf(answer)
    keep(port, port.isUsb ? said : transferred(said, theirs, port.setting))
  }
}

/** Takes what waits. */
export function read(port: Port): number[] {
  const { waiting } = port
  port.waiting = []
  return waiting
}
