/**
 * Ids of things in a plan that are made of other names: written and read here and nowhere else. Names of parts and of
 * power nodes have neither `.` nor `@` nor `#` nor `:`, but for the supply's own nodes, which begin with `@`.
 */

/** `part.terminal`: one terminal of a part. */
export type TerminalKey = `${string}.${string}`
export const terminalKey = (partId: string, terminal: string): TerminalKey => `${partId}.${terminal}`
/** Part and terminal of a key; the terminal is empty where the key names a part alone. */
export function terminalNames(key: string): { partId: string, terminal: string } {
  const dot = key.indexOf('.')
  return dot < 0 ? { partId: key, terminal: '' } : { partId: key.slice(0, dot), terminal: key.slice(dot + 1) }
}
export const partOfKey = (key: string): string => terminalNames(key).partId

/** `part#usb`, `part#usb-`: supply and return of a part's USB plug. */
export type UsbPin = `${string}#usb` | `${string}#usb-`
export const usbSupplyPin = (partId: string): UsbPin => `${partId}#usb`
export const usbReturnPin = (partId: string): UsbPin => `${partId}#usb-`
export const isUsbSupplyPin = (pin: string): boolean => pin.endsWith('#usb')
export const isUsbReturnPin = (pin: string): boolean => pin.endsWith('#usb-')

/** `node:fuse`, `node:fuse.in`: a node of the supply as a thing to wire, and one of its pins. */
export type SupplyComponent = `node:${string}`
export const supplyComponent = (node: string): SupplyComponent => `node:${node}`
export const supplyPin = (node: string, pin: string): `node:${string}.${string}` => `node:${node}.${pin}`
/** The node of the supply that a component is; null for any other component. */
export const nodeOfComponent = (id: string): string | null => id.startsWith('node:') ? id.slice('node:'.length) : null

/** `stage:fan.drive`, `stage:fan.drive.gate`: what stands in a wire or serves several of them, and one of its pins. */
export const stageComponent = (name: string): `stage:${string}` => `stage:${name}`
export const stagePin = (name: string, pin: string): `stage:${string}.${string}` => `stage:${name}.${pin}`

/** `splice:cable`: a place where wires meet, itself its only pin. */
export const spliceComponent = (name: string): `splice:${string}` => `splice:${name}`
/** `splice@6`: the wire from a position of the header to the place where its wires meet. */
export const headerSpliceKey = (position: string): `splice@${string}` => `splice@${position}`
export const isHeaderSpliceKey = (key: string): boolean => key.startsWith('splice@')

/** `part.terminal@38`: the wire of a terminal, pin or node that goes to a place. */
export const wireKey = (from: string, place: string): `${string}@${string}` => `${from}@${place}`
/** Where a wire's key begins and ends; `to` is empty where the key names no place. */
export function wireEnds(key: string): { from: string, to: string } {
  // The supply's own nodes begin with `@` themselves.
  const at = key.indexOf('@', 1)
  return at < 0 ? { from: key, to: '' } : { from: key.slice(0, at), to: key.slice(at + 1) }
}

/** `@P2`: a position of the header that feeds. `@join1`: where two nodes of the supply are joined. */
export const isPositionFeed = (node: string): boolean => node.startsWith('@P')
export const isJoinNode = (node: string): boolean => node.startsWith('@join')

/** `node:/dev/i2c-1`: the test whether a device of the system is there. */
export const deviceProbeId = (path: string): `node:${string}` => `node:${path}`
/** The path that such a test asks for; null for any other test. */
export const pathOfProbe = (id: string): string | null => id.startsWith('node:') ? id.slice('node:'.length) : null
