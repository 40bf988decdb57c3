/** What stands between sources and loads: wires, contacts, converters. */
import { offeredItem } from '../../catalogue/offered'
import type { Facts } from '../../facts/types'
import type { Power } from '../../power/report'
import type { PowerItem } from '../../catalogue/types'
import { stateNamed } from '../../power/states'
import { wantsV } from '../../netlist/supply/kinds'
import { pathUp } from '../../power/shares'
import type { SupplyNode } from '../../netlist/supply/types'
import { DENSITY, wireMostMa } from '../../netlist/copper'
import type { Finding, Fix, Rule } from '../types'
import { betterLead, hubOwnSupply, lowerClock, ownHub, ownSupply, pastTheBoard } from './candidates'
import { waysOut } from './ways'
import { amps, flow, limitOf, ma, nodeName, nodeSubject, sentenceCase, v, verb, volts, watts } from './words'
import { wireSheet } from './voltages'

/** Past its rating by this much a contact or a wire burns; below it ages. practice */
export const BURNS_SHARE = 1.2

/**
 * A header position, a plug, a switch or a wire that carries more than it may. Peak is judged: contacts do not wait.
 */
export const overRating: Rule = ({ facts, power }) => power.tree.nodes.flatMap((node): Finding[] => {
  if (node.role !== 'path'
    || ['fuse', 'fuse-resettable', 'linear', 'step-down', 'step-up'].includes(node.kind)) return []
  const peak = stateNamed(power.states, 'peak')
  const current = flow(peak, node)
  const wire = node.kind === 'cable'
  const max = wire
    ? wireMostMa(node.figures.awg?.value ?? 24,
        node.figures.bundledPairs?.value ?? 1)
    : node.figures.ratedMa?.value
  if (max === undefined || current <= max) return []
  const carried = power.tree.nodes.filter(other =>
    other.role === 'load' && pathUp(power.tree, peak, other.id).includes(node))
  const largest = [...carried].sort((a, b) => flow(peak, b) - flow(peak, a))[0]
  return [{
    code: 'path.over-rating', id: `path.over-rating ${node.id}`,
    severity: current > max * BURNS_SHARE ? 'stop' : 'caution',
    stages: ['power', 'wiring'],
    title: `${sentenceCase(nodeName(node, power.tree))} ${verb(node, 'carries', 'carry')} ${amps(current)} and `
      + `${verb(node, 'stands', 'stand')} ${amps(max)}`,
    sentence: `At peak ${amps(current)} flow through ${nodeName(node, power.tree)}; ${verb(node, 'it stands', 'they stand')} `
      + `${amps(max)}: ${verb(node, 'it gets', 'they get')} hot, and `
      + `${current > max * BURNS_SHARE ? 'the contact or the insulation burns' : verb(node, 'it does not last', 'they do not last')}. `
      + `${wire
        ? 'Take a thicker wire.'
        : node.kind === 'position'
          ? 'Spread the loads over several positions, or feed the largest past the board.'
          : 'Take one with a higher rating, or feed part of it another way.'}`,
    subjects: [nodeSubject(node), ...largest ? [nodeSubject(largest)] : []],
    figures: [{
      label: 'peak', value: ma(current), unit: 'mA', ...wire
        ? { limit: ma(max),
            origin: `${DENSITY.origin}: ${DENSITY.maPerMm2 / 1000} A per mm² in open air, less in a bundle` }
        : limitOf(node, 'ratedMa'),
    }],
    fixes: waysOut({ facts, power }, `path.over-rating ${node.id}`, () => [
      ...betterLead(node),
      ...largest ? [...pastTheBoard(power.tree, largest), ...ownSupply(facts, power.tree, largest)] : [],
      ...node.kind === 'hub' || node.id === '@usb' ? hubOwnSupply(facts, power.tree) : [],
      ...node.kind === 'socket'
        ? [...ownHub(facts, power.tree), ...largest?.kind === 'board' ? lowerClock(facts) : []]
        : [],
    ], ['peak'], ({ tree, states }) => {
      const now = tree.byId.get(node.id)
      const flows = now ? flow(stateNamed(states, 'peak'), now) : 0
      const stands = now && wire
        ? wireMostMa(now.figures.awg!.value, now.figures.bundledPairs?.value ?? 1)
        : now?.figures.ratedMa?.value ?? max
      return { enough: flows <= stands, figure: `${amps(flows)} of ${amps(stands)}`,
        gain: current / max - flows / stands - 0.01 }
    }),
    ...wire && { worksheet: wireSheet(node, peak, 4.75, power) },
  }]
})

/** Converters outside what they take, past what they give, or too hot; rectifiers past their capacitor. */
export const converters: Rule = ({ facts, power }) => power.tree.nodes.flatMap((node): Finding[] => {
  if (!node.figures.setV) return []
  const derived = node.id === '@3V3'
  const worst = power.states.filter(state => state.id !== 'start')
  const highest = Math.max(...power.states.map(state => state.nodes[node.id]!.inputV ?? 0))
  const max = node.figures.mostInV
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
  if (max && highest > max.value && !derived) findings.push({
    code: 'converter.over-input', id: `converter.over-input ${node.id}`, severity: 'stop', stages: ['power'],
    title: `${volts(highest)} reach ${name}, which stands ${volts(max.value)}`,
    sentence: `${sentenceCase(name)} stands ${volts(max.value)} at its input and gets ${volts(highest)}: it is `
      + 'destroyed and may pass the voltage on. Take one made for it, or a lower source.',
    subjects, figures: [{ label: 'input', value: v(highest), unit: 'V', ...limitOf(node, 'mostInV') }], fixes: [],
  })
  if (rated && current > rated.value) findings.push({
    code: 'converter.over-current', id: `converter.over-current ${node.id}`, severity: 'stop', stages: ['power'],
    title: `${name} gives ${amps(rated.value)} and is asked for ${amps(current)}`,
    sentence: `At peak ${amps(current)} are asked of ${name}, which gives ${amps(rated.value)}: it limits or switches `
      + 'off. Take a larger one, or put some of the loads on another.',
    subjects, figures: [{ label: 'peak', value: ma(current), unit: 'mA', ...limitOf(node, 'ratedMa') }],
    fixes: largerConverter(facts.catalogue.powerItems, node, current, highest),
  })
  if (starved && !derived) findings.push({
    code: 'converter.drop-out', id: `converter.drop-out ${node.id}`, severity: 'caution', stages: ['power'],
    title: `${name} gets ${volts(starved.nodes[node.id]!.inputV!)} and wants ${volts(wants)}`,
    sentence: `${starved.label}: ${volts(starved.nodes[node.id]!.inputV!)} at its input, ${volts(wants)} are wanted `
      + `for ${volts(node.figures.setV.value)} out: the output falls with the input. Take a higher source, a shorter `
      + 'lead, or a converter that needs less above its output.',
    subjects,
    figures: [{
      label: 'input', value: v(starved.nodes[node.id]!.inputV!), unit: 'V', limit: v(wants),
      origin: node.figures.headroomV?.origin ?? node.figures.leastInV?.origin,
    }],
    fixes: [],
  })
  const heat = power.report.regulators.find(entry => entry.node === node.id)
  if (heat && heat.temperatureC > heat.hottestC) findings.push(tooHot(node, heat, power, facts.catalogue))
  return findings
})

/** A converter of the same kind and voltage that gives as much and stands the same input; the cheapest. */
function largerConverter(items: ReadonlyMap<string, PowerItem>, node: SupplyNode, currentMa: number,
  inputV: number): Fix[] {
  if (!node.own) return []
  const wants = wantsV(node)
  return [...items.values()]
    .filter(({ kind, figures }) => kind === node.kind && figures.ratedMa! >= currentMa * 1.05
      && Math.abs(figures.setV! - node.figures.setV!.value) < 0.15 && (figures.mostInV ?? 0) >= inputV
      && Math.max(figures.leastInV ?? 0, figures.setV! + (figures.headroomV ?? 0)) <= Math.max(wants, inputV * 0.95))
    .sort((a, b) => (a.price ?? 0) - (b.price ?? 0)).slice(0, 1)
    .map(item => ({
      label: `Take ${item.name}`,
      edits: [{ edit: 'edit-node', id: node.id, changes: { type: item.id, name: item.name, figures: {} } }],
    }))
}

function tooHot(node: SupplyNode, heat: Power['report']['regulators'][number], { states }: Power,
  catalogue: Facts['catalogue']): Finding {
  const item = offeredItem(catalogue, 'step-down')
  const { inputV = 0, voltageV, currentMa } = stateNamed(states, 'peak').nodes[node.id]!
  const linear = node.kind === 'linear'
  return {
    code: 'regulator.too-hot', id: `regulator.too-hot ${node.id}`, severity: 'stop', stages: ['power', 'build'],
    title: `${node.name} gets ${Math.round(heat.temperatureC)} °C`,
    sentence: `It turns ${watts(heat.lossW)} into `
      + `heat${linear ? ` (${volts(inputV)} down to ${volts(voltageV)} at ${amps(currentMa)})` : ''} and warms by `
      + `${Math.round(heat.kw)} K per watt: ${Math.round(heat.temperatureC)} °C, past its ${heat.hottestC} °C. It `
      + 'switches off or dies, and burns fingers before that. '
      + `${linear ? 'Take a step-down converter, a lower source, or more copper.' : 'Take a larger converter, or cool it.'}`,
    subjects: [nodeSubject(node)],
    figures: [
      { label: 'temperature', value: Math.round(heat.temperatureC), unit: '°C', ...limitOf(node, 'hottestC') },
      { label: 'heat', value: v(heat.lossW), unit: 'W', origin: 'arithmetic' },
      { label: 'warms by', value: Math.round(heat.kw), unit: 'K/W', origin: heat.kwOrigin },
      { label: 'air around it', value: Math.round(heat.airC), unit: '°C',
        origin: 'textbook: the case warms with all heat inside' },
    ],
    fixes: item && linear && node.own && Math.abs(node.figures.setV!.value - 5) < 0.2
      ? [{
          label: `Take a ${item.name.charAt(0).toLowerCase()}${item.name.slice(1)}`,
          edits: [{ edit: 'edit-node', id: node.id, changes: { type: item.id, name: item.name, figures: {} } }],
        }]
      : [],
    worksheet: {
      kind: 'step-down', node: node.id, inputV: v(inputV), outputV: v(voltageV), currentMa: Math.round(currentMa),
      headroomV: node.figures.headroomV?.value ?? 1, efficiency: 0.88,
      ambientC: Math.round(heat.temperatureC - heat.lossW * heat.kw),
      kw: Math.round(heat.kw), hottestC: heat.hottestC,
    },
  }
}
