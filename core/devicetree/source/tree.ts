/** A source read but not yet resolved: nodes with labels, values with references in them. */
import { DeviceTreeError, type Place } from '../types'

export type Reference = { label: string } | { path: string }

/** A piece of a value: bytes, a cell that will hold a phandle, or a path that will be written out as a string. */
export type Piece
  = | { kind: 'bytes', bytes: Uint8Array }
    | { kind: 'phandle', to: Reference, place: Place }
    | { kind: 'path', to: Reference, place: Place }

export interface SourceProperty {
  name: string
  labels: string[]
  pieces: Piece[]
  place: Place
  deleted: boolean
}

export interface SourceNode {
  name: string
  labels: string[]
  properties: SourceProperty[]
  children: SourceNode[]
  place: Place
  /** Left out unless something refers to it. */
  omitIfNoRef: boolean
  referenced: boolean
  /** Within a body: takes away the node of its name. In a tree: taken away, its place kept in case it comes again. */
  deleted: boolean
}

export interface Source {
  plugin: boolean
  reservations: { address: bigint, size: bigint }[]
  root: SourceNode
}

export const emptyNode = (name: string, place: Place): SourceNode => ({
  name, labels: [], properties: [], children: [], place, omitIfNoRef: false, referenced: false, deleted: false,
})

/** Every node that is not deleted, parents before children. */
export function* nodesOf(node: SourceNode, path = ''): Generator<{ node: SourceNode, path: string }> {
  yield { node, path: path || '/' }
  for (const child of node.children) if (!child.deleted) yield* nodesOf(child, `${path}/${child.name}`)
}

/** The node a reference names; null when there is none. */
export function referred(root: SourceNode, to: Reference): { node: SourceNode, path: string } | null {
  for (const entry of nodesOf(root)) {
    if ('label' in to ? entry.node.labels.includes(to.label) : entry.path === (to.path.replace(/\/+$/, '') || '/')) return entry
  }
  return null
}

/** A node's first definition: what it deletes is not there yet. A node that it both defines and deletes is refused. */
export function settle(node: SourceNode): void {
  node.properties = node.properties.filter(property => !property.deleted)
  for (const marker of node.children.filter(child => child.deleted)) {
    if (node.children.some(child => !child.deleted && child.name === marker.name)) {
      throw new DeviceTreeError('reference', `the node "${marker.name}" is defined and deleted in one place`, { place: marker.place })
    }
  }
  node.children = node.children.filter(child => !child.deleted)
  node.children.forEach(settle)
}

/** Takes a node away; its place stays, in case a node of its name comes again. */
export function bury(node: SourceNode): void {
  Object.assign(node, { deleted: true, labels: [], properties: [], children: [] })
}

/**
 * Puts the contents of `more` into `node`, in order, as a second definition of the same node does: properties of the same name are replaced
 * where they stand, new ones follow, children of the same name are merged, deletions take away what stands so far.
 */
export function mergeInto(node: SourceNode, more: SourceNode): void {
  node.labels.push(...more.labels.filter(label => !node.labels.includes(label)))
  node.omitIfNoRef ||= more.omitIfNoRef
  node.deleted = false
  for (const property of more.properties) {
    const there = node.properties.find(entry => entry.name === property.name)
    if (!there) {
      if (!property.deleted) node.properties.push(property)
    }
    else if (property.deleted) there.deleted = true
    else Object.assign(
      there, { pieces: property.pieces, deleted: false, place: property.place, labels: [...there.labels, ...property.labels] },
    )
  }
  for (const child of more.children) {
    const there = node.children.find(entry => entry.name === child.name)
    if (child.deleted) {
      if (there) bury(there)
    }
    else if (there) mergeInto(there, child)
    else {
      settle(child)
      node.children.push(child)
    }
  }
}
