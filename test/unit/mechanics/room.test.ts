/** Bodies in their places, what has no room, and the ways out, over boards, add-on boards, coolers and cases. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { stepsOf } from '../../../core/construction/from-facts'
import { bodiesAsCsv, labelsAsCsv } from '../../../core/construction/table'
import { stepOfBody } from '../../../core/construction/steps/bodies'
import { evaluate } from '../../../core/evaluate'
import { gatherFacts } from '../../../core/facts/gather'
import { bodiesOf } from '../../../core/mechanics/from-facts'
import { SEATED_MM } from '../../../core/mechanics/stack'
import { seenFrom, trunkWay } from '../../../core/mechanics/seen'
import { svgOf } from '../../../core/mechanics/svg'
import { gapOf } from '../../../core/mechanics/solids'
import { applyEdit, type Edit } from '../../../core/plan/edits'
import type { Plan } from '../../../core/plan/types'
import { placed, placedPlans } from '../../generated'
import { catalogue, codesOf, findingsOf, planOf } from '../../plans'
import { draws, judgedAtLeast } from '../../random'

const seen = (plan: Plan) => bodiesOf(gatherFacts(plan, catalogue))
const body = (plan: Plan, id: string) => seen(plan).bodies.find(entry => entry.id === id)!
const built = (plan: Plan, build: Partial<Plan['build']>): Plan => ({ ...plan, build: { ...plan.build, ...build } })
const room = (plan: Plan) => findingsOf(plan).filter(({ code }) => code.startsWith('room.'))

describe('every body', () => {
  const plans = placedPlans(40)
  it('law: is put in its place by a step, or is there from the start', () => {
    let bodies = 0
    for (const plan of plans) {
      const facts = gatherFacts(plan, catalogue)
      const { steps } = stepsOf(facts)
      for (const entry of bodiesOf(facts).bodies) {
        bodies++
        const step = stepOfBody(entry, steps)
        if (entry.owner === '@board' && entry.kind !== 'pins') expect(step).toBeNull()
        else if (entry.kind !== 'pins') expect(step, `${entry.id} of ${plan.board}`).not.toBeNull()
      }
    }
    expect(bodies).toBeGreaterThan(judgedAtLeast(500))
  })

  it('law: stands at the same place whatever the order of the parts is, but for what lies beside', () => {
    for (const plan of plans.slice(0, 20)) {
      const turned = { ...plan, stack: gatherFacts(plan, catalogue).stack.map(({ id }) => id),
        parts: [...plan.parts].reverse() }
      const straight = { ...plan, stack: turned.stack }
      const places = (of: Plan) => seen(of).bodies.filter(({ laid, kind }) => !laid && kind !== 'plug')
        .map(({ id, solid }) => JSON.stringify([id, solid])).sort()
      expect(places(turned)).toEqual(places(straight))
    }
  })

  it('is seen from three sides, all of it on the sheet', () => {
    for (const plan of plans.slice(0, 10)) for (const view of ['above', 'below', 'near'] as const) {
      const sheet = seenFrom(seen(plan), view)
      for (const { x, y, width, height } of sheet.shapes) {
        expect(x).toBeGreaterThanOrEqual(sheet.x - 1e-9)
        expect(y).toBeGreaterThanOrEqual(sheet.y - 1e-9)
        expect(x + width).toBeLessThanOrEqual(sheet.x + sheet.width + 1e-9)
        expect(y + height).toBeLessThanOrEqual(sheet.y + sheet.height + 1e-9)
      }
    }
  })
})

describe('where things stand', () => {
  it('an add-on board stands over the header, the next one over it, and a riser lifts both', () => {
    const plan = planOf('forty-classic', { low: 'audio-add-on', high: 'ribbon-breakout-40' })
    expect(body(plan, 'low').solid.z).toEqual([SEATED_MM, SEATED_MM + 1.6])
    expect(body(plan, 'high').solid.z[0]).toBeCloseTo(2 * SEATED_MM + 1.6, 9)
    const lifted = built(plan, { places: { low: { on: 'board', liftMm: 8 } } })
    expect(body(lifted, 'low').solid.z[0]).toBe(SEATED_MM + 8)
    expect(body(lifted, 'high').solid.z[0]).toBeCloseTo(2 * SEATED_MM + 9.6, 9)
  })

  it('a shifted board lies as many columns further', () => {
    const at = (shift: string) =>
      body(planOf('forty-classic', { lamps: ['lamps-add-on-3', { shift }] }), 'lamps').solid.x[0]
    expect(at('3') - at('0')).toBeCloseTo(3 * 2.54, 9)
  })

  it('a wire stands on what covers its position, else on the header', () => {
    const places = { 'led.a': { position: 11 } }
    const terminal = catalogue.parts.get('led-plain')!.signals[0]!.id
    const plan = planOf('forty-classic', { led: 'led-plain' },
      { assignments: { [`led.${terminal}`]: places['led.a'] } })
    expect(body(plan, '@wire.11').solid.z[0]).toBe(2.5)
    const covered = planOf('forty-classic', { led: 'led-plain', audio: 'audio-add-on' },
      { assignments: plan.assignments })
    expect(body(covered, '@wire.11').solid.z[0]).toBeCloseTo(SEATED_MM + 1.6 + 2.5, 9)
  })

  it('a stick goes into the socket that the maker chose', () => {
    const plan = planOf('forty-classic', { stick: 'modem-wide-stick' })
    expect(body(plan, 'stick#usb').socket).toBe('usb-1')
    const chosen = built(plan, { places: { stick: { on: 'socket', socket: 'usb-4' } } })
    expect(body(chosen, 'stick#usb').socket).toBe('usb-4')
    expect(body(chosen, 'stick#usb').solid.x[0]).toBe(87.5)
  })

  it('a harness leaves over the far edge and comes to its part without crossing it', () => {
    const way = trunkWay([20, 10], { x: 100, y: 30, width: 40, height: 20 }, 2, -5)
    expect(way.every((point, i) => i === 0 || point[0] === way[i - 1]![0] || point[1] === way[i - 1]![1])).toBe(true)
    expect(way.at(-1)).toEqual([100, 38])
    expect(trunkWay([20, 10], { x: 0, y: 30, width: 40, height: 20 }, 2, -5)[2]).toEqual([-5, 2])
  })
})

describe('what was measured', () => {
  const boxed = planOf('forty-classic', { voice: 'audio-add-on', box: 'case-vented' })
  it('stands in for the file, and says so', () => {
    expect(codesOf(boxed)).not.toContain('room.lid')
    const low = built(boxed, { measured: { box: { lidMm: 20 } } })
    const found = room(low).find(({ code }) => code === 'room.lid')!
    expect(found).toMatchObject({ severity: 'stop', figures: [{ value: 23.6, limit: 20 }] })
    expect(found.figures[0]!.origin).toContain('lid: measured')
    const flat = built(low, { measured: { box: { lidMm: 20 }, voice: { aboveMm: 6 } } })
    expect(codesOf(flat)).not.toContain('room.lid')
    expect(body(flat, 'voice.above').origin).toBe('measured')
  })

  it('a cooler that was measured is judged by it under the lid', () => {
    const plan = planOf('forty-classic', { cool: 'cooler-block', box: 'case-closed' })
    expect(codesOf(plan)).not.toContain('thing.under-lid')
    expect(codesOf(built(plan, { measured: { cool: { aboveMm: 19 } } }))).toContain('thing.under-lid')
    expect(codesOf(built(plan, { measured: { box: { lidMm: 13 } } }))).toContain('thing.under-lid')
  })

  it('what is lacking by less than like things differ is doubted while it is from memory, and certain once '
    + 'it is measured', () => {
    const close = built(boxed, { measured: { box: { lidMm: 23 } } })
    expect(room(close).find(({ code }) => code === 'room.lid')).toMatchObject({ severity: 'caution' })
    const sure = built(boxed, { measured: { box: { lidMm: 23 }, voice: { aboveMm: 11 } } })
    expect(room(sure).find(({ code }) => code === 'room.lid')).toMatchObject({ severity: 'stop' })
  })

  it('a board whose size nobody knows is told of until it is measured', () => {
    const own = { ...catalogue.parts.get('oled-i2c')!, id: 'own-thing', body: undefined }
    const plan = planOf('forty-classic', { thing: 'own-thing' }, { own: { boards: [], parts: [own] } })
    expect(seen(plan).unknown).toEqual([{ partId: 'thing', name: 'thing' }])
    const known = built(plan, { measured: { thing: { widthMm: 30, depthMm: 20, aboveMm: 5 } } })
    expect(seen(known).unknown).toEqual([])
    expect(body(known, 'thing').origin).toBe('measured')
  })
})

describe('room', () => {
  it('a cooler below an add-on board, and a tall board below another one, are in it by as much as the figures say',
    () => {
      const found = room(planOf('forty-classic', { cool: 'cooler-block', voice: 'audio-add-on' }))
        .find(({ code }) => code === 'room.clash')!
      // 14 mm of cooler, 11 mm less 2 mm of joints below the board.
      expect(found).toMatchObject({ severity: 'stop', figures: [{ value: -5 }] })
      expect(found.fixes.map(({ label }) => label))
        .toEqual(['Take Small heat sinks, glued on', 'Lift voice by a riser of 6 mm'])
    })

  it('a fan under the lid meets what stands there, and lies beside the board after the way out', () => {
    const left = planOf('forty-classic', { fan: 'fan-5v', cool: 'cooler-block', box: 'case-closed' })
    // Nobody said that it hangs there: it lies beside the board. With room for it, it hangs under the lid.
    expect(body(left, 'fan').laid).toBe(true)
    expect(body(planOf('forty-classic', { fan: 'fan-5v', cool: 'cooler-block', box: 'case-vented' }), 'fan').solid.z)
      .toEqual([18, 26])
    const plan = built(left, { places: { fan: { on: 'lid' } } })
    const found = room(plan).find(({ code }) => code === 'room.clash')!
    expect(found.subjects.map(({ partId }) => partId).sort()).toEqual(['cool', 'fan'])
    expect(codesOf(applyEdit(plan, { edit: 'all', edits: found.fixes[0]!.edits }).plan)).not.toContain('room.clash')
  })

  it('a cooler with blades wants air, a flat-cable panel a hole', () => {
    const breath = planOf('forty-io-bridge', { cool: 'cooler-active', box: 'case-vented' })
    expect(room(breath).find(({ code }) => code === 'room.air')).toMatchObject({ figures: [{ value: 4, limit: 5 }] })
    expect(codesOf(planOf('forty-classic', { panel: 'panel-flat-7', box: 'case-closed' }))).toContain('room.no-opening')
    expect(codesOf(planOf('forty-classic',
      { panel: 'panel-flat-7', box: 'case-tall' }))).not.toContain('room.no-opening')
  })

  it('a board that hangs lower than its spacers leave gets higher ones', () => {
    const plan = built(planOf('forty-classic', {}), {
      mount: { thread: 'M2.5', plateMm: 3, underMm: 0, washers: false }, measured: { '@board': { belowMm: 9.2 } },
    })
    const found = room(plan).find(({ code }) => code === 'room.clash')!
    expect(found).toMatchObject({ severity: 'stop', figures: [{ value: -2.2 }] })
    expect(found.sentence).toContain('Take higher spacers')
    expect(found.fixes.map(({ label }) => label)).toEqual(['Spacers of 11 mm'])
    expect(room(applyEdit(plan, { edit: 'all', edits: found.fixes[0]!.edits }).plan)).toEqual([])
  })

  it('a lower cooler is named only where there is one', () => {
    expect(room(planOf('forty-classic',
      { a: 'relay-add-on-3', b: 'relay-add-on-3' }))[0]!.sentence).not.toContain('cooler')
    expect(room(planOf('forty-classic', { cool: 'cooler-block', a: 'audio-add-on' }))[0]!.sentence).toContain('cooler')
  })

  it('things that the maker puts into one another clash by what is between them', () => {
    const plan = built(planOf('forty-classic', { a: 'oled-i2c', b: 'light-i2c' }), { places: {
      a: { on: 'table', xMm: 100, yMm: 0 }, b: { on: 'table', xMm: 120, yMm: 5 },
    } })
    const [one, two] = [body(plan, 'a'), body(plan, 'b')]
    const found = room(plan).find(({ code }) => code === 'room.clash')!
    expect(found.figures[0]!.value).toBeCloseTo(gapOf(one.solid, two.solid), 1)
  })
})

describe('every way out of what has no room', () => {
  type Offered = NonNullable<ReturnType<typeof catalogue.parts.get>>
  const ids = (of: (part: Offered) => boolean) => [...catalogue.parts.values()].filter(of)
    .map(({ id }) => id)
  const seats = ids(part => part.seat !== undefined)
  const coolers = ids(part => part.thing?.is === 'cooler')
  const cases = ids(part => part.thing?.is === 'case')

  it.each([...catalogue.boards.keys()])('law, on %s: mends, and brings no stop that was not there', (board) => {
    let tried = 0
    const combined = [
      ...seats.flatMap(seat => coolers.map(cool => ({ seat, cool }))),
      ...seats.flatMap(seat => cases.map(box => ({ seat, box }))),
      ...seats.flatMap(seat => seats.map(two => ({ seat, two }))),
      ...cases.flatMap(box => ['fan-5v', 'panel-flat-7'].map(more => ({ box, more }))),
    ]
    for (const parts of combined as Record<string, string>[]) {
      const plan = planOf(board, parts)
      const before = evaluate(plan, catalogue).findings
      const stops = new Set(before.filter(({ severity }) => severity === 'stop').map(({ code }) => code))
      for (const finding of before.filter(({ code }) => code.startsWith('room.'))) for (const fix of finding.fixes) {
        tried++
        const after = evaluate(applyEdit(plan, { edit: 'all', edits: fix.edits }).plan, catalogue).findings
        const what = `${Object.values(parts).join(' ')}: ${finding.id}: ${fix.label}`
        expect(after.map(({ id }) => id), what).not.toContain(finding.id)
        expect(after.filter(({ severity, code }) => severity === 'stop' && !stops.has(code)).map(({ title }) => title),
          what).toEqual([])
      }
    }
    expect(tried).toBeGreaterThan(0)
  })
})

describe('bodies and labels as tables', () => {
  it('name each body with its edges, and each end of a wire', () => {
    const plan = planOf('forty-classic', { low: 'audio-add-on', screen: 'oled-i2c' }, { assignments: {
      'screen.sda': { position: 3 }, 'screen.scl': { position: 5 }, 'screen.vcc': { position: 17 },
      'screen.gnd': { position: 9 },
    } })
    const facts = gatherFacts(plan, catalogue)
    const { bodies } = bodiesOf(facts)
    const rows = bodiesAsCsv(bodies).trim().split('\r\n')
    expect(rows[0]).toBe('Body,Of,Left (mm),Right,Near,Far,From,To,Sizes from')
    expect(rows).toHaveLength(bodies.length + 1)
    expect(rows.find(row => row.startsWith('low,'))).toBe('low,low,0,65,0,56,11,12.6,memory')
    const { wires } = evaluate(plan, catalogue)
    const labels = labelsAsCsv(wires).trim().split('\r\n').slice(1)
    expect(labels).toHaveLength(2 * wires.filter(({ kind }) => kind === 'wire').length)
    const number = wires.findIndex(({ key }) => key === 'screen.gnd@9') + 1
    expect(labels.filter(row => row.startsWith(`${number},`))).toEqual([
      `${number},screen GND,position 9 (GND)`, `${number},position 9 (GND),screen GND`,
    ])
  })
})

describe('a picture for paper', () => {
  it('holds what is there and new, leaves out what is to come, and takes no name for markup', () => {
    const plan = planOf('forty-classic', { a: 'oled-i2c', b: 'light-i2c' })
    plan.parts[0]!.name = '<b>&'
    const sheet = seenFrom(seen(plan), 'above')
    const text = svgOf(sheet, ({ owner }) => owner === 'b' ? 'later' : owner === 'a' ? 'now' : 'there')
    expect(text).toContain('&lt;b&gt;&amp;')
    expect(text.match(/#9c4a1f/g)).toHaveLength(1)
    expect(text.match(/<rect/g)).toHaveLength(sheet.shapes.filter(({ body: entry }) => entry.owner !== 'b').length)
    const [, , width, height] = /viewBox="([^"]+)"/.exec(text)![1]!.split(' ').map(Number)
    expect([width, height]).toEqual([sheet.width + 8, sheet.height + 8].map(value => Number(value.toFixed(2))))
  })
})

describe('every part that takes room', () => {
  const things = new Set(['case', 'card', 'header', 'adapter', 'tool'])
  it.each([...catalogue.parts.values()].filter(({ thing }) => !things.has(thing?.is ?? ''))
    .map(part => [part.id, part] as const))('%s says how much, and a seat where it is pushed on', (_, part) => {
    expect(part.body).toBeDefined()
    if (part.seat) expect(part.body!.headerAt).toBeDefined()
    // A cooler's height is one figure with two places: over the board, and over the chip that it stands on.
    const height = part.thing?.heightMm
    if (height !== undefined) expect(height - part.body!.aboveMm).toBeCloseTo(height > 6 ? 2 : 1.5, 9)
  })

  it.each([...catalogue.parts.values()].filter(({ thing }) => thing?.is === 'case')
    .map(part => [part.id, part.thing!] as const))(
    '%s has room for the boards that it is made for', (_, thing) => {
      for (const { outline, body: board } of catalogue.boards.values()) if (outline
        && thing.outlines!.includes(outline)) {
        expect(thing.insideMm!.widthMm).toBeGreaterThan(board!.widthMm)
        expect(thing.insideMm!.depthMm).toBeGreaterThan(board!.depthMm)
      }
    })
})

describe('what Voltaris puts somewhere', () => {
  it('law: a part alone is in nothing; a board over a tall socket is, and its way out ends it', () => {
    for (const board of catalogue.boards.keys()) for (const part of catalogue.parts.values()) {
      const plan = planOf(board, { it: part.id })
      // Slots of unlike ways want another cable, wherever the part lies.
      const found = room(plan).filter(({ code }) => code !== 'room.flat')
      if (found.length) expect(part.isAddOn, `${board} ${part.id}: ${found[0]!.title}`).toBe(true)
      for (const finding of found) {
        expect(finding.fixes.length, `${board} ${part.id}`).toBeGreaterThan(0)
        for (const fix of finding.fixes) {
          expect(room(applyEdit(plan, { edit: 'all', edits: fix.edits as Edit[] }).plan),
            `${board} ${part.id} ${fix.label}`).toEqual([])
        }
      }
    }
  })

  it('law: wired by Voltaris, without case, cooler and boards that are pushed on, nothing is in anything', () => {
    const loose = [...catalogue.parts.values()].filter(part => !part.isAddOn && !part.thing).map(({ id }) => id)
    let wired = 0
    fc.assert(fc.property(
      fc.constantFrom(...catalogue.boards.keys()),
      fc.uniqueArray(fc.constantFrom(...loose), { minLength: 2, maxLength: 8 }),
      (board, types) => {
        const plan = planOf(board, Object.fromEntries(types.map((type, i) => [`p${i}`, type])))
        const done = placed(plan) ?? plan
        if (done !== plan) wired++
        expect(room(done).map(({ title }) => title), types.join(' ')).toEqual([])
      }), { numRuns: draws(60), seed: 15 })
    expect(wired).toBeGreaterThan(judgedAtLeast(20))
  })
})
