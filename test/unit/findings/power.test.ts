/** Each rule of the supply: when it speaks, with which figure, and that its first fix ends it. */
import { describe, expect, it } from 'vitest'
import { evaluate } from '../../../core/evaluate'
import { applyEdit } from '../../../core/plan/edits'
import type { PowerPlan } from '../../../core/plan/power'
import type { Plan } from '../../../core/plan/types'
import { fed, node } from '../../circuits'
import { catalogue, codesOf, findingsOf, fixedAt } from '../../plans'

const find = (plan: Plan, code: string) => findingsOf(plan).find(finding => finding.code === code)
const after = (plan: Plan, code: string,
  which = 0) => applyEdit(plan, { edit: 'all', edits: find(plan, code)!.fixes[which]!.edits }).plan
const states = (plan: Plan) =>
  Object.fromEntries(evaluate(plan, catalogue).power.states.map(state => [state.id, state]))

describe('voltages', () => {
  const thin = fed('forty-classic', 'adapter-5v-2a4', { figures: { '@cable': { awg: 28, lengthM: 1 } } })

  it('a thin lead makes the board sign under-voltage; the lead is named, and thicker copper is what helps', () => {
    const finding = find(thin, 'rail.under-voltage')!
    // memory: the sign comes below 4.63 V
    expect(finding).toMatchObject({
      severity: 'caution', figures: [{ limit: 4.63, origin: 'memory' }, { label: 'lost in the supply\'s lead' }, {}],
      worksheet: { kind: 'wire', node: '@cable', awg: 28, lengthM: 1 },
    })
    // arithmetic: there and back, 2 × 1 m of 212.9 mΩ/m and 30 mΩ of plugs
    const flowing = Number(finding.figures[2]!.value)
    expect(Number(finding.figures[1]!.value)).toBeCloseTo(flowing * (2 * 0.2129 + 0.03) / 1000, 1)
    expect(codesOf(after(thin, 'rail.under-voltage'))).not.toContain('rail.under-voltage')
    expect(codesOf(fed('forty-classic', 'adapter-5v-2a4'))).not.toContain('rail.under-voltage')
  })

  it('at typical draw it is a stop', () => {
    expect(find(
      fed('forty-usb-c', 'adapter-5v-3a', { figures: { '@cable': { awg: 28, lengthM: 2 } } }), 'rail.under-voltage',
    )).toMatchObject({ severity: 'stop' })
  })

  it('the sign is the board\'s, unless the maker says another', () => {
    expect(codesOf({
      ...thin, power: { ...thin.power, figures: { ...thin.power.figures, '@board': { signV: 3.9 } } },
    })).not.toContain('rail.under-voltage')
  })

  it('a load at the end of a long wire gets too little, and its own wire is named', () => {
    const far = fed(
      'forty-classic', 'adapter-5v-5a', { feeds: { 's.vcc': '@cable' }, figures: { 's.vcc@wire': { lengthM: 3 } } },
      { s: ['strip-addressable', { pixels: '20' }] },
    )
    expect(find(far, 'load.under-voltage')).toMatchObject({
      sentence: expect.stringContaining('lost in the wires of s'), worksheet: { kind: 'wire', node: 's.vcc@wire' },
    })
    expect(codesOf(after(far, 'load.under-voltage'))).not.toContain('load.under-voltage')
  })

  it('twelve volts into a 5 V part or a board are stops, and a step-down ends them', () => {
    const strip = fed(
      'forty-classic', 'adapter-5v-3a', { nodes: [node('twelve', 'adapter-12v-2a')], feeds: { 's.vcc': 'twelve' } },
      { s: ['strip-addressable', { pixels: '8' }] },
    )
    expect(find(strip, 'load.over-voltage')).toMatchObject({ severity: 'stop' })
    expect(codesOf(after(strip, 'load.over-voltage'))).not.toContain('load.over-voltage')
    const board = fed('tiny-unpopulated', 'din-rail-24v-2a5')
    expect(find(board, 'rail.over-voltage'))
      .toMatchObject({ severity: 'stop', sentence: expect.stringContaining('destroyed') })
    expect(codesOf(after(board, 'rail.over-voltage'))).not.toContain('rail.over-voltage')
  })

  it('a supply that cannot carry the load has no operating point, and says how much it carries', () => {
    const weak = fed('forty-usb-c', 'adapter-5v-5a', { figures: { '@cable': { measuredOhm: 0.95 } } })
    expect(states(weak).peak!.ok).toBe(false)
    const finding = find(weak, 'power.no-operating-point')!
    expect(finding).toMatchObject({ severity: 'stop', title: 'Peak: the supply breaks down' })
    expect(Number(finding.figures[0]!.value)).toBeLessThan(100)
    expect(codesOf(after(weak, 'power.no-operating-point'))).not.toContain('power.no-operating-point')
  })
})

describe('sources', () => {
  it('a port cannot be asked for more: a better source and a lower clock are offered with what they save', () => {
    const finding = find(fed('early-26', 'usb-port-2'), 'supply.too-small')!
    expect(finding.sentence).toContain('cannot be asked for more')
    expect(finding.fixes.at(-1)!.label).toMatch(/arm_freq, over_voltage\), \d+ mA less/)
  })

  it('a lithium cell straight on a 5 V board breaks down; a step-up in between is what helps', () => {
    const straight = fed('tiny-unpopulated', 'cell-lithium-1')
    expect(find(straight, 'power.no-operating-point')!.fixes[0]!.label).toContain('Step-up converter')
    expect(codesOf(after(straight, 'power.no-operating-point'))).not.toContain('power.no-operating-point')
  })

  it('a larger source has the voltage of the one it replaces', () => {
    const pump = fed(
      'forty-classic', 'adapter-5v-3a',
      { nodes: [node('twelve', 'adapter-12v-2a'),
        node('p', 'load-12v', 'twelve', { typicalMa: 3000, peakMa: 3000, surgeMa: 3000 })] },
    )
    expect(find(pump, 'supply.too-small')!.fixes[0]!.label).toContain('12 V 5 A')
    expect(codesOf(after(pump, 'supply.too-small'))).not.toContain('supply.too-small')
  })

  it('what has its data on a plug is not fed past it', () => {
    const hub = fed(
      'forty-classic', 'adapter-5v-2a4',
      { nodes: [node('h', 'hub-bus', '@usb')], feeds: { 'a.usb': 'h', 'b.usb': 'h' } },
      { a: 'modem-wide-stick', b: 'receiver-wide-stick' },
    )
    expect(find(hub, 'path.over-rating')!.fixes.map(fix => fix.label).filter(label => label.includes('past the board')))
      .toEqual([])
  })

  it('a bank that only waits behind a diode gives the plan no hours', () => {
    const waiting = fed(
      'forty-classic', 'adapter-5v-3a',
      {
        nodes: [node('d1', 'diode-ideal', '@cable'), node('bank', 'power-bank-12ah'),
          node('d2', 'diode-schottky', 'bank')],
        feeds: { '@socket': 'd1', '@header': 'd2' },
      },
    )
    expect(evaluate(waiting, catalogue).power.hours).toBeNull()
    expect(codesOf(waiting)).not.toContain('rail.two-sources')
  })

  it('little to spare is a caution, and a larger one ends it', () => {
    const tight = fed('forty-usb-c', 'adapter-5v-3a', {}, { s: ['strip-addressable', { pixels: '22' }] })
    expect(find(tight, 'supply.tight')).toMatchObject({ severity: 'caution' })
    expect(codesOf(after(tight, 'supply.tight'))).not.toContain('supply.tight')
  })

  it('a second source is judged by itself, under its own name', () => {
    const plan = fed(
      'forty-classic', 'adapter-5v-3a', { nodes: [node('second', 'adapter-5v-1a2')], feeds: { 's.vcc': 'second' } },
      { s: ['strip-addressable', { pixels: '30' }] },
    )
    expect(find(plan, 'supply.too-small'))
      .toMatchObject({ id: 'supply.too-small second', title: 'second is too small' })
  })

  it('switching on asks more than the supply stands for a moment', () => {
    expect(find(fed('forty-usb-c', 'adapter-5v-3a', {}, { m: 'modem-serial' }), 'surge.too-large'))
      .toMatchObject({ severity: 'caution' })
    expect(codesOf(fed('forty-usb-c', 'adapter-5v-5a', {}, { m: 'modem-serial' }))).not.toContain('surge.too-large')
  })

  it('capacitors add to what a source stands for the moment of a surge', () => {
    const modem = (farad: number) => fed(
      'forty-usb-c', 'adapter-5v-3a',
      { nodes: [node('c', 'capacitor-1000', '@P4', { capacitanceF: farad })], feeds: { 'm.vcc': 'c' } },
      { m: 'modem-serial', f: 'fan-5v' }, { assignments: fixedAt({ 'f.vcc': 4 }) },
    )
    // textbook: ΔU ÷ (R + t ÷ C): 0.25 V, 0.05 Ω and 577 µs: 1000 µF give 399 mA; what surges longest the modem does
    // not take part in
    expect(find(modem(0.001), 'surge.too-large')!.figures[0]!.limit).toBe(4500 + 399)
    expect(find(modem(0.001), 'surge.too-large')!.title).toContain('0.58 ms')
    expect(codesOf(modem(0.1))).not.toContain('surge.too-large')
  })

  it('the least and the advised supply are the board\'s', () => {
    expect(find(fed('early-26', 'usb-port-3'), 'supply.below-least')).toMatchObject({
      severity: 'stop', figures: [{ value: 900, limit: 1200 }, { value: 2400 }],
    })
    expect(codesOf(after(fed('early-26', 'usb-port-3'), 'supply.below-least'))).not.toContain('supply.below-least')
    expect(find(fed('early-26', 'adapter-5v-1a2'), 'supply.below-advised')).toMatchObject({ severity: 'note' })
    expect(codesOf(fed('early-26', 'adapter-5v-2a4'))).not.toContain('supply.below-advised')
  })

  it('a hub of its own takes the load off the board\'s sockets', () => {
    const sticks = fed('early-26', 'adapter-5v-2a4', {}, { a: 'modem-wide-stick', b: 'receiver-wide-stick' })
    expect(find(sticks, 'rail.over-budget')).toMatchObject({
      severity: 'stop', fixes: [{ label: expect.stringContaining('A hub with its own supply') }],
    })
    const mended = after(sticks, 'rail.over-budget')
    expect(codesOf(mended)).not.toContain('rail.over-budget')
    expect(evaluate(mended, catalogue).power.sources.map(source => source.node)).toContain('hub-adapter')
  })

  it('too much on 3V3 gets a regulator of its own', () => {
    const screens = fed('forty-usb-c', 'adapter-5v-5a', {},
      Object.fromEntries([1, 2, 3, 4, 5, 6].map(n => [`s${n}`, 'screen-spi-24'])))
    expect(codesOf(after(screens, 'rail.over-budget'))).not.toContain('rail.over-budget')
  })
})

describe('what stands between', () => {
  it('a wire past its current gets hot: a caution, then a stop', () => {
    const strip = (pixels: string) => fed(
      'forty-usb-c', 'adapter-5v-5a', {}, { s: ['strip-addressable', { pixels }] },
      { assignments: fixedAt({ 's.vcc': 2 }) },
    )
    expect(codesOf(strip('20'))).not.toContain('path.over-rating')
    expect(find(strip('24'), 'path.over-rating'))
      .toMatchObject({ severity: 'caution', subjects: [{ node: 's.vcc@wire' }, {}] })
    expect(find(strip('40'), 'path.over-rating')).toMatchObject({ severity: 'stop' })
    expect(codesOf(after(strip('24'), 'path.over-rating'))).not.toContain('path.over-rating')
  })

  it('a header position carries two amperes', () => {
    const plan = fed(
      'forty-usb-c', 'adapter-5v-5a', { figures: { 's.vcc@wire': { awg: 18 } } },
      { s: ['strip-addressable', { pixels: '40' }] },
      { assignments: fixedAt({ 's.vcc': 2 }) },
    )
    // memory: one contact of a header
    expect(find(plan, 'path.over-rating')).toMatchObject({
      subjects: [{ node: '@P2', position: 2 }, {}], figures: [{ limit: 2000, origin: 'memory' }],
    })
  })

  const fuse = (ma: number, supply = 'adapter-5v-3a') => fed(
    'forty-classic', supply, { nodes: [node('f', 'fuse-1000', '@cable', { ratedMa: ma })], feeds: { '@socket': 'f' } },
  )

  it('a fuse below what flows goes in ordinary use; one far above never blows', () => {
    expect(find(fuse(500, 'adapter-5v-5a'), 'fuse.always-blows')).toMatchObject({
      severity: 'stop', worksheet: { kind: 'fuse', node: 'f' },
    })
    expect(codesOf(after(fuse(500, 'adapter-5v-5a'), 'fuse.always-blows'))).not.toContain('fuse.always-blows')
    // published: IEC 60127-2, from memory: a quick fuse blows within 2 s at 2.75 times its rating; a 3 A adapter gives
    // about 3.9 A
    expect(find(fuse(2000), 'fuse.never-blows')).toMatchObject({ severity: 'caution' })
    expect(codesOf(fuse(1400))).not.toContain('fuse.never-blows')
    expect(codesOf(fuse(1400))).not.toContain('fuse.always-blows')
    expect(find(fuse(1100), 'fuse.tight')).toMatchObject({ severity: 'caution' })
  })

  it('a fuse larger than the wire behind it protects nothing', () => {
    const plan = fed(
      'tiny-unpopulated', 'lead-12v-7ah',
      {
        nodes: [node('f', 'fuse-5000', '@cable'), node('w', 'wire-jumper', 'f', { awg: 28 }),
          node('buck', 'step-down-5v-3a', 'w')],
        feeds: { '@socket': 'buck' },
      },
    )
    expect(find(plan, 'fuse.above-wire')).toMatchObject({ severity: 'stop', subjects: [{ node: 'f' }, { node: 'w' }] })
  })

  it('a linear regulator that burns too much is too hot, and a step-down ends it', () => {
    const hot = fed(
      'tiny-unpopulated', 'adapter-12v-2a',
      { nodes: [node('r', 'regulator-linear-5v', '@cable')], feeds: { '@socket': 'r' } },
    )
    const finding = find(hot, 'regulator.too-hot')!
    expect(finding).toMatchObject({ severity: 'stop', worksheet: { kind: 'step-down' } })
    // textbook: heat = (Uin − Uout)·I, temperature = Ta + P·R
    const { inputV, voltageV, currentMa } = states(hot).peak!.nodes.r!
    expect(Number(finding.figures[1]!.value)).toBeCloseTo(((inputV! - voltageV) * currentMa + inputV! * 5) / 1000, 1)
    expect(codesOf(after(hot, 'regulator.too-hot'))).not.toContain('regulator.too-hot')
  })

  it('a converter outside what it takes or gives is said', () => {
    const buck = (supply: string, figures: Record<string, number>, type = 'step-down-5v-3a') => fed(
      'forty-usb-c', supply, { nodes: [node('b', type, '@cable', figures)], feeds: { '@socket': 'b' } },
    )
    expect(find(buck('din-rail-24v-2a5', { mostInV: 20 }), 'converter.over-input')).toMatchObject({ severity: 'stop' })
    expect(find(buck('adapter-12v-2a', { ratedMa: 1000 }), 'converter.over-current'))
      .toMatchObject({ severity: 'stop' })
    expect(find(buck('adapter-5v-5a', { leastInV: 3 }), 'converter.drop-out')).toMatchObject({ severity: 'caution' })
    expect(codesOf(buck('adapter-12v-2a', {}))).not.toContain('converter.drop-out')
  })

  const hub = (type: string, sticks: number) => fed('forty-classic', 'adapter-5v-2a4', {
    nodes: [node('ha', 'hub-adapter-5v-4a'), { ...node('hub', type, 'ha'), upstream: '@usb' }],
    feeds: Object.fromEntries(Array.from({ length: sticks }, (_, i) => [`s${i}.usb`, 'hub'])),
  }, Object.fromEntries(Array.from({ length: sticks }, (_, i) => [`s${i}`, 'modem-wide-stick'])))

  it('a hub that feeds back is a stop with its current; a blocked one is not', () => {
    const back = find(hub('hub-powered-leaky', 1), 'hub.feeds-back')!
    expect(back).toMatchObject({ severity: 'stop' })
    expect(Number(back.figures[0]!.value)).toBeGreaterThan(20)
    expect(codesOf(hub('hub-powered', 1))).not.toContain('hub.feeds-back')
    for (const which of [0,
      1]) expect(codesOf(after(hub('hub-powered-leaky', 1), 'hub.feeds-back', which))).not.toContain('hub.feeds-back')
    expect(find(hub('hub-powered-leaky', 5), 'hub.ports')).toMatchObject({ figures: [{ value: 5, limit: 4 }] })
  })

  it('a stick past what a port gives, and a data plug into what is not there, are said', () => {
    const narrow = hub('hub-powered', 1)
    const port = {
      ...narrow,
      power: { ...narrow.power, nodes: narrow.power.nodes.map(entry => entry.id === 'hub'
        ? { ...entry, figures: { portMa: 300 } }
        : entry) },
    }
    expect(find(port, 'hub.port-over')).toMatchObject({ severity: 'caution', figures: [{ limit: 300 }] })
    expect(codesOf(narrow)).not.toContain('hub.port-over')
    const stray = {
      ...narrow,
      power: { ...narrow.power,
        nodes: narrow.power.nodes.map(entry => entry.id === 'hub' ? { ...entry, upstream: 'nowhere' } : entry) },
    }
    expect(find(stray, 'power.no-such-port')).toMatchObject({ severity: 'stop' })
    expect(codesOf(after(stray, 'power.no-such-port'))).not.toContain('power.no-such-port')
  })

  it('a panel with a weak plug of its own is still fed by the board, and that is said', () => {
    const plan = fed(
      'forty-classic', 'adapter-5v-3a',
      { nodes: [node('weak', 'diode-silicon', '@cable')], joins: [{ from: 'weak', into: 'p.vcc' }] },
      { p: 'panel-flat-7' }, { assignments: fixedAt({ 'p.vcc': 2 }) },
    )
    expect(find(plan, 'board.feeds-panel')).toMatchObject({ severity: 'note', title: 'The board feeds p' })
    expect(codesOf(plan)).not.toContain('rail.two-sources')
  })

  it('a board that is off is still fed by such a hub', () => {
    const plan = hub('hub-powered-leaky', 0)
    const off = { ...plan, power: { ...plan.power, feeds: { '@socket': null } } }
    expect(states(off).idle!.nodes['@5V']!.voltageV).toBeGreaterThan(4)
    expect(codesOf(off)).toContain('hub.feeds-back')
  })
})

describe('how the tree hangs together', () => {
  it('two supplies on one rail are a stop; a diode behind one ends it', () => {
    const both = fed('forty-classic', 'adapter-5v-3a',
      { nodes: [node('din', 'din-rail-5v-5a')], feeds: { '@header': 'din' } })
    expect(find(both, 'rail.two-sources')).toMatchObject({ severity: 'stop', title: 'Two supplies on one rail' })
    for (const which of [0,
      1]) expect(codesOf(after(both, 'rail.two-sources', which))).not.toContain('rail.two-sources')
  })

  it('the header goes past the fuse: a note, and a fuse of one\'s own is offered', () => {
    const header = fed('forty-classic', 'din-rail-5v-5a', { feeds: { '@socket': null, '@header': '@cable' } })
    expect(find(header, 'header.past-fuse'))
      .toMatchObject({ severity: 'note', sentence: expect.stringContaining('input fuse') })
    expect(find(after(header, 'header.past-fuse'), 'header.past-fuse')!.fixes).toEqual([])
    expect(states(header).typical!.nodes['@header']!.currentMa).toBeGreaterThan(500)
  })

  it('a strip on its own supply wants a ground in common with the board', () => {
    const strip = fed(
      'forty-classic', 'adapter-5v-3a', { nodes: [node('own', 'adapter-5v-5a')], feeds: { 's.vcc': 'own' } },
      { s: ['strip-addressable', { pixels: '10' }] }, { assignments: fixedAt({ 's.din': 12 }) },
    )
    expect(find(strip, 'ground.missing')).toMatchObject({ severity: 'stop', stages: ['wiring', 'power'] })
    expect(codesOf(after(strip, 'ground.missing'))).not.toContain('ground.missing')
    expect(codesOf({ ...strip, power: { ...strip.power, feeds: {} } })).not.toContain('ground.missing')
  })

  it('what does not hang together is said with what to do', () => {
    const odd = fed(
      'forty-classic', null,
      {
        nodes: [
          node('a', 'fuse-1000', 'b'), node('b', 'fuse-1000', 'a'), node('c', 'nonsense'), node('l', 'load-12v', 'zz'),
          node('m', 'load-power'),
        ],
        joins: [{ from: 'zz', into: '@5V' }], feeds: { '@socket': 'a' },
      },
    )
    const codes = codesOf(odd)
    for (const code of ['power.ring', 'power.unknown', 'power.no-such-feed', 'power.no-such-plug', 'power.unfed']) {
      expect(codes).toContain(code)
    }
    expect(find(
      fed('forty-classic', 'adapter-5v-3a', { figures: { '@cable': { awg: 500 } } }), 'power.absurd',
    )).toMatchObject({ figures: [{ value: 500, limit: '0 to 40' }] })
  })
})

describe('stores', () => {
  const pack = (more: Partial<PowerPlan>) => fed(
    'tiny-unpopulated', 'pack-lithium-3s',
    { nodes: [node('f', 'fuse-2000', '@cable'), node('buck', 'step-down-5v-3a', 'f')], feeds: { '@socket': 'buck' },
      ...more },
  )

  it('too small for the hours asked: with the capacity it would take', () => {
    const asked = pack({ store: { ...pack({}).power.store, hoursAsked: 200 } })
    const finding = find(asked, 'pack.too-small')!
    expect(finding).toMatchObject({ severity: 'stop', worksheet: { kind: 'battery', node: '@supply' } })
    expect(codesOf(after(asked, 'pack.too-small'))).not.toContain('pack.too-small')
    expect(codesOf(pack({ store: { ...pack({}).power.store, hoursAsked: 5 } }))).not.toContain('pack.too-small')
  })

  it('lasts less in the cold, and longer when the day rests', () => {
    const hours = (plan: Plan) => evaluate(plan, catalogue).power.hours!
    expect(hours(pack({ store: { ...pack({}).power.store, temperatureC: -10 } })) / hours(pack({}))).toBeCloseTo(0.7,
      2) // memory
    expect(hours(pack({ day: [{ fromH: 0, toH: 24, step: 'idle' }] }))).toBeGreaterThan(hours(pack({})))
  })

  it('what saves most comes first, and saves what it says', () => {
    const plan = pack({ nodes: [...pack({}).power.nodes,
      node('lamp', 'load-current', '@5V', { typicalMa: 300, peakMa: 300 })] })
    const [store] = evaluate(plan, catalogue).power.stores
    const gains = store!.savings.map(saving => saving.gainedHours)
    expect(gains).toEqual([...gains].sort((a, b) => b - a))
    const lamp = store!.savings.find(saving => saving.node === 'lamp' && saving.how === 'idle all day')!
    const without = evaluate(
      {
        ...plan,
        power: {
          ...plan.power, steps: [{ id: 's', name: 'S', base: 'typical', loads: { lamp: 'idle' }, open: [],
            seconds: 1 }],
          day: [{ fromH: 0, toH: 24, step: 's' }],
        },
      },
      catalogue,
    ).power.hours!
    expect(lamp.hours).toBeCloseTo(without, 1)
  })

  it('a bank switches off when too little is drawn', () => {
    const rest = fed(
      'tiny-unpopulated', 'power-bank-12ah',
      { figures: { '@board': { idleMa: 20 } }, day: [{ fromH: 8, toH: 20, step: 'typical' }] },
    )
    expect(find(rest, 'bank.switches-off')).toMatchObject({ severity: 'stop', figures: [{ limit: 60 }] })
    expect(codesOf(fed('tiny-unpopulated', 'power-bank-12ah'))).not.toContain('bank.switches-off')
  })

  it('a dark week runs a store dry, and a larger panel mends it', () => {
    const store = { ...fed(null, null).power.store, panelW: 10, weather: [1, 0.5, 0.2, 0.1, 0.1, 0.5, 1] }
    const plan = fed(
      'tiny-unpopulated', 'lead-12v-7ah',
      { store, nodes: [node('f', 'fuse-2000', '@cable'), node('buck', 'step-down-5v-3a', 'f')],
        feeds: { '@socket': 'buck' } },
    )
    expect(find(plan, 'week.runs-dry')).toMatchObject({ severity: 'stop' })
    expect(codesOf({
      ...plan, power: { ...plan.power, store: { ...store, panelW: 120, weather: [1, 1, 1, 1, 1, 1, 1] } },
    })).not.toContain('week.runs-dry')
  })

  it('a battery without a fuse is a caution, with one a note', () => {
    const bare = fed(
      'tiny-unpopulated', 'lead-12v-7ah',
      { nodes: [node('buck', 'step-down-5v-3a', '@cable')], feeds: { '@socket': 'buck' } },
    )
    expect(find(bare, 'battery.no-fuse')).toMatchObject({ severity: 'caution' })
    const fused = after(bare, 'battery.no-fuse')
    expect(codesOf(fused)).not.toContain('battery.no-fuse')
    expect(find(fused, 'battery.cautions')).toMatchObject({ severity: 'note' })
  })
})

describe('heat, fans and clocks', () => {
  const hot = (heat: Partial<PowerPlan['heat']>, more: Partial<PowerPlan> = {}) => fed(
    'forty-io-bridge', 'adapter-5v-5a', { heat: { ...fed(null, null).power.heat, ...heat }, ...more },
  )

  it('a bare board slows under load; each cooler offered was tried, and the first is enough', () => {
    const finding = find(hot({}), 'heat.slows')!
    expect(finding).toMatchObject({ severity: 'caution', worksheet: { kind: 'heat' } })
    expect(codesOf(after(hot({}), 'heat.slows'))).not.toContain('heat.slows')
  })

  it('the cooler with a fan does not go under a closed lid', () => {
    const lid = hot({ cooler: 'active', enclosure: 'closed' })
    expect(find(lid, 'cooler.under-lid')).toMatchObject({ severity: 'stop' })
    for (const which of [0, 1]) expect(codesOf(after(lid, 'cooler.under-lid', which))).not.toContain('cooler.under-lid')
  })

  it('a fan that is set up and not there is said', () => {
    const none = hot({ fan: { mode: 'always' } })
    expect(find(none, 'fan.none')).toMatchObject({ severity: 'caution' })
    expect(codesOf(after(none, 'fan.none'))).not.toContain('fan.none')
    expect(codesOf({ ...none, parts: [{ id: 'f', type: 'fan-socket', name: 'F' }] })).not.toContain('fan.none')
  })

  it('a fan that starts and stops all the time is said, and a wider hysteresis calms it', () => {
    const hunting = hot({ cooler: 'active', load: 'typical', fan: { mode: 'threshold', onC: 38, hysteresisC: 1 } })
    expect(find(hunting, 'fan.hunts')).toMatchObject({ severity: 'caution' })
    expect(codesOf(after(hunting, 'fan.hunts'))).not.toContain('fan.hunts')
  })

  it('fan and clock settings go into the boot file', () => {
    const lines = (plan: Plan) => evaluate(plan, catalogue).boot.needs.map(need => need.line)
    expect(lines(hot({ cooler: 'active', fan: { mode: 'threshold', onC: 55, hysteresisC: 5 } })))
      .toEqual(expect.arrayContaining([
        'dtparam=fan_temp0=55000', 'dtparam=fan_temp0_hyst=5000', 'dtparam=fan_temp0_speed=255',
      ]))
    const curve = hot({
      cooler: 'active',
      fan: { mode: 'curve', hysteresisC: 5,
        points: [{ temperatureC: 70, percent: 100 }, { temperatureC: 50, percent: 40 }] },
    })
    expect(lines(curve)).toEqual(expect.arrayContaining([
      'dtparam=fan_temp0=50000', 'dtparam=fan_temp0_speed=102', 'dtparam=fan_temp1=70000',
      'dtparam=fan_temp1_speed=255',
    ]))
    const header = {
      ...fed(
        'forty-classic', 'adapter-5v-3a',
        { heat: { ...hot({}).power.heat, fan: { mode: 'threshold', onC: 65, hysteresisC: 8 } } },
        { f: 'fan-5v' }, { assignments: fixedAt({ 'f.drive': 12 }) },
      ),
    }
    expect(lines(header)).toContain('dtoverlay=gpio-fan,gpiopin=18,temp=65000,hyst=8000')
    expect(lines(hot(
      {}, { clock: { coreMhz: 1500, voltageSteps: -2 } },
    ))).toEqual(expect.arrayContaining(['arm_freq=1500', 'over_voltage=-2']))
  })

  it('a lower clock is a note with what it saves; further than usual it is a caution', () => {
    expect(find(hot({}, { clock: { coreMhz: 1800, voltageSteps: -2 } }), 'clock.lowered'))
      .toMatchObject({ severity: 'note' })
    expect(find(hot({}, { clock: { coreMhz: 3000, voltageSteps: 4 } }), 'clock.unusual'))
      .toMatchObject({ severity: 'caution' })
    expect(find(hot({}, { clock: { coreMhz: 300, voltageSteps: -9 } }), 'clock.unusual'))
      .toMatchObject({ severity: 'caution' })
    expect(codesOf(after(hot({}, { clock: { coreMhz: 300, voltageSteps: -9 } }),
      'clock.unusual'))).not.toContain('clock.unusual')
  })
})

describe('front ends and hold-up', () => {
  const front = (bridge: Record<string, number> = {},
    latch: Record<string, number> = {}) => fed('tiny-unpopulated', 'transformer-9v-ac', {
    nodes: [
      node('bridge', 'rectifier-bridge', '@cable', bridge), node('latch', 'latch-power', 'bridge', latch),
      node('buck', 'step-down-5v-3a', 'latch'),
    ],
    feeds: { '@socket': 'buck' },
  })

  it('a capacitor too small leaves valleys below what the step-down wants; the right one is offered', () => {
    const small = front({ capacitanceUf: 220 })
    expect(find(small, 'rectifier.valley'))
      .toMatchObject({ severity: 'stop', worksheet: { kind: 'rectifier', node: 'bridge' } })
    expect(codesOf(after(small, 'rectifier.valley'))).not.toContain('rectifier.valley')
    expect(codesOf(front())).not.toContain('rectifier.valley')
  })

  it('a capacitor for too little voltage bursts without load', () => {
    expect(find(front({ capacitorV: 10 }), 'rectifier.capacitor')).toMatchObject({ severity: 'stop' })
    expect(codesOf(after(front({ capacitorV: 10 }), 'rectifier.capacitor'))).not.toContain('rectifier.capacitor')
  })

  it('AC without a bridge is a stop', () => {
    const straight = fed('tiny-unpopulated', 'transformer-9v-ac')
    expect(find(straight, 'ac.straight')).toMatchObject({ severity: 'stop', title: 'AC reaches Power socket' })
    expect(codesOf(after(straight, 'ac.straight'))).not.toContain('ac.straight')
  })

  it('a latch that lets go too early is a stop; the board that holds it ends that', () => {
    expect(find(front(), 'hold.too-short')).toMatchObject({ severity: 'stop', figures: [{ value: 5, limit: 18 }] })
    expect(codesOf(after(front(), 'hold.too-short'))).not.toContain('hold.too-short')
    const held = { ...front(), parts: [{ id: 'l', type: 'power-latch', name: 'L' }],
      assignments: fixedAt({ 'l.hold': 11 }) }
    expect(codesOf(held)).not.toContain('hold.too-short')
  })

  it('a capacitor holds as long as its energy lasts', () => {
    const capacitor = (farad: number, shutdownS: number | null) => fed(
      'tiny-unpopulated', 'adapter-5v-3a',
      { nodes: [node('c', 'capacitor-super', '@cable', { capacitanceF: farad })], feeds: { '@socket': 'c' },
        shutdownS },
    )
    const [hold] = evaluate(capacitor(10, 5), catalogue).power.holds
    // textbook: C·dU/dt = −P ÷ V with V = U − R·P ÷ V, summed in small steps here; `test/reference/spice.test.ts` has
    // it from a simulator
    let [u, t] = [hold!.fromV!, 0]
    for (const dt = 1e-3; ; t += dt) {
      const seen = (u + Math.sqrt(u * u - 4 * 0.08 * hold!.powerW!)) / 2
      if (seen <= 4.63) break
      u -= hold!.powerW! / seen / 10 * dt
    }
    expect(hold!.holdS).toBeCloseTo(t, 2)
    expect(find(capacitor(1, 30), 'hold.too-short')).toMatchObject({ worksheet: { kind: 'hold-up', node: 'c' } })
    expect(codesOf(after(capacitor(1, 30), 'hold.too-short'))).not.toContain('hold.too-short')
    expect(find(
      fed(
        'tiny-unpopulated', 'adapter-12v-2a',
        { nodes: [node('c', 'capacitor-super', '@cable'), node('b', 'step-down-5v-3a', 'c')],
          feeds: { '@socket': 'b' } },
      ),
      'capacitor.over-voltage',
    )).toMatchObject({ severity: 'stop' })
  })
})
