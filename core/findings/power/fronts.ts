/** AC front ends and what holds the board up after switch-off. */
import { offeredItem } from '../../catalogue/offered'
import { acCircuitOf } from '../../power/front/feed'
import { CAPACITORS_UF } from '../../power/front/rectifier'
import { settledWave, type FrontCircuit } from '../../power/front/waveform'
import type { FrontReport } from '../../power/fronts'
import { capacitorForF } from '../../power/front/hold'
import type { Finding, Rule } from '../types'
import { amps, limitOf, nodeSubject, seconds, v, volts } from './words'

/** The smallest capacitor on sale that leaves what is wanted in the valley, each tried; undefined where none does. */
const capacitorThatHolds = (circuit: FrontCircuit, front: FrontReport): number | undefined => CAPACITORS_UF
  .filter(uf => uf > circuit.capacitanceUf)
  .find(uf => settledWave({ ...circuit, capacitanceUf: uf },
    { powerMw: front.meanV * front.currentMa }).valleyV >= front.wantedV)

/**
 * Ripple valleys below what the step-down wants; a capacitor that does not stand the peak; AC straight into DC things.
 */
export const acFrontEnd: Rule = ({ power }) => power.report.fronts.flatMap((front): Finding[] => {
  const node = power.tree.byId.get(front.node)!
  const circuit = acCircuitOf(power.tree, node)!
  const worksheet = {
    kind: 'rectifier' as const, node: node.id, acV: v(front.emfV), dropV: circuit.dropV,
    currentMa: Math.round(front.currentMa),
    hz: front.hz, capacitanceUf: circuit.capacitanceUf, wantedV: v(front.wantedV),
    sourceOhm: Number(front.ohm.toFixed(3)),
  }
  const subjects = [nodeSubject(node)]
  const findings: Finding[] = []
  if (front.wantedV > 0 && front.valleyV < front.wantedV) {
    const needed = capacitorThatHolds(circuit, front)
    findings.push({
      code: 'rectifier.valley', id: `rectifier.valley ${node.id}`, severity: 'stop', stages: ['power'],
      title: `Between two peaks ${volts(front.valleyV)} are left`,
      sentence: `At ${amps(front.currentMa)} the capacitor swings between ${volts(front.peakV)} and `
        + `${volts(front.valleyV)}, below the ${volts(front.wantedV)} that the step-down wants. The transformer gives `
        + `${volts(front.emfV)} without load and falls with its ${front.ohm.toFixed(2)} Ω; pulses of `
        + `${amps(front.pulseMa)} come through it. `
        + `${needed ? 'Take a larger capacitor.' : 'No capacitor is enough: take a transformer of higher voltage, or draw less.'}`,
      subjects,
      figures: [
        {
          label: 'valley', value: v(front.valleyV), unit: 'V', limit: v(front.wantedV),
          origin: 'textbook: the settled waveform of transformer, bridge and capacitor',
        },
        { label: 'ripple', value: v(front.rippleV), unit: 'V' },
        { label: 'in the transformer', value: Math.round(front.acRmsMa), unit: 'mA rms', origin: 'textbook' },
      ],
      fixes: needed
        ? [{ label: `Capacitor of ${needed} µF`,
            edits: [{ edit: 'set-figure', node: node.id, figure: 'capacitanceUf', value: needed }] }]
        : [],
      worksheet,
    })
  }
  const stands = node.figures.capacitorV
  if (stands && front.highestV > stands.value) findings.push({
    code: 'rectifier.capacitor', id: `rectifier.capacitor ${node.id}`, severity: 'stop', stages: ['power'],
    title: `The capacitor stands ${volts(stands.value)}; ${volts(front.highestV)} come without load`,
    sentence: `Without load the transformer gives ${volts(front.emfV)}: ${volts(front.highestV)} behind the `
      + `bridge. A capacitor for ${volts(stands.value)} bursts. Take one for `
      + `${Math.ceil(front.highestV * 1.2 / 5) * 5} V or more.`,
    subjects, figures: [{ label: 'without load', value: v(front.highestV), unit: 'V', ...limitOf(node, 'capacitorV') }],
    fixes: [{
      label: `A capacitor for ${Math.ceil(front.highestV * 1.2 / 5) * 5} V`,
      edits: [{ edit: 'set-figure', node: node.id, figure: 'capacitorV',
        value: Math.ceil(front.highestV * 1.2 / 5) * 5 }],
    }],
    worksheet,
  })
  return findings
})

/** An AC source whose current reaches something that wants DC. */
export const acStraight: Rule = ({ facts, power }) => power.tree.nodes.flatMap((node): Finding[] => {
  if (node.kind !== 'transformer') return []
  const leads = new Set([node.id, `${node.id}@lead`, ...node.id === '@supply' ? ['@cable'] : []])
  // Follow what conducts both ways until a bridge stands in the way.
  for (let grew = true; grew;) {
    grew = false
    for (const other of power.tree.nodes) {
      if (leads.has(other.id) || other.kind === 'rectifier' || !other.from.some(id => leads.has(id))) continue
      leads.add(other.id)
      grew = true
    }
  }
  const reached = power.tree.nodes.filter(other =>
    leads.has(other.id)
    && (other.role === 'load' || other.figures.setV || other.kind === 'socket' || other.kind === 'header-input'))
  const first = reached[0]
  const bridge = offeredItem(facts.catalogue, 'bridge')
  if (!first) return []
  const consumer = first.id.replace(/@wire$/, '')
  return [{
    code: 'ac.straight', id: `ac.straight ${node.id}`, severity: 'stop', stages: ['power', 'build'],
    title: `AC reaches ${first.name}`,
    sentence: `${node.name} gives alternating voltage; without a bridge it reaches ${first.name} and destroys it with `
      + 'the first half-wave of the wrong sign. Put a bridge with its capacitor behind the transformer.',
    subjects: [nodeSubject(node), nodeSubject(first)],
    figures: [{ label: 'voltage', value: node.figures.voltageV!.value, unit: 'V AC',
      origin: node.figures.voltageV!.origin }],
    fixes: bridge && first.from[0]
      ? [{
          label: `Put ${bridge.name} between`,
          edits: [{
            edit: 'add-node',
            node: {
              id: power.tree.byId.has('bridge') ? `bridge-${node.id.replace('@', '')}` : 'bridge', type: bridge.id,
              name: bridge.name,
              from: first.from[0],
            },
            before: consumer,
          }],
        }]
      : [],
  }]
})

/** After switch-off: does it hold until the shutdown is done? */
export const holdUp: Rule = ({ facts, power }) => {
  const held = power.report.holds.filter(hold =>
    hold.by === 'latch' || power.tree.byId.get(hold.node)?.kind === 'capacitor')
  const together = held.reduce((sum, hold) => sum + hold.holdS, 0)
  const wanted = held[0]?.wantedS ?? 0
  if (!held.length || together >= wanted) return []
  // A small capacitor against surges is not there to hold the board.
  if (facts.plan.power.shutdownS === null && held.every(hold => hold.by === 'capacitor') && together < 0.2) return []
  const cap = held.find(hold => hold.by === 'capacitor')
  const needF = cap && capacitorForF(wanted, cap.fromV!, cap.toV!, cap.powerW!, cap.ohm)
  const latch = held.find(hold => hold.by === 'latch')
  return [{
    code: 'hold.too-short', id: 'hold.too-short', severity: 'stop', stages: ['power', 'build'],
    title: `It holds ${seconds(together)}; a shutdown takes ${seconds(wanted)}`,
    sentence: `After switch-off the board stays up for ${seconds(together)} and needs ${seconds(wanted)} to shut down in order: the card `
      + `may be damaged in the middle of a write. `
      + `${latch
        ? 'Let the board hold the latch by a line until it has shut down, or choose a longer time.'
        : needF
          ? `A capacitor of ${needF.toFixed(1)} F would hold it.`
          : 'A capacitor cannot hold it at this voltage: put it before the step-down.'}`,
    subjects: held.map(hold => ({ node: hold.node })),
    figures: [{
      label: 'holds', value: Number(together.toFixed(2)), unit: 's', limit: wanted,
      origin: facts.plan.power.shutdownS === null ? facts.board?.power?.origin ?? 'memory' : 'yours',
    }],
    fixes: [
      ...latch
        ? [{
            label: `Hold it for ${Math.ceil(wanted * 1.5)} s`,
            edits: [{ edit: 'set-figure' as const, node: latch.node, figure: 'holdS', value: Math.ceil(wanted * 1.5) }],
          }]
        : [],
      ...cap && needF && needF <= 200
        ? [{
            label: `Capacitor of ${Math.ceil(needF * 1.2)} F`,
            edits: [{ edit: 'set-figure' as const, node: cap.node, figure: 'capacitanceF',
              value: Math.ceil(needF * 1.2) }],
          }]
        : [],
    ],
    worksheet: {
      kind: 'hold-up', node: held[0]!.node,
      capacitanceF: cap ? power.tree.byId.get(cap.node)!.figures.capacitanceF!.value : 10,
      fromV: v(cap?.fromV ?? 5), toV: v(cap?.toV ?? 4.63), powerW: v(cap?.powerW ?? 2), wantedS: wanted,
      ohm: cap?.ohm ?? 0,
    },
  }]
}

/** A capacitor at more than it stands. */
export const capacitorVoltage: Rule = ({ power }) => power.tree.nodes.flatMap((node): Finding[] => {
  const stands = node.kind === 'capacitor' ? node.figures.mostV : undefined
  const at = Math.max(...power.states.map(state => state.nodes[node.id]!.voltageV))
  return stands && at > stands.value
    ? [{
        code: 'capacitor.over-voltage', id: `capacitor.over-voltage ${node.id}`, severity: 'stop',
        stages: ['power', 'build'],
        title: `${node.name} stands ${volts(stands.value)} and gets ${volts(at)}`,
        sentence: `${volts(at)} lie on ${node.name}, which stands ${volts(stands.value)}: it vents or bursts. `
          + 'Take one for a higher voltage.',
        subjects: [nodeSubject(node)],
        figures: [{ label: 'voltage', value: v(at), unit: 'V', ...limitOf(node, 'mostV') }], fixes: [],
      }]
    : []
})

/** Mains on a DIN rail or in a bare transformer: for an electrician. */
export const mainsCaution: Rule = ({ power }) => power.tree.nodes.flatMap((node): Finding[] => {
  if (node.role !== 'source' || node.kind !== 'din-rail') return []
  return [{
    code: 'mains.electrician', id: `mains.electrician ${node.id}`, severity: 'note', stages: ['power', 'build'],
    title: `${node.name}: its mains side is for an electrician`,
    sentence: 'Mains wiring follows your local codes and is work for a licensed electrician: fuse, separation, strain '
      + 'relief, a closed case. A plug-in adapter of the same voltage is the low-voltage alternative.',
    subjects: [nodeSubject(node)], figures: [], fixes: [],
  }]
})
