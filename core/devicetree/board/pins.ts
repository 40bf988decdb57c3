/**
 * Pin groups as the common pin controllers write them. Told by their properties, not by the name of the chip: a group is a node that has
 * one
 * of these. Published: Linux kernel, `Documentation/devicetree/bindings/pinctrl` (the binding is named with each).
 */
import { cellsOf, childOf, phandleOf, propertyOf, stringsOf, walk, type TreeNode } from '../types'

export type PinBinding
  /** `brcm,pins` and `brcm,function` (brcm,bcm2835-gpio). */
  = | 'numbered'
  /** `pins` and `function` (pinmux-node.yaml; many families). */
    | 'named'
  /** `groups` and `function` (pinmux-node.yaml; amlogic,meson-pinctrl). */
    | 'grouped'
  /** `rockchip,pins`: bank, pin, setting, configuration (rockchip,pinctrl). */
    | 'banked'
  /** `fsl,pins`: six cells a pin (fsl,imx-pinctrl). */
    | 'padded'
  /** `pinctrl-single,pins`: offset and value (pinctrl-single). */
    | 'offset'
  /** `pinmux`: pin and setting in one cell (st,stm32-pinctrl, mediatek,*-pinctrl). */
    | 'packed'
  /** `samsung,pins` and `samsung,pin-function` (samsung,pinctrl). */
    | 'lettered'

export interface GroupPin {
  /** As the binding names it, or made from its numbers: `PA11`, `gpio14`, `2-8`. */
  name: string
  /** Number of the line within all banks, 32 to a bank; null where the binding has no such number. */
  line: number | null
  /** Setting of the multiplexer, where it is a number. */
  setting: number | null
}

export interface PinGroup {
  path: string
  name: string
  labels: string[]
  binding: PinBinding
  /** Function by name, where the binding has one. */
  function: string | null
  pins: GroupPin[]
}

/** Groups longer than this are no list of pins. */
const MOST_PINS = 512

/** The group a node is; null when it is none. Subnodes of a group are groups of their own. */
export function groupOf(node: TreeNode, path: string, labels: string[], cellsPerPin = 2): PinGroup | null {
  const common = { path, name: node.name, labels }
  const text = (name: string) => {
    const property = propertyOf(node, name)
    return property ? stringsOf(property.value).slice(0, MOST_PINS) : null
  }
  const cells = (name: string) => {
    const property = propertyOf(node, name)
    return property && property.value.length % 4 === 0 ? cellsOf(property.value).slice(0, 8 * MOST_PINS) : null
  }
  const numbered = cells('brcm,pins')
  if (numbered) {
    const settings = cells('brcm,function') ?? []
    return {
      ...common, binding: 'numbered', function: null,
      pins: numbered.map((line, i) => ({ name: `gpio${line}`, line, setting: settings[i] ?? settings.at(-1) ?? null })),
    }
  }
  const banked = cells('rockchip,pins')
  if (banked) {
    return {
      ...common, binding: 'banked', function: null,
      pins: chunks(banked, 4).map(([bank = 0, pin = 0, setting = 0]) => ({ name: `${bank}-${pin}`, line: bank * 32 + pin, setting })),
    }
  }
  const padded = cells('fsl,pins')
  if (padded) {
    return {
      ...common, binding: 'padded', function: null,
      pins: chunks(padded, 6).map(([register = 0, , , setting = 0]) => ({ name: `pad-0x${register.toString(16)}`, line: null, setting })),
    }
  }
  const offset = cells('pinctrl-single,pins')
  if (offset) {
    return {
      ...common, binding: 'offset', function: null,
      pins: chunks(offset, Math.max(2, Math.min(3, cellsPerPin))).map(([register = 0, ...values]) => ({
        name: `pad-0x${register.toString(16)}`, line: null, setting: values.at(-1) ?? null,
      })),
    }
  }
  const packed = cells('pinmux')
  if (packed) {
    return {
      ...common, binding: 'packed', function: null,
      pins: packed.map(cell => ({ name: `pin${cell >>> 8}`, line: cell >>> 8, setting: cell & 0xFF })),
    }
  }
  const lettered = text('samsung,pins')
  if (lettered) {
    return {
      ...common, binding: 'lettered', function: null,
      pins: lettered.map(name => ({ name, line: null, setting: cells('samsung,pin-function')?.[0] ?? null })),
    }
  }
  const pins = text('pins')
  const groups = text('groups') ?? text('group')
  const function_ = text('function')?.[0] ?? null
  // Without a function it only says how the pins are driven.
  if (pins && function_ !== null) {
    return { ...common, binding: 'named', function: function_, pins: pins.map(name => ({ name, line: lineOf(name), setting: null })) }
  }
  if (groups && function_ !== null) {
    return { ...common, binding: 'grouped', function: function_, pins: groups.map(name => ({ name, line: lineOf(name), setting: null })) }
  }
  return null
}

function chunks(cells: number[], size: number): number[][] {
  return Array.from({ length: Math.min(MOST_PINS, Math.floor(cells.length / size)) }, (_, i) => cells.slice(i * size, (i + 1) * size))
}

/** `PA11` is line 11, `PC3` line 67, `gpio14` and `GPIO_14` line 14; null for names without a number in them that says so. */
export function lineOf(name: string): number | null {
  const banked = /^P([A-Z])_?(\d{1,2})$/i.exec(name)
  if (banked && Number(banked[2]) < 32) return (banked[1]!.toUpperCase().charCodeAt(0) - 65) * 32 + Number(banked[2])
  const plain = /^(?:gpio|pin|io)[_-]?(\d{1,3})$/i.exec(name)
  return plain ? Number(plain[1]) : null
}

/** Every pin group of a tree, by its phandle as well. */
export function pinGroupsOf(root: TreeNode): { groups: PinGroup[], byHandle: Map<number, PinGroup[]> } {
  const labels = labelsByPath(root)
  const groups: PinGroup[] = []
  const byHandle = new Map<number, PinGroup[]>()
  const owner = new Map<string, number>()
  const cellCounts = new Map<string, number>()
  for (const { node, path } of walk(root)) {
    const handle = phandleOf(node)
    const up = path.slice(0, path.lastIndexOf('/'))
    const inherited = owner.get(up)
    const cells = propertyOf(node, '#pinctrl-cells')
    if (cells?.value.length === 4) cellCounts.set(path, cellsOf(cells.value)[0]!)
    const count = [...cellCounts].find(([controller]) => path.startsWith(`${controller}/`))?.[1] ?? 1
    const group = groupOf(node, path, labels.get(path) ?? [], 1 + count)
    if (group) {
      groups.push(group)
      // A group's node may hold its pins in subnodes: its phandle then stands for them.
      for (const target of [handle, inherited]) if (target !== null && target !== undefined) {
        byHandle.set(target, [...byHandle.get(target) ?? [], group])
      }
    }
    if (handle !== null) owner.set(path, handle)
    else if (inherited !== undefined && group) owner.set(path, inherited)
  }
  return { groups, byHandle }
}

/** Labels of `__symbols__` by the path they name. */
export function labelsByPath(root: TreeNode): Map<string, string[]> {
  const found = new Map<string, string[]>()
  for (const { name, value } of childOf(root, '__symbols__')?.properties ?? []) {
    const [path = ''] = stringsOf(value)
    found.set(path, [...found.get(path) ?? [], name])
  }
  return found
}
