/**
 * What drivers want of their nodes beyond being there: without it a driver gives up when it starts, or does nothing for
 * ever. Published: Linux 6.1, bindings and drivers; the file is named with each.
 */
import { cellsOf, phandleOf, propertyOf, walk, type TreeNode } from '../../devicetree/types'

export interface DriverDemand {
  compatible: RegExp
  /** Each must be there; of a list one of them. */
  properties?: readonly (string | readonly string[])[]
  /** Anything else: a sentence's end when it is not met. */
  check?: (node: TreeNode, root: TreeNode) => string | null
  source: string
}

const gpios = (compatible: RegExp, source: string): DriverDemand => ({ compatible, properties: ['gpios'], source })

export const DEMANDS: readonly DriverDemand[] = [
  gpios(/^(gpio-beeper|gpio-ir-receiver|gpio-ir-tx|pps-gpio|w1-gpio|gpio-poweroff)$/,
    'bindings/input, media, leds, pps, w1, power/reset'),
  { compatible: /^gpio-fan$/, properties: [['gpios', 'alarm-gpios']], check: coolsNothing,
    source: 'bindings/hwmon/gpio-fan.txt, bindings/thermal' },
  { compatible: /^pwm-fan$/, properties: ['pwms'], check: coolsNothing,
    source: 'bindings/hwmon/pwm-fan.txt, bindings/thermal' },
  { compatible: /^rotary-encoder$/, properties: ['gpios'], source: 'bindings/input/rotary-encoder.txt' },
  {
    compatible: /^gpio-matrix-keypad$/, properties: ['row-gpios', 'col-gpios', 'linux,keymap'], check: polarity,
    source: 'bindings/input/gpio-matrix-keypad.txt, drivers/input/keyboard/matrix_keypad.c',
  },
  { compatible: /^microchip,mcp251[05]$/, properties: ['clocks', ['interrupts', 'interrupts-extended']],
    source: 'bindings/net/can/microchip,mcp251x.txt' },
  { compatible: /^microchip,enc28j60$/, properties: [['interrupts', 'interrupts-extended']],
    source: 'bindings/net/microchip,enc28j60.txt' },
  {
    compatible: /^nxp,sc16is7/, properties: [['interrupts', 'interrupts-extended'], ['clocks', 'clock-frequency']],
    source: 'bindings/serial/nxp,sc16is7xx.txt',
  },
  {
    compatible: /^microchip,mcp23s/, properties: [['microchip,spi-present-mask', 'mcp,spi-present-mask']], check: mask,
    source: 'bindings/pinctrl/pinctrl-mcp23s08.txt, drivers/pinctrl/pinctrl-mcp23s08_spi.c',
  },
  {
    compatible: /^fsl,mpr121-touchkey$/,
    properties: [['interrupts', 'interrupts-extended', 'poll-interval'], 'linux,keycodes'],
    source: 'bindings/input/fsl,mpr121-touchkey.yaml',
  },
  { compatible: /^panel-mipi-dbi-spi$/, properties: ['panel-timing', 'width-mm', 'height-mm'],
    source: 'bindings/display/panel/panel-mipi-dbi-spi.yaml' },
  {
    compatible: /^(ilitek,ili9\d+|himax,hx8357d|sitronix,st77\w+|solomon,ssd13(31|51)|fbtft)$/,
    properties: [['buswidth', 'port', 'panel-timing']],
    source: 'drivers/staging/fbtft/fbtft-core.c; the panels of the same names want a port (bindings/display/panel)',
  },
  { compatible: /^avia,hx711$/, properties: ['dout-gpios', 'sck-gpios', 'avdd-supply'],
    source: 'bindings/iio/adc/avia-hx711.yaml' },
  { compatible: /^devantech,srf04$/, properties: ['trig-gpios', 'echo-gpios'],
    source: 'bindings/iio/proximity/devantech-srf04.yaml' },
  { compatible: /^microchip,mcp3[02]0\d$/, properties: ['vref-supply'],
    source: 'bindings/iio/adc/microchip,mcp3201.yaml' },
  { compatible: /^microchip,mcp4725$/, properties: ['vdd-supply'], source: 'bindings/iio/dac/microchip,mcp4725.yaml' },
  { compatible: /^ti,ads7846$/, properties: [['interrupts', 'interrupts-extended']],
    source: 'bindings/input/touchscreen/ads7846.txt' },
  { compatible: /^goodix,gt9/, properties: [['interrupts', 'interrupts-extended']],
    source: 'bindings/input/touchscreen' },
]

/** A fan that no trip of a heat zone turns on: its driver is there and never moves it. */
function coolsNothing(node: TreeNode, root: TreeNode): string | null {
  const handle = phandleOf(node)
  if (handle !== null) {
    for (const { node: other } of walk(root)) {
      const device = propertyOf(other, 'cooling-device')
      if (device && device.value.length % 4 === 0 && cellsOf(device.value).includes(handle)) return null
    }
  }
  return 'no step of a heat zone turns it on (cooling-maps), so that it never turns'
}

/** Up to Linux 6.11 the flags of the lines are not read: the property says that keys pull down. */
function polarity(node: TreeNode): string | null {
  const rows = propertyOf(node, 'row-gpios')
  const low = rows && rows.value.length % 12 === 0 && cellsOf(rows.value)[2] === 1
  return low && !propertyOf(node, 'gpio-activelow')
    ? 'its lines are active low by their flags alone, which kernels before 6.12 do not read: it wants gpio-activelow'
    : null
}

function mask(node: TreeNode): string | null {
  const value = (propertyOf(node, 'microchip,spi-present-mask') ?? propertyOf(node, 'mcp,spi-present-mask'))?.value
  return value && value.length !== 4 ? 'microchip,spi-present-mask is no cell of 32 bits' : null
}

/** What a driver of the node wants and does not find, in words; null where nothing is wanting. */
export function wanting(node: TreeNode, compatible: readonly string[], root: TreeNode): string | null {
  const demand = DEMANDS.find(entry => compatible.some(name => entry.compatible.test(name)))
  if (!demand) return null
  const has = (name: string) => propertyOf(node, name) !== undefined || node.children.some(child => child.name === name)
  for (const wanted of demand.properties ?? []) {
    const names = typeof wanted === 'string' ? [wanted] : wanted
    if (!names.some(has)) return `its driver wants ${names.join(' or ')}`
  }
  return demand.check?.(node, root) ?? null
}
