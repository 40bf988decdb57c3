/** Drivers of the kernel that take up nodes of the tree, and what their modules are called. */
import { startDevices, type StartedDevices } from '../boot/rehearse/kernel'
import { cellsOf, propertyOf, walk, type DeviceTree } from '../devicetree/types'

export interface Driver {
  path: string
  compatible: string[]
  /** On a bus: its address or select. */
  address: number | null
  module: string
  /** What keeps it from starting. */
  refused: string | null
}

/** Modules that are not called as their nodes are. memory */
const MODULES: readonly [RegExp, string][] = [
  [/ds1307|ds3231|ds1339/, 'rtc_ds1307'], [/pcf8523/, 'rtc_pcf8523'], [/ads1[01]15/, 'ti_ads1015'],
  [/bm[ep]280|bmp180/, 'bmp280_i2c'],
  [/mcp3[02]\d\d/, 'mcp320x'], [/ssd130|ssd1306fb/, 'ssd1307fb'], [/mpu6050/, 'inv_mpu6050_i2c'],
  [/ina2\d\d/, 'ina2xx'],
  [/pca95(4\d|48)/, 'i2c_mux_pca954x'], [/mcp23/, 'pinctrl_mcp23s08_i2c'], [/pcf857/, 'gpio_pcf857x'],
  [/pca9685/, 'pwm_pca9685'],
  [/mcp2515/, 'mcp251x'], [/sc16is7/, 'sc16is7xx'], [/24c\d+/, 'at24'], [/gpio-leds/, 'leds_gpio'],
  [/tsl256/, 'tsl2563'],
]

const starts = new WeakMap<DeviceTree, StartedDevices>()
/** A tree is started once, however often it is asked about. */
function startOf(tree: DeviceTree): StartedDevices {
  const before = starts.get(tree)
  if (before) return before
  const started = startDevices(tree)
  starts.set(tree, started)
  return started
}

export const controllersOf = (tree: DeviceTree) => startOf(tree).controllers

const kept = new WeakMap<DeviceTree, Driver[]>()

/** Every node that a driver takes up and that the board's own tree does not have, in the order of the tree. */
export function driversOf(tree: DeviceTree, base: DeviceTree): Driver[] {
  const before = kept.get(tree)
  if (before) return before
  const { nodes, controllers } = startOf(tree)
  const buses = new Set(controllers.map(({ path }) => path))
  const own = new Set([...walk(base.root)].map(({ path }) => path))
  const found: Driver[] = []
  for (const { node, path } of walk(tree.root)) {
    const started = nodes.get(path)
    if (!started?.compatible.length || own.has(path)) continue
    const [name = ''] = started.compatible.map(entry => entry.split(',').at(-1)!)
    const reg = propertyOf(node, 'reg')
    found.push({
      path, compatible: started.compatible, refused: started.refused,
      address: reg && reg.value.length >= 4 && hasBusAbove(path, buses) ? cellsOf(reg.value)[0]! : null,
      module: MODULES.find(([pattern]) => started.compatible.some(entry => pattern.test(entry)))?.[1]
        ?? name.replaceAll('-', '_'),
    })
  }
  kept.set(tree, found)
  return found
}

const hasBusAbove = (path: string, buses: ReadonlySet<string>) => [...buses].some(bus => path.startsWith(`${bus}/`))
