/** What should be there once the build is done: bus addresses and device nodes. */
import { fillTemplate } from '../overlays/asks/placeholders'
import { holds } from '../facts/gather'
import type { Facts } from '../facts/types'
import { hexAddress } from './grid'

export interface ExpectedAddress {
  busId: string
  address: number
  /** Parts that answer there. */
  names: string[]
  /** Behind a hub: seen only while that channel is open. */
  throughHub: boolean
}

export interface ExpectedNode {
  path: string
  what: string
  partId?: string
}

export interface Expected {
  addresses: ExpectedAddress[]
  nodes: ExpectedNode[]
  /** Command for each I²C bus that scans it. */
  scans: { busId: string, label: string, command: string }[]
}

export function expectedOf(facts: Facts): Expected {
  const addresses = new Map<string, ExpectedAddress>()
  for (const device of facts.devices) {
    if (!device.busId || !Number.isFinite(device.address)) continue
    const key = `${device.busId} ${hexAddress(device.address)}`
    const entry = addresses.get(key)
    if (entry) entry.names.push(device.owner.name)
    else addresses.set(key, { busId: device.busId, address: device.address, names: [device.owner.name], throughHub: device.busId.includes('.') })
  }
  const buses = facts.buses.filter(bus => bus.controller)
  const busNodes = buses.flatMap(({ controller, label, id }): ExpectedNode[] => {
    if (!controller!.device) return []
    if (controller!.kind !== 'spi') return [{ path: controller!.device, what: label }]
    return selectsInUse(facts, id).map(select => ({ path: controller!.device!.replace('{select}', select), what: `${label}, select ${select}` }))
  })
  const partNodes = facts.parts.flatMap(owner => (owner.part.nodes ?? []).filter(node => holds(node.when, owner.options)).flatMap((node): ExpectedNode[] => {
    const path = fillTemplate(node.path, owner, facts)
    return path ? [{ path, what: `${owner.name}: ${node.what}`, partId: owner.id }] : []
  }))
  const claimed = new Set(partNodes.map(node => node.path))
  return {
    addresses: [...addresses.values()].sort((a, b) => Number(a.busId > b.busId) - Number(a.busId < b.busId) || a.address - b.address),
    nodes: [...busNodes.filter(node => !claimed.has(node.path)), ...partNodes],
    scans: buses.filter(bus => bus.kind === 'i2c').map(bus => ({ busId: bus.id, label: bus.label, command: `i2cdetect -y ${bus.id.replace('i2c', '')}` })),
  }
}

/** Selects that carry a part without a kernel driver of its own, which would take the node away. */
function selectsInUse(facts: Facts, busId: string): string[] {
  return facts.groups.filter(group => group.bus?.id === busId && group.kind === 'spi' && !group.owner.part.boot?.length).flatMap((group) => {
    const select = fillTemplate('{select}', group.owner, facts)
    return select === null ? [] : [select]
  })
}
