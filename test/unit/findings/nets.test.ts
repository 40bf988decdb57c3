/**
 * Rules about what meets on one net: two outputs, two sources, pulls, levels that do not switch off,
 * plugs, and returns.
 */
import { describe, expect, it } from 'vitest'
import { emptyPlan } from '../../../core/plan/create'
import { applyEdit } from '../../../core/plan/edits'
import type { PowerNode, PowerPlan } from '../../../core/plan/power'
import type { Plan } from '../../../core/plan/types'
import { catalogue, codesOf, findingsOf, planOf } from '../../plans'

type Parts = Parameters<typeof planOf>[1]
const fed = (board: string, supply: string | null, power: Partial<PowerPlan> = {}, parts: Parts = {},
  more: Partial<Plan> = {}): Plan => {
  const plan = planOf(board, parts, more)
  return { ...plan, supply: supply ? { type: supply } : null, power: { ...plan.power, ...power } }
}
const node = (id: string, type: string, from?: string): PowerNode => ({ id, type, name: id, ...from && { from } })
const find = (plan: Plan, code: string) => findingsOf(plan).find(finding => finding.code === code)
const after = (plan: Plan, code: string,
  which = 0) => applyEdit(plan, { edit: 'all', edits: find(plan, code)!.fixes[which]!.edits }).plan
const stops = (plan: Plan) =>
  findingsOf(plan).filter(finding => finding.severity === 'stop').map(finding => finding.code)
const at = (terminal: string, position: number) => ({ [terminal]: { position } })
const boot = (text: string, commandLine = '') => ({
  boot: { text, commandLine: `${commandLine} root=/dev/mmcblk0p2`.trim(), off: [] } as unknown as Plan['boot'],
})

/** A push-pull output at position 8, line 14. */
const onConsole = (more: Partial<Plan>) =>
  planOf('forty-classic', { m: 'motion-passive' }, { assignments: at('m.out', 8), ...more })

describe('two outputs on one wire', () => {
  it('the boot console transmits on line 14, where a part drives', () => {
    const plan = onConsole(boot('', 'console=serial0,115200'))
    // published: the board's own file, serial transmit of the header on line 14
    expect(find(plan, 'contention.console')).toMatchObject({
      severity: 'stop', subjects: expect.arrayContaining([expect.objectContaining({ partId: 'm' })]),
    })
    const mended = after(plan, 'contention.console')
    expect(codesOf(mended)).not.toContain('contention.console')
    expect(mended.boot!.commandLine).toBe('root=/dev/mmcblk0p2')
    expect(codesOf(onConsole(boot('', 'console=tty1')))).not.toContain('contention.console')
  })

  it('on the newest board the console lies on a socket of its own', () => {
    const newest = planOf(
      'forty-io-bridge', { m: 'motion-passive' },
      { assignments: at('m.out', 8), ...boot('', 'console=serial0,115200') },
    )
    expect(codesOf(newest)).not.toContain('contention.console')
  })

  it('a setting makes the line an output; it becomes an input by the fix', () => {
    const plan = planOf('forty-classic', { m: 'motion-passive' },
      { assignments: at('m.out', 11), ...boot('gpio=17=op,dh\n') })
    expect(find(plan, 'contention.line-set')).toMatchObject({ severity: 'stop' })
    expect(after(plan, 'contention.line-set').boot!.text).toBe('gpio=17=ip\n')
    expect(codesOf(after(plan, 'contention.line-set'))).not.toContain('contention.line-set')
    for (const text of ['gpio=17=ip\n', 'gpio=18=op\n', '[none]\ngpio=17=op\n']) {
      expect(codesOf({ ...plan, ...boot(text) })).not.toContain('contention.line-set')
    }
    expect(codesOf({ ...plan, ...boot('gpio=4-20=op\n') })).toContain('contention.line-set')
  })

  it('what only pulls down, or a button, does not drive', () => {
    expect(codesOf(planOf(
      'forty-classic', { b: 'buttons-4' }, { assignments: at('b.b1', 11), ...boot('gpio=17=op\n') },
    ))).not.toContain('contention.line-set')
  })
})

describe('two sources on one net, whatever lies between', () => {
  it('a converter behind another supply is one of them', () => {
    const plan = fed(
      'forty-classic', 'adapter-5v-2a4',
      { nodes: [node('twelve', 'adapter-12v-2a'), node('down', 'step-down-5v-3a', 'twelve')],
        feeds: { '@header': 'down' } },
    )
    const finding = find(plan, 'rail.two-sources')!
    expect(finding).toMatchObject({
      severity: 'stop', stages: ['power', 'build', 'board'],
      figures: expect.arrayContaining([expect.objectContaining({ label: 'down', value: 5.1 })]),
    })
    expect(finding.fixes.length).toBeGreaterThan(0)
    finding.fixes.forEach((_,
      which) => expect(codesOf(after(plan, 'rail.two-sources', which))).not.toContain('rail.two-sources'))
  })

  it('one supply with a converter behind it is one source, and a converter that nothing feeds is none', () => {
    const alone = fed(
      'forty-classic', null,
      { nodes: [node('twelve', 'adapter-12v-2a'), node('down', 'step-down-5v-3a', 'twelve')],
        feeds: { '@header': 'down' } },
    )
    expect(codesOf(alone)).not.toContain('rail.two-sources')
    const idle = fed('forty-classic', 'adapter-5v-2a4',
      { nodes: [node('down', 'step-down-5v-3a')], feeds: { '@header': 'down' } })
    expect(codesOf(idle)).not.toContain('rail.two-sources')
  })

  it('a battery add-on beside an adapter: the adapter goes into the add-on', () => {
    const plan = fed('forty-classic', 'adapter-5v-2a4', {}, { bat: 'power-add-on-battery' })
    expect(find(plan, 'rail.two-sources')).toMatchObject({
      severity: 'stop', subjects: expect.arrayContaining([expect.objectContaining({ partId: 'bat' })]),
    })
    const mended = after(plan, 'rail.two-sources')
    expect(mended.power).toMatchObject({ feeds: { '@socket': null }, joins: [{ from: '@supply', into: 'bat.vcc' }] })
    expect(stops(mended)).not.toContain('rail.two-sources')
    expect(codesOf(fed('forty-classic', null, {}, { bat: 'power-add-on-battery' }))).not.toContain('rail.two-sources')
  })
})

describe('pulls and levels', () => {
  it('an input made for 5 V does not switch off at 3.3 V, and its pull stands past the line', () => {
    const plan = planOf('forty-classic', { r: 'relay-board-2-5v' }, { assignments: at('r.in1', 11) })
    expect(find(plan, 'level.never-off')).toMatchObject({ severity: 'stop', figures: [{ value: 3.3, limit: 4.3 }] })
    expect(find(plan, 'level.pulled-too-high'))
      .toMatchObject({ severity: 'stop', figures: [{ value: 5, limitKey: 'board.inputMaxV' }] })
    const mended = after(plan, 'level.never-off')
    for (const code of ['level.never-off', 'level.pulled-too-high']) expect(codesOf(mended)).not.toContain(code)
    // A resistor to 3V3 beside the wire keeps nothing from it.
    expect(codesOf({
      ...plan, between: { 'r.in1': { kind: 'pull-up', ohm: 10_000 } },
    })).toEqual(expect.arrayContaining(['level.never-off', 'level.pulled-too-high']))
    expect(codesOf(planOf('forty-classic', { r: 'relay-board-4' },
      { assignments: at('r.in1', 11) }))).not.toContain('level.never-off')
  })

  it('an output that only pulls down wants a resistor, and the choice is recorded', () => {
    const own = {
      id: 'own-counter', name: 'Counter', summary: 'Made here.', group: 'sensing',
      signals: [{ id: 'out', label: 'OUT', role: 'line', direction: 'out', drive: 'open-drain' }], supplies: [],
      grounds: [{ id: 'gnd', label: 'GND' }],
    }
    const plan = planOf(
      'forty-classic', { c: 'own-counter' },
      { own: { boards: [], parts: [own] } as unknown as Plan['own'], assignments: at('c.out', 11) },
    )
    expect(find(plan, 'pull.missing')).toMatchObject({
      severity: 'caution', fixes: [{ edits: [{ edit: 'set-between', between: { kind: 'pull-up', ohm: 10_000 } }] }],
    })
    expect(codesOf(after(plan, 'pull.missing'))).not.toContain('pull.missing')
    // published: board file, 1.8 kΩ soldered to line 2
    expect(codesOf({ ...plan, assignments: at('c.out', 3) })).not.toContain('pull.missing')
  })
})

describe('plugs', () => {
  it('a micro-USB plug does not go into a USB-C board; both ways out end it', () => {
    const plan = fed('forty-usb-c', 'adapter-5v-2a4')
    const finding = find(plan, 'plug.does-not-fit')!
    expect(finding).toMatchObject({
      severity: 'caution', stages: ['power', 'board', 'build'], figures: [{ value: 'micro-USB', limit: 'USB-C' }],
    })
    expect(finding.fixes.map(fix => fix.label)).toEqual([
      expect.stringMatching(/^Put Adapter plug.* V on the rail at peak$/), expect.stringMatching(/^Take /),
    ])
    finding.fixes.forEach((_,
      which) => expect(codesOf(after(plan, 'plug.does-not-fit', which))).not.toContain('plug.does-not-fit'))
  })

  it.each([...catalogue.boards.values()].map(board =>
    [board.id, board.signs.power] as const))('%s has some supply that fits', (board, socket) => {
    const fitting = [...catalogue.supplies.values()].filter(unit => unit.cable?.plug === socket)
    expect(fitting.length).toBeGreaterThan(0)
    for (const unit of fitting) expect(codesOf(fed(board, unit.id))).not.toContain('plug.does-not-fit')
  })

  it('bare wires are a note, and a plug for them ends it', () => {
    const plan = fed('forty-classic', 'din-rail-5v-5a')
    expect(find(plan, 'plug.does-not-fit')).toMatchObject({ severity: 'note' })
    expect(codesOf(after(plan, 'plug.does-not-fit'))).not.toContain('plug.does-not-fit')
  })
})

describe('what nothing feeds', () => {
  it('a 12 V strip is offered the smallest supply that gives enough, then what is there already', () => {
    const strip = (supply: string) => fed('forty-classic', supply, {}, { s: 'strip-plain-12v' })
    const plan = strip('adapter-5v-2a4')
    const mended = after(plan, 'power.unfed')
    expect(codesOf(mended)).not.toContain('power.unfed')
    expect(mended.power.nodes).toMatchObject([{ type: expect.stringMatching(/12v/) }])
    const two = { ...mended, parts: [...mended.parts, { ...mended.parts[0]!, id: 's2', name: 's2' }] }
    expect(find(two, 'power.unfed')!.fixes[0]!.label).toMatch(/^Feed it from /)
    expect(after(two, 'power.unfed').power.nodes).toHaveLength(1)
  })
})

describe('returns', () => {
  const apart = (assignments: Plan['assignments']) => fed(
    'forty-classic', 'adapter-5v-2a4', { nodes: [node('five', 'hub-adapter-5v-4a')], feeds: { 's.vcc': 'five' } },
    { s: ['strip-addressable', { pixels: '8' }] }, { assignments },
  )

  it('a supply of its own wants its ground joined with the board\'s, once', () => {
    const plan = apart(at('s.din', 12))
    expect(find(plan, 'ground.missing')).toMatchObject({ severity: 'stop' })
    expect(codesOf(after(plan, 'ground.missing'))).not.toContain('ground.missing')
    expect(codesOf(apart({ ...at('s.din', 12), ...at('s.gnd', 6) }))).not.toContain('ground.missing')
  })
})

it('an empty plan has nothing on any net to speak of', () => {
  expect(findingsOf(emptyPlan('x')).filter(finding => /^(contention|pull|level|plug|rail)\./.test(finding.code)))
    .toEqual([])
})
