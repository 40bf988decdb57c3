/** Hubs: past what they give, plug by plug, and feeding backwards into the board. */
import { offeredItem } from '../../catalogue/offered'
import type { Facts } from '../../facts/types'
import type { Power } from '../../power/report'
import { solveStates, stateNamed, stateSpecs } from '../../power/states'
import type { Evidence, Finding, Rule } from '../types'
import type { SupplyNode } from '../../netlist/supply/types'
import { pluggedInto } from '../../netlist/supply/plugged'
import { amps, flow, limitOf, ma, nodeName, nodeSubject, sentenceCase, verb, volts } from './words'

/** Below this no harm is done: leakage. In mA. */
const LEAKS_MA = 1

interface BackFlow { ma: number, /** With the board's own supply off. */ off: boolean, railV: number }

/**
 * The largest current out of a hub's upstream port, with the board's supply on and off. Null for a hub that blocks it.
 */
function backFlow({ facts, power: { tree, states } }: Evidence, hub: SupplyNode): BackFlow | null {
  if (!((hub.figures.backOhm?.value ?? 0) > 0) || !hub.upstream) return null
  const on = states.map(state => ({ ma: state.nodes[hub.id]!.backMa ?? 0, off: false,
    railV: state.nodes['@5V']?.voltageV ?? 0 }))
  // Everything that feeds the board but by way of this hub is switched off.
  const ways = ['@socket', '@header'].filter(way => tree.byId.has(way))
  const idle = stateSpecs(facts.plan.power).filter(spec => spec.id === 'idle')
    .map(spec => ({ ...spec, setting: { ...spec.setting, open: ways } }))
  const off = ways.length
    ? solveStates(tree, idle)
        .map(state => ({ ma: state.nodes[hub.id]!.backMa ?? 0, off: true, railV: state.nodes['@5V']?.voltageV ?? 0 }))
    : []
  return [...on, ...off].reduce((worst, flow) => flow.ma > worst.ma ? flow : worst)
}

/**
 * A hub past what it gives, and one that feeds the board through its upstream port: while the board runs, or when
 * it is off.
 */
export const hubs: Rule = evidence => evidence.power.tree.nodes.flatMap((node): Finding[] => {
  if (node.kind !== 'hub') return []
  const { power } = evidence
  const back = backFlow(evidence, node)
  const plugged = pluggedInto(power.tree, node.id)
  const ports = node.figures.ports
  return [
    ...back && back.ma > LEAKS_MA ? [feedsBack(node, back, evidence.facts.catalogue)] : [],
    ...ports && plugged.length > ports.value
      ? [{
          code: 'hub.ports' as const, id: `hub.ports ${node.id}`, severity: 'stop' as const,
          stages: ['power' as const, 'parts' as const],
          title: `${plugged.length} plugs, ${ports.value} ports`,
          sentence: `${node.name} has ${ports.value} ports and the plan puts ${plugged.length} plugs in. Take a larger `
            + 'hub, or leave one in the board.',
          subjects: [nodeSubject(node)],
          figures: [{ label: 'plugs', value: plugged.length, ...limitOf(node, 'ports') }], fixes: [],
        }]
      : [],
    ...plugged.flatMap((plug, i) => portOver(node, plug, i + 1, power)),
  ]
})

function feedsBack(node: SupplyNode, { ma: back, off, railV }: BackFlow, catalogue: Facts['catalogue']): Finding {
  const item = offeredItem(catalogue, 'hub')
  return {
    code: 'hub.feeds-back', id: `hub.feeds-back ${node.id}`, severity: 'stop', stages: ['power', 'build'],
    title: off ? `${node.name} feeds the board while it is off` : `${node.name} feeds the board backwards with ${amps(back)}`,
    sentence: off
      ? `With the board's own supply off, ${amps(back)} flow out of the hub's upstream port into the board's USB `
      + `socket and hold its rail at ${volts(railV)}: it does not go off, parts of it stay alive, and the next start `
      + 'fails. Take a hub that blocks its upstream port, or open the supply wire of the upstream cable.'
      : `${amps(back)} flow out of the hub's upstream port into the board's USB socket: past the board's input fuse, `
        + 'and into a board that is switched off. Parts of it stay alive, and two supplies fight each other. Take a '
        + 'hub that blocks its upstream port, or open the supply wire of the upstream cable.',
    subjects: [nodeSubject(node), { rail: '5V' }],
    figures: [{ label: off ? 'backwards, board off' : 'backwards', value: ma(back), unit: 'mA', limit: 0,
      origin: 'practice' }],
    fixes: [
      { label: 'Open the supply wire of its upstream cable',
        edits: [{ edit: 'set-figure', node: node.id, figure: 'backOhm', value: 0 }] },
      ...item
        ? [{
            label: 'Take a hub that blocks its upstream port',
            edits: [{ edit: 'edit-node' as const, id: node.id,
              changes: { type: item.id, name: item.name, figures: {} } }],
          }]
        : [],
    ],
  }
}

function portOver(hub: SupplyNode, plug: SupplyNode, number: number, power: Power): Finding[] {
  const port = hub.figures.portMa
  const current = flow(stateNamed(power.states, 'peak'), plug)
  if (!port || current <= port.value) return []
  const what = plug.role === 'load' ? plug.name : nodeName(plug, power.tree)
  return [{
    code: 'hub.port-over', id: `hub.port-over ${plug.id}`, severity: 'caution', stages: ['power'],
    title: `Port ${number} of ${hub.name} gives ${amps(port.value)}`,
    sentence: `${sentenceCase(what)} ${plug.role === 'load' ? 'takes' : verb(plug, 'carries', 'carry')} `
      + `${amps(current)} at peak and a port of ${hub.name} gives ${amps(port.value)}: it switches that port off. Feed `
      + 'it from a supply of its own.',
    subjects: [nodeSubject(plug), nodeSubject(hub)],
    figures: [{ label: 'peak', value: ma(current), unit: 'mA', ...limitOf(hub, 'portMa') }],
    fixes: [],
  }]
}
