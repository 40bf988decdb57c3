/** The wire list: every wire from a part to its place, in the order of connecting, power last. */
import type { Facts, Terminal } from '../facts/types'

export interface Wire {
  /** Stays the same while the wire does: `part.terminal@place`. */
  key: string
  terminal: string
  partId: string
  partName: string
  from: string
  /** `position 8 (G14)` or `Expander, A3`. */
  to: string
  position?: number
  /** What the place is: line, rail or ground. */
  toLabel: string
  role: 'ground' | 'signal' | '3V3' | '5V'
  colour: string
  lengthM: number
  /** What is put into the wire. */
  through: string | null
  /** More than one wire ends at this place. */
  shared: boolean
}

export const WIRE_COLOURS = ['black', 'red', 'orange', 'yellow', 'green', 'blue', 'violet', 'grey', 'white', 'brown'] as const

const SIGNAL_COLOURS = ['yellow', 'green', 'blue', 'violet', 'grey', 'white', 'brown'] as const
const ROLE_ORDER: Record<Wire['role'], number> = { 'ground': 0, 'signal': 1, '3V3': 2, '5V': 3 }
const DEFAULT_LENGTH_M = 0.2

/**
 * Wires of every placed terminal. Order: returns first so that nothing floats, then signals part by part,
 * then 3V3, and 5 V last. Add-on boards are pushed on, not wired, and leave no wires here.
 */
export function wiresOf(facts: Facts): Wire[] {
  const wires = facts.terminals
    .filter(terminal => terminal.place && terminal.place.kind !== 'nowhere' && !terminal.owner.part.isAddOn)
    .map(terminal => wireOf(terminal, facts))
  const order = new Map(wires.map((wire, i) => [wire, i]))
  return wires.sort((a, b) => ROLE_ORDER[a.role] - ROLE_ORDER[b.role] || order.get(a)! - order.get(b)!)
}

function wireOf(terminal: Terminal, facts: Facts): Wire {
  const { place, owner } = terminal
  const own = facts.plan.build.wires[terminal.key]
  const role = terminal.is === 'ground' ? 'ground' : terminal.is === 'supply' ? terminal.supply!.rail : 'signal'
  const header = place!.kind === 'header' ? place : null
  const toLabel = header
    ? header.line ? `G${header.line.line}` : header.header.kind === 'ground' ? 'GND' : header.header.kind
    : place!.kind === 'terminal' ? place!.terminal : ''
  const to = header ? `position ${header.position} (${toLabel})` : place!.kind === 'terminal' ? `${place!.owner.name}, ${place!.terminal}` : ''
  return {
    key: `${terminal.key}@${header ? header.position : place!.kind === 'terminal' ? `${place!.owner.id}.${place!.terminal}` : ''}`,
    terminal: terminal.key, partId: owner.id, partName: owner.name, from: terminal.label, to, toLabel,
    ...(header && { position: header.position }),
    role, colour: own?.colour ?? colourOf(role, owner.signals.findIndex(signal => signal === terminal.signal)),
    lengthM: own?.lengthM ?? owner.part.leadM ?? DEFAULT_LENGTH_M,
    through: throughInWords(terminal),
    shared: !!header && (facts.atPosition.get(header.position)?.length ?? 0) > 1,
  }
}

function colourOf(role: Wire['role'], signalIndex: number): string {
  if (role === 'ground') return 'black'
  if (role === '5V') return 'red'
  if (role === '3V3') return 'orange'
  return SIGNAL_COLOURS[signalIndex % SIGNAL_COLOURS.length]!
}

function throughInWords({ between }: Terminal): string | null {
  if (!between) return null
  if (between.kind === 'divider') return `divider ${ohms(between.upperOhm!)} over ${ohms(between.lowerOhm!)}`
  return {
    'level-shifter': `level shifter${between.fit ? ` for ${between.fit} lines` : ''}`,
    'transistor': 'transistor stage with flyback diode', 'mosfet': 'MOSFET stage with flyback diode', 'opto-coupler': 'opto-coupler', 'rs232-converter': 'RS-232 converter',
  }[between.kind]
}

function ohms(value: number): string {
  return value >= 1000 ? `${Number((value / 1000).toFixed(2))} kΩ` : `${value} Ω`
}

/** Where a position lies, counted from the nearer end, for a person at the bench: "inner row, sixth from the corner of position 1". */
export function positionInWords(position: number, count = 40): string {
  const perRow = count / 2
  const column = Math.ceil(position / 2)
  const row = position % 2 ? 'inner row (odd)' : 'outer row (even)'
  const fromNear = column <= perRow / 2
  const nth = fromNear ? column : perRow - column + 1
  const end = fromNear ? `the end of position 1` : `the far end, position ${count}`
  return `${row}, ${ORDINALS[nth] ?? `${nth}th`} from ${end}`
}

const ORDINALS = ['', 'first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth', 'tenth', 'eleventh', 'twelfth', 'thirteenth']
