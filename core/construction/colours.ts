/** Colours of wires: the usual ones, and the maker's own rules by what a wire carries. */
import type { Facts } from '../facts/types'
import type { Conductor } from '../netlist/types'
import { CARRIES_IDS, type Carries } from '../plan/wire-colours'

/** Of signals, so that neighbours of one part differ. */
const SIGNAL_COLOURS = ['yellow', 'green', 'blue', 'violet', 'grey', 'white', 'brown'] as const

/**
 * Colours that hold where no rule says otherwise: red and black are common practice, the rest is ours. Signals take
 * theirs in turn.
 */
const USUAL: Readonly<Partial<Record<Carries, string>>> = { 'ground': 'black', '3V3': 'orange', '5V': 'red',
  'supply': 'red' }

function carriedBy({ role, terminal }: Conductor, facts: Facts): Carries {
  if (role === 'ground' || role === '3V3' || role === '5V') return role
  if (role !== 'signal') return 'supply'
  const signal = terminal === undefined ? undefined : facts.byKey.get(terminal)?.signal?.role
  if (!signal) return 'line'
  if (signal.startsWith('spi.')) return 'spi'
  return CARRIES_IDS.find(id => id === signal) ?? 'line'
}

/** The colour of a conductor; empty for what is no wire. */
export function colourOf(conductor: Conductor, facts: Facts): string {
  if (conductor.kind === 'seat' || conductor.kind === 'plug' || conductor.kind === 'flat cable') return ''
  const carries = carriedBy(conductor, facts)
  const said = facts.plan.build.colours[carries] ?? USUAL[carries]
  if (said !== undefined) return said
  const owner = facts.parts.find(part => conductor.terminal?.startsWith(`${part.id}.`))
  const index = owner ? owner.signals.findIndex(signal => `${owner.id}.${signal.id}` === conductor.terminal) : 0
  return SIGNAL_COLOURS[Math.max(0, index) % SIGNAL_COLOURS.length]!
}

/** The colour that a rule gives, or the usual one; null where signals take theirs in turn. */
export const ruledColour = (rules: Readonly<Partial<Record<Carries, string>>> | undefined,
  carries: Carries): string | null =>
  rules?.[carries] ?? USUAL[carries] ?? null

/**
 * Pairs that must not be taken for each other and would look the same: ground and supplies, and
 * supplies of different voltage.
 */
export function lookAlike(rules: Readonly<Partial<Record<Carries, string>>> | undefined): [Carries, Carries][] {
  const told: readonly Carries[] = ['ground', '3V3', '5V']
  return told.flatMap((one, i) => told.slice(i + 1)
    .filter(other => ruledColour(rules, one) === ruledColour(rules, other))
    .map((other): [Carries, Carries] => [one, other]))
    .concat(ruledColour(rules, 'ground') === ruledColour(rules, 'supply') ? [['ground', 'supply']] : [])
}
