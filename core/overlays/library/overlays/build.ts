/**
 * Small words to write overlays of the library with. Everything here is from memory unless an overlay says otherwise.
 */
import type { Appears, Choice, OverlaySpec, ParamSpec } from '../types'

export const ORIGIN = 'memory'

export const line = (name: string, standard: number | null, what: string): ParamSpec => ({
  name, kind: 'line', what, min: 0, max: 27, ...(standard !== null && { default: String(standard) }),
})
export const flag = (name: string, what: string): ParamSpec => ({ name, kind: 'flag', what })
export const number = (name: string, standard: number | null, min: number, max: number, what: string): ParamSpec => ({
  name, kind: 'number', what, min, max, ...(standard !== null && { default: String(standard) }),
})
export const choice = (name: string, values: string[], standard: string | null, what: string): ParamSpec => ({
  name, kind: 'choice', what, values, ...(standard !== null && { default: standard }),
})
export const text = (name: string, standard: string | null, what: string): ParamSpec => ({
  name, kind: 'text', what, ...(standard !== null && { default: standard }),
})
export const address = (standard: string, what = 'address of the part'): ParamSpec => ({
  name: 'addr', kind: 'address', what, default: standard, min: 3, max: 0x77,
})
export const at = (path: string, what: string): Appears => ({ path, what })

/** Flags that move a part from I²C 1 to another bus. */
export const I2C_FLAGS: ParamSpec[] = ['i2c0', 'i2c3', 'i2c4', 'i2c5', 'i2c6'].map(name => flag(
  name, `the part is on I²C ${name.slice(3)}, not 1`,
))

type More = Partial<OverlaySpec> & Pick<OverlaySpec, 'group'>

/** The clock of a part with a crystal of its own, whose parameter says how fast it is. */
const fed = (crystal?: string) => crystal ? '\t\tclocks = <&{label}_osc>;\n' : ''
const clockOf = (crystal?: string) => crystal
  ? `\n&{/} {\n\t{label}_osc: {label}-osc {\n\t\tcompatible = "fixed-clock";\n\t\t#clock-cells = <0>;\n\t\tclock-frequency = `
  + `<{${crystal}}>;\n\t};\n};\n`
  : ''

/** A part on an I²C bus, one kind or several by flag. */
export function onI2c(
  name: string, what: string, part: { compatible: string, address: string, node?: string } | Record<string, Choice>,
  more: More & { properties?: string, crystal?: string },
): OverlaySpec {
  const { properties = '', crystal, params = [], ...rest } = more
  const single = typeof (part as { compatible: unknown }).compatible === 'string'
    ? part as { compatible: string, address: string, node?: string }
    : null
  const choices = single ? undefined : part as Record<string, Choice>
  const standard = single?.address ?? Object.values(choices!)[0]!.address!
  return {
    name, what, origin: ORIGIN, appears: [], bus: '{bus}', address: '{addr}', ...(choices && { choices }),
    tree: `&{bus} {\n\tstatus = "okay";\n\t#address-cells = <1>;\n\t#size-cells = <0>;\n\n\t${single?.node ?? '{chosen}'}@{addr:hex} `
      + `{\n\t\tcompatible = "${single?.compatible ?? '{compatible}'}";\n\t\treg = `
      + `<{addr}>;\n${fed(crystal)}${properties}\t};\n};\n${clockOf(crystal)}`,
    ...rest,
    params: [...Object.entries(choices ?? {}).map(([id, entry]) => flag(id, entry.what)), address(standard), ...params,
      ...I2C_FLAGS],
  }
}

interface OnSpi {
  properties?: string
  clockHz?: number
  select?: string
  node?: string
  /** Parameter that says how fast its own crystal is. */
  crystal?: string
}

/** A part on SPI 0 with a select; the spidev node of that select goes. */
export function onSpi(
  name: string, what: string, compatible: string, more: More & OnSpi,
): OverlaySpec {
  const { properties = '', crystal, clockHz = 1_000_000, select = '0', node, params = [], bus = 'spi0', ...rest } = more
  return {
    name, what, origin: ORIGIN, appears: [], bus, select, ...rest,
    params,
    tree: `&${bus} {\n\tstatus = "okay";\n\t#address-cells = <1>;\n\t#size-cells = `
      + `<0>;\n\n\t${node ?? compatible.split(',').at(-1)}@${select} {\n\t\tcompatible = "${compatible}";\n\t\treg = `
      + `<${select}>;\n\t\tspi-max-frequency = `
      + `<${params.some(param => param.name === 'speed') ? '{speed}' : clockHz}>;\n`
      + `${fed(crystal)}${properties}\t};\n};\n${clockOf(crystal)}{spidev}`,
  }
}

/** A device of its own at the root of the tree, on lines. */
export function onLines(
  name: string, what: string, node: string, more: More & { properties: string, pins?: string, trips?: Trip[] },
): OverlaySpec {
  const { properties, pins, trips, params = [], ...rest } = more
  return {
    name, what, origin: ORIGIN, appears: [], params, ...rest,
    tree: `&{/} {\n\t${trips ? '{label}: ' : ''}${node} `
      + `{\n${pins
        ? '\t\tpinctrl-names = "default";\n\t\tpinctrl-0 = <&{label}_pins>;\n'
        : ''}${properties}\t};\n};\n${pins ? `\n&gpio {\n\t{label}_pins: {label}_pins {\n${pins}\t};\n};\n` : ''}`
        + (trips ? cooling(trips) : ''),
  }
}

/**
 * A step at which a fan is set to a level: temperature and hysteresis in thousandths of a degree, as
 * parameters or figures.
 */
export interface Trip { temperature: string, hysteresis: string, level: number }

/** Trips of the processor's heat zone and what each turns on: without them a fan is known and never turns. */
const cooling = (trips: readonly Trip[]) => `\n&cpu_thermal {\n\tpolling-delay = <2000>;\n\n\ttrips {\n${
  trips.map(({ temperature, hysteresis }, i) => `\t\t{label}_trip${i}: {label}-trip${i} {\n\t\t\ttemperature = <${temperature}>;\n`
    + `\t\t\thysteresis = <${hysteresis}>;\n\t\t\ttype = "active";\n\t\t};\n`).join('')
}\t};\n\n\tcooling-maps {\n${
  trips.map(({ level }, i) => `\t\t{label}-map${i} {\n\t\t\ttrip = <&{label}_trip${i}>;\n`
    + `\t\t\tcooling-device = <&{label} ${level} ${level}>;\n\t\t};\n`).join('')
}\t};\n};\n`

/** Pin settings: input with or without pulls (0 none, 1 down, 2 up), output. */
export const inputPin = (pin: string,
  pull = '0') => `\t\tbrcm,pins = <${pin}>;\n\t\tbrcm,function = <0>;\n\t\tbrcm,pull = <${pull}>;\n`
export const outputPin = (pin: string) => `\t\tbrcm,pins = <${pin}>;\n\t\tbrcm,function = <1>;\n`

/** Where the kernel hands over what is pressed or touched. */
export const events = (what: string) => [at('/dev/input/event*', what)]

/** Where a driver of sensors gives its readings. */
export const hwmon = [at('/sys/class/hwmon/hwmon*', 'the readings')]

/** How the axes of a touch are turned and how large they are. */
export const touchTurns: ParamSpec[] = [
  flag('swapxy', 'swaps the axes of the touch'), flag('invx', 'mirrors left and right of the touch'),
  flag('invy', 'mirrors top and bottom of the touch'), number('sizex', null, 16, 4096, 'columns of the touch'),
  number('sizey', null, 16, 4096, 'rows of the touch'),
]

/** An overlay that changes the board without lines or devices. */
export const small = (name: string, what: string, note: string, more: Partial<OverlaySpec> = {}): OverlaySpec => ({
  name, what, group: 'system', origin: ORIGIN, params: [], appears: [], tree: `&{/chosen} {\n\t${note}-note;\n};\n`,
  ...more,
})
