/**
 * The kernel's part of a start: devices ask for pins and lines in the order of the tree, and find them free or taken.
 */
import { deviceOf, profileOf, serialPrefix, type TreeController } from '../../devicetree/board/profile'
import { lineChipsOf, lineKey, lineWords, numbered, onChip, type GpioChip,
  type LinePlace } from '../../devicetree/board/lines'
import { pinGroupsOf } from '../../devicetree/board/pins'
import type { BoardTree } from '../../catalogue/types'
import { cellsOf, childOf, propertyOf, stringsOf, walk, type DeviceTree, type TreeNode } from '../../devicetree/types'
import { wanting } from './demands'
import { directionOf } from './line-direction'
import type { LineClash, DeviceNode, LineClaim } from './types'

export interface StartedDevices {
  claims: LineClaim[]
  collisions: LineClash[]
  devices: DeviceNode[]
  /** Paths of nodes that are on, with what kept each from starting where something did. */
  nodes: Map<string, { compatible: string[], refused: string | null, wants?: string }>
  controllers: TreeController[]
}

const text = (node: TreeNode, name: string) => {
  const property = propertyOf(node, name)
  return property ? stringsOf(property.value) : []
}
const cells = (node: TreeNode, name: string) => {
  const property = propertyOf(node, name)
  return property && property.value.length % 4 === 0 ? cellsOf(property.value) : []
}
const isOkay = (node: TreeNode) => {
  const [status] = text(node, 'status')
  return status === undefined || status === 'okay' || status === 'ok'
}

/**
 * Starts what is on in the tree. `counted` are the chips whose lines the board's header has; without it they are told
 * by their numbers.
 */
export function startDevices(tree: DeviceTree, counted?: BoardTree['chips']): StartedDevices {
  const { controllers } = profileOf(tree, { counted })
  const chips = lineChipsOf(tree.root, counted)
  const { byHandle } = pinGroupsOf(tree.root, chips)
  const main = chips.find(chip => chip.first === 0) ?? null
  const claims: LineClaim[] = []
  const collisions: LineClash[] = []
  const nodes: StartedDevices['nodes'] = new Map()
  const seats = new Map<string, string>()
  const pinOwner = new Map<string, string>()
  const lineOwner = new Map<string, string>()
  /**
   * Pins that a group sets and others may ask for all the same: those set to be plain lines, or by a controller that
   * does not refuse.
   */
  const loose = new Set<string>()
  const dead = new Set<string>()
  for (const { node, path } of walk(tree.root)) {
    const parent = path.slice(0, path.lastIndexOf('/')) || '/'
    if (path.startsWith('/__') || dead.has(parent)) {
      dead.add(path)
      continue
    }
    if (!isOkay(node)) {
      dead.add(path)
      continue
    }
    const compatible = text(node, 'compatible')
    const owner = path
    let refused = seatTaken(node, path, parent, controllers, seats, collisions)
    if (compatible.length && !refused) {
      for (const group of defaultState(node).flatMap(handle => byHandle.get(handle) ?? [])) {
        // What a pin controller sets by itself stands until somebody asks for it.
        if (group.path.startsWith(`${path}/`)) continue
        const isLoose = group.binding === 'padded' || group.binding === 'offset'
        for (const { place, setting: pinSetting } of group.pins) {
          const key = lineKey(place)
          if (key === null) continue
          const at = { line: place.line, where: lineWords(place) }
          const before = pinOwner.get(key) ?? lineOwner.get(key)
          if (before && before !== owner) {
            claims.push({ ...at, node: owner, as: 'pins', clash: before })
            collisions.push({
              what: 'line', where: at.where, first: before, second: owner,
              sentence: `pin ${place.line === null || place.chip !== main ? at.where : `gpio${place.line}`} is already `
                + `requested by ${shortName(before)}; ${shortName(owner)} cannot claim it, and does not start.`,
            })
            refused ??= `line ${at.where} is taken by ${shortName(before)}`
          }
          else if (!before) {
            pinOwner.set(key, owner)
            if (isLoose || (group.binding === 'banked' && pinSetting === 0)) loose.add(key)
            claims.push({ ...at, node: owner, as: 'pins' })
          }
        }
      }
    }
    if (!refused) {
      // Keys and lamps have their lines in child nodes: the parent's driver asks for them.
      let asking: string | null
      if (compatible.length) asking = owner
      else asking = hasDriver(parent, nodes) ? parent : null
      const lines = asking || propertyOf(node, 'gpio-hog')
        ? linesOf(node, parent, chips, compatible.length ? compatible : nodes.get(parent)?.compatible ?? [])
        : []
      for (const { place, as, direction } of lines) {
        const key = lineKey(place)!
        const at = { line: place.line, where: lineWords(place) }
        const who = asking ?? owner
        const before = lineOwner.get(key) ?? pinOwner.get(key)
        const shared = (loose.has(key) && pinOwner.get(key) === before)
          || (before !== undefined && bothFixed(nodes, before, compatible))
        const foreign = before && !shared && before !== who && !before.startsWith(`${who}/`)
          && !who.startsWith(`${before}/`)
        if (foreign && as === 'gpio') {
          claims.push({ ...at, node: who, as, clash: before })
          collisions.push({
            what: 'line', where: at.where, first: before, second: who,
            sentence: `${shortName(who)} asks for line ${at.where}, which ${shortName(before)} has: it is refused `
              + `(device or resource busy), or ${shortName(before)} goes silent.`,
          })
          refused ??= `line ${at.where} is taken by ${shortName(before)}`
          if (who !== owner && nodes.get(who)) nodes.get(who)!.refused ??= refused
        }
        else {
          if (as === 'gpio' && !before) lineOwner.set(key, who)
          claims.push({ ...at, node: who, as, ...direction && { direction } })
        }
      }
    }
    if (compatible.length) {
      const missing = refused ? null : wanting(node, compatible, tree.root)
      nodes.set(path, { compatible, refused: refused ?? missing, ...missing && { wants: missing } })
    }
    if (refused) dead.add(path)
  }
  return { claims, collisions, nodes, controllers, devices: devicesOf(tree, controllers, nodes) }
}

/**
 * Supplies that are switched by one line share it. Published: Linux kernel,
 * GPIOD_FLAGS_BIT_NONEXCLUSIVE in drivers/regulator/fixed.c.
 */
const bothFixed = (nodes: StartedDevices['nodes'], before: string,
  compatible: readonly string[]) => compatible.includes('regulator-fixed')
  && (nodes.get(before)?.compatible.includes('regulator-fixed') ?? false)

/**
 * Handles of the pin state that is taken when a driver starts: the one that is named default. Published:
 * bindings/pinctrl/pinctrl-bindings.txt.
 */
function defaultState(node: TreeNode): number[] {
  const at = text(node, 'pinctrl-names').indexOf('default')
  return at < 0 ? [] : cells(node, `pinctrl-${at}`)
}

const hasDriver = (parent: string, nodes: StartedDevices['nodes']) => nodes.get(parent)?.refused === null

export const shortName = (path: string) => path.split('/').filter(Boolean).slice(-2).join('/') || '/'

/** Two parts at one address of a bus, or on one select. */
function seatTaken(
  node: TreeNode, path: string, parent: string, controllers: readonly TreeController[], seats: Map<string, string>,
  collisions: LineClash[],
): string
  | null {
  const bus = controllers.find(controller => controller.path === parent)
  const [reg] = cells(node, 'reg')
  if (!bus || reg === undefined || (bus.kind !== 'i2c' && bus.kind !== 'spi')) return null
  const name = bus.labels[0] ?? shortName(parent)
  const key = `${parent} ${reg}`
  const before = seats.get(key)
  if (!before) {
    seats.set(key, path)
    return null
  }
  const where = bus.kind === 'i2c' ? `${name} 0x${reg.toString(16)}` : `${name}.${reg}`
  collisions.push({
    what: bus.kind === 'i2c' ? 'address' : 'select', where, first: before, second: path,
    sentence: bus.kind === 'i2c'
      ? `${shortName(path)}: address 0x${reg.toString(16)} on ${name} is already in use by ${shortName(before)}; the `
      + 'second is not made.'
      : `${shortName(path)}: select ${reg} of ${name} is already in use by ${shortName(before)}; the second `
        + 'is not made.',
  })
  return `${where} is taken by ${shortName(before)}`
}

interface AskedLine { place: LinePlace, as: 'gpio' | 'interrupt', direction?: 'in' | 'out' }

/** Lines that a node's properties name; `drivers` is what asks for them. */
function linesOf(node: TreeNode, parent: string, chips: readonly GpioChip[], drivers: readonly string[]): AskedLine[] {
  const found: AskedLine[] = []
  const byHandle = (handle: number | undefined) =>
    handle === undefined ? undefined : chips.find(chip => chip.handle === handle)
  for (const { name, value } of node.properties) {
    if (name === 'gpios' && propertyOf(node, 'gpio-hog')) {
      const chip = chips.find(entry => entry.path === parent)
      if (chip && value.length >= 4) found.push({
        place: at(chip, cellsOf(value), 0, chips), as: 'gpio', direction: propertyOf(node, 'input') ? 'in' : 'out',
      })
      continue
    }
    // Selects are the bus's own: its driver moves them, and they are told with its pins.
    if (!/(^|-)gpios?$/.test(name) || name === 'cs-gpios' || value.length % 4) continue
    const list = cellsOf(value)
    for (let next = 0; next < list.length;) {
      const chip = byHandle(list[next])
      if (!chip) {
        // An empty place of a list.
        if (list[next] !== 0) break
        next++
        continue
      }
      found.push({ place: at(chip, list, next + 1, chips), as: 'gpio', direction: directionOf(name, drivers) })
      next += 1 + chip.cells
    }
  }
  const chip = byHandle(cells(node, 'interrupt-parent')[0])
  const list = cells(node, 'interrupts')
  if (chip && list.length) found.push({ place: at(chip, list, 0, chips), as: 'interrupt' })
  return found
}

/** Cells of a line behind its chip: number and flags, or bank, number and flags. */
function at(chip: GpioChip, list: readonly number[], from: number, chips: readonly GpioChip[]): LinePlace {
  const number = chip.cells === 3 ? list[from]! * 32 + list[from + 1]! : list[from]!
  const place = onChip(chip, number)
  return place.line === null ? place : numbered(chips, place.line)
}

/** What a driver brings, by `compatible`. memory */
const DRIVERS: [RegExp, (node: TreeNode) => { path: string, what: string }[]][] = [
  [
    /ds3231|ds1307|ds1339|ds3232|ds3234|pcf8523|pcf8563|pcf85063|rv3028|mcp7940|abx80x|pcf2123/,
    () => [{ path: '/dev/rtc0', what: 'a clock' }],
  ],
  [
    /^gpio-keys|rotary-encoder|gpio-matrix-keypad|ads7846|goodix|ili251x|ft5[x0-9]06|mpr121/,
    () => [{ path: '/dev/input/event*', what: 'an input device' }],
  ],
  [
    /^gpio-leds$/,
    node => node.children.map(child => ({ path: `/sys/class/leds/${text(child, 'label')[0] ?? child.name}`,
      what: 'a lamp' })),
  ],
  [/gpio-ir-receiver|gpio-ir-tx|pwm-ir-tx/, () => [{ path: '/dev/lirc0', what: 'infrared' }]],
  [/^w1-gpio$/, () => [{ path: '/sys/bus/w1/devices/28-*', what: '1-Wire probes' }]],
  [/^pps-gpio$/, () => [{ path: '/dev/pps0', what: 'a pulse each second' }]],
  [/mcp2515/, () => [{ path: '/sys/class/net/can0', what: 'a vehicle bus' }]],
  [/enc28j60|w5500/, () => [{ path: '/sys/class/net/eth*', what: 'a network port' }]],
  [/sc16is75/, () => [{ path: '/dev/ttySC0', what: 'a serial port' }]],
  [/ssd1306|ssd1307|ssd1331|ssd1351|ili9341|ili9486|st7735r|st7789v|hx8357d/,
    () => [{ path: '/dev/fb1', what: 'a screen' }]],
  [/panel-mipi-dbi|vc4|panel-dsi/,
    () => [{ path: '/dev/dri/card0', what: 'a screen' }, { path: '/dev/fb0', what: 'its frame buffer' }]],
  [/simple-audio-card/, () => [{ path: '/proc/asound/cards', what: 'a sound card' }]],
  [/mcp23|pcf857|tca6416|pca953|tca9555/, () => [{ path: '/dev/gpiochip*', what: 'more lines' }]],
  [/24c\d+/, () => [{ path: '/sys/bus/nvmem/devices', what: 'a memory' }]],
  [/gpio-fan|pwm-fan|emc2301/, () => [{ path: '/sys/class/thermal/cooling_device*', what: 'a fan' }]],
  [/ina219|lm75|tmp102|sht3x|sht4x/, () => [{ path: '/sys/class/hwmon/hwmon*', what: 'readings' }]],
  [
    /ads1[01]15|mcp3\d|bm[ep]\d|mpu6050|mpu9250|apds9960|dht11|hx711|srf04|max31855|max6675|scd4|sgp30|vl53|mcp4725|lis3dh|hmc5883|tsl2|tcs34|mlx90614|bno055|veml|ccs811|htu21|si7020/,
    () => [{ path: '/sys/bus/iio/devices/iio:device*', what: 'readings' }],
  ],
  [/pca9685/, () => [{ path: '/sys/class/pwm/pwmchip*', what: 'pulse outputs' }]],
  [/max17040|gpio-charger/, () => [{ path: '/sys/class/power_supply', what: 'a supply or cell' }]],
  [/gpio-beeper/, () => [{ path: '/dev/input/event*', what: 'a sounder' }]],
  [/imx219|ov5647|unicam/, () => [{ path: '/dev/video0', what: 'a camera' }]],
  [/pca954/, node => node.children.length
    ? [{ path: '/dev/i2c-*', what: 'a bus for each channel' }]
    : [{ path: '/dev/i2c-*', what: 'a bus for each channel' }]],
  [/^i2c-gpio$/, node => [{ path: `/dev/i2c-${cells(node, 'reg')[0] ?? '*'}`, what: 'a bus on plain lines' }]],
]

/** Full ports are numbered by themselves, small ones by their place among the aliases. */
function serialDevice({ compatible, labels, number }: TreeController): string {
  const prefix = serialPrefix(compatible)
  const own = /^uart(\d+)$/.exec(labels.find(label => /^uart\d+$/.test(label)) ?? '')?.[1]
  return `/dev/tty${prefix}${prefix === 'AMA' && own !== undefined ? own : number ?? own ?? 0}`
}

/** `serial0`, `serial1`: names under which programs find the ports, wherever they lie. */
function serialAliases({ root }: DeviceTree): { name: string, path: string }[] {
  return (childOf(root, 'aliases')?.properties ?? []).flatMap(({ name, value }) => /^serial[01]$/.test(name)
    ? stringsOf(value).map(path => ({ name, path }))
    : [])
}

function devicesOf(tree: DeviceTree, controllers: readonly TreeController[],
  nodes: StartedDevices['nodes']): DeviceNode[] {
  const devices: DeviceNode[] = []
  const add = (path: string, what: string, node: string) => {
    if (!devices.some(entry => entry.path === path && entry.node === node)) devices.push({ path, what, node })
  }
  const aliases = serialAliases(tree)
  for (const { node, path } of walk(tree.root)) {
    const started = nodes.get(path)
    if (!started || started.refused) continue
    const controller = controllers.find(entry => entry.path === path)
    if (controller) {
      const device = deviceOf(controller.kind, controller.number, controller.compatible)
      if (controller.kind === 'serial') {
        add(serialDevice(controller), 'a serial port', path)
        // The name that the tree's alias gives it, beside its own.
        for (const alias of aliases.filter(entry => entry.path === path)) add(`/dev/${alias.name}`,
          `the same port, as ${alias.name}`, path)
      }
      else if (controller.kind === 'i2c' || controller.kind === 'gpio') {
        if (device) add(device, controller.kind === 'i2c' ? 'a bus' : 'the lines', path)
      }
      else if (controller.kind === 'pwm') add('/sys/class/pwm/pwmchip0', 'pulse channels', path)
    }
    const parent = controllers.find(entry => path.startsWith(`${entry.path}/`) && entry.kind === 'spi')
    if (parent && started.compatible.some(name => name === 'spidev' || name.endsWith('spidev'))) {
      add(`/dev/spidev${parent.number ?? 0}.${cells(node, 'reg')[0] ?? 0}`, 'a device for programs', path)
    }
    for (const [pattern, brings] of DRIVERS) if (started.compatible.some(name => pattern.test(name))) {
      for (const entry of brings(node)) add(entry.path, entry.what, path)
    }
  }
  return devices
}
