/** Sockets and relay contacts. */
import { holds } from '../facts/gather'
import type { ResolvedPart } from '../facts/types'
import type { Finding, Rule } from './types'

const SOCKETS = {
  usb: { name: 'USB', wayOut: 'Add a powered hub, or join one of them another way.' },
  video: { name: 'video', wayOut: 'Take a board with two video sockets, or drop a screen.' },
  fan: { name: 'fan', wayOut: 'Take a fan that is driven from the header, or a board with a fan socket.' },
  display: { name: 'display', wayOut: 'Take a panel with a video plug, or a board with a display connector.' },
} as const

/** Wide USB plugs cover their neighbour: more of them than fit side by side. */
export const widePlugs: Rule = ({ facts }) => {
  const fits = facts.board?.sockets.usbSideBySide
  if (fits === undefined) return []
  const wide = facts.parts.filter(owner =>
    owner.part.plugs?.some(plug => plug.socket === 'usb' && plug.wide && holds(plug.when, owner.options)))
  const narrow = facts.parts.filter(owner => plugsOf(owner).includes('usb') && !wide.includes(owner)).length
  const room = Math.min(fits, facts.board!.sockets.usb - narrow)
  if (wide.length < 2 || wide.length <= room) return []
  return [{
    code: 'sockets.side-by-side', id: 'sockets.side-by-side', severity: 'caution', stages: ['parts', 'build'],
    title: `${wide.length} wide plugs do not fit side by side`,
    sentence: `${wide.map(owner => owner.name).join(' and ')} each cover the socket beside them; ${Math.max(0, room)} `
      + `${room === 1 ? 'fits' : 'fit'}. Put one on a short extension lead, or on a powered hub.`,
    subjects: wide.map(owner => ({ partId: owner.id })),
    figures: [{ label: 'wide plugs', value: wide.length, limit: Math.max(0, room), origin: 'practice' }], fixes: [],
  }]
}

/** More plugs than sockets. */
export const sockets: Rule = ({ facts }) => {
  if (!facts.board) return []
  return (['usb', 'video', 'fan', 'display'] as const).flatMap((socket): Finding[] => {
    const plugged = facts.parts.flatMap(owner => plugsOf(owner).filter(plug => plug === socket).map(() => owner))
    const there = facts.board!.sockets[socket] ?? 0
    if (plugged.length <= there) return []
    return [{
      code: 'sockets.exceeded', id: `sockets.exceeded ${socket}`, severity: 'stop', stages: ['parts', 'board'],
      title: `More ${SOCKETS[socket].name} plugs than sockets`,
      sentence: `${plugged.length} ${plugged.length === 1 ? 'plug wants' : 'plugs want'} `
        + `${there === 0 ? 'a socket that this board does not have' : `${there} ${there === 1 ? 'socket' : 'sockets'}`}. `
        + `${SOCKETS[socket].wayOut}`,
      subjects: plugged.map(owner => ({ partId: owner.id })),
      figures: [{ label: 'plugs', value: plugged.length, limit: there, origin: 'board file' }], fixes: [],
    }]
  })
}

/** Sockets a part takes with its present options. */
export function plugsOf(owner: ResolvedPart): NonNullable<ResolvedPart['part']['plugs']>[number]['socket'][] {
  return (owner.part.plugs ?? [])
    .filter(plug => Object.entries(plug.when ?? {}).every(([id, value]) => owner.options[id] === value))
    .map(plug => plug.socket)
}

/** Extra-low voltage ends here, by IEC 61140 band I: 50 V AC, 120 V DC. */
const EXTRA_LOW_V = { AC: 50, DC: 120 }

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
