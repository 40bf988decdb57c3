/**
 * Circuits against ngspice (Debian): what the solver, the front end, the capacitors and the strips come to, and what a
 * simulator gives for the same circuit. Tolerances are stated beside each; diodes take about 0.03 V more in the
 * simulator, which has real junctions.
 */
import { describe, expect, it } from 'vitest'
import { capacitorHoldS } from '../../core/power/front/hold'
import { settledWave, type FrontCircuit, type FrontLoad } from '../../core/power/front/waveform'
import { evaluate } from '../../core/evaluate'
import { sagV } from '../../core/power/surge'
import { COOLERS, ENCLOSURES } from '../../core/power/heat/coolers'
import { runHeat } from '../../core/power/heat/run'
import { stripDropV } from '../../core/signals/strip-feed'
import { copperOhm, fed, node } from '../circuits'
import { catalogue } from '../plans'
import { hasSpice, spice, spiceBridge, SPICE_MODELS, spicePoint } from '../spice'

/** What two junctions of the simulator take beyond the drop, in V. */
const JUNCTIONS_V = 0.055

describe.skipIf(!hasSpice)('an AC front end beside ngspice', () => {
  const circuits: FrontCircuit[] = [
    { emfV: 10.35, ohm: 1.45, dropV: 1.4, hz: 50, capacitanceUf: 4700 },
    { emfV: 10.35, ohm: 1.45, dropV: 1.4, hz: 50, capacitanceUf: 1000 },
    { emfV: 14, ohm: 0.3, dropV: 0.8, hz: 60, capacitanceUf: 4700 },
    { emfV: 26, ohm: 3, dropV: 1.4, hz: 50, capacitanceUf: 22_000 },
  ]
  const loads: FrontLoad[] = [{ currentMa: 200 }, { currentMa: 1000 }, { powerMw: 5000 }]
  it.each(circuits.flatMap(circuit => loads.map(load => ({ circuit, load }))))('$circuit $load',
    ({ circuit, load }) => {
      const ours = settledWave(circuit, load)
      const drawn = 'currentMa' in load
        ? `I1 out 0 ${load.currentMa / 1000}`
        : `B1 out 0 I=${load.powerMw / 1000}/max(v(out),0.3)`
      const over = `from=2 to=2.1`
      const theirs = spice(
        [
          `V1 a b SIN(0 ${circuit.emfV * Math.SQRT2} ${circuit.hz})`, `R1 a p ${circuit.ohm}`, ...SPICE_MODELS,
          ...spiceBridge('p', 'b', 'out', circuit.dropV - JUNCTIONS_V),
          `C1 out 0 ${circuit.capacitanceUf}u ic=${ours.meanV.toFixed(1)}`,
          drawn,
        ],
        'tran 50u 2.1 1.9 50u uic',
        { mean: `AVG v(out) ${over}`, min: `MIN v(out) ${over}`, max: `MAX v(out) ${over}`, rms: `RMS i(V1) ${over}` },
      )
      // reference program: ngspice; 20 mV and half a percent
      expect(Math.abs(ours.meanV - theirs.mean!)).toBeLessThan(0.02)
      expect(Math.abs(ours.valleyV - theirs.min!)).toBeLessThan(0.02)
      expect(Math.abs(ours.peakV - theirs.max!)).toBeLessThan(0.02)
      expect(ours.acRmsMa / theirs.rms! / 1000).toBeCloseTo(1, 2)
    })

  it('a whole plan: transformer, lead, bridge, step-down and board', () => {
    const plan = fed('tiny-unpopulated', 'transformer-9v-ac', {
      nodes: [node('bridge', 'rectifier-bridge', '@cable'), node('buck', 'step-down-5v-3a', 'bridge')],
      feeds: { '@socket': 'buck' },
    })
    const { power } = evaluate(plan, catalogue)
    const [front] = power.fronts
    const peak = power.states.find(state => state.id === 'peak')!.nodes
    const unit = catalogue.supplies.get('transformer-9v-ac')!
    // memory: 9 V at 1 A and 15 % more without load are 1.35 Ω; its lead by gauge and length
    const ohm = 0.15 * 9 / 1 + copperOhm(unit.cable!.awg, unit.cable!.lengthM) + unit.cable!.contactOhm + 0.05
    const powerW = peak.bridge!.voltageV * peak.bridge!.currentMa / 1000
    const theirs = spice(
      [
        `V1 a b SIN(0 ${9 * 1.15 * Math.SQRT2} 50)`, `R1 a p ${ohm}`, ...SPICE_MODELS,
        ...spiceBridge('p', 'b', 'out', 1.4 - JUNCTIONS_V),
        'C1 out 0 4700u ic=11', `B1 out 0 I=${powerW}/max(v(out),0.3)`,
      ],
      'tran 50u 2.1 1.9 50u uic',
      { mean: 'AVG v(out) from=2 to=2.1', min: 'MIN v(out) from=2 to=2.1', rms: 'RMS i(V1) from=2 to=2.1' },
    )
    expect(Math.abs(front!.valleyV - theirs.min!)).toBeLessThan(0.03)
    // The solver's tree carries the mean; its transformer the r.m.s. current of the pulses.
    expect(Math.abs(peak.bridge!.voltageV - theirs.mean!)).toBeLessThan(0.08)
    expect(peak['@supply']!.currentMa / theirs.rms! / 1000).toBeCloseTo(1, 1)
  })
})

describe.skipIf(!hasSpice)('capacitors beside ngspice', () => {
  it.each([
    { farad: 10, ohm: 0.08, fromV: 5.1, toV: 4.63, powerW: 2 }, { farad: 1, ohm: 0.3, fromV: 12, toV: 7, powerW: 6 },
    { farad: 0.0047, ohm: 0, fromV: 11, toV: 6.5, powerW: 3 }, { farad: 4, ohm: 0.5, fromV: 5, toV: 3, powerW: 5 },
  ])('holds a constant power through its resistance: $farad F, $ohm Ω', ({ farad, ohm, fromV, toV, powerW }) => {
    const ours = capacitorHoldS(farad, fromV, toV, powerW, ohm)
    const { held } = spice(
      [`C1 c 0 ${farad} ic=${fromV}`, `R1 c out ${Math.max(ohm, 1e-6)}`, `B1 out 0 I=${powerW}/max(v(out),${toV / 2})`],
      `tran ${ours / 2000} ${ours * 1.5} 0 ${ours / 2000} uic`, { held: `WHEN v(out)=${toV} FALL=1` },
    )
    // reference program: ngspice; half a percent
    expect(ours / held!).toBeCloseTo(1, 2)
  })

  it.each([[2, 0.001, 0.05, 0.000577], [1.5, 0.1, 0.02, 0.02]])('sags by I·R + I·t ÷ C: %f A, %f F',
    (ampere, farad, ohm, seconds) => {
      const { after } = spice(
        [`C1 c 0 ${farad} ic=5`, `R1 c out ${ohm}`, `I1 out 0 ${ampere}`],
        `tran ${seconds / 500} ${seconds * 1.2} 0 ${seconds / 500} uic`, { after: `FIND v(out) AT=${seconds}` },
      )
      expect(sagV(ampere * 1000, farad, ohm, seconds)).toBeCloseTo(5 - after!, 3)
    })
})

describe.skipIf(!hasSpice)('a plan\'s operating point beside ngspice', () => {
  it('two supplies behind diodes, a converter between, loads of constant power and current', () => {
    const plan = fed('forty-usb-c', 'adapter-5v-3a', {
      nodes: [
        node('twelve', 'adapter-12v-2a'), node('buck', 'step-down-5v-3a', 'twelve'),
        node('d1', 'diode-schottky', 'buck'),
        node('pair', 'wire-pair', 'd1', { lengthM: 3 }), node('d2', 'diode-schottky', '@cable'),
        node('box', 'load-power', 'pair'),
        node('lamp', 'load-current', 'd2', { typicalMa: 700, peakMa: 700 }),
      ],
      joins: [{ from: 'd2', into: 'pair' }], feeds: {},
    })
    const { power } = evaluate(plan, catalogue)
    const typical = power.states.find(state => state.id === 'typical')!
    const value = (id: string, name: string) => power.nodes.find(entry => entry.id === id)!.figures[name]!.value
    const adapter = catalogue.supplies.get('adapter-5v-3a')!.cable!
    const twelve = catalogue.supplies.get('adapter-12v-2a')!.cable!
    const board = typical.nodes['@board']!
    const buck = typical.nodes.buck!
    const lines = [
      `V1 s1 0 ${value('@supply', 'voltageV')}`, `R1 s1 a1 ${value('@supply', 'ohm')}`,
      `R2 a1 cable ${copperOhm(adapter.awg, adapter.lengthM) + adapter.contactOhm}`, `R3 cable rail ${value('@socket', 'ohm')}`,
      // The board and its rails draw a power of what they draw now: one load in the simulator.
      `B1 rail 0 I=${(board.powerMw + 0) / 1000}/v(rail)`,
      ...SPICE_MODELS, 'D1 buck d1m steep', 'VD1 d1m d1x 0.292', 'R4 d1x d1 0.04', `R5 d1 pair ${copperOhm(20, 3) + 0.01}`,
      'D2 cable d2m steep', 'VD2 d2m d2x 0.292', 'R6 d2x d2 0.04', 'R7 d2 pair 0.03',
      'B2 pair 0 I=1.5/v(pair)', 'I2 d2 0 0.7',
      `V2 s2 0 ${value('twelve', 'voltageV')}`, `R8 s2 a2 ${value('twelve', 'ohm')}`,
      `R9 a2 in ${copperOhm(twelve.awg, twelve.lengthM) + twelve.contactOhm}`,
      // The converter: a held voltage behind its resistance; what it takes in is the power over the efficiency.
      'E1 held 0 VOL=5.1', 'R10 held buck 0.02',
      `B3 in 0 I=${(buck.powerMw + buck.voltageV * buck.currentMa) / 1000}/v(in)`,
    ].map(line => line.replace('E1 held 0 VOL=5.1', 'V3 held 0 5.1'))
    const theirs = spicePoint(lines, ['cable', 'rail', 'pair', 'd2', 'buck', 'in'])
    const ours = { cable: '@cable', rail: '@5V', pair: 'pair', d2: 'd2', buck: 'buck', in: 'twelve@lead' }
    // reference program: ngspice; 10 mV, most of it the junctions
    for (const [joint, id] of Object.entries(ours)) expect(Math.abs(typical.nodes[id]!.voltageV - theirs[joint]!),
      joint).toBeLessThan(0.01)
  })
})

describe.skipIf(!hasSpice)('a cell that empties beside ngspice', () => {
  it('one cell, a step-up and a lamp: hours until the cell\'s own cut-off', () => {
    const plan = fed(null, null,
      { nodes: [node('cell', 'cell-lithium-1'), node('up', 'step-up-5v-2a', 'cell'),
        node('lamp', 'load-power', 'up')] })
    const [store] = evaluate(plan, catalogue).power.stores
    const unit = catalogue.supplies.get('cell-lithium-1')!
    const item = catalogue.powerItems.get('step-up-5v-2a')!
    const draw = catalogue.powerItems.get('load-power')!.figures.typicalMa!
    const points = [...item.efficiency!].sort((a, b) => a.currentMa - b.currentMa)
    const above = points.findIndex(point => point.currentMa >= draw)
    const [a, b] = [points[above - 1]!, points[above]!]
    const efficiency = a.efficiency + (b.efficiency - a.efficiency) * (draw - a.currentMa) / (b.currentMa - a.currentMa)
    // The charge that has left the cell is a capacitor's voltage; the rest voltage follows it by the table (memory) on
    // straight lines.
    const rest = '0,3, 0.05,3.35, 0.1,3.5, 0.2,3.62, 0.5,3.75, 0.8,3.97, 1,4.2'
    const chargeAs = unit.capacityMah! * 3.6
    const { held } = spice(
      [
        `C1 q 0 ${chargeAs} ic=1`, `B1 q 0 I=i(VM)`, `B2 emf 0 V=pwl(v(q), ${rest})`, `R1 emf m ${unit.ohm}`,
        'VM m out 0',
        `B3 out 0 I=${draw * 5 / 1000 / efficiency}/max(v(out),1)+${item.figures.quiescentMa! / 1000}`, 'Rq q 0 1e12',
      ],
      'tran 20 60000 0 20 uic', { held: `WHEN v(out)=${unit.emptyV} FALL=1` },
    )
    // reference program: ngspice; 3 %: eight straight pieces of the discharge here, and the converter's own resistance
    expect(store!.hours! / (held! / 3600)).toBeCloseTo(1, 1)
    expect(Math.abs(store!.hours! / (held! / 3600) - 1)).toBeLessThan(0.03)
  })
})

describe.skipIf(!hasSpice)('the fall along a strip beside ngspice', () => {
  it.each([[10, false], [24, false], [24, true], [60, true]])('%i pixels, both ends: %s', (pixels, both) => {
    const [ma, ohm] = [60, 0.004]
    const lines = ['V1 p0 0 5',
      ...both ? [`V2 p${pixels + 1} 0 5`, `R${pixels + 1} p${pixels} p${pixels + 1} ${ohm}`] : []]
    for (let i = 1; i <= pixels; i++) lines.push(`R${i} p${i - 1} p${i} ${ohm}`, `I${i} p${i} 0 ${ma / 1000}`)
    const joints = Array.from({ length: pixels }, (_, i) => `p${i + 1}`)
    const worst = Math.min(...Object.values(spicePoint(lines, joints)))
    // reference program: ngspice; fed at both ends the middle pixel is half a pixel off
    expect(Math.abs(5 - stripDropV(pixels, ma, ohm, both) - worst))
      .toBeLessThan(both ? ma / 1000 * ohm * pixels * 0.3 : 1e-3)
  })
})

describe.skipIf(!hasSpice)('the load test beside ngspice, heat as current and degrees as volts', () => {
  it.each([['none', 'open'], ['block', 'vented'], ['fins', 'closed']] as const)('%s, %s', (cooler, enclosure) => {
    const heat = { bareKw: 9.5, storeJk: 36, chipShare: 0.85, slowsC: 200, stopsC: 210, origin: 'memory' }
    const [boardW, idleW, otherW, ambientC] = [5, 2, 0.6, 25]
    const run = runHeat({
      heat, cooler: COOLERS[cooler], enclosure: ENCLOSURES[enclosure], ambientC, fan: { mode: 'none' }, boardW, idleW,
      otherW, minutes: 40,
    })
    const chipR = 9.5 * COOLERS[cooler].stillShare
    const { stillKw, storeJk } = ENCLOSURES[enclosure]
    const start = { air: ambientC + (idleW + otherW) * stillKw,
      chip: ambientC + (idleW + otherW) * stillKw + idleW * 0.85 * chipR }
    const lines = [
      // All heat goes into the air of the case, which gives it to the room.
      ...stillKw > 0
        ? [`I1 0 air ${boardW + otherW}`, `R1 air room ${stillKw}`, `C1 air 0 ${storeJk} ic=${start.air}`]
        : ['R1 air room 1e-6'],
      `VR room 0 ${ambientC}`,
      // The chip's part of it stands above that air.
      'E1 seen 0 air 0 1', `R2 chip seen ${chipR}`, `C2 chip 0 ${36 + COOLERS[cooler].storeJk} ic=${start.chip}`,
      `I2 0 chip ${boardW * 0.85}`,
    ]
    const at = (second: number) => run.points.find(point => point.second === second)!.temperatureC
    const theirs = spice(lines, 'tran 1 2400 0 1 uic',
      { early: 'FIND v(chip) AT=120', later: 'FIND v(chip) AT=600', end: 'FIND v(chip) '
        + 'AT=2390' })
    // reference program: ngspice; a tenth of a kelvin
    expect(Math.abs(at(120) - theirs.early!)).toBeLessThan(0.15)
    expect(Math.abs(at(600) - theirs.later!)).toBeLessThan(0.15)
    expect(Math.abs(at(2390) - theirs.end!)).toBeLessThan(0.15)
  })
})
