/** What could be done about a shortage, before it is tried: other supplies, thicker leads, a hub, a lower clock. */
import { offeredItem, offeredSupply } from '../../catalogue/offered'
import type { SupplyUnit } from '../../catalogue/types'
import type { Facts } from '../../facts/types'
import { freeNodeId } from '../../plan/power-edits'
import { boardClocking, drawShare } from '../../facts/board'
import type { SupplyTree, SupplyNode } from '../../netlist/supply/types'
import { GAUGES } from '../../netlist/copper'
import { amps } from './words'
import type { PowerFix } from './ways'

/** Where there is a mains socket, a larger adapter is a way out. */
const FROM_MAINS = new Set<SupplyUnit['kind']>(['adapter', 'din-rail', 'internal-usb', 'usb-port', 'bench'])

/**
 * Adapters of a voltage that give enough; those whose plug fits the board first where they are for it,
 * then the smallest.
 */
function adaptersOf(
  { catalogue, board }: Facts, voltageV: number, neededMa: number, not: string | undefined, intoBoard = false,
): SupplyUnit[] {
  const misfit = (unit: SupplyUnit) => intoBoard && board && unit.cable?.plug !== board.signs.power ? 1 : 0
  return [...catalogue.supplies.values()]
    .filter(unit =>
      unit.kind === 'adapter' && unit.currentMa >= neededMa && unit.id !== not
      && Math.abs(unit.voltageV - voltageV) < 0.3
      && (voltageV > 6 || unit.cable?.plug !== 'round'))
    .sort((a, b) => misfit(a) - misfit(b) || a.currentMa - b.currentMa || (a.price ?? 0) - (b.price ?? 0)).slice(0, 2)
}

/** A larger source in place of one of the maker's own. */
export function largerSource(facts: Facts, source: SupplyNode, neededMa: number): PowerFix[] {
  if (!source.own || !source.unit || !FROM_MAINS.has(source.unit.kind)) return []
  return adaptersOf(facts, source.unit.voltageV, neededMa, source.unit.id)
    .map(unit => ({
      label: `Take ${unit.name}`, price: unit.price ?? 0,
      edits: [{ edit: 'edit-node', id: source.id, changes: { type: unit.id, name: unit.name, figures: {} } }],
    }))
}

/** A step-up converter where the source lies below the board's rail. */
export function stepUp({ plan, catalogue }: Facts, tree: SupplyTree): PowerFix[] {
  const socket = tree.byId.get('@socket')
  const from = socket?.from[0]
  const item = offeredItem(catalogue, 'step-up')
  const sourceV = tree.byId.get('@supply')?.figures.voltageV?.value ?? 0
  if (!socket || !from || !item || sourceV >= 4.5 || sourceV < (item.figures.leastInV ?? 0)) return []
  return [{
    label: `Put ${item.name} before the board`, price: item.price ?? 0,
    edits: [{ edit: 'add-node', node: { id: freeNodeId(plan.power, 'step-up'), type: item.id, name: item.name, from },
      before: '@socket' }],
  }]
}

/**
 * A converter that gets too little to work: taken out where its source is itself near what it makes, or given a
 * source above it.
 */
export function enoughHeadroom(facts: Facts, tree: SupplyTree, converter: SupplyNode, wantsV: number): PowerFix[] {
  if (!converter.own) return []
  const source = tree.byId.get(converter.from[0] ?? '')
  const sourceV = source?.figures.voltageV?.value ?? tree.byId.get(source?.from[0] ?? '')?.figures.voltageV?.value ?? 0
  const higher = [...facts.catalogue.supplies.values()]
    .filter(unit => unit.kind === 'adapter' && unit.voltageV >= wantsV
      && unit.voltageV <= (converter.figures.mostInV?.value ?? 400))
    .sort((a, b) => (a.price ?? 0) - (b.price ?? 0)).slice(0, 2)
  return [
    ...Math.abs(sourceV - (converter.figures.setV?.value ?? 0)) < 0.35
      ? [{ label: `Take ${converter.name} out`, price: 0, edits: [{ edit: 'remove-node' as const, id: converter.id }] }]
      : [],
    ...pathTo(tree, converter).includes('@supply')
      ? higher.map(unit => ({
          label: `Take ${unit.name}`, price: unit.price ?? 0,
          edits: [{ edit: 'choose-supply' as const, supply: { type: unit.id } }],
        }))
      : [],
  ]
}

function pathTo(tree: SupplyTree, node: SupplyNode): string[] {
  const ids: string[] = []
  for (let at: SupplyNode | undefined = node; at
    && !ids.includes(at.id); at = at.from.length ? tree.byId.get(at.from[0]!) : undefined) {
    ids.push(at.id)
  }
  return ids
}

/** Larger supplies of the voltage there is, 5 V where there is none, smallest first. */
export function largerSupplies(facts: Facts, neededMa: number): PowerFix[] {
  const { supply, plan } = facts
  if (!FROM_MAINS.has(supply?.kind ?? 'adapter')) return []
  return adaptersOf(facts, supply && supply.voltageV > 6 ? supply.voltageV : 5, neededMa, supply?.id, true)
    .map(unit => ({ label: `Take ${unit.name}`, price: unit.price ?? 0, edits: [
      ...Object.hasOwn(plan.power.figures, '@cable')
        ? [{ edit: 'set-power' as const,
            power: { figures: withoutKey(withoutKey(plan.power.figures, '@cable'), '@supply') } }]
        : [],
      { edit: 'choose-supply' as const, supply: { type: unit.id } }] }))
}

const withoutKey = <T>(record: Record<string, T>,
  key: string): Record<string, T> => Object.fromEntries(Object.entries(record)
  .filter(([name]) => name !== key))

/** So many steps thicker are tried. */
const STEPS_THICKER = [1, 2, 4]

/** Nobody builds with less: from a header to the part beside it, and from an adapter to a board. In m. */
const MIN_M = { wires: 0.1, lead: 0.3 }

/** The lead thicker by a few steps, and half as long. */
export function betterLead(cable: SupplyNode | undefined): PowerFix[] {
  const awg = cable?.figures.awg?.value
  const lengthM = cable?.figures.lengthM?.value
  if (!cable || awg === undefined || lengthM === undefined || (cable.figures.measuredOhm?.value ?? 0) > 0) return []
  let name: string
  if (cable.id === '@cable') name = 'The supply\'s lead'
  else if (cable.id.endsWith('@wire')) name = 'Its wires'
  else name = cable.id.endsWith('@lead')
    ? 'Its lead'
    : cable.name
  const below = GAUGES.filter(gauge => gauge < awg)
  const thicker = STEPS_THICKER.flatMap(step => below[step - 1] ?? [])
    .map((gauge): PowerFix => ({
      label: `${name} in ${gauge} gauge`, price: 2 + (awg - gauge) / 4,
      edits: [{ edit: 'set-figure', node: cable.id, figure: 'awg', value: gauge }],
    }))
  const half = Number((lengthM / 2).toFixed(2))
  return half >= (cable.id.endsWith('@wire') ? MIN_M.wires : MIN_M.lead)
    ? [
        ...thicker,
        { label: `${name} only ${half} m long`, price: 1,
          edits: [{ edit: 'set-figure', node: cable.id, figure: 'lengthM', value: half }] },
      ]
    : thicker
}

/** What is plugged into the board's USB sockets goes to a hub with a supply of its own. */
export function ownHub({ plan, catalogue }: Facts, tree: SupplyTree): PowerFix[] {
  const plugged = tree.nodes.filter(node =>
    node.kind === 'part' && tree.byId.get(`${node.id}@wire`)?.from[0] === '@usb')
  const hub = offeredItem(catalogue, 'hub')
  const adapter = offeredSupply(catalogue, 'hub-adapter')
  if (!plugged.length || !hub || !adapter) return []
  const hubId = freeNodeId(plan.power, 'hub')
  const adapterId = freeNodeId(plan.power, 'hub-adapter')
  return [{
    label: `A hub with its own supply for ${plugged.map(node => node.name).join(', ')}`,
    price: (hub.price ?? 0) + (adapter.price ?? 0),
    edits: [
      { edit: 'add-node', node: { id: adapterId, type: adapter.id, name: adapter.name } },
      { edit: 'add-node', node: { id: hubId, type: hub.id, name: hub.name, from: adapterId, upstream: '@usb' } },
      ...plugged.map(node => ({ edit: 'feed' as const, consumer: node.id, from: hubId })),
    ],
  }]
}

/** A hub that lives on the board gets a supply of its own. */
export function hubOwnSupply({ plan, catalogue }: Facts, tree: SupplyTree): PowerFix[] {
  const hub = tree.nodes.find(node => node.kind === 'hub' && node.own && node.from[0] === '@usb')
  const item = offeredItem(catalogue, 'hub')
  const adapter = offeredSupply(catalogue, 'hub-adapter')
  if (!hub || !item || !adapter) return []
  const adapterId = freeNodeId(plan.power, 'hub-adapter')
  return [{
    label: `A supply of its own for ${hub.name}`, price: (item.price ?? 0) + (adapter.price ?? 0),
    edits: [
      { edit: 'add-node', node: { id: adapterId, type: adapter.id, name: adapter.name } },
      { edit: 'edit-node', id: hub.id,
        changes: { type: item.id, name: item.name, from: adapterId, upstream: '@usb', figures: {} } },
    ],
  }]
}

/** A part on 5 V that is wired, not plugged, gets a supply of its own; its ground stays with the board. */
export function ownSupply(facts: Facts, tree: SupplyTree, load: SupplyNode): PowerFix[] {
  const ratedV = load.figures.ratedV?.value ?? 0
  if (load.kind !== 'part' || load.byPlug || Math.abs(ratedV - 5) > 0.1 || !tree.byId.has(`${load.id}@wire`)) return []
  const id = freeNodeId(facts.plan.power, 'own-supply')
  return adaptersOf(facts, 5, (load.figures.peakMa?.value ?? 0) / 0.85, undefined).slice(0, 1).map(unit => ({
    label: `A supply of its own for ${load.name}: ${unit.name}`, price: unit.price ?? 0,
    edits: [{ edit: 'add-node' as const, node: { id, type: unit.id, name: unit.name } },
      { edit: 'feed' as const, consumer: load.id, from: id }],
  }))
}

/** A lower clock and core voltage, as far down as boards of this kind usually go. */
export function lowerClock({ plan, board }: Facts): PowerFix[] {
  if (!board) return []
  const clocking = boardClocking(board)
  const { clock } = plan.power
  if ((clock.coreMhz ?? clocking.coreMhz) <= clocking.leastMhz && clock.voltageSteps <= clocking.stepsLeast) return []
  const lower = { coreMhz: clocking.leastMhz, voltageSteps: clocking.stepsLeast }
  const above = board.draw.peakMa - board.draw.idleMa
  const saved = above * (drawShare(clocking, clock) - drawShare(clocking, lower))
  return [{
    label: `Clock ${lower.coreMhz} MHz and ${lower.voltageSteps} voltage steps (arm_freq, `
      + `over_voltage), ${amps(saved)} less`, price: 0,
    edits: [{ edit: 'set-power', power: { clock: lower } }],
  }]
}

/**
 * A load's feed moved from the board's rail to the supply itself, past the board; not of what hangs on a USB plug
 * for its data.
 */
export function pastTheBoard(tree: SupplyTree, load: SupplyNode): PowerFix[] {
  const wire = tree.byId.get(`${load.id}@wire`)
  const supplyV = tree.byId.get('@supply')?.figures.voltageV?.value ?? 0
  const feed = tree.byId.has('@cable') ? '@cable' : '@supply'
  if (!wire || (load.byPlug && !load.ownSocket) || !tree.byId.has('@supply') || wire.from[0] === feed
    || supplyV > (load.figures.mostV?.value ?? 5.5)) {
    return []
  }
  return [{
    label: `Feed ${load.name} from the supply itself, past the board`, price: 2,
    edits: [{ edit: 'feed', consumer: load.id, from: feed }],
  }]
}
