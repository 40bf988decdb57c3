/**
 * Free choices, ways out and explanations. That the cost is the least there is stands in
 * `test/reference/optimum.test.ts`.
 */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { evaluate } from '../../../core/evaluate'
import { explainPlace } from '../../../core/placement/explain'
import { gatherLines, priceLines } from '../../../core/placement/gathering'
import { cheapestMatching } from '../../../core/placement/matching'
import { whyNot } from '../../../core/placement/options'
import { costAsItStands, placementEdits, placePlan } from '../../../core/placement/place'
import type { Placed } from '../../../core/placement/types'
import { strapDevices, type Device } from '../../../core/placement/straps'
import { gatherFacts } from '../../../core/facts/gather'
import { applyEdit, type Edit } from '../../../core/plan/edits'
import type { Plan } from '../../../core/plan/types'
import { catalogue, codesOf, fixedAt, planOf } from '../../plans'
import { draws } from '../../random'

const placed = (plan: Plan, scope: 'rest' | 'all' = 'rest'): { result: Placed, after: Plan } => {
  const result = placePlan(plan, catalogue, { scope })
  if (!result.ok) throw new Error(result.sentence)
  return { result, after: applyEdit(plan, { edit: 'all', edits: placementEdits(plan, result) }).plan }
}

describe('free choices of the search', () => {
  it('strap like parts to addresses of their own rather than let them clash', () => {
    const { result, after } = placed(planOf('forty-classic',
      { a: 'expander-8-i2c', b: 'expander-8-i2c', c: 'expander-8-i2c' }))
    expect(result.straps).toHaveLength(2)
    expect(codesOf(after)).not.toContain('address.clash')
    expect(new Set(evaluate(after, catalogue).expected.addresses.map(entry => entry.address)).size).toBe(3)
  })

  it('leave a strap alone that clashes with nobody', () => {
    expect(placed(planOf('forty-classic',
      { a: ['expander-8-i2c', { address: '0x23' }], b: 'light-i2c' })).result.straps).toEqual([])
  })

  it('make a bus in software when one board has one bus and two parts one address', () => {
    const { result, after } = placed(planOf('forty-classic', { a: 'light-i2c', b: 'light-i2c' }))
    expect(result.softwareBuses).toHaveLength(1)
    expect(codesOf(after)).not.toContain('address.clash')
    expect(codesOf(after)).not.toContain('function.unavailable')
    const { sda, scl } = after.softwareBuses[0]!
    const line = (position: number) =>
      catalogue.boards.get('forty-classic')!.header.find(entry => entry.position === position)!.line
    expect(evaluate(after, catalogue).boot.needs.map(need =>
      need.line)).toContain(`dtoverlay=i2c-gpio,bus=11,i2c_gpio_sda=${line(sda)},i2c_gpio_scl=${line(scl)}`)
    expect(evaluate(after, catalogue).expected.scans.map(scan => scan.busId)).toContain('i2c1')
    // Placed again, nothing moves.
    expect(placed(after).result.moved).toEqual([])
  })

  it('prefer another controller to software where the board has one', () => {
    expect(placed(planOf('forty-usb-c', { a: 'light-i2c', b: 'light-i2c' })).result.softwareBuses).toEqual([])
  })

  it('let two outputs share a channel only when there is no other', () => {
    const channels = (plan: Plan) =>
      evaluate(placed(plan).after, catalogue).signals.pwm.map(channel => channel.outputs.length)
    expect(channels(planOf('forty-classic', { a: 'servo-small', b: 'servo-small' }))).toEqual([1, 1])
    expect(channels(planOf('forty-classic', { a: 'servo-small', b: 'servo-small', c: 'servo-small' })).sort())
      .toEqual([1, 2])
    expect(channels(planOf('forty-io-bridge', { a: 'servo-small', b: 'servo-small', c: 'servo-small' })))
      .toEqual([1, 1, 1])
  })

  it('lead a varying voltage to a converter, never to a line', () => {
    const { after } = placed(planOf('forty-classic', { g: 'gas-analog', a: 'analog-8-spi' }))
    expect(after.assignments['g.aout']!.terminal).toMatch(/^a\.CH/)
    const none = placePlan(planOf('forty-classic', { g: 'gas-analog' }), catalogue, { scope: 'rest' })
    expect(none).toMatchObject({
      ok: false, waysOut: expect.arrayContaining([expect.objectContaining({ label: expect.stringMatching(/^Add: Analog converter/) })]),
    })
  })

  it('keep a part together and in the order of its connector, supply and ground beside it', () => {
    const { after } = placed(planOf('forty-classic', { r: 'buttons-4' }))
    const columns = [1, 2, 3, 4].map(n => Math.ceil(after.assignments[`r.b${n}`]!.position! / 2))
    expect([...columns].sort((a, b) => a - b)).toEqual(columns)
    expect(Math.max(...columns) - Math.min(...columns)).toBeLessThanOrEqual(4)
    const ground = Math.ceil(after.assignments['r.gnd']!.position! / 2)
    expect(Math.min(...columns.map(column => Math.abs(column - ground)))).toBeLessThanOrEqual(2)
  })

  it('keep what must be still off the lines that chatter or pull it in', () => {
    const { after } = placed(planOf('forty-classic', { r: 'relay-board-4', s: 'relay-board-1' }))
    expect(codesOf(after).filter(code => code.startsWith('start.'))).toEqual([])
  })

  it('follow the weights: with no price on distance a part may scatter, with a high one it may not', () => {
    const spread = (weights: Plan['weights']) => {
      const { after } = placed(planOf('forty-classic', { k: 'keypad-matrix' }, { weights }))
      const columns = Object.entries(after.assignments).map(([, entry]) => Math.ceil(entry.position! / 2))
      return Math.max(...columns) - Math.min(...columns)
    }
    expect(spread({ apart: 5 })).toBeLessThanOrEqual(spread({ apart: 0 }))
  })

  it('move as little as possible when a part is added, and say what moved', () => {
    const { after } = placed(planOf('forty-classic', { a: 'buttons-4', b: 'scale-two-wire' }))
    const { result } = placed({ ...after, parts: [...after.parts, { id: 'c', type: 'card-reader-spi', name: 'c' }] })
    for (const move of result.moved) expect(move.from).not.toBe(move.to)
    expect(result.moved.length).toBeLessThanOrEqual(2)
  })

  it('say where wires have to be split when supply positions run out', () => {
    const { result } = placed(planOf(
      'forty-classic', Object.fromEntries(['light-i2c', 'colour-i2c', 'humidity-i2c', 'magnetic-i2c'].map((type,
        i) => [`p${i}`, type])),
    ))
    expect(result.splitAt.filter(entry => entry.position === 1 || entry.position === 17)
      .reduce((sum, entry) => sum + entry.wires, 0)).toBe(4)
  })
})

describe('hubs', () => {
  const sensors = (count: number) => Object.fromEntries(Array.from({ length: count }, (_, i) => [`s${i}`, 'light-i2c']))

  it('give each of up to eight like sensors a channel of its own, in their order', () => {
    for (const count of [2, 5, 8]) {
      const { result, after } = placed(planOf('forty-classic', { h: 'hub-8-i2c', ...sensors(count) }))
      expect(codesOf(after)).not.toContain('address.clash')
      expect(result.provedBest).toBe(true)
      const channels = Object.entries(after.assignments)
        .filter(([key]) => key.endsWith('.sda') && key !== 'h.sda')
        .map(([, to]) => to.terminal)
        .filter(Boolean)
      expect(new Set(channels).size).toBe(channels.length)
    }
  })

  it('keep a sensor on the channel it has', () => {
    const { after } = placed(planOf('forty-classic', { h: 'hub-8-i2c', ...sensors(2) }))
    const held = {
      ...after,
      assignments: { ...after.assignments, 's0.sda': { terminal: 'h.SD6', fixed: true },
        's0.scl': { terminal: 'h.SC6', fixed: true } },
    }
    const { after: again } = placed({ ...held, parts: [...held.parts, { id: 's9', type: 'light-i2c', name: 's9' }] })
    expect(again.assignments['s0.sda']!.terminal).toBe('h.SD6')
    expect(codesOf(again)).not.toContain('address.clash')
  })

  it('leave a sensor with an address of its own on the header', () => {
    const { after } = placed(planOf('forty-classic',
      { h: 'hub-8-i2c', a: 'light-i2c', b: 'light-i2c', c: 'humidity-i2c' }))
    expect(after.assignments['c.sda']).toEqual({ position: 3 })
  })
})

describe('refusals', () => {
  it('are the same whatever else is in the plan', () => {
    const alone = placePlan(planOf('forty-classic', { a: 'label-printer-serial', b: 'positioning-serial' }), catalogue,
      { scope: 'rest' })
    const among = placePlan(
      planOf(
        'forty-classic',
        { o: 'oled-i2c', s: 'screen-spi-24', f: 'fan-5v', a: 'label-printer-serial', r: 'relay-board-4',
          b: 'positioning-serial' },
      ),
      catalogue, { scope: 'rest' },
    )
    expect(!alone.ok && !among.ok && among.conflict).toEqual(!alone.ok && alone.conflict)
  })

  it('name one demand alone when it has no way at all', () => {
    const result = placePlan(planOf('early-26', { a: 'amplifier-i2s', o: 'oled-i2c' }), catalogue, { scope: 'rest' })
    expect(result.ok ? [] : result.conflict.map(entry => entry.label)).toEqual(['a'])
    expect(result.ok ? '' : result.sentence).toContain('the board has no such bus')
    expect(result.ok
      ? []
      : result.waysOut.map(way => way.label))
      .toEqual(expect.arrayContaining([expect.stringMatching(/^Take the board/)]))
  })

  it('count lines when there are too few, and offer an expander for slow ones', () => {
    const result = placePlan(
      planOf('forty-classic', { a: 'relay-board-8', b: 'relay-board-8', c: 'lever-sensors-8', d: 'buttons-4' }),
      catalogue,
      { scope: 'rest' },
    )
    expect(result.ok ? '' : result.sentence).toContain('2 too few')
    expect(result.ok
      ? []
      : result.waysOut.map(way => way.label))
      .toEqual(expect.arrayContaining([expect.stringMatching(/^Add: Line expander/)]))
  })
})

describe('the cost of a plan as it stands', () => {
  const plan = planOf('forty-usb-c', { m: 'modem-serial', b: 'buttons-4', o: 'oled-i2c' })

  it('is that of the best placement right after placing, and never less than it', () => {
    const { result, after } = placed(plan)
    expect(costAsItStands(after, catalogue)).toEqual({ cost: result.cost, powerCost: result.powerCost })
    const moved = { ...after,
      assignments: { ...after.assignments, 'b.b1': { position: 40 }, 'b.b4': { position: 11 } } }
    expect(costAsItStands(moved, catalogue)!.cost).toBeGreaterThan(result.cost)
  })

  it('is none where places cannot stand together, or nothing has one', () => {
    expect(costAsItStands(plan, catalogue)).toBeNull()
    expect(costAsItStands({ ...plan, assignments: { 'b.b1': { position: 40 }, 'b.b2': { position: 40 } } }, catalogue))
      .toBeNull()
  })
})

describe('ways out of a conflict', () => {
  const impossible = planOf('forty-classic', { a: 'label-printer-serial', b: 'controller-5v-serial' })

  it('are tried before they are offered: each one lets everything be placed', () => {
    const result = placePlan(impossible, catalogue, { scope: 'rest' })
    if (result.ok) throw new Error('placed')
    expect(result.waysOut.length).toBeGreaterThan(1)
    for (const way of result.waysOut) {
      expect(
        placePlan(applyEdit(impossible, { edit: 'all', edits: way.edits as Edit[] }).plan, catalogue,
          { scope: 'rest' }).ok, way.label,
      ).toBe(true)
    }
    expect(result.waysOut.map(way => way.label)).toContain('Join b by USB cable')
    expect(result.waysOut.map(way => way.price))
      .toEqual([...result.waysOut.map(way => way.price)].sort((x, y) => x - y))
  })

  it('name a fixed position that stands in the way', () => {
    const result = placePlan(
      planOf('forty-classic', { a: 'led-plain', b: 'label-printer-serial' }, { assignments: fixedAt({ 'a.a': 8 }) }),
      catalogue,
      { scope: 'rest' },
    )
    expect(result.ok ? '' : result.waysOut[0]!.label).toBe('Let a A leave position 8')
  })

  it('look for a smaller conflict than dropping one after another leaves', () => {
    const plan = planOf('forty-classic',
      { x: 'relay-board-8', a: 'label-printer-serial', y: 'relay-board-8', b: 'positioning-serial' })
    const result = placePlan(plan, catalogue, { scope: 'rest' })
    expect(result.ok ? [] : result.conflict.map(entry => entry.label)).toEqual(['a: serial', 'b: serial'])
  })
})

describe('explanations', () => {
  const { after } = placed(planOf('forty-usb-c', { m: 'modem-serial', o: 'oled-i2c', f: 'fan-5v' }))

  it('say what the next best place would cost and what would move for it', () => {
    const found = explainPlace(after, catalogue, 'm.tx')!
    expect(found.at).toBe('position 10')
    expect(found.nextBest!.to).not.toBe('position 10')
    expect(found.nextBest!.costsMore).toBeGreaterThan(0)
    expect(found.nextBest!.moves.map(move => move.terminal)).toContain('m.rx')
  })

  it('say when a terminal can be nowhere else, and who else wanted its place', () => {
    const one = placed(planOf('early-26',
      { m: 'label-printer-serial', n: ['controller-3v3-serial', { link: 'usb' }] })).after
    expect(explainPlace(one, catalogue, 'm.tx')!.nextBest).toBeNull()
    const two = placed(planOf('forty-usb-c', { a: 'label-printer-serial', b: 'positioning-serial' })).after
    const holder = two.assignments['a.tx']!.position === 10 ? 'a' : 'b'
    expect(explainPlace(two, catalogue, `${holder}.tx`)!.alsoWanted).toEqual([`${holder === 'a' ? 'b' : 'a'}: serial`])
  })

  it('are none for what has no place, and never cheaper than the best', () => {
    expect(explainPlace(planOf('forty-classic', { f: 'fan-5v' }), catalogue, 'f.drive')).toBeNull()
    for (const key of ['f.drive', 'o.sda', 'f.gnd']) {
      expect(explainPlace(after, catalogue, key)!.nextBest!.costsMore, key).toBeGreaterThanOrEqual(-0.01)
    }
  })

  it('tell why a position cannot serve', () => {
    const facts = gatherFacts(after, catalogue)
    const why = (key: string, position: number) => whyNot(facts.byKey.get(key)!, position, facts)
    expect(why('m.tx', 11)).toBe('Line 17 has no serial receive (RX).')
    expect(why('m.tx', 2)).toContain('short circuit')
    expect(why('m.gnd', 2)).toBe('Position 2 is the 5V rail; a return wants a ground.')
    expect(why('m.tx', 10)).toBeNull()
    expect(why('f.drive', 99)).toBe('There is no position 99.')
  })
})

describe('straps', () => {
  const device = fc.record({
    bus: fc.constantFrom('x', 'y'),
    addresses: fc.uniqueArray(fc.integer({ min: 0x20, max: 0x24 }), { minLength: 1, maxLength: 4 }),
  })

  it('are the best by trying every combination', () => {
    fc.assert(fc.property(fc.array(device, { minLength: 1, maxLength: 5 }), (list) => {
      const devices: Device[] = list.map((entry, i) => ({
        partId: `p${i}`, busId: entry.bus,
        addresses: entry.addresses.map((address, n) => ({ address, cost: n ? 3 : 0 })),
      }))
      const every = devices.reduce<number[][]>(
        (found, { addresses }) => found.flatMap(entry => addresses.map((_, n) => [...entry, n])), [[]],
      )
      const clashes = (pick: number[], i: number) => pick.filter((m, j) =>
        j < i && devices[i]!.busId === devices[j]!.busId
        && devices[i]!.addresses[pick[i]!]!.address === devices[j]!.addresses[m]!.address).length
      const cost = (pick: number[]) =>
        pick.reduce((sum, n, i) => sum + devices[i]!.addresses[n]!.cost + 1000 * clashes(pick, i), 0)
      expect(strapDevices(devices, bus => [bus], 1000).cost).toBe(Math.min(...every.map(cost)))
    }), { numRuns: draws(200) })
  })
})

describe('gathering', () => {
  const task = fc.record({
    clusterOf: fc.array(fc.integer({ min: -1, max: 1 }), { minLength: 2, maxLength: 4 }),
    places: fc.integer({ min: 4, max: 6 }),
    costs: fc.array(fc.integer({ min: 0, max: 40 }), { minLength: 24, maxLength: 24 }),
    capacity: fc.array(fc.integer({ min: 1, max: 2 }), { minLength: 6, maxLength: 6 }),
  }).map(({ clusterOf, places, costs, capacity }) => ({
    cost: clusterOf.map((_,
      row) => Float64Array.from({ length: places }, (_, p) => costs[(row * places + p) % 24]! / 10)),
    capacity: Int32Array.from({ length: places }, (_, p) => capacity[p]!),
    distance: Array.from({ length: places },
      (_, m) => Float64Array.from({ length: places }, (_, p) => 0.4 * Math.abs(m - p))),
    clusterOf: Int32Array.from(clusterOf), clusters: 2, along: Float64Array.from({ length: places }, (_, p) => p),
    quantum: 1e-6,
  }))

  it('is the best by trying every assignment, and its prices bound it from below', () => {
    fc.assert(fc.property(task, (one) => {
      const rows = one.cost.length
      let best = Infinity
      const walk = (row: number, used: number[], places: number[]): void => {
        if (row === rows) {
          let total = places.reduce((sum, p, r) => sum + one.cost[r]![p]!, 0)
          for (let k = 0; k < 2; k++) total += Math.min(...one.distance.map(away => places.reduce(
            (sum, p, r) => sum + (one.clusterOf[r] === k
              ? away[p]!
              : 0),
            0,
          )))
          best = Math.min(best, total)
          return
        }
        for (let p = 0; p < one.capacity.length; p++) if (used[p]! < one.capacity[p]!) {
          walk(row + 1, used.map((n, i) => i === p ? n + 1 : n), [...places, p])
        }
      }
      walk(0, Array.from(one.capacity, () => 0), [])
      const { found } = gatherLines(one)
      expect(found!.proved).toBe(true)
      expect(found!.cost).toBeCloseTo(best, 6)
      expect(priceLines(one).floor).toBeLessThanOrEqual(best + 1e-6)
      expect(gatherLines(one, best - 0.01).found).toBeNull()
    }), { numRuns: draws(300) })
  })

  it('rests on matchings that are the best by trying every one', () => {
    fc.assert(fc.property(fc.array(
      fc.array(fc.integer({ min: 0, max: 99 }), { minLength: 5, maxLength: 5 }), { minLength: 1, maxLength: 4 },
    ), (cost) => {
      const every = (row: number, used: Set<number>): number => row === cost.length
        ? 0
        : Math.min(...cost[row]!.map((value,
            p) => used.has(p) ? Infinity : value + every(row + 1, new Set([...used, p]))))
      expect(cheapestMatching(cost)!.cost).toBe(every(0, new Set()))
    }))
  })
})
