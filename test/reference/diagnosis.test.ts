/**
 * Faults of wires against ngspice (Debian): the plan's netlist as a circuit of small resistors, with the fault
 * made in it by hand, and what a voltmeter shows at each part; held against what the model of fault finding
 * says for the same fault.
 */
import { describe, expect, it } from 'vitest'
import { modelOf } from '../../core/diagnosis/table'
import type { Change, Table } from '../../core/diagnosis/types'
import { gatherFacts } from '../../core/facts/gather'
import type { Facts } from '../../core/facts/types'
import { netlistOf } from '../../core/netlist/build'
import type { Netlist } from '../../core/netlist/types'
import { powerOf } from '../../core/power/report'
import { placedPlans } from '../generated'
import { catalogue } from '../plans'
import { hasSpice, spicePoint } from '../spice'
import { judgedAtLeast } from '../random'

const SOURCE = 'node:@supply.out'
/** Sources that give way, so that a short is one; loads that take little, so that nothing sags. */
const SOURCE_OHM = 5
const LOAD_OHM = 20_000

/** A circuit's lines, with its pins as nodes that the simulator takes. */
class Circuit {
  readonly lines: string[] = []
  private readonly nodes = new Map<string, number>()

  node(pin: string): string {
    if (pin === `${SOURCE}-`) return '0'
    if (!this.nodes.has(pin)) {
      const number = this.nodes.size + 1
      this.nodes.set(pin, number)
      // Everything hangs on something, however loosely.
      this.lines.push(`Rleak${number} n${number} 0 1e10`)
    }
    return `n${this.nodes.get(pin)!}`
  }

  resistor(a: string, b: string, ohm: number): void {
    if (this.node(a) !== this.node(b)) this.lines.push(`R${this.lines.length}x ${this.node(a)} ${this.node(b)} ${ohm}`)
  }
}

/** The ways of all conductors with a change made by hand: the list of pairs, and nothing of the model's own code. */
function waysWith(netlist: Netlist,
  changes: readonly Change[]): { id: string, way: number, from: string, to: string }[] {
  const ways = netlist.conductors.flatMap(({ id, ways: list }) =>
    list.map(({ from, to }, way) => ({ id, way, from, to })))
  const first = (id: string) => ways.find(entry => entry.id === id && entry.way === 0)!
  for (const change of changes) {
    if (change.change === 'open') ways.splice(ways.findIndex(({ id, way }) =>
      id === change.conductor && way === change.way), 1)
    if (change.change === 'move') first(change.conductor).to = change.to
    if (change.change === 'swap') {
      const [a, b] = change.conductors.map(first)
      ;[a!.to, b!.to] = [b!.to, a!.to]
    }
    if (change.change === 'bridge') ways.push({ id: 'bridge', way: 0, from: change.pins[0], to: change.pins[1] })
  }
  return ways
}

/** Volts between supply and return of each part, by the probe that asks for them. */
function metered(facts: Facts, netlist: Netlist, changes: readonly Change[],
  probes: readonly string[]): Map<string, number> {
  const circuit = new Circuit()
  circuit.node(SOURCE)
  circuit.lines.push(`Vsource src 0 5.1`, `Rsource src ${circuit.node(SOURCE)} ${SOURCE_OHM}`)
  for (const { from, to } of waysWith(netlist, changes)) circuit.resistor(from, to, 0.02)
  for (const { inside } of netlist.components) for (const [a,
    ...more] of inside) for (const b of more) circuit.resistor(a!, b, 0.001)
  const rail = (kind: string) => `@P${facts.board!.header.find(entry => entry.kind === kind)!.position}`
  circuit.resistor('@socket', rail('5V'), 0.02)
  const [five, ground] = [circuit.node(rail('5V')), circuit.node(rail('ground'))]
  circuit.lines.push(`Bregulator reg ${ground} V = v(${five},${ground}) > 4 ? 3.3 : 0`,
    `Rregulator reg ${circuit.node(rail('3V3'))} ${SOURCE_OHM}`)
  for (const { id, supplies, grounds } of facts.parts) for (const supply of supplies) {
    const pins = [`${id}.${supply.id}`, `${id}.${grounds[0]?.id}`]
    if (pins.every(pin => netlist.ownerOf.has(pin))) circuit.resistor(pins[0]!, pins[1]!, LOAD_OHM)
  }
  const asked = probes.map((probe) => {
    const key = probe.slice('volt:'.length)
    const owner = facts.parts.find(({ id }) => key.startsWith(`${id}.`))!
    return { probe, plus: circuit.node(key), minus: circuit.node(`${owner.id}.${owner.grounds[0]!.id}`) }
  })
  const joints = [...new Set(asked.flatMap(({ plus, minus }) => [plus, minus]))].filter(joint => joint !== '0')
  const volts: Record<string, number> = { ...spicePoint(circuit.lines, joints), 0: 0 }
  return new Map(asked.map(({ probe, plus, minus }) => [probe, volts[plus]! - volts[minus]!]))
}

/** The model's words for a figure. */
function inWords(volts: number, planned: number): string {
  if (Math.abs(volts) < 0.4) return 'nothing'
  if (volts < 0) return 'the wrong way round'
  if (Math.abs(volts - planned) < 0.3) return 'as planned'
  return `${[1.7, 3.3, 5].find(rail => Math.abs(volts - rail) < 0.3)} V in its place`
}

const KINDS = ['open', 'move', 'swap', 'bridge'] as const

describe.skipIf(!hasSpice)('volts at the parts beside ngspice', () => {
  it('for every kind of fault in a wire, on generated plans', () => {
    const counts = new Map<string, number>()
    const apart: string[] = []
    for (const plan of placedPlans(14, 900, 5)) {
      const facts = gatherFacts(plan, catalogue)
      const { tree } = powerOf(facts)
      const netlist = netlistOf(facts, tree)
      const { table }: { table: Table } = modelOf(facts)
      const probes = table.probes.filter(({ id, reading }) => /^volt:.*\./.test(id) && reading).map(({ id }) => id)
      if (!probes.length || !netlist.ownerOf.has(SOURCE)) continue
      const healthy = metered(facts, netlist, [], probes)
      for (const kind of KINDS) {
        const rows = table.faults.flatMap(({ changes },
          row) => changes.every(({ change }) => change === kind) ? [row] : [])
        for (const row of rows.filter((_, i) => i % Math.ceil(rows.length / 5) === 0)) {
          const shown = metered(facts, netlist, table.faults[row]!.changes, probes)
          for (const probe of probes) {
            const theirs = inWords(shown.get(probe)!, healthy.get(probe)!)
            const ours = table.seen[row]![table.probes.findIndex(({ id }) => id === probe)]
            if (ours !== theirs) apart.push(
              `${plan.board} ${table.faults[row]!.id} ${probe}: ${ours}, ngspice ${shown.get(probe)!.toFixed(2)} V`)
          }
          counts.set(kind, (counts.get(kind) ?? 0) + 1)
        }
      }
    }
    // reference program: ngspice; the words of the model are those of the meter
    expect(apart).toEqual([])
    for (const kind of KINDS) expect(counts.get(kind), kind).toBeGreaterThan(judgedAtLeast(12))
  })
})
