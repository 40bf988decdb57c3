#!/usr/bin/env node
// `node scripts/pads.mjs KERNEL`: names of pads and lines of controllers whose trees have registers or groups only,
// from the headers and drivers of a kernel's sources (Debian's linux-source), into core/devicetree/board/pads.json. Run
// when a family is added.
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './setup.mjs'

const kernel = process.argv[2]
if (!kernel) throw new Error('give the folder of the kernel\'s sources')
const read = path => readFileSync(join(kernel, path), 'utf8')
const version = /^VERSION = (\d+)\nPATCHLEVEL = (\d+)/m.exec(read('Makefile'))?.slice(1).join('.')

/** `#define …PAD__GPIO1_IO14 0x04c …`: register → pad and line. */
function padsOf(path, prefix) {
  const pads = {}
  for (const [, name, register] of read(path).matchAll(/^#define\s+(\w+)\s+0x0*([0-9a-fA-F]+)\s+0x/gm)) {
    const [, pad, bank, io] = new RegExp(`^${prefix}(\\w+?)_{1,2}GPIO(\\d)_IO0?(\\d+)$`).exec(name) ?? []
    if (pad) pads[`0x${register.toLowerCase()}`] ??= [pad, 32 * (Number(bank) - 1) + Number(io)]
  }
  return pads
}

/** `#define AM335X_PIN_I2C0_SDA 0x988`, counted from the controller's registers at 0x800. */
function namesOf(path, prefix, from) {
  const pads = {}
  for (const [, pad, register] of read(path)
    .matchAll(new RegExp(`^#define\\s+${prefix}(\\w+)\\s+0x([0-9a-fA-F]+)`, 'gm'))) {
    pads[`0x${(Number.parseInt(register, 16) - from).toString(16)}`] = [pad, null]
  }
  return pads
}

/**
 * Groups of a driver, `static const unsigned int uart_a_tx_pins[] = { GPIOX_12 }`, with the offsets of
 * the binding's header.
 */
function groupsOf(driver, header) {
  const offsets = Object.fromEntries(
    [...read(header).matchAll(/^#define\s+(\w+)\s+(\d+)/gm)].map(([, name, offset]) => [name, Number(offset)]),
  )
  const groups = {}
  for (const [, group, pins] of read(driver).matchAll(/static const unsigned int (\w+)_pins\[\]\s*=\s*\{([^}]*)\}/g)) {
    groups[group] = pins.split(',').map(pin => pin.trim()).filter(Boolean).map(pin => [pin, offsets[pin] ?? null])
  }
  return groups
}

const imx = (name, folder, prefix) => padsOf(`${folder}/${name}-pinfunc.h`, prefix)
const ARM = 'arch/arm/boot/dts'
const ARM64 = 'arch/arm64/boot/dts/freescale'
const meson = name =>
  groupsOf(`drivers/pinctrl/meson/pinctrl-meson-${name}.c`, `include/dt-bindings/gpio/meson-${name}-gpio.h`)
const table = {
  kernel: version,
  pads: {
    'fsl,imx6q-iomuxc': imx('imx6q', ARM, 'MX6QDL_PAD_'), 'fsl,imx6dl-iomuxc': imx('imx6dl', ARM, 'MX6QDL_PAD_'),
    'fsl,imx6ul-iomuxc': imx('imx6ul', ARM, 'MX6UL_PAD_'), 'fsl,imx7d-iomuxc': imx('imx7d', ARM, 'MX7D_PAD_'),
    'fsl,imx8mm-iomuxc': imx('imx8mm', ARM64, 'MX8MM_IOMUXC_'),
    'fsl,imx8mn-iomuxc': imx('imx8mn', ARM64, 'MX8MN_IOMUXC_'),
    'fsl,imx8mp-iomuxc': imx('imx8mp', ARM64, 'MX8MP_IOMUXC_'),
    'fsl,imx8mq-iomuxc': imx('imx8mq', ARM64, 'MX8MQ_IOMUXC_'),
    'ti,am33xx': namesOf('include/dt-bindings/pinctrl/am33xx.h', 'AM335X_PIN_', 0x800),
  },
  groups: {
    'amlogic,meson-g12a-periphs-pinctrl': meson('g12a'), 'amlogic,meson-gxl-periphs-pinctrl': meson('gxl'),
    'amlogic,meson-gxbb-periphs-pinctrl': meson('gxbb'), 'amlogic,meson-axg-periphs-pinctrl': meson('axg'),
  },
}
for (const name of ['g12a', 'gxl', 'gxbb', 'axg']) {
  table.groups[`amlogic,meson-${name}-aobus-pinctrl`] = table.groups[`amlogic,meson-${name}-periphs-pinctrl`]
}
const seen = new Set()
for (const [name, groups] of Object.entries(table.groups)) {
  // Both controllers of a chip have their groups in one driver.
  if (seen.has(groups)) table.groups[name] = name.replace('aobus', 'periphs')
  seen.add(groups)
}
for (const [name, list] of [...Object.entries(table.pads), ...Object.entries(table.groups)]) {
  if (!Object.keys(list).length) throw new Error(`${name}: nothing was read`)
}
writeFileSync(join(root, 'core/devicetree/board/pads.json'),
  `${JSON.stringify(table).replace(/("[^"]+":\{)/g, '\n$1')}\n`)
console.log(Object.entries(table.pads).map(([name, pads]) => `${name} ${Object.keys(pads).length}`).join(', '))
