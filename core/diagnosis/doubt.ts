/** What is tried when something is odd: it costs more, and tells one fault from another. */
import type { Wire } from '../construction/wires'
import { positionOfPin } from '../netlist/spots'
import { writeNeed } from '../overlays/asks/write'
import { lifted, neighboursOf } from './faults'
import { CONTACTS, MINUTES, MUST, type Looking } from './looking'
import { ohmSaid, pulledBuses } from './pull-faults'
import { steadyAs } from './works'
import { NOT_UP, type Workshop } from './world'

const OPEN = 'open'
const SERIAL = new Set(['serial.tx', 'serial.rx'])

export function inDoubt(shop: Workshop, wires: readonly Wire[]): Looking[] {
  const { netlist, facts } = shop
  const found: Looking[] = []
  for (const wire of wires) {
    const conductor = netlist.conductors.find(({ id }) => id === wire.key)!
    if (conductor.kind === 'seat') continue
    found.push({
      probe: {
        id: `through:${wire.key}`, phase: 'when in doubt',
        title: `${wire.partName}, ${wire.from} to ${wire.to}: from end to end`,
        how: `${MUST}Meter on resistance, one tip at each end, and move the wire: it stays near 0 Ω.`,
        minutes: MINUTES.ohm,
        at: { conductors: [wire.key], ...wire.partId !== undefined && { parts: [wire.partId] } },
        reading: { unit: 'Ω', min: 0, max: 2, outside: OPEN },
      },
      see: (world) => {
        if (world.isLooseAt(conductor.id)) return 'it comes and goes'
        return conductor.ways.every(({ from, to }) => world.wiring.isJoined(from, to)) ? 'near 0 Ω' : OPEN
      },
    })
  }
  for (const position of neighboursOf(shop)) found.push({
    probe: {
      id: `apart:${position}`, phase: 'when in doubt', title: `Positions ${position} and ${position + 2} do not touch`,
      how: `${MUST}Look with a lens; the meter on resistance between them.`, minutes: MINUTES.ohm,
      at: { positions: [position, position
      + 2] },
    },
    see: ({ changes }) => changes.some(change =>
      change.change === 'bridge' && positionOfPin(change.pins[0]) === position)
      ? 'they touch'
      : 'they do not',
  })
  for (const { need } of shop.needs) {
    const line = writeNeed(need)
    found.push({
      probe: {
        id: `file:${line}`, phase: 'when in doubt', title: `The boot file has ${line}`, at: { line },
        minutes: MINUTES.read,
        how: 'Read the file on the card, not the copy on the desk.',
      },
      see: ({ changes }) => {
        const change = changes.find(entry => entry.change === 'line' && entry.line === line)
        if (change?.change !== 'line') return 'it stands there'
        if (change.how === 'hidden') return 'it stands below a filter of another board'
        if (change.how === 'missing') return 'it is not there'
        return change.how === 'other-figure' ? 'one of its figures is another one' : 'it stands in another copy'
      },
    })
  }
  for (const owner of shop.parts) {
    const pins = new Set(shop.healthy.supplyPins(owner))
    if (owner.supplies.length && owner.grounds.length) found.push({
      probe: {
        id: `lift:${owner.id}`, phase: 'when in doubt', title: `${owner.name} taken off its supply`,
        minutes: MINUTES.try,
        at: { parts: [owner.id] },
        how: `${MUST}Take the supply of ${owner.name} off, and measure between rail and ground again.`,
      },
      see: ({ changes }) => changes.some(change => change.change === 'bridge' && change.pins.some(pin => pins.has(pin)))
        ? 'the short goes with it'
        : 'no difference',
    })
  }
  for (const owner of shop.parts) found.push({
    probe: {
      id: `steady:${owner.id}`, phase: 'when in doubt', title: `${owner.name} goes on while its wires are moved`,
      minutes: MINUTES.steady,
      how: `With ${owner.name} at work, take each of its wires between two fingers and move it gently, one after the `
        + 'other; then wait.',
      at: { parts: [owner.id] }, ...owner.part.contacts && { caution: CONTACTS },
    },
    see: world => world.isUp ? steadyAs(world, owner, shop) : NOT_UP,
  })
  for (const { owner, label } of lifted(facts)) found.push({
    probe: {
      id: `level:${owner.id}`, phase: 'when in doubt', title: `${owner.name}, ${label}: lifted by its level shifter`,
      minutes: MINUTES.read,
      how: `${MUST}Follow the wire: from the board into the low side, out of the high side to ${label}.`,
      at: { parts: [owner.id] },
    },
    see: world => world.has('low-level', owner.id) ? 'it goes past it, or in at the wrong side' : 'as planned',
  })
  for (const owner of shop.parts) found.push({
    probe: {
      id: `replace:${owner.id}`, phase: 'when in doubt', title: `Another ${owner.name} in its place`,
      how: `${MUST}Change it for one that is known to work.`,
      minutes: MINUTES.replace, at: { parts: [owner.id] },
    },
    see: world => world.isDead(owner.id) ? 'the other one works' : 'no difference',
  })
  if (facts.board) {
    found.push({
      probe: {
        id: 'steady', phase: 'when in doubt', title: 'The board runs on while its supply\'s cable is moved',
        minutes: MINUTES.steady,
        at: {},
        how: 'With the system running and nothing being written: move the cable at both plugs gently.',
      },
      see: (world) => {
        if (world.isUp) return world.shaken.isUp ? 'it runs on' : 'it goes off, or starts anew'
        return NOT_UP
      },
    })
    const whole = (id: string, title: string, how: string, minutes: number,
      flag: 'card' | 'old-image' | 'no-supply' | 'weak-supply' | 'thin-cable') => found.push({
      probe: { id, phase: 'when in doubt', title, how, minutes, at: {} },
      see: world => world.has(flag) ? 'with it, it runs' : 'no difference',
    })
    whole('other:card', 'Another card with the same image', 'Write the same image onto another card.', MINUTES.card,
      'card')
    whole('other:image', 'The newest image for this board', 'Write it onto a spare card.', MINUTES.card, 'old-image')
    whole('other:supply', 'Another supply, as strong as the Power stage advises', 'Change the supply, keep the cable.',
      MINUTES.replace / 3, 'weak-supply')
    whole('other:wall', 'The supply on something else', 'Plug it into something that is known to run from it.',
      MINUTES.replace / 3,
      'no-supply')
    whole('other:cable', 'A short, thick cable', 'Change the cable, keep the supply.', MINUTES.replace / 5,
      'thin-cable')
  }
  for (const { busId, label, position, rail, ohm, parts } of pulledBuses(facts)) found.push({
    probe: {
      id: `pull:${busId}`, phase: 'when in doubt', title: `What pulls up the data of ${label}`, minutes: MINUTES.ohm,
      how: `${MUST}All parts in place. Meter on resistance, position ${position} against position `
        + `${rail}: about ${ohmSaid(ohm)}.`,
      at: { parts, positions: [position, rail] },
    },
    see: (world) => {
      const pull = world.pullOf(busId)
      if (pull === undefined) return `about ${ohmSaid(ohm)}`
      return pull === 'none' ? OPEN : 'a small part of it'
    },
  })
  const serial = facts.groups.filter(group =>
    group.kind === 'serial' && group.terminals.some(({ signal }) => SERIAL.has(signal!.role)))
  for (const { owner } of serial) found.push({
    probe: {
      id: `settings:${owner.id}`, phase: 'when in doubt', title: `${owner.name}: rate and frame at both ends`,
      minutes: MINUTES.read,
      how: 'Read what the program sets and what the part is set to.', at: { parts: [owner.id] },
    },
    see: world => world.has('rate', owner.id) ? 'they differ' : 'the same',
  })
  return found
}
