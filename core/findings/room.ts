/** Room: what is in one another, what the lid lies on, what does not come out of its case, and what cannot breathe. */
import { nodeOfComponent } from '../plan/ids'
import { misfitOf, thingsFor } from '../catalogue/things'
import type { Part } from '../catalogue/types'
import type { BodySocket } from '../catalogue/shapes/body'
import { assemblyOf, type Assembly } from '../mechanics/assembly'
import type { PlacedBody } from '../mechanics/bodies'
import { mountAnswer } from '../mechanics/fasteners'
import { mountOf } from '../mechanics/panel'
import { FILM_MM } from '../mechanics/stack'
import { BETWEEN_BOARDS_MM, BREATH_MM, roomOf, tallestOf, type TooClose, type Room } from '../mechanics/room'
import { flatGap } from '../mechanics/solids'
import { plugsOf } from '../netlist/supply/plugged'
import { besideBoard } from '../plan/places'
import { thingEdits } from '../plan/things'
import { flatCables } from './flat-cables'
import { reach } from './reach'
import type { Evidence, Finding, Fix, Rule, Severity, Subject } from './types'

/** Like things differ by so much: closer than that a figure from memory is no proof. memory */
const DOUBT_MM = 1.5
const mm = (value: number) => Number(value.toFixed(1))

const blowsIn = ({ facts }: Evidence) =>
  (owner: string) => facts.parts.find(({ id }) => id === owner)?.part.thing?.cooler === 'active'

const subjectsOf = (...bodies: PlacedBody[]): Subject[] => {
  const all = bodies.flatMap(({ owner }): Subject[] => {
    if (owner === '@board') return [{ node: '@board' }]
    if (owner.startsWith('@')) return []
    const node = nodeOfComponent(owner)
    return node !== null ? [{ node }] : [{ partId: owner }]
  })
  return all.filter((one, i) => all.findIndex(other => other.partId === one.partId && other.node === one.node) === i)
}

const isSure = (lacksMm: number,
  ...origins: string[]) => lacksMm > DOUBT_MM || !origins.some(origin => origin.startsWith('memory'))
const severityOf = (lacksMm: number, ...origins: string[]): Severity => isSure(lacksMm, ...origins) ? 'stop' : 'caution'
const doubt = (lacksMm: number, ...origins: string[]) => isSure(lacksMm, ...origins)
  ? ''
  : ' Like things differ by as much: measure yours and type it in at Build.'
const originsOf = (...bodies: PlacedBody[]) => [...new Set(bodies.map(({ origin }) => origin))].join('; ')

/** A case whose lid closes over all that stands on the board. */
export const closesOver = ({ facts, power }: Evidence) => {
  const needed = tallestOf(assemblyOf(facts, power.tree).bodies)
  return ({ thing }: Part) => (thing?.lidMm ?? Infinity) >= needed
}

/** All that the bodies tell. */
export const roomTaken: Rule = (evidence) => {
  const { facts, power } = evidence
  if (!facts.board?.body) return []
  const assembly = assemblyOf(facts, power.tree)
  const room = roomOf(assembly, blowsIn(evidence))
  return [
    ...lid(evidence, assembly, room), ...walls(assembly, room), ...clashes(evidence, assembly, room),
    ...close(evidence, room),
    ...air(assembly, room),
    ...shutIn(evidence, assembly),
    ...reach(evidence, assembly), ...flatCables(evidence, assembly),
  ]
}

/** One finding for each thing: its worst body speaks for it. */
const byOwner = <T>(entries: readonly T[], ownersOf: (entry: T) => string): T[] => {
  const seen = new Set<string>()
  return entries.filter((entry) => {
    const key = ownersOf(entry)
    return seen.has(key) ? false : (seen.add(key), true)
  })
}

function casesWith({ facts }: Pick<Evidence, 'facts'>, fits: (box: Part) => boolean): Fix[] {
  const found = thingsFor('case', facts.board, facts.catalogue)
    .find(part => part.thing?.cooler === undefined && fits(part))
  return found ? [{ label: `Take ${found.name}`, edits: thingEdits(facts.plan, 'case', found, facts.catalogue) }] : []
}

/** What stands higher than the lid lies; coolers are told of with the things. */
function lid(evidence: Evidence, { inside, bodies }: Assembly, { overLid }: Room): Finding[] {
  const over = overLid.filter(({ body }) => body.kind !== 'cooler')
  const [worst] = over
  if (!worst) return []
  const told = byOwner(over, ({ body }) => body.owner)
  const origins = [worst.body.origin, inside!.origin]
  const needed = tallestOf(bodies)
  return [{
    code: 'room.lid', id: `room.lid ${inside!.partId}`, severity: severityOf(worst.lacksMm, ...origins),
    stages: ['board', 'build'],
    title: `The lid of ${inside!.name} does not close`,
    sentence: `It lies ${mm(inside!.lidMm!)} mm above the board; ${told.map(({ body, topMm }) => `${body.name} ends at ${mm(topMm)} mm`)
      .join(', ')}: ${mm(worst.lacksMm)} mm are lacking. Leave the lid off, take a higher case, or put spacers of `
      + `${Math.ceil(worst.lacksMm)} mm or more under the lid and type in what you measure then.${doubt(worst.lacksMm, ...origins)}`,
    subjects: [...subjectsOf(...told.map(({ body }) => body)), { partId: inside!.partId }],
    figures: [{
      label: 'height', value: mm(worst.topMm), unit: 'mm', limit: mm(inside!.lidMm!),
      origin: `${originsOf(worst.body)}; lid: ${inside!.origin}`,
    }],
    fixes: casesWith(evidence, ({ thing }) => (thing!.lidMm ?? Infinity) >= needed),
  }]
}

function walls({ inside }: Assembly, room: Room): Finding[] {
  return byOwner(room.walls, ({ body }) => body.owner).map(({ body, lacksMm }) => ({
    code: 'room.wall', id: `room.wall ${body.owner}`, severity: severityOf(lacksMm, body.origin, inside!.origin),
    stages: ['board',
      'build'],
    title: `${capital(body.name)} is wider than ${inside!.name}`,
    sentence: `It stands ${mm(lacksMm)} mm into the wall. It goes on outside of the case, or in a wider one.`
      + doubt(lacksMm, body.origin, inside!.origin),
    subjects: [...subjectsOf(body), { partId: inside!.partId }],
    figures: [{ label: 'over the wall', value: mm(lacksMm), unit: 'mm', limit: 0, origin: originsOf(body) }], fixes: [],
  }))
}

/** Plugs beside each other are told of with the sockets. */
function clashes(evidence: Evidence, assembly: Assembly, room: Room): Finding[] {
  const pairs = room.clashes.filter(({ one, two }) => !(one.kind === 'plug' && two.kind === 'plug'))
  return byOwner(pairs, ({ one, two }) => `${one.owner} ${two.owner}`).map((meeting) => {
    const { one, two, gapMm } = meeting
    const origins = [one.origin, two.origin]
    return {
      code: 'room.clash', id: `room.clash ${one.owner} ${two.owner}`, severity: severityOf(-gapMm, ...origins),
      stages: ['build'],
      title: `${capital(two.name)} and ${one.name} are in one another`,
      sentence: `By ${mm(-gapMm)} mm: one of them has to give way by as much. `
        + `${wayOut(one, two)}${doubt(-gapMm, ...origins)}`,
      subjects: subjectsOf(one, two),
      figures: [{ label: 'clearance', value: mm(gapMm), unit: 'mm', limit: 0, origin: originsOf(one, two) }],
      fixes: givingWay(evidence, assembly, meeting),
    }
  })
}

function wayOut(one: PlacedBody, two: PlacedBody): string {
  const kinds = new Set([one.kind, two.kind])
  if (kinds.has('plate') || one.ground || two.ground) return 'Take higher spacers under the board.'
  if (kinds.has('cable')
    && !kinds.has('add-on')) return 'A cable creased or bent tighter breaks inside: lay the other one elsewhere.'
  if (!kinds.has('add-on')) return 'Lay one of them elsewhere.'
  return 'A taller socket or a riser lifts the board that is pushed '
    + `on${kinds.has('cooler') ? '; a lower cooler spares it' : ''}.`
}

/**
 * Fans and things that were put somewhere go back beside the board; a cooler gives way to a lower one; a riser
 * lifts a board.
 */
function givingWay({ facts }: Evidence, { inside, bodies }: Assembly, { one, two }: TooClose): Fix[] {
  if ([one, two].some(({ kind, ground }) => kind === 'plate' || ground)) return higherSpacers(facts, bodies)
  const fixes: Fix[] = [one, two].filter(({ kind }) => kind === 'fan' || kind === 'part').map(({ owner, name }) =>
    ({ label: `Lay ${name} beside the board`,
      edits: [{ edit: 'place-body', id: owner, place: besideBoard(facts.plan, owner) }] }))
  if (fixes.length) return fixes
  // What holds a board is no part of it here.
  const isHeld = ({ kind }: PlacedBody) => kind !== 'spacer' && kind !== 'film'
  const lowest = (owner: string) =>
    Math.min(...bodies.filter(body => body.owner === owner && isHeld(body)).map(({ solid }) => solid.z[0]))
  // Of two boards the upper one is lifted.
  const [over] = [one, two].filter(({ kind }) => kind === 'add-on').sort((a, b) => lowest(b.owner) - lowest(a.owner))
  if (!over) return []
  const lower = (over === one ? two : one).owner
  const mine = bodies.filter(body => body.owner === over.owner && isHeld(body))
  const lacking = Math.max(...bodies.filter(({ owner, solid }) =>
    owner === lower && mine.some(body => flatGap(body.solid, solid) < 0))
    .map(({ solid }) => solid.z[1])) - lowest(over.owner)
  const cooler = facts.parts.find(({ id, part }) => id === lower && part.thing?.cooler !== undefined)
  const low = cooler && thingsFor('cooler', facts.board, facts.catalogue).find(({ thing, plugs }) => !plugs
    && thing!.heightMm !== undefined && thing!.heightMm <= lowest(over.owner) - BETWEEN_BOARDS_MM)
  if (low) fixes.push({ label: `Take ${low.name}`, edits: thingEdits(facts.plan, 'cooler', low, facts.catalogue) })
  const place = facts.plan.build.places[over.owner]
  const moreMm = Math.ceil(lacking + BETWEEN_BOARDS_MM)
  // What it carries goes up with it.
  const top = Math.max(...bodies.filter(({ kind }) => kind === 'add-on' || kind === 'wire')
    .map(({ solid }) => solid.z[1]))
  if (inside?.lidMm == null || top + moreMm <= inside.lidMm) fixes.push({
    label: `Lift ${over.owner === one.owner ? nameOf(facts, one) : nameOf(facts, two)} by a riser of `
      + `${(place?.liftMm ?? 0) + moreMm} mm`,
    edits: [{ edit: 'place-body', id: over.owner,
      place: { ...place, on: 'board', liftMm: (place?.liftMm ?? 0) + moreMm } }],
  })
  return fixes
}

/** Spacers that leave the lowest thing of the board its air, where such are sold. */
function higherSpacers(facts: Evidence['facts'], bodies: Assembly['bodies']): Fix[] {
  const mounted = mountOf(facts)
  const { board } = facts
  if (!mounted) return []
  const { mount, ground } = mounted
  const lowest = Math.min(...bodies.filter(({ owner }) => owner === '@board').map(({ solid }) => solid.z[0]))
  const underMm = mm(-lowest - (board?.body?.boardMm ?? 0))
  const { spacerMm } = mountAnswer({ ...mount, underMm }, ground ?? undefined)
  return spacerMm === null
    ? []
    : [{ label: `Spacers of ${spacerMm} mm`, edits: [{ edit: 'set-mount', mount: { ...mount, underMm } }] }]
}

function close({ facts }: Evidence, room: Room): Finding[] {
  return byOwner(room.close, ({ one, two }) => `${one.owner} ${two.owner}`)
    .map(({ one, two, gapMm, wantedMm }: TooClose) => ({
      code: 'room.close', id: `room.close ${one.owner} ${two.owner}`, severity: 'note', stages: ['build'],
      title: `Little room between ${one.name} and ${two.name}`,
      sentence: `${mm(gapMm)} mm are between them, and ${mm(wantedMm)} mm are usual: look from the side before you `
        + 'press, and put a film between where metal could touch a joint.',
      subjects: subjectsOf(one, two),
      figures: [{ label: 'clearance', value: mm(gapMm), unit: 'mm', limit: wantedMm, origin: originsOf(
        one, two) }],
      fixes: filmUnder(facts, one, two, gapMm),
    }))
}

function air({ inside }: Assembly, { stifled }: Room): Finding[] {
  return stifled.map(({ body, gapMm }) => ({
    code: 'room.air', id: `room.air ${body.owner}`, severity: 'caution', stages: ['board', 'build'],
    title: `${body.name} has no air under the lid`,
    sentence: `${mm(gapMm)} mm are between its blades and the lid of ${inside!.name}, and it wants ${BREATH_MM} mm: it `
      + 'turns and moves little. Leave the lid off, or open it above the blades.',
    subjects: [{ partId: body.owner }, { partId: inside!.partId }],
    figures: [{ label: 'above the blades', value: mm(gapMm), unit: 'mm', limit: BREATH_MM, origin: 'practice' }],
    fixes: [],
  }))
}

/** A film under the upper of two, where there is room for one. */
function filmUnder({ plan }: Evidence['facts'], one: PlacedBody, two: PlacedBody, gapMm: number): Fix[] {
  const upper = one.solid.z[0] > two.solid.z[0] ? one : two
  if (upper.kind !== 'add-on' || gapMm < FILM_MM) return []
  const place = plan.build.places[upper.owner]
  return [{
    label: `Lay a film of ${FILM_MM} mm between`,
    edits: [{ edit: 'place-body', id: upper.owner, place: { ...place, on: 'board', film: true } }],
  }]
}

const SHUT: Readonly<Partial<Record<BodySocket, string>>> = { usb: 'USB', video: 'video', display: 'flat-cable' }

/** Sockets that are used and look at a wall. */
function shutIn({ facts }: Evidence, { inside }: Assembly): Finding[] {
  const owner = facts.parts.find(({ id }) => id === inside?.partId)
  const openings = owner?.part.thing?.openings
  if (!owner || !openings || misfitOf(owner.part, facts.board) !== null) return []
  return (['usb', 'video', 'display'] as const).flatMap((socket): Finding[] => {
    const users = facts.parts.filter(part => plugsOf(part).some(plug => plug.socket === socket))
    if (!users.length || openings.includes(socket)) return []
    return [{
      code: 'room.no-opening', id: `room.no-opening ${owner.id} ${socket}`, severity: 'caution',
      stages: ['board', 'build'],
      title: `${owner.name} has no hole for the ${SHUT[socket]} socket`,
      sentence: `${users.map(({ name }) => name).join(' and ')} ${users.length === 1 ? 'needs' : 'need'} it. Leave the `
        + 'lid off, take a case that is open there, or file a slot before the board is in it.',
      subjects: [{ partId: owner.id }, ...users.map(({ id }) => ({ partId: id }))], figures: [],
      fixes: casesWith({ facts }, ({ thing }) => (thing!.openings?.includes(socket) ?? false)
        && (thing!.lidMm ?? Infinity) >= (owner.part.thing!.lidMm ?? 0)),
    }]
  })
}

const nameOf = ({ parts }: Evidence['facts'],
  { owner, name }: PlacedBody) => parts.find(({ id }) => id === owner)?.name ?? name
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)
