/** Sockets and relay contacts. */
import type { Facts, ResolvedPart } from '../facts/types'
import type { ContactLoad } from '../plan/types'
import type { Power } from '../power/report'
import { OWN_HUB, ownHub } from './power/candidates'
import { assemblyOf } from '../mechanics/assembly'
import { TOUCHES_MM } from '../mechanics/sittings'
import { gapOf } from '../mechanics/solids'
import { boardPlugs, pluggedInto, plugsOf } from '../netlist/supply/plugged'
import type { Finding, Rule } from './types'

const SOCKETS = {
  usb: { name: 'USB', wayOut: 'Add a powered hub, or join one of them another way.' },
  video: { name: 'video', wayOut: 'Take a board with two video sockets, or drop a screen.' },
  fan: { name: 'fan', wayOut: 'Take a fan that is driven from the header, or a board with a fan socket.' },
  display: { name: 'display', wayOut: 'Take a panel with a video plug, or a board with a display connector.' },
} as const

/** Hubs, cables and loads of the maker's own in the board's USB sockets. */
const ownPlugs = ({ tree }: Power) => pluggedInto(tree, '@usb').filter(node => !node.partId)

/** Wide USB plugs cover their neighbour: more of them than fit beside and above each other. */
export const widePlugs: Rule = ({ facts, power }) => {
  const plugged = facts.parts.filter(owner => boardPlugs(owner, power.tree).some(({ socket }) => socket === 'usb'))
  const wide = plugged.filter(owner => plugsOf(owner).some(plug => plug.socket === 'usb' && plug.wide))
  if (wide.length < 2) return []
  const seated = facts.board?.body?.standing?.some(entry => entry.kind === 'socket' && entry.socket === 'usb')
    ? seatsOf(facts, power, wide)
    : countedSeats(facts, plugged.length - wide.length + ownPlugs(power).length, wide)
  if (!seated) return []
  if (seated.room >= wide.length) return [{
    code: 'sockets.stacked', id: 'sockets.stacked', severity: 'note', stages: ['parts', 'build'],
    title: `${wide.length} wide plugs: one above the other`,
    sentence: `${wide.map(owner => owner.name).join(' and ')} are wider than the distance of two sockets side by side. ${seated.where
    || 'Put one above the other, or at opposite ends'}; a short extension lead gives room and keeps their warmth apart.`,
    subjects: wide.map(owner => ({ partId: owner.id })), figures: seated.figures, fixes: [],
  }]
  return [{
    code: 'sockets.side-by-side', id: 'sockets.side-by-side', severity: 'caution', stages: ['parts', 'build'],
    title: `${wide.length} wide plugs do not fit side by side`,
    sentence: `${wide.map(owner => owner.name).join(' and ')} each cover the socket beside them; ${Math.max(0, seated.room)} `
      + `${seated.room === 1 ? 'fits' : 'fit'}. Put one on a short extension lead, or on a powered hub.`,
    subjects: wide.map(owner => ({ partId: owner.id })),
    figures: [{ label: 'wide plugs', value: wide.length, limit: Math.max(0, seated.room), origin: seated.origin }], fixes: [],
  }]
}

interface Seats { room: number, where: string, origin: string, figures: Finding['figures'] }

/** By the bodies of sticks and sockets: the best way to put all of them in, and how many of the wide ones find room in it. */
function seatsOf(facts: Facts, power: Power, wide: readonly ResolvedPart[]): Seats {
  const { bodies, without } = assemblyOf(facts, power.tree)
  const plugs = bodies.filter(({ kind, socket }) => kind === 'plug' && socket !== undefined)
  const sockets = facts.board!.body!.standing!
  const mine = wide.map(owner => plugs.find(body => body.owner === owner.id && socketKind(body.socket!) === 'usb'))
  const standing = mine.filter((body, i) => body && !plugs.some(other => other !== body && gapOf(other.solid, body.solid) < -TOUCHES_MM
    && (!mine.includes(other) || mine.indexOf(other) < i)))
  const where = mine.every(body => body) && standing.length === wide.length
    ? `${wide.map((owner, i) => `${owner.name} into ${sockets.find(({ id }) => id === mine[i]!.socket)!.what}`).join(', ')}`
    : ''
  const widest = Math.max(...wide.map(({ part }) => part.body?.widthMm ?? 0))
  return {
    room: standing.filter(body => !without.includes(body!.owner)).length, where: where && `Put ${where}`, origin: 'board and part files',
    figures: [{ label: 'width of a wide plug', value: widest, unit: 'mm', origin: wide[0]!.part.body?.origin ?? 'memory' }],
  }

  function socketKind(id: string) {
    const entry = sockets.find(other => other.id === id)
    return entry?.kind === 'socket' ? entry.socket : null
  }
}

/** Where nobody knows how its sockets lie: as many as the board's file says. */
function countedSeats({ board }: Facts, narrow: number, wide: readonly ResolvedPart[]): Seats | null {
  const fits = board?.sockets.usbSideBySide
  if (fits === undefined) return null
  return {
    room: wide.length ? Math.min(fits, board!.sockets.usb - narrow) : 0, where: '', origin: 'practice',
    figures: [{ label: 'width of a wide plug', value: '18 to 22', unit: 'mm', limit: '14 to 18', origin: 'memory' }],
  }
}

/** A kind of socket of the board, and what is plugged into it: parts, and things of the supply by their node. */
export interface SocketUse {
  kind: keyof typeof SOCKETS
  there: number
  plugs: { partId?: string, node?: string, name: string }[]
}

/** The board's sockets with what hangs on them; empty without a board. */
export function socketsOf({ facts, power }: { facts: Facts, power: Power }): SocketUse[] {
  const { board } = facts
  if (!board) return []
  return (Object.keys(SOCKETS) as SocketUse['kind'][]).map(kind => ({
    kind, there: board.sockets[kind] ?? 0,
    plugs: [
      ...facts.parts.flatMap(owner => boardPlugs(owner, power.tree).filter(({ socket }) => socket === kind)
        .map(() => ({ partId: owner.id, name: owner.name }))),
      ...kind === 'usb' ? ownPlugs(power).map(({ id, name }) => ({ node: id, name })) : [],
    ],
  }))
}

/** More plugs than sockets. */
export const sockets: Rule = ({ facts, power }) => {
  return socketsOf({ facts, power }).flatMap(({ kind: socket, there, plugs }): Finding[] => {
    const count = plugs.length
    if (count <= there) return []
    const [hub] = socket === 'usb' && there > 0 ? ownHub(facts, power.tree) : []
    const movable = power.tree.nodes.filter(node => node.kind === 'part' && power.tree.byId.get(`${node.id}@wire`)?.from[0] === '@usb')
    return [{
      code: 'sockets.exceeded', id: `sockets.exceeded ${socket}`, severity: 'stop', stages: ['parts', 'board'],
      title: `More ${SOCKETS[socket].name} plugs than sockets`,
      sentence: `${count} ${count === 1 ? 'plug wants' : 'plugs want'} `
        + `${there === 0 ? 'a socket that this board does not have' : `${there} ${there === 1 ? 'socket' : 'sockets'}`}. `
        + `${SOCKETS[socket].wayOut}`,
      subjects: plugs.map(({ partId, node }) => partId === undefined ? { node } : { partId }),
      figures: [{ label: 'plugs', value: count, limit: there, origin: 'board file' }],
      // One hub takes a socket of its own and as many plugs as it has ports.
      fixes: hub && count - movable.length + 1 <= there && movable.length <= (facts.catalogue.powerItems.get(OWN_HUB)?.figures.ports ?? 0)
        ? [{ label: hub.label, edits: hub.edits }]
        : [],
    }]
  })
}

/** Extra-low voltage ends here, by IEC 61140 band I: 50 V AC, 120 V DC. */
const EXTRA_LOW_V = { AC: 50, DC: 120 }

/**
 * Of its rating a contact breaks this part when the load is a coil or a motor. memory: utilisation categories DC-13 and AC-15 of IEC
 * 60947-5-1
 */
const INDUCTIVE_SHARE = { AC: 0.5, DC: 0.2 }

/** A coil or a motor on a contact, with nothing that takes the energy of switching off. */
function arcs(owner: ResolvedPart, load: ContactLoad, rating: NonNullable<ResolvedPart['part']['contacts']>): Finding {
  const most = (load.kind === 'AC' ? rating.maxAcA : rating.maxDcA) * INDUCTIVE_SHARE[load.kind]
  const past = load.currentA > most
  const what = load.what || `The load on contact ${load.contact}`
  const loads = owner.inPlan.loads ?? []
  return {
    code: 'contact.arcs', id: `contact.arcs ${owner.id} ${load.contact} ${load.what}`, severity: 'caution',
    stages: ['parts', 'power', 'build'], title: `${what} draws an arc on contact ${load.contact}`,
    sentence: `${what} is a coil or a motor: when the contact opens, its current goes on through the air. `
      + (past
        ? `The contact breaks about ${Number(most.toFixed(2))} A of such a load, not ${load.currentA} A: it welds. `
        : 'The contact wears fast. ')
      + `${load.kind === 'DC'
        ? 'Put a diode across the load, its bar to plus.'
        : 'Put a resistor with a capacitor made for mains (class X2), or a varistor, across the load.'}`,
    subjects: [{ partId: owner.id }],
    figures: [{ label: 'breaks of a coil', value: load.currentA, unit: 'A', limit: Number(most.toFixed(2)), origin: 'memory' }],
    fixes: [{
      label: load.kind === 'DC' ? 'There is a diode across it' : 'It is suppressed',
      edits: [{
        edit: 'set-loads', id: owner.id, loads: loads.map(other => other === load ? { ...other, suppressed: true } : other),
      }],
    }],
  }
}

/** What hangs on a relay's contacts when the program hangs or the board restarts: said once for each relay. */
export const unattended: Rule = ({ facts }) => facts.parts.flatMap((owner): Finding[] => {
  const loads = owner.inPlan.loads ?? []
  if (!owner.part.contacts || !loads.length) return []
  const what = loads.map(load => load.what || `what hangs on contact ${load.contact}`)
  return [{
    code: 'contact.unattended', id: `contact.unattended ${owner.id}`, severity: 'note', stages: ['parts', 'build'],
    title: `What ${owner.name} switches when the program hangs`,
    sentence: `When the program hangs, its contacts stay as they are: ${what.join('; ')} ${loads.length > 1 ? 'stay' : 'stays'} on or off. `
      + 'While the board restarts, its lines float or are pulled, and a contact may drop or close for some seconds. Choose each contact '
      + '(open or closed at rest) so that rest is the safe side, and give what must not run on a timer, a float or a thermostat of its '
      + 'own.',
    subjects: [{ partId: owner.id }],
    figures: [{ label: 'loads', value: loads.length, origin: 'yours' }], fixes: [],
  }]
})

/** Loads on relay contacts: mains, and contacts past their rating. */
export const relayContacts: Rule = ({ facts }) => facts.parts.flatMap(owner => (owner.inPlan.loads ?? []).flatMap((load): Finding[] => {
  const rating = owner.part.contacts
  if (!rating) return []
  const [maxV, maxA] = load.kind === 'AC' ? [rating.maxAcV, rating.maxAcA] : [rating.maxDcV, rating.maxDcA]
  const what = load.what || `The load on contact ${load.contact}`
  const subjects = [{ partId: owner.id }]
  const findings: Finding[] = []
  if (load.voltageV > maxV || load.currentA > maxA || load.contact > rating.count) findings.push({
    code: 'contact.over-rating', id: `contact.over-rating ${owner.id} ${load.contact} ${load.what}`, severity: 'stop',
    stages: ['parts', 'power', 'build'],
    title: load.contact > rating.count
      ? `${owner.name} has no contact ${load.contact}`
      : `${owner.name}: contact ${load.contact} is past its rating`,
    sentence: load.contact > rating.count
      ? `The plan puts a load on contact ${load.contact} and there are ${rating.count}. Choose one of them.`
      : `${what} asks ${load.voltageV} V ${load.kind} and ${load.currentA} A; the contact stands ${maxV} V and ${maxA} A for `
        + `${load.kind}: it welds shut or burns. Take a contactor made for the load.`,
    subjects, fixes: [],
    figures: [
      { label: 'voltage', value: load.voltageV, unit: `V ${load.kind}`, limit: maxV, origin: rating.origin },
      { label: 'current', value: load.currentA, unit: 'A', limit: maxA, origin: rating.origin },
    ],
  })
  if (load.inductive && !load.suppressed) findings.push(arcs(owner, load, rating))
  if (load.voltageV > EXTRA_LOW_V[load.kind]) findings.push({
    code: 'contact.mains', id: `contact.mains ${owner.id} ${load.contact} ${load.what}`, severity: 'caution',
    stages: ['parts', 'power', 'build'],
    title: `${owner.name}: mains on contact ${load.contact}`,
    sentence: `${what} runs on ${load.voltageV} V ${load.kind}. Mains wiring follows your local codes and is work for a licensed `
      + `electrician: fuse, separation from the low-voltage side, a closed case. Think of a low-voltage load, or a ready-made switched `
      + `socket, instead. Voltaris is no certified safety function.`,
    subjects,
    figures: [{
      label: 'voltage', value: load.voltageV, unit: `V ${load.kind}`, limit: EXTRA_LOW_V[load.kind],
      origin: 'published: IEC 61140, extra-low voltage',
    }],
    fixes: [],
  })
  return findings
}))
