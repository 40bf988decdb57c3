/**
 * The line chips of a tree, how a board's lines are counted over them, and which pin of a pin controller is which line
 * of which chip. Counting: 32 to a chip by its alias or label's number, as makers' tables do; a chip that is not
 * counted has lines of its own.
 */
import type { BoardTree } from '../../catalogue/types'
import { cellsOf, childOf, phandleOf, propertyOf, stringsOf, walk, type TreeNode } from '../types'
import { labelsByPath } from './labels'

export interface GpioChip {
  path: string
  labels: string[]
  handle: number | null
  /** Cells by which a property names a line. */
  cells: number
  /** Number of its first line as the board counts; null where the board does not count it. */
  first: number | null
  /** Which of its lines are which pins of a pin controller (gpio-ranges). */
  ranges: { controller: number, line: number, pin: number, count: number }[]
}

const text = (node: TreeNode, name: string) => {
  const property = propertyOf(node, name)
  return property ? stringsOf(property.value) : []
}
const cells = (node: TreeNode, name: string) => {
  const property = propertyOf(node, name)
  return property && property.value.length % 4 === 0 ? cellsOf(property.value) : []
}

/**
 * Chips of two letters of banks each, by the first of them. Published: Linux kernel,
 * bindings/pinctrl/allwinner,sun4i-a10-pinctrl.
 */
const BANKS_FROM_L = 11 * 32

/**
 * The chips of a tree. `counted` are those whose lines a board's header has, by label; without it they are found by
 * number. On boards whose chips have no number the lines follow one another in the order of the tree: a count of our
 * own, not the kernel's.
 */
export function lineChipsOf(root: TreeNode, counted: BoardTree['chips'] = []): GpioChip[] {
  const labels = labelsByPath(root)
  const aliases = new Map((childOf(root, 'aliases')?.properties ?? []).flatMap(({ name, value }) => {
    const [, number] = /^gpio(\d+)$/.exec(name) ?? []
    return number ? [[stringsOf(value)[0] ?? '', Number(number)] as const] : []
  }))
  const buses: string[] = []
  const found: { chip: GpioChip, onBus: boolean, compatible: string, bank: string, size: number }[] = []
  for (const { node, path } of walk(root)) {
    if (/^(i2c|spi)(@|$)/.test(node.name) && propertyOf(node, '#address-cells')) buses.push(`${path}/`)
    if (!propertyOf(node, 'gpio-controller')) continue
    const list = cells(node, 'gpio-ranges')
    const ranges = Array.from({ length: Math.floor(list.length / 4) }, (_, i) => {
      const [controller = 0, line = 0, pin = 0, count = 0] = list.slice(4 * i)
      return { controller, line, pin, count }
    })
    found.push({
      size: Math.max(
        1, cells(node, 'ngpios')[0] ?? 0, text(node, 'gpio-line-names').length,
        ...ranges.map(({ line, count }) => line + count),
      ),
      onBus: buses.some(
        bus => path.startsWith(bus),
      ), compatible: text(node, 'compatible').join(' '), bank: text(node, 'st,bank-name')[0] ?? '',
      chip: {
        path, labels: labels.get(path) ?? [], handle: phandleOf(node), cells: cells(node, '#gpio-cells')[0] ?? 2,
        first: null,
        ranges,
      },
    })
  }
  const byLabel = found.filter(({ chip }) => counted.some(entry => chip.labels.includes(entry.label)))
  if (byLabel.length) {
    for (const { chip } of byLabel) chip.first = counted.find(entry => chip.labels.includes(entry.label))!.first
    return found.map(({ chip }) => chip)
  }
  const own = found.filter(({ onBus }) => !onBus)
  const numberOf = ({ chip, bank, compatible }: typeof found[number]): number | null => {
    const letter = /^GPIO([A-Z])$/.exec(bank)?.[1]
    if (letter) return letter.charCodeAt(0) - 65
    const alias = aliases.get(chip.path)
    if (alias !== undefined || aliases.size) return alias ?? null
    if (chip.cells === 3 && /-r-pinctrl/.test(compatible)) return BANKS_FROM_L / 32
    if (chip.cells === 3 && /-pinctrl/.test(compatible)) return 0
    const [, number] = chip.labels.map(label => /^gpio(\d+)$/.exec(label)).find(match => match) ?? []
    return number === undefined ? null : Number(number)
  }
  for (const entry of own) {
    const number = numberOf(entry)
    if (number !== null) entry.chip.first = 32 * number
  }
  const free = own.filter(({ chip }) => chip.first === null)
  if (own.length === 1) own[0]!.chip.first = 0
  else if (!aliases.size) {
    let next = Math.max(-32, ...own.map(({ chip }) => chip.first ?? -32)) + 32
    for (const { chip, size } of free) {
      chip.first = next
      next += 32 * Math.ceil(Math.min(size, 1024) / 32)
    }
  }
  return found.map(({ chip }) => chip)
}

/** Where a line lies: on a chip, or known by the board's number only. */
export interface LinePlace {
  chip: GpioChip | null
  /** Its number on the chip; null without one. */
  offset: number | null
  /** As the board counts; null where it does not. */
  line: number | null
}

export const NOWHERE: LinePlace = { chip: null, offset: null, line: null }

/** A line by its chip and number there. Cells of three say bank and line. */
export const onChip = (chip: GpioChip, offset: number): LinePlace => ({
  chip, offset, line: chip.first === null ? null : chip.first + offset,
})

/** A line by the board's number. */
export function numbered(chips: readonly GpioChip[], line: number): LinePlace {
  const chip = chips.filter(entry => entry.first !== null && entry.first <= line).sort((a, b) => b.first! - a.first!)[0]
  return chip ? onChip(chip, line - chip.first!) : { chip: null, offset: null, line }
}

/** The line that a pin of a pin controller is, by the chips' ranges. */
export function ofPin(chips: readonly GpioChip[], controller: number | null, pin: number): LinePlace {
  for (const chip of chips) {
    const range = chip.ranges.find(entry =>
      entry.controller === controller && pin >= entry.pin && pin < entry.pin + entry.count)
    if (range) return onChip(chip, range.line + pin - range.pin)
  }
  return NOWHERE
}

/** A line in words: as the board counts, or by chip and number. */
export function lineWords({ chip, offset, line }: LinePlace): string {
  if (line !== null) return String(line)
  return chip ? `${chip.labels[0] ?? chip.path.split('/').at(-1)} ${offset}` : '?'
}

/** The same for the same line, however it was named. */
export const lineKey = (
  { chip, offset, line }: LinePlace,
): string | null => {
  if (chip) return `${chip.path} ${offset}`
  return line === null ? null : `line ${line}`
}
