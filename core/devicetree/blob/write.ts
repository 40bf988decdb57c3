/** Writes a flattened device tree of version 17. Law: `readBlob(writeBlob(tree))` equals the tree. */
import { DeviceTreeError, MAX_DEPTH, stringBytes, type DeviceTree, type TreeNode } from '../types'
import { HEADER_BYTES, MAGIC, TAG } from './read'

/** Bytes that grow. */
class Output {
  private bytes = new Uint8Array(4096)
  private view = new DataView(this.bytes.buffer)
  length = 0

  private room(more: number): void {
    if (this.length + more <= this.bytes.length) return
    const larger = new Uint8Array(Math.max(this.bytes.length * 2, this.length + more))
    larger.set(this.bytes.subarray(0, this.length))
    this.bytes = larger
    this.view = new DataView(larger.buffer)
  }

  cell(value: number): void {
    this.room(4)
    this.view.setUint32(this.length, value)
    this.length += 4
  }

  wide(value: bigint): void {
    this.room(8)
    this.view.setBigUint64(this.length, BigInt.asUintN(64, value))
    this.length += 8
  }

  /** The bytes, and zeros up to a multiple of four. */
  padded(value: Uint8Array): void {
    const length = Math.ceil(value.length / 4) * 4
    this.room(length)
    this.bytes.set(value, this.length)
    this.bytes.fill(0, this.length + value.length, this.length + length)
    this.length += length
  }

  raw(value: Uint8Array): void {
    this.room(value.length)
    this.bytes.set(value, this.length)
    this.length += value.length
  }

  done(): Uint8Array {
    return this.bytes.slice(0, this.length)
  }
}

export function writeBlob({ reservations, root, bootCpu }: DeviceTree): Uint8Array {
  const structure = new Output()
  const strings = new Output()
  const offsets = new Map<string, number>()
  const nameOffset = (name: string) => {
    const known = offsets.get(name)
    if (known !== undefined) return known
    const offset = strings.length
    offsets.set(name, offset)
    strings.raw(stringBytes(name))
    return offset
  }
  const put = (node: TreeNode, depth: number) => {
    if (depth > MAX_DEPTH) throw new DeviceTreeError('limit', `nodes are nested deeper than ${MAX_DEPTH}`)
    structure.cell(TAG.begin)
    structure.padded(stringBytes(node.name))
    for (const { name, value } of node.properties) {
      structure.cell(TAG.property)
      structure.cell(value.length)
      structure.cell(nameOffset(name))
      structure.padded(value)
    }
    for (const child of node.children) put(child, depth + 1)
    structure.cell(TAG.end)
  }
  put(root, 1)
  structure.cell(TAG.finish)
  const blob = new Output()
  const reserved = HEADER_BYTES
  const structureAt = reserved + 16 * (reservations.length + 1)
  const stringsAt = structureAt + structure.length
  for (const value of [
    MAGIC, stringsAt + strings.length, structureAt, stringsAt, reserved, 17, 16, bootCpu, strings.length,
    structure.length,
  ]) {
    blob.cell(value)
  }
  for (const { address, size } of [...reservations, { address: 0n, size: 0n }]) {
    blob.wide(address)
    blob.wide(size)
  }
  blob.raw(structure.done())
  blob.raw(strings.done())
  return blob.done()
}
