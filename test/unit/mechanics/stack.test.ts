/**
 * Boards that are pushed on, on spacers: lengths by ISO 7045, thread and diameters by ISO 261; what holds
 * is common practice.
 */
import { describe, expect, it } from 'vitest'
import { gatherFacts } from '../../../core/facts/gather'
import { buildOf } from '../../../core/construction/steps'
import { wiresOf } from '../../../core/construction/wires'
import { evaluate } from '../../../core/evaluate'
import { assemblyOf } from '../../../core/mechanics/assembly'
import { BOARD_MM, mountAnswer, SERIES, SPACERS_MM, type Mount } from '../../../core/mechanics/fasteners'
import { fastenersOf, seatsOf, stackOnSpacers } from '../../../core/mechanics/stack'
import { netlistOf } from '../../../core/netlist/build'
import { powerOf } from '../../../core/power/report'
import { applyEdit, type Edit } from '../../../core/plan/edits'
import type { Plan } from '../../../core/plan/types'
import { catalogue, EMPTY_BUILD, findingsOf, planOf } from '../../plans'

const ADD_ONS = ['audio-add-on', 'audio-dac-add-on', 'power-add-on-battery', 'relay-add-on-3', 'clock-add-on',
  'sensor-add-on-10']
const BOARDS = [...catalogue.boards.keys()]
const MOUNTS: (Mount | null)[] = [
  null, { thread: 'M2.5', plateMm: 3, underMm: 3, washers: false },
  { thread: 'M2.5', plateMm: 2, underMm: 6, washers: true },
  { thread: 'M3', plateMm: 3, underMm: 3, washers: false },
]

function stacked(board: string, types: readonly string[], mount: Mount | null = null,
  lifts: Record<string, number> = {}): Plan {
  const parts = Object.fromEntries(types.map((type, i) => [`p${i}`, type]))
  const places = Object.fromEntries(Object.entries(lifts).map(([id, liftMm]) => [id, { on: 'board' as const, liftMm }]))
  const build = { ...EMPTY_BUILD, done: [], wires: {}, spacers: true, places, ...mount && { mount } } as Plan['build']
  return planOf(board, parts, { build })
}
const factsOf = (plan: Plan) => gatherFacts(plan, catalogue)
const pairs = ADD_ONS.flatMap(low => [[low], ...ADD_ONS.filter(high => high !== low).map(high => [low, high])])
const all = BOARDS.flatMap(board => pairs.flatMap(types => MOUNTS.map(mount => stacked(board, types, mount))))

describe('boards that are pushed on, on spacers', () => {
  it('one of full size: four spacers of 11 mm, four screws from below, four from above', () => {
    expect(fastenersOf(factsOf(stacked('forty-usb-c', ['audio-add-on'])))).toEqual([
      { what: 'Spacer, M2.5, thread at both ends, 11 mm', count: 4 }, { what: 'Screw, pan head, M2.5 × 5', count: 8 },
    ])
  })

  it('on a plate their studs go through the board, in place of its screws', () => {
    const mount: Mount = { thread: 'M2.5', plateMm: 3, underMm: 3, washers: false }
    const { topMm, bottomMm, spacerMm } = mountAnswer(mount)
    const items = fastenersOf(factsOf(stacked('forty-usb-c', ['audio-add-on'], mount)))
    expect(items).toContainEqual({ what: 'Spacer, M2.5, stud of 5 mm and thread, 11 mm', count: 4 })
    expect(items).toContainEqual({ what: `Spacer, M2.5, thread at both ends, ${spacerMm} mm`, count: 4 })
    // Four from below through the plate, four from above through the add-on board: none through the board itself.
    const screws = items.filter(({ what }) => what.startsWith('Screw')).reduce((sum, { count }) => sum + count, 0)
    expect([topMm, bottomMm, screws]).toEqual([5, bottomMm, 8])
  })

  it('with washers: those of the screws that studs take the place of are not bought', () => {
    const mount: Mount = { thread: 'M2.5', plateMm: 3, underMm: 3, washers: true }
    const count = (plan: Plan) => fastenersOf(factsOf(plan)).find(({ what }) => what.startsWith('Washer'))!.count
    expect(count(stacked('forty-usb-c', ['audio-add-on'], mount))).toBe(4)
    expect(count(stacked('forty-usb-c', ['clock-add-on'], mount))).toBe(8)
  })

  it('a small board without holes hangs on the header alone', () => {
    expect(fastenersOf(factsOf(stacked('forty-usb-c', ['clock-add-on'])))).toEqual([])
  })

  it('a riser wants a higher spacer; where none is sold washers make it, or it is told', () => {
    const level = (liftMm: number) =>
      stackOnSpacers(factsOf(stacked('forty-usb-c', ['audio-add-on'], null, { p0: liftMm }))).levels[0]!
    expect([level(4).spacerMm, level(4).washers]).toEqual([15, 0])
    expect([level(5).spacerMm, level(5).washers]).toEqual([15, 2])
    expect(level(5.8)).toMatchObject({ spacerMm: null,
      problem: expect.stringContaining('No spacer is sold for the 16.8 mm') })
    expect(findingsOf(stacked('forty-usb-c', ['audio-add-on'], null, { p0: 5.8 }))
      .filter(({ code }) => code === 'build.mount')
      .map(({ title }) => title)).toEqual(['p0 has nothing that holds it on spacers'])
  })

  it('M3 does not go through holes of 2.7 mm, and the way out ends that', () => {
    const plan = stacked('forty-usb-c', ['audio-add-on'], MOUNTS[3]!)
    const told = findingsOf(plan).filter(({ code }) => code === 'build.mount')
    expect(told.map(({ title }) => title)).toEqual(['M3 does not go through the holes of the board'])
    const after = applyEdit(plan, { edit: 'all', edits: told[0]!.fixes[0]!.edits as Edit[] }).plan
    expect(findingsOf(after).filter(({ code }) => code === 'build.mount')).toEqual([])
  })

  it('holes that no thread of the series goes through have no way out, and none is named', () => {
    const shipped = catalogue.boards.get('forty-usb-c')!
    const small = { ...shipped, id: 'mine',
      body: { ...shipped.body!, holes: shipped.body!.holes!.map(hole => ({ ...hole, dMm: 2.2 })) } }
    const plan = stacked('mine', ['clock-add-on'], MOUNTS[1]!)
    const [told] = findingsOf({ ...plan, own: { ...plan.own, boards: [small] } })
      .filter(({ code }) => code === 'build.mount')
    expect(told!.title).toBe('M2.5 does not go through the holes of the board')
    expect([told!.sentence.includes('take M2.5'), told!.fixes]).toEqual([false, []])
  })

  it('law: a spacer reaches over its gap and leaves the socket on its pins; what meets in it has room, and each holds',
    () => {
      let seen = 0
      for (const plan of all) {
        const facts = factsOf(plan)
        const { levels, thread } = stackOnSpacers(facts)
        const seats = seatsOf(facts)
        const { d, washerMm } = SERIES[thread]
        for (const level of levels) {
          if (level.problem !== null) continue
          const seat = seats.find(({ owner }) => owner.id === level.partId)!
          const below = seats.find(({ owner }) => owner.id === level.below)
          const gap = seat.underMm - (below?.faceMm ?? 0)
          const over = level.spacerMm! + level.washers * washerMm - gap
          expect(over).toBeGreaterThanOrEqual(-1e-9)
          expect(over).toBeLessThanOrEqual(1 + 1e-9)
          expect(SPACERS_MM).toContain(level.spacerMm)
          const belowMm = below ? below.owner.part.body!.boardMm! : facts.board!.body!.boardMm ?? BOARD_MM
          const foot = level.screwBelowMm === null ? 0 : level.screwBelowMm - belowMm - level.washers * washerMm
          const next = levels.find(other => other.below === level.partId && other.studMm !== null)
          const topMm = seat.owner.part.body!.boardMm!
          const head = next ? next.studMm! - topMm - next.washers * washerMm : level.screwAboveMm! - topMm
          if (level.screwBelowMm !== null) expect(foot).toBeGreaterThanOrEqual(d - 1e-9)
          expect(head).toBeGreaterThanOrEqual(d - 1e-9)
          expect(foot + head).toBeLessThanOrEqual(level.spacerMm! + 1e-9)
          // One thing holds it below: a stud or a screw.
          expect((level.studMm === null) !== (level.screwBelowMm === null)).toBe(true)
          expect(level.holes.length).toBeGreaterThan(1)
          seen++
        }
      }
      expect(seen).toBeGreaterThan(100)
    })

  it('law: parts list, steps and bodies have the same spacers, and none without them', () => {
    for (const plan of all.filter((_, i) => i % 5 === 0)) {
      const facts = factsOf(plan)
      const { tree } = powerOf(facts)
      const levels = stackOnSpacers(facts).levels.filter(({ problem }) => problem === null)
      const bodies = assemblyOf(facts, tree).bodies.filter(({ kind, owner }) => kind === 'spacer' && owner !== '@plate')
      expect(bodies.length).toBe(levels.reduce((sum, { holes }) => sum + holes.length, 0))
      const listed = evaluate(plan, catalogue).partsList.filter(({ kind }) => kind === 'fastener')
        .map(({ what, count }) => `${count} × ${what}`)
      expect(listed).toEqual(fastenersOf(facts).map(({ what, count }) => `${count} × ${what}`))
      const netlist = netlistOf(facts, tree)
      const { steps } = buildOf(facts, netlist, wiresOf(facts, netlist))
      const said = steps.filter(({ id, how }) => id.startsWith('seat:') && how.some(words => words.includes('Spacer,')))
        .map(({ id }) => id.slice(5))
      expect(said.sort()).toEqual(levels.map(({ partId }) => partId).sort())
      const off = applyEdit(plan, { edit: 'set-spacers', on: false }).plan
      expect(assemblyOf(factsOf(off), tree).bodies.some(({ kind, owner }) => kind === 'spacer' && owner !== '@plate'))
        .toBe(false)
      expect(evaluate(off, catalogue).partsList.filter(({ kind }) => kind === 'fastener')
        .map(({ what, count }) => ({ what, count })))
        .toEqual(plan.build.mount ? mountAnswer(plan.build.mount).items : [])
    }
  })
})
