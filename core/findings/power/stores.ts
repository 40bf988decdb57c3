/** Energy stores: hours asked, cold, banks that switch off, a week of weather; and the cautions that go with them. */
import { offeredFuse } from '../../catalogue/offered'
import type { SupplyTree, SupplyNode } from '../../netlist/supply/types'
import type { Finding, Rule } from '../types'
import { amps, hours, nodeSubject, volts, watts } from './words'

/** A pack too small for the hours asked. */
export const packTooSmall: Rule = ({ facts, power }) => {
  const asked = facts.plan.power.store.hoursAsked
  const [store] = power.report.stores
  const { hours: lasts, hoursMeant: { sun, atLeast } } = power.report
  // Weeks of this sky that end as full as they began go on for ever.
  if (asked === null || !store || store.hours === null || lasts === null || lasts >= asked || atLeast) return []
  const { capacity } = store
  const neededMah = Math.ceil(store.capacityMah * asked / Math.max(lasts, 1e-3) / 100) * 100
  const stops = store.discharge?.stops ? power.tree.byId.get(store.discharge.stops) : undefined
  const larger = [...facts.catalogue.supplies.values()].filter(unit =>
    unit.kind === store.kind && (unit.capacityMah ?? 0) >= neededMah
    && Math.abs(unit.voltageV - (power.tree.byId.get(store.node)?.figures.voltageV?.value ?? 0)) < 0.3)
  const best = store.savings.filter(saving => saving.hours >= asked)[0] ?? store.savings[0]
  return [{
    code: 'pack.too-small', id: `pack.too-small ${store.node}`, severity: 'stop', stages: ['power'],
    title: `${store.name} lasts ${hours(lasts)}${sun ? ' with this sun' : ''}; ${hours(asked)} are asked`,
    sentence: `${watts(store.meanW)} are drawn over the day and ${store.usableWh.toFixed(1)} Wh of `
      + `${capacity.printedWh.toFixed(1)} Wh can be used: ${hours(store.hours)}${sun ? ' without the sun' : ''}. `
      + `${stops ? `${stops.name} stops first, with ${Math.round(capacity.leftShare * 100)} % left in it. ` : ''}`
      + `For ${hours(asked)} it would take ${neededMah} mAh.`
      + `${best ? ` What saves most: ${best.name}, ${best.how}, ${hours(best.hours)}.` : ''}`,
    subjects: [nodeSubject(power.tree.byId.get(store.node)!), ...best?.partId ? [{ partId: best.partId }] : []],
    figures: [
      { label: 'lasts', value: Number(lasts.toFixed(1)), unit: 'h', limit: asked, origin: 'yours' },
      { label: 'drawn', value: Number(store.meanW.toFixed(2)), unit: 'W' },
      {
        label: 'usable', value: Number(store.usableWh.toFixed(1)), unit: 'Wh',
        origin: store.discharge
          ? 'memory: rest voltage by charge, emptied until something stops'
          : 'practice: capacity × cell voltage × efficiency, less cold and cut-off',
      },
    ],
    fixes: [
      ...larger.slice(0, 1)
        .map(unit => ({ label: `Take ${unit.name}`, edits: [store.node === '@supply'
          ? { edit: 'choose-supply' as const, supply: { type: unit.id } }
          : { edit: 'edit-node' as const, id: store.node, changes: { type: unit.id } }] })),
      { label: `Give it ${neededMah} mAh`,
        edits: [{ edit: 'set-figure', node: store.node, figure: 'capacityMah', value: neededMah }] },
    ],
    worksheet: {
      kind: 'battery', node: store.node, capacityMah: store.capacityMah,
      cellV: facts.catalogue.supplies.get(power.tree.byId.get(store.node)!.unit!.id)?.cellV ?? 3.7,
      efficiency: store.efficiency,
      powerW: Number(store.meanW.toFixed(3)), temperatureC: facts.plan.power.store.temperatureC,
      chemistry: power.tree.byId.get(store.node)!.unit!.chemistry ?? 'lithium',
      leftShare: Number(capacity.leftShare.toFixed(3)),
      hoursAsked: asked,
    },
  }]
}

/** Power banks switch off when too little is drawn. */
export const bankSwitchesOff: Rule = ({ power }) => power.report.stores.flatMap((store): Finding[] => {
  const unit = power.tree.byId.get(store.node)!.unit!
  if (!unit.lowLoadMa || store.minMa >= unit.lowLoadMa || store.meanW <= store.selfUseW) return []
  return [{
    code: 'bank.switches-off', id: `bank.switches-off ${store.node}`, severity: 'stop', stages: ['power'],
    title: `${store.name} switches itself off`,
    sentence: `In one part of the day only ${Math.round(store.minMa)} mA are drawn; below ${unit.lowLoadMa} mA `
      + `the bank takes it for nothing and switches off after ${unit.lowLoadS ?? 30} s. Take one that stays on, `
      + 'or draw a little more (a resistor of '
      + `${Math.floor(unit.voltageV / (unit.lowLoadMa - store.minMa + 5) * 1000)} Ω across it does).`,
    subjects: [nodeSubject(power.tree.byId.get(store.node)!)],
    figures: [{ label: 'drawn', value: Math.round(store.minMa), unit: 'mA', limit: unit.lowLoadMa,
      origin: unit.origin }], fixes: [],
  }]
})

/** The week's sun does not bring back what is drawn. */
export const weekRunsDry: Rule = ({ facts, power }) => {
  const { week, stores: [store] } = power.report
  if (!week || !store || facts.plan.power.store.panelW <= 0 || week.emptyAtH === null) return []
  const day = Math.floor(week.emptyAtH / 24) + 1
  const { panelW } = facts.plan.power.store
  const shortBy = week.loadWh / store.efficiency / Math.max(1e-6, week.sunWh)
  return [{
    code: 'week.runs-dry', id: `week.runs-dry ${store.node}`, severity: 'stop', stages: ['power'],
    title: `Empty on day ${day} of the week`,
    sentence: `Under the plan's weather the panel brings ${week.sunWh.toFixed(0)} Wh in a week and the store is empty `
      + `on day ${day} at ${String(Math.floor(week.emptyAtH % 24)).padStart(2, '0')}:00. Take a larger panel, a larger `
      + 'store, or draw less at night.',
    subjects: [nodeSubject(power.tree.byId.get(store.node)!)],
    figures: [
      { label: 'sun in the week', value: Math.round(week.sunWh), unit: 'Wh',
        origin: 'memory: 70 % of the peak arrives' },
      { label: 'usable', value: Number(store.usableWh.toFixed(1)), unit: 'Wh' },
    ],
    fixes: [{
      label: `Take a panel of ${Math.ceil(panelW * Math.max(1.25, shortBy * 1.3) / 5) * 5} W`,
      edits: [{
        edit: 'set-power',
        power: { store: { ...facts.plan.power.store,
          panelW: Math.ceil(panelW * Math.max(1.25, shortBy * 1.3) / 5) * 5 } },
      }],
    }],
  }]
}

/**
 * Whether everything this node leads to stands behind a fuse: switches, wires and connectors in between change
 * nothing of it.
 */
function fusedFrom(tree: SupplyTree, node: SupplyNode, seen: ReadonlySet<string> = new Set()): boolean {
  if (node.kind === 'fuse' || node.kind === 'fuse-resettable') return true
  if (node.role !== 'path' || node.figures.setV || node.kind === 'socket' || node.kind === 'header-input'
    || seen.has(node.id)) return false
  const next = tree.nodes.filter(other => other.from.includes(node.id))
  return next.length > 0 && next.every(other => fusedFrom(tree, other, new Set([...seen, node.id])))
}

/** Carries a board and its parts, and blows long before a wire glows. Common practice. */
const BATTERY_FUSE_MA = 3150

/** Batteries start fires: cautions with every store, and a fuse where there is none. */
export const storeCautions: Rule = ({ power, facts }) => power.tree.nodes.flatMap((node): Finding[] => {
  if (node.role !== 'source' || (node.kind !== 'lithium' && node.kind !== 'lead' && node.kind !== 'vehicle')) return []
  const lead = node.id === '@supply' ? '@cable' : `${node.id}@lead`
  const ends = [node.id, ...power.tree.byId.has(lead) ? [lead] : []]
  const behind = power.tree.nodes.filter(other => other.id !== lead && other.from.some(id => ends.includes(id)))
  const fused = behind.length > 0 && behind.every(other => fusedFrom(power.tree, other))
  let chemistry: string
  if (node.kind === 'lithium') chemistry = 'Lithium cells: take protected ones, charge them with a charger made for '
    + 'them, never parallel cells of unequal charge, keep them from frost and heat.'
  else chemistry = node.kind === 'lead'
    ? 'Lead batteries: charge them where gas can leave, and never empty them further than half.'
    : 'A vehicle: take it from a fused circuit, never from the battery straight, and let it still start.'
  const from = power.tree.byId.has(lead) ? lead : node.id
  const consumer = behind[0]
  const fuse = offeredFuse(facts.catalogue, BATTERY_FUSE_MA)
  return [{
    code: fused ? 'battery.cautions' : 'battery.no-fuse',
    id: `${fused ? 'battery.cautions' : 'battery.no-fuse'} ${node.id}`,
    severity: fused ? 'note' : 'caution', stages: ['power', 'build'],
    title: fused ? `${node.name}: handle it with care` : `${node.name} has no fuse`,
    sentence: `${fused
      ? ''
      : `In a short it gives ${Math.round(node.figures.voltageV!.value / Math.max(
        0.001, node.figures.ohm?.value ?? 0.05,
      ))} A, enough to set a wire on fire: put a fuse at its terminal. `}${chemistry}`,
    subjects: [nodeSubject(node)],
    figures: [{
      label: 'rest voltage', value: Number(volts(node.figures.voltageV!.value).replace(' V', '')), unit: 'V',
      origin: node.figures.voltageV!.origin,
    }],
    fixes: fused || !consumer || !fuse
      ? []
      : [{
          label: `Put a fuse of ${amps(fuse.figures.ratedMa!)} at its terminal`,
          edits: [{
            edit: 'add-node',
            node: {
              id: power.tree.byId.has('fuse') ? `fuse-${node.id.replace('@', '')}` : 'fuse', type: fuse.id,
              name: fuse.name, from,
            },
            before: consumer.id.replace(/@wire$/, ''),
          }],
        }],
  }]
})
