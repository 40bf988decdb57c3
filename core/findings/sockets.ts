/** Plugs against sockets: more than there are, and wide ones side by side. */
import { offeredItem } from '../catalogue/offered'
import { lacksUnderLid, thingKind, thingsFor } from '../catalogue/things'
import type { Facts, ResolvedPart } from '../facts/types'
import { thingEdits } from '../plan/things'
import type { Power } from '../power/report'
import { ownHub } from './power/candidates'
import { assemblyOf } from '../mechanics/assembly'
import { TOUCHES_MM } from '../mechanics/plug-fit'
import { gapOf } from '../mechanics/solids'
import { boardPlugs, pluggedInto, plugsOf } from '../netlist/supply/plugged'
import type { Finding, Fix, Rule } from './types'

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
    sentence: `${wide.map(owner => owner.name).join(' and ')} each cover the socket beside them; `
      + `${Math.max(0, seated.room)} ${seated.room === 1 ? 'fits' : 'fit'}. Put one on a short extension lead, or `
      + 'on a powered hub.',
    subjects: wide.map(owner => ({ partId: owner.id })),
    figures: [{ label: 'wide plugs', value: wide.length, limit: Math.max(0, seated.room), origin: seated.origin }],
    fixes: [],
  }]
}

interface Seats { room: number, where: string, origin: string, figures: Finding['figures'] }

/**
 * By the bodies of sticks and sockets: the best way to put all of them in, and how many of the wide ones find
 * room in it.
 */
function seatsOf(facts: Facts, power: Power, wide: readonly ResolvedPart[]): Seats {
  const { bodies, without } = assemblyOf(facts, power.tree)
  const plugs = bodies.filter(({ kind, socket }) => kind === 'plug' && socket !== undefined)
  const sockets = facts.board!.body!.standing!
  const mine = wide.map(owner => plugs.find(body => body.owner === owner.id && socketKind(body.socket!) === 'usb'))
  const standing = mine.filter((body,
    i) => body && !plugs.some(other => other !== body && gapOf(other.solid, body.solid) < -TOUCHES_MM
      && (!mine.includes(other) || mine.indexOf(other) < i)))
  const where = mine.every(body => body) && standing.length === wide.length
    ? `${wide.map((owner, i) => `${owner.name} into ${sockets.find(({ id }) => id === mine[i]!.socket)!.what}`).join(', ')}`
    : ''
  const widest = Math.max(...wide.map(({ part }) => part.body?.widthMm ?? 0))
  return {
    room: standing.filter(body => !without.includes(body!.owner)).length, where: where && `Put ${where}`,
    origin: 'board and part files',
    figures: [{ label: 'width of a wide plug', value: widest, unit: 'mm',
      origin: wide[0]!.part.body?.origin ?? 'memory' }],
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

/** Ways to do without one plug of a fan: a cooler that has none, under the lid that is there, or to leave it out. */
function withoutFanPlug(facts: Facts, partId: string): Fix[] {
  const owner = facts.parts.find(({ id }) => id === partId)!
  const lids = facts.parts.flatMap(({ part }) => thingKind(part) === 'case' ? part.thing! : [])
  const other = thingKind(owner.part) === 'cooler'
    ? thingsFor('cooler', facts.board, facts.catalogue).find(({ thing, plugs }) =>
        !plugs?.length && lids.every(lid => lid.cooler === undefined && lacksUnderLid(thing!, lid) === null))
    : undefined
  return [
    ...other ? [{ label: `Take ${other.name}`, edits: thingEdits(facts.plan, 'cooler', other, facts.catalogue) }] : [],
    { label: `Without ${owner.name}`, edits: [{ edit: 'remove-part', id: partId }] },
  ]
}

/** More plugs than sockets. */
export const sockets: Rule = ({ facts, power }) => {
  return socketsOf({ facts, power }).flatMap(({ kind: socket, there, plugs }): Finding[] => {
    const count = plugs.length
    if (count <= there) return []
    const [hub] = socket === 'usb' && there > 0 ? ownHub(facts, power.tree) : []
    const movable = power.tree.nodes.filter(node =>
      node.kind === 'part' && power.tree.byId.get(`${node.id}@wire`)?.from[0] === '@usb')
    return [{
      code: 'sockets.exceeded', id: `sockets.exceeded ${socket}`, severity: 'stop', stages: ['parts', 'board'],
      title: `More ${SOCKETS[socket].name} plugs than sockets`,
      sentence: `${count} ${count === 1 ? 'plug wants' : 'plugs want'} `
        + `${there === 0 ? 'a socket that this board does not have' : `${there} ${there === 1 ? 'socket' : 'sockets'}`}. `
        + `${SOCKETS[socket].wayOut}`,
      subjects: plugs.map(({ partId, node }) => partId === undefined ? { node } : { partId }),
      figures: [{ label: 'plugs', value: count, limit: there, origin: 'board file' }],
      // One hub takes a socket of its own and as many plugs as it has ports.
      fixes: socket === 'fan' && count - there === 1
        ? plugs.flatMap(plug => withoutFanPlug(facts, plug.partId!))
        : hub && count - movable.length + 1 <= there
          && movable.length <= (offeredItem(facts.catalogue, 'hub')?.figures.ports ?? 0)
          ? [{ label: hub.label, edits: hub.edits }]
          : [],
    }]
  })
}
