/**
 * The kernel's messages with their times: what the start did, and what was plugged since. Wording from memory,
 * times made up.
 */
import type { Machine } from './machine'

export interface Message { atS: number, text: string, level: 'info' | 'warn' | 'err' }

/** Published: Linux, include/uapi/asm-generic/errno.h: 121, nobody answered on the bus. */
const NO_ANSWER = -121

export function messagesOf(machine: Machine): Message[] {
  const { rehearsal, facts } = machine
  const found: Message[] = [
    { atS: 0, level: 'info', text: 'Booting Linux on physical CPU 0x0' },
    { atS: 0, level: 'info', text: `Machine model: ${facts.board!.name}` },
    { atS: 0, level: 'info',
      text: `Kernel command line: ${facts.plan.boot?.commandLine ?? 'console=tty1 root=/dev/mmcblk0p2 rootwait'}` },
  ]
  // Published: Linux, fs/ext4/super.c; the wording from memory.
  if (machine.isUnclean) found.push({ atS: 1.1, level: 'info', text: 'EXT4-fs (mmcblk0p2): recovery complete' })
  found.push({ atS: 1.15, level: 'info',
    text: 'EXT4-fs (mmcblk0p2): mounted filesystem with ordered data mode. Quota mode: none.' })
  let at = 1.2
  const say = (text: string, level: Message['level'] = 'info') => found.push({ atS: at += 0.13, text, level })
  for (const { path } of machine.devices) {
    const bus = /^\/dev\/(i2c-\d+)$/.exec(path)?.[1]
    const port = /^\/dev\/(tty(?:S|AMA)\d+)$/.exec(path)?.[1]
    const select = /^\/dev\/spidev(\d+\.\d+)$/.exec(path)?.[1]
    if (bus) say(`i2c_dev: adapter ${bus.replace('-', ' ')} registered`)
    if (port) say(`${port}: serial port is on`)
    if (select) say(`spidev spi${select}: device for programs`)
  }
  for (const { sentence } of rehearsal.collisions) say(sentence, 'err')
  for (const driver of machine.drivers) {
    const where = `${driver.module} ${nameOf(driver.path, driver.address, machine)}`
    if (driver.refused) say(`${where}: probe failed: ${driver.refused}`, 'err')
    else if (!answers(driver.address, machine)) say(`${where}: probe failed with error ${NO_ANSWER}`, 'err')
    else say(`${where}: registered`)
  }
  for (const owner of facts.parts) if (usbOf(machine, owner.id) && machine.isIn(owner.id)
    && !machine.plugs.some(plug => plug.owner === owner)) {
    for (const text of plugged(machine, owner.id)) say(text)
  }
  for (const { atS, owner, isIn } of machine.plugs) if (usbOf(machine, owner.id)) {
    at = atS
    if (!isIn) say(`usb ${usbOf(machine, owner.id)}: USB disconnect, device number ${numberOf(machine, owner.id)}`)
    else for (const text of plugged(machine, owner.id)) say(text)
  }
  // memory
  if (machine.isLow || machine.throttleWord & 0x1_0000) found.push({ atS: machine.nowS - 1, level: 'warn',
    text: 'hwmon hwmon1: Undervoltage detected!' })
  return found.sort((a, b) => a.atS - b.atS)
}

/** `1-0068` for a device on I²C, `spi0.1` on SPI, else the node's own name. */
function nameOf(path: string, address: number | null, machine: Machine): string {
  const parts = path.split('/')
  const own = parts.at(-1)!
  if (address === null) return own
  const bus = machine.facts.buses.find(entry => machine.busPath(entry) === parts.slice(0, -1).join('/'))
  if (bus?.kind === 'spi') return `${bus.id}.${address}`
  return bus ? `${bus.id.replace('i2c', '')}-${address.toString(16).padStart(4, '0')}` : own
}

/** A driver on I²C asks its chip first; the others take what they are given. */
function answers(address: number | null, machine: Machine): boolean {
  if (address === null) return true
  const device = machine.facts.devices.find(entry => entry.address === address && !entry.also)
  const bus = machine.facts.buses.find(({ id }) => id === device?.busId)
  if (!device || bus?.kind !== 'i2c') return true
  const heard = machine.world.heard(bus)
  return Array.isArray(heard) && heard.some(entry => entry.address === address)
}

const usbParts = ({ facts }: Machine) =>
  facts.parts.filter(({ part }) => part.plugs?.some(({ socket }) => socket === 'usb'))
const usbOf = (machine: Machine, id: string): string | null => {
  const nth = usbParts(machine).findIndex(owner => owner.id === id)
  return nth < 0 ? null : `1-1.${nth + 1}`
}
const numberOf = (machine: Machine, id: string) => usbParts(machine).findIndex(owner => owner.id === id) + 3

function plugged(machine: Machine, id: string): string[] {
  const owner = machine.facts.parts.find(entry => entry.id === id)!
  const at = usbOf(machine, id)!
  if (!machine.world.isFed(owner) || machine.world.isDead(id) || !machine.world.isWired(owner)) return []
  const nodes = machine.devices.filter(({ owner: whose }) => whose?.id === id)
    .map(({ path }) => path.split('/').at(-1)!)
  return [
    `usb ${at}: new full-speed USB device number ${numberOf(machine, id)}`, `usb ${at}: Product: ${owner.part.name}`,
    ...nodes.map((node) => {
      if (node.startsWith('ttyACM')) return `cdc_acm ${at}:1.0: ${node}: USB ACM device`
      return node.startsWith('ttyUSB')
        ? `usb ${at}: serial converter now attached to ${node}`
        : `input: ${owner.part.name} as ${node}`
    }),
  ]
}
