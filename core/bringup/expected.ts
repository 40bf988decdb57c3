/** What should be there once the build is done: bus addresses, device nodes, and voltages to measure. */
import { drivenByProgram } from '../facts/roles'
import { isMet } from '../facts/conditions'
import type { Facts, ResolvedPart } from '../facts/types'
import { isMade, overlaysAsked } from '../overlays/asks/fit'
import { fillTemplate } from '../overlays/asks/placeholders'
import type { Power } from '../power/report'
import { stateNamed } from '../power/states'
import { hexAddress } from './grid'

export interface ExpectedAddress {
  busId: string
  address: number
  /** Parts that answer there. */
  names: string[]
  /** Behind a hub: seen only while that channel is open. */
  throughHub: boolean
  /** Boards of this kind often answer here too, and not all do. */
  optional?: true
}

export interface ExpectedNode {
  path: string
  what: string
  partId?: string
}

export interface ExpectedVoltage {
  /** Node of the supply graph. */
  node: string
  /** Where the meter goes. */
  where: string
  volts: number
}

export interface Expected {
  addresses: ExpectedAddress[]
  nodes: ExpectedNode[]
  /** With everything running as usual. */
  voltages: ExpectedVoltage[]
  /** Command for each I²C bus that scans it. */
  scans: { busId: string, label: string, command: string }[]
}

/** Laws: nodes are those of a rehearsal with the plan's lines written; voltages are those of the circuit. */
export function expectedOf(facts: Facts, power: Power): Expected {
  const buses = facts.buses.filter(bus => bus.controller)
  const partNodes = facts.parts.flatMap(owner => nodesOf(owner, facts))
  const claimed = new Set(partNodes.map(node => node.path))
  return {
    addresses: addressesOf(facts), nodes: [...busNodes(facts).filter(node => !claimed.has(node.path)), ...partNodes],
    voltages: voltagesOf(facts, power),
    scans: buses.filter(bus => bus.kind === 'i2c')
      .map(bus => ({ busId: bus.id, label: bus.label, command: `i2cdetect -y ${bus.id.replace('i2c', '')}` })),
  }
}

function addressesOf(facts: Facts): ExpectedAddress[] {
  const addresses = new Map<string, ExpectedAddress>()
  for (const device of facts.devices) {
    if (!device.busId || !Number.isFinite(device.address)) continue
    const key = `${device.busId} ${hexAddress(device.address)}`
    const entry = addresses.get(key)
    if (entry) {
      entry.names.push(device.owner.name)
      if (!device.also) delete entry.optional
    }
    else addresses.set(
      key,
      { busId: device.busId, address: device.address,
        names: [device.also ? `${device.owner.name}: ${device.also}` : device.owner.name],
        throughHub: device.busId.includes('.'), ...device.also && { optional: true as const },
      },
    )
  }
  return [...addresses.values()].sort((a,
    b) => Number(a.busId > b.busId) - Number(a.busId < b.busId) || a.address - b.address)
}

/** What programs open to get at a bus. */
function busNodes(facts: Facts): ExpectedNode[] {
  const found = new Map<string, ExpectedNode>()
  for (const { id, kind, label, controller } of facts.buses) {
    const device = controller?.device
    // A strip's program drives the pulse circuit itself, without the kernel.
    if (!device || facts.groups.filter(group => group.bus?.id === id)
      .every(group => drivenByProgram(group.terminals, { kind }))) continue
    if (kind === 'spi') for (const select of openSelects(facts, id)) {
      found.set(`${id} ${select}`,
        { path: device.replace('{select}', String(select)), what: `${label}, select ${select}` })
    }
    else if (kind === 'pwm') {
      // The folder is there from the start; a channel's own comes when a program asks for it.
      const path = device.replace(/\/pwm\d+$/, '')
      found.set(path, { path, what: found.has(path) ? 'Pulse channels' : label })
    }
    else found.set(id, { path: device, what: label })
  }
  return [...found.values()]
}

/** Selects that carry a part without a kernel driver of its own, which would take the node away. */
function openSelects(facts: Facts, busId: string): number[] {
  return facts.groups.filter(group =>
    group.bus?.id === busId && group.kind === 'spi' && !overlaysAsked(group.owner).length
    && !isMade(group.owner, facts))
    .flatMap(group => group.terminals.flatMap(terminal => facts.selectNumbers.get(terminal.key) ?? []))
}

/**
 * Nodes of a part: those its driver brings where one is loaded, those its plug brings, those of the bus it hangs on.
 */
function nodesOf(owner: ResolvedPart, facts: Facts): ExpectedNode[] {
  const isPlugged = (owner.part.plugs ?? []).some(plug =>
    (plug.socket === 'usb' || plug.socket === 'display') && isMet(plug.when, owner.options))
  const i2c = facts.groups.find(group => group.owner === owner && group.kind === 'i2c')?.bus
  // Behind a hub and on a bus of plain lines no line loads its driver.
  const isDriven = isMade(owner, facts)
    || ((owner.part.boot ?? []).some(need => isMet(need.when, owner.options)) && !(i2c && !i2c.controller))
  const opensBus = (path: string) => /^\/dev\/(spidev|i2c-)/.test(path)
  return (owner.part.nodes ?? []).filter(node => isMet(node.when, owner.options)).flatMap((node): ExpectedNode[] => {
    const path = fillTemplate(node.path, owner, facts)
    return path && (isPlugged || isDriven || opensBus(path))
      ? [{ path, what: `${owner.name}: ${node.what}`, partId: owner.id }]
      : []
  })
}

/** The rails and whatever the maker feeds besides, measured against ground. Nothing where no source is in the plan. */
function voltagesOf(facts: Facts, { tree, states }: Power): ExpectedVoltage[] {
  if (tree.assumed || !tree.nodes.some(node => node.role === 'source')) return []
  const typical = stateNamed(states, 'typical')
  const at = (node: string, where: string): ExpectedVoltage[] => typical.nodes[node]
    ? [{ node, where, volts: Number(typical.nodes[node].voltageV.toFixed(2)) }]
    : []
  const own = tree.nodes.filter(node => node.own && node.output !== null && node.role !== 'load')
  return [
    ...facts.board ? [...at('@5V', 'position 2 against a ground'), ...at('@3V3', 'position 1 against a ground')] : [],
    ...own.flatMap(node => at(node.id, node.role === 'source' ? `at ${node.name}` : `behind ${node.name}`)),
  ]
}
