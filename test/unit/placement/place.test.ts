import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { evaluate } from '../../../core/evaluate'
import { placementEdits, placePlan } from '../../../core/placement/place'
import { applyEdit } from '../../../core/plan/edits'
import type { Plan } from '../../../core/plan/types'
import { demoPlans } from '../../../demo'
import { faultsOf, refOf } from '../../checker'
import { catalogue, fixedAt, planOf } from '../../plans'
import { draws } from '../../random'

const placed = (plan: Plan, scope: 'rest' | 'all' = 'rest') => {
  const result = placePlan(plan, catalogue, { scope })
  if (!result.ok) throw new Error(result.sentence)
  return { result, places: Object.fromEntries(Object.entries(result.assignments).map(([key, to]) => [key, refOf(to)])) }
}

const LINES = [3, 5, 7, 8, 10, 11, 12, 13, 15, 16, 18, 19, 21, 22, 23, 24, 26, 29, 31, 32, 33, 35, 36, 37, 38, 40]
/** Reserves every line position but these. */
const onlyFree = (positions: number[]) =>
  LINES.filter(position => !positions.includes(position)).map(position => ({ position }))

/** Tries every place for every required signal, one terminal after the other, and asks the checker. */
function bruteForce(plan: Plan): boolean {
  const keys = plan.parts.flatMap(part => catalogue.parts.get(part.type)!.signals
    .filter(signal => !signal.optional)
    .map(signal => `${part.id}.${signal.id}`))
  const free = LINES.filter(position => !plan.reserved.some(entry => entry.position === position))
  const own = (key: string) =>
    plan.assignments[key]?.fixed ? [refOf(plan.assignments[key])] : free.map(position => `P${position}`)
  // A prefix with a fault of its own cannot be mended by going on: missing places are the only faults that may remain.
  const sound = (places: Record<string, string>) =>
    faultsOf(plan, places, true)
      .every(fault => fault.endsWith('has no place') || (/^\w+: no bus/.test(fault) && !complete(fault, places)))
  const complete = (fault: string, places: Record<string, string>) => {
    const part = fault.split(':')[0]!
    return keys.filter(key => key.startsWith(`${part}.`)).every(key => places[key])
  }
  const walk = (i: number, places: Record<string, string>): boolean => {
    if (i === keys.length) {
      return faultsOf(plan, places, true)
        .every(fault => fault.endsWith('has no place') && !keys.some(key => fault.startsWith(`${key} `)))
    }
    return own(keys[i]!).some((ref) => {
      const next = { ...places, [keys[i]!]: ref }
      return sound(next) && walk(i + 1, next)
    })
  }
  return walk(0, {})
}

const smallPart = fc.constantFrom(
  'oled-i2c', 'label-printer-serial', 'servo-small', 'scale-two-wire', 'probe-onewire', 'relay-bare',
  'strip-addressable',
)
/** A few parts on a handful of free positions, some terminals fixed by the maker: small enough to try everything. */
const smallPlan = fc.record({
  board: fc.constantFrom('forty-classic', 'forty-usb-c'),
  types: fc.array(smallPart, { minLength: 1, maxLength: 3 }),
  free: fc.uniqueArray(fc.constantFrom(...LINES), { minLength: 2, maxLength: 7 }),
  fix: fc.option(fc.record({ part: fc.nat(2), signal: fc.nat(1), at: fc.nat(6) })),
}).map(({ board, types, free, fix }) => {
  const plan = planOf(board, Object.fromEntries(types.map((type, i) => [`p${i}`, type])), { reserved: onlyFree(free) })
  if (fix && types[fix.part]) {
    const signals = catalogue.parts.get(types[fix.part]!)!.signals.filter(signal => !signal.optional)
    const signal = signals[fix.signal % signals.length]!
    plan.assignments = fixedAt({ [`p${fix.part}.${signal.id}`]: free[fix.at % free.length]! })
  }
  return plan
})

describe('placement against brute force', () => {
  it('finds a place for everything exactly when trying every place finds one', () => {
    const seen = { possible: 0, impossible: 0 }
    fc.assert(fc.property(smallPlan, (plan) => {
      const possible = bruteForce(plan)
      seen[possible ? 'possible' : 'impossible']++
      expect(placePlan(plan, catalogue, { scope: 'rest' }).ok).toBe(possible)
    }), { numRuns: draws(400), seed: 20261124 })
    // Both answers have to come up for the comparison to mean something.
    expect(Math.min(seen.possible, seen.impossible)).toBeGreaterThan(40)
  })
})

const anyPart = fc.constantFrom(...[...catalogue.parts.keys()])
const anyPlan = fc.record({
  board: fc.constantFrom('forty-classic', 'forty-usb-c'), types: fc.array(anyPart, { minLength: 1, maxLength: 9 }),
  reserved: fc.uniqueArray(fc.integer({ min: 1, max: 40 }), { maxLength: 4 }),
}).map(({ board, types, reserved }) => planOf(
  board, Object.fromEntries(types.map((type, i) => [`p${i}`, type])),
  { reserved: reserved.map(position => ({ position })) },
))

describe('placement', () => {
  it('is valid by the independent checker whenever it says it is placed, over any mix of parts', () => {
    fc.assert(fc.property(anyPlan, (plan) => {
      const result = placePlan(plan, catalogue, { scope: 'rest', patience: 400, brief: true })
      if (!result.ok) return
      expect(faultsOf(
        { ...plan, softwareBuses: result.softwareBuses },
        Object.fromEntries(Object.entries(result.assignments).map(([key, to]) => [key, refOf(to)])),
      )).toEqual([])
    }), { numRuns: draws(120) })
  })

  it('leaves nothing that its own rules call a claim or a missing function', () => {
    fc.assert(fc.property(anyPlan, (plan) => {
      const result = placePlan(plan, catalogue, { scope: 'rest', patience: 400, brief: true })
      if (!result.ok) return
      const codes = evaluate(
        applyEdit(plan, { edit: 'all', edits: placementEdits(plan, result) }).plan, catalogue,
      ).findings.map(finding => finding.code)
      expect(codes.filter(code => [
        'position.claimed-twice', 'function.unavailable', 'controller.two-ways', 'terminal.unplaced',
      ].includes(code))).toEqual([])
    }), { numRuns: draws(80) })
  })

  it('gives the same answer twice, and asks nothing new of what it has placed', () => {
    for (const plan of demoPlans) {
      const { result } = placed(plan, 'all')
      expect(placed(plan, 'all').result).toEqual(result)
      const again = placed({ ...plan, assignments: result.assignments }, 'rest')
      expect(again.result.moved).toEqual([])
    }
  })

  it('keeps what the maker fixed, wherever that may be done', () => {
    const plan = planOf(
      'forty-classic', { probe: 'probe-onewire', fan: 'fan-5v' },
      { assignments: fixedAt({ 'probe.dq': 37, 'fan.gnd': 39 }) },
    )
    const { places, result } = placed(plan, 'all')
    expect(places['probe.dq']).toBe('P37')
    expect(places['fan.gnd']).toBe('P39')
    expect(result.assignments['probe.dq']!.fixed).toBe(true)
    expect(result.assignments['fan.drive']!.fixed).toBeUndefined()
  })

  it('hangs all 1-Wire parts on one line, also on the one that was fixed', () => {
    const { places } = placed(planOf('forty-classic', { a: 'probe-onewire', b: 'probe-onewire', c: 'probe-onewire' }))
    expect(new Set([places['a.dq'], places['b.dq'], places['c.dq']]).size).toBe(1)
    const fixed = placed(planOf('forty-classic', { a: 'probe-onewire', b: 'probe-onewire' },
      { assignments: fixedAt({ 'b.dq': 40 }) }))
    expect(fixed.places['a.dq']).toBe('P40')
  })

  it('takes the default bus first, and another one only where an address would clash', () => {
    const { places } = placed(planOf('forty-usb-c', { a: 'light-i2c', b: 'oled-i2c' }))
    expect([places['a.sda'], places['b.sda']]).toEqual(['P3', 'P3'])
    const clash = placed(planOf('forty-usb-c', { a: 'light-i2c', b: 'light-i2c' }))
    expect(clash.places['a.sda']).not.toBe(clash.places['b.sda'])
    expect(evaluate(
      { ...planOf('forty-usb-c', { a: 'light-i2c', b: 'light-i2c' }), assignments: clash.result.assignments },
      catalogue,
    ).findings.map(f => f.code)).not.toContain('address.clash')
  })

  it('puts like sensors behind a hub, each on a channel of its own', () => {
    const plan = planOf('forty-classic', { hub: 'hub-8-i2c', a: 'light-i2c', b: 'light-i2c', c: 'light-i2c' })
    const { places, result } = placed(plan)
    expect(new Set([places['a.sda'], places['b.sda'], places['c.sda']]).size).toBe(3)
    expect(places['hub.sda']).toBe('P3')
    expect(evaluate({ ...plan, assignments: result.assignments }, catalogue).findings.map(f =>
      f.code)).not.toContain('address.clash')
  })

  it('sends slow signals to an expander when the header is full, and fast ones never', () => {
    const plan = planOf(
      'forty-classic',
      { x: 'expander-16-i2c', r1: 'relay-board-4', r2: 'relay-board-4', t1: 'lever-sensors-8', t2: 'lever-sensors-8',
        s: 'scale-two-wire' },
    )
    const { places } = placed(plan)
    expect(Object.values(places).filter(ref => ref.startsWith('x.')).length).toBeGreaterThan(0)
    expect([places['s.dout'], places['s.sck']].every(ref => ref!.startsWith('P'))).toBe(true)
  })

  it('puts a relay that pulls in when low on lines that start high', () => {
    const { places } = placed(planOf('forty-classic', { r: 'relay-board-4' }))
    const lines = catalogue.boards.get('forty-classic')!
    for (const n of [1, 2, 3, 4]) {
      const position = Number(places[`r.in${n}`]!.slice(1))
      const line = lines.header.find(entry => entry.position === position)!.line
      expect(lines.lines.find(entry => entry.line === line)!.resetPull).toBe('up')
    }
  })

  it('names a smallest conflict: without any one of its members the rest can be placed', () => {
    const plan = planOf('forty-classic', { a: 'label-printer-serial', b: 'positioning-serial', c: 'oled-i2c' })
    const result = placePlan(plan, catalogue, { scope: 'rest' })
    expect(result).toMatchObject({ ok: false })
    const labels = result.ok ? [] : result.conflict.map(entry => entry.label)
    expect(labels).toEqual(['a: serial', 'b: serial'])
    for (const dropped of ['a', 'b']) {
      expect(placePlan({ ...plan, parts: plan.parts.filter(part => part.id !== dropped) }, catalogue,
        { scope: 'rest' }).ok).toBe(true)
    }
  })

  it('says which fixed position cannot serve, and what it lacks', () => {
    const result = placePlan(
      planOf('forty-classic', { a: 'oled-i2c' }, { assignments: fixedAt({ 'a.sda': 12 }) }), catalogue,
      { scope: 'rest' },
    )
    expect(result.ok ? '' : result.sentence).toBe('a SDA is fixed at position 12, which has no I²C data (SDA).')
    const supply = placePlan(
      planOf('forty-classic', { a: 'oled-i2c' }, { assignments: fixedAt({ 'a.vcc': 2 }) }), catalogue,
      { scope: 'rest' },
    )
    expect(supply.ok ? '' : supply.sentence).toContain('not on the 3V3 rail')
  })

  it('says so when there is no board, and when every ground is reserved', () => {
    expect(placePlan(
      planOf(null, { a: 'oled-i2c' }), catalogue, { scope: 'rest' },
    )).toMatchObject({ ok: false, sentence: expect.stringContaining('no board') })
    const grounds = [6, 9, 14, 20, 25, 30, 34, 39].map(position => ({ position }))
    expect(placePlan(
      planOf('forty-classic', { a: 'oled-i2c' }, { reserved: grounds }), catalogue, { scope: 'rest' },
    )).toMatchObject({ ok: false, sentence: expect.stringContaining('ground') })
  })
})
