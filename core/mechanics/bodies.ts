/** A body in its place: of the board, of a part, of a plug, of a cable. */
import type { Standing } from '../catalogue/shapes/body'
import type { Solid } from './solids'

export type BodyKind = 'board' | 'standing' | 'pins' | 'wire' | 'add-on' | 'cooler' | 'fan' | 'plug' | 'part' | 'plate'
  | 'spacer'
  | 'cable' | 'film'

export interface PlacedBody {
  /** Unique in the assembly. */
  id: string
  /** The part that it belongs to; `@board` for the board, `@plate`; a node of the supply for its plug. */
  owner: string
  name: string
  kind: BodyKind
  solid: Solid
  /** Where its sizes come from. */
  origin: string
  /** Lies beside the board, and was put there by nobody. */
  laid?: boolean
  /** The board stands on it, and it is there with the board's spacers. */
  ground?: boolean
  /** Sits in this socket of the board. */
  socket?: string
  /** Of a flat cable: the body of the slot that it comes out of. */
  slot?: string
  /** Of a socket: what it takes and where it opens to. */
  standing?: Extract<Standing, { kind: 'socket' }>
}
