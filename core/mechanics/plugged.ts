/**
 * Plugged wrong: every way to push a board on that is not the right one, what then meets what, and what it does. A
 * connector of pins without a shroud can sit one column or one row off, turned by half a turn, or on the board's other
 * side. What meets follows from the netlist by arithmetic; that boards which are pushed on join all their returns, and
 * their pins of one rail, is common practice.
 */
import type { HeaderPosition } from '../catalogue/types'
import { coverOf } from '../facts/seats'
import type { Facts, ResolvedPart } from '../facts/types'

export type WrongWay = 'column up' | 'column down' | 'row in' | 'row out' | 'turned' | 'mirrored'

/** What a way does: breaks something, may break something, or only does not work. */
export type Harm = 'breaks' | 'may break' | 'dead'

export interface PinContact {
  harm: Harm
  /** What meets what and what that does. */
  words: string
  /** Positions of the board that are part of it. */
  positions: number[]
}

export interface Misplugged {
  partId: string
  partName: string
  way: WrongWay
  harm: Harm
  meetings: PinContact[]
  /** What one sees from the side before pressing. */
  look: string
  /** What the meter shows before power; null where only the eye finds it. */
  measure: string | null
}

const LOOKS: Readonly<Record<WrongWay, string>> = {
  'column up': 'Two pins stand free at the end of position 1, and the socket hangs over at the other end.',
  'column down': 'The socket hangs over the end of position 1, and two pins stand free at the other end.',
  'row in': 'A whole row of pins stands free on the outside, and a row of the socket hangs over inside.',
  'row out': 'A whole row of pins stands free on the inside, and a row of the socket hangs over outside.',
  'turned': 'The board points away over the other edge: its own position 1 is at the far end.',
  'mirrored': 'It sits on the wrong side of the board: its parts look away from those of the board.',
}
export const WAY_WORDS: Readonly<Record<WrongWay, string>> = {
  'column up': 'One column towards the far end', 'column down': 'One column towards position 1',
  'row in': 'One row inwards',
  'row out': 'One row outwards', 'turned': 'Turned by half a turn', 'mirrored': 'From the other side of the board',
}
const GRAVITY: Readonly<Record<Harm, number>> = { 'breaks': 0, 'may break': 1, 'dead': 2 }

interface GridPlace { column: number, row: number }
const placeOf = (position: number): GridPlace => ({ column: Math.ceil(position / 2), row: position % 2 === 1 ? 0 : 1 })
const positionAt = ({ column, row }: GridPlace) => row < 0 || row > 1 ? null : column * 2 - 1 + row

/**
 * Where a hole of the socket comes to lie; null beside the header. `from` and `to` are the positions that
 * the socket spans.
 */
export function holeOver(hole: number, way: WrongWay, from: number, to: number, count: number): number | null {
  const { column, row } = placeOf(hole)
  const [first, last] = [placeOf(from).column, placeOf(to).column]
  const over = positionAt({
    'column up': { column: column + 1, row }, 'column down': { column: column - 1, row },
    'row in': { column, row: row - 1 }, 'row out': { column, row: row + 1 },
    'turned': { column: first + last - column, row: 1 - row }, 'mirrored': { column, row: 1 - row },
  }[way])
  return over !== null && over >= 1 && over <= count ? over : null
}

/** What a hole of the socket leads to inside the board that is pushed on. */
type Inside = { is: 'ground' } | { is: 'rail', rail: '5V' | '3V3' } | { is: 'signal', label: string }

function holesOf(owner: ResolvedPart, facts: Facts): Map<number, Inside> {
  const holes = new Map<number, Inside>()
  const header = facts.board!.header
  const { from, to } = coverOf(owner)!
  // What only leads on, such as a ribbon, brings what hangs behind it.
  const behind = leadsOn(owner) ? facts.parts.filter(({ part }) => !part.seat) : [owner]
  const rails = new Set(behind.flatMap(({ supplies }) =>
    supplies.filter(supply => supply.from === 'header').map(({ rail }) => rail)))
  const returns = behind.some(({ grounds }) => grounds.length > 0)
  for (const { position, kind } of header) {
    if (position < from || position > to) continue
    if (kind === 'ground' && returns) holes.set(position, { is: 'ground' })
    if ((kind === '5V' || kind === '3V3') && rails.has(kind)) holes.set(position, { is: 'rail', rail: kind })
  }
  for (const terminal of facts.terminals) {
    if (behind.includes(terminal.owner) && terminal.is === 'signal' && terminal.place?.kind === 'header') {
      const { position } = terminal.place
      const label = terminal.owner === owner ? terminal.label : `${terminal.owner.name} ${terminal.label}`
      if (position >= from && position <= to) holes.set(position, { is: 'signal', label })
    }
  }
  return holes
}

const leadsOn = ({ signals, supplies, grounds }: ResolvedPart) => !signals.length && !supplies.length && !grounds.length

/** Every wrong way of every board that is pushed on, what does harm first. Pure; empty without such boards. */
export function misplugged(facts: Facts): Misplugged[] {
  const { board } = facts
  if (!board) return []
  const at = new Map(board.header.map(entry => [entry.position, entry]))
  return facts.parts.filter(owner => owner.part.seat
    && (leadsOn(owner) || facts.terminals.some(({ owner: other, place }) =>
      other === owner && place)))
    .flatMap(owner => WAYS.map((way): Misplugged => {
      const { from, to } = coverOf(owner)!
      const contacts = [...holesOf(owner, facts)].flatMap(([hole, inside]) => {
        const over = holeOver(hole, way, from, to, board.header.length)
        return over === null ? [] : [{ hole, inside, pin: at.get(over)! }]
      })
      const meetings = meetingsOf(contacts)
      const short = meetings.find(({ shorted }) => shorted)
      return {
        partId: owner.id, partName: owner.name, way, harm: meetings[0]?.harm ?? 'dead', look: LOOKS[way],
        meetings: meetings.map(({ harm, words, positions }) => ({ harm, words, positions })),
        measure: short ? `Near 0 Ω between positions ${short.positions[0]} and ${short.positions[1]}: do not switch on.` : null,
      }
    }))
    .sort((a, b) => GRAVITY[a.harm] - GRAVITY[b.harm])
}

export const WAYS: readonly WrongWay[] = ['column up', 'column down', 'row in', 'row out', 'turned', 'mirrored']

interface Contact { hole: number, inside: Inside, pin: HeaderPosition }
type Found = PinContact & { shorted?: boolean }

/**
 * What the contacts join, each net of the board that is pushed on by itself: its returns are one, its pins of a
 * rail are one.
 */
function meetingsOf(contacts: readonly Contact[]): Found[] {
  const nets = new Map<string, Contact[]>()
  for (const contact of contacts) {
    const { inside } = contact
    let key: string
    if (inside.is === 'ground') key = 'its return'
    else key = inside.is === 'rail' ? `its ${volts(inside.rail)} pin` : `its ${inside.label}`
    nets.set(key, [...nets.get(key) ?? [], contact])
  }
  const ends = [...nets].map(([name, list]) => ({ name, inside: list[0]!.inside, on: sorted(list) }))
  const found = ends.flatMap(end => joined(end))
  const ground = ends.find(({ inside }) => inside.is === 'ground')
  const fed = ends.filter(({ inside }) => inside.is === 'rail')
  // Not while both are joined at once: then it is a short, and told as one.
  const reversed = ground && (ground.on['5V'] ?? ground.on['3V3']) && !ground.on.ground
    && fed.some(({ on }) => on.ground && !on['5V']
      && !on['3V3'])
  if (reversed) found.push({
    harm: 'breaks', words: 'plus and minus are exchanged: what is on it is fed backwards',
    positions: [...ground.on['5V'] ?? ground.on['3V3'] ?? []],
  })
  return found.sort((a, b) => GRAVITY[a.harm] - GRAVITY[b.harm])
}

type Sorted = Partial<Record<'5V' | '3V3' | 'ground' | 'line', number[]>>

function sorted(contacts: readonly Contact[]): Sorted {
  const on: Sorted = {}
  for (const { pin } of contacts) {
    const kind = pin.kind === '5V' || pin.kind === '3V3' || pin.kind === 'ground' ? pin.kind : 'line'
    on[kind] = [...on[kind] ?? [], pin.position]
  }
  return on
}

const volts = (rail: '5V' | '3V3') => rail === '5V' ? '5 V' : '3.3 V'

/** What one net of the board that is pushed on joins on the header, and what that does to either. */
function joined({ name, inside, on }: { name: string, inside: Inside, on: Sorted }): Found[] {
  const { '5V': five, '3V3': three, ground, line } = on
  const found: Found[] = []
  const say = (harm: Harm, words: string, ...positions: (number[] | undefined)[]) =>
    found.push({ harm, words, positions: positions.flatMap(list => list?.slice(0, 1) ?? []) })
  const listed = (positions: readonly number[]) => `position${positions.length === 1 ? '' : 's'} ${positions.slice(0, 4).join(', ')}${
    positions.length > 4 ? ` and ${positions.length - 4} more` : ''}`
  if (five && ground) found.push({
    harm: 'breaks', shorted: true, positions: [five[0]!, ground[0]!],
    words: `${name} joins 5 V (${listed(five)}) to a return (${listed(ground)}): a short`,
  })
  if (three && ground) found.push({
    harm: 'breaks', shorted: true, positions: [three[0]!, ground[0]!],
    words: `${name} joins 3.3 V (${listed(three)}) to a return (${listed(ground)}): a short`,
  })
  if (five && three) say('breaks',
    `${name} joins 5 V (${listed(five)}) to the 3.3 V rail (${listed(three)}): everything on 3.3 V gets 5 V`, five,
    three)
  if (five && line) say('breaks',
    `${name} brings 5 V (${listed(five)}) to ${listed(line)}: the board's lines stand 3.3 V`, five, line)
  if (three && line) say('may break', `${name} ties ${listed(line)} to 3.3 V: a line that is driven low is shorted`,
    line, three)
  if (ground && line) say('may break',
    `${name} ties ${listed(line)} to a return: a line that is driven high is shorted`, line, ground)
  if (five && inside.is === 'rail'
    && inside.rail === '3V3') say('breaks', `its 3.3 V parts get 5 V (${listed(five)})`, five)
  if (five && inside.is === 'signal') say('breaks', `5 V (${listed(five)}) comes to ${name}`, five)
  if (three && inside.is === 'signal') say('may break',
    `3.3 V (${listed(three)}) comes to ${name}: an output there is shorted`, three)
  if (line && line.length > 1 && !five && !three && !ground) {
    say('may break', `${name} joins ${listed(line)} with one another: one driven high is shorted by one driven low`,
      line, line.slice(1))
  }
  if (line && inside.is === 'rail' && !five && !three && !ground) say('may break',
    `it draws its ${volts(inside.rail)} from ${listed(line)}, which cannot give it`, line)
  return found
}
