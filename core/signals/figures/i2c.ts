/** Each I²C bus of a plan as a circuit. */
import type { Bus, Facts, ResolvedPart } from '../../facts/types'
import { busyShare, minPullUpOhm, loadOf, LOW_V, modeOf, maxPullUpOhm, reachableMode, riseTimeS, WIRE_PF_PER_M,
  type Mode } from '../i2c'
import { parallelOhm } from '../series'

/** What a bus runs at when nobody says otherwise. Memory. */
export const USUAL_CLOCK_HZ = 100_000

/** On each side of a channel of a shifter board for open-drain lines. Practice. */
const SHIFTER_OHM = 10_000
/** Of a channel's transistor. Memory. */
const SHIFTER_PF = 15
/** The far side of a shifter is pulled to 5 V. */
const FAR_V = 5

/** Of a part that says nothing: its pin. published: NXP UM10204 table 10, Ci, 10 pF at most */
const USUAL_PART_PF = 10
/** Keys under which the maker may replace a part's pull-ups, 0 for taken off, and what a metre of wire has. */
export const pullUpKey = (partId: string) => `${partId}.pullUpOhm`
export const WIRE_KEY = 'wire.pfPerM'

export interface I2cBusFigures {
  busId: string
  label: string
  clockHz: number
  mode: Mode
  supplyV: number
  /** Where the pull-ups are: who, and how large. */
  pullUps: { partId: string | null, name: string, ohm: number, onBoardOfPart?: true }[]
  /** Null where nothing pulls up. */
  pullUpOhm: number | null
  /**
   * What a part sinks when it pulls the wire low, as one resistor to 3V3: the pull-ups here and those
   * beyond level shifters.
   */
  sinkOhm: number | null
  capacitancePf: number
  wireM: number
  /** 30 to 70 %; null where nothing pulls up. */
  riseS: number | null
  minOhm: number
  maxOhm: number
  reachable: Mode | null
  busyShare: number
  polls: { partId: string, name: string, hz: number, bytes: number }[]
  slowest: { partId: string, name: string, maxClockHz: number } | null
  stretching: string[]
}

export function i2cFigures(facts: Facts): I2cBusFigures[] {
  return facts.buses.filter(bus => bus.kind === 'i2c').flatMap(bus => figuresOf(bus, facts) ?? [])
}

/** Null for a bus on which nothing hangs yet. */
function figuresOf(bus: Bus, facts: Facts): I2cBusFigures | null {
  // A part of which a wire is still open does not hang on the bus yet.
  const groups = facts.groups.filter(group =>
    group.bus?.id === bus.id && group.terminals.every(terminal => terminal.place || terminal.signal!.optional))
  if (!groups.length) return null
  const owners = groups.map(group => group.owner).filter(owner => owner.part.i2c)
  // A level shifter parts the wire in two: what lies beyond loads its own piece alone, but is pulled low together with
  // this one.
  const shifted = new Set(groups.filter(({ terminals }) =>
    terminals.some(({ between }) => between?.kind === 'level-shifter'))
    .map(group => group.owner))
  const near = owners.filter(owner => !shifted.has(owner))
  const beyond = owners.filter(owner => shifted.has(owner))
  // What is polled behind a hub takes the time of the bus above it too.
  const behind = facts.buses.filter(other => other.upstream === bus.id)
    .flatMap(other => facts.groups.filter(group => group.bus?.id === other.id).map(group => group.owner))
  const clockHz = facts.plan.clocks[bus.upstream ?? bus.id] ?? facts.plan.clocks[bus.id] ?? USUAL_CLOCK_HZ
  const pullUps = [
    ...boardPullUps(bus, facts),
    ...near.flatMap(owner => pullUpOf(owner, facts)
      ? [{ partId: owner.id, name: owner.name, ohm: pullUpOf(owner, facts), onBoardOfPart: true as const }]
      : []),
    ...beyond.map(owner => ({ partId: owner.id, name: `level shifter at ${owner.name}`, ohm: SHIFTER_OHM })),
    ...addedPullUps(groups),
  ]
  const wires = near.filter(owner => !owner.part.isAddOn).map(owner => wireOf(owner, facts))
  const load = loadOf(
    pullUps.map(entry => entry.ohm),
    owners.map(owner => shifted.has(owner) ? SHIFTER_PF : capacitanceOf(owner, facts)), wires,
    wirePfPerM(facts),
  )
  const mode = modeOf(clockHz)
  const supplyV = 3.3
  const sinks = [
    ...pullUps.map(entry => entry.ohm),
    ...beyond.flatMap(owner => [SHIFTER_OHM, pullUpOf(owner, facts) || Infinity]).map(ohm => ohm * supplyV / FAR_V),
  ]
  const polls = [...owners, ...behind].flatMap(owner => owner.part.i2c?.poll
    ? [{ partId: owner.id, name: owner.name, ...owner.part.i2c.poll }]
    : [])
  const slowest = owners.flatMap(owner => owner.part.i2c!.maxClockHz
    ? [{ partId: owner.id, name: owner.name, maxClockHz: owner.part.i2c!.maxClockHz }]
    : [])
    .sort((a, b) => a.maxClockHz - b.maxClockHz)[0] ?? null
  return {
    busId: bus.id, label: bus.label, clockHz, mode, supplyV, pullUps, capacitancePf: load.capacitancePf,
    pullUpOhm: pullUps.length ? load.pullUpOhm : null, sinkOhm: sinks.length ? parallelOhm(sinks) : null,
    wireM: wires.reduce((sum, m) => sum + m, 0),
    riseS: pullUps.length ? riseTimeS(load.pullUpOhm, load.capacitancePf) : null,
    minOhm: minPullUpOhm(supplyV, LOW_V, mode.sinkMa),
    maxOhm: maxPullUpOhm(mode.riseS, load.capacitancePf),
    reachable: pullUps.length ? reachableMode(load) : null, busyShare: busyShare(polls, clockHz), polls, slowest,
    stretching: owners.filter(owner => owner.part.i2c!.stretchesClock).map(owner => owner.id),
  }
}

/** The maker's own figure where there is one: measured, or 0 for resistors taken off. */
const ownFigure = (facts: Facts, key: string, usual: number): number => facts.plan.limits[key]?.value ?? usual
const pullUpOf = (owner: ResolvedPart,
  facts: Facts) => ownFigure(facts, pullUpKey(owner.id), owner.part.i2c!.pullUpOhm ?? 0)
const capacitanceOf = (owner: ResolvedPart, facts: Facts) =>
  ownFigure(facts, `${owner.id}.capacitancePf`, owner.part.i2c!.capacitancePf ?? USUAL_PART_PF)
export const wirePfPerM = (facts: Facts) => ownFigure(facts, WIRE_KEY, WIRE_PF_PER_M)

/** Resistors that the maker put from the wires to 3V3. */
const addedPullUps = (groups: Facts['groups']): I2cBusFigures['pullUps'] => groups.flatMap(({ owner,
  terminals }) => terminals
  .filter(({ signal, between }) => signal!.role === 'i2c.sda' && between?.kind === 'pull-up').map(({ between }) => ({
    partId: owner.id, name: `resistor at ${owner.name}`, ohm: between!.ohm!,
  })))

/** Resistors soldered to the board on the bus's lines. */
function boardPullUps(bus: Bus, facts: Facts): I2cBusFigures['pullUps'] {
  const sda = bus.software
    ? facts.board?.header.find(entry => entry.position === bus.software!.sda)?.line
    : bus.route?.lines.sda
  const ohm = facts.board?.lines.find(line => line.line === sda)?.fixedPullUpOhm
  return ohm ? [{ partId: null, name: 'Board', ohm }] : []
}

function wireOf(owner: ResolvedPart, facts: Facts): number {
  const sda = owner.signals.find(signal => signal.role === 'i2c.sda')
  return facts.plan.build.wires[`${owner.id}.${sda?.id}`]?.lengthM ?? owner.part.leadM ?? 0.2
}
