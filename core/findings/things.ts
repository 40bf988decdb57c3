/** Things against the board and against each other: outlines, lids, slots, bare headers, small sockets, images. */
import { lacksUnderLid, misfitOf, thingKind, thingsFor, THING_WORDS, type ThingKind } from '../catalogue/things'
import type { Part } from '../catalogue/types'
import { isMet } from '../facts/conditions'
import type { Facts, ResolvedPart } from '../facts/types'
import { freePartId } from '../plan/create'
import { thingEdits } from '../plan/things'
import { closesOver } from './room'
import { pluggedInto, plugsIntoBoard } from '../netlist/supply/plugged'
import type { Evidence, Finding, Fix, Rule, Subject } from './types'

const ofKind = ({ parts }: Facts, ...kinds: ThingKind[]) =>
  parts.filter(owner => (kinds as (ThingKind | null)[]).includes(thingKind(owner.part)))

/** One thing in place of another of its kind. */
const take = (facts: Facts, kind: ThingKind, part: Part): Fix =>
  ({ label: `Take ${part.name}`, edits: thingEdits(facts.plan, kind, part, facts.catalogue) })

const add = ({ plan }: Facts, part: Part, label = `Add ${part.name}`): Fix =>
  ({ label, edits: [{ edit: 'add-part', part: { id: freePartId(plan, part.id), type: part.id, name: part.name } }] })

/** A cooler has room in a case, which lies on the processor itself or leaves enough under its lid. */
const fits = (cooler: Part,
  box: Part) => box.thing!.cooler === undefined && lacksUnderLid(cooler.thing!, box.thing!) === null

/** A case or a cooler for another outline. */
export const otherOutline: Rule = ({ facts }) => ofKind(facts, 'case', 'cooler').flatMap((owner): Finding[] => {
  const { board } = facts
  const { outlines } = owner.part.thing!
  if (!board?.outline || !outlines || outlines.includes(board.outline)) return []
  const kind = thingKind(owner.part)!
  // Of those that go with the board one that goes with the other thing in the plan, where there is one.
  const partners = ofKind(facts, kind === 'case' ? 'cooler' : 'case')
    .filter(other => misfitOf(other.part, board) === null)
  const together = (part: Part) => partners.every(({ part: other }) =>
    kind === 'case' ? fits(other, part) : fits(part, other))
  const all = thingsFor(kind, board, facts.catalogue)
  const others = [...all.filter(together), ...all.filter(part => !together(part))]
  const like = others.find(({ thing }) =>
    thing!.cooler === owner.part.thing!.cooler && thing!.enclosure === owner.part.thing!.enclosure)
  const instead = like ?? others[0]
  return [{
    code: 'thing.other-board', id: `thing.other-board ${owner.id}`, severity: 'stop', stages: ['board', 'build'],
    title: `${owner.name} is made for another board`,
    sentence: `${board.name} has another outline: holes, sockets and processor lie elsewhere. `
      + (instead
        ? `${instead.name} goes with it.`
        : `The catalogue has no ${THING_WORDS[kind].toLowerCase()} that `
          + 'goes with it.'),
    subjects: [{ partId: owner.id }, { node: '@board' }], figures: [],
    fixes: instead ? [take(facts, kind, instead)] : [],
  }]
})

/** The thing itself under the lid of the case itself. */
export const underLid: Rule = ({ facts }) => ofKind(facts, 'case')
  .flatMap(box => ofKind(facts, 'cooler').flatMap((owner): Finding[] => {
  // What is made for another board is changed first: how high it stands here nobody knows.
    if ([owner, box].some(({ part }) => misfitOf(part, facts.board) !== null)) return []
    const lacking = lacksUnderLid(owner.part.thing!, box.part.thing!)
    const double = box.part.thing!.cooler !== undefined
    if (lacking === null && !double) return []
    const low = thingsFor('cooler', facts.board, facts.catalogue)
      .find(({ thing }) => lacksUnderLid(thing!, box.part.thing!) === null)
    const high = thingsFor('case', facts.board, facts.catalogue)
      .find(({ thing }) => thing!.cooler === undefined && lacksUnderLid(owner.part.thing!, thing!) === null)
    return [{
      code: 'thing.under-lid', id: `thing.under-lid ${owner.id} ${box.id}`, severity: 'stop',
      stages: ['board', 'build'],
      title: `${owner.name} does not go under ${box.name}`,
      sentence: double
        ? `${box.name} lies on the processor itself: there is no room for another cooler between them. Take `
        + 'one of the two.'
        : `It stands ${owner.part.thing!.heightMm} mm above the board and the lid lies ${box.part.thing!.lidMm} mm `
          + 'above it. Leave the lid off, or take a lower cooler or a higher case.',
      subjects: [{ partId: owner.id }, { partId: box.id }],
      figures: double
        ? []
        : [{
            label: 'height', value: owner.part.thing!.heightMm!, unit: 'mm', limit: box.part.thing!.lidMm!,
            origin: box.part.thing!.origin ?? 'part file',
          }],
      fixes: double
        ? [{ label: `Without ${owner.name}`, edits: [{ edit: 'remove-part', id: owner.id }] }]
        : [...low ? [take(facts, 'cooler', low)] : [], ...high ? [take(facts, 'case', high)] : []],
    }]
  }))

/** Whatever is on the header of the board: boards pushed on, and wires. */
const onHeader = ({ atPosition, parts }: Facts): { boards: ResolvedPart[], wires: number } => ({
  boards: parts.filter(owner => owner.part.seat),
  wires: [...atPosition.values()].flat().filter(terminal => !terminal.owner.part.seat).length,
})

/** A case that leaves no way out for what is on the header. */
export const headerShut: Rule = evidence => ofKind(evidence.facts, 'case').flatMap((box): Finding[] => {
  const { facts } = evidence
  const { boards, wires } = onHeader(facts)
  const thing = box.part.thing!
  if (thing.headerSlot || (thing.addOnInside && !wires) || (!boards.length && !wires)) return []
  const cooler = ofKind(facts, 'cooler')[0]
  const closes = closesOver(evidence)
  const open = thingsFor('case', facts.board, facts.catalogue)
    .find(part => part.thing!.headerSlot && part.thing!.cooler === undefined
      && closes(part) && (!cooler || lacksUnderLid(cooler.part.thing!, part.thing!) === null))
  const what = boards.length
    ? boards.map(owner => owner.name).join(' and ')
    : `${wires} ${wires === 1 ? 'wire' : 'wires'}`
  return [{
    code: 'case.header-shut', id: `case.header-shut ${box.id}`, severity: 'caution', stages: ['board', 'build'],
    title: `${box.name} shuts the header in`,
    sentence: `${what} ${boards.length === 1 || (!boards.length && wires === 1) ? 'is' : 'are'} on the header, and the `
      + 'case has no slot there. Leave the lid off, or take a case with a slot before the last screw is in.',
    subjects: [{ partId: box.id }, ...boards.map(owner => ({ partId: owner.id }))], figures: [],
    fixes: open ? [take(facts, 'case', open)] : [],
  }]
})

/** Holes without pins, and something that wants pins. */
export const headerMissing: Rule = ({ facts }) => {
  const { boards, wires } = onHeader(facts)
  if (!facts.board?.headerUnpopulated || (!boards.length && !wires) || ofKind(facts, 'header').length) return []
  const pins = thingsFor('header', facts.board, facts.catalogue)
  return [{
    code: 'header.missing', id: 'header.missing', severity: 'caution', stages: ['board', 'build'],
    title: 'The header has holes and no pins yet',
    sentence: `${boards.length ? boards.map(owner => owner.name).join(' and ') : 'The wires'} cannot go on before pins `
      + 'are in. Solder them on the side with the parts: from below every position is mirrored. Single wires can be '
      + 'soldered into the holes instead.',
    subjects: [{ node: '@board' }], figures: [], fixes: pins.map(part => add(facts, part)),
  }]
}

const SOCKET_WORDS = { usb: 'USB', video: 'video' } as const

interface Plug { name: string, subject: Subject, size: 'full' | 'mini' | 'micro' }

/** What is plugged into the board itself: parts, and for USB the hubs and cables of the maker's own as well. */
function plugsAt({ facts, power }: Evidence, socket: 'usb' | 'video'): Plug[] {
  const ofParts = facts.parts.flatMap((owner): Plug[] => (owner.part.plugs ?? [])
    .filter(plug => plug.socket === socket && isMet(plug.when, owner.options)
      && (socket !== 'usb' || plugsIntoBoard(power.tree, owner.id,
        owner.supplies.filter(supply => supply.from === 'usb').map(supply => supply.id))))
    .map(plug => ({ name: owner.name, subject: { partId: owner.id }, size: plug.size ?? 'full' })))
  const own = socket === 'usb' ? pluggedInto(power.tree, '@usb').filter(node => !node.partId) : []
  return [...ofParts, ...own.map(({ id, name }): Plug => ({ name, subject: { node: id }, size: 'full' }))]
}

/** Plugs of one size at sockets of another, with fewer adapters than it takes. */
export const adaptersMissing: Rule = evidence => (['usb', 'video'] as const).flatMap((socket): Finding[] => {
  const { facts } = evidence
  const size = facts.board?.socketSizes?.[socket] ?? 'full'
  if (!facts.board || size === 'full' || !facts.board.sockets[socket]) return []
  const plugged = plugsAt(evidence, socket).filter(plug => plug.size !== size)
  const there = facts.parts.filter(({ part }) =>
    part.thing?.adapts?.socket === socket && part.thing.adapts.size === size).length
  const lacking = plugged.length - there
  if (lacking <= 0) return []
  const adapter = thingsFor('adapter', facts.board, facts.catalogue)
    .find(({ thing }) => thing!.adapts?.socket === socket)
  return [{
    code: 'adapter.missing', id: `adapter.missing ${socket}`, severity: 'caution', stages: ['board', 'parts', 'build'],
    title: `${lacking === 1 ? 'An adapter is' : `${lacking} adapters are`} wanted for ${SOCKET_WORDS[socket]}`,
    sentence: `${plugged.map(({ name }) => name).join(' and ')} ${plugged.length === 1 ? 'has a plug' : 'have plugs'} `
      + `of full size, and the ${SOCKET_WORDS[socket]} socket of the board is a ${size} one. Take an adapter, or a `
      + 'cable with the small plug.',
    subjects: [...plugged.map(({ subject }) => subject), { node: '@board' }],
    figures: [{ label: 'adapters', value: there, limit: plugged.length, origin: 'board file' }],
    fixes: adapter ? [add(facts, adapter)] : [],
  }]
})

/** Of two like sockets one carries no data, and something wants data. */
export const dataSocket: Rule = (evidence) => {
  const { board } = evidence.facts
  if (!board?.dataSocket) return []
  const plugged = plugsAt(evidence, 'usb')
  if (!plugged.length) return []
  return [{
    code: 'socket.power-only', id: 'socket.power-only', severity: 'note', stages: ['board', 'build'],
    title: 'One of the two like sockets carries data',
    sentence: `${plugged.map(({ name }) => name).join(' and ')} ${plugged.length === 1 ? 'goes' : 'go'} into `
      + `${board.dataSocket}. In the other one it is fed and never answers.`,
    subjects: [...plugged.map(({ subject }) => subject), { node: '@board' }], figures: [], fixes: [],
  }]
}

/** Year and month at the beginning of what the maker wrote down; null where it begins otherwise. */
const monthOf = (written: string | undefined): string | null =>
  /^\s*(\d{4}-(?:0[1-9]|1[0-2]))\b/.exec(written ?? '')?.[1] ?? null

/** An image from before the board: by where its boot files lie, or by the date that the record has. */
export const imageTooOld: Rule = ({ facts: { plan, board } }) => {
  if (!board) return []
  if (board.leastImage === 'newer' && plan.boot?.image === 'older') return [{
    code: 'image.too-old', id: 'image.too-old', severity: 'stop', stages: ['board', 'boot'],
    title: 'The image is older than the board',
    sentence: `An image that has its boot files in /boot knows nothing of ${board.name}: it does not start. Write `
      + 'a current one.',
    subjects: [{ node: '@board' }],
    figures: [{ label: 'image', value: 'older', limit: 'current', origin: 'board file' }],
    fixes: [{ label: 'The card has a current image',
      edits: [{ edit: 'set-boot', boot: { ...plan.boot, image: 'newer' } }] }],
  }]
  const month = monthOf(plan.host.record.imageDate)
  if (!board.imageSince || month === null || month >= board.imageSince.month) return []
  return [{
    code: 'image.too-old', id: 'image.too-old', severity: 'stop', stages: ['board', 'boot'],
    title: 'The image is older than the board',
    sentence: `The image is of ${month}; the first that knew ${board.name} was of ${board.imageSince.month}: an `
      + 'earlier one does not start it. Write a current one to the card, and its date into the record of the board.',
    subjects: [{ node: '@board' }],
    figures: [{ label: 'image', value: month, limit: board.imageSince.month, origin: board.imageSince.origin }],
    fixes: [],
  }]
}

/** Least that a card with a desktop image and room to work should have. common practice */
const MIN_GIGABYTES = 8

/** Cards that are too small for an image, or made for something else. */
export const cardFit: Rule = ({ facts }) => ofKind(facts, 'card').flatMap((owner): Finding[] => {
  const { card, origin } = owner.part.thing!
  if (!card) return []
  const better = thingsFor('card', facts.board, facts.catalogue)
    .find(({ thing }) =>
      thing!.card?.manySmallWrites && thing!.card.gigabytes >= Math.max(MIN_GIGABYTES, card.gigabytes))
  const fixes = better ? [take(facts, 'card', better)] : []
  const common = { stages: ['board' as const], subjects: [{ partId: owner.id }], fixes }
  return [
    ...card.gigabytes < MIN_GIGABYTES
      ? [{
          ...common, code: 'card.small' as const, id: `card.small ${owner.id}`, severity: 'caution' as const,
          title: `${owner.name} is small for an image`,
          sentence: `A current image with a desktop wants about ${MIN_GIGABYTES} GB before anything of yours is on it. `
            + 'Take a larger card, or an image without a desktop.',
          figures: [{ label: 'card', value: card.gigabytes, unit: 'GB', limit: MIN_GIGABYTES, origin: 'practice' }],
        }]
      : [],
    ...!card.manySmallWrites
      ? [{
          ...common, code: 'card.wears' as const, id: `card.wears ${owner.id}`, severity: 'note' as const,
          title: `${owner.name} is made for pictures`,
          sentence: 'A system writes little and often; a card made for long writes becomes slow and wears early. Take '
            + 'one of a class for programs, or keep what is written often in memory.',
          figures: [{ label: 'made for', value: 'long writes', limit: 'many small ones',
            origin: origin ?? 'part file' }],
        }]
      : [],
  ]
})

/** Two of what a board carries once. */
export const thingTwice: Rule = ({ facts }) => (['case', 'cooler', 'card',
  'header'] as const).flatMap((kind): Finding[] => {
  const all = ofKind(facts, kind)
  if (all.length < 2) return []
  return [{
    code: 'thing.twice', id: `thing.twice ${kind}`, severity: 'caution', stages: ['board', 'parts'],
    title: `${all.length} of a kind: ${THING_WORDS[kind].toLowerCase()}`,
    sentence: `${all.map(owner => owner.name).join(', ')}: the board carries one. Keep the one that you will use.`,
    subjects: all.map(owner => ({ partId: owner.id })),
    figures: [{ label: 'there', value: all.length, limit: 1, origin: 'practice' }],
    fixes: all.map(owner => ({ label: `Keep ${owner.name}`, edits: all.filter(other => other !== owner)
      .map(other => ({ edit: 'remove-part' as const, id: other.id })) })),
  }]
})

/** A thing in the plan that the board has no place for, where nothing graver says so. */
export const thingUseless: Rule = ({ facts }) => ofKind(facts, 'adapter', 'header').flatMap((owner): Finding[] => {
  const why = misfitOf(owner.part, facts.board)
  if (why === null) return []
  return [{
    code: 'thing.useless', id: `thing.useless ${owner.id}`, severity: 'note', stages: ['board', 'parts'],
    title: `${owner.name} is not needed here`, sentence: `It stays in the drawer: ${why}.`,
    subjects: [{ partId: owner.id }], figures: [],
    fixes: [{ label: 'Take it out', edits: [{ edit: 'remove-part', id: owner.id }] }],
  }]
})

const FITTINGS: ReadonlySet<string> = new Set(['header.missing', 'adapter.missing', 'thing.other-board',
  'thing.useless'])
/** What a board wants so that the parts go onto it: mended by taking things, in or out. */
export const isFitting = ({ code }: Finding): boolean => FITTINGS.has(code)
