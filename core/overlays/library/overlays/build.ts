/** Small words to write overlays of the library with. Everything here is from memory unless an overlay says otherwise. */
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

/** A part on an I²C bus, one kind or several by flag. */
export function onI2c(
  name: string, what: string, part: { compatible: string, address: string, node?: string } | Record<string, Choice>,
  more: More & { properties?: string },
): OverlaySpec {
  const { properties = '', params = [], ...rest } = more
  const single = typeof (part as { compatible: unknown }).compatible === 'string'
    ? part as { compatible: string, address: string, node?: string }
    : null
  const choices = single ? undefined : part as Record<string, Choice>
  const standard = single?.address ?? Object.values(choices!)[0]!.address!
  return {
    name, what, origin: ORIGIN, appears: [], bus: '{bus}', address: '{addr}', ...(choices && { choices }),
    tree: `&{bus} {\n\tstatus = "okay";\n\t#address-cells = <1>;\n\t#size-cells = <0>;\n\n\t${single?.node ?? '{chosen}'}@{addr:hex} `
      + `{\n\t\tcompatible = "${single?.compatible ?? '{compatible}'}";\n\t\treg = <{addr}>;\n${properties}\t};\n};\n`,
    ...rest,
    params: [...Object.entries(choices ?? {}).map(([id, entry]) => flag(id, entry.what)), address(standard), ...params, ...I2C_FLAGS],
  }
}

/** A part on SPI 0 with a select; the spidev node of that select goes. */
export function onSpi(
  name: string, what: string, compatible: string, more: More & { properties?: string, clockHz?: number, select?: string, node?: string },
): OverlaySpec {
  const { properties = '', clockHz = 1_000_000, select = '0', node, params = [], bus = 'spi0', ...rest } = more
  return {
    name, what, origin: ORIGIN, appears: [], bus, select, ...rest,
    params,
    tree: `&${bus} {\n\tstatus = "okay";\n\t#address-cells = <1>;\n\t#size-cells = `
      + `<0>;\n\n\t${node ?? compatible.split(',').at(-1)}@${select} {\n\t\tcompatible = "${compatible}";\n\t\treg = `
      + `<${select}>;\n\t\tspi-max-frequency = `
      + `<${params.some(param => param.name === 'speed') ? '{speed}' : clockHz}>;\n${properties}\t};\n};\n{spidev}`,
  }
}

/** A device of its own at the root of the tree, on lines. */
export function onLines(name: string, what: string, node: string, more: More & { properties: string, pins?: string }): OverlaySpec {
  const { properties, pins, params = [], ...rest } = more
  return {
    name, what, origin: ORIGIN, appears: [], params, ...rest,
    tree: `&{/} {\n\t${node} `
      + `{\n${pins
        ? '\t\tpinctrl-names = "default";\n\t\tpinctrl-0 = <&{label}_pins>;\n'
        : ''}${properties}\t};\n};\n${pins ? `\n&gpio {\n\t{label}_pins: {label}_pins {\n${pins}\t};\n};\n` : ''}`,
  }
}

/** Pin settings: input with or without pulls (0 none, 1 down, 2 up), output. */
export const inputPin = (pin: string, pull = '0') => `\t\tbrcm,pins = <${pin}>;\n\t\tbrcm,function = <0>;\n\t\tbrcm,pull = <${pull}>;\n`
export const outputPin = (pin: string) => `\t\tbrcm,pins = <${pin}>;\n\t\tbrcm,function = <1>;\n`
