/** The wire list: every conductor of the netlist, in the order of connecting, power last. */
import { isHeaderSpliceKey } from '../plan/ids'
import type { HeaderPosition } from '../catalogue/types'
import type { Facts } from '../facts/types'
import { colourOf } from './colours'
import type { WireEnd } from '../plan/ends'
import { endsOf } from './ends'
import type { Component, Conductor, ConductorKind, Netlist } from '../netlist/types'

export interface Wire {
  /** Stays the same while the wire does: `part.terminal@38` for a wire to position 38. */
  key: string
  kind: ConductorKind
  /** `part.terminal`, for those that serve one: its colour and length are the maker's. */
  terminal?: string
  partId?: string
  /** Name of what it starts at. */
  partName: string
  /** Pin it starts at, and all others of a cable with several ways. */
  from: string
  /** `position 8 (G14)`, `Splice at position 6`, `Expander, A3`. */
  to: string
  /** Header position that it ends at. */
  position?: number
  /** What the place is: line, rail or ground; empty where it is no header position. */
  toLabel: string
  role: 'ground' | 'signal' | '3V3' | '5V' | 'seat' | 'plug' | 'supply'
  colour: string
  lengthM: number
  awg?: number
  /** What is on it where it starts and where it ends; null for what is no single wire. */
  ends: readonly [WireEnd, WireEnd] | null
  /** What stands at its far end, when that is neither board nor part. */
  through: string | null
  /** It meets others on the way to its position. */
  shared: boolean
}

/**
 * What is pushed on comes first, then returns so that nothing floats, signals, the small rail, the large one, plugs,
 * and the supply's own last.
 */
const ROLE_ORDER: readonly Wire['role'][] = ['seat', 'ground', 'signal', '3V3', '5V', 'plug', 'supply']

/**
 * Every conductor of the netlist, exactly once, in the order in which they are best connected; within one step in the
 * order of the plan.
 */
export function wiresOf(facts: Facts, netlist: Netlist): Wire[] {
  const wires = netlist.conductors.map(conductor => wireOf(conductor, facts, netlist))
  const order = new Map(wires.map((wire, i) => [wire, i]))
  const rank = (wire: Wire) => ROLE_ORDER.indexOf(wire.role)
  // What others meet at is laid before them.
  const meets = (wire: Wire) => Number(!isHeaderSpliceKey(wire.key))
  return wires.sort((a, b) => rank(a) - rank(b) || meets(a) - meets(b) || order.get(a)! - order.get(b)!)
}

function roleOf({ kind, role }: Conductor): Wire['role'] {
  if (kind === 'seat') return 'seat'
  if (kind === 'plug' || kind === 'flat cable') return 'plug'
  return role === 'ground' || role === 'signal' || role === '3V3' || role === '5V' ? role : 'supply'
}

function wireOf(conductor: Conductor, facts: Facts, netlist: Netlist): Wire {
  const { byId, ownerOf } = netlist
  const { terminal, position, kind } = conductor
  const own = terminal === undefined ? undefined : facts.plan.build.wires[terminal]
  const role = roleOf(conductor)
  const ends = conductor.ways.map(({ from, to }) => ({ from: labelOf(from, ownerOf.get(from)),
    to: labelOf(to, ownerOf.get(to)) }))
  const header = position === undefined ? undefined : facts.board?.header.find(entry => entry.position === position)
  const [far, near] = [byId.get(conductor.to)!, byId.get(conductor.from)!]
  return {
    key: conductor.id, kind, ...terminal !== undefined && { terminal },
    ...conductor.partId !== undefined && { partId: conductor.partId },
    partName: nameOf(near), from: kind === 'seat' ? 'its socket' : listed(ends.map(end => end.from)),
    to: endInWords(far, ends.map(end => end.to), conductor),
    ...position !== undefined && { position },
    toLabel: header ? headerLabel(header) : '',
    role, colour: own?.colour ?? colourOf(conductor, facts), lengthM: own?.lengthM ?? conductor.lengthM,
    ...conductor.awg !== undefined && { awg: conductor.awg },
    ends: endsOf(conductor, facts, netlist),
    through: [far, near].find(end => end.kind === 'stage')?.what ?? null,
    shared: far.kind === 'splice' || near.kind === 'splice',
  }
}

/** What a position of the header is called on the list: `G17`, `GND`, `3V3`. */
const headerLabel = ({ line, kind }: HeaderPosition) => {
  if (line !== undefined) return `G${line}`
  return kind === 'ground' ? 'GND' : kind
}

const nameOf = (component: Component) => component.kind === 'board' ? 'The board' : component.name

const labelOf = (pin: string, owner: Component | undefined) => owner?.pins.find(entry => entry.id === pin)?.label ?? pin

/** Pins in words; the return of a pair is understood. */
function listed(labels: readonly string[]): string {
  const [first = '', second] = labels
  if (labels.length === 2
    && (second === `${first}, return` || second === first.replace(/\+$/, '−'))) return first.replace(/ \+$/, '')
  return labels.length > 3 ? `${labels.length} ways` : labels.join(' and ')
}

function endInWords(far: Component, labels: readonly string[], { kind, ways }: Conductor): string {
  if (kind === 'seat') return ways.length ? `header, ${ways.length} positions` : 'the header'
  if (far.kind === 'board') return listed(labels)
  if (far.kind === 'splice' && far.pins.length === 1) return `${far.name.charAt(0).toLowerCase()}${far.name.slice(1)}`
  return `${far.name}, ${listed(labels)}`
}

/**
 * Where a position lies, counted from the nearer end, for a person at the bench: "inner row, sixth from the corner
 * of position 1".
 */
export function positionInWords(position: number, count = 40): string {
  const perRow = count / 2
  const column = Math.ceil(position / 2)
  const row = position % 2 ? 'inner row (odd)' : 'outer row (even)'
  const fromNear = column <= perRow / 2
  const nth = fromNear ? column : perRow - column + 1
  const end = fromNear ? `the end of position 1` : `the far end, position ${count}`
  return `${row}, ${ORDINALS[nth] ?? `${nth}th`} from ${end}`
}

const ORDINALS = [
  '', 'first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth', 'tenth', 'eleventh',
  'twelfth', 'thirteenth',
]
