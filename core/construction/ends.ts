/**
 * What a wire has on its ends, so that it holds where it goes. Common practice, no source; the maker says otherwise
 * where it is so.
 */
import { thingKind } from '../catalogue/things'
import type { Facts } from '../facts/types'
import type { Component, Conductor, Netlist } from '../netlist/types'
import { WIRE_ENDS, type WireEnd } from '../plan/ends'

type Ended = Readonly<{ ends: readonly [WireEnd, WireEnd] | null }>

/** Both ends of a conductor, the near one first; null for what is no single wire. */
export function endsOf({ kind, from, to, terminal }: Conductor, facts: Facts,
  { byId }: Pick<Netlist, 'byId'>): [WireEnd, WireEnd] | null {
  if (kind !== 'wire') return null
  const own = terminal === undefined ? undefined : facts.plan.build.wires[terminal]
  return [own?.nearEnd ?? usualEnd(byId.get(from)!, facts), own?.farEnd ?? usualEnd(byId.get(to)!, facts)]
}

function usualEnd({ kind, partId, id }: Component, { board, parts }: Facts): WireEnd {
  const has = (thing: ReturnType<typeof thingKind>) => parts.some(({ part }) => thingKind(part) === thing)
  switch (kind) {
    // A header that was put in has pins; holes without one take the wire itself.
    case 'board': return board?.headerUnpopulated && !has('header') ? 'solder' : 'socket'
    // Holes of a breadboard take pins; a terminal block clamps what is stripped.
    case 'splice': return has('breadboard') ? 'pin' : 'bare'
    case 'stage': return has('breadboard') ? 'pin' : 'solder'
    case 'item': case 'load': return 'bare'
    case 'part': {
      const owner = parts.find(part => part.id === (partId ?? id))
      // Boards come with pins; what has no board of its own comes with legs.
      if (owner && !owner.part.body?.boardMm) return has('breadboard') ? 'pin' : 'solder'
      return 'socket'
    }
  }
}

/** How many of each end the wires of a list have. Law: two for each wire. */
export function endCounts(wires: readonly Ended[]): { end: WireEnd, count: number }[] {
  const counts = new Map<WireEnd, number>()
  for (const { ends } of wires) for (const end of ends ?? []) counts.set(end, (counts.get(end) ?? 0) + 1)
  return [...counts].map(([end, count]) => ({ end, count }))
    .sort((a, b) => b.count - a.count || a.end.localeCompare(b.end))
}

/** "24 × socket, 6 × pin" */
export const endsInWords = (wires: readonly Ended[]): string =>
  endCounts(wires).map(({ end, count }) => `${count} × ${WIRE_ENDS[end]}`).join('; ')
