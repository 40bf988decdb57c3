/**
 * Reads a flattened device tree, version 16 or 17 (Devicetree Specification v0.4, chapter 5). Every offset and
 * length is checked before it is used; nesting and the number of nodes are bounded, so that no input makes it hang
 * or grow without end.
 */
import { DeviceTreeError, latin1, MAX_DEPTH, type DeviceTree, type Reservation, type TreeNode } from '../types'

export const MAGIC = 0xD00DFEED
export const TAG = { begin: 1, end: 2, property: 3, nop: 4, finish: 9 } as const
export const HEADER_BYTES = 40

const LAST_COMPATIBLE = 17
const MAX_BYTES = 64 * 1024 * 1024

interface Header {
  total: number
  structure: number
  strings: number
  reservations: number
  version: number
  bootCpu: number
  stringBytes: number
  structureBytes: number
}

/** The tree in a blob. Throws `DeviceTreeError` (`blob` or `limit`) on anything that is not one. */
export function readBlob(bytes: Uint8Array): DeviceTree {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const header = readHeader(view)
  return { reservations: readReservations(view, header), root: readStructure(bytes, view, header),
    bootCpu: header.bootCpu }
}

const bad = (message: string, offset: number) => new DeviceTreeError('blob', message, { offset })

function readHeader(view: DataView): Header {
  if (view.byteLength < HEADER_BYTES) {
    throw bad(`a device tree blob has a header of ${HEADER_BYTES} bytes; this has ${view.byteLength} in all`, 0)
  }
  if (view.byteLength > MAX_BYTES) throw new DeviceTreeError('limit',
    `a blob over ${MAX_BYTES / 1024 / 1024} MiB is not read`)
  if (view.getUint32(0) !== MAGIC) throw bad('this is no device tree blob: it does not begin with d00dfeed', 0)
  const at = (index: number) => view.getUint32(index * 4)
  const version = at(5)
  const header: Header = {
    total: at(1), structure: at(2), strings: at(3), reservations: at(4), version, bootCpu: at(7), stringBytes: at(8),
    structureBytes: version >= 17 ? at(9) : 0,
  }
  if (at(6) > LAST_COMPATIBLE) throw bad(`version ${version} is compatible back to ${at(6)} only; up to `
    + `${LAST_COMPATIBLE} is read`, 24)
  if (version < 16) throw bad(`version ${version} is older than 16`, 20)
  if (header.total > view.byteLength) {
    throw bad(`the header says ${header.total} bytes and there are ${view.byteLength}: the file is cut off`, 4)
  }
  if (header.total < HEADER_BYTES) throw bad(`the header says ${header.total} bytes in all`, 4)
  if (header.structure % 4) throw bad('the structure block does not begin at a multiple of four', 8)
  if (header.version === 16) header.structureBytes = header.total - Math.min(header.total, header.structure)
  const inside = (what: string, start: number, length: number, offset: number) => {
    if (start > header.total
      || length > header.total - start) throw bad(`the ${what} reach beyond the end of the blob`, offset)
  }
  inside('structure block', header.structure, header.structureBytes, 8)
  inside('strings', header.strings, header.stringBytes, 12)
  inside('memory reservations', header.reservations, 16, 16)
  return header
}

function readReservations(view: DataView, { reservations, total }: Header): Reservation[] {
  const found: Reservation[] = []
  for (let offset = reservations; ; offset += 16) {
    if (offset + 16 > total) throw bad('the list of memory reservations has no end', offset)
    const address = view.getBigUint64(offset)
    const size = view.getBigUint64(offset + 8)
    if (address === 0n && size === 0n) return found
    found.push({ address, size })
  }
}

function readStructure(bytes: Uint8Array, view: DataView,
  { structure, structureBytes, strings, stringBytes }: Header): TreeNode {
  const end = structure + structureBytes
  const names = new Map<number, string>()
  const open: TreeNode[] = []
  let root: TreeNode | null = null
  let at = structure
  const room = (length: number, what: string) => {
    if (length > end - at) throw bad(`${what} reaches beyond the structure block`, at)
  }
  for (;;) {
    room(4, 'a tag')
    const tag = view.getUint32(at)
    const tagAt = at
    at += 4
    if (tag === TAG.nop) continue
    if (tag === TAG.begin) {
      const nul = bytes.indexOf(0, at)
      if (nul < 0 || nul >= end) throw bad('a node name has no end', at)
      const node: TreeNode = { name: latin1(bytes.subarray(at, nul)), properties: [], children: [] }
      at = aligned(nul + 1, structure)
      if (open.length >= MAX_DEPTH) throw new DeviceTreeError('limit', `nodes are nested deeper than ${MAX_DEPTH}`,
        { offset: tagAt })
      const parent = open.at(-1)
      if (parent) parent.children.push(node)
      else if (root) throw bad('there is a second root', tagAt)
      else root = node
      open.push(node)
    }
    else if (tag === TAG.end) {
      if (!open.pop()) throw bad('a node ends that did not begin', tagAt)
    }
    else if (tag === TAG.property) {
      room(8, 'a property')
      const length = view.getUint32(at)
      const nameAt = view.getUint32(at + 4)
      at += 8
      room(length, 'a property\'s value')
      const node = open.at(-1)
      if (!node) throw bad('a property stands outside every node', tagAt)
      node.properties.push({ name: nameFrom(bytes, strings, stringBytes, nameAt, names),
        value: bytes.slice(at, at + length) })
      at = aligned(at + length, structure)
    }
    else if (tag === TAG.finish) {
      if (open.length) throw bad('the tree ends within a node', tagAt)
      if (!root) throw bad('the tree has no root', tagAt)
      return root
    }
    else throw bad(`there is no tag ${tag}`, tagAt)
  }
}

const aligned = (offset: number, from: number) => from + Math.ceil((offset - from) / 4) * 4

function nameFrom(bytes: Uint8Array, strings: number, stringBytes: number, offset: number,
  known: Map<number, string>): string {
  const before = known.get(offset)
  if (before !== undefined) return before
  if (offset >= stringBytes) throw bad('a property\'s name lies outside the strings', strings + offset)
  const nul = bytes.indexOf(0, strings + offset)
  if (nul < 0 || nul >= strings + stringBytes) throw bad('a property\'s name has no end', strings + offset)
  const name = latin1(bytes.subarray(strings + offset, nul))
  known.set(offset, name)
  return name
}
