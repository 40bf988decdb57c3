/** Cables that end before they are there: told for things whose place was said. */
import type { Assembly } from '../mechanics/assembly'
import { tooShort, type CableReach } from '../mechanics/cables'
import { besideBoard } from '../plan/places'
import type { Evidence, Finding, Fix } from './types'

/** Wires are cut in steps of this, mm. */
const CUT_STEP_MM = 50

/** One finding for each part: the conductor that lacks most speaks for it. */
export function reach({ facts, netlist }: Evidence, { bodies }: Assembly): Finding[] {
  const byPart = new Map<string, CableReach[]>()
  for (const entry of tooShort(bodies, netlist.conductors)) {
    const id = entry.conductor.partId!
    byPart.set(id, [...byPart.get(id) ?? [], entry])
  }
  return [...byPart].map(([partId, entries]) => {
    const { name } = facts.parts.find(({ id }) => id === partId)!
    const { minMm, givenMm, conductor: shortest } = entries.reduce((worst, other) =>
      other.minMm - other.givenMm > worst.minMm - worst.givenMm ? other : worst)
    const [whole, given] = [Math.ceil(minMm), Math.round(givenMm)]
    const wires = entries.flatMap(({ conductor: { terminal, kind } }) =>
      kind === 'wire' && terminal !== undefined ? [terminal] : [])
    const isLead = entries.some(({ conductor }) => conductor.kind !== 'wire')
    const alike = entries.every(entry => entry.givenMm === givenMm)
    const newMm = Math.ceil(Math.max(...entries.map(entry => entry.minMm)) / CUT_STEP_MM) * CUT_STEP_MM
    const fixes: Fix[] = [
      ...wires.length && !isLead
        ? [{ label: `Wires of ${newMm / 10} cm`, edits: wires.map(terminal => (
            { edit: 'dress-wire' as const, terminal, lengthM: newMm / 1000 })) }]
        : [],
      { label: `Lay ${name} beside the board`,
        edits: [{ edit: 'place-body', id: partId, place: besideBoard(facts.plan, partId) }] },
    ]
    return {
      code: 'room.reach', id: `room.reach ${partId}`, severity: 'caution', stages: ['build'],
      title: `What joins ${name} does not reach it`,
      sentence: `From the board straight to where it lies are ${whole} mm with the turns at both ends, and ${shortest.kind !== 'wire'
        ? 'its cable is'
        : entries.length > 1 && alike ? `${entries.length} of its wires are` : 'one of its wires is'} ${given} mm long. ${isLead
        ? 'Lay it nearer, or take a longer cable.'
        : 'Lay it nearer, or cut longer wires.'}`,
      subjects: [{ partId }],
      figures: [{
        label: 'way', value: whole, unit: 'mm', limit: given,
        origin: 'the places that you said; lengths of the wire list',
      }],
      fixes,
    }
  })
}
