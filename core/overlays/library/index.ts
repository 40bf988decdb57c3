/**
 * The overlay library: what is known by name, what a line with its parameters takes, and what it lays onto a base tree.
 */
import { overlays } from '../../catalogue/generated/overlays'
import type { Board } from '../../catalogue/types'
import { tableOf } from '../../collections/table'
import { AUDIO } from './overlays/audio'
import { BUSES } from './overlays/buses'
import { CAMERAS_AND_VIDEO_INPUTS } from './overlays/cameras'
import { DISPLAYS } from './overlays/displays'
import { INPUT } from './overlays/input'
import { LINKS } from './overlays/links'
import { OUTPUTS } from './overlays/outputs'
import { SENSORS } from './overlays/sensors'
import { SERIAL_PORTS } from './overlays/serial-ports'
import { STORAGE } from './overlays/storage'
import { SYSTEM } from './overlays/system'
import { SETTINGS } from './settings'
import type { Appears, Claim, OverlaySpec, ParamSpec, SettingSpec } from './types'

/** A parameter as a line gives it. */
export interface GivenParam {
  name: string
  value: string
}

/** What the library has, and the overlays that parts bring in their folders. */
export const OVERLAYS: ReadonlyMap<string, OverlaySpec> = new Map(
  [
    ...BUSES, ...SERIAL_PORTS, ...STORAGE, ...SENSORS, ...CAMERAS_AND_VIDEO_INPUTS, ...OUTPUTS, ...DISPLAYS,
    ...LINKS, ...AUDIO, ...INPUT, ...SYSTEM, ...(overlays as OverlaySpec[][]).flat(),
  ].map(spec => [spec.name, spec]),
)

/** Settings of the key-value dialect by name. */
export const SETTING_SPECS: ReadonlyMap<string, SettingSpec> = new Map(SETTINGS.map(spec => [spec.name, spec]))

/** Other names of an overlay: endings that images of one board class put behind it. */
const ALIASES = tableOf<string>({
  'vc4-kms-v3d-pi4': 'vc4-kms-v3d', 'vc4-kms-v3d-pi5': 'vc4-kms-v3d', 'vc4-fkms-v3d-pi4': 'vc4-fkms-v3d',
  'pi3-disable-bt': 'disable-bt',
  'pi3-miniuart-bt': 'miniuart-bt', 'pi3-disable-wifi': 'disable-wifi', 'upstream': 'vc4-kms-v3d',
  'i2c1-bcm2708': 'i2c1',
  'i2c0-bcm2708': 'i2c0', 'miniuart-bt-pi5': 'miniuart-bt',
})

/**
 * The newest family's overlays have its name behind those of the others; the plain name is led to them there. memory
 */
const NEWEST = /^(i2c[0-3]|uart[0-4]|spi[235]-[12]cs|midi-uart[0-4]|w1-gpio|w1-gpio-pullup|disable-bt|disable-wifi|pcie-32bit-dma|dwc2|i2s-dac)-pi5$/

/** The name without the newest family's ending; null for other names. */
export const newestName = (name: string): string | null => NEWEST.exec(name)?.[1] ?? null

export const overlayNamed = (name: string): OverlaySpec | undefined => OVERLAYS.get(name) ?? OVERLAYS.get(
  ALIASES[name] ?? newestName(name) ?? '',
)

/** The name under which the overlay lists a parameter. */
export const listedName = (spec: OverlaySpec, name: string): string =>
  spec.alike?.find(([pattern]) => new RegExp(pattern).test(name))?.[1] ?? name

const OFF = new Set(['off', 'no', 'false', 'n', '0', 'disabled', 'disable'])
export const isOn = (value: string) => !OFF.has(value.toLowerCase())

/** A number as boot files write it, decimal or with 0x; NaN when it is none. */
export function numberOf(text: string): number {
  if (/^[+-]?(\d+|0x[0-9a-f]+)$/i.test(text.trim())) return text.trim().startsWith('-')
    ? -Number(text.trim().slice(1))
    : Number(text.trim())
  return Number.NaN
}

/** The overlay with its parameters filled in from a line and, where the line says nothing, from its defaults. */
export interface Resolved {
  spec: OverlaySpec
  values: Record<string, string>
  /** Flags and parameters that the line itself gives. */
  given: ReadonlySet<string>
  /** Chosen part of an overlay that serves several. */
  chosen: string | null
  bus: string | null
  select: number | null
  address: number | null
}

export function resolveOverlay(spec: OverlaySpec, params: readonly GivenParam[]): Resolved {
  const values: Record<string, string> = {}
  for (const param of spec.params) if (param.default !== undefined) values[param.name] = param.default
  const given = new Set<string>()
  for (const { name: written, value } of params) {
    const name = listedName(spec, written)
    const known = spec.params.find(param => param.name === name)
    values[name] = value || (known?.kind === 'flag' ? 'on' : value)
    given.add(name)
  }
  const on = (name: string) => given.has(name) && isOn(values[name]!)
  const chosen = Object.keys(spec.choices ?? {}).find(on) ?? null
  const picked = chosen ? spec.choices![chosen]! : null
  if (picked?.address && !given.has('addr')) values.addr = picked.address
  // The select is part of a flag's name: spi0-1, spi1-2-present, s17-spi0-0-present.
  const seat = [...given].map(name => /(?:^|-)spi(\d)-(\d)(?:-present)?$/.exec(name)).find(match => match)
  const spi = seat ? Number(seat[1]) : 0
  const select = seat ? Number(seat[2]) : 0
  const i2c = ['i2c0', 'i2c3', 'i2c4', 'i2c5', 'i2c6'].find(on) ?? 'i2c1'
  const fill = (text: string | undefined) => text?.replace('{bus}', i2c)
    .replace('{spi}', String(spi))
    .replace('{select}', String(select))
    .replace(/\{(\w+)\}/g, (_, name: string) => values[name] ?? '')
  const address = numberOf(fill(spec.address) ?? '')
  return {
    spec, values, given, chosen, bus: spec.bus ? fill(spec.bus)! : null,
    select: spec.select === undefined ? null : Number(fill(spec.select)),
    address: Number.isNaN(address) ? null : address,
  }
}

/**
 * Everything the overlay takes on this board. Lines of a bus are those the board's file gives for it, where it does.
 */
export function claimsOf(resolved: Resolved, board: Board | null = null): Claim[] {
  const { spec, values, bus, select, address } = resolved
  const claims: Claim[] = []
  const served = serialRoute(resolved, board)
  for (const param of spec.params) {
    if (param.kind !== 'line' || served) continue
    const line = numberOf(values[param.name] ?? '')
    if (Number.isInteger(line) && line >= 0 && line <= 27 && !hasNo(resolved, param.name)) {
      claims.push({ kind: 'line', line, as: param.what, param: param.name })
    }
  }
  for (const line of linesOf(resolved, board)) claims.push({ kind: 'line', line, as: spec.what })
  for (const [line, as] of Object.entries(spec.lines ?? {})) claims.push({ kind: 'line', line: Number(line), as })
  if (bus) claims.push({ kind: 'bus', bus })
  if (bus && address !== null) claims.push({ kind: 'address', bus, address })
  if (bus && select !== null && Number.isFinite(select)) claims.push({ kind: 'select', bus, select })
  for (const enabled of spec.enables ?? []) claims.push({ kind: 'enables', bus: enabled })
  // Boards with two connectors of a kind say which by a flag.
  const first = resolved.given.has('cam0') || resolved.given.has('dsi0')
  for (const name of spec.holds ?? []) claims.push(
    { kind: 'circuit', name: first ? name.replace(/^the (camera|display)/, 'the first $1') : name },
  )
  return claims
}

/** Interrupt lines that a flag leaves out. */
function hasNo({ given, values, spec }: Resolved, param: string): boolean {
  const without = given.has('noints') && isOn(values.noints!)
  if (without && /gpiopin|interrupt/.test(param)) return true
  // An interrupt line with a default is wired only where the line says so.
  return spec.bus === '{bus}' && param === 'gpiopin' && spec.name === 'mcp23017' && !given.has('gpiopin')
}

/** Lines of a controller that the overlay switches on. */
function linesOf(resolved: Resolved, board: Board | null): number[] {
  const { spec, given, values } = resolved
  const served = serialRoute(resolved, board)
  if (served) return served
  if (!spec.linesBy) return []
  const flag = Object.keys(spec.linesBy).find(name => name && given.has(name) && isOn(values[name]!)) ?? ''
  return spec.linesBy[flag] ?? []
}

/** Lines of a serial port as the board's own file leads it out, where the line itself names none. */
function serialRoute({ spec, given, values }: Resolved, board: Board | null): number[] | null {
  if (spec.group !== 'serial' || !spec.enables
    || [...given].some(name => spec.params.find(param => param.name === name)?.kind === 'line')) {
    return null
  }
  const route = board?.controllers.filter(controller => spec.enables!.includes(controller.id))
    .flatMap(controller => controller.routes)
    .find(entry => entry.boot.some(need => need.kind === 'overlay' && need.name === spec.name))
  if (!route) return null
  const { tx, rx, cts, rts } = route.lines
  return [tx, rx, ...given.has('ctsrts') && isOn(values.ctsrts!) ? [cts, rts] : []].filter(line => line !== undefined)
}

/** Device nodes and folders that appear when it loads. */
export function appearsOf(resolved: Resolved): Appears[] {
  const { spec, chosen } = resolved
  const own = chosen ? spec.choices![chosen]!.appears : undefined
  return (own ?? spec.appears).map(({ path, what }) => ({ path: filled(path, resolved, null), what }))
}

/**
 * Source of what the line lays onto the base tree, as one overlay. `spidev` nodes of the base go where a part
 * takes their select.
 */
export function sourceOf(resolved: Resolved, board: Board | null = null): string {
  const body = filled(resolved.spec.tree, resolved, board)
  return `/dts-v1/;\n/plugin/;\n\n/ {\n\tcompatible = "brcm,bcm2835";\n};\n\n${body}`
}

const HEX = (value: string) => {
  const n = numberOf(value)
  return Number.isNaN(n) ? '0' : n.toString(16)
}

function filled(text: string, resolved: Resolved, board: Board | null): string {
  const { spec, values, chosen, bus, select } = resolved
  const param = (name: string): ParamSpec | undefined => spec.params.find(entry => entry.name === name)
  const lines = linesOf(resolved, board)
  return text
    .replace(
      /\{gpio:([\w-]+):([\w-]+)\}/g,
      (_, name: string, property: string) =>
        values[name] ? `\t\t${property} = <&gpio ${numberOf(values[name])} 0>;\n` : '',
    )
    .replace(/\{([\w-]+)(?::(\w+))?\}/g, (whole, name: string, form?: string) => {
      if (name === 'bus' && spec.bus) return bus ?? ''
      if (name === 'busnumber') return bus?.replace(/\D/g, '') ?? ''
      if (name === 'spi') return bus?.replace('spi', '') ?? '0'
      if (name === 'select') return String(select ?? 0)
      // The base tree has devices for programs on SPI 0 alone.
      if (name === 'spidev') return bus === 'spi0' ? `\n&spidev0_${select ?? 0} {\n\tstatus = "disabled";\n};\n` : ''
      if (name === 'lines') return lines.join(' ')
      if (name === 'chosen') return chosen ?? spec.name
      if (name === 'compatible' && spec.choices) return chosen ? spec.choices[chosen]!.compatible : 'none'
      if (name === 'chosen_compatible') return chosen ? spec.choices![chosen]!.compatible : 'none'
      if (name === 'label') return spec.name.replace(/\W/g, '_')
      if (name === 'label_text') return (values.label ?? spec.name).replace(/[^\w-]/g, '')
      const value = values[name]
      if (form === 'hex') return HEX(value ?? '0')
      if (form === 'unit') return value === undefined ? '22' : HEX(value)
      if (form === 'status') return isOn(value ?? 'on') ? 'okay' : 'disabled'
      if (form === 'bit') return value !== undefined && isOn(value) ? '1' : '0'
      if (value === undefined) return param(name) ? '0' : whole
      if (param(name)?.kind === 'text') return value.replace(/["\\\n]/g, '')
      const figure = numberOf(value)
      if (param(name)?.kind === 'choice' && Number.isNaN(figure)) return value.replace(/["\\\n]/g, '')
      if (Number.isNaN(figure)) return '0'
      return figure < 0
        ? `(${figure})`
        : String(figure)
    })
}
