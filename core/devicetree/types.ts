/**
 * A device tree as blobs and the kernel know it: nodes with properties that are bytes. Terms of the
 * Devicetree Specification v0.4.
 */

export interface Property {
  name: string
  value: Uint8Array
}

export interface TreeNode {
  /** With its unit address, e.g. `serial@7e201000`; empty for the root. */
  name: string
  properties: Property[]
  children: TreeNode[]
}

export interface Reservation {
  address: bigint
  size: bigint
}

export interface DeviceTree {
  reservations: Reservation[]
  root: TreeNode
  bootCpu: number
}

/** What can go wrong, for code; the message says it to a person. */
export type DeviceTreeFault
  /** Source that is not what the grammar has there. */
  = | 'syntax'
  /** A label, path or name that is not there, or is there twice. */
    | 'reference'
  /** A value that does not fit: a number too large for its cell, a division by zero. */
    | 'value'
  /** A file that is included and not at hand. */
    | 'include'
  /** A blob whose header, offsets or tags cannot be. */
    | 'blob'
  /** Deeper or larger than is read. */
    | 'limit'
  /** An overlay that does not go onto this base. */
    | 'overlay'

/** Where in a source text: 1-based. */
export interface SourcePlace {
  file: string
  line: number
  column: number
}

/** Every error of this folder. Source errors have a place and what was expected; blob errors a byte offset. */
export class DeviceTreeError extends Error {
  constructor(readonly fault: DeviceTreeFault, message: string,
    readonly at: { place?: SourcePlace, offset?: number } = {}) {
    super(at.place
      ? `${at.place.file}:${at.place.line}:${at.place.column}: ${message}`
      : at.offset !== undefined
        ? `byte ${at.offset}: ${message}`
        : message)
    this.name = 'DeviceTreeError'
  }
}

/** Deepest nesting that is read or written; as deep as libfdt goes. */
export const MAX_DEPTH = 64

export const propertyOf = (node: TreeNode,
  name: string): Property | undefined => node.properties.find(property => property.name === name)
export const childOf = (node: TreeNode,
  name: string): TreeNode | undefined => node.children.find(child => child.name === name)

/**
 * The node at a path from the root, `/` for the root itself; a unit address may be left out where one child alone
 * has the name.
 */
export function nodeAt(root: TreeNode, path: string): TreeNode | null {
  let node: TreeNode | undefined = root
  for (const step of path.split('/')) {
    if (!step) continue
    const exact = childOf(node, step)
    const loose: TreeNode[] = exact ? [] : node.children.filter(child => child.name.split('@')[0] === step)
    node = exact ?? (loose.length === 1 ? loose[0] : undefined)
    if (!node) return null
  }
  return node
}

/** Every node with its path, parents before children. */
export function* walk(root: TreeNode, path = ''): Generator<{ node: TreeNode, path: string }> {
  yield { node: root, path: path || '/' }
  for (const child of root.children) yield* walk(child, `${path}/${child.name}`)
}

const utf8 = new TextEncoder()
const ascii = new TextDecoder('latin1')

/** Text with its ending zero byte. */
export function stringBytes(text: string): Uint8Array {
  // Names of trees are plain letters nearly always: those need no encoder.
  const plain = new Uint8Array(text.length + 1)
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i)
    if (code > 127) {
      const bytes = utf8.encode(text)
      const ended = new Uint8Array(bytes.length + 1)
      ended.set(bytes)
      return ended
    }
    plain[i] = code
  }
  return plain
}

/** The strings of a property, without their zero bytes. */
export function stringsOf(value: Uint8Array): string[] {
  const text = new TextDecoder().decode(value)
  return (text.endsWith('\0') ? text.slice(0, -1) : text).split('\0')
}

export const latin1 = (bytes: Uint8Array): string => ascii.decode(bytes)

/** 32-bit cells, big-endian. */
export function cellBytes(...cells: number[]): Uint8Array {
  const bytes = new Uint8Array(cells.length * 4)
  const view = new DataView(bytes.buffer)
  cells.forEach((cell, i) => view.setUint32(i * 4, cell))
  return bytes
}

export function cellsOf(value: Uint8Array): number[] {
  const view = new DataView(value.buffer, value.byteOffset, value.byteLength)
  return Array.from({ length: Math.floor(value.length / 4) }, (_, i) => view.getUint32(i * 4))
}

/** The node's phandle, by either of its two names; null when it has none. */
export function phandleOf(node: TreeNode): number | null {
  const property = propertyOf(node, 'phandle') ?? propertyOf(node, 'linux,phandle')
  return property && property.value.length === 4 ? cellsOf(property.value)[0]! : null
}

/** Puts a property into a node, in place of one of its name. */
export function setProperty(node: TreeNode, name: string, value: Uint8Array): void {
  const there = propertyOf(node, name)
  if (there) there.value = value
  else node.properties.push({ name, value })
}
