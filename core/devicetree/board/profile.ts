/**
 * A board as its own tree tells it: controllers with labels and status, pin groups, line names, and what an
 * overlay can name.
 */
import { cellsOf, childOf, propertyOf, stringsOf, walk, type DeviceTree, type TreeNode } from '../types'
import type { BoardTree } from '../../catalogue/types'
import { labelsByPath } from './labels'
import { lineChipsOf, type GpioChip } from './lines'
import type { PadTable } from './pads'
import { pinGroupsOf, type PinBinding, type PinGroup } from './pins'

export type TreeControllerKind = 'i2c' | 'spi' | 'serial' | 'pwm' | 'i2s' | 'can' | 'mmc' | 'usb' | 'ethernet' | 'gpio'

export interface TreeController {
  path: string
  labels: string[]
  kind: TreeControllerKind
  /** Number of its alias, e.g. 1 for `i2c1`; null where it has none. */
  number: number | null
  compatible: string[]
  /** `okay` where the tree says nothing. */
  status: string
  /** Groups of its default pin state. */
  groups: PinGroup[]
  /** Where a program finds it once it is on. */
  device: string | null
  /** Of line chips: cells by which a property names a line. */
  gpioCells?: number
}

export interface TreeLine {
  /** Path of the line chip. */
  chip: string
  chipLabels: string[]
  line: number
  name: string
}

export interface BoardProfile {
  model: string
  compatible: string[]
  /** Built with labels, so that overlays can name its nodes. */
  hasSymbols: boolean
  controllers: TreeController[]
  groups: PinGroup[]
  /** Bindings of its pin controllers, most used first. */
  bindings: PinBinding[]
  lines: TreeLine[]
  chips: GpioChip[]
  /** Labels that an overlay can name. */
  labels: string[]
  /** Parameters of the base, where the tree has any. */
  parameters: string[]
}

const BY_NAME: [RegExp, TreeControllerKind][] = [
  [/^i2c(-?\d*)?$/, 'i2c'], [/^(spi|qspi)$/, 'spi'], [/^(serial|uart)$/, 'serial'], [/^pwm$/, 'pwm'],
  [/^(i2s|sai|sound-i2s)$/, 'i2s'],
  [/^can$/, 'can'], [/^(mmc|sdhci|mshc|dwmmc|sdmmc)$/, 'mmc'], [/^usb$/, 'usb'], [/^ethernet$/, 'ethernet'],
  [/^gpio$/, 'gpio'],
]

/** What kind of controller a node is, by its own name, or by what its `compatible` ends in. */
function kindOf(node: TreeNode, compatible: readonly string[]): TreeControllerKind | null {
  const name = node.name.split('@')[0]!
  if (propertyOf(node, 'gpio-controller')) return 'gpio'
  if (!compatible.length) return null
  const byName = BY_NAME.find(([pattern]) => pattern.test(name))?.[1]
  if (byName) return byName
  const text = compatible.join(' ')
  if (/-uart\b|\bpl011\b|ns16550/.test(text)) return 'serial'
  if (/-i2c\b/.test(text)) return 'i2c'
  if (/-spi\b/.test(text)) return 'spi'
  if (/-pwm\b/.test(text)) return 'pwm'
  return /-i2s\b/.test(text) ? 'i2s' : null
}

const textOf = (node: TreeNode, name: string) => {
  const property = propertyOf(node, name)
  return property ? stringsOf(property.value) : []
}

export interface ProfileOptions {
  /** Names of pads that trees leave unnamed. */
  pads?: PadTable
  /** Chips whose lines a board's header has. */
  counted?: BoardTree['chips']
}

/** Reads a board from its tree. Any tree that a blob holds is read; what it does not say is left empty. */
export function profileOf(tree: DeviceTree, { pads, counted }: ProfileOptions = {}): BoardProfile {
  const { root } = tree
  const labels = labelsByPath(root)
  const chips = lineChipsOf(root, counted)
  const { groups, byHandle } = pinGroupsOf(root, chips, pads)
  const numbers = aliasNumbers(root)
  const controllers: TreeController[] = []
  const lines: TreeLine[] = []
  for (const { node, path } of walk(root)) {
    if (path.startsWith('/__') || path.startsWith('/aliases')) continue
    const compatible = textOf(node, 'compatible')
    const kind = kindOf(node, compatible)
    // Devices on a bus are parts, not controllers of the board; a line chip on a bus is one all the same.
    if (kind && (propertyOf(node, 'reg') || kind === 'gpio')) {
      const number = numbers.get(path) ?? null
      const handles = cells(node, 'pinctrl-0')
      controllers.push({
        path, labels: labels.get(path) ?? [], kind, number, compatible, status: textOf(node, 'status')[0] ?? 'okay',
        groups: handles.flatMap(handle => byHandle.get(handle) ?? []), device: deviceOf(kind, number, compatible),
        ...(kind === 'gpio' && { gpioCells: cells(node, '#gpio-cells')[0] ?? 2 }),
      })
    }
    textOf(node, 'gpio-line-names')
      .forEach((name, line) => lines.push({ chip: path, chipLabels: labels.get(path) ?? [], line, name }))
  }
  const symbols = childOf(root, '__symbols__')
  const used = (binding: PinBinding) => groups.filter(group => group.binding === binding).length
  const bindings = [...new Set(groups.map(group => group.binding))].sort((a, b) => used(b) - used(a))
  return {
    model: textOf(root, 'model')[0] ?? '', compatible: textOf(root, 'compatible'),
    hasSymbols: !!symbols?.properties.length, controllers,
    groups, bindings, lines, chips,
    labels: (symbols?.properties ?? []).map(property => property.name),
    parameters: (childOf(root, '__overrides__')?.properties ?? []).map(property => property.name),
  }
}

function cells(node: TreeNode, name: string): number[] {
  const property = propertyOf(node, name)
  return property && property.value.length % 4 === 0 ? cellsOf(property.value) : []
}

/** Number of each node's alias: `i2c1 = &…` makes it number 1 of its kind. */
function aliasNumbers(root: TreeNode): Map<string, number> {
  const numbers = new Map<string, number>()
  for (const { name, value } of childOf(root, 'aliases')?.properties ?? []) {
    const match = /^(?:i2c|spi|serial|pwm|mmc|ethernet|can|gpio)(\d+)$/.exec(name)
    const path = stringsOf(value)[0]
    if (match && path?.startsWith('/') && !numbers.has(path)) numbers.set(path, Number(match[1]))
  }
  return numbers
}

/** Where a program finds a controller. Names of serial ports follow the driver. memory */
export function deviceOf(kind: TreeControllerKind, number: number | null,
  compatible: readonly string[]): string | null {
  if (number === null) return null
  switch (kind) {
    case 'i2c': return `/dev/i2c-${number}`
    case 'spi': return `/dev/spidev${number}.{select}`
    case 'serial': return `/dev/tty${serialPrefix(compatible)}${number}`
    case 'mmc': return `/dev/mmcblk${number}`
    case 'gpio': return `/dev/gpiochip${number}`
    default: return null
  }
}

/** How the driver of a serial port names it. memory */
export function serialPrefix(compatible: readonly string[]): string {
  const text = compatible.join(' ')
  if (/pl011/.test(text)) return 'AMA'
  if (/meson.*uart|amlogic/.test(text)) return 'AML'
  if (/imx.*uart/.test(text)) return 'mxc'
  if (/stm32.*u?art/.test(text)) return 'STM'
  if (/geni-.*uart|msm-uart/.test(text)) return 'MSM'
  if (/s3c|exynos.*uart/.test(text)) return 'SAC'
  return 'S'
}

/** Every node that an overlay could be laid on by path: for trees without labels. */
export const overlayTarget = (profile: BoardProfile,
  controller: TreeController): string => controller.labels[0] && profile.hasSymbols
  ? `&${controller.labels[0]}`
  : `&{${controller.path}}`
