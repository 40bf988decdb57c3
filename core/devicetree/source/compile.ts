/** From a source to a tree: references become phandles and paths; an overlay gets the lists that its loader wants. */
import {
  DeviceTreeError, cellBytes, cellsOf, childOf, propertyOf, setProperty, stringBytes, stringsOf, type DeviceTree,
  type SourcePlace, type TreeNode,
} from '../types'
import { parseSource } from './parse'
import type { Files } from './types'
import { nodeOn, nodesOf, type Reference, type Source, type SourceNode } from './tree'

export interface CompileOptions {
  /** Write `__symbols__`, so that overlays can name the labels; an overlay's own labels too. */
  symbols?: boolean
  files?: Files
  file?: string
}

/** Source text to tree. Throws `DeviceTreeError` with the place of the fault. */
export function compileText(text: string, { symbols = false, files, file }: CompileOptions = {}): DeviceTree {
  return compileSource(parseSource(text, file, files), { symbols })
}

interface Fixup { path: string, property: string, offset: number, label: string }
interface LocalFixup { path: string, property: string, offset: number }

/**
 * A parsed source to a tree. Phandles are given in the order of their first use, from 1, past those that
 * the source fixes.
 */
export function compileSource(
  { plugin, reservations, root }: Source, { symbols = false }: Pick<CompileOptions, 'symbols'> = {},
): DeviceTree {
  const all = [...nodesOf(root)]
  const labels = labelsOf(all)
  const find = (to: Reference) => 'label' in to
    ? labels.get(to.label)
    : nodeOn(root, to.path)
  const phandles = givenPhandles(all)
  const taken = new Set(phandles.values())
  let next = 1
  const phandleFor = (node: SourceNode): number => {
    const known = phandles.get(node)
    if (known !== undefined) return known
    while (taken.has(next)) next++
    taken.add(next)
    phandles.set(node, next)
    return next
  }
  // References first, in the order of the source: that is the order of the phandles.
  const missing: Fixup[] = []
  const local: LocalFixup[] = []
  const cells = new Map<object, number>()
  for (const { node } of all) {
    for (const { pieces } of node.properties) {
      for (const piece of pieces) {
        if (piece.kind !== 'phandle') continue
        const target = find(piece.to)
        if (!target) {
          if (!plugin || !('label' in piece.to)) throw unknown(piece.to, piece.place)
          cells.set(piece, 0xFFFFFFFF)
          continue
        }
        target.referenced = true
        cells.set(piece, phandleFor(target))
      }
    }
  }
  for (const { node } of all) {
    for (const { pieces } of node.properties) {
      for (const piece of pieces) {
        if (piece.kind !== 'path') continue
        const target = find(piece.to)
        if (!target) throw unknown(piece.to, piece.place)
        target.referenced = true
      }
    }
  }
  const kept = leaveOut(root, symbols) ? [...nodesOf(root)] : all
  const paths = new Map(kept.map(({ node, path }) => [node, path]))
  const labelled = symbols ? kept.flatMap(({ node, path }) => node.labels.map(label => ({ label, node, path }))) : []
  for (const { node } of labelled) phandleFor(node)
  const built = (node: SourceNode, path: string): TreeNode => {
    const made: TreeNode = { name: node.name, properties: [], children: [] }
    for (const property of node.properties) {
      if (namesItself(node, property)) continue
      const parts: Uint8Array[] = []
      let offset = 0
      for (const piece of property.pieces) {
        let bytes: Uint8Array
        if (piece.kind === 'bytes') bytes = piece.bytes
        else if (piece.kind === 'path') bytes = stringBytes(paths.get(find(piece.to)!) ?? '/')
        else {
          bytes = cellBytes(cells.get(piece)!)
          if (plugin) {
            if (cells.get(piece) === 0xFFFFFFFF && 'label' in piece.to && !find(piece.to)) missing.push({
              path, property: property.name, offset, label: piece.to.label,
            })
            else local.push({ path, property: property.name, offset })
          }
        }
        parts.push(bytes)
        offset += bytes.length
      }
      made.properties.push({ name: property.name, value: joined(parts, offset) })
    }
    const phandle = phandles.get(node)
    if (phandle !== undefined
      && !propertyOf(made, 'phandle')) made.properties.push({ name: 'phandle', value: cellBytes(phandle) })
    made.children = node.children.map(child => built(child, `${path === '/' ? '' : path}/${child.name}`))
    return made
  }
  const tree = built(root, '/')
  if (labelled.length) addSymbols(tree, labelled)
  if (missing.length) addFixups(tree, missing)
  if (local.length) addLocalFixups(tree, local)
  return { reservations, root: tree, bootCpu: bootCpuOf(tree) }
}

const unknown = (to: Reference, place: SourcePlace) =>
  new DeviceTreeError('reference', 'label' in to ? `no node has the label ${to.label}` : `there is no node ${to.path}`,
    { place })

function labelsOf(all: readonly { node: SourceNode }[]): Map<string, SourceNode> {
  const labels = new Map<string, SourceNode>()
  for (const { node } of all) for (const label of node.labels) labels.set(label, node)
  return labels
}

/** Phandles that the source writes itself. */
function givenPhandles(all: readonly { node: SourceNode }[]): Map<SourceNode, number> {
  const given = new Map<SourceNode, number>()
  for (const { node } of all) {
    const piece = node.properties.find(property =>
      property.name === 'phandle' || property.name === 'linux,phandle')?.pieces
    if (piece?.length === 1 && piece[0]!.kind === 'bytes'
      && piece[0]!.bytes.length === 4) given.set(node, cellsOf(piece[0]!.bytes)[0]!)
  }
  return given
}

/** A property `name` that says what the node's name says anyway is not written, as dtc has it. */
const namesItself = ({ name }: SourceNode, property: SourceNode['properties'][number]) => property.name === 'name'
  && property.pieces.length === 1 && property.pieces[0]!.kind === 'bytes'
  && stringsOf(property.pieces[0]!.bytes).join() === name.replace(/@.*$/, '')

/**
 * Takes out nodes that are only there when something refers to them; an overlay may refer to every label that is
 * written out. True when some went.
 */
function leaveOut(node: SourceNode, symbols: boolean): boolean {
  const stay = (child: SourceNode) => !child.omitIfNoRef || child.referenced || (symbols && child.labels.length > 0)
  let went = !node.children.every(stay)
  if (went) node.children = node.children.filter(stay)
  for (const child of node.children) if (leaveOut(child, symbols)) went = true
  return went
}

function joined(parts: Uint8Array[], length: number): Uint8Array {
  const value = new Uint8Array(length)
  let at = 0
  for (const part of parts) {
    value.set(part, at)
    at += part.length
  }
  return value
}

function addSymbols(tree: TreeNode, labelled: { label: string, path: string }[]): void {
  const symbols = ensureChild(tree, '__symbols__')
  const there = new Set(symbols.properties.map(property => property.name))
  for (const { label, path } of labelled) {
    if (there.has(label)) continue
    there.add(label)
    symbols.properties.push({ name: label, value: stringBytes(path) })
  }
}

function addFixups(tree: TreeNode, missing: Fixup[]): void {
  const fixups = ensureChild(tree, '__fixups__')
  for (const { path, property, offset, label } of missing) {
    const entry = stringBytes(`${path}:${property}:${offset}`)
    const there = propertyOf(fixups, label)
    setProperty(fixups, label, there ? joined([there.value, entry], there.value.length + entry.length) : entry)
  }
}

function addLocalFixups(tree: TreeNode, local: LocalFixup[]): void {
  const top = ensureChild(tree, '__local_fixups__')
  for (const { path, property, offset } of local) {
    let at = top
    for (const step of path.split('/')) if (step) at = ensureChild(at, step)
    const there = propertyOf(at, property)
    setProperty(at, property,
      there ? joined([there.value, cellBytes(offset)], there.value.length + 4) : cellBytes(offset))
  }
}

function ensureChild(node: TreeNode, name: string): TreeNode {
  const there = childOf(node, name)
  if (there) return there
  const made: TreeNode = { name, properties: [], children: [] }
  node.children.push(made)
  return made
}

/** The processor that boots is the first under `/cpus`. */
function bootCpuOf(root: TreeNode): number {
  const reg = childOf(root, 'cpus')?.children[0]?.properties.find(property => property.name === 'reg')
  return reg?.value.length === 4 ? cellsOf(reg.value)[0]! : 0
}
