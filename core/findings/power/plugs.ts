/** Plugs that do not fit the board's power socket. */
import { freeNodeId } from '../../plan/power-edits'
import type { Lead, SupplyUnit } from '../../catalogue/types'
import type { TreeNode } from '../../netlist/supply/types'
import type { Evidence, Finding, Fix, Rule } from '../types'
import { nodeSubject } from './words'

const WORDS: Readonly<Record<Lead['plug'], string>> = { 'micro-usb': 'a micro-USB plug', 'usb-c': 'a USB-C plug', 'round': 'a round plug', 'screw': 'bare wires' }
const SOCKETS: Readonly<Record<string, string>> = { 'micro-usb': 'a micro-USB socket', 'usb-c': 'a USB-C socket' }

/** The unit whose lead ends at the board's socket with nothing between. */
function leadAtSocket({ facts, power: { tree } }: Evidence): { unit: SupplyUnit, source: TreeNode, plug: Lead['plug'] } | null {
  const lead = tree.byId.get(tree.byId.get('@socket')?.from[0] ?? '')
  const source = lead?.kind === 'cable' ? tree.byId.get(lead.from[0] ?? '') : lead
  const unit = source?.id === '@supply' ? facts.supply : source?.unit
  return unit?.cable && source && lead?.kind === 'cable' && !lead.own ? { unit, source, plug: unit.cable.plug } : null
}

/** The plug at the end of the board's supply against the socket that the board has. */
export const plugAtSocket: Rule = (evidence) => {
  const { facts } = evidence
  const socket = facts.board?.signs.power
  const end = leadAtSocket(evidence)
  if (!socket || !end || !Object.hasOwn(SOCKETS, socket) || end.plug === socket) return []
  return [{
    code: 'plug.does-not-fit', id: 'plug.does-not-fit @socket', severity: end.plug === 'screw' ? 'note' : 'caution', stages: ['power', 'board', 'build'],
    title: end.plug === 'screw' ? `${end.source.name} has no plug for the board` : `The plug of ${end.source.name} does not fit the board`,
    sentence: `The supply's lead ends in ${WORDS[end.plug]}, and the board has ${SOCKETS[socket]}. ${end.plug === 'screw' ? 'Put a plug on it, mind its poles, or lead it to the header behind a fuse of your own.' : 'Take a supply with the right plug, or an adapter plug between, which takes a little of the voltage.'}`,
    subjects: [nodeSubject(end.source), { node: '@socket' }, { node: '@board' }], figures: [{ label: 'plug', value: end.plug, limit: socket, origin: 'supply and board files' }],
    fixes: plugFixes(evidence, end.unit, socket, end.plug),
  }]
}

function plugFixes({ facts, power: { tree } }: Evidence, unit: SupplyUnit, socket: string, plug: Lead['plug']): Fix[] {
  const others = tree.byId.get('@supply') && facts.supply === unit && (unit.kind === 'adapter' || unit.kind === 'usb-port')
    ? [...facts.catalogue.supplies.values()]
        .filter(other => other.cable?.plug === socket && (other.kind === 'adapter' || other.kind === unit.kind) && other.currentMa >= unit.currentMa && Math.abs(other.voltageV - unit.voltageV) < 0.3)
        .sort((a, b) => a.currentMa - b.currentMa || (a.price ?? 0) - (b.price ?? 0)).slice(0, 1)
    : []
  const piece = facts.catalogue.powerItems.get(plug === 'screw' ? `plug-${socket}` : `adapter-plug-${socket}`)
  const from = tree.byId.get('@socket')!.from[0]!
  return [
    ...others.map((other): Fix => ({ label: `Take ${other.name}`, edits: [{ edit: 'choose-supply', supply: { type: other.id } }] })),
    ...piece ? [{ label: `Put ${piece.name} between`, edits: [{ edit: 'add-node' as const, node: { id: freeNodeId(facts.plan.power, 'plug'), type: piece.id, name: piece.name, from }, before: '@socket' }] }] : [],
  ] satisfies Finding['fixes']
}
