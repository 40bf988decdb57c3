/** Supplies with rules of their own: a vehicle, and the network cable. */
import { offeredItem } from '../../catalogue/offered'
import type { PowerItem } from '../../catalogue/types'
import { freeNodeId } from '../../plan/power-edits'
import { capacitorHoldS } from '../../power/front/hold'
import { stateNamed } from '../../power/states'
import { wantsV } from '../../netlist/supply/kinds'
import type { SupplyTree, SupplyNode } from '../../netlist/supply/types'
import type { Evidence, Finding, Fix, Rule } from '../types'
import { limitOf, moment, nodeSubject, seconds, v, volts, watts } from './words'

/**
 * Everything that a source reaches without a converter in between; where a converter or a load ends the way, it
 * is the last.
 */
function reachedBy(tree: SupplyTree, source: SupplyNode): { node: SupplyNode, way: SupplyNode[] }[] {
  const ends: { node: SupplyNode, way: SupplyNode[] }[] = []
  const follow = (node: SupplyNode, way: SupplyNode[]) => {
    for (const next of tree.nodes.filter(other =>
      other.from.includes(node.id) && !way.includes(other) && !other.open)) {
      if (next.role === 'load' || next.figures.setV || next.id === '@5V') ends.push({ node: next, way: [...way, node] })
      else follow(next, [...way, node])
    }
  }
  follow(source, [])
  return ends
}

const before = (node: SupplyNode) => node.id.replace(/@wire$/, '')

/** What lies on a vehicle's supply: does it stand the load dump, and does it go on while the engine is started? */
export const vehicleSupply: Rule = (evidence) => {
  const { power: { tree } } = evidence
  return tree.nodes.filter(node => node.kind === 'vehicle').flatMap(source =>
    reachedBy(tree, source).flatMap(end => [...dump(source, end, evidence), ...crank(source, end, evidence)]))
}

function dump(source: SupplyNode, { node, way }: { node: SupplyNode, way: SupplyNode[] },
  { facts }: Evidence): Finding[] {
  const dumpV = source.figures.dumpV
  const stands = node.figures[node.figures.setV ? 'mostInV' : 'mostV']
  if (!dumpV || !stands) return []
  const reaches = Math.min(dumpV.value,
    ...way.flatMap(entry => entry.figures.clampV ? [entry.figures.clampV.value] : []))
  if (reaches <= stands.value) return []
  const guard = [...facts.catalogue.powerItems.values()].find(item =>
    item.kind === 'guard' && item.figures.clampV! <= stands.value)
  return [{
    code: 'vehicle.dump', id: `vehicle.dump ${node.id}`, severity: 'stop', stages: ['power', 'build'],
    title: `${volts(reaches)} may reach ${node.name}, which stands ${volts(stands.value)}`,
    sentence: `When a vehicle's battery comes off while it is charged, its supply rises to ${volts(reaches)} for some `
      + `tenths of a second; ${node.name} stands ${volts(stands.value)}. Put a surge guard made for vehicles before `
      + 'it, or a converter that stands it.',
    subjects: [nodeSubject(node), nodeSubject(source)],
    figures: [{ label: 'load dump', value: v(reaches), unit: 'V', limit: stands.value, origin: dumpV.origin }],
    fixes: guard ? [insert(evidenceId(facts), guard, node)] : [],
  }]
}

const evidenceId = (facts: Evidence['facts']) => freeNodeId(facts.plan.power, 'guard')

const insert = (id: string, item: PowerItem, node: SupplyNode) => ({
  label: `Put ${item.name} before it`,
  edits: [{ edit: 'add-node' as const, node: { id, type: item.id, name: item.name, from: node.from[0]! },
    before: before(node) }],
})

function crank(source: SupplyNode, { node, way }: { node: SupplyNode, way: SupplyNode[] },
  { facts, power }: Evidence): Finding[] {
  const crankV = source.figures.crankV
  const typical = stateNamed(power.states, 'typical')
  const figures = typical.nodes[node.id]!
  if (!crankV || figures.currentMa <= 0) return []
  const wants = node.figures.setV ? wantsV(node) : node.figures.leastV?.value ?? 0
  const restV = source.figures.crankRestV?.value ?? crankV.value
  const lasts = source.figures.crankS?.value ?? 0
  if (crankV.value >= wants) return []
  // Through the short dip a capacitor behind a diode may hold; through the seconds after it only what still works then.
  const capacitor = way.find(entry => entry.kind === 'capacitor')
  const diode = way.find(entry => entry.kind === 'diode' || entry.kind === 'ideal-diode')
  const powerW = (figures.inputV ?? figures.voltageV) * figures.currentMa / 1000
  const holds = capacitor && diode && restV >= wants
    ? capacitorHoldS(capacitor.figures.capacitanceF!.value, typical.nodes[capacitor.id]!.voltageV, wants, powerW,
        capacitor.figures.ohm?.value)
    : 0
  if (holds >= lasts && holds > 0) return []
  const item = offeredItem(facts.catalogue, 'step-up-down')
  const fits = item && node.own && node.figures.setV && Math.abs(node.figures.setV.value - item.figures.setV!) < 0.2
    && Math.abs(stateNamed(power.states, 'peak').nodes[node.id]!.currentMa) <= item.figures.ratedMa!
  return [{
    code: 'vehicle.crank', id: `vehicle.crank ${node.id}`, severity: 'caution', stages: ['power'],
    title: `${volts(crankV.value)} while the engine is started; ${node.name} wants ${volts(wants)}`,
    sentence: `Starting the engine pulls the vehicle's supply down to ${volts(crankV.value)} for ${moment(lasts)} and `
      + `to ${volts(restV)} for seconds after: ${node.name} wants ${volts(wants)}, and what hangs on it restarts. Take `
      + 'a converter that also steps up, or a battery of its '
      + `own.${holds > 0 ? ` The capacitor holds it ${seconds(holds)}.` : ''}`,
    subjects: [nodeSubject(node), nodeSubject(source)],
    figures: [{ label: 'while starting', value: v(crankV.value), unit: 'V', limit: v(wants), origin: crankV.origin }],
    fixes: fits
      ? [{
          label: `Take ${item.name}`,
          edits: [{ edit: 'edit-node', id: node.id, changes: { type: item.id, name: item.name, figures: {} } }],
        }]
      : [],
  }]
}

/** More taken at the end of a network cable than its class allows: the switch turns the port off. */
export const networkClass: Rule = ({ facts, power: { tree, states } }) =>
  tree.nodes.filter(node => node.kind === 'network-cable').flatMap((source): Finding[] => {
    const limit = source.figures.classW
    if (!limit) return []
    const lead = tree.byId.get(source.id === '@supply' ? '@cable' : `${source.id}@lead`) ?? source
    const { voltageV, currentMa } = stateNamed(states, 'peak').nodes[lead.id]!
    const takenW = voltageV * currentMa / 1000
    if (takenW <= limit.value) return []
    return [{
      code: 'network.class', id: `network.class ${source.id}`, severity: 'stop', stages: ['power'],
      title: `${watts(takenW)} are taken where the class allows ${watts(limit.value)}`,
      sentence: `At peak ${watts(takenW)} are taken at the end of the network cable; the class allows `
        + `${watts(limit.value)}, and past it the switch turns its port off. Take a port and a splitter of a higher `
        + 'class, or feed a part from elsewhere.',
      subjects: [nodeSubject(source)],
      figures: [{ label: 'at the end of the cable', value: v(takenW), unit: 'W', ...limitOf(source, 'classW') }],
      fixes: higherClass(source, takenW, { facts, tree }),
    }]
  })

/** A port of a class that allows it, with a splitter that gives as much as the present one is asked for. */
function higherClass(source: SupplyNode, takenW: number,
  { facts, tree }: { facts: Evidence['facts'], tree: SupplyTree }): Fix[] {
  const unit = [...facts.catalogue.supplies.values()].filter(entry =>
    entry.kind === 'network-cable' && (entry.classW ?? 0) >= takenW)
    .sort((a, b) => (a.price ?? 0) - (b.price ?? 0))[0]
  if (!unit) return []
  const splitter = reachedBy(tree, source).map(end => end.node).find(node => node.own && node.figures.setV)
  const asked = splitter ? takenW / splitter.figures.setV!.value * 1000 * 0.9 : 0
  const item = splitter && asked > (splitter.figures.ratedMa?.value ?? Infinity) * 0.9
    ? [...facts.catalogue.powerItems.values()].find(entry => entry.kind === splitter.kind
      && entry.figures.ratedMa! > asked * 1.1
      && Math.abs(entry.figures.setV! - splitter.figures.setV!.value) < 0.1
      && entry.figures.mostInV! >= (splitter.figures.mostInV?.value ?? 0))
    : undefined
  return [{
    label: `Take ${unit.name}${item ? ` and ${item.name}` : ''}`,
    edits: [
      source.own
        ? { edit: 'edit-node', id: source.id, changes: { type: unit.id, name: unit.name, figures: {} } }
        : { edit: 'choose-supply', supply: { type: unit.id } },
      ...item
        ? [{ edit: 'edit-node' as const, id: splitter!.id,
            changes: { type: item.id, name: item.name, figures: {} } }]
        : [],
    ],
  }]
}
