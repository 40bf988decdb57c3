/**
 * Grounds that lie apart: a part's return carries its current, and its signals are measured against the board's ground.
 */
import { pathUp } from '../../power/shares'
import { stateNamed, type PowerState } from '../../power/states'
import type { SupplyNode } from '../../netlist/supply/types'
import type { Power } from '../../power/report'
import type { Finding, Rule } from '../types'
import { betterLead } from './candidates'
import { waysOut } from './ways'
import { ma, nodeName, nodeSubject, v } from './words'

/**
 * Between what a 3.3 V output gives at most when low and what an input still takes as low: 0.8 − 0.4 V. published:
 * JESD8C, 3.3 V LVTTL
 */
const NOISE_MARGIN_V = 0.4
/** Above half of that margin there is little left for noise. practice */
const LITTLE_LEFT = 0.5

/**
 * Things with two conductors: half of what is lost in them is lost in the return. Switches, fuses and diodes stand in
 * the one there.
 */
const HAS_RETURN: ReadonlySet<SupplyNode['kind']> = new Set<SupplyNode['kind']>(['cable', 'connector', 'position',
  'socket', 'header-input'])

const returnV = (node: SupplyNode, state: PowerState): number => {
  const { inputV = 0, voltageV } = state.nodes[node.id]!
  return HAS_RETURN.has(node.kind) ? Math.abs(inputV - voltageV) / 2 : 0
}

/**
 * How far a part's ground lies above the board's, in V, and what does it most. Null where they hang
 * on different sources.
 */
function shiftOf({ tree }: Power, state: PowerState,
  part: SupplyNode): { shiftV: number, max: SupplyNode | undefined } | null {
  const its = pathUp(tree, state, part.id)
  const boards = pathUp(tree, state, '@5V')
  const common = its.find(node => boards.includes(node))
  if (!common) return null
  const own = its.slice(0, its.indexOf(common))
  const board = boards.slice(0, boards.indexOf(common))
  const sum = (nodes: SupplyNode[]) => nodes.reduce((all, node) => all + returnV(node, state), 0)
  const max = [...own, ...board].sort((a, b) => returnV(b, state) - returnV(a, state))[0]
  return { shiftV: sum(own) - sum(board), max }
}

/** A part whose signals go to the board and whose ground is lifted, or lies lower, by what its own return carries. */
export const groundShift: Rule = ({ facts, power }) => facts.parts.flatMap((owner): Finding[] => {
  const signals = facts.terminals.filter(terminal => terminal.owner === owner && terminal.is === 'signal'
    && !terminal.signal!.load
    && terminal.place?.kind === 'header' && terminal.between?.kind !== 'opto-coupler')
  const node = power.tree.nodes.find(entry =>
    entry.partId === owner.id && entry.kind === 'part' && entry.from.length > 0)
  if (!signals.length || !node || !power.tree.byId.has('@5V')) return []
  const peak = stateNamed(power.states, 'peak')
  const found = shiftOf(power, peak, node)
  if (!found || Math.abs(found.shiftV) <= NOISE_MARGIN_V * LITTLE_LEFT) return []
  const { shiftV, max } = found
  const analog = signals.some(terminal => terminal.signal!.role.startsWith('analog'))
  return [{
    code: 'ground.shift', id: `ground.shift ${owner.id}`,
    severity: Math.abs(shiftV) > NOISE_MARGIN_V ? 'stop' : 'caution',
    stages: ['wiring', 'power'],
    title: `The ground of ${owner.name} lies ${Math.round(Math.abs(shiftV) * 1000)} mV `
      + `${shiftV > 0 ? 'above' : 'below'} the board's`,
    sentence: `At peak ${Math.round(max ? peak.nodes[max.id]!.currentMa : 0)} mA flow back through `
      + `${max ? nodeName(max, power.tree) : 'its wires'}, and `
      + `${shiftV > 0 ? 'its ground rises' : 'the board\'s ground rises'} with them: what it calls low arrives at the `
      + `board ${Math.round(Math.abs(shiftV) * 1000)} mV `
      + `${shiftV > 0 ? 'higher' : 'lower'}${analog ? ', and what it measures is off by as much' : ''}. Take a thicker `
      + 'or shorter return, or lead a ground wire of its own beside the signals and keep the load\'s return apart.',
    subjects: [nodeSubject(node), ...max ? [nodeSubject(max)] : []],
    figures: [
      {
        label: 'between the grounds', value: v(Math.abs(shiftV)), unit: 'V', limit: NOISE_MARGIN_V,
        origin: 'published: JESD8C, 3.3 V LVTTL, 0.8 V less 0.4 V',
      },
      { label: 'through the return', value: ma(max ? peak.nodes[max.id]!.currentMa : 0), unit: 'mA',
        origin: 'arithmetic' },
    ],
    fixes: waysOut({ facts, power }, `ground.shift ${owner.id}`, () => max ? betterLead(max) : [], ['peak'],
      (solved) => {
        const now = solved.tree.byId.get(node.id)
        const after = now && shiftOf({ ...power, ...solved }, stateNamed(solved.states, 'peak'), now)
        const at = Math.abs(after?.shiftV ?? 0)
        return {
          enough: at <= NOISE_MARGIN_V * LITTLE_LEFT, figure: `${Math.round(at * 1000)} mV`,
          gain: Math.abs(shiftV) - at - 0.005,
        }
      }),
  }]
})
