/** Fuses: those that go without a fault, those that no fault blows, and wires that have none. */
import type { PowerItem } from '../../catalogue/types'
import { freeNodeId } from '../../plan/power-edits'
import {
  ADAPTER_OVERLOAD, blowsWithinS, carriesForS, fittingFuseMa, GONE_WITHIN_S, shortMa, STEADY_SHARE, warmShare,
  type FuseTask,
} from '../../power/front/fuse'
import { cableOhm, sourceEmfV, sourceOhm } from '../../netlist/supply/resistance'
import { DENSITY, wireMostMa } from '../../netlist/copper'
import type { Power } from '../../power/report'
import { pathUp } from '../../power/shares'
import { stateNamed, type PowerState } from '../../power/states'
import { surgesAt } from '../../power/surge'
import type { SupplyNode } from '../../netlist/supply/types'
import type { Finding, Fix, Rule } from '../types'
import { amps, flow, limitOf, ma, nodeName, nodeSubject, sentenceCase, verb } from './words'

/** A fuse that goes in ordinary use, one that no fault can blow, and one larger than the wire it should protect. */
export const fuses: Rule = ({ facts, power }) => power.tree.nodes.flatMap((node): Finding[] => {
  if (node.kind !== 'fuse' && node.kind !== 'fuse-resettable') return []
  const resettable = node.kind === 'fuse-resettable'
  const rated = node.figures[resettable ? 'holdMa' : 'ratedMa']!
  const airC = power.report.heat?.airC ?? facts.plan.power.heat.ambientC
  const warm = warmShare(node.kind, airC)
  const holdsMa = rated.value * warm
  const max = Math.max(...power.states.filter(state => state.id !== 'start').map(state => flow(state, node)))
  // The surge that comes nearest to blowing it: short ones may be large.
  const surges = surgesAt(power.tree, power.states, node.id)
    .map(surge => ({ ...surge, carriesS: carriesForS(holdsMa, surge.currentMa) }))
    .sort((a, b) => a.carriesS / a.seconds - b.carriesS / b.seconds)
  const surge = surges[0]
    ?? { currentMa: flow(stateNamed(power.states, 'start'), node), seconds: 0, carriesS: Infinity }
  const fault = faultMa(power, node, stateNamed(power.states, 'peak'))
  const wire = thinnestBehind(power, node)
  const wireMost = wire ? wireMostMa(wire.figures.awg!.value, wire.figures.bundledPairs?.value ?? 1) : Infinity
  const task = { steadyMa: max, surgeMa: surge.currentMa, surgeS: surge.seconds, shortMa: fault, temperatureC: airC,
    wireMa: wireMost }
  const fitting = otherFuse(facts.catalogue.powerItems, node, task)
  const warmth = Math.abs(warm - 1) > 0.02 ? ` at ${Math.round(airC)} °C` : ''
  const subjects = [nodeSubject(node)]
  const figures = [
    { label: 'peak', value: ma(max), unit: 'mA', ...limitOf(node, resettable ? 'holdMa' : 'ratedMa'),
      limit: ma(holdsMa) },
    { label: `at start-up, ${Number((surge.seconds * 1000).toPrecision(2))} ms`, value: ma(surge.currentMa),
      unit: 'mA' },
    { label: 'in a short', value: ma(fault), unit: 'mA', origin: 'arithmetic' },
    ...warmth
      ? [{ label: 'left of its rating', value: Math.round(warm * 100), unit: '%',
          origin: 'memory: 0.3 % a kelvin, 0.9 % of a polymer' }]
      : [],
  ]
  const worksheet = {
    kind: 'fuse' as const, node: node.id, steadyMa: Math.round(max), surgeMa: Math.round(surge.currentMa),
    shortMa: Math.round(fault),
    wireAwg: wire?.figures.awg?.value ?? 20, surgeS: surge.seconds, temperatureC: Math.round(airC),
  }
  const common = { stages: ['power' as const], subjects, figures, fixes: fitting ? [fitting.fix] : [], worksheet }
  const goesInSurge = !resettable && surge.carriesS < surge.seconds
  let blowS: number
  if (resettable) blowS = fault >= node.figures.tripMa!.value * warm ? GONE_WITHIN_S : Infinity
  else blowS = blowsWithinS(rated.value, fault)
  const never = fault > 0 && blowS > GONE_WITHIN_S
  return [
    ...max > holdsMa || goesInSurge
      ? [{
          ...common, code: 'fuse.always-blows' as const, id: `fuse.always-blows ${node.id}`, severity: 'stop' as const,
          title: `${node.name} goes in ordinary use`,
          sentence: `${max > holdsMa
            ? `${amps(max)} flow through it at peak`
            : `${amps(surge.currentMa)} flow through it for ${Number((surge.seconds * 1000).toPrecision(2))} ms at start-up`} and it `
            + `holds ${amps(holdsMa)}${warmth}: it ${resettable ? 'lets go' : 'blows'} although nothing is wrong. `
            + `${fitting ? `One of ${amps(fitting.ratedMa)} carries it.` : noneDoes(resettable)}`,
        }]
      : max > holdsMa * STEADY_SHARE && !resettable
        ? [{
            ...common, code: 'fuse.tight' as const, id: `fuse.tight ${node.id}`, severity: 'caution' as const,
            title: `${node.name} ages`,
            sentence: `${amps(max)} flow through it at peak, more than three quarters of its `
              + `${amps(holdsMa)}${warmth}: it ages and blows one day without a fault.`,
          }]
        : [],
    ...never
      ? [{
          ...common, code: 'fuse.never-blows' as const, id: `fuse.never-blows ${node.id}`, severity: 'caution' as const,
          title: Number.isFinite(blowS) ? `${node.name} may take ${time(blowS)} to blow` : `${node.name} never blows`,
          sentence: `In a short behind it ${amps(fault)} flow, ${shortWords(node, fault, rated.value, blowS)} `
            + `${fitting
              ? `One of ${amps(fitting.ratedMa)} would go within ${GONE_WITHIN_S} s.`
              : 'Rely on the source\'s own limit, or take a source that gives more.'}`,
        }]
      : [],
    ...wire && rated.value > wireMost
      ? [{
          ...common, code: 'fuse.above-wire' as const, id: `fuse.above-wire ${node.id}`, severity: 'stop' as const,
          title: `${node.name} does not protect ${nodeName(wire, power.tree)}`,
          subjects: [...subjects, nodeSubject(wire)],
          sentence: `${sentenceCase(nodeName(wire, power.tree))} ${verb(wire, 'stands', 'stand')} ${amps(wireMost)} `
            + `and the fuse before it lets ${amps(rated.value)} pass: in a fault the wire burns first. Take a smaller `
            + 'fuse or a thicker wire.',
        }]
      : [],
  ]
})

const noneDoes = (resettable: boolean) =>
  `No ${resettable ? 'resettable fuse of the catalogue' : 'fuse'} carries this, spares the wire behind it and lets go `
  + 'in a short.'

/** What a short too small to blow it at once means. */
const shortWords = ({ kind }: SupplyNode, faultMa: number, ratedMa: number,
  blowS: number): string => Number.isFinite(blowS)
  ? `${Number((faultMa / ratedMa).toFixed(1))} times its ${amps(ratedMa)}: it may hold that for ${time(blowS)}, and `
  + 'the wire heats meanwhile.'
  : `too little to ${kind === 'fuse' ? `blow a fuse of ${amps(ratedMa)}` : 'make it let go'}: the source lets go `
    + 'before the fuse does. It protects nothing.'

const time = (s: number) => s >= 120 ? `${Math.round(s / 60)} minutes` : `${Number(s.toPrecision(2))} s`

/** What a short right behind the node draws, with all resistance on the way. */
function faultMa({ tree }: Power, node: SupplyNode, state: PowerState): number {
  const path = pathUp(tree, state, node.id)
  const source = path.find(entry => entry.role === 'source')
  if (!source) return 0
  const ohm = path.reduce((sum, entry) => sum + ohmOf(entry), 0)
  const converter = path.find(entry => entry.figures.setV)
  const limited = converter?.figures.ratedMa?.value ?? (source.unit?.takesBack || source.unit?.kind === 'transformer'
    ? null
    : source.figures.currentMa?.value ?? null)
  return shortMa(
    converter?.figures.setV?.value ?? sourceEmfV(source), ohm, limited === null ? null : limited * ADAPTER_OVERLOAD,
  )
}

const ohmOf = (node: SupplyNode) => {
  if (node.kind === 'cable') return cableOhm(node)
  return node.role === 'source' ? sourceOhm(node) : node.figures.ohm?.value ?? 0
}

/** The thinnest wire that the fuse alone protects: behind it, before the next fuse, converter or rail. */
function thinnestBehind({ tree }: Power, fuse: SupplyNode): SupplyNode | undefined {
  const found: SupplyNode[] = []
  const stack = [fuse]
  const seen = new Set<SupplyNode>()
  while (stack.length) {
    const at = stack.pop()!
    if (seen.has(at)) continue
    seen.add(at)
    for (const next of tree.nodes.filter(node => node.from.includes(at.id))) {
      if (next.kind === 'cable') found.push(next)
      if (next.role === 'path' && !next.figures.setV && !next.kind.startsWith('fuse') && next.kind !== 'socket'
        && next.kind !== 'header-input') {
        stack.push(next)
      }
    }
  }
  return found.sort((a, b) => b.figures.awg!.value - a.figures.awg!.value)[0]
}

/**
 * A fuse of the same kind that does everything asked of it; null where none does, or where it is the one that is there.
 */
function otherFuse(items: ReadonlyMap<string, PowerItem>, node: SupplyNode,
  task: FuseTask): { ratedMa: number, fix: Fix } | null {
  if (!node.own) return null
  const take = (item: PowerItem): Fix => ({
    label: `Take ${item.name}`,
    edits: [{ edit: 'edit-node', id: node.id, changes: { type: item.id, name: item.name, figures: {} } }],
  })
  if (node.kind === 'fuse-resettable') {
    const warm = warmShare(node.kind, task.temperatureC ?? 23)
    const item = [...items.values()].filter(entry => entry.kind === 'fuse-resettable')
      .sort((a, b) => a.figures.holdMa! - b.figures.holdMa!)
      .find(({ figures }) => figures.holdMa! * warm >= task.steadyMa && figures.tripMa! * warm <= task.shortMa
        && figures.holdMa! <= (task.wireMa ?? Infinity) && figures.holdMa !== node.figures.holdMa?.value)
    return item ? { ratedMa: item.figures.holdMa!, fix: take(item) } : null
  }
  const ratedMa = fittingFuseMa(task)
  if (ratedMa === null || node.figures.ratedMa?.value === ratedMa) return null
  const item = [...items.values()].find(entry => entry.kind === 'fuse' && entry.figures.ratedMa === ratedMa)
  return {
    ratedMa,
    fix: item
      ? take(item)
      : { label: `Take a fuse of ${amps(ratedMa)}`,
          edits: [{ edit: 'set-figure', node: node.id, figure: 'ratedMa', value: ratedMa }] },
  }
}

/** A wire past what it stands by this much in a short sets its insulation on fire before anyone looks. practice */
const WIRE_BURNS_SHARE = 2

/**
 * A wire straight from a strong source, with no fuse before it: in a short at its end more flows than it stands. Wires
 * from the board's own positions have the board's protection; a battery without a fuse has a finding of its own.
 */
export const unprotectedWires: Rule = ({ facts, power }) => power.tree.nodes.flatMap((node): Finding[] => {
  if (node.kind !== 'cable' || node.open || node.id.endsWith('@lead') || node.id === '@cable') return []
  const peak = stateNamed(power.states, 'peak')
  const path = pathUp(power.tree, peak, node.id)
  const source = path.find(entry => entry.role === 'source')
  if (!source || source.kind === 'lithium' || source.kind === 'lead' || source.unit?.limitsCurrent
    || path.some(entry =>
      entry.kind.startsWith('fuse') || entry.id === '@5V' || entry.role === 'joint' || entry.kind === 'hub')) {
    return []
  }
  const max = wireMostMa(node.figures.awg?.value ?? 24, node.figures.bundledPairs?.value ?? 1)
  const fault = faultMa(power, node, peak)
  if (fault <= max * WIRE_BURNS_SHARE) return []
  const current = flow(peak, node)
  const surge = surgesAt(power.tree, power.states, node.id)[0]
  const ratedMa = fittingFuseMa({
    steadyMa: current, surgeMa: surge?.currentMa ?? current, surgeS: surge?.seconds ?? 0, shortMa: fault, wireMa: max,
    temperatureC: power.report.heat?.airC,
  })
  const item = [...facts.catalogue.powerItems.values()].find(entry =>
    entry.kind === 'fuse' && entry.figures.ratedMa === ratedMa)
  const from = node.from[0]
  return [{
    code: 'wire.unprotected', id: `wire.unprotected ${node.id}`, severity: 'caution', stages: ['power', 'build'],
    title: `${amps(fault)} in a short through ${nodeName(node, power.tree)}`,
    sentence: `In a short at its end ${source.name} drives ${amps(fault)} through ${nodeName(node, power.tree)}, `
      + `which ${verb(node, 'stands', 'stand')} ${amps(max)}, and no fuse stands before ${verb(node, 'it', 'them')}: `
      + 'the insulation burns. '
      + `${ratedMa ? `A fuse of ${amps(ratedMa)} at the source lets go first.` : 'Take a thicker wire, or a source that gives less.'}`,
    subjects: [nodeSubject(node), nodeSubject(source)],
    figures: [{
      label: 'in a short', value: ma(fault), unit: 'mA', limit: ma(max),
      origin: `${DENSITY.origin}: ${DENSITY.maPerMm2 / 1000} A per mm² in open air, less in a bundle`,
    }],
    fixes: item && from
      ? [{
          label: `Put ${item.name} before it`,
          edits: [{
            edit: 'add-node', node: { id: freeNodeId(facts.plan.power, 'fuse'), type: item.id, name: item.name, from },
            before: node.id.replace(/@wire$/, ''),
          }],
        }]
      : [],
  }]
})
