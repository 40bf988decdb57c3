/**
 * A rail that one supply holds by itself and another reaches through a diode: the first gets the other's voltage
 * pushed into it.
 */
import { offeredItem } from '../../catalogue/offered'
import type { SupplyNode } from '../../netlist/supply/types'
import { freeNodeId } from '../../plan/power-edits'
import type { Finding, Rule } from '../types'
import { conductingGroups, rootsOf, sourcesByGroup } from './groups'
import { nodeSubject } from './words'

const NOT_TAKEN: Readonly<Partial<Record<SupplyNode['kind'], string>>> = {
  'lithium': 'The cell is charged with nothing to end it: it can catch fire.',
  'lead': 'The battery is charged with nothing to end it: it gasses.',
  'usb-port': 'A computer\'s port is no place to push current into: it may be damaged.',
  'internal-usb': 'A computer\'s port is no place to push current into: it may be damaged.',
}

/** What is fed through a diode onto a rail that another supply holds without one. */
export const backFed: Rule = ({ facts, power: { tree } }) => {
  const diodes = tree.nodes.filter(node => !node.open && (node.kind === 'diode' || node.kind === 'ideal-diode'))
  if (!diodes.length) return []
  const groups = conductingGroups(tree)
  return [...sourcesByGroup(tree, groups)].flatMap(([group, sources]): Finding[] => {
    const [held] = sources
    if (sources.length !== 1 || !held) return []
    const through = diodes.find(node =>
      groups.get(node.output ?? '') === group && groups.get(node.input ?? '') !== group
      && [...rootsOf(tree, node.id)].some(root => root !== held.id))
    if (!through) return []
    const other = tree.byId.get([...rootsOf(tree, through.id)].find(root => root !== held.id)!)!
    const harm = NOT_TAKEN[held.kind]
    let lead: string
    if (held.id === '@supply' && tree.byId.has('@cable')) lead = '@cable'
    else lead = tree.byId.has(`${held.id}@lead`)
      ? `${held.id}@lead`
      : held.id
    const consumers = tree.nodes.filter(node => node.from.includes(lead) && node.id !== lead)
    const diode = offeredItem(facts.catalogue, 'diode')
    return [{
      code: 'rail.back-fed', id: `rail.back-fed ${held.id}`, severity: harm ? 'stop' : 'caution',
      stages: ['power', 'build'],
      title: `${other.name} pushes into ${held.name}`,
      sentence: `${through.name} keeps ${held.name} out of ${other.name}, and nothing keeps ${other.name} out of `
        + `${held.name}: whenever ${held.name} gives less, or is switched off, the other's voltage lies on its output. `
        + `${harm ?? 'Some supplies stand that and some do not.'} Put a diode behind each of the two.`,
      subjects: [nodeSubject(held), nodeSubject(other), nodeSubject(through)],
      figures: [{ label: 'diodes', value: 1, limit: 2, origin: 'practice' }],
      fixes: diode && consumers.length === 1
        ? [{
            label: `Put ${diode.name} behind ${held.name} too`,
            edits: [{
              edit: 'add-node', node: { id: freeNodeId(facts.plan.power, 'diode'), type: diode.id, name: diode.name,
                from: lead },
              before: consumers[0]!.id.replace(/@wire$/, ''),
            }],
          }]
        : [],
    }]
  })
}
