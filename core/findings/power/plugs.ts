/** Plugs that do not fit the board's power socket. */
import { freeNodeId } from '../../plan/power-edits'
import type { Lead, SupplyUnit } from '../../catalogue/types'
import { stateNamed } from '../../power/states'
import type { PowerState } from '../../power/states'
import type { SupplyNode } from '../../netlist/supply/types'
import type { Evidence, Finding, Fix, Rule } from '../types'
import { BURNS_SHARE } from './paths'
import { waysOut, type Solved, type PowerFix } from './ways'
import { nodeSubject, volts } from './words'

const WORDS: Readonly<Record<Lead['plug'], string>> = {
  'micro-usb': 'a micro-USB plug', 'usb-c': 'a USB-C plug', 'round': 'a round plug', 'screw': 'bare wires',
}
const SHORT: Readonly<Record<Lead['plug'], string>> = {
  'micro-usb': 'micro-USB', 'usb-c': 'USB-C', 'round': 'round', 'screw': 'bare wires',
}
const SOCKETS: Readonly<Record<string, string>> = { 'micro-usb': 'a micro-USB socket', 'usb-c': 'a USB-C socket' }

/** The unit whose lead ends at the board's socket with nothing between. */
function leadAtSocket({ facts,
  power: { tree } }: Evidence): { unit: SupplyUnit, source: SupplyNode, plug: Lead['plug'] } | null {
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
    code: 'plug.does-not-fit', id: 'plug.does-not-fit @socket', severity: end.plug === 'screw' ? 'note' : 'caution',
    stages: ['power', 'board', 'build'],
    title: end.plug === 'screw'
      ? `${end.source.name} has no plug for the board`
      : `The plug of ${end.source.name} does not fit the board`,
    sentence: `The supply's lead ends in ${WORDS[end.plug]}, and the board has ${SOCKETS[socket]}. `
      + `${end.plug === 'screw'
        ? 'Put a plug on it, mind its poles, or lead it to the header behind a fuse of your own.'
        : 'Take a supply with the right plug, or an adapter plug between, which takes a little of the voltage.'}`,
    subjects: [nodeSubject(end.source), { node: '@socket' }, { node: '@board' }],
    figures: [{ label: 'plug', value: SHORT[end.plug], limit: SHORT[socket as Lead['plug']],
      origin: 'supply and board files' }],
    fixes: plugFixes(evidence, end.unit, socket, end.plug),
  }]
}

/** It says that the supply's plug and the board's socket do not go together. */
export const isWrongPlug = ({ code }: Pick<Finding, 'code'>): boolean => code === 'plug.does-not-fit'

/** Things past what they carry, a board that reports under-voltage, and states without an operating point. */
const troublesOf = ({ tree, states }: Solved): number => {
  const signV = tree.byId.get('@board')?.figures.signV?.value ?? 0
  const rated = tree.nodes.filter(node => node.figures.ratedMa)
  const past = (state: PowerState, share: number) =>
    rated.filter(node => Math.abs(state.nodes[node.id]!.currentMa) > node.figures.ratedMa!.value * share).length
  return states.filter(state => state.id === 'typical' || state.id === 'peak').reduce((sum, state) =>
    sum + (state.ok ? 0 : 100) + (state.nodes['@5V']!.voltageV < signV ? 1 : 0) + past(state, 1)
    + past(state, BURNS_SHARE), 0)
}

/** Supplies with the right plug, and what goes between; each tried, so that it makes nothing worse. */
function plugFixes({ facts, power }: Evidence, unit: SupplyUnit, socket: string, plug: Lead['plug']): Fix[] {
  const { tree } = power
  const piece = facts.catalogue.powerItems.get(plug === 'screw' ? `plug-${socket}` : `adapter-plug-${socket}`)
  const before = troublesOf(power)
  const ways = (): PowerFix[] => [
    ...facts.supply === unit && (unit.kind === 'adapter' || unit.kind === 'usb-port')
      ? fitting(facts, unit, socket)
      : [],
    ...piece
      ? [{
          label: `Put ${piece.name} between`, price: piece.price ?? 0,
          edits: [{
            edit: 'add-node' as const,
            node: { id: freeNodeId(facts.plan.power, 'plug'), type: piece.id, name: piece.name,
              from: tree.byId.get('@socket')!.from[0]! },
            before: '@socket',
          }],
        }]
      : [],
  ]
  return waysOut({ facts, power }, 'plug.does-not-fit', ways, ['typical', 'peak'], solved =>
    ({
      enough: true, figure: `${volts(stateNamed(solved.states, 'peak').nodes['@5V']!.voltageV)} on the rail at peak`,
      gain: before - troublesOf(solved) + 0.5,
    }))
}

/** The smallest supply of its voltage with the right plug that gives as much. */
const fitting = ({ catalogue }: Evidence['facts'], unit: SupplyUnit,
  socket: string): PowerFix[] => [...catalogue.supplies.values()]
  .filter(other =>
    other.cable?.plug === socket && (other.kind === 'adapter' || other.kind === unit.kind)
    && other.currentMa >= unit.currentMa
    && Math.abs(other.voltageV - unit.voltageV) < 0.3)
  .sort((a, b) => a.currentMa - b.currentMa || (a.price ?? 0) - (b.price ?? 0)).slice(0, 1)
  .map(other => ({ label: `Take ${other.name}`, price: other.price ?? 0,
    edits: [{ edit: 'choose-supply', supply: { type: other.id } }] }))
