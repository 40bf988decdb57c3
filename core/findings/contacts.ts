/** Relay contacts: what hangs on them against what they carry and break, and what happens to it without the program. */
import type { ResolvedPart } from '../facts/types'
import type { ContactLoad } from '../plan/types'
import type { Finding, Rule } from './types'

/** Extra-low voltage ends here, by IEC 61140 band I: 50 V AC, 120 V DC. */
const EXTRA_LOW_V = { AC: 50, DC: 120 }

/**
 * Of its rating a contact breaks this part when the load is a coil or a motor. memory: utilisation categories DC-13 and
 * AC-15 of IEC 60947-5-1
 */
const INDUCTIVE_SHARE = { AC: 0.5, DC: 0.2 }

/** A coil or a motor on a contact, with nothing that takes the energy of switching off. */
function arcs(owner: ResolvedPart, load: ContactLoad, rating: NonNullable<ResolvedPart['part']['contacts']>): Finding {
  const max = (load.kind === 'AC' ? rating.maxAcA : rating.maxDcA) * INDUCTIVE_SHARE[load.kind]
  const past = load.currentA > max
  const what = load.what || `The load on contact ${load.contact}`
  const loads = owner.inPlan.loads ?? []
  return {
    code: 'contact.arcs', id: `contact.arcs ${owner.id} ${load.contact} ${load.what}`, severity: 'caution',
    stages: ['parts', 'power', 'build'], title: `${what} draws an arc on contact ${load.contact}`,
    sentence: `${what} is a coil or a motor: when the contact opens, its current goes on through the air. `
      + (past
        ? `The contact breaks about ${Number(max.toFixed(2))} A of such a load, not ${load.currentA} A: it welds. `
        : 'The contact wears fast. ')
      + `${load.kind === 'DC'
        ? 'Put a diode across the load, its bar to plus.'
        : 'Put a resistor with a capacitor made for mains (class X2), or a varistor, across the load.'}`,
    subjects: [{ partId: owner.id }],
    figures: [{ label: 'breaks of a coil', value: load.currentA, unit: 'A', limit: Number(max.toFixed(2)),
      origin: 'memory' }],
    fixes: [{
      label: load.kind === 'DC' ? 'There is a diode across it' : 'It is suppressed',
      edits: [{
        edit: 'set-loads', id: owner.id,
        loads: loads.map(other => other === load ? { ...other, suppressed: true } : other),
      }],
    }],
  }
}

/** What hangs on a relay's contacts when the program hangs or the board restarts: said once for each relay. */
export const unattended: Rule = ({ facts }) => facts.parts.flatMap((owner): Finding[] => {
  const loads = owner.inPlan.loads ?? []
  if (!owner.part.contacts || !loads.length) return []
  const what = loads.map(load => load.what || `what hangs on contact ${load.contact}`)
  return [{
    code: 'contact.unattended', id: `contact.unattended ${owner.id}`, severity: 'note', stages: ['parts', 'build'],
    title: `What ${owner.name} switches when the program hangs`,
    sentence: `When the program hangs, its contacts stay as they are: ${what.join('; ')} `
      + `${loads.length > 1 ? 'stay' : 'stays'} on or off. While the board restarts, its lines float or are pulled, `
      + 'and a contact may drop or close for some seconds. Choose each contact (open or closed at rest) so that rest '
      + 'is the safe side, and give what must not run on a timer, a float or a thermostat of its own.',
    subjects: [{ partId: owner.id }],
    figures: [{ label: 'loads', value: loads.length, origin: 'yours' }], fixes: [],
  }]
})

/** Loads on relay contacts: mains, and contacts past their rating. */
export const relayContacts: Rule = ({ facts }) => facts.parts.flatMap(owner => (owner.inPlan.loads
  ?? []).flatMap((load): Finding[] => {
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
      : `${what} asks ${load.voltageV} V ${load.kind} and ${load.currentA} A; the contact stands ${maxV} V and ${maxA} `
        + `A for ${load.kind}: it welds shut or burns. Take a contactor made for the load.`,
    subjects, fixes: [],
    figures: [
      { label: 'voltage', value: load.voltageV, unit: `V ${load.kind}`, limit: maxV, origin: rating.origin },
      { label: 'current', value: load.currentA, unit: 'A', limit: maxA, origin: rating.origin },
    ],
  })
  if (load.inductive && !load.suppressed) findings.push(arcs(owner, load, rating))
  if (load.voltageV > EXTRA_LOW_V[load.kind]) findings.push({
    code: 'contact.mains', id: `contact.mains ${owner.id} ${load.contact} ${load.what}`, severity: 'caution',
    stages: ['parts', 'power', 'build'],
    title: `${owner.name}: mains on contact ${load.contact}`,
    sentence: `${what} runs on ${load.voltageV} V ${load.kind}. Mains wiring follows your local codes and is work for `
      + 'a licensed electrician: fuse, separation from the low-voltage side, a closed case. Think of a low-voltage '
      + 'load, or a ready-made switched socket, instead. Voltaris is no certified safety function.',
    subjects,
    figures: [{
      label: 'voltage', value: load.voltageV, unit: `V ${load.kind}`, limit: EXTRA_LOW_V[load.kind],
      origin: 'published: IEC 61140, extra-low voltage',
    }],
    fixes: [],
  })
  return findings
}))
