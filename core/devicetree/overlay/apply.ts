/**
 * Puts overlays onto a base tree as the loader does (`fdt_overlay_apply` of libfdt): phandles moved, references filled
 * in, contents merged, labels added.
 */
import {
  cellsOf, cellBytes, childOf, DeviceTreeError, nodeAt, phandleOf, propertyOf, stringBytes, stringsOf, walk,
  type DeviceTree,
  type TreeNode,
} from '../types'
import { keptNames, namesIn, type KeptNames } from '../names'

const fault = (message: string) => new DeviceTreeError('overlay', message)

/**
 * The base with the overlay on it; neither of the two is changed. Throws `DeviceTreeError` (`overlay`) with what
 * does not fit.
 */
export function applyOverlay(base: DeviceTree, overlay: DeviceTree): DeviceTree {
  const merged: DeviceTree = { ...base, root: copy(base.root) }
  const laid = copy(overlay.root)
  const delta = highestPhandle(merged.root)
  movePhandles(laid, delta)
  moveLocalReferences(laid, childOf(laid, '__local_fixups__'), delta, '')
  fillReferences(merged.root, laid)
  const targets = new Map<string, string>()
  const handles: Handles = new Map()
  const kept: KeptNames = new Map()
  keepHandles(merged.root, '', handles, kept)
  for (const fragment of laid.children) {
    const contents = childOf(fragment, '__overlay__')
    if (!contents) continue
    const { node, path } = targetOf(merged.root, fragment, handles)
    targets.set(fragment.name, path)
    lay(node, contents, kept)
    keepHandles(contents, path, handles, kept, node)
  }
  addLabels(merged.root, laid, targets)
  return merged
}

type Handles = Map<number, { node: TreeNode, path: string }>

/**
 * Notes where each phandle is; `now` is where the contents lie in the merged tree. The first with a phandle keeps it.
 */
function keepHandles(contents: TreeNode, path: string, handles: Handles, kept: KeptNames,
  now: TreeNode = contents): void {
  const phandle = phandleOf(contents)
  if (phandle !== null && !handles.has(phandle)) handles.set(phandle, { node: now, path: path || '/' })
  const there = contents === now ? null : keptNames(now.children, contents.children.length, kept)
  for (const child of contents.children) {
    keepHandles(child, `${path === '/' ? '' : path}/${child.name}`, handles, kept,
      there ? there.find(child.name)! : child)
  }
}

/** A deep copy: values too, because they are written into. */
function copy({ name, properties, children }: TreeNode): TreeNode {
  return {
    name, properties: properties.map(property => ({ name: property.name, value: property.value.slice() })),
    children: children.map(copy),
  }
}

function highestPhandle(root: TreeNode): number {
  let highest = 0
  for (const { node } of walk(root)) {
    const phandle = phandleOf(node)
    if (phandle !== null && phandle !== 0xFFFFFFFF) highest = Math.max(highest, phandle)
  }
  return highest
}

function movePhandles(root: TreeNode, delta: number): void {
  for (const { node } of walk(root)) {
    for (const property of node.properties) {
      if ((property.name !== 'phandle' && property.name !== 'linux,phandle') || property.value.length !== 4) continue
      const moved = cellsOf(property.value)[0]! + delta
      if (moved >= 0xFFFFFFFF) throw fault('there are no phandles left for the overlay')
      property.value = cellBytes(moved)
    }
  }
}

/** References within the overlay follow its phandles: `__local_fixups__` mirrors the tree and lists their offsets. */
function moveLocalReferences(node: TreeNode, fixups: TreeNode | undefined, delta: number, path: string): void {
  if (!fixups) return
  const properties = namesIn(node.properties, fixups.properties.length)
  for (const { name, value } of fixups.properties) {
    if (value.length % 4) throw fault(`__local_fixups__${path}: "${name}" is no list of offsets`)
    const property = properties.find(name)
    if (!property) throw fault(`__local_fixups__${path} names the property "${name}", which the overlay does not have`)
    for (const offset of cellsOf(value)) writeCell(property.value, offset, before => before + delta, `${path}:${name}`)
  }
  const children = namesIn(node.children, fixups.children.length)
  for (const child of fixups.children) {
    const there = children.find(child.name)
    if (!there) throw fault(`__local_fixups__${path} names the node "${child.name}", which the overlay does not have`)
    moveLocalReferences(there, child, delta, `${path}/${child.name}`)
  }
}

function writeCell(value: Uint8Array, offset: number, to: (before: number) => number, where: string): void {
  if (offset > value.length - 4 || value.length < 4) throw fault(`${where}: there is no cell at ${offset}`)
  const view = new DataView(value.buffer, value.byteOffset, value.byteLength)
  view.setUint32(offset, to(view.getUint32(offset)))
}

/** References to the base: each label of `__fixups__` is looked up in the base's `__symbols__`. */
function fillReferences(base: TreeNode, laid: TreeNode): void {
  const fixups = childOf(laid, '__fixups__')
  if (!fixups) return
  const symbols = childOf(base, '__symbols__')
  const known = symbols && namesIn(symbols.properties, fixups.properties.length)
  const paths = fixups.properties.length < 8 ? null : new Map([...walk(base)].map(({ node, path }) => [path, node]))
  const fragments = namesIn(laid.children, laid.children.length)
  const wanted = (path: string) => {
    const [, first = '', rest = ''] = /^\/([^/]+)(.*)$/.exec(path) ?? []
    const fragment = fragments.find(first)
    return fragment ? nodeAt(fragment, rest) : nodeAt(laid, path)
  }
  for (const { name: label, value } of fixups.properties) {
    if (!known) throw fault('the base has no __symbols__: it was built without labels, and no overlay can '
      + 'name its nodes')
    const symbol = known.find(label)
    if (!symbol) throw fault(`the base has no label "${label}"`)
    const at = stringsOf(symbol.value)[0] ?? ''
    const node = paths?.get(at) ?? nodeAt(base, at)
    if (!node) throw fault(`the base's label "${label}" leads to no node`)
    const phandle = phandleOf(node)
    if (phandle === null) throw fault(`the base's node with the label "${label}" has no phandle`)
    for (const entry of stringsOf(value)) {
      const [, path, property, offset] = /^(.*):([^:]+):(\d+)$/.exec(entry) ?? []
      if (path === undefined || !property
        || offset === undefined) throw fault(`__fixups__: "${entry}" is no path:property:offset`)
      const owner = wanted(path)
      const there = owner && propertyOf(owner, property)
      if (!there) throw fault(`__fixups__ names ${path}:${property}, which the overlay does not have`)
      writeCell(there.value, Number(offset), () => phandle, `${path}:${property}`)
    }
  }
}

function targetOf(base: TreeNode, fragment: TreeNode, handles: Handles): { node: TreeNode, path: string } {
  const byHandle = propertyOf(fragment, 'target')
  if (byHandle?.value.length === 4) {
    const [phandle] = cellsOf(byHandle.value)
    const found = handles.get(phandle!)
    if (found) return found
    throw fault(`${fragment.name}: no node of the base has the phandle ${phandle}`)
  }
  const byPath = propertyOf(fragment, 'target-path')
  const path = byPath && stringsOf(byPath.value)[0]
  if (!path) throw fault(`${fragment.name} has no target`)
  const alias = path.startsWith('/')
    ? null
    : childOf(base, 'aliases')?.properties.find(property => property.name === path)
  const full = alias ? stringsOf(alias.value)[0]! : path
  const node = nodeAt(base, full)
  if (!node) throw fault(`${fragment.name}: the base has no node ${path}`)
  return { node, path: full.replace(/\/+$/, '') || '/' }
}

function lay(node: TreeNode, contents: TreeNode, kept: KeptNames): void {
  const properties = keptNames(node.properties, contents.properties.length, kept)
  for (const { name, value } of contents.properties) {
    const there = properties.find(name)
    const laid = { name, value: value.slice() }
    if (there) there.value = laid.value
    else {
      node.properties.push(laid)
      properties.add(laid)
    }
  }
  const children = keptNames(node.children, contents.children.length, kept)
  for (const child of contents.children) {
    let there = children.find(child.name)
    if (!there) {
      there = { name: child.name, properties: [], children: [] }
      node.children.push(there)
      children.add(there)
    }
    lay(there, child, kept)
  }
}

/** The overlay's own labels, led to where its nodes lie now. */
function addLabels(base: TreeNode, laid: TreeNode, targets: ReadonlyMap<string, string>): void {
  const own = childOf(laid, '__symbols__')
  if (!own) return
  const symbols = childOf(base, '__symbols__')
  if (!symbols) return
  const known = namesIn(symbols.properties, own.properties.length)
  for (const { name, value } of own.properties) {
    const [, fragment = '', rest = ''] = /^\/([^/]+)\/__overlay__(\/.*)?$/.exec(stringsOf(value)[0] ?? '') ?? []
    const target = targets.get(fragment)
    // A label of the fragment itself leads to nothing in the merged tree.
    if (target === undefined) continue
    const label = { name, value: stringBytes(`${target === '/' ? '' : target}${rest}` || '/') }
    const there = known.find(name)
    if (there) there.value = label.value
    else {
      symbols.properties.push(label)
      known.add(label)
    }
  }
}
