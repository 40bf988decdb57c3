/** Places on the board where a wire may end: the nearest ground or rail, and sockets in their order. */
import type { Board, HeaderPosition } from '../catalogue/types'
import { BOARD_ID, positionPin, returnOf, socketPin, type SocketKind } from './board'
import type { ComponentId, PinId } from './types'

/**
 * A pin with the component that has it. Of something with two wires it is the `+` pin; its return is
 * `returnOf` the pin.
 */
export interface Spot {
  pin: PinId
  component: ComponentId
}

const columnOf = (position: number) => Math.ceil(position / 2)

export class BoardSpots {
  private readonly taken = new Map<SocketKind, number>()

  constructor(private readonly board: Board | null, private readonly reserved: ReadonlySet<number>) {}

  /**
   * The position of a kind nearest to another one, reserved ones last; the first of its kind where there is no other.
   */
  nearest(kind: HeaderPosition['kind'], to: number | undefined): Spot | null {
    const away = (position: number) => (to === undefined
      ? 0
      : Math.abs(columnOf(position) - columnOf(to))) + (this.reserved.has(position) ? 1000 : 0)
    const found = (this.board?.header ?? [])
      .filter(entry => entry.kind === kind)
      .sort((a, b) => away(a.position) - away(b.position) || a.position - b.position)[0]
    return found ? { pin: positionPin(found.position), component: BOARD_ID } : null
  }

  /** The next socket of a kind; one that is not there comes back as null. */
  socket(kind: SocketKind): Spot | null {
    const nth = (this.taken.get(kind) ?? 0) + 1
    if (nth > (this.board?.sockets[kind] ?? 0)) return null
    this.taken.set(kind, nth)
    return { pin: socketPin(kind, nth), component: BOARD_ID }
  }

  /** The return that belongs to a supply pin: beside a header position the ground nearest to it. */
  returnFor(pin: PinId): PinId {
    if (!/^@P\d+$/.test(pin)) return returnOf(pin)
    return this.nearest('ground', Number(pin.slice(2)))?.pin ?? returnOf(pin)
  }
}

/** Header position of a pin, if it is one. */
export const positionOfPin = (pin: PinId): number | undefined => /^@P\d+$/.test(pin) ? Number(pin.slice(2)) : undefined
