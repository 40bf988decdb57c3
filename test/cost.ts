/**
 * The cost of a placement computed from boards and parts alone, sharing no code with the search: what
 * `docs/decisions/0002` says in words, once more in figures. For small plans without hubs, software buses or expanders.
 */
import type { Board, Signal } from '../core/catalogue/types'
import type { Plan } from '../core/plan/types'
import { catalogue } from './plans'

type Places = Record<string, string>

/** The shipped weights, written out again so that a changed table is noticed. */
const W = {
  clash: 1000, leftOut: 400, share: 200, unsafe: 80, console: 40, made: 25, instance: 20, moves: 15, stripOnSpi: 12,
  stripOnSound: 10,
  defaultFunction: 5,
  strap: 3, way: 1, otherFunction: 0.5, apart: 0.4, far: 0.06, order: 0.04,
}

const column = (ref: string) => Math.ceil(Number(ref.slice(1)) / 2) - 1
const KINDS: Record<string, string[]> = {
  i2c: ['i2c'], spi: ['spi'], serial: ['serial'], i2s: ['i2s'], pwm: ['pwm'], strip: ['pwm', 'spi', 'i2s'],
}
const WANTS: Record<string, string[]> = {
  'i2c.sda': ['sda'], 'i2c.scl': ['scl'], 'spi.clock': ['clock'], 'spi.mosi': ['mosi'], 'spi.miso': ['miso'],
  'spi.select': ['select0', 'select1', 'select2'],
  'serial.tx': ['rx'], 'serial.rx': ['tx'], 'serial.rts': ['cts'], 'serial.cts': ['rts'], 'i2s.clock': ['clock'],
  'i2s.frame': ['frame'],
  'i2s.dataIn': ['dataIn'], 'i2s.dataOut': ['dataOut'], 'pwm': ['out'], 'strip': ['out', 'mosi', 'dataOut'],
}

const STRIP_WIRE: Record<string, string> = { pwm: 'out', spi: 'mosi', i2s: 'dataOut' }

/** True when some controller can serve the signal at this place. */
export function mayServe(board: Board, signal: Signal, ref: string): boolean {
  return signal.role === 'line' || signal.role === 'onewire' || busOf(board, KINDS[signal.role.includes('.')
    ? signal.role.split('.')[0]!
    : signal.role]!, [[signal, ref]]) !== null
}

interface Bus { controller: string, isDefault: boolean, way: number, kind: string, lines: Record<string, number> }

/** The cheapest bus that serves these signals at these places. */
function busOf(board: Board, kinds: string[], signals: [Signal, string][]): Bus | null {
  const lineAt = (ref: string) => board.header.find(entry => `P${entry.position}` === ref)?.line
  const found = board.controllers.filter(controller =>
    kinds.includes(controller.kind)
    && !(board.id === 'forty-io-bridge' && signals[0]![0].role === 'strip' && controller.kind !== 'spi'))
    .flatMap(controller => controller.routes.flatMap((route, way) =>
      signals.every(([signal, ref]) =>
        WANTS[signal.role]!.some(name =>
          route.lines[name] === lineAt(ref) && (signal.role !== 'strip' || STRIP_WIRE[controller.kind] === name)))
        ? [{ controller: controller.id, isDefault: controller.isDefault, way, kind: controller.kind,
            lines: route.lines }]
        : []))
  return found.sort((a, b) => Number(b.isDefault) - Number(a.isDefault) || a.way - b.way)[0] ?? null
}

/**
 * Overlays with a say in where their part lies: memories can be told of all I²C buses but 2, thermocouples of
 * SPI 0 and 1.
 */
function overlayTold(part: string, bus: Bus): boolean {
  if (part === 'memory-i2c') return bus.controller !== 'i2c2'
  return part !== 'thermocouple-spi' || bus.controller === 'spi0' || bus.controller === 'spi1'
}

/** Null where a group lies on no bus. `addresses` gives each device's address; those not in it have their own. */
export function costOf(plan: Plan, places: Places, addresses: Record<string, number>): number | null {
  const board = catalogue.boards.get(plan.board!)!
  const columns = board.header.length / 2
  let total = 0
  const users = new Map<string, number>()
  const devices: { bus: string, address: number }[] = []
  for (const entry of plan.parts) {
    const part = catalogue.parts.get(entry.type)!
    const groups = new Map<string, [Signal, string][]>()
    const lines: [Signal, string | null][] = []
    for (const signal of part.signals) {
      const ref = places[`${entry.id}.${signal.id}`] ?? null
      if (signal.role === 'line' || signal.role === 'onewire') lines.push([signal, ref])
      else {
        const key = signal.role === 'pwm' || signal.role === 'strip' ? signal.id : signal.role.split('.')[0]!
        groups.set(key, [...groups.get(key) ?? [], ...ref ? [[signal, ref] as [Signal, string]] : []])
        if (!ref) total += W.leftOut
      }
    }
    const busColumns: number[] = []
    for (const signals of groups.values()) {
      if (!signals.length) continue
      const role = signals[0]![0].role
      const family = role.includes('.') ? role.split('.')[0]! : role
      const bus = busOf(board, KINDS[family]!, signals)
      if (!bus) return null
      busColumns.push(...signals.map(([, ref]) => column(ref)))
      total += (bus.isDefault ? 0 : W.instance) + bus.way * W.way
        + (role === 'strip' && bus.kind === 'spi' ? W.stripOnSpi : 0)
        + (role === 'strip' && bus.kind === 'i2s' ? W.stripOnSound : 0)
      if (bus.kind === 'pwm' && board.lines.find(line => line.line === bus.lines.out)?.startNoise) {
        total += signals[0]![0].still ? W.unsafe : W.moves
      }
      total += overlayTold(part.id, bus) ? 0 : W.made
      // Later selects of a bus: the n-th of those that are open to it.
      if (family === 'spi') {
        const at = (name: string) => `P${board.header.find(position => position.line === bus.lines[name])?.position}`
        const free = ['select0', 'select1', 'select2'].filter(name =>
          bus.lines[name] !== undefined && !plan.reserved.some(item => `P${item.position}` === at(name)))
        const select = signals.find(([signal]) => signal.role === 'spi.select')
        if (select) total += W.otherFunction * free.findIndex(name => at(name) === select[1])
      }
      if (role === 'pwm') users.set(bus.controller, (users.get(bus.controller) ?? 0) + 1)
      if (family === 'i2c' && part.i2c) {
        const own = Number(part.i2c.address ?? entry.options?.[part.i2c.addressOption!]
          ?? part.options!.find(option => option.id === part.i2c!.addressOption)!.default)
        const address = addresses[entry.id] ?? own
        if (address !== own) total += W.strap
        total += W.clash * devices.filter(other => other.bus === bus.controller && other.address === address).length
        devices.push({ bus: bus.controller, address })
      }
    }
    const placed = lines.flatMap(([signal, ref]) => ref ? [[signal, ref] as const] : [])
    total += W.leftOut * (lines.length - placed.length)
    const middle = busColumns.length
      ? Math.round(2 * busColumns.reduce((a, b) => a + b, 0) / busColumns.length) / 2
      : null
    const away = (m: number) =>
      placed.reduce((sum, [, ref]) => sum + W.apart * Math.min(12, Math.abs(column(ref) - m)), 0)
    if (middle !== null) total += away(middle)
    else if (lines.length > 1) total += Math.min(...Array.from({ length: columns }, (_, m) => away(m)))
    lines.forEach(([signal, ref], i) => {
      if (!ref) return
      const position = board.header.find(item => `P${item.position}` === ref)!
      const line = board.lines.find(item => item.line === position.line)!
      for (const controller of board.controllers) if (controller.routes.some(route =>
        Object.values(route.lines).includes(line.line))) {
        total += controller.isDefault ? W.defaultFunction : W.otherFunction
      }
      total += W.far * Math.min(column(ref), columns - 1 - column(ref))
      const wrong = signal.idleLevel !== undefined && line.resetPull !== (signal.idleLevel === 'high' ? 'up' : 'down')
      const noisy = line.startNoise !== undefined
      if (noisy && signal.direction === 'out') total += W.console
      if (signal.still) total += wrong || noisy ? W.unsafe : 0
      else if (signal.idleLevel && (wrong || noisy)) total += W.moves
      total -= W.order * (i - (lines.length - 1) / 2) * (column(ref) - (columns >> 1))
    })
  }
  for (const count of users.values()) total += W.share * (count - 1)
  return total
}
