/** Cables as bodies, how far they reach, threads of panels, films and pads, and the ways of cables on the sheet. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { stepsOf } from '../../../core/construction/from-facts'
import { evaluate } from '../../../core/evaluate'
import { gatherFacts } from '../../../core/facts/gather'
import { BOARD_MM, mountAnswer, SERIES, STUDS_MM, type BlindThread,
  type Thread } from '../../../core/mechanics/fasteners'
import { FLAT_LENGTHS_MM } from '../../../core/mechanics/flat-cable'
import { flatCablesOf } from '../../../core/mechanics/flat-cables'
import { bodiesOf } from '../../../core/mechanics/from-facts'
import { fixingsOf, groundsOf, mountOf } from '../../../core/mechanics/panel'
import { runsOf, runOf, withLanes } from '../../../core/mechanics/runs'
import { seenFrom } from '../../../core/mechanics/seen'
import { gapOf, length, middle } from '../../../core/mechanics/solids'
import { fastenersOf } from '../../../core/mechanics/stack'
import { applyEdit, type Edit } from '../../../core/plan/edits'
import type { Plan } from '../../../core/plan/types'
import { placed, placedPlans } from '../../generated'
import { catalogue, findingsOf, planOf } from '../../plans'
import { draws, judgedAtLeast } from '../../random'

const factsOf = (plan: Plan) => gatherFacts(plan, catalogue)
const bodies = (plan: Plan) => bodiesOf(factsOf(plan)).bodies
const built = (plan: Plan, build: Partial<Plan['build']>): Plan => ({ ...plan, build: { ...plan.build, ...build } })
const after = (plan: Plan,
  fix: { edits: readonly Edit[] }) => applyEdit(plan, { edit: 'all', edits: [...fix.edits] }).plan
const told = (plan: Plan, code: string) => findingsOf(plan).filter(finding => finding.code === code)
const stops = (plan: Plan) => findingsOf(plan).filter(({ severity }) => severity === 'stop').map(({ id }) => id).sort()
const BOARDS = [...catalogue.boards.keys()]

describe('a cable where it leaves the board', () => {
  it.each(BOARDS)('on %s: a plug has its stiff stretch behind it, four times its thickness and once more; a '
    + 'stick has none', (board) => {
    const plan = planOf(board, { keys: 'keyboard-usb', stick: 'modem-wide-stick' })
    const all = bodies(plan)
    expect(all.some(({ id }) => id === 'stick#usb.turn')).toBe(false)
    const plug = all.find(({ id }) => id === 'keys#usb')
    const turn = all.find(({ id }) => id === 'keys#usb.turn')
    expect(turn === undefined).toBe(plug === undefined)
    if (!turn || !plug) return
    const sizes = [length(turn.solid.x), length(turn.solid.y), length(turn.solid.z)].sort((a, b) => a - b)
    expect(sizes[2]).toBeCloseTo(5 * sizes[0]!, 9)
    expect(gapOf(turn.solid, plug.solid)).toBeCloseTo(0, 9)
  })

  it('a thing that was put where it has to turn is told of, and lies beside the board after the way out', () => {
    const plan = planOf('forty-classic', { keys: 'keyboard-usb', relay: 'relay-board-1' })
    const { solid } = bodies(plan).find(({ id }) => id === 'keys#usb.turn')!
    const put = built(plan, { places: { relay: { on: 'table', xMm: solid.x[1] - 5, yMm: middle(solid.y) - 5 } } })
    const high = built(put, { measured: { relay: { aboveMm: 30 } } })
    const [found] = told(high, 'room.clash').filter(({ id }) => id.includes('keys'))
    expect(found!.title).toContain('cable of keys')
    expect(found!.fixes.length).toBeGreaterThan(0)
    for (const fix of found!.fixes) expect(told(after(high, fix), 'room.clash').filter(({ id }) => id.includes('keys')))
      .toEqual([])
  })

  it.each(BOARDS.filter(board => catalogue.boards.get(board)!.body!.standing!.some(entry =>
    entry.kind === 'socket' && entry.socket === 'display')))('on %s: a flat cable rises, bends and runs to an edge',
    (board) => {
      const plan = planOf(board, { panel: 'panel-flat-7' })
      const { widthMm, depthMm } = catalogue.boards.get(board)!.body!
      const all = bodies(plan)
      const rise = all.find(({ id }) => id === 'panel.flat.rise')!
      const run = all.find(({ id }) => id === 'panel.flat')!
      const slot = all.find(({ id }) => id === run.slot)!
      expect(rise.solid.z[0]).toBe(slot.solid.z[1])
      expect(run.solid.z[0]).toBe(rise.solid.z[1])
      const { x, y } = run.solid
      expect([x[0] <= 0, x[1] >= widthMm, y[0] <= 0, y[1] >= depthMm].filter(Boolean)).toHaveLength(1)
      const under = built(planOf(board, { panel: 'panel-flat-7', voice: 'audio-add-on' }), {})
      for (const finding of findingsOf(under)
        .filter(({ code, id }) => code.startsWith('room.c') && id.includes('panel'))) {
        expect(finding.fixes.length).toBeGreaterThan(0)
        for (const fix of finding.fixes) expect(findingsOf(after(under, fix))
          .map(({ id }) => id)).not.toContain(finding.id)
      }
    })

  it('its own step comes before a board over its slot, and its wires after it', () => {
    const plan = placed(planOf('forty-classic', { panel: 'panel-flat-7', clock: 'clock-add-on' }))!
    const ids = stepsOf(factsOf(plan)).steps.map(({ id }) => id)
    const at = (id: string) => ids.indexOf(id)
    expect(at('flat:panel')).toBeGreaterThan(-1)
    expect(at('flat:panel')).toBeLessThan(at('seat:clock'))
    expect(at('seat:clock')).toBeLessThan(at('part:panel'))
  })

  it('law: every part that lies where it was said is reached, or told of with ways out that end it and bring no stop',
    () => {
      const loose = [...catalogue.parts.values()].filter(part => !part.isAddOn && !part.thing && part.body)
        .map(({ id }) => id)
      let found = 0
      fc.assert(fc.property(fc.constantFrom(...BOARDS), fc.constantFrom(...loose), fc.integer({ min: -900, max: 900 }),
        fc.integer({ min: -900, max: 900 }), (board, type, xMm, yMm) => {
          const bare = planOf(board, { it: type })
          const plan = built(placed(bare) ?? bare, { places: { it: { on: 'table', xMm, yMm } } })
          const [finding] = told(plan, 'room.reach')
          const body = bodies(plan).find(({ id }) => id === 'it')
          if (!finding) {
          // Nothing that is told to reach is further away than the longest lead, seen along its straight way from
          // any wire.
            const wires = evaluate(plan,
              catalogue).wires.filter(wire => wire.position !== undefined && wire.kind === 'wire'
                && !wire.shared && wire.partId === 'it')
            for (const wire of wires) {
              const start = bodies(plan).find(({ id }) => id === `@wire.${wire.position}`)
              if (!start || !body || !['part', 'fan'].includes(body.kind)) continue
              // From the middle of the housing's mouth to the box, by clamping.
              const from = [middle(start.solid.x), middle(start.solid.y), start.solid.z[1]]
              const axes = [body.solid.x, body.solid.y, body.solid.z]
              const way = Math.hypot(...from.map((value,
                i) => value - Math.min(Math.max(value, axes[i]![0]), axes[i]![1])))
              expect(way).toBeLessThan(wire.lengthM * 1000 + 3)
            }
            return
          }
          found++
          // What was said of the part itself is not lost with its place.
          const said = built(plan, { places: { it: { ...plan.build.places.it!, clampedMm: 3 } } })
          for (const fix of told(said, 'room.reach')[0]!.fixes) expect(after(said, fix).build.places.it?.clampedMm)
            .toBe(3)
          for (const fix of finding.fixes) {
            const next = after(plan, fix)
            expect(told(next, 'room.reach'), fix.label).toEqual([])
            expect(stops(next).filter(id => !stops(plan).includes(id)), fix.label).toEqual([])
          }
        }), { numRuns: draws(60) })
      expect(found).toBeGreaterThan(10)
    })
})

describe('which flat cable', () => {
  it('of the plan: same contacts where both slots are described, and the way round at each end', () => {
    const plan = planOf('forty-usb-c', { panel: 'panel-flat-7' })
    const [cable] = flatCablesOf(factsOf(plan), bodies(plan))
    expect(cable).toMatchObject({ isLoose: true, answer: { fits: true, straight: true, lengthMm: null } })
    expect(stepsOf(factsOf(plan)).steps.flatMap(({ how }) => how).join(' '))
      .toContain('At the board the bare contacts look to the right')
    const lying = built(plan, { places: { panel: { on: 'table', xMm: -300, yMm: -20 } } })
    const [far] = flatCablesOf(factsOf(lying), bodies(lying))
    expect(far!.apartMm).toBeGreaterThan(100)
    expect(FLAT_LENGTHS_MM).toContain(far!.answer.lengthMm)
    expect(far!.answer.lengthMm!).toBeGreaterThan(far!.apartMm)
  })

  it('slots of unlike ways, and a panel that lies at a right angle, are told of', () => {
    expect(told(planOf('forty-io-bridge', { panel: 'panel-flat-7' }), 'room.flat')[0]!.sentence)
      .toContain('22 ways, 0.5 mm apart')
    const turned = built(planOf('forty-usb-c', { panel: 'panel-flat-7' }), {
      places: { panel: { on: 'table', xMm: 120, yMm: 0, turned: true } },
    })
    const [found] = told(turned, 'room.flat')
    expect(found!.sentence).toContain('right angle')
    expect(found!.figures).toEqual([])
    expect(found!.fixes).toHaveLength(1)
    for (const fix of found!.fixes) expect(told(after(turned, fix), 'room.flat')).toEqual([])
  })
})

describe('threads that end', () => {
  it('law: a stud holds and does not reach the ground, and the board is as high as it has to be, or it is told', () => {
    fc.assert(fc.property(
      fc.constantFrom<Thread>('M2.5', 'M3'), fc.constantFrom<Thread>('M2.5', 'M3'), fc.integer({ min: 5, max: 90 }),
      fc.integer({ min: 0, max: 300 }), fc.boolean(), (thread, into, depth, under, washers) => {
        const ground: BlindThread = { thread: into, depthMm: depth / 10 }
        const { d, washerMm } = SERIES[thread]
        const answer = mountAnswer({ thread, plateMm: 3, underMm: under / 10, washers }, ground)
        const can = thread === into && under / 10 + 1 <= 30 + 2 * washerMm
          && STUDS_MM.some(stud => [0, 1, 2].some(count =>
            stud - count * washerMm >= d - 1e-9 && stud - count * washerMm <= ground.depthMm + 1e-9))
        if (!answer.problems.length) {
          const engaged = answer.studMm! - answer.studWashers! * washerMm
          expect(can).toBe(true)
          expect(engaged).toBeGreaterThanOrEqual(d - 1e-9)
          expect(engaged).toBeLessThanOrEqual(ground.depthMm + 1e-9)
          expect(answer.spacerMm! + answer.studWashers! * washerMm).toBeGreaterThanOrEqual(under / 10 + 1 - 1e-9)
          const held = answer.topMm! - BOARD_MM - (washers ? washerMm : 0)
          expect(held).toBeGreaterThanOrEqual(d - 1e-9)
          expect(held).toBeLessThanOrEqual(answer.spacerMm! + 1e-9)
        }
        else if (can) expect(under / 10 + 1).toBeGreaterThan(30)
      }), { numRuns: draws(400) })
  })

  it('the board stands on the panel whose threads lie as its holes do, and the panel is below it', () => {
    const mount = { thread: 'M2.5' as const, plateMm: 3, underMm: 3, washers: false, onto: 'panel' }
    for (const board of BOARDS) {
      const plan = built(planOf(board, { panel: 'panel-flat-7' }), { mount })
      const facts = factsOf(plan)
      const holes = facts.board!.body!.holes ?? []
      const fits = holes.length === 4
        && Math.abs(Math.max(...holes.map(({ xMm }) => xMm)) - Math.min(...holes.map(({ xMm }) => xMm))
          - 58) < 0.5 && Math.abs(Math.max(...holes.map(({ yMm }) => yMm)) - Math.min(...holes.map(({ yMm }) =>
        yMm)) - 49) < 0.5
      expect(groundsOf(facts).length, board).toBe(Number(fits))
      expect(mountOf(facts)!.ground === null, board).toBe(!fits)
      if (!fits) continue
      const all = bodies(plan)
      const panel = all.find(({ id }) => id === 'panel')!
      for (const spacer of all.filter(({ kind }) =>
        kind === 'spacer')) expect(gapOf(spacer.solid, panel.solid)).toBeCloseTo(0, 9)
      expect(told(plan, 'room.clash')).toEqual([])
      expect(fastenersOf(facts)[0]!.what).toBe('Spacer, M2.5, stud of 5 mm and thread, 5 mm')
      expect(stepsOf(facts).steps.find(({ id }) => id === 'mount')!.title).toBe('Board onto panel')
      // Without the panel it stands on a plate again.
      const gone = applyEdit(plan, { edit: 'remove-part', id: 'panel' } as Edit).plan
      expect(gone.build.mount?.onto).toBeUndefined()
    }
  })

  it('another thread has a way out that ends it', () => {
    const plan = built(planOf('forty-usb-c', { panel: 'panel-flat-7' }), {
      mount: { thread: 'M3', plateMm: 3, underMm: 3, washers: false, onto: 'panel' },
    })
    const found = told(plan, 'build.mount').find(({ id }) => id === 'build.mount')!
    expect(told(after(plan, found.fixes[0]!), 'build.mount')).toEqual([])
  })

  // A check value of the trade: 3 mm on a thread of M3, 6 mm deep. 4 is too short, 6 holds, 12 hits the panel.
  it('what is screwed to a panel: the screw that holds stands in the parts list and in its step', () => {
    const plan = built(planOf('forty-usb-c', { panel: 'panel-flat-7' }),
      { places: { panel: { on: 'table', clampedMm: 3 } } })
    const facts = factsOf(plan)
    expect(fixingsOf(facts)).toMatchObject([{ thread: 'M3', count: 4, depthMm: 6, screwMm: 6 }])
    expect(evaluate(plan, catalogue).partsList)
      .toContainEqual(expect.objectContaining({ what: 'Screw, pan head, M3 × 6', count: 4 }))
    expect(stepsOf(facts).steps.flatMap(({ how }) => how)).toContainEqual(expect.stringContaining('M3 × 6'))
    const thin = built(plan, { places: { panel: { on: 'table', clampedMm: 30 } } })
    expect(told(thin, 'build.mount').map(({ id }) => id)).toEqual(['build.mount panel'])
  })
})

describe('a board on spacers', () => {
  it('that is in a case too is told of, and stands in one of them after the way out', () => {
    const plan = built(planOf('forty-usb-c', { box: 'case-vented' }), {
      mount: { thread: 'M2.5', plateMm: 3, underMm: 3, washers: false },
    })
    const [found] = told(plan, 'build.mount')
    expect(found).toMatchObject({ severity: 'note', subjects: [{ partId: 'box' }] })
    expect(told(after(plan, found!.fixes[0]!), 'build.mount')).toEqual([])
  })

  it('a riser lifts by what is lacking, whatever holds the board that is lifted', () => {
    const bare = planOf('forty-usb-c', { panel: 'panel-flat-7', voice: 'audio-add-on' })
    const riser = (plan: Plan) => told(plan, 'room.clash').flatMap(({ fixes }) => fixes.map(({ label }) => label))
    expect(riser(bare)).toEqual(['Lift voice by a riser of 2 mm'])
    expect(riser(built(bare, { spacers: true }))).toEqual(riser(bare))
  })
})

describe('films and pads', () => {
  it('law: little room over what is below ends with a film, which is listed, laid in the step and drawn', () => {
    const addOns = [...catalogue.parts.values()].filter(part => part.isAddOn && part.body).map(({ id }) => id)
    let found = 0
    for (const board of BOARDS) for (const low of ['cooler-fins', 'cooler-block',
      'panel-flat-7']) for (const type of addOns) {
      const plan = planOf(board, { low, top: type })
      for (const finding of told(plan, 'room.close')) for (const fix of finding.fixes) {
        found++
        const next = after(plan, fix)
        expect(findingsOf(next).map(({ id }) => id)).not.toContain(finding.id)
        expect(stops(next)).toEqual(stops(plan))
        expect(fastenersOf(factsOf(next)).some(({ what }) => what.startsWith('Insulating film'))).toBe(true)
        expect(stepsOf(factsOf(next)).steps.find(({ id }) => id === 'seat:top')!.how[0]).toContain('film')
        expect(bodies(next).filter(({ kind }) => kind === 'film')).toHaveLength(1)
      }
    }
    expect(found).toBeGreaterThan(0)
  })

  it.each([...catalogue.parts.values()].filter(({ thing, body }) => thing?.cooler !== undefined && body))(
    '$id: its pad lies on the chip, within its height', ({ id, thing }) => {
      for (const board of BOARDS) {
        const mine = bodies(planOf(board, { cool: id })).filter(({ owner }) => owner === 'cool')
        const pad = mine.find(body => body.id === 'cool.pad')
        if (!pad) continue
        expect(length(pad.solid.z)).toBeCloseTo(thing!.padMm!, 9)
        expect(Math.min(...mine.map(({ solid }) => solid.z[0]))).toBe(pad.solid.z[0])
        expect(Math.max(...mine.map(({ solid }) => solid.z[1]))).toBeCloseTo(thing!.heightMm!, 9)
      }
    })
})

describe('ways on the sheet', () => {
  it('law: each harness and each cable goes along the axes to the edge of its part, through no part, and '
    + 'stays on the sheet', () => {
    let ways = 0
    for (const plan of placedPlans(30)) {
      const all = bodies(plan)
      const runs = runsOf(all, evaluate(plan, catalogue).wires)
      for (const view of ['above', 'below'] as const) {
        const sheet = withLanes(seenFrom({ bodies: all }, view), runs.length)
        runs.forEach((run, i) => {
          const way = runOf(run, i, runs.length, sheet)!
          ways++
          const to = sheet.shapes.find(({ body }) => body === run.body)!
          expect(way.at(-1)![0]).toBe(to.x)
          way.forEach(([x, y], at) => {
            expect(x).toBeGreaterThanOrEqual(sheet.x - 1e-9)
            expect(y).toBeGreaterThanOrEqual(sheet.y - 1e-9)
            expect(y).toBeLessThanOrEqual(sheet.y + sheet.height + 1e-9)
            if (at === 0) return
            const [px, py] = way[at - 1]!
            expect(px === x || py === y).toBe(true)
            // Sampled along: never inside of its own part.
            for (let k = 1; k < 20; k++) {
              const [sx, sy] = [px! + (x! - px!) * k / 20, py! + (y! - py!) * k / 20]
              expect(sx > to.x + 1e-6 && sx < to.x + to.width && sy > to.y && sy < to.y + to.height).toBe(false)
            }
          })
        })
      }
    }
    expect(ways).toBeGreaterThan(judgedAtLeast(100))
  })
})
