/** Voltages that are too low or too high at the rail or at a load, and circuits that have no operating point. */
import { isPositionFeed } from '../../plan/ids'
import { boardPower } from '../../facts/board'
import { offeredItem } from '../../catalogue/offered'
import { freeNodeId } from '../../plan/power-edits'
import type { PowerState } from '../../power/states'
import { dropsTo, pathUp } from '../../power/shares'
import type { Power } from '../../power/report'
import { stateNamed } from '../../power/states'
import { wantsV } from '../../netlist/supply/kinds'
import { sourceEmfV } from '../../netlist/supply/resistance'
import type { SupplyNode } from '../../netlist/supply/types'
import type { Evidence, Finding, Rule, Severity } from '../types'
import { betterLead, enoughHeadroom, hubOwnSupply, largerSupplies, lowerClock, ownHub, pastTheBoard,
  stepUp } from './candidates'
import { waysOut, type Outcome, type Solved, type PowerFix } from './ways'
import { limitOf, nodeName, nodeSubject, v, volts } from './words'

/** Worst first: what a state that fails means. */
const GRAVITY: readonly { states: (state: PowerState) => boolean, severity: Severity }[] = [
  { states: state => state.id === 'idle' || state.id === 'typical', severity: 'stop' },
  { states: state => state.id !== 'start', severity: 'caution' },
]

/** The gravest state in which something holds, how grave, and all the states in which it does. */
function gravest(states: PowerState[],
  fails: (state: PowerState) => boolean): { state: PowerState, severity: Severity, failing: string[] }
    | null {
  for (const { states: counts, severity } of GRAVITY) {
    const found = states.filter(counts).find(fails)
    if (found) {
      return { state: found, severity,
        failing: states.filter(state => state.id !== 'start' && (!state.ok || fails(state)))
          .map(state => state.id) }
    }
  }
  return null
}

/** No set of voltages satisfies every load: the supply collapses. */
export const brownOut: Rule = ({ facts, power }) => {
  const failing = power.states.filter(state => !state.ok && power.tree.nodes.some(node => node.role === 'source'))
  const state = failing.find(entry => entry.id === 'typical') ?? failing.find(entry => entry.id !== 'start')
    ?? failing[0]
  if (!state || isUnfed(state, power)) return []
  const start = failing.every(entry => entry.id === 'start')
  const dark = state.dark.map(id => power.tree.byId.get(id)!).filter(Boolean)
  const starved = starvedConverter(power, state)
  return [{
    code: 'power.no-operating-point', id: 'power.no-operating-point', severity: start ? 'caution' : 'stop',
    stages: ['power', 'board'],
    title: `${state.label}: the supply breaks down`,
    sentence: `There are no voltages at which everything runs (${state.label.toLowerCase()}): `
      + `${starved ? starvedWords(starved, state) : runawayWords(power, state)}`
      + `${dark.length ? ` Dark: ${dark.map(node => node.name).join(', ')}.` : ''}`,
    subjects: [...dark.map(nodeSubject), ...starved ? [nodeSubject(starved)] : [], { rail: '5V' }],
    figures: [{ label: 'can be carried', value: Math.round(state.carriedShare * 100), unit: '%', limit: 100,
      origin: 'arithmetic' }],
    fixes: waysOut({ facts, power }, 'power.no-operating-point', () => [
      ...starved ? enoughHeadroom(facts, power.tree, starved, wantsV(starved)) : [], ...shortageWays({ facts, power }),
    ], failing.map(entry => entry.id), ({ states }): Outcome => {
      const now = states.find(entry => entry.id === state.id)
      const share = now?.carriedShare ?? 0
      return {
        enough: states.every(entry => entry.ok), figure: `${Math.round(share * 100)} % of the load carried`,
        gain: share - state.carriedShare,
      }
    }),
  }]
}

/**
 * A converter that would not get what it wants even with nothing drawn: no cable and no larger source of that
 * voltage helps it.
 */
function starvedConverter({ tree }: Power, state: PowerState): SupplyNode | undefined {
  return tree.nodes.find((node) => {
    if (node.role !== 'path' || node.open || !node.figures.setV || node.id === '@3V3'
      || node.kind === 'step-up') return false
    const root = pathUp(tree, state, node.id)
      .find((entry, i) => i > 0 && (entry.role === 'source' || entry.figures.setV))
    const mostV = root && (root.figures.setV?.value ?? sourceEmfV(root))
    return mostV !== undefined && root!.kind !== 'transformer' && mostV < wantsV(node) - 0.005
  })
}

function starvedWords(converter: SupplyNode, state: PowerState): string {
  return `${converter.name} makes ${volts(converter.figures.setV!.value)} and wants ${volts(wantsV(converter))} at its `
    + `input; ${volts(state.nodes[converter.id]!.inputV ?? 0)} come. It has no headroom: what it gives falls with its `
    + 'input. Take a higher source, or leave the converter out.'
}

function runawayWords({ tree }: Power, state: PowerState): string {
  const carried = `${Math.round(state.carriedShare * 100)} % of the load can be carried.`
  const runs = tree.nodes.some(node => (node.role === 'load' && node.law === 'power'
    && state.nodes[node.id]!.currentMa > 0)
  || ((node.kind === 'step-down' || node.kind === 'step-up') && node.own && state.nodes[node.id]!.currentMa > 0))
  return runs
    ? `as the voltage falls what draws a constant power takes more current, and it falls further. ${carried} Take a `
    + 'source or a cable with less resistance, or let less be on at a time.'
    : `the currents that are drawn take more of the voltage on the way than is left for what they feed. ${carried} `
      + 'Take a shorter or thicker lead, a source that gives more, or let less be on at a time.'
}

/** Loads that no source reaches are another finding's matter. */
const isUnfed = (state: PowerState, { tree }: Power) => {
  const unfed = new Set(tree.problems.flatMap(problem => problem.kind === 'unfed' ? [problem.node] : []))
  return state.dark.length > 0 && state.dark.every(id => unfed.has(id))
}

/** A lower clock helps where the board itself is what draws most; not against a motor's current. */
const boardIsLargest = ({ report }: Power): boolean => {
  const loads = report.rails[0]?.loads ?? []
  const max = Math.max(...loads.map(load => load.peakMa))
  return loads.some(load => load.node === '@board' && load.peakMa >= max)
}

/** What helps against too little on the 5 V rail. */
function shortageWays({ facts, power }: Pick<Evidence, 'facts' | 'power'>): PowerFix[] {
  const asked = power.report.sources.find(source => source.node === '@supply')?.peakMa ?? 0
  const peak = stateNamed(power.states, 'peak')
  const leads = power.tree.byId.has('@5V') ? pathUp(power.tree, peak, '@5V').filter(node => node.kind === 'cable') : []
  return [
    ...stepUp(facts, power.tree), ...leads.flatMap(betterLead), ...largerSupplies(facts, asked),
    ...ownHub(facts, power.tree),
    ...boardIsLargest(power) ? lowerClock(facts) : [],
  ]
}

/** The board's under-voltage sign: which cable or connector eats the volts. */
export const underVoltage: Rule = ({ facts, power }) => {
  const sign = power.tree.byId.get('@board')?.figures.signV
  if (!sign || power.tree.assumed) return []
  const voltage = (state: PowerState) => state.nodes['@5V']!.voltageV
  const worst = gravest(power.states, state => state.ok && voltage(state) < sign.value)
  if (!worst) return []
  const { state, severity, failing } = worst
  const [max] = dropsTo(power.tree, state, '@5V')
  const eats = max ? ` Most of it is lost in ${nodeName(max.node, power.tree)}: ${volts(max.dropV)}.` : ''
  const source = pathUp(power.tree, state, '@5V').find(node => node.role === 'source')
  const isSilent = facts.board !== null && boardPower(facts.board).noDetector === true
  return [{
    code: 'rail.under-voltage', id: 'rail.under-voltage', severity, stages: ['power', 'board'],
    title: `${volts(voltage(state))} on the 5 V rail: `
      + `${isSilent ? 'too low for the board' : 'the board reports under-voltage'}`,
    sentence: `${state.label}: ${volts(voltage(state))} arrive at the board, below the ${volts(sign.value)} ${isSilent
      ? 'that boards of this family need to run surely. This one has no detector, so nothing reports it: it restarts, or files on the card '
      + 'are damaged.'
      : 'at which it reports under-voltage and lowers its clocks; files on the card can be damaged.'}${eats} Take a thicker or shorter `
      + `cable, or draw less through it.`,
    subjects: [{ node: '@5V', rail: '5V' }, ...max ? [nodeSubject(max.node)] : []],
    figures: [
      { label: `5 V rail, ${state.label.toLowerCase()}`, value: v(voltage(state)), unit: 'V',
        ...limitOf(power.tree.byId.get('@board')!, 'signV') },
      ...max
        ? [{ label: `lost in ${nodeName(max.node, power.tree)}`, value: v(max.dropV), unit: 'V',
            origin: 'arithmetic' }]
        : [],
      { label: 'current', value: Math.round(source ? state.nodes[source.id]!.currentMa : 0), unit: 'mA' },
    ],
    fixes: waysOut({ facts, power }, 'rail.under-voltage', () => shortageWays({ facts, power }), failing,
      (solved): Outcome => {
        const now = solved.states.find(entry => entry.id === state.id)
        const at = now?.ok ? now.nodes['@5V']!.voltageV : 0
        return {
          enough: solved.states.every(entry => entry.ok && voltage(entry) >= sign.value), figure: volts(at),
          gain: at - voltage(state) - 0.005,
        }
      }),
    ...max?.node.kind === 'cable' && { worksheet: wireSheet(max.node, state, sign.value, power) },
  }]
}

/** A wire's worksheet with the figures it has in the plan. */
export function wireSheet(node: SupplyNode, state: PowerState, leastV: number, { tree }: Pick<Power, 'tree'>) {
  const { inputV = 5, currentMa } = state.nodes[node.id]!
  const further = node.id === '@cable' && tree.byId.get('@socket')
    ? (tree.byId.get('@socket')!.figures.ohm?.value ?? 0) * currentMa / 1000
    : 0
  return {
    kind: 'wire' as const, node: node.id, supplyV: v(inputV), currentMa: Math.round(currentMa),
    lengthM: node.figures.lengthM?.value ?? 1,
    leastV: v(leastV + further),
    awg: node.figures.awg?.value ?? 24, bundledPairs: node.figures.bundledPairs?.value ?? 1,
    contactOhm: node.figures.contactOhm?.value ?? 0,
  }
}

/** A load that gets too little, or too much. */
export const loadVoltages: Rule = ({ facts, power }) => power.tree.nodes.flatMap((node): Finding[] => {
  if (node.role !== 'load' || node.kind === 'board' || !node.from.length) return []
  const min = node.figures.leastV
  const max = node.figures.mostV
  const high = max && power.states.find(state => state.nodes[node.id]!.voltageV > max.value)
  const subjects = [nodeSubject(node)]
  if (high) return [tooHigh(node, high, max, facts, power)]
  const worst = min && gravest(power.states,
    state => state.ok && drawn(state, node) > 0 && state.nodes[node.id]!.voltageV < min.value)
  if (!worst) return []
  const { state, severity, failing } = worst
  const at = state.nodes[node.id]!.voltageV
  // What the board's own rail already lacks is said once, by the rail.
  const rail = pathUp(power.tree, state, node.id).find(entry => entry.id === '@5V')
  if (rail && node.figures.ratedV?.value === 5 && state.nodes['@5V']!.voltageV < min!.value + RAIL_ROOM_V) return []
  const wire = power.tree.byId.get(`${node.id}@wire`)
  const [eats] = dropsTo(power.tree, state, node.id)
  const judge = (solved: Solved): Outcome => {
    const now = solved.states.find(entry => entry.id === state.id)?.nodes[node.id]?.voltageV ?? 0
    return {
      enough: solved.states.every(entry => entry.ok && entry.nodes[node.id]!.voltageV >= min!.value),
      figure: volts(now),
      gain: now - at - 0.005,
    }
  }
  return [{
    code: 'load.under-voltage', id: `load.under-voltage ${node.id}`, severity: severity === 'stop' ? 'stop' : 'caution',
    stages: ['power', 'wiring'], title: `${node.name} gets ${volts(at)}`,
    sentence: `${state.label}: ${volts(at)} arrive at ${node.name}, which wants ${volts(min!.value)} at least: it `
      + 'flickers, restarts or reads '
      + `wrongly.${eats ? ` Most is lost in ${nodeName(eats.node, power.tree)}: ${volts(eats.dropV)}.` : ''}`,
    subjects: [...subjects, ...eats ? [nodeSubject(eats.node)] : []],
    figures: [
      { label: `at the load, ${state.label.toLowerCase()}`, value: v(at), unit: 'V', ...limitOf(node, 'leastV') },
      { label: 'current', value: Math.round(drawn(state, node)), unit: 'mA' },
    ],
    fixes: waysOut(
      { facts, power }, `load.under-voltage ${node.id}`,
      () => [
        ...betterLead(wire), ...pastTheBoard(power.tree, node), ...hubOwnSupply(facts, power.tree),
        ...pathUp(power.tree, state, node.id).filter(entry => entry.kind === 'cable' && entry !== wire)
          .flatMap(betterLead),
      ],
      failing, judge,
    ),
    ...wire?.kind === 'cable' && { worksheet: wireSheet(wire, state, min!.value, power) },
  }]
})

/** A rail this little above what a load wants is itself the fault, not the load's wire. */
const RAIL_ROOM_V = 0.05

const drawn = (state: PowerState, node: SupplyNode) => state.nodes[node.id]!.currentMa

function tooHigh(
  node: SupplyNode, state: PowerState, max: { value: number, origin: string }, { catalogue, plan }: Evidence['facts'],
  { tree }: Power,
): Finding {
  const at = state.nodes[node.id]!.voltageV
  const consumer = tree.byId.has(`${node.id}@wire`) || node.own ? node.id : null
  const item = [...catalogue.powerItems.values()].find(entry =>
    entry.kind === 'step-down' && Math.abs((entry.figures.setV ?? 0) - (node.figures.ratedV?.value ?? 5)) < 0.3)
  const fed = consumer ? (tree.byId.get(`${consumer}@wire`) ?? node).from[0] : undefined
  // A header position is there for what is wired to it: the converter hangs on the rail behind it.
  const feed = fed && isPositionFeed(fed) ? tree.byId.get(fed)?.from[0] : fed
  const id = freeNodeId(plan.power, 'step-down')
  return {
    code: 'load.over-voltage', id: `load.over-voltage ${node.id}`, severity: 'stop', stages: ['power', 'wiring'],
    title: `${volts(at)} reach ${node.name}, which stands ${volts(max.value)}`,
    sentence: `${volts(at)} reach ${node.name}; it stands ${volts(max.value)} at most and is damaged. Put a step-down `
      + 'converter between, or feed it from another rail.',
    subjects: [nodeSubject(node)],
    figures: [{ label: 'at the load', value: v(at), unit: 'V', ...limitOf(node, 'mostV') }],
    fixes: item && consumer && feed
      ? [{
          label: `Put ${item.name} before it`,
          edits: [{ edit: 'add-node', node: { id, type: item.id, name: item.name, from: feed }, before: consumer }],
        }]
      : [],
  }
}

/** A transformer without its bridge: the voltages are not direct ones, and its own rule says so. */
const alternating = ({ tree, states }: Power) => {
  const path = pathUp(tree, states[0]!, '@5V')
  return path.some(node => node.kind === 'transformer') && !path.some(node => node.kind === 'rectifier')
}

/** The board's rail above what it stands. */
export const railOverVoltage: Rule = ({ facts, power }) => {
  const board = power.tree.byId.get('@board')
  const max = board?.figures.mostV
  if (!board || !max) return []
  const high = power.states.find(state => state.nodes['@5V']!.voltageV > max.value)
  if (!high || alternating(power)) return []
  const at = high.nodes['@5V']!.voltageV
  const item = offeredItem(facts.catalogue, 'step-down')
  const socket = power.tree.byId.get('@socket')
  const id = freeNodeId(facts.plan.power, 'step-down')
  return [{
    code: 'rail.over-voltage', id: 'rail.over-voltage', severity: 'stop', stages: ['power', 'board'],
    title: `${volts(at)} on the board's 5 V rail`,
    sentence: `${volts(at)} reach the board, which stands ${volts(max.value)}: it is destroyed, and so is all that `
      + 'hangs on it. Put a step-down converter to 5 V between the source and the board before anything is plugged in.',
    subjects: [{ node: '@5V', rail: '5V' }],
    figures: [{ label: '5 V rail', value: v(at), unit: 'V', ...limitOf(board, 'mostV') }],
    fixes: item && socket?.from[0]
      ? [{
          label: `Put ${item.name} before the board`,
          edits: [{ edit: 'add-node', node: { id, type: item.id, name: item.name, from: socket.from[0] },
            before: '@socket' }],
        }]
      : [],
  }]
}

/** The supply cannot give what is asked at any voltage: nothing else that would be said of it is sure. */
export const breaksDown = ({ code }: Finding): boolean => code === 'power.no-operating-point'
