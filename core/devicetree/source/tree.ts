/** A source read but not yet resolved: nodes with labels, values with references in them. */
import { namesIn } from '../names'
import { DeviceTreeError, type SourcePlace } from '../types'

export type Reference = { label: string } | { path: string }

/** A piece of a value: bytes, a cell that will hold a phandle, or a path that will be written out as a string. */
export type Piece
  = | { kind: 'bytes', bytes: Uint8Array }
    | { kind: 'phandle', to: Reference, place: SourcePlace }
    | { kind: 'path', to: Reference, place: SourcePlace }

export interface SourceProperty {
  name: string
  labels: string[]
  pieces: Piece[]
  place: SourcePlace
  deleted: boolean
}

export interface SourceNode {
  name: string
  labels: string[]
  properties: SourceProperty[]
  children: SourceNode[]
  place: SourcePlace
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

export const emptyNode = (name: string, place: SourcePlace): SourceNode => ({
  name, labels: [], properties: [], children: [], place, omitIfNoRef: false, referenced: false, deleted: false,
})

/** Every node that is not deleted, parents before children. */
export function* nodesOf(node: SourceNode, path = ''): Generator<{ node: SourceNode, path: string }> {
  yield { node, path: path || '/' }
  for (const child of node.children) if (!child.deleted) yield* nodesOf(child, `${path}/${child.name}`)
}

/** The node at a path; undefined when there is none. */
export function nodeOn(root: SourceNode, path: string): SourceNode | undefined {
  let node: SourceNode | undefined = root
  for (const step of path.split('/')) if (step) node = node?.children.find(child =>
    child.name === step && !child.deleted)
  return node
}

/** Where each label stands so far; kept up to date by what follows. */
export type Labels = Map<string, SourceNode>

/**
 * A node's first definition: what it deletes is not there yet. Throws `DeviceTreeError` for a node that it both defines
 * and deletes, and for a name that stands twice.
 */
export function settle(node: SourceNode, labels: Labels): void {
  node.properties = node.properties.filter(property => !property.deleted)
  twice(node.properties, 'property')
  if (node.children.length > 1) {
    twice(node.children.filter(child => !child.deleted), 'node')
    const gone = node.children.filter(child => child.deleted)
    const kept = new Set(gone.length ? node.children.filter(child => !child.deleted).map(child => child.name) : [])
    const both = gone.find(child => kept.has(child.name))
    if (both) {
      throw new DeviceTreeError('reference', `the node "${both.name}" is defined and deleted in one place`,
        { place: both.place })
    }
  }
  node.children = node.children.filter(child => !child.deleted)
  for (const label of node.labels) if (!labels.has(label)) labels.set(label, node)
  for (const child of node.children) settle(child, labels)
}

function twice(list: readonly { name: string, place: SourcePlace }[], what: string): void {
  if (list.length < 2) return
  const names = new Set<string>()
  for (const { name, place } of list) {
    if (names.has(name)) throw new DeviceTreeError('reference', `the ${what} "${name}" stands here twice`, { place })
    names.add(name)
  }
}

/**
 * Takes a node away with all that it has; their places stay, in case nodes and properties of their names come again.
 */
export function bury(node: SourceNode, labels: Labels): void {
  for (const label of node.labels) if (labels.get(label) === node) labels.delete(label)
  Object.assign(node, { deleted: true, labels: [] })
  for (const property of node.properties) property.deleted = true
  for (const child of node.children) bury(child, labels)
}

/**
 * Puts the contents of `more` into `node`, in order, as a second definition of the same node does: properties of the
 * same name are replaced where they stand, new ones follow, children of the same name are merged, deletions take away
 * what stands so far.
 */
export function mergeInto(node: SourceNode, more: SourceNode, labels: Labels): void {
  // Labels that come later stand first, the last of them before all, as dtc lists them.
  const fresh = more.labels.filter(label => !node.labels.includes(label))
  node.labels.unshift(...[...fresh].reverse())
  for (const label of fresh) if (!labels.has(label)) labels.set(label, node)
  node.omitIfNoRef ||= more.omitIfNoRef
  node.deleted = false
  const properties = namesIn(node.properties, more.properties.length)
  for (const property of more.properties) {
    const there = properties.find(property.name)
    if (!there) {
      if (property.deleted) continue
      node.properties.push(property)
      properties.add(property)
    }
    else if (property.deleted) there.deleted = true
    else Object.assign(
      there, { pieces: property.pieces, deleted: false, place: property.place,
        labels: [...there.labels, ...property.labels] },
    )
  }
  const children = namesIn(node.children, more.children.length)
  for (const child of more.children) {
    const there = children.find(child.name)
    if (child.deleted) {
      if (there) bury(there, labels)
    }
    else if (there) mergeInto(there, child, labels)
    else {
      settle(child, labels)
      node.children.push(child)
      children.add(child)
    }
  }
}
