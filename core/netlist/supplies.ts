/**
 * Components and conductors of the supply: sources, their leads, what stands between, cables, and the plugs
 * into the board.
 */
import { isJoinNode, spliceComponent, supplyComponent } from '../plan/ids'
import type { NodeRef } from '../plan/power'
import { BOARD_ID, returnOf, SOCKET_PIN } from './board'
import { positionOfPin, type BoardSpots, type Spot } from './spots'
import type { SupplyTree, SupplyNode } from './supply/types'
import type { Component, Conductor } from './types'

/** A short piece of wire between two things that stand beside each other. */
const SHORT_M = 0.1

/** Lays the supply out: what lies on the table but for the parts, and what joins it. */
export class SupplyLayout {
  readonly components: Component[] = []
  readonly conductors: Conductor[] = []
  private readonly fedBy = new Map<NodeRef, SupplyNode[]>()

  constructor(private readonly tree: SupplyTree, private readonly spots: BoardSpots) {
    for (const node of tree.nodes) for (const id of node.from) this.fedBy.set(id, [...this.fedBy.get(id) ?? [], node])
    for (const node of tree.nodes) if (isItem(node)) this.components.push(itemComponent(node))
    for (const node of tree.nodes) if (isCable(node)) this.layCable(node)
    for (const node of tree.nodes) {
      const into = this.inputOf(node)
      if (into) for (const id of node.from) this.attach(id, into, `${node.id}@${id}`)
    }
    for (const node of tree.nodes) {
      if (node.kind === 'hub' && node.upstream) this.layDataPlug(node, node.upstream)
      if (node.kind === 'contact-load') this.layContactLoad(node)
    }
  }

  /** Where something that this node feeds is joined to it; null where the node gives nothing. */
  outputOf(id: NodeRef): Spot | null {
    const node = this.tree.byId.get(id)
    if (!node) return null
    if (isCable(node)) return { pin: spliceComponent(id), component: spliceComponent(id) }
    const position = positionOfPin(id)
    if (position !== undefined) return { pin: id, component: BOARD_ID }
    if (id === '@5V' || id === '@3V3') return this.spots.nearest(id === '@5V' ? '5V' : '3V3', undefined)
    if (id === '@usb') return this.spots.socket('usb')
    if (node.partId) {
      if (node.kind === 'part') return { pin: node.id, component: node.partId }
      return node.kind === 'contact'
        ? { pin: `${id}.no`, component: node.partId }
        : null
    }
    return isItem(node) ? { pin: `${supplyComponent(id)}.out`, component: supplyComponent(id) } : null
  }

  /** The pin by which a node that is no cable and no part takes its supply. */
  private inputOf(node: SupplyNode): Spot | null {
    if (node.id === '@socket') return { pin: SOCKET_PIN, component: BOARD_ID }
    if (node.id === '@header') return this.spots.nearest('5V', undefined)
    if (isJoinNode(node.id)) return this.targetOf(node.id)
    if (node.kind === 'contact') return { pin: `${node.id}.com`, component: node.partId! }
    return isItem(node) && node.role !== 'source'
      ? { pin: `${supplyComponent(node.id)}.in`, component: supplyComponent(node.id) }
      : null
  }

  /** What a second plug goes into. */
  private targetOf(join: NodeRef): Spot | null {
    const into = this.tree.nodes.find(node => node.from.includes(join))
    if (!into) return null
    if (into.id === '@5V') return { pin: SOCKET_PIN, component: BOARD_ID }
    if (into.kind === 'part' && into.partId) return { pin: `${into.id}.socket`, component: into.partId }
    return this.outputOf(into.id)
  }

  /** True for a cable that ends at the one thing it feeds; others end at terminals of their own. */
  private endsDirectly(cable: SupplyNode): boolean {
    const [only, ...more] = this.fedBy.get(cable.id) ?? []
    return only !== undefined && !more.length && !isCable(only) && this.inputOf(only) !== null
  }

  private layCable(cable: SupplyNode): void {
    if (cable.partId) return
    const [feeder] = cable.from
    const start = feeder === undefined ? null : this.outputOf(feeder)
    if (!start) return
    const only = this.fedBy.get(cable.id)?.[0]
    const direct = this.endsDirectly(cable)
    const end = direct ? this.inputOf(only!)! : { pin: spliceComponent(cable.id), component: spliceComponent(cable.id) }
    if (!direct) this.components.push(terminalsAt(end, cable.name))
    this.join(cable.id, start, end, {
      kind: 'lead', node: cable.id, lengthM: cable.figures.lengthM?.value ?? 1,
      ...cable.figures.awg && { awg: cable.figures.awg.value },
      ...cable.own && {
        name: cable.name, ...cable.item && { type: cable.item.id },
        ...cable.price !== undefined && { price: cable.price },
      },
    })
  }

  /** Joins a consumer to its feeder. A cable that ends directly at it is laid already. */
  private attach(feeder: NodeRef, into: Spot, id: string): void {
    const node = this.tree.byId.get(feeder)
    if (node && isCable(node) && this.endsDirectly(node)) return
    const start = this.outputOf(feeder)
    if (start) this.join(id, start, into, {})
  }

  private layDataPlug(hub: SupplyNode, upstream: NodeRef): void {
    const up = `${supplyComponent(hub.id)}.up`
    const port = upstream === '@usb' ? this.spots.socket('usb') : this.outputOf(upstream)
    if (port) {
      this.join(
        `${hub.id}@data`, { pin: up, component: supplyComponent(hub.id) }, port,
        { kind: 'plug', role: 'data', node: hub.id, lengthM: 1 },
      )
    }
  }

  private layContactLoad(load: SupplyNode): void {
    const contact = load.id.replace(/@load$/, '')
    const id = supplyComponent(load.id)
    this.components.push({
      id, kind: 'load', name: load.name, what: 'Load on a relay contact', partId: load.partId!, node: load.id,
      pins: twoPins(`${id}.in`, ''), inside: [],
    })
    this.conductors.push({
      id: `${load.id}@${contact}`, kind: 'wire', role: 'supply', from: load.partId!, to: id, node: load.id,
      lengthM: 0.5,
      ways: [{ from: `${contact}.no`, to: `${id}.in` }],
    })
    const source = this.tree.byId.get(contact)?.from[0]
    const feed = source === undefined ? null : this.outputOf(source)
    if (feed) {
      this.conductors.push({
        id: `${load.id}@return`, kind: 'wire', role: 'ground', from: id, to: feed.component, node: load.id,
        lengthM: 0.5,
        ways: [{ from: returnOf(`${id}.in`), to: this.spots.returnFor(feed.pin) }],
      })
    }
  }

  /** Two ways, there and back. A relay contact stands in the one there alone. */
  private join(id: string, from: Spot, to: Spot, more: Partial<Conductor>): void {
    const position = positionOfPin(to.pin) ?? positionOfPin(from.pin)
    const back = /#\d+\.(com|no)$/.test(to.pin) || /#\d+\.(com|no)$/.test(from.pin)
      ? []
      : [{ from: this.spots.returnFor(from.pin), to: this.spots.returnFor(to.pin) }]
    this.conductors.push({
      id, kind: 'wire', role: 'supply', from: from.component, to: to.component, lengthM: SHORT_M,
      ...position !== undefined && { position },
      ...more, ways: [{ from: from.pin, to: to.pin }, ...back],
    })
  }
}

const isCable = (node: SupplyNode) => node.kind === 'cable'

/** A thing of its own: no cable, nothing of a part, nothing of the board. */
const isItem = (node: SupplyNode) =>
  !node.partId && !isCable(node) && (!node.id.startsWith('@') || node.id === '@supply')

const twoPins = (pin: string,
  label: string) => [{ id: pin, label: `${label} +`.trim() }, { id: returnOf(pin), label: `${label} −`.trim() }]

const terminalsAt = (spot: Spot, of: string): Component => ({
  id: spot.component, kind: 'splice', name: `Terminals at the end of ${of}`, what: 'Terminal block',
  pins: twoPins(spot.pin, ''),
  inside: [],
})

function itemComponent(node: SupplyNode): Component {
  const id = supplyComponent(node.id)
  const pins = [
    ...node.role === 'source' ? [] : twoPins(`${id}.in`, 'input'),
    ...node.output !== null && node.role !== 'load' ? twoPins(`${id}.out`, 'output') : [],
    ...node.kind === 'hub' ? twoPins(`${id}.up`, 'upstream') : [],
  ]
  // The return runs through all that stands between, but for what separates AC from DC.
  const returns = pins.filter(pin => pin.id.endsWith('-')).map(pin => pin.id)
  return {
    id, kind: node.role === 'load' ? 'load' : 'item', name: node.name,
    what: node.unit?.name ?? node.item?.name ?? node.name,
    ...(node.unit ?? node.item) && { type: (node.unit ?? node.item)!.id },
    node: node.id, pins,
    inside: node.kind === 'rectifier' || returns.length < 2 ? [] : [returns],
    ...node.price !== undefined && { price: node.price },
  }
}
