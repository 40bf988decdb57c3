/**
 * Parameters of a tree or overlay: `__overrides__` lists, for each, a node and what in it is changed. The forms are
 * those that loaders of the key-value dialect take (memory): `name` text, `name:at` 32 bit, `name;at` 16 bit, `name.at`
 * 8 bit, `name#at` 64 bit, `name?` there or not, `name=value` a fixed value, `name[hex]` fixed bytes, and fragments
 * switched on and off by `+n` and `-n` where no node is named.
 */
import {
  DeviceTreeError, cellsOf, childOf, latin1, propertyOf, setProperty, stringBytes, walk, type DeviceTree, type TreeNode,
} from '../types'

const fault = (message: string) => new DeviceTreeError('overlay', message)

interface Target { phandle: number, what: string }

/** Names of the parameters that the tree has. */
export const parametersOf = (tree: DeviceTree): string[] =>
  (childOf(tree.root, '__overrides__')?.properties ?? []).map(property => property.name)

function targetsOf(value: Uint8Array, name: string): Target[] {
  const targets: Target[] = []
  for (let at = 0; at < value.length;) {
    const end = value.indexOf(0, at + 4)
    if (at + 4 > value.length || end < 0) throw fault(`the parameter "${name}" is not well formed in __overrides__`)
    targets.push({ phandle: cellsOf(value.subarray(at, at + 4))[0]!, what: latin1(value.subarray(at + 4, end)) })
    at = end + 1
  }
  return targets
}

const ON = new Set(['', 'on', 'yes', 'true', 'y', '1', 'okay', 'enable', 'enabled'])
const OFF = new Set(['off', 'no', 'false', 'n', '0', 'disabled', 'disable'])

/** Sets one parameter. Changes the tree it is given; throws `DeviceTreeError` (`overlay`) with what does not fit. */
export function setParameter(tree: DeviceTree, name: string, value: string): void {
  const list = childOf(tree.root, '__overrides__')
  const entry = list && propertyOf(list, name)
  if (!entry) throw fault(`there is no parameter "${name}"`)
  for (const { phandle, what } of targetsOf(entry.value, name)) {
    if (phandle === 0) {
      switchFragments(tree.root, what, value, name)
      continue
    }
    const node = nodeWith(tree.root, phandle, name)
    change(node, what, value, name)
  }
}

function nodeWith(root: TreeNode, phandle: number, name: string): TreeNode {
  for (const { node } of walk(root)) {
    const own = propertyOf(node, 'phandle') ?? propertyOf(node, 'linux,phandle')
    if (own?.value.length === 4 && cellsOf(own.value)[0] === phandle) return node
  }
  throw fault(`the parameter "${name}" names a node that is not there`)
}

function booleanOf(value: string, name: string): boolean {
  const word = value.trim().toLowerCase()
  if (ON.has(word)) return true
  if (OFF.has(word)) return false
  throw fault(`the parameter "${name}" is on or off, not "${value}"`)
}

const WIDTHS: Readonly<Record<string, number>> = { ':': 4, ';': 2, '.': 1, '#': 8 }

function change(node: TreeNode, what: string, given: string, name: string): void {
  const fixed = /^([^=[]+)(?:=(.*)|\[([0-9a-f\s]*)\])$/i.exec(what)
  if (fixed?.[3] !== undefined) {
    const digits = fixed[3].replace(/\s/g, '')
    return setProperty(
      node, fixed[1]!, Uint8Array.from({ length: digits.length >> 1 },
        (_, i) => Number.parseInt(digits.slice(2 * i, 2 * i + 2), 16)),
    )
  }
  const target = fixed ? fixed[1]! : what
  const value = fixed ? fixed[2]! : given
  const cell = /^([^:;.#?]+)([:;.#])(\d+)?$/.exec(target)
  if (cell) return writeNumber(node, cell[1]!, WIDTHS[cell[2]!]!, Number(cell[3] ?? 0), value, name)
  const bool = /^([^?]+)([?!])$/.exec(target)
  if (bool) {
    const wanted = booleanOf(value, name) === (bool[2] === '?')
    if (wanted) setProperty(node, bool[1]!, propertyOf(node, bool[1]!)?.value ?? new Uint8Array())
    else node.properties = node.properties.filter(property => property.name !== bool[1])
    return
  }
  if (target === 'status') {
    const word = value.trim().toLowerCase()
    return setProperty(node, 'status', stringBytes(ON.has(word) ? 'okay' : OFF.has(word) ? 'disabled' : value))
  }
  setProperty(node, target, stringBytes(value))
}

function writeNumber(node: TreeNode, property: string, width: number, offset: number, text: string,
  name: string): void {
  const trimmed = text.trim()
  let number
  if (/^-?(\d+|0x[0-9a-f]+)$/i.test(trimmed)) number = BigInt(trimmed.replace('-', '')) * (trimmed.startsWith('-')
    ? -1n
    : 1n)
  else if (ON.has(trimmed.toLowerCase())) number = 1n
  else number = OFF.has(trimmed.toLowerCase())
    ? 0n
    : null
  if (number === null) throw fault(`the parameter "${name}" is a number, not "${text}"`)
  if (offset + width > 4096) throw fault(`the parameter "${name}" writes at byte ${offset}`)
  const before = propertyOf(node, property)?.value ?? new Uint8Array()
  const after = new Uint8Array(Math.max(before.length, offset + width))
  after.set(before)
  let rest = BigInt.asUintN(8 * width, number)
  for (let i = width - 1; i >= 0; i--) {
    after[offset + i] = Number(rest & 0xFFn)
    rest >>= 8n
  }
  setProperty(node, property, after)
  if (property === 'reg' && offset === 0
    && node.name.includes('@')) node.name = `${node.name.split('@')[0]}@${number.toString(16)}`
}

/** `+1-2`: fragment 1 goes on, fragment 2 off; `=n`, `!n` follow the value. */
function switchFragments(root: TreeNode, what: string, value: string, name: string): void {
  for (const [, sign, digits] of what.matchAll(/([+\-=!])(\d+)/g)) {
    const fragment = root.children.find(child =>
      child.name === `fragment@${digits}` || child.name === `fragment-${digits}`)
    if (!fragment) throw fault(`the parameter "${name}" names the fragment ${digits}, which is not there`)
    const on = booleanOf(value, name)
    let wanted: boolean | null
    if (sign === '+') wanted = on || null
    else if (sign === '-') wanted = on ? false : null
    else wanted = sign === '=' ? on : !on
    if (wanted === null) continue
    const contents = fragment.children.find(child => child.name === '__overlay__' || child.name === '__dormant__')
    if (contents) contents.name = wanted ? '__overlay__' : '__dormant__'
  }
}
