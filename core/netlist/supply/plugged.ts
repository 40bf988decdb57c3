/**
 * What is plugged into the board's USB sockets and into a hub: parts' plugs, cables, hubs and loads of the maker's own.
 */
import { isMet } from '../../facts/conditions'
import type { ResolvedPart } from '../../facts/types'
import type { NodeRef } from '../../plan/power'
import type { SupplyTree, SupplyNode } from './types'

/**
 * Nodes whose plug goes into a USB rail or a hub; a hub fed elsewhere hangs on it by its data plug. In the
 * order of the tree.
 */
export const pluggedInto = (tree: SupplyTree, into: NodeRef): SupplyNode[] => tree.nodes.filter(node =>
  node.id !== into && (node.upstream === into
    || (node.from.includes(into) && node.role !== 'joint' && !node.id.startsWith('@'))))

/** Whether a part's USB plug is in the board itself; a part that takes no supply from its plug always has it there. */
export function plugsIntoBoard(tree: SupplyTree, partId: string, usbTerminals: readonly string[]): boolean {
  const wires = usbTerminals.map(terminal => tree.byId.get(`${partId}.${terminal}@wire`))
    .filter(wire => wire !== undefined)
  return !wires.length || wires.some(wire => tree.byId.get(wire.from[0] ?? '')?.kind !== 'hub')
}

/** Plugs that a part has with its present options. */
export const plugsOf = ({ part, options }: ResolvedPart) => (part.plugs ?? []).filter(plug => isMet(plug.when, options))

/** A part's plugs that are in the board itself; one that hangs on a hub takes none of its USB sockets. */
export const boardPlugs = (owner: ResolvedPart, tree: SupplyTree) =>
  plugsIntoBoard(tree, owner.id, owner.supplies.filter(supply => supply.from === 'usb').map(supply => supply.id))
    ? plugsOf(owner)
    : plugsOf(owner).filter(({ socket }) => socket !== 'usb')
