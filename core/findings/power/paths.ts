/** What stands between sources and loads: wires, contacts, fuses, converters, hubs. */
import type { PowerItem } from '../../catalogue/types'
import { ADAPTER_OVERLOAD, blowsWithinS, fittingFuseMa, shortMa, STEADY_SHARE } from '../../power/front/fuse'
import { stateNamed, wantsV, type Power } from '../../power/report'
import { pathUp } from '../../power/shares'
import type { PowerState } from '../../power/states'
import { cableOhm } from '../../power/circuit/elements'
import type { TreeNode } from '../../netlist/supply/types'
import { DENSITY, wireMostMa } from '../../netlist/copper'
import type { Finding, Fix, Rule } from '../types'
import { betterLead, lowerClock, ownHub, pastTheBoard } from './candidates'
import { waysOut } from './ways'
import { amps, limitOf, ma, nodeName, nodeSubject, v, volts, watts } from './words'
import { wireSheet } from './voltages'

const flow = (state: PowerState, node: TreeNode) => Math.abs(state.nodes[node.id]!.currentMa)
/** Wires are many, a plug is one. */
const verb = (node: TreeNode, one: string, many: string) => node.kind === 'cable' && node.id.endsWith('@wire') ? many : one
const sentenceCase = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

/** Past its rating by this much a contact or a wire burns; below it ages. practice */
export const BURNS_SHARE = 1.2

/** A header position, a plug, a switch or a wire that carries more than it may. Peak is judged: contacts do not wait. */
export const overRating: Rule = ({ facts, power }) => power.tree.nodes.flatMap((node): Finding[] => {
  if (node.role !== 'path' || ['fuse', 'fuse-resettable', 'linear', 'step-down', 'step-up'].includes(node.kind)) return []
  const peak = stateNamed(power.states, 'peak')
  const current = flow(peak, node)
  const wire = node.kind === 'cable'
  const most = wire ? wireMostMa(node.figures.awg?.value ?? 24, node.figures.bundledPairs?.value ?? 1) : node.figures.ratedMa?.value
  if (most === undefined || current <= most) return []
  const carried = power.tree.nodes.filter(other => other.role === 'load' && pathUp(power.tree, peak, other.id).includes(node))
  const largest = [...carried].sort((a, b) => flow(peak, b) - flow(peak, a))[0]
  return [{
    code: 'path.over-rating', id: `path.over-rating ${node.id}`, severity: current > most * BURNS_SHARE ? 'stop' : 'caution',
    stages: ['power', 'wiring'],
    title: `${sentenceCase(nodeName(node, power.tree))} ${verb(node, 'carries', 'carry')} ${amps(current)} and `
      + `${verb(node, 'stands', 'stand')} ${amps(most)}`,
    sentence: `At peak ${amps(current)} flow through ${nodeName(node, power.tree)}; ${verb(node, 'it stands', 'they stand')} `
      + `${amps(most)}: ${verb(node, 'it gets', 'they get')} hot, and `
      + `${current > most * BURNS_SHARE ? 'the contact or the insulation burns' : verb(node, 'it does not last', 'they do not last')}. `
      + `${wire
        ? 'Take a thicker wire.'
        : node.kind === 'position'
          ? 'Spread the loads over several positions, or feed the largest past the board.'
          : 'Take one with a higher rating, or feed part of it another way.'}`,
    subjects: [nodeSubject(node), ...largest ? [nodeSubject(largest)] : []],
    figures: [{
      label: 'peak', value: ma(current), unit: 'mA', limit: ma(most),
      origin: wire ? `${DENSITY.origin}: ${DENSITY.maPerMm2 / 1000} A per mm² in open air, less in a bundle` : node.figures.ratedMa!.origin,
    }],
    fixes: waysOut({ facts, power }, `path.over-rating ${node.id}`, () => [
      ...betterLead(node), ...largest ? pastTheBoard(power.tree, largest) : [],
      ...node.kind === 'socket' ? [...ownHub(facts, power.tree), ...lowerClock(facts)] : [],
    ], ['peak'], ({ tree, states }) => {
      const now = tree.byId.get(node.id)
      const flows = now ? flow(stateNamed(states, 'peak'), now) : 0
      const stands = now && wire ? wireMostMa(now.figures.awg!.value, now.figures.bundledPairs?.value ?? 1) : most
      return { enough: flows <= stands, figure: `${amps(flows)} of ${amps(stands)}`, gain: current / most - flows / stands - 0.01 }
    }),
    ...wire && { worksheet: wireSheet(node, peak, 4.75, power) },
  }]
})

/** A fuse that goes in ordinary use, one that no fault can blow, and one larger than the wire it should protect. */
export const fuses: Rule = ({ facts, power }) => power.tree.nodes.flatMap((node): Finding[] => {
  if (node.kind !== 'fuse' && node.kind !== 'fuse-resettable') return []
  const peak = stateNamed(power.states, 'peak')
  const start = stateNamed(power.states, 'start')
  const resettable = node.kind === 'fuse-resettable'
  const holds = node.figures[resettable ? 'holdMa' : 'ratedMa']!
  const most = Math.max(...power.states.filter(state => state.id !== 'start').map(state => flow(state, node)))
  const surge = flow(start, node)
  const fault = faultMa(power, node, peak)
  const steady = most
  const fitting = fittingFuseMa(steady, fault, surge)
  const subjects = [nodeSubject(node)]
  const figures = [
    { label: 'peak', value: ma(most), unit: 'mA', limit: holds.value, origin: holds.origin },
    { label: 'at start-up', value: ma(surge), unit: 'mA' },
    { label: 'in a short', value: ma(fault), unit: 'mA', origin: 'arithmetic' },
  ]
  const fixes = otherFuse(facts.catalogue.powerItems, node, fitting)
  const worksheet = {
    kind: 'fuse' as const, node: node.id, steadyMa: Math.round(most), surgeMa: Math.round(surge), shortMa: Math.round(fault),
    wireAwg: thinnestBehind(power, node)?.figures.awg?.value ?? 20,
  }
  const common = { stages: ['power' as const], subjects, figures, fixes, worksheet }
  const trips = most > holds.value || (!resettable && blowsWithinS(holds.value, surge) <= 0.3)
  const never = fault > 0 && (resettable ? fault < node.figures.tripMa!.value : blowsWithinS(holds.value, fault) > 2)
  const wire = thinnestBehind(power, node)
  const wireMost = wire ? wireMostMa(wire.figures.awg!.value, wire.figures.bundledPairs?.value ?? 1) : Infinity
  return [
    ...trips
      ? [{
          ...common, code: 'fuse.always-blows' as const, id: `fuse.always-blows ${node.id}`, severity: 'stop' as const,
          title: `${node.name} goes in ordinary use`,
          sentence: `${most > holds.value ? `${amps(most)} flow through it at peak` : `${amps(surge)} flow through it at start-up`} and it `
            + `holds ${amps(holds.value)}: it ${resettable ? 'lets go' : 'blows'} although nothing is wrong. `
            + `${fitting
              ? `One of ${amps(fitting)} carries it.`
              : 'No fuse carries this and still blows in a short: the source gives too little beyond what is drawn.'}`,
        }]
      : most > holds.value * STEADY_SHARE && !resettable
        ? [{
            ...common, code: 'fuse.tight' as const, id: `fuse.tight ${node.id}`, severity: 'caution' as const, title: `${node.name} ages`,
            sentence: `${amps(most)} flow through it at peak, more than three quarters of its ${amps(holds.value)}: it ages and blows one `
              + `day without a fault.`,
          }]
        : [],
    ...never
      ? [{
          ...common, code: 'fuse.never-blows' as const, id: `fuse.never-blows ${node.id}`, severity: 'caution' as const,
          title: `${node.name} never blows`,
          sentence: `In a short behind it ${amps(fault)} flow, too little to blow a fuse of ${amps(holds.value)}: the source lets go `
            + `before the fuse does. It protects nothing; `
            + `${fitting ? `one of ${amps(fitting)} would.` : 'rely on the source\'s own limit, or take a source that gives more.'}`,
        }]
      : [],
    ...wire && holds.value > wireMost
      ? [{
          ...common, code: 'fuse.above-wire' as const, id: `fuse.above-wire ${node.id}`, severity: 'stop' as const,
          title: `${node.name} does not protect ${nodeName(wire, power.tree)}`, subjects: [...subjects, nodeSubject(wire)],
          sentence: `${sentenceCase(nodeName(wire, power.tree))} ${verb(wire, 'stands', 'stand')} ${amps(wireMost)} and the fuse before it `
            + `lets ${amps(holds.value)} pass: in a fault the wire burns first. Take a smaller fuse or a thicker wire.`,
        }]
      : [],
  ]
})

/** What a short right behind the node draws, with all resistance on the way. */
function faultMa({ tree }: Power, node: TreeNode, state: PowerState): number {
  const path = pathUp(tree, state, node.id)
  const source = path.find(entry => entry.role === 'source')
  if (!source) return 0
  const ohm = path.reduce((sum, entry) => sum + (entry.kind === 'cable' ? cableOhm(entry) : entry.figures.ohm?.value ?? 0), 0)
  const converter = path.find(entry => entry.figures.setV)
  const limited = converter?.figures.ratedMa?.value ?? (source.unit?.takesBack || source.unit?.kind === 'transformer'
    ? null
    : source.figures.currentMa?.value ?? null)
  return shortMa(
    converter?.figures.setV?.value ?? source.figures.voltageV!.value, ohm, limited === null ? null : limited * ADAPTER_OVERLOAD,
  )
}

/** The thinnest wire that the fuse alone protects: behind it, before the next fuse, converter or rail. */
function thinnestBehind({ tree }: Power, fuse: TreeNode): TreeNode | undefined {
  const found: TreeNode[] = []
  const stack = [fuse]
  const seen = new Set<TreeNode>()
  while (stack.length) {
    const at = stack.pop()!
    if (seen.has(at)) continue
    seen.add(at)
    for (const next of tree.nodes.filter(node => node.from.includes(at.id))) {
      if (next.kind === 'cable') found.push(next)
      if (next.role === 'path' && !next.figures.setV && !next.kind.startsWith('fuse') && next.kind !== 'socket'
        && next.kind !== 'header-input') {
        stack.push(next)
      }
    }
  }
  return found.sort((a, b) => b.figures.awg!.value - a.figures.awg!.value)[0]
}

function otherFuse(items: ReadonlyMap<string, PowerItem>, node: TreeNode, fittingMa: number | null): Fix[] {
  if (fittingMa === null || node.kind !== 'fuse' || node.figures.ratedMa?.value === fittingMa) return []
  const item = [...items.values()].find(entry => entry.kind === 'fuse' && entry.figures.ratedMa === fittingMa)
  return item
    ? [{
        label: `Take ${item.name}`, edits: [{ edit: 'edit-node', id: node.id, changes: { type: item.id, name: item.name, figures: {} } }],
      }]
    : [{ label: `Take a fuse of ${amps(fittingMa)}`, edits: [{ edit: 'set-figure', node: node.id, figure: 'ratedMa', value: fittingMa }] }]
}

/** Converters outside what they take, past what they give, or too hot; rectifiers past their capacitor. */
export const converters: Rule = ({ power }) => power.tree.nodes.flatMap((node): Finding[] => {
  if (!node.figures.setV) return []
  const derived = node.id === '@3V3'
  const worst = power.states.filter(state => state.id !== 'start')
  const highest = Math.max(...power.states.map(state => state.nodes[node.id]!.inputV ?? 0))
  const most = node.figures.mostInV
  const peak = stateNamed(power.states, 'peak')
  const current = flow(peak, node)
  const rated = node.figures.ratedMa
  const wants = wantsV(node)
  // A rectifier's mean hides its valley: that one is judged by the front end's own rule.
  const starved = worst.find((state) => {
    const { inputV = 0, currentMa } = state.nodes[node.id]!
    return currentMa > 0 && inputV < wants - 0.005
  })
  const name = nodeName(node, power.tree)
  const subjects = [nodeSubject(node)]
  const findings: Finding[] = []
  if (most && highest > most.value && !derived) findings.push({
    code: 'converter.over-input', id: `converter.over-input ${node.id}`, severity: 'stop', stages: ['power'],
    title: `${volts(highest)} reach ${name}, which stands ${volts(most.value)}`,
    sentence: `${sentenceCase(name)} stands ${volts(most.value)} at its input and gets ${volts(highest)}: it is destroyed and may pass `
      + `the voltage on. Take one made for it, or a lower source.`,
    subjects, figures: [{ label: 'input', value: v(highest), unit: 'V', ...limitOf(node, 'mostInV') }], fixes: [],
  })
  if (rated && current > rated.value) findings.push({
    code: 'converter.over-current', id: `converter.over-current ${node.id}`, severity: 'stop', stages: ['power'],
    title: `${name} gives ${amps(rated.value)} and is asked for ${amps(current)}`,
    sentence: `At peak ${amps(current)} are asked of ${name}, which gives ${amps(rated.value)}: it limits or switches off. Take a larger `
      + `one, or put some of the loads on another.`,
    subjects, figures: [{ label: 'peak', value: ma(current), unit: 'mA', ...limitOf(node, 'ratedMa') }], fixes: [],
  })
  if (starved && !derived) findings.push({
    code: 'converter.drop-out', id: `converter.drop-out ${node.id}`, severity: 'caution', stages: ['power'],
    title: `${name} gets ${volts(starved.nodes[node.id]!.inputV!)} and wants ${volts(wants)}`,
    sentence: `${starved.label}: ${volts(starved.nodes[node.id]!.inputV!)} at its input, ${volts(wants)} are wanted for `
      + `${volts(node.figures.setV.value)} out: the output falls with the input. Take a higher source, a shorter lead, or a converter `
      + `that needs less above its output.`,
    subjects,
    figures: [{
      label: 'input', value: v(starved.nodes[node.id]!.inputV!), unit: 'V', limit: v(wants),
      origin: node.figures.headroomV?.origin ?? node.figures.leastInV?.origin,
    }],
    fixes: [],
  })
  const heat = power.report.regulators.find(entry => entry.node === node.id)
  if (heat && heat.temperatureC > heat.hottestC) findings.push(tooHot(node, heat, power))
  return findings
})

function tooHot(node: TreeNode, heat: Power['report']['regulators'][number], { states }: Power): Finding {
  const { inputV = 0, voltageV, currentMa } = stateNamed(states, 'peak').nodes[node.id]!
  const linear = node.kind === 'linear'
  return {
    code: 'regulator.too-hot', id: `regulator.too-hot ${node.id}`, severity: 'stop', stages: ['power', 'build'],
    title: `${node.name} gets ${Math.round(heat.temperatureC)} °C`,
    sentence: `It turns ${watts(heat.lossW)} into `
      + `heat${linear ? ` (${volts(inputV)} down to ${volts(voltageV)} at ${amps(currentMa)})` : ''} and warms by ${Math.round(heat.kw)} `
      + `K per watt: ${Math.round(heat.temperatureC)} °C, past its ${heat.hottestC} °C. It switches off or dies, and burns fingers before `
      + `that. ${linear ? 'Take a step-down converter, a lower source, or more copper.' : 'Take a larger converter, or cool it.'}`,
    subjects: [nodeSubject(node)],
    figures: [
      { label: 'temperature', value: Math.round(heat.temperatureC), unit: '°C', limit: heat.hottestC, origin: heat.origin },
      { label: 'heat', value: v(heat.lossW), unit: 'W', origin: 'arithmetic' },
      { label: 'warms by', value: Math.round(heat.kw), unit: 'K/W', origin: 'memory' },
    ],
    fixes: linear && node.own && Math.abs(node.figures.setV!.value - 5) < 0.2
      ? [{
          label: 'Take a step-down converter, 5 V 3 A',
          edits: [{
            edit: 'edit-node', id: node.id, changes: { type: 'step-down-5v-3a', name: 'Step-down converter, 5 V 3 A', figures: {} },
          }],
        }]
      : [],
    worksheet: {
      kind: 'step-down', inputV: v(inputV), outputV: v(voltageV), currentMa: Math.round(currentMa),
      headroomV: node.figures.headroomV?.value ?? 1, efficiency: 0.88, ambientC: Math.round(heat.temperatureC - heat.lossW * heat.kw),
      kw: Math.round(heat.kw), hottestC: heat.hottestC,
    },
  }
}

/** A hub past what it gives, and one that feeds the board through its upstream port. */
export const hubs: Rule = ({ power }) => power.tree.nodes.flatMap((node): Finding[] => {
  if (node.kind !== 'hub') return []
  const back = power.states.map(state => state.nodes[node.id]!.backMa ?? 0).reduce((a, b) => Math.max(a, b), 0)
  const plugged = power.tree.nodes.filter(other => other.from.includes(node.id) && other.role === 'path')
  const ports = node.figures.ports
  const findings: Finding[] = []
  if (back > 1) findings.push({
    code: 'hub.feeds-back', id: `hub.feeds-back ${node.id}`, severity: 'stop', stages: ['power', 'build'],
    title: `${node.name} feeds the board backwards with ${amps(back)}`,
    sentence: `${amps(back)} flow out of the hub's upstream port into the board's USB socket: past the board's input fuse, and into a `
      + `board that is switched off. Parts of it stay alive, and two supplies fight each other. Take a hub that blocks its upstream port, `
      + `or open the supply wire of the upstream cable.`,
    subjects: [nodeSubject(node), { rail: '5V' }],
    figures: [{ label: 'backwards', value: ma(back), unit: 'mA', limit: 0, origin: 'practice' }],
    fixes: [
      { label: 'Open the supply wire of its upstream cable', edits: [{ edit: 'set-figure', node: node.id, figure: 'backOhm', value: 0 }] },
      {
        label: 'Take a hub that blocks its upstream port',
        edits: [{ edit: 'edit-node', id: node.id, changes: { type: 'hub-powered', name: 'USB hub with its own supply', figures: {} } }],
      },
    ],
  })
  if (ports && plugged.length > ports.value) findings.push({
    code: 'hub.ports', id: `hub.ports ${node.id}`, severity: 'stop', stages: ['power', 'parts'],
    title: `${plugged.length} plugs, ${ports.value} ports`,
    sentence: `${node.name} has ${ports.value} ports and the plan puts ${plugged.length} plugs in. Take a larger hub, or leave one in the `
      + `board.`,
    subjects: [nodeSubject(node)], figures: [{ label: 'plugs', value: plugged.length, ...limitOf(node, 'ports') }], fixes: [],
  })
  const peak = stateNamed(power.states, 'peak')
  for (const plug of plugged) {
    const port = node.figures.portMa
    if (port && flow(peak, plug) > port.value) findings.push({
      code: 'hub.port-over', id: `hub.port-over ${plug.id}`, severity: 'caution', stages: ['power'],
      title: `A hub's port gives ${amps(port.value)}`,
      sentence: `${sentenceCase(nodeName(plug, power.tree))} ${verb(plug, 'carries', 'carry')} ${amps(flow(peak, plug))} at peak and a `
        + `port of ${node.name} gives ${amps(port.value)}.`,
      subjects: [nodeSubject(plug)], figures: [{ label: 'peak', value: ma(flow(peak, plug)), unit: 'mA', ...limitOf(node, 'portMa') }],
      fixes: [],
    })
  }
  return findings
})
