/** Prints a tree as source that people would want to read. Law: compiling what is printed gives the same tree again. */
import { cellsOf, childOf, latin1, stringsOf, walk, type DeviceTree, type TreeNode } from '../types'

export interface PrintOptions {
  /** Put the labels of `__symbols__` before their nodes. The list itself stays, so that nothing is lost. */
  labels?: boolean
}

/** Source text of version 1. */
export function printSource({ reservations, root }: DeviceTree, { labels = false }: PrintOptions = {}): string {
  const byPath = labels ? labelsOf(root) : new Map<string, string[]>()
  const lines = ['/dts-v1/;', '']
  for (const { address, size } of reservations) lines.push(`/memreserve/ ${hex(address)} ${hex(size)};`)
  if (reservations.length) lines.push('')
  printNode(root, '/', '', byPath, lines)
  return `${lines.join('\n')}\n`
}

const hex = (value: bigint | number) => `0x${value.toString(16)}`

/** Labels by path, as far as they are labels at all and name one node. */
function labelsOf(root: TreeNode): Map<string, string[]> {
  const byPath = new Map<string, string[]>()
  const paths = new Set([...walk(root)].map(({ path }) => path))
  for (const { name, value } of childOf(root, '__symbols__')?.properties ?? []) {
    const [path = ''] = stringsOf(value)
    if (/^[A-Za-z_]\w*$/.test(name) && paths.has(path)) byPath.set(path, [...byPath.get(path) ?? [], name])
  }
  return byPath
}

function printNode(node: TreeNode, path: string, indent: string, byPath: ReadonlyMap<string, string[]>,
  lines: string[]): void {
  const labels = (byPath.get(path) ?? []).map(label => `${label}: `).join('')
  lines.push(`${indent}${labels}${node.name || '/'} {`)
  for (const { name,
    value } of node.properties) lines.push(`${indent}\t${name}${value.length ? ` = ${printValue(value)}` : ''};`)
  node.children.forEach((child, i) => {
    if (i > 0 || node.properties.length) lines.push('')
    printNode(child, `${path === '/' ? '' : path}/${child.name}`, `${indent}\t`, byPath, lines)
  })
  lines.push(`${indent}};`)
}

/** Text where it is text, cells where its length is a multiple of four, bytes otherwise. */
export function printValue(value: Uint8Array): string {
  if (isText(value)) return latin1(value.subarray(0, -1)).split('\0').map(text => `"${escaped(text)}"`).join(', ')
  if (value.length % 4 === 0) return `<${cellsOf(value).map(cell => hex(cell)).join(' ')}>`
  return `[${[...value].map(byte => byte.toString(16).padStart(2, '0')).join(' ')}]`
}

/** Printable letters in strings that each hold something, with a zero byte at the end. */
function isText(value: Uint8Array): boolean {
  if (!value.length || value.at(-1) !== 0) return false
  let held = 0
  for (const byte of value) {
    if (byte === 0) {
      if (!held) return false
      held = 0
    }
    else if (byte < 0x20 || byte > 0x7E) return false
    else held++
  }
  return true
}

const escaped = (text: string) => text.replace(/["\\]/g, '\\$&')
