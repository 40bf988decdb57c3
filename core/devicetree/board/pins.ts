/**
 * Pin groups as the common pin controllers write them. Told by their properties, not by the name of the chip: a group
 * is a node that has one of these. Published: Linux kernel, `Documentation/devicetree/bindings/pinctrl` (the binding is
 * named with each).
 */
import { cellsOf, phandleOf, propertyOf, stringsOf, type TreeNode } from '../types'
import { labelsByPath } from './labels'
import { NOWHERE, numbered, ofPin, onChip, type GpioChip, type LinePlace } from './lines'
import type { PadTable } from './pads'

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
  /**
   * Pins and function by name, each behind the maker's prefix: `…,pins` and `…,function`
   * (marvell,mvebu-pinctrl and others).
   */
    | 'prefixed'

export interface GroupPin {
  /**
   * As the kernel names it: `PA11`, `gpio14`, `GPIO2_D0`, `I2C1_SCL`; a register or a group's name where nothing
   * better is known.
   */
  name: string
  /** The name is not the pin's own, but where it is found: a register, or a group whose pins are not known. */
  isUnnamed?: boolean
  /** Number of the line as the board counts; null where that is not known. */
  line: number | null
  place: LinePlace
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
const MAX_PINS = 512

/** The pin controller a group belongs to. */
interface PinController {
  path: string
  compatible: string[]
  handle: number | null
  /** Cells behind a register (pinctrl-single). */
  cells: number
  /** Bytes of a register (pinctrl-single). */
  width: number
}

/** What pins are told by. */
interface Around {
  controller: PinController | null
  chips: readonly GpioChip[]
  board: readonly string[]
  pads: PadTable | null
}

type Pin = Omit<GroupPin, 'line'>

/** The group a node is; null when it is none. Subnodes of a group are groups of their own. */
function groupOf(node: TreeNode, path: string, labels: string[], around: Around): PinGroup | null {
  const text = (name: string) => {
    const property = propertyOf(node, name)
    return property ? stringsOf(property.value).slice(0, MAX_PINS) : null
  }
  const cells = (name: string) => {
    const property = propertyOf(node, name)
    return property && property.value.length % 4 === 0 ? cellsOf(property.value).slice(0, 8 * MAX_PINS) : null
  }
  const group = (binding: PinBinding, pins: Pin[], function_: string | null = null): PinGroup => ({
    path, name: node.name, labels, binding, function: function_,
    pins: pins.map(pin => ({ ...pin, line: pin.place.line })),
  })
  const { controller, chips } = around
  const own = chips.find(chip => chip.path === controller?.path)
  /** A pin of a controller whose lines are its pins. */
  const plain = (number: number): LinePlace =>
    own ? onChip(own, number) : controlledBy(chips, controller) ?? numbered(chips, number)
  const brcm = cells('brcm,pins')
  if (brcm) {
    const settings = cells('brcm,function') ?? []
    return group(
      'numbered', brcm.map((line,
        i) => ({ name: `gpio${line}`, place: plain(line), setting: settings[i] ?? settings.at(-1) ?? null })),
    )
  }
  const banked = cells('rockchip,pins')
  if (banked) {
    return group('banked', chunks(banked, 4).map(([bank = 0, pin = 0, setting = 0]) => ({
      name: `GPIO${bank}_${'ABCD'[pin >> 3] ?? '?'}${pin & 7}`, place: numbered(chips, bank * 32 + pin), setting,
    })))
  }
  const padded = cells('fsl,pins')
  if (padded) {
    return group('padded',
      chunks(padded, 6).map(([register = 0, , , setting = 0]) => ({ ...padOf(register, around), setting })))
  }
  const offset = cells('pinctrl-single,pins')
  if (offset && controller) {
    return group('offset', chunks(offset, 1 + controller.cells).map(([register = 0, ...values]) => {
      const pad = padOf(register, around)
      const place = ofPin(chips, controller.handle, Math.floor(register / controller.width))
      // A pad without a name of its own goes by the line that it is.
      const name = pad.isUnnamed && place.chip
        ? `${place.chip.labels[0] ?? place.chip.path.split('/').at(-1)}-${place.offset}`
        : pad.name
      return { ...pad, name, isUnnamed: name === pad.name && pad.isUnnamed, place, setting: values.at(-1) ?? null }
    }))
  }
  const packed = cells('pinmux')
  if (packed) return group('packed', packed.map(cell => packedPin(cell, around, plain)))
  const lettered = text('samsung,pins')
  const letteredAs = cells('samsung,pin-function')?.[0]
  if (lettered && letteredAs !== undefined) {
    return group('lettered', lettered.map((name) => {
      const [, bank = '', number = ''] = /^(\w+)-(\d+)$/.exec(name) ?? []
      const chip = bank && chips.find(
        entry => entry.labels.includes(bank) || entry.path.split('/').at(-1)!.split(/-gpio-bank|@/)[0] === bank,
      )
      return { name, place: chip ? onChip(chip, Number(number)) : NOWHERE, setting: letteredAs }
    }))
  }
  const prefix = node.properties.map(property => /^([\w-]+),pins$/.exec(property.name)?.[1]).find(word => word)
  const prefixed = prefix && text(`${prefix},pins`)
  const prefixedAs = prefix && text(`${prefix},function`)?.[0]
  if (prefixed && prefixedAs !== undefined) {
    return group('prefixed', prefixed.map(name => ({ name, place: ofName(name, around), setting: null })), prefixedAs)
  }
  const pins = text('pins')
  const groups = text('groups') ?? text('group')
  const function_ = text('function')?.[0] ?? null
  // Without a function it only says how the pins are driven.
  if (pins && function_ !== null) {
    return group('named', pins.map((name) => {
      const line = lineOf(name)
      return { name, place: line === null ? NOWHERE : /^P[A-Z]/i.test(name) ? numbered(chips, line) : plain(line),
        setting: null }
    }), function_)
  }
  if (groups && function_ !== null) return group('grouped', groups.flatMap(name => groupPins(name, around)), function_)
  return null
}

/** The chip of a controller that has only other chips' lines: then its numbers are none of the board's. */
const controlledBy = (chips: readonly GpioChip[], controller: PinController | null): LinePlace | null =>
  controller && chips.some(chip => chip.first === 0) && chips.filter(chip => chip.first !== null).length === 1
  && !chips.some(chip => chip.path.startsWith(`${controller.path}/`) || controller.path.startsWith(`${chip.path}/`)
    || chip.ranges.some(range => range.controller === controller.handle))
    ? NOWHERE
    : null

/** A pad by its register. */
function padOf(register: number, { controller, board, chips, pads }: Around): Omit<Pin, 'setting'> {
  const hex = `0x${register.toString(16)}`
  for (const name of [...controller?.compatible ?? [], ...board]) {
    const [pad, line] = pads?.pads[name]?.[hex] ?? []
    if (pad) return { name: pad, isUnnamed: false,
      place: line === null || line === undefined ? NOWHERE : numbered(chips, line) }
  }
  return { name: `pad-${hex}`, isUnnamed: true, place: NOWHERE }
}

/** `pinmux`: how pin and setting share a cell depends on the maker of the chip. */
function packedPin(cell: number, { controller, chips }: Around, plain: (number: number) => LinePlace): Pin {
  const compatible = controller?.compatible.join(' ') ?? ''
  const port = (number: number,
    size: number) => `P${String.fromCharCode(65 + Math.floor(number / size))}${number % size}`
  // Published: Linux kernel, include/dt-bindings/pinctrl/stm32-pinfunc.h: port and line of 16, mode below.
  if (/st,stm32/.test(compatible)) {
    const name = port(cell >>> 8, 16)
    return { name, place: numbered(chips, lineOf(name) ?? 0), setting: cell & 0xFF }
  }
  // Published: arch/arm/boot/dts/sama5d2-pinfunc.h: number below, function above it.
  if (/atmel,sama5d2|microchip,sama7/.test(compatible)) {
    const number = cell & 0xFFFF
    return { name: port(number, 32), place: plain(number), setting: cell >>> 16 & 0xF }
  }
  // Published: include/dt-bindings/pinctrl/rzg2l-pinctrl.h: ports of 8, the function above.
  if (/renesas,r9a0/.test(compatible)) {
    const number = cell & 0xFFFF
    return { name: `P${number >> 3}_${number & 7}`, place: plain(number), setting: cell >>> 16 & 0xF }
  }
  // Published: include/dt-bindings/pinctrl/apple.h: number below, function above it.
  if (/apple,pinctrl/.test(compatible)) return { name: `gpio${cell & 0xFFFF}`, place: plain(cell & 0xFFFF),
    setting: cell >>> 16 }
  // Published: include/dt-bindings/pinctrl/mt65xx.h.
  return { name: `${/mediatek/.test(compatible) ? 'GPIO' : 'pin'}${cell >>> 8}`, place: plain(cell >>> 8),
    setting: cell & 0xFF }
}

/**
 * `mpp35` is line 35, counted over the chips or by their ranges; `gen1_i2c_scl_pj1` ends in its port, 8
 * lines each, on one chip. Published: Linux kernel, bindings/pinctrl (…,mvebu-pinctrl;
 * …,tegra210-pinmux) and include/dt-bindings/gpio/tegra-gpio.h.
 */
function ofName(name: string, { controller, chips }: Around): LinePlace {
  const [, multi] = /^mpp(\d+)$/.exec(name) ?? []
  if (multi !== undefined) {
    const number = Number(multi)
    // Chips of one controller alone are its lines in their order; more of them say by their ranges which are whose.
    const banks = chips.some(chip => chip.ranges.length) ? [] : chips.filter(chip => chip.first !== null)
    const chip = banks[Math.floor(number / 32)]
    return chip ? onChip(chip, number % 32) : ofPin(chips, controller?.handle ?? null, number)
  }
  const [, letters = '', number = ''] = /_p([a-z]{1,2})(\d)$/.exec(name) ?? []
  const chip = chips.find(entry => entry.first === 0)
  if (!letters || !chip) return NOWHERE
  const port = letters.length === 2 ? 26 + letters.charCodeAt(1) - 97 : letters.charCodeAt(0) - 97
  return onChip(chip, 8 * port + Number(number))
}

/** The pins of a group that a driver knows by name. */
function groupPins(name: string, { controller, chips, pads }: Around): Pin[] {
  const list = controller?.compatible.map(entry => pads?.groups[entry]).find(entry => entry)
  const known = (typeof list === 'string' ? pads?.groups[list] as Exclude<typeof list, string> : list)?.[name]
  const chip = chips.find(entry => controller && entry.path.startsWith(`${controller.path}/`))
  if (known) return known.map(
    ([pin, number]) => ({ name: pin, place: chip && number !== null ? onChip(chip, number) : NOWHERE, setting: null }),
  )
  const line = lineOf(name)
  return [{ name, isUnnamed: line === null, place: line === null ? NOWHERE : numbered(chips, line), setting: null }]
}

function chunks(cells: number[], size: number): number[][] {
  return Array.from({ length: Math.min(MAX_PINS, Math.floor(cells.length / size)) },
    (_, i) => cells.slice(i * size, (i + 1) * size))
}

/**
 * `PA11` is line 11, `PC3` line 67, `gpio14` and `GPIO_14` line 14; null for names without a number in them
 * that says so.
 */
export function lineOf(name: string): number | null {
  const banked = /^P([A-Z])_?(\d{1,2})$/i.exec(name)
  if (banked && Number(banked[2]) < 32) return (banked[1]!.toUpperCase().charCodeAt(0) - 65) * 32 + Number(banked[2])
  const plain = /^(?:gpio|pin|io)[_-]?(\d{1,3})$/i.exec(name)
  return plain ? Number(plain[1]) : null
}

/** Every pin group of a tree, by its phandle as well. `pads` names what trees leave unnamed. */
export function pinGroupsOf(
  root: TreeNode, chips: readonly GpioChip[], pads: PadTable | null = null,
): { groups: PinGroup[], byHandle: Map<number, PinGroup[]> } {
  const labels = labelsByPath(root)
  const groups: PinGroup[] = []
  const byHandle = new Map<number, PinGroup[]>()
  const board = stringsOf(propertyOf(root, 'compatible')?.value ?? new Uint8Array())
  const visit = (node: TreeNode, path: string, above: PinController | null, inherited: number | null) => {
    const handle = phandleOf(node)
    const compatible = propertyOf(node, 'compatible')
    const number = (name: string, otherwise: number) => {
      const property = propertyOf(node, name)
      return property?.value.length === 4 ? cellsOf(property.value)[0]! : otherwise
    }
    const controller = compatible
      ? {
          path, compatible: stringsOf(compatible.value), handle, cells: Math.min(7, number('#pinctrl-cells', 1)),
          width: Math.max(1, number('pinctrl-single,register-width', 32) / 8),
        }
      : above
    const group = groupOf(node, path, labels.get(path) ?? [], { controller, chips, board, pads })
    if (group) {
      groups.push(group)
      // A group's node may hold its pins in subnodes: its phandle then stands for them.
      for (const target of new Set([handle,
        inherited])) if (target !== null) byHandle.set(target, [...byHandle.get(target) ?? [], group])
    }
    const onward = compatible ? null : handle ?? inherited
    for (const child of node.children) visit(child, `${path === '/' ? '' : path}/${child.name}`, controller, onward)
  }
  visit(root, '/', null, null)
  return { groups, byHandle }
}
