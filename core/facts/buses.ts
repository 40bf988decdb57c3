/** Which bus each part's terminals lie on, read from where the plan puts them. */
import type { Board, ControllerKind } from '../catalogue/types'
import { groupKind, reaches, type SignalReach } from './roles'
import type { Bus, BusGroup, Place, Terminal } from './types'

/** Terminals that belong together on one bus, by part, in plan order. PWM outputs and strips each stand alone. */
export function gatherGroups(terminals: Terminal[], board: Board | null, software: Bus[] = []): BusGroup[] {
  const groups = new Map<string, BusGroup>()
  for (const terminal of terminals) {
    const kind = terminal.signal ? groupKind(terminal.signal.role) : null
    if (!kind) continue
    const alone = kind === 'pwm' || kind === 'strip'
    const key = alone ? terminal.key : `${terminal.owner.id}/${kind}`
    const group = groups.get(key)
    if (group) group.terminals.push(terminal)
    else groups.set(key,
      { owner: terminal.owner, kind: kind === 'strip' ? 'pwm' : kind, terminals: [terminal], bus: null })
  }
  const list = [...groups.values()]
  for (const group of list) group.bus = busOf(group.terminals, board, software)
  // A channel's upstream is the bus its hub lies on, known only once every group is.
  for (const group of list) {
    if (!group.bus?.upstream) continue
    const hub = list.find(other => other.owner.id === group.bus!.upstream && other.kind === 'i2c')
    group.bus = { ...group.bus, upstream: hub?.bus?.id }
  }
  return list
}

/** Every bus in use, once, default order of first use. */
export function listBuses(groups: BusGroup[]): Bus[] {
  const found = new Map<string, Bus>()
  for (const { bus } of groups) if (bus && !found.has(bus.id)) found.set(bus.id, bus)
  return [...found.values()]
}

function busOf(terminals: Terminal[], board: Board | null, software: Bus[]): Bus | null {
  const placed = terminals.filter(terminal => terminal.place)
  if (!placed.length) return null
  const choices = placed.map(terminal => candidates(terminal.place!, terminal, board, software))
  const common = choices[0]!.find(bus => choices.every(list => list.some(other => sameWay(bus, other))))
  return common ?? null
}

const sameWay = (a: Bus, b: Bus) => a.id === b.id && a.route === b.route

function candidates(place: Place, terminal: Terminal, board: Board | null, software: Bus[]): Bus[] {
  const role = terminal.signal!.role
  if (place.kind === 'terminal') {
    const { owner, offer } = place
    let wanted: 'sda' | 'scl' | null
    if (role === 'i2c.sda') wanted = 'sda'
    else wanted = role === 'i2c.scl' ? 'scl' : null
    if (offer.kind !== 'i2c' || !wanted || offer.terminals[wanted] !== place.terminal) return []
    return [{ id: `${owner.id}.${offer.id}`, kind: 'i2c', label: `${owner.name}, ${offer.label}`, upstream: owner.id }]
  }
  if (place.kind !== 'header' || !place.line || !board) return []
  const made = software.filter(bus =>
    (role === 'i2c.sda' && bus.software!.sda === place.position)
    || (role === 'i2c.scl' && bus.software!.scl === place.position))
  return [...reaches(board, role, place.line.line).map(busFrom), ...made]
}

function busFrom({ controller, route }: SignalReach): Bus {
  return { id: controller.id, kind: controller.kind as ControllerKind, label: controller.label, controller, route }
}
