/** What sticks out of a socket. */
import type { Opening } from '../catalogue/shapes/body'
import { about, box, middle, type Solid } from './solids'

/** Plugs of cables by what they go into: across, high, and out of the socket, mm. memory */
export const PLUG_MM = { usb: [12, 7, 30], video: [18, 9, 35], small: [11, 6.5, 28] } as const
/** How thick their cables are, mm. memory */
export const PLUG_CABLE_MM = { usb: 4, video: 6 } as const

/**
 * What goes on from a face of a solid to where the socket opens: as wide across the opening, as high and as
 * long as it is.
 */
export function beyond({ x, y, z }: Solid, opens: Opening,
  [across, high, out]: readonly [number, number, number]): Solid {
  switch (opens) {
    case 'right': return box([x[1], x[1] + out], about(middle(y), across), about(middle(z), high))
    case 'left': return box([x[0] - out, x[0]], about(middle(y), across), about(middle(z), high))
    case 'near': return box(about(middle(x), across), [y[0] - out, y[0]], about(middle(z), high))
    case 'far': return box(about(middle(x), across), [y[1], y[1] + out], about(middle(z), high))
    case 'up': return box(about(middle(x), across), about(middle(y), high), [z[1], z[1] + out])
  }
}
