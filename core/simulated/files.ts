/**
 * Everything that can be looked into: nodes under /dev, readings under /sys, what the kernel says under /proc, the
 * files on the card.
 */
import { mergedFile } from '../boot/own/file'
import type { ResolvedPart } from '../facts/types'
import { childOf, propertyOf, walk, type TreeNode } from '../devicetree/types'
import { checkScriptOf } from '../diagnosis/check-script'
import { fileText, HWMON, IIO } from '../bringup/readings'
import { soundCards, loads } from './commands/system'
import { INFO } from './info'
import type { Machine } from './machine'

export interface Entry {
  /** What a read gives now; of a folder nothing. */
  read?: () => string | Uint8Array
  /** What a write does; without it the file cannot be written. */
  write?: (text: string) => void
  /** It points there. */
  link?: string
  /** `major, minor` of a device node. */
  device?: string
  group?: string
}

/**
 * Number of a kind of node. Published: Linux, Documentation/admin-guide/devices.txt; of those given out at the start,
 * as they usually come.
 */
const MAJORS: readonly [RegExp, (nth: number) => string, string][] = [
  [/^\/dev\/ttyACM(\d+)$/, nth => `166, ${nth}`, 'dialout'], [/^\/dev\/ttyUSB(\d+)$/, nth => `188, ${nth}`, 'dialout'],
  [/^\/dev\/ttyS(\d+)$/, nth => `4, ${64 + nth}`, 'dialout'],
  [/^\/dev\/ttyAMA(\d+)$/, nth => `204, ${64 + nth}`, 'dialout'],
  [/^\/dev\/ttySC(\d+)$/, nth => `237, ${nth}`, 'dialout'], [/^\/dev\/i2c-(\d+)$/, nth => `89, ${nth}`, 'i2c'],
  [/^\/dev\/spidev(\d+)\.\d+$/, nth => `153, ${nth}`, 'spi'], [/^\/dev\/gpiochip(\d+)$/, nth => `254, ${nth}`, 'gpio'],
  [/^\/dev\/input\/event(\d+)$/, nth => `13, ${64 + nth}`, 'input'],
  [/^\/dev\/rtc(\d+)$/, nth => `252, ${nth}`, 'root'],
  [/^\/dev\/fb(\d+)$/, nth => `29, ${nth}`, 'video'], [/^\/dev\/video(\d+)$/, nth => `81, ${nth}`, 'video'],
  [/^\/dev\/lirc(\d+)$/, nth => `251, ${nth}`, 'video'], [/^\/dev\/pps(\d+)$/, nth => `250, ${nth}`, 'root'],
  [/^\/dev\/dri\/card(\d+)$/, nth => `226, ${nth}`, 'video'],
]
const ALWAYS: readonly [string, string, string][] = [
  ['null', '1, 3', 'root'], ['zero', '1, 5', 'root'], ['full', '1, 7', 'root'], ['random', '1, 8', 'root'],
  ['urandom', '1, 9', 'root'],
  ['kmsg', '1, 11', 'root'], ['tty', '5, 0', 'tty'], ['console', '5, 1', 'root'], ['ptmx', '5, 2', 'tty'],
  ['tty0', '4, 0', 'tty'],
  ['tty1', '4, 1', 'tty'], ['watchdog', '10, 130', 'root'], ['mem', '1, 1', 'kmem'],
]

/** Every file of the machine by its whole path; folders follow from them. */
export function simulatedFiles(machine: Machine): Map<string, Entry> {
  const files = new Map<string, Entry>()
  const text = (path: string, read: () => string,
    write?: Entry['write']) => files.set(path, { read, ...write && { write } })
  for (const [name, device, group] of ALWAYS) files.set(`/dev/${name}`,
    { device, group, read: () => '', write: () => {} })
  files.set('/dev/mmcblk0', { device: '179, 0', group: 'disk' })
  for (const nth of [1, 2]) files.set(`/dev/mmcblk0p${nth}`, { device: `179, ${nth}`, group: 'disk' })
  addSystem(machine, text)
  addCard(machine, text)
  addTree(machine.rehearsal.tree.root, files)
  for (const { path, owner } of machine.devices) addDevice(machine, path, owner, files)
  return files
}

function addDevice(machine: Machine, path: string, owner: ResolvedPart | undefined, files: Map<string, Entry>): void {
  const port = machine.ports.get(path)
  const io = port && {
    read: () => {
      // Whoever reads waits: a second of what comes.
      machine.pass(1)
      return Uint8Array.from(machine.receive(path))
    },
    write: (sent: string) => machine.send(path, sent),
  }
  if (/^\/dev\/serial\d$/.test(path)) {
    const target = [...machine.devices].find(entry => /^\/dev\/tty(S|AMA)\d+$/.test(entry.path))?.path
    if (target && io) files.set(target, { ...nodeOf(target), ...io })
    files.set(path, target ? { link: target.split('/').at(-1)! } : { ...nodeOf(path), ...io })
    return
  }
  if (path.startsWith('/dev/')) {
    if (!files.has(path)) files.set(path, { ...nodeOf(path), ...io })
    if (/^\/dev\/rtc\d$/.test(path)) addClock(machine, path.slice('/dev/'.length), files)
    return
  }
  if (path.startsWith('/proc/')) return
  if (/\/leds\//.test(path)) {
    files.set(`${path}/brightness`, {
      read: () => `${machine.written.get(path) ?? 0}\n`,
      write: sent => void machine.written.set(path, Number(sent) ? 1 : 0),
    })
    files.set(`${path}/trigger`, { read: () => '[none] timer heartbeat default-on\n', write: () => {} })
  }
  else if (/\/pwm\/pwmchip\d+$/.test(path)) addPulses(machine, path, files)
  else if (/\/net\//.test(path)) {
    files.set(`${path}/operstate`, { read: () => 'down\n' })
    files.set(`${path}/address`, { read: () => `${INFO.hardware}\n` })
  }
  else if (path.includes('/cooling_device')) {
    // Published: Linux, Documentation/driver-api/thermal/sysfs-api.
    files.set(`${path}/type`, { read: () => 'gpio-fan\n' })
    files.set(`${path}/max_state`, { read: () => '1\n' })
    files.set(`${path}/cur_state`, { read: () => `${machine.heat.fanPercent > 0 ? 1 : 0}\n` })
  }
  else if (/\/w1\/devices\//.test(path)) addProbe(machine, path, owner, files)
  else {
    // An empty folder would not be told from none.
    files.set(`${path}/uevent`, { read: () => '' })
    const name = owner && owner.part.kernel?.compatible.split(',').at(-1)
    if (name) files.set(`${path}/name`, { read: () => `${name}\n` })
    if (owner) for (const what of owner.part.reads ?? []) {
      const file = path.includes('/hwmon/') ? HWMON[what] : IIO[what]
      if (file) files.set(`${path}/${file.name}`, { read: () => `${fileText(file, machine.quantity(owner, what))}\n` })
      if (file?.scaleFile) files.set(`${path}/${file.scaleFile}`, { read: () => '1.000000000\n' })
    }
  }
}

function nodeOf(path: string): Entry {
  const known = MAJORS.find(([pattern]) => pattern.test(path))
  return known
    ? { device: known[1](Number(known[0].exec(path)![1])), group: known[2], read: () => '', write: () => {} }
    : { device: '10, 0', group: 'root', read: () => '', write: () => {} }
}

const milli = (value: number) => String(Math.round(value * 1000))

/** Published: Linux, Documentation/admin-guide/rtc.rst. */
function addClock(machine: Machine, name: string, files: Map<string, Entry>): void {
  const at = `/sys/class/rtc/${name}`
  files.set(`${at}/date`, { read: () => `${machine.now.toISOString().slice(0, 10)}\n` })
  files.set(`${at}/time`, { read: () => `${machine.now.toISOString().slice(11, 19)}\n` })
}

/** Channels that a pulse chip has. memory */
const CHANNELS = 4
/** Pulse channels: one's folder comes when it is asked for. Published: Linux, Documentation/driver-api/pwm.rst. */
function addPulses(machine: Machine, path: string, files: Map<string, Entry>): void {
  const { written } = machine
  files.set(`${path}/npwm`, { read: () => `${CHANNELS}\n` })
  const channel = (text: string) => {
    const nth = Number(text)
    if (!Number.isInteger(nth) || nth < 0 || nth >= CHANNELS) throw new Error(`ENODEV: no such device, write '${path}'`)
    return nth
  }
  files.set(`${path}/export`, { write: text => void written.set(`${path}/pwm${channel(text)}`, 1) })
  files.set(`${path}/unexport`, { write: text => void written.delete(`${path}/pwm${channel(text)}`) })
  for (let nth = 0; nth < CHANNELS; nth++) {
    const at = `${path}/pwm${nth}`
    if (!written.has(at)) continue
    const figure = (name: string) => written.get(`${at}/${name}`) ?? 0
    for (const name of ['period', 'duty_cycle', 'enable']) files.set(`${at}/${name}`, {
      read: () => `${figure(name)}\n`,
      write: (text) => {
        const value = Number(text)
        const isWrong = !Number.isInteger(value) || value < 0 || (name === 'period' && value < figure('duty_cycle'))
          // Published: Linux, drivers/pwm/core.c: nothing is applied without a period.
          || (name === 'duty_cycle' && (value > figure('period') || figure('period') === 0))
          || (name === 'enable' && value === 1 && figure('period') === 0)
        if (isWrong) throw new Error(`EINVAL: invalid argument, write '${at}/${name}'`)
        written.set(`${at}/${name}`, value)
      },
    })
  }
}

/**
 * The sum of a scratchpad. Published: Maxim application note 27, the sum of 1-Wire: x⁸ + x⁵ + x⁴ + 1, least bit first.
 */
export function wireSum(bytes: readonly number[]): number {
  let sum = 0
  for (const byte of bytes) for (let bit = 0; bit < 8; bit++) {
    const odd = (sum ^ byte >> bit) & 1
    sum = sum >> 1 ^ (odd ? 0x8C : 0)
  }
  return sum
}

/**
 * A probe's folder: its temperature as the kernel's driver gives it. Published: Linux,
 * Documentation/w1/slaves/w1_therm.
 */
function addProbe(machine: Machine, path: string, owner: ResolvedPart | undefined, files: Map<string, Entry>): void {
  const celsius = () => owner ? Math.round(machine.quantity(owner, 'temperature') * 16) / 16 : 85
  files.set(`${path}/w1_slave`, { read: () => {
    const raw = Math.round(celsius() * 16) & 0xFFFF
    const bytes = [raw & 0xFF, raw >> 8, 0x4B, 0x46, 0x7F, 0xFF, 0x10 - (raw & 0xF), 0x10]
    const all = [...bytes, wireSum(bytes)].map(byte => byte.toString(16).padStart(2, '0')).join(' ')
    return `${all} : crc=${all.slice(-2)} YES\n${all} t=${milli(celsius())}\n`
  } })
  files.set(`${path}/temperature`, { read: () => `${milli(celsius())}\n` })
  files.set(`${path}/name`, { read: () => `${path.split('/').at(-1)}\n` })
}

type Text = (path: string, read: () => string, write?: Entry['write']) => void

function addSystem(machine: Machine, text: Text): void {
  const { facts } = machine
  text('/proc/uptime', () => `${machine.nowS.toFixed(2)} ${(machine.nowS * 3.6).toFixed(2)}\n`)
  text('/proc/version', () => `Linux version ${INFO.kernel} #1 SMP PREEMPT\n`)
  text('/proc/loadavg', () => `${loads(machine).join(' ')} 1/180 900\n`)
  text('/proc/cmdline', () => `${facts.plan.boot?.commandLine ?? 'console=tty1 root=/dev/mmcblk0p2 rootwait'}\n`)
  text('/proc/cpuinfo',
    () => [0, 1, 2, 3].map(nth => `processor\t: ${nth}\n`).join('\n') + `\nModel\t\t: ${facts.board!.name}\n`)
  text('/proc/modules', () => machine.drivers.filter(({ refused }) => !refused)
    .map(({ module }) => `${module} 16384 0 - Live 0x0\n`).join(''))
  text('/proc/asound/cards', () => soundCards(machine))
  text('/sys/class/thermal/thermal_zone0/temp', () => `${milli(machine.chipC)}\n`)
  text('/sys/class/thermal/thermal_zone0/type', () => 'cpu-thermal\n')
  text('/sys/class/net/lo/operstate', () => 'unknown\n')
  text('/sys/class/net/wlan0/operstate', () => 'up\n')
  text(`/home/${INFO.user}/check.sh`,
    () => checkScriptOf(facts.plan.name, machine.bench.looks.map(({ probe }) => probe))
      .replace(/\nbusy\(\) \{[\s\S]*?\n\}/, BUSY))
  text('/etc/hostname', () => `${INFO.host}\n`)
}

/** A loop without end is none here: a command of the simulated board keeps its cores busy. */
const BUSY = `\nbusy() {\n  printf '# 4 cores busy for a minute\\n'\n  busy-cores 60\n}`

/** The boot files as they lie on the card: with the plan's lines, but for what lacks there. */
function addCard(machine: Machine, text: Text): void {
  const { facts, bench: { shop } } = machine
  const path = facts.plan.boot?.path ?? facts.board!.bootPath ?? '/boot/firmware/config.txt'
  const lacking = new Map(machine.world.changes.flatMap(change =>
    change.change === 'line' ? [[change.line, change.how] as const] : []))
  const { text: whole } = mergedFile(facts, shop.needs)
  const isLine = (line: string) => lacking.has(line.trim())
  const kept = whole.split('\n').filter(line => !isLine(line) || lacking.get(line.trim()) === 'wrong-copy')
  const instead = machine.world.changes.flatMap(change => change.change === 'line' ? change.as ?? [] : [])
  const hidden = [...lacking].filter(([, how]) => how === 'hidden').map(([line]) => line)
  const edited = `${[...instead, ...kept, ...hidden.length ? ['[another-board]', ...hidden] : []].join('\n').replace(/\n*$/, '')}\n`
  const isCopy = [...lacking.values()].includes('wrong-copy')
  text(path, () => isCopy ? whole.split('\n').filter(line => !isLine(line)).join('\n') : edited)
  // The one that was edited: the older place, or the newer one.
  if (isCopy) text(path.includes('/firmware/')
    ? path.replace('/firmware/', '/')
    : path.replace('/boot/', '/boot/firmware/'), () => edited)
  if (facts.plan.boot?.commandLine) text(path.replace(/[^/]+$/, 'cmdline.txt'),
    () => `${facts.plan.boot!.commandLine}\n`)
}

/** The tree that the kernel got: a folder for each node, a file for each property. */
function addTree(root: TreeNode, files: Map<string, Entry>): void {
  files.set('/proc/device-tree', { link: '/sys/firmware/devicetree/base' })
  for (const { node, path } of walk(root)) {
    if (path.startsWith('/__')) continue
    const at = path === '/' ? '' : path
    for (const { name, value } of node.properties) files.set(`/sys/firmware/devicetree/base${at}/${name}`,
      { read: () => value })
    if (!propertyOf(node, 'name')) {
      const own = node.name.split('@')[0] ?? ''
      files.set(`/sys/firmware/devicetree/base${at}/name`, { read: () => `${own}\0` })
    }
  }
  const model = '/sys/firmware/devicetree/base/model'
  if (!files.has(model)) files.set(model, { read: () => `${childOf(root, 'model')?.name ?? 'A board'}\0` })
}
