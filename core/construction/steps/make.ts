/** Everything that has to be done for a plan, as steps: made from its netlist, its things and its files. */
import { isHeaderSpliceKey, supplyComponent } from '../../plan/ids'
import { cautionsOf } from '../../catalogue/cautions'
import { thingKind } from '../../catalogue/things'
import type { Board } from '../../catalogue/types'
import type { Facts, ResolvedPart } from '../../facts/types'
import type { Component, Conductor, Netlist } from '../../netlist/types'
import { flatCablesOf, seatingOf } from '../../mechanics/flat-cables'
import { fixingsOf, mountOf } from '../../mechanics/panel'
import { fastenersInWords, FILM_MM, levelItems, mountItems, stackOnSpacers } from '../../mechanics/stack'
import { meetingsOf } from '../harness'
import type { Wire } from '../wires'
import { NO_SHORT, SHORT_READING } from '../../vocabulary/reading'
import { rulesOf } from './rules'
import type { Workbench, BuildStep } from './types'

export const SUPPLY_NODE = supplyComponent('@supply')
/** Common practice: a wire cut, ended, led and checked; a place where several meet. */
const MINUTES_A_WIRE = 2
const MINUTES_A_SPLICE = 3

/**
 * The bench of a plan. Laws: every component and every conductor of the netlist is in exactly one step; what has to
 * come before what names steps that are there. `wires` is the wire list: steps keep its order inside.
 */
export function workbenchOf(facts: Facts, netlist: Netlist, wires: readonly Wire[]): Workbench {
  const steps = new Sorted(facts, netlist, wires).steps()
  const ids = new Set(steps.map(({ id }) => id))
  const own = facts.plan.build.rules.filter(({ first, then }) => ids.has(first) && ids.has(then))
    .map(({ first, then, why }) => ({ first, then, why: why || 'you said so', own: true }))
  return { steps, precedences: [...rulesOf(facts, netlist, steps), ...own] }
}

const USUAL = [
  'lay', 'board', 'header', 'mount', 'cool', 'case', 'holder', 'splices', 'flat', 'seat', 'part', 'adapter', 'plug',
  'power', 'image',
  'card',
  'shorts',
  'supply',
  'trial', 'lid',
]

type Draft = Partial<BuildStep> & Pick<BuildStep, 'id' | 'title' | 'how' | 'check' | 'minutes'>

/** Where the meter goes: the first position of each rail and the first return, as the board's own header has them. */
function whereMeasured({ header }: Board): string[] {
  const first = (kind: Board['header'][number]['kind']) => header.find(entry => entry.kind === kind)?.position
  const back = first('ground')
  const rails = ([['5V', '5 V'], ['3V3', '3.3 V']] as const).flatMap(([kind, words]) =>
    first(kind) === undefined ? [] : [`${words} (position ${first(kind)})`])
  return [`The meter on resistance, between a return${back === undefined ? '' : ` (position ${back})`} and ${
    rails.join(', then ') || 'the supply'}.`]
}

/** The same places as readings, by the names that the run sheet has for them. */
function shortReadings({ header }: Board): NonNullable<BuildStep['readings']> {
  const first = (kind: Board['header'][number]['kind']) => header.find(entry => entry.kind === kind)?.position
  const back = first('ground')
  if (back === undefined) return []
  return ([['5V', '5 V'], ['3V3', '3.3 V']] as const).flatMap(([kind, words]) => first(kind) === undefined
    ? []
    : [{ probe: `ohm:${kind}`, label: `${words}: positions ${first(kind)} and ${back}`, planned: NO_SHORT,
        reading: SHORT_READING }])
}

/** Components and conductors, sorted into the steps that put them in place. */
class Sorted {
  private readonly made = new Map<string, BuildStep>()
  private readonly ownerOf: ReadonlyMap<string, ResolvedPart>

  constructor(private readonly facts: Facts, private readonly netlist: Netlist, wires: readonly Wire[]) {
    this.ownerOf = new Map(facts.parts.map(owner => [owner.id, owner]))
    this.make()
    for (const component of netlist.components) this.step(this.homeOf(component)).components.push(component.id)
    const order = new Map(wires.map((wire, i) => [wire.key, i]))
    const conductors = [...netlist.conductors].sort((a, b) => (order.get(a.id) ?? 0) - (order.get(b.id) ?? 0))
    for (const conductor of conductors) this.step(this.homeOfWay(conductor)).conductors.push(conductor.id)
  }

  /** As people usually go: the order in which steps that nothing tells apart are done. */
  steps(): BuildStep[] {
    const usual = ({ id, side }: BuildStep) =>
      USUAL.indexOf(id.startsWith('part:') && side === 'any' ? 'plug' : id.split(':')[0]!)
    return [...this.made.values()].sort((a, b) => usual(a) - usual(b)).map((step) => {
      const wires = step.conductors.filter(id =>
        this.netlist.conductors.some(entry => entry.id === id && entry.kind === 'wire')).length
      return { ...step, minutes: step.minutes + wires * MINUTES_A_WIRE }
    })
  }

  private add(step: Draft): void {
    this.made.set(step.id, {
      conductors: [], components: [], side: 'any', tool: 'none', undo: 'Taken apart again, nothing lost.', hold: false,
      cautions: [],
      ...step,
    })
  }

  private step(id: string): BuildStep {
    return this.made.get(id) ?? this.made.get('lay')!
  }

  private make(): void {
    const { facts, netlist } = this
    const { plan, board } = facts
    this.add({
      id: 'lay', title: 'Lay everything out', minutes: 5, undo: '',
      how: ['Everything of the parts list lies on the table, and the table is bare otherwise.',
        'No plug is in a socket, no battery joined.'],
      check: 'Nothing of the parts list is missing.',
      cautions: ['Touch something earthed before you touch a board.'],
    })
    if (board) this.add({
      id: 'board', title: 'Find position 1', minutes: 1, undo: '',
      how: ['The board lies with its header up and its sockets to you.',
        'Position 1 is the square pad of the header, position 2 is beside it.'],
      check: 'You can put a finger on position 1.',
    })
    if (board && plan.build.mount) this.addMount()
    for (const owner of facts.parts) this.addThing(owner)
    if (netlist.components.some(({ kind }) => kind === 'splice')) this.add({
      id: 'splices', title: 'Make the places where wires meet', side: 'top',
      minutes: netlist.components.filter(({ kind }) => kind === 'splice').length * MINUTES_A_SPLICE,
      how: [
        'A rail of a breadboard or a terminal block for each; one wire leads from it to the board.',
        ...meetingsOf(netlist).map(({ name, ways }) => `${name}: ${ways} ways.`),
      ],
      check: 'Each is marked with its header position.',
    })
    for (const owner of facts.parts) if (!thingKind(owner.part)) this.addPart(owner)
    for (const component of netlist.components) if (component.kind === 'item'
      && component.id !== SUPPLY_NODE) this.add({
      id: `power:${component.id}`, title: `Join ${component.name}`, tool: 'screwdriver', minutes: 5,
      how: ['From the load towards the source: its outlet first, its inlet after.'],
      check: 'Plus is on plus: followed by eye from end to end.',
      cautions: ['Nothing of it is fed while you join it.'],
    })
    if (plan.boot || netlist.components.some(({ type }) => type?.startsWith('card-'))) this.addFiles()
    if (board) this.addFirstPower()
  }

  private addMount(): void {
    const { facts } = this
    const ground = mountOf(facts)?.ground
    const isStudded = facts.plan.build.spacers && stackOnSpacers(facts).insteadOfMount > 0
    this.add({
      id: 'mount', title: ground ? `Board onto ${ground.owner.name}` : 'Board on its spacers', tool: 'screwdriver',
      minutes: 10,
      how: [
        ...mountItems(facts).map(({ what, count }) => `${count} × ${what}.`),
        ...ground
          ? [`Lay ${ground.owner.name} face down on something soft; the spacers go into its threads by `
            + 'hand, no further.']
          : [],
        ...isStudded
          ? ['Where a board is pushed on later its spacers hold this one, by their studs, in '
            + 'place of screws.']
          : [],
        'All screws loosely first, then tight, crosswise.',
      ],
      check: `It stands on all four, and nothing under it touches ${ground ? 'what it stands on' : 'the plate'}.`,
    })
  }

  /** What a board that is pushed on stands on, in words; null where it hangs on the header alone. */
  private heldOnSpacers(id: string): string | null {
    if (!this.facts.plan.build.spacers) return null
    const { thread, levels } = stackOnSpacers(this.facts)
    const level = levels.find(({ partId }) => partId === id)
    const items = level ? levelItems(level, thread) : []
    return items.length ? `${fastenersInWords(items)}.` : null
  }

  private addThing({ id, name, part }: ResolvedPart): void {
    switch (thingKind(part)) {
      case 'header': return this.add(part.id.includes('hammer')
        ? {
            id: `header:${id}`, title: `Press the header in: ${name}`, side: 'top', minutes: 10, undo: null,
            how: ['The board lies on something flat and soft, pins above their holes; press or tap evenly, from one '
              + 'end to the other.'],
            check: 'It stands straight, and every pin looks out below.', cautions: ['Eyes covered: pins can jump.'],
          }
        : {
            id: `header:${id}`, title: `Solder the header: ${name}`, side: 'bottom', tool: 'iron', minutes: 25,
            undo: null,
            how: [
              'Pins go in from the side of the parts, long ends up; the board lies face down and is '
              + 'soldered from below.',
              'Tack the two ends, look from the side whether it stands straight and flat, then the rest.',
            ],
            check: 'Every joint shines, and no neighbour is bridged: the meter beeps between none but the returns '
              + 'and the rails.',
            hold: true,
            cautions: ['The iron burns: it lies in its stand. Solder with the window open, and wash your hands.'],
          })
      case 'cooler': case 'fan': return this.add({
        id: `cool:${id}`, title: `Put on ${name}`, side: 'top', minutes: 5,
        undo: 'A pad or glue that was pressed once wants a new one.',
        how: [
          `Films come off both sides of the pad${part.thing?.padMm ? ` of ${part.thing.padMm} mm` : ''} first; the `
          + 'chip is wiped clean.',
          'Press once, straight down.',
        ],
        check: 'It lies flat and touches nothing beside the chip.',
      })
      case 'case': return this.add({
        id: `case:${id}`, title: `Board into the lower half: ${name}`, side: 'top', tool: 'screwdriver', minutes: 5,
        how: ['All screws loosely first, then tight; the middle ones first.'],
        check: 'Every socket looks out of its hole.',
      })
      case 'breadboard': case 'terminals': case 'carrier': return this.add({
        id: `holder:${id}`, title: `Set up ${name}`, side: 'top', minutes: 2,
        how: ['Position 1 over position 1 where it goes on the header; its marks to you.'], check: 'It sits straight.',
      })
      case 'adapter': return this.add({
        id: `adapter:${id}`, title: `Put in ${name}`, minutes: 1, how: ['Into its socket, straight, without force.'],
        check: 'It sits to its stop.',
      })
      case 'card': return this.add({
        id: `card:${id}`, title: `Put the card in: ${name}`, minutes: 1,
        how: ['Contacts to the board, until it stops.'],
        check: 'It sits to its stop.',
      })
    }
  }

  private addPart(owner: ResolvedPart): void {
    const { id, name, part } = owner
    const mine = this.netlist.conductors.filter(({ partId }) => partId === id)
    const seat = mine.find(({ kind }) => kind === 'seat')
    const cautions = cautionsOf(part)
    const { liftMm: lift, film } = this.facts.plan.build.places[id] ?? {}
    const held = this.heldOnSpacers(id)
    if (seat) return this.add({
      id: `seat:${id}`, title: `Push on ${name}`, side: 'top', minutes: held ? 15 : 5, cautions,
      ...held && { tool: 'screwdriver' as const },
      how: [
        ...held ? [`On the board below first: ${held}`] : [],
        ...film ? [`A film of ${FILM_MM} mm that insulates goes on what is below first, cut out where the header is.`] : [],
        ...lift ? [`A riser of ${lift} mm goes on the header first.`] : [],
        'Position 1 over position 1: not one row or column off, not turned.',
        'Look along the header from the side before you press.',
        ...held ? ['Then the screws, all loosely first: the board lies on every spacer before one is tight.'] : [],
      ],
      check: 'No pin of the header stands free at either end, and none beside the socket.', hold: true,
    })
    const wires = mine.filter(({ kind }) => kind === 'wire').length
    const plugs = mine.filter(({ kind }) => kind === 'plug' || kind === 'flat cable').length
    const strapped = Object.keys(owner.options ?? {}).length > 0
    // A slot that a board covers is filled before that board is on, and wires come after it.
    const flat = mine.some(({ kind }) => kind === 'flat cable')
    const isOnItsOwn = flat && wires > 0
    if (isOnItsOwn) this.add({
      id: `flat:${id}`, title: `Plug in the flat cable of ${name}`, minutes: 3, side: 'top',
      how: this.flatCable(id), check: 'Its line is covered, or as much bare end is left at both corners.',
      undo: 'Drawn again with the latch open, and the supply unplugged.',
    })
    this.add({
      id: `part:${id}`, minutes: 2 + (isOnItsOwn ? plugs - 1 : plugs), side: wires ? 'top' : 'any', cautions,
      title: wires ? `Wire ${name}` : plugs ? `Plug in ${name}` : `Set down ${name}`,
      how: [
        ...strapped ? ['Set what is set on the part itself first: straps, switches, its voltage.'] : [],
        ...wires ? ['Returns first, then signals, its supply last.'] : [],
        ...flat && !isOnItsOwn ? this.flatCable(id) : [],
        ...fixingsOf(this.facts).filter(fixing => fixing.owner.id === id && fixing.screwMm !== null)
          .map(({ count, thread, screwMm }) =>
            `What is screwed to it: ${count} × Screw, pan head, ${thread} × ${screwMm}; a longer one `
            + 'hits it from behind.'),
      ],
      check: wires ? 'Each wire was pulled at gently, and its position counted once more.' : 'It sits to its stop.',
      undo: 'Drawn again, with the supply unplugged.',
    })
  }

  /** How the flat cable of a part goes in, and which way round where both slots are known. */
  private flatCable(id: string): string[] {
    const cable = flatCablesOf(this.facts, null).find(({ partId }) => partId === id)
    return [
      ...cable?.answer.fits ? [`The cable: ${cable.answer.reasons[0]}`, seatingOf(cable)] : [],
      'Open the latch, push the cable in straight until its line is covered, close the latch. Never crease it.',
    ]
  }

  private addFiles(): void {
    this.add({
      id: 'image', title: 'Write the card', tool: 'computer', minutes: 15, undo: null,
      how: [
        'Unplug every other drive first: the one that is chosen is overwritten.',
        'Then the boot file, and the other files from the Boot stage.',
      ],
      check: 'The boot file on the card is the one that Voltaris wrote.',
    })
  }

  private addFirstPower(): void {
    this.add({
      id: 'shorts', title: 'Measure before power', tool: 'meter', side: 'top', minutes: 5, hold: true, undo: '',
      how: whereMeasured(this.facts.board!),
      check: 'Neither reads near 0 Ω. What does is a short: do not switch on, find it.',
      readings: shortReadings(this.facts.board!),
    })
    if (this.netlist.byId.has(SUPPLY_NODE)) this.add({
      id: 'supply', title: 'The supply, last of all', minutes: 1,
      how: ['Its plug goes into the board or the chain first, into the wall after.'],
      check: 'The lamp of the board comes on, and nothing smells or gets hot.',
      undo: 'Shut down in order, then draw the plug.',
      cautions: ['Mains is for closed supplies only; everything else is for people who are licensed for it.'],
    })
    this.add({
      id: 'trial', title: 'First start, in the open', tool: 'none', minutes: 10, hold: true, undo: '',
      how: ['Everything lies open, and nothing is screwed to the wall yet.',
        'Look at what should be seen on the Bring-up stage.'],
      check: 'Every part was seen to work once.',
    })
    if (this.facts.parts.some(({ part }) => thingKind(part) === 'case')) this.add({
      id: 'lid', title: 'Close the lid', tool: 'screwdriver', minutes: 3,
      how: ['Shut down, and draw the plug.', 'Look that no wire lies under the edge; middle screws first.'],
      check: 'It closes without force.',
    })
  }

  private homeOf({ kind, id, partId }: Component): string {
    if (kind === 'board') return 'board'
    if (kind === 'splice') return 'splices'
    if (id === SUPPLY_NODE) return this.made.has('supply') ? 'supply' : 'lay'
    if (kind === 'item') return `power:${id}`
    return this.homeOfPart(partId ?? id)
  }

  private homeOfPart(partId: string): string {
    const part = this.ownerOf.get(partId)?.part
    const kind = part && thingKind(part)
    if (!kind) return this.made.has(`seat:${partId}`) ? `seat:${partId}` : `part:${partId}`
    const room = {
      header: 'header', cooler: 'cool', fan: 'cool', case: 'case', breadboard: 'holder', terminals: 'holder',
      carrier: 'holder',
      adapter: 'adapter', card: 'card', tool: 'lay',
    }[kind]
    return kind === 'tool' ? 'lay' : `${room}:${partId}`
  }

  private homeOfWay({ id, kind, partId, from, to }: Conductor): string {
    if (isHeaderSpliceKey(id)) return 'splices'
    if (from === SUPPLY_NODE || to === SUPPLY_NODE) return this.made.has('supply') ? 'supply' : 'lay'
    if (kind === 'flat cable' && this.made.has(`flat:${partId}`)) return `flat:${partId}`
    if (partId !== undefined) return this.homeOfPart(partId)
    const item = [from, to].find(end => this.made.has(`power:${end}`))
    if (item) return `power:${item}`
    const component = this.netlist.byId.get(from)
    return component ? this.homeOf(component) : 'lay'
  }
}
