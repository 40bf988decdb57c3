/** The power tree: every node that gives, passes on or takes, with its figures and where each comes from. */
import type { EfficiencyPoint, LoadLaw, Origin, PowerItem, SupplyUnit } from '../../catalogue/types'
import type { Join, NodeRef } from '../../plan/power'
import type { NodeKind, NodeRole } from './kinds'

/** Name of a joint: what several nodes give to or take from. */
export type Joint = string

export interface NodeFigure {
  value: number
  origin: Origin
}

export interface SupplyNode {
  id: NodeRef
  kind: NodeKind
  role: NodeRole
  name: string
  partId?: string
  /** Nodes that feed it; more than one where a second way in was joined. */
  from: NodeRef[]
  /** Joint it takes from, and joint it gives to. */
  input: Joint | null
  output: Joint | null
  figures: Record<string, NodeFigure>
  efficiency?: EfficiencyPoint[]
  law?: LoadLaw
  /** The maker put it in: it can be taken out again. */
  own: boolean
  open: boolean
  unit?: SupplyUnit
  item?: PowerItem
  /** Hub: the port it hangs on for data. */
  upstream?: NodeRef
  /** Fed by a USB plug that carries its data too. */
  byPlug?: boolean
  /** A part with a power socket of its own. */
  ownSocket?: boolean
  price?: number
  cautions?: string[]
}

export type TreeProblem
  = | { kind: 'unknown-type', node: NodeRef, type: string }
    | { kind: 'unknown-feed', node: NodeRef, feed: NodeRef }
    | { kind: 'unknown-upstream', node: NodeRef, upstream: NodeRef }
  /** A plug that goes from or into what is not there. */
    | { kind: 'unknown-join', join: Join }
  /** Nodes that feed each other in a ring. */
    | { kind: 'ring', nodes: NodeRef[] }
    | { kind: 'unfed', node: NodeRef }
  /** A figure outside what can be: the usual one is used. */
    | { kind: 'absurd', node: NodeRef, figure: string, value: number }

export interface SupplyTree {
  /** Sources first, then as they are fed. */
  nodes: SupplyNode[]
  byId: ReadonlyMap<NodeRef, SupplyNode>
  problems: TreeProblem[]
  /** No source feeds the board: 5.0 V are assumed on its rail so that the loads can be added. */
  assumed: boolean
}
