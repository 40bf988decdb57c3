/** Who sits where: claims, functions, buses and addresses. */
import type { Part } from '../catalogue/types'
import { hexAddress } from '../bringup/grid'
import { reaches, roleInWords, takesAnyLine } from '../facts/roles'
import { claimOf } from '../placement/refs'
import { clashes, firstClashFreeAddress } from '../facts/addresses'
import type { Facts, I2cDevice, Terminal } from '../facts/types'
import { freePartId } from '../plan/create'
import type { Edit } from '../plan/edits'
import type { Finding, Fix, Rule } from './types'

/** What a terminal means electrically at its place: terminals that share a meaning may share a position. */
function meaning(terminal: Terminal, facts: Facts): string {
  if (terminal.is === 'ground') return 'ground'
  if (terminal.is === 'supply') return terminal.supply!.rail
  const role = terminal.signal!.role
  if (role === 'onewire') return 'onewire'
  const bus = facts.groups.find(group => group.terminals.includes(terminal))?.bus
  if (bus && (role.startsWith('i2c.') || (role.startsWith('spi.') && role !== 'spi.select'))) return `${bus.id} ${role}`
  return terminal.key
}

/** Where a terminal is wired, in words. */
function place({ place }: Terminal): string {
  if (place?.kind === 'header') return `position ${place.position}`
  if (place?.kind === 'terminal') return `${place.owner.name} ${place.terminal}`
  return place ? `${place.text}, which is not there` : 'no place'
}
const called = (terminal: Terminal) => `${terminal.owner.name} ${terminal.label}`
const releaseFix = (terminal: Terminal): Fix => ({
  label: `Release ${called(terminal)}`, edits: [{ edit: 'release', terminal: terminal.key }],
})
const bound = (terminal: Terminal) => claimOf(terminal) !== undefined
const subject = (terminal: Terminal) => ({
  partId: terminal.owner.id, terminal: terminal.key,
  ...(terminal.place?.kind === 'header' && { position: terminal.place.position }),
})

/** Two terminals that mean different things on one position, or on one terminal of an expander. */
export const claimedTwice: Rule = ({ facts }) => {
  return [...contestedPlaces(facts)].map(([where, terminals]): Finding => {
    const first = terminals[0]!.place
    const line = first?.kind === 'header' ? first.line : undefined
    const names = terminals.map(called)
    return {
      code: 'position.claimed-twice', id: `position.claimed-twice ${where}`, severity: 'stop', stages: ['wiring'],
      title: `${capital(where)} is claimed ${terminals.length === 2 ? 'twice' : `${terminals.length} times`}`,
      sentence: `${names.join(' and ')} want ${where}${line ? ` (line ${line.line})` : ''}: they would drive or hear each other. `
        + whoGivesWay(terminals),
      subjects: terminals.map(subject),
      figures: [{ label: 'claims', value: terminals.length, limit: 1, origin: 'practice' }],
      fixes: clearingFixes(terminals, facts),
    }
  })
}

/** Places that terminals of different meaning want, in words, with those terminals. */
export function contestedPlaces(facts: Facts): Map<string, Terminal[]> {
  const places = new Map<string, Terminal[]>()
  for (const terminal of facts.terminals) {
    if (!terminal.place || terminal.place.kind === 'nowhere') continue
    const key = place(terminal)
    places.set(key, [...places.get(key) ?? [], terminal])
  }
  return new Map([...places].filter(([, terminals]) =>
    new Set(terminals.map(terminal => meaning(terminal, facts))).size > 1))
}

/** An add-on board's positions are soldered: it is the other that moves, and of two add-on boards one comes off. */
function whoGivesWay(terminals: readonly Terminal[]): string {
  const fixed = [...new Set(terminals.filter(bound).map(terminal => terminal.owner.name))]
  if (!fixed.length) return 'Move one of them.'
  if (fixed.length > 1) return `The positions of ${fixed.join(' and ')} are theirs by their boards: only one of the `
    + 'boards can be on.'
  const others = [...new Set(terminals.filter(terminal => !bound(terminal)).map(called))]
  return others.length
    ? `${fixed[0]} has its positions by its board: move ${others.join(' and ')}.`
    : `${fixed[0]} takes them by its board.`
}

/**
 * For each terminal that may stay: all that mean something else go elsewhere. A supply or a return goes to another
 * position of its kind.
 */
function clearingFixes(terminals: readonly Terminal[], facts: Facts): Fix[] {
  const stays = terminals.some(bound) ? terminals.filter(bound).slice(0, 1) : [...terminals].reverse()
  return stays.flatMap((stay): Fix[] => {
    const others = terminals.filter(terminal => terminal !== stay && meaning(terminal, facts) !== meaning(stay, facts))
    if (!others.length || others.some(bound)) return []
    const moves = others.map(terminal => moveAway(terminal, facts))
    const label = others.length === 1 ? moves[0]!.label : `Leave only ${called(stay)} there`
    return [{ label, edits: moves.flatMap(move => move.edits) }]
  }).filter((fix, i, all) => all.findIndex(other => other.label === fix.label) === i).reverse()
}

/** Off its place: a supply or return to the nearest other position of its kind, a signal to wait for placing. */
function moveAway(terminal: Terminal, facts: Facts): Fix {
  const { place } = terminal
  let kind: '5V' | '3V3' | '12V' | '24V' | 'ground' | null
  if (terminal.is === 'ground') kind = 'ground'
  else kind = terminal.is === 'supply' ? terminal.supply!.rail : null
  if (kind === null || place?.kind !== 'header') return releaseFix(terminal)
  const away = (position: number) => Math.abs(position - place.position)
  const free = (facts.board?.header ?? [])
    .filter(entry => entry.kind === kind && entry.position !== place.position)
    .sort((a, b) => away(a.position) - away(b.position))[0]
  return free
    ? {
        label: `Move ${called(terminal)} to position ${free.position}`,
        edits: [{ edit: 'assign', terminal: terminal.key, to: { position: free.position } }],
      }
    : releaseFix(terminal)
}

/** A terminal on a place that cannot do its job, or that does not exist. */
export const functionUnavailable: Rule = ({ facts }) => facts.terminals.flatMap((terminal): Finding[] => {
  const what = facts.board && unavailable(terminal, facts)
  if (!what) return []
  return [{
    code: 'function.unavailable', id: `function.unavailable ${terminal.key}`, severity: 'stop', stages: ['wiring'],
    title: `${called(terminal)} cannot work at ${place(terminal)}`,
    sentence: `${what} Release it and have it placed, or move it to a position that can.`,
    subjects: [subject(terminal)],
    figures: [
      { label: 'asked', value: terminal.signal
        ? roleInWords(terminal.signal.role)
        : terminal.is === 'ground'
          ? 'ground'
          : terminal.supply!.rail },
      { label: 'there', value: offered(terminal), origin: 'board file' },
    ],
    fixes: bound(terminal) ? [] : [releaseFix(terminal)],
  }]
})

function unavailable(terminal: Terminal, { board, groups }: Facts): string | null {
  const { place, signal } = terminal
  if (!place) return null
  if (place.kind === 'nowhere') return `${capital(place.text)} does not exist here.`
  if (place.kind === 'terminal') {
    let wanted: 'line' | 'sda' | 'scl' | null
    if (signal?.role === 'i2c.sda') wanted = 'sda'
    else if (signal?.role === 'i2c.scl') wanted = 'scl'
    else wanted = signal?.role === 'line' ? 'line' : null
    let kind: 'line' | 'i2c' | 'analog'
    if (signal?.analog) kind = 'analog'
    else kind = wanted === 'line' ? 'line' : 'i2c'
    return wanted && place.offer.kind === kind && place.offer.terminals[wanted] === place.terminal
      ? null
      : `${place.owner.name} ${place.terminal} gives `
        + `${{ line: 'a slow line', analog: 'an analog input', i2c: 'an I²C channel' }[place.offer.kind]} `
        + 'and nothing else.'
  }
  if (terminal.is === 'ground') return place.header.kind === 'ground'
    ? null
    : `Position ${place.position} is no ground.`
  if (terminal.is === 'supply') {
    return place.header.kind === terminal.supply!.rail
      ? null
      : `Position ${place.position} is not on the ${terminal.supply!.rail} rail.`
  }
  const role = signal!.role
  if (!place.line) {
    return `Position ${place.position} is `
      + `${place.header.kind === 'ground' ? 'a ground' : `the ${place.header.kind} rail`}: a signal there is `
      + 'a short circuit.'
  }
  if (takesAnyLine(role) || groups.find(entry => entry.terminals.includes(terminal))?.bus?.software) return null
  if (!reaches(board!, role, place.line.line).length) {
    return `Position ${place.position} (line ${place.line.line}) has no `
      + `${roleInWords(role).replace(/^an? /, '')}.${swapHint(role, place.line.line, board!)}`
  }
  const group = groups.find(entry => entry.terminals.includes(terminal))
  if (group && !group.bus && group.terminals[0] === terminal)
    return `The terminals of ${terminal.owner.name} lie on different buses: `
      + `${group.terminals.filter(t => t.place?.kind === 'header')
        .map(t => `${t.label} at ${t.place?.kind === 'header' ? t.place.position : ''}`)
        .join(', ')}.`
  return null
}

const SWAPPED = {
  'i2c.sda': 'i2c.scl', 'i2c.scl': 'i2c.sda', 'serial.tx': 'serial.rx', 'serial.rx': 'serial.tx',
  'spi.miso': 'spi.mosi',
  'spi.mosi': 'spi.miso',
} as const

function swapHint(role: string, line: number, board: NonNullable<Facts['board']>): string {
  const other = SWAPPED[role as keyof typeof SWAPPED]
  if (!other || !reaches(board, other, line).length) return ''
  return role.startsWith('serial')
    ? ' Transmit meets transmit here: cross the two wires.'
    : ' The two wires look swapped.'
}

function offered({ place }: Terminal): string {
  if (place?.kind === 'terminal') return place.offer.label
  if (place?.kind !== 'header') return 'nothing'
  if (!place.line) return place.header.kind
  const functions = place.line.functions
    .filter(entry => /^(i2c\d|spi|uart|pwm|i2s)/.test(entry.controller))
    .map(entry => `${entry.controller.replace('.', ' ')}${entry.signal && entry.signal !== 'out' ? ` ${entry.signal}` : ''}`)
  return functions.length ? functions.join(', ') : 'a plain line'
}

/** A position the maker (or the identity memory) keeps free is used. */
export const reservedUsed: Rule = ({ facts }) => facts.terminals.flatMap((terminal): Finding[] => {
  if (terminal.place?.kind !== 'header') return []
  const { position, header } = terminal.place
  const own = facts.plan.reserved.find(entry => entry.position === position)
  if (!own && !header.identity) return []
  return [{
    code: 'position.reserved', id: `position.reserved ${terminal.key}`, severity: own ? 'stop' : 'caution',
    stages: ['wiring'],
    title: `${called(terminal)} sits on a reserved position`,
    sentence: own
      ? `Position ${position} is reserved${own.reason ? ` (${own.reason})` : ''}. Move the terminal, or give `
      + 'the position free.'
      : `Position ${position} belongs to an add-on board's identity memory, which the board reads at start. Use it `
        + 'only when no add-on board will ever sit there.',
    subjects: [subject(terminal)],
    figures: [{ label: 'position', value: position, origin: own ? 'yours' : 'practice' }],
    fixes: [...bound(terminal) ? [] : [releaseFix(terminal)], ...own
      ? [{ label: `Give position ${position} free`, edits: [{ edit: 'unreserve', position }] as Edit[] }]
      : []],
  }]
})

/** Two devices answer at one address on one bus; a channel also hears the bus its hub hangs on. */
export const addressClash: Rule = ({ facts }) => {
  const findings: Finding[] = []
  for (const [i, device] of facts.devices.entries()) {
    for (const other of facts.devices.slice(i + 1)) {
      if (!clashes(facts, device, other)) continue
      const hex = hexAddress(device.address)
      const bus = facts.buses.find(entry => entry.id === device.busId)?.label ?? device.busId
      const fixes = [other, device].flatMap((candidate): Fix[] => {
        const free = candidate.optionId ? firstClashFreeAddress(facts, candidate) : null
        return free
          ? [{
              label: `Strap ${candidate.owner.name} to ${free}`,
              edits: [{ edit: 'set-option', id: candidate.owner.id, option: candidate.optionId!, value: free }],
            }]
          : []
      })
      const ways = fixes.length
        ? fixes
        : [...onOtherBus([other, device], facts), ...behindSwitch([device, other], facts)]
      findings.push({
        code: 'address.clash', id: `address.clash ${device.owner.id} ${other.owner.id}`, severity: 'stop',
        stages: ['wiring', 'parts', 'boot', 'bringup'],
        title: `Two parts answer at ${hex}`,
        sentence: `${answering(device)} and ${answering(other)} share ${bus} and the address ${hex}: both drive the data line at once and `
          + `neither can be read. `
          + `${fixes.length
            ? 'Strap one of them to another address.'
            : 'Neither can change its address: put one on another bus, or behind a bus hub.'}`,
        subjects: [device, other].map(entry => ({ partId: entry.owner.id, busId: entry.busId ?? undefined,
          address: entry.address })),
        figures: [{ label: 'address', value: `${hex} = ${hex}`, origin: 'part files' }], fixes: ways,
      })
    }
  }
  return findings
}

/** Who answers, and with what where that is not its own address. */
const answering = ({ owner, also }: I2cDevice) => also ? `${owner.name} (${also})` : owner.name

/**
 * One of the two on another I²C controller of the board, where its two positions are free and nobody there
 * has the address.
 */
function onOtherBus(devices: I2cDevice[], facts: Facts): Fix[] {
  const { board, atPosition, plan } = facts
  if (!board) return []
  const positionOf = new Map(board.header.flatMap(entry =>
    entry.line === undefined ? [] : [[entry.line, entry.position] as const]))
  const kept = new Set(plan.reserved.map(entry => entry.position))
  const isFree = (line: number | undefined) => {
    const position = line === undefined ? undefined : positionOf.get(line)
    return position !== undefined && !atPosition.has(position) && !kept.has(position)
      && !board.header.find(entry => entry.position === position)!.identity
  }
  for (const { owner } of devices.filter(device => !device.owner.part.isAddOn && !device.also)) {
    const wires = owner.signals.filter(signal => signal.role === 'i2c.sda' || signal.role === 'i2c.scl')
    for (const { id, label, kind, routes } of board.controllers) {
      if (kind !== 'i2c' || facts.buses.some(bus => bus.id === id)) continue
      const route = routes.find(({ lines }) => isFree(lines.sda) && isFree(lines.scl))
      if (!route) continue
      return [{
        label: `Put ${owner.name} on ${label}, positions ${positionOf.get(route.lines.sda!)} `
          + `and ${positionOf.get(route.lines.scl!)}`,
        edits: wires.map((signal): Edit => ({
          edit: 'assign', terminal: `${owner.id}.${signal.id}`,
          to: { position: positionOf.get(route.lines[signal.role === 'i2c.sda' ? 'sda' : 'scl']!)! },
        })),
      }]
    }
  }
  return []
}

/**
 * A bus switch in the plan, and both devices taken off their wires, for placing to put each behind a channel of its
 * own. One left on the bus above would still hear what is meant for the other.
 */
function behindSwitch(devices: I2cDevice[], { catalogue, plan, parts }: Facts): Fix[] {
  if (devices.some(({ owner }) => owner.part.isAddOn)) return []
  const names = devices.map(({ owner }) => owner.name).join(' and ')
  const release = devices.flatMap(({ owner }) => owner.signals.filter(signal => signal.role.startsWith('i2c.'))
    .map((signal): Edit => ({ edit: 'release', terminal: `${owner.id}.${signal.id}` })))
  if (parts.some(other => other.part.offers?.some(offer => offer.kind === 'i2c'))) {
    return [{ label: `Take ${names} off, then place the rest`, edits: release }]
  }
  const hub = [...catalogue.parts.values()]
    .filter(part => part.offers?.some(offer => offer.kind === 'i2c'))
    .sort((x, y) => x.offers!.length - y.offers!.length)[0]
  return hub
    ? [{
        label: `Add a bus switch, take ${names} off, then place the rest`,
        edits: [{ edit: 'add-part', part: { id: freePartId(plan, hub.id), type: hub.id, name: 'Bus switch' } },
          ...release],
      }]
    : []
}

/** More signals want a line than there are lines that may be used. */
export const linesExceeded: Rule = ({ facts }) => {
  if (!facts.board) return []
  const reserved = new Set(facts.plan.reserved.map(entry => entry.position))
  const usable = facts.board.header.filter(entry =>
    entry.kind === 'line' && !entry.identity && !reserved.has(entry.position)).length
  const offeredLines = facts.parts.flatMap(owner => owner.part.offers ?? [])
    .filter(offer => offer.kind === 'line').length
  const { header, slow } = linesWanted(facts)
  if (header <= usable && header + slow <= usable + offeredLines) return []
  const max = maxLines(facts)
  return [{
    code: 'lines.exceeded', id: 'lines.exceeded', severity: 'stop', stages: ['parts', 'wiring'],
    title: 'More signals than lines',
    sentence: `The parts want ${header + slow} lines and the board has ${usable} to `
      + `give${offeredLines ? `, the expanders ${offeredLines}` : ''}. `
      + `${max.map(([name, count]) => `${name} wants ${count}`).join(', ')}. ${header > usable
        ? `${header} of them cannot lie on an expander: drop something, or take a part that is read over a bus.`
        : 'Add a line expander for the slow ones, or drop something.'}`,
    subjects: max.map(([, , partId]) => ({ partId })),
    figures: [{ label: 'wanted', value: header + slow, limit: usable + offeredLines, unit: 'lines',
      origin: 'board file' }],
    fixes: header > usable ? [] : addExpanders(facts, header + slow - usable - offeredLines),
  }]
}

/** Parts by the lines of their own that they want, those with most first. */
function maxLines(facts: Facts): [name: string, count: number, partId: string][] {
  const counts = new Map<string, number>()
  for (const { signal, owner, place } of facts.terminals) {
    if (!signal || (signal.optional && !place) || /^(i2c|spi\.(clock|mosi|miso))/.test(signal.role)) continue
    counts.set(owner.id, (counts.get(owner.id) ?? 0) + 1)
  }
  return [...counts].sort((a, b) => b[1] - a[1]).slice(0, 3)
    .map(([id, count]) => [facts.parts.find(owner => owner.id === id)!.name, count, id])
}

/** Lines needed at least: shared bus wires count once. `slow` ones may go to an expander. */
export function linesWanted(facts: Facts): { header: number, slow: number } {
  const shared = new Set<string>()
  let header = 0
  let slow = 0
  for (const { signal, key, place } of facts.terminals) {
    if (!signal || (signal.optional && !place)) continue
    const { role } = signal
    if (role.startsWith('i2c.') || (role.startsWith('spi.') && role !== 'spi.select')
      || role === 'onewire') shared.add(role)
    else if (signal.slow && !signal.claimsPosition && !(place?.kind === 'header')) slow++
    else if (key) header++
  }
  return { header: header + shared.size, slow }
}

/**
 * As many expanders as take what is short, each with an address of its own; a bus that comes with the first takes
 * two lines itself.
 */
function addExpanders({ catalogue, plan, parts, buses }: Facts, short: number): Fix[] {
  const linesOf = (part: Part) => part.offers?.filter(offer => offer.kind === 'line').length ?? 0
  const usable = [...catalogue.parts.values()].filter(part => part.i2c?.addressOption && linesOf(part))
  const needed = short + (buses.some(bus => bus.kind === 'i2c') ? 0 : 2)
  const expander = usable.sort((a, b) => linesOf(a) - linesOf(b)).find(part => linesOf(part) >= needed) ?? usable.at(-1)
  if (!expander) return []
  const option = expander.options!.find(entry => entry.id === expander.i2c!.addressOption)!
  const used = new Set(parts.map(owner => owner.part.i2c?.addressOption
    ? owner.options[owner.part.i2c.addressOption]
    : owner.part.i2c?.address))
  const addresses = option.values!.map(entry => entry.value).filter(value => !used.has(value))
  const count = Math.ceil(needed / linesOf(expander))
  if (count > addresses.length) return []
  const taken = new Set(plan.parts.map(part => part.id))
  const edits: Edit[] = Array.from({ length: count }, (_, i) => {
    let id = 'expander'
    for (let n = 2; taken.has(id); n++) id = `expander-${n}`
    taken.add(id)
    return {
      edit: 'add-part',
      part: { id, type: expander.id, name: `Line expander${i ? ` ${i + 1}` : ''}`,
        options: { [option.id]: addresses[i]! } },
    }
  })
  return [{ label: count === 1 ? 'Add a line expander' : `Add ${count} line expanders`, edits }]
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)
