/**
 * What has to come before what, and why. Rules known from practice; those that follow from the netlist are
 * read from it.
 */
import type { Facts } from '../../facts/types'
import type { Conductor, Netlist } from '../../netlist/types'
import type { Precedence, BuildStep } from './types'

/** All precedences between steps that are there; each pair once, with its first reason. */
export function rulesOf(facts: Facts, netlist: Netlist, steps: readonly BuildStep[]): Precedence[] {
  const found = new Map<string, Precedence>()
  const all = (room: string) => steps.filter(({ id }) => id === room || id.startsWith(`${room}:`)).map(({ id }) => id)
  const before = (firsts: readonly string[], thens: readonly string[], why: string) => {
    for (const first of firsts) for (const then of thens) {
      const key = `${first} ${then}`
      if (first !== then && !found.has(key)) found.set(key, { first, then, why })
    }
  }
  const [headers, coolers, cases, holders, seats, parts, cards,
    adapters] = ['header', 'cool', 'case', 'holder', 'seat', 'part',
    'card', 'adapter']
    .map(all) as [string[], string[], string[], string[], string[], string[], string[], string[]]
  const powers = all('power')
  const flats = all('flat')
  const others = steps.map(({ id }) => id).filter(id => id !== 'lay')
  before(['lay'], others, 'what is missing is found out before anything is joined')
  before(all('board'),
    [...headers, ...coolers, ...cases, ...holders, ...seats, ...flats, 'splices', ...parts.filter(id => wired(id))]
      .filter(id => others.includes(id)), 'everything is counted from position 1')
  before(headers, [...coolers, ...cases, ...holders, ...seats, ...flats, ...all('splices'),
    ...parts.filter(id => wired(id)), ...cards],
  'soldering comes before sensitive things are on, and nothing holds on holes')
  before(headers, all('mount'), 'once it stands, the joints under it are out of reach')
  before(all('mount'), [...holders, ...seats, ...flats, ...all('splices'), ...parts, ...adapters],
    'it stands still while one works on it')
  before(coolers, seats, 'a board that is pushed on covers the chip')
  const closedIn = facts.parts.some(({ part }) => part.thing?.cooler === 'case-body')
  before(coolers, cases,
    closedIn ? 'the case presses on what lies on the chip' : 'the chip is reached best with the board in the hand')
  before(cases, [...seats, ...flats, ...holders, ...all('splices'), ...parts, ...adapters],
    'with things on it the board does not go into the lower half')
  // A closed case hides the slot of the card; with others the card goes in late, because it sticks out and breaks.
  const hides = facts.parts.some(({ part }) => part.thing?.enclosure === 'closed')
  if (hides) before(cards, cases, 'the case hides the slot')
  else {
    before([...cases, ...seats, ...flats, ...parts, ...headers], cards,
      'a card that sticks out breaks while one works on the board')
  }
  before(all('image'), cards, 'it is written in a reader')
  before(holders, [...all('splices'), ...parts.filter(id => wired(id))], 'wires end there')
  before(seats, parts.filter(id => wired(id)), 'what is pushed on would push wires off')
  const plugs = parts.filter(id => joinsBy(id, 'plug'))
  before(adapters, plugs, 'the plug goes into the adapter')
  const bare = [...seats, ...parts.filter(id => wired(id) && !joinsBy(id, 'plug'))]
  before(bare, [...adapters, ...plugs.filter(id => !wired(id) && !joinsBy(id, 'flat cable'))],
    'a cable that hangs off the board is in the way while one wires')
  for (const step of steps) {
    // Cables whose socket a board on the header covers.
    if (step.conductors.some(id => netlist.conductors.some(entry => entry.id === id && entry.kind === 'flat cable'))) {
      for (const seat of seats) {
        found.delete(`${seat} ${step.id}`)
        before([step.id], [seat], 'its socket lies under the board that is pushed on')
      }
    }
    for (const id of step.conductors) {
      const conductor = netlist.conductors.find(entry => entry.id === id)!
      const meets = [conductor.from, conductor.to].some(end => netlist.byId.get(end)?.kind === 'splice')
      if (meets && step.id !== 'splices') before(all('splices'), [step.id], 'its wires meet others there')
      // From the load towards the source.
      const fed = powers.find(power => power === `power:${conductor.from}`)
      const load = powers.find(power => power === `power:${conductor.to}`)
      if (fed && load) before([load], [fed], 'the chain is joined from the load towards the source')
    }
  }
  // Stacked boards go on from the lowest up.
  facts.stack.forEach((lower, i) => {
    const upper = facts.stack[i + 1]
    if (upper) before([`seat:${lower.id}`].filter(id => seats.includes(id)),
      [`seat:${upper.id}`].filter(id => seats.includes(id)),
      'it sits above it')
  })
  before([...all('mount'), ...parts, ...powers, ...seats, ...flats, ...all('splices')], all('shorts'),
    'a short is found while nothing is fed')
  before([...powers, ...all('shorts'), ...cards, ...cases, ...coolers, ...adapters, ...headers, ...holders],
    all('supply'),
    'the supply goes in last of all')
  before([...all('shorts'), ...all('supply'), ...cards, ...all('image')], all('trial'), 'it starts with all of it')
  before(all('trial'), all('lid'), 'what does not work is mended while it lies open')
  return [...found.values()]

  function joinsBy(id: string, kind: Conductor['kind']): boolean {
    const step = steps.find(entry => entry.id === id)
    return netlist.conductors.some(entry => entry.kind === kind && step?.conductors.includes(entry.id))
  }

  function wired(id: string): boolean {
    return steps.find(step => step.id === id)?.side === 'top'
  }
}
