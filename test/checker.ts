/**
 * An independent checker of placements: it reads boards and parts on its own and shares no code with the search,
 * the facts or the rules. It answers one question: may this set of places stand?
 */
import type { Board, Part, Signal } from '../core/catalogue/types'
import type { Plan } from '../core/plan/types'
import { catalogue } from './plans'

type Places = Record<string, string>

/**
 * What is wrong with the places; empty when nothing is. Optional terminals may be missing. `anySoftware`: up to two I²C
 * buses may be made on any pairs of lines; otherwise only those that the plan names.
 */
export function faultsOf(plan: Plan, places: Places, anySoftware = false): string[] {
  const board = catalogue.boards.get(plan.board!)!
  const faults: string[] = []
  const holders = new Map<string, { key: string, token: string }[]>()
  const exclusive = new Map<string, string[]>()
  const ways = new Map<string, Set<string>>()
  const software = new Set<string>()
  const hold = (ref: string, key: string,
    token: string) => holders.set(ref, [...holders.get(ref) ?? [], { key, token }])

  for (const entry of plan.parts) {
    const part = catalogue.parts.get(entry.type)!
    const option = (id: string) => entry.options?.[id] ?? part.options!.find(candidate => candidate.id === id)!.default
    const active = <T extends { when?: Record<string, string> }>(list: T[]) => list.filter(item =>
      Object.entries(item.when ?? {})
        .every(([id, value]) => option(id) === value))
    const signals = active(part.signals).flatMap(signal => signal.repeat
      ? Array.from({ length: Number(option(signal.repeat)) }, (_, i) => ({ ...signal, id: `${signal.id}${i + 1}` }))
      : [signal])
    for (const item of [...signals, ...active(part.supplies).filter(supply => supply.from === 'header'),
      ...active(part.grounds)]) {
      const key = `${entry.id}.${item.id}`
      const fixed = plan.assignments[key]?.fixed
        ? refOf(plan.assignments[key])
        : item.claimsPosition !== undefined
          ? `P${item.claimsPosition}`
          : null
      if (item.claimsPosition !== undefined) places = { ...places, [key]: `P${item.claimsPosition}` }
      if (!places[key]) {
        if (!('optional' in item && item.optional)) faults.push(`${key} has no place`)
        continue
      }
      if (fixed && places[key] !== fixed) faults.push(`${key} is fixed at ${fixed} and stands at ${places[key]}`)
      const position = numberOf(places[key])
      if (!fixed && position !== null
        && (plan.reserved.some(r => r.position === position) || position === 27 || position === 28)) {
        faults.push(`${key} is on a reserved position`)
      }
      if (!('role' in item)) {
        const wanted = 'rail' in item ? item.rail : 'ground'
        if (board.header.find(h => h.position === position)?.kind !== wanted) faults.push(`${key} is not on ${wanted}`)
      }
    }
    faults.push(...groupFaults(entry.id, signals, places, board, plan,
      { hold, exclusive, ways, software, anySoftware }))
  }
  for (const [ref, list] of holders) if (new Set(list.map(item => item.token)).size > 1) {
    faults.push(`${ref} is claimed by ${list.map(item => item.key).join(' and ')}`)
  }
  for (const [resource,
    users] of exclusive) if (users.length > 1) faults.push(`${resource} is used by ${users.join(' and ')}`)
  if (software.size > 2 && anySoftware) faults.push('more than two software buses')
  for (const [resource, list] of ways) if (list.size > 1) faults.push(`${resource} comes out in two places`)
  return faults
}

interface Ledger {
  hold: (ref: string, key: string, token: string) => void
  exclusive: Map<string, string[]>
  ways: Map<string, Set<string>>
  software: Set<string>
  anySoftware: boolean
}

const numberOf = (ref: string) => /^P\d+$/.test(ref) ? Number(ref.slice(1)) : null
export const refOf = (assignment: { position?: number, terminal?: string }) => assignment.position !== undefined
  ? `P${assignment.position}`
  : assignment.terminal!

/** Board signal by role, spelt out here once more on purpose. */
const BOARD_SIGNAL: Record<string, string[]> = {
  'i2c.sda': ['i2c:sda'], 'i2c.scl': ['i2c:scl'], 'spi.clock': ['spi:clock'], 'spi.mosi': ['spi:mosi'],
  'spi.miso': ['spi:miso'],
  'spi.select': ['spi:select0', 'spi:select1', 'spi:select2'], 'serial.tx': ['serial:rx'], 'serial.rx': ['serial:tx'],
  'serial.rts': ['serial:cts'], 'serial.cts': ['serial:rts'],
  'i2s.clock': ['i2s:clock'], 'i2s.frame': ['i2s:frame'], 'i2s.dataIn': ['i2s:dataIn'], 'i2s.dataOut': ['i2s:dataOut'],
  'pwm': ['pwm:out'],
  'strip': ['pwm:out', 'spi:mosi', 'i2s:dataOut'],
}

/** memory: what programs for addressable strips can drive on each board, spelt out here once more. */
const STRIP_CIRCUITS: Record<string, string[]> = {
  'early-26': ['pwm', 'spi', 'i2s'], 'forty-classic': ['pwm', 'spi', 'i2s'], 'forty-usb-c': ['pwm', 'spi', 'i2s'],
  'tiny-unpopulated': ['pwm', 'spi', 'i2s'], 'forty-io-bridge': ['spi'],
}

function groupFaults(partId: string, signals: Signal[], places: Places, board: Board, plan: Plan,
  ledger: Ledger): string[] {
  const { hold } = ledger
  const faults: string[] = []
  const groups = new Map<string, Signal[]>()
  for (const signal of signals) {
    const key = `${partId}.${signal.id}`
    const ref = places[key]
    if (!ref) continue
    if (signal.role === 'line' || signal.role === 'onewire') {
      const position = numberOf(ref)
      const onHeader = position !== null && board.header.some(h => h.position === position && h.line !== undefined)
        && !signal.analog
      const onOffer = position === null && signal.role === 'line' && (signal.analog
        ? offers(plan, ref, 'analog', 'line')
        : signal.slow && offers(plan, ref, 'line', 'line'))
      if (!onHeader && !onOffer) faults.push(`${key} is on no line`)
      hold(ref, key, signal.role === 'onewire' ? 'onewire' : key)
      continue
    }
    const kind = signal.role === 'pwm' || signal.role === 'strip' ? key : signal.role.split('.')[0]!
    groups.set(kind, [...groups.get(kind) ?? [], signal])
  }
  for (const group of groups.values()) faults.push(...busFaults(partId, group, places, board, plan, ledger))
  return faults
}

function busFaults(
  partId: string, group: Signal[], places: Places, board: Board, plan: Plan,
  { hold, exclusive, ways, software, anySoftware }: Ledger,
): string[] {
  const refs = group.map(signal => places[`${partId}.${signal.id}`]!)
  if (refs.every(ref => numberOf(ref) === null)) {
    const names = group.map(signal => signal.role === 'i2c.sda' ? 'sda' : 'scl')
    if (!refs.every((ref,
      i) => offers(plan, ref, 'i2c', names[i]!))) return [`${partId} hangs on terminals that are no I²C channel`]
    const channels = refs.map((ref, i) => channelOf(plan, ref, names[i]!))
    refs.forEach((ref, i) => hold(ref, `${partId}.${group[i]!.id}`, ref))
    return new Set(channels).size > 1 ? [`${partId} hangs on two channels`] : []
  }
  const lineAt = (ref: string) => board.header.find(h => h.position === numberOf(ref))?.line
  for (const controller of board.controllers) {
    for (const [way, route] of controller.routes.entries()) {
      const found = group.map((signal, i) => Object.entries(route.lines)
        .find(([name, line]) =>
          line === lineAt(refs[i]!) && BOARD_SIGNAL[signal.role]!.includes(`${controller.kind}:${name}`))?.[0])
      const strip = group[0]!.role === 'strip'
      if (found.some(name => name === undefined)
        || (strip && !STRIP_CIRCUITS[board.id]!.includes(controller.kind))) continue
      const alone = controller.kind === 'serial' || controller.kind === 'i2s' || controller.kind === 'pwm' || strip
      // One PWM channel may feed two outputs where it comes out twice, but no strip besides.
      const resource = controller.kind === 'pwm' && !strip ? `${controller.id} way ${way}` : controller.id
      if (strip && controller.kind === 'pwm') {
        for (const w of controller.routes.keys()) {
          exclusive.set(`${controller.id} way ${w}`,
            [...exclusive.get(`${controller.id} way ${w}`) ?? [], partId + group[0]!.id])
        }
      }
      const users = exclusive.get(resource) ?? []
      // An exclusive user counts against everybody; shared users count once together.
      if (alone) exclusive.set(resource, [...users, partId + group[0]!.id])
      else if (!users.includes('shared')) exclusive.set(resource, [...users, 'shared'])
      if (controller.kind !== 'pwm') ways.set(controller.id, (ways.get(controller.id) ?? new Set()).add(String(way)))
      // A bus that is on holds its wires, whoever uses them.
      // A strip's program takes the sound bus's data wire alone.
      if (controller.kind === 'spi'
        || (controller.kind === 'i2s' && !strip)) for (const [name, line] of Object.entries(route.lines)) {
        const at = board.header.find(h => h.line === line)
        if (at && !name.startsWith('select') && !refs.includes(`P${at.position}`)) {
          hold(`P${at.position}`, `${controller.id} ${name}`, `${controller.id}.${name}`)
        }
      }
      group.forEach((signal,
        i) => hold(refs[i]!, `${partId}.${signal.id}`, strip || (alone && controller.kind !== 'i2s')
        || signal.role === 'spi.select'
        ? `${partId}.${signal.id}`
        : `${controller.id}.${found[i]}`))
      return []
    }
  }
  const pair = ['i2c.sda', 'i2c.scl'].map(role => refs[group.findIndex(signal => signal.role === role)])
  const named = plan.softwareBuses.some(bus => `P${bus.sda}` === pair[0] && `P${bus.scl}` === pair[1])
  if (group.length === 2 && group.every(signal => signal.role.startsWith('i2c'))
    && refs.every(ref => lineAt(ref) !== undefined)
    && pair[0] !== pair[1]
    && (named || (anySoftware && !group.some(signal => plan.assignments[`${partId}.${signal.id}`]?.fixed)))) {
    software.add(pair.join())
    group.forEach((signal, i) => hold(refs[i]!, `${partId}.${signal.id}`, `software ${pair.join()} ${signal.role}`))
    return []
  }
  return [`${partId}: no bus has ${group.map((signal, i) => `${signal.id} at ${refs[i]}`).join(', ')}`]
}

function offerOf(plan: Plan, ref: string, kind: string, name: string) {
  const [owner, terminal] = ref.split('.')
  const part: Part | undefined = catalogue.parts.get(plan.parts.find(p => p.id === owner)?.type ?? '')
  return part?.offers?.find(offer => offer.kind === kind && offer.terminals[name] === terminal)
}
const offers = (plan: Plan, ref: string, kind: string, name: string) => offerOf(plan, ref, kind, name) !== undefined
const channelOf = (plan: Plan, ref: string,
  name: string) => `${ref.split('.')[0]} ${offerOf(plan, ref, 'i2c', name)?.id}`
