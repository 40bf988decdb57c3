/** Things: what a maker buys beside what has signals, and what of it goes with which board. */
import type { Board, Catalogue, Part, Thing } from './types'

export type ThingKind = NonNullable<Thing['is']>

export const THING_WORDS: Readonly<Record<ThingKind, string>> = {
  case: 'Case', cooler: 'Cooler', fan: 'Fan', card: 'Card', header: 'Header', adapter: 'Adapter', carrier: 'Carrier',
  breadboard: 'Breadboard', terminals: 'Screw terminals', tool: 'Tool',
}

/** What kind of thing a part is; null for what has signals and for parts that say nothing of it. */
export function thingKind({ thing }: Part): ThingKind | null {
  if (!thing) return null
  return thing.is ?? (thing.enclosure !== undefined ? 'case' : thing.cooler !== undefined ? 'cooler' : null)
}

/** Why a thing does not go with a board; null where it does, or where nobody knows. */
export function misfitOf(part: Part, board: Board | null): string | null {
  const { thing } = part
  if (!thing || !board) return null
  if (thing.outlines && board.outline
    && !thing.outlines.includes(board.outline)) return 'made for a board of another outline'
  if (thing.is === 'header' && !board.headerUnpopulated) return 'this board has its pins'
  if (thing.adapts && (board.socketSizes?.[thing.adapts.socket] ?? 'full') !== thing.adapts.size) {
    return `no ${thing.adapts.size} ${thing.adapts.socket === 'usb' ? 'USB' : 'video'} socket on this board`
  }
  if (part.plugs?.some(({ socket }) => !board.sockets[socket])) return 'no socket for its plug on this board'
  return null
}

/** Things of a kind in the catalogue that go with a board, the cheapest first. */
export const thingsFor = (kind: ThingKind, board: Board | null,
  { parts }: Pick<Catalogue, 'parts'>): Part[] => [...parts.values()]
  .filter(part => thingKind(part) === kind && misfitOf(part, board) === null)
  .sort((a, b) => (a.price ?? 0) - (b.price ?? 0) || a.id.localeCompare(b.id))

/** Room under a lid that a cooler lacks, in mm; null where it fits or where one of the heights is not known. */
export function lacksUnderLid(cooler: Thing, lid: Thing): number | null {
  if (cooler.heightMm === undefined || lid.lidMm === undefined || cooler.heightMm <= lid.lidMm) return null
  return Number((cooler.heightMm - lid.lidMm).toFixed(1))
}
