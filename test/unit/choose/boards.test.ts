/**
 * Which board would carry a plan: laws over generated plans on every board, and two shapes of project worked
 * through by hand.
 */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { against, bestFirst, compared, tryBoard, tryBoards } from '../../../core/choose/boards'
import { evaluate } from '../../../core/evaluate'
import { isOpen } from '../../../core/findings/set-aside'
import { applyEdit } from '../../../core/plan/edits'
import type { Plan } from '../../../core/plan/types'
import { faultsOf, refOf } from '../../checker'
import { anyPlan } from '../../generated'
import { catalogue, planOf } from '../../plans'
import { draws } from '../../random'

const BOARDS = [...catalogue.boards.values()]
const taken = (plan: Plan,
  edits: ReturnType<typeof tryBoard>['edits']) => applyEdit(plan, { edit: 'all', edits: [...edits] })

describe('a board tried on a plan', () => {
  it('law: what is said of it is what the rules say of the plan that taking it makes, and it is taken back whole',
    () => {
      fc.assert(fc.property(fc.nat(1e6), fc.constantFrom(...BOARDS), (seed, board) => {
        const plan = anyPlan(seed, 5)
        const trial = tryBoard(plan, board, catalogue)
        const { plan: after, inverse } = taken(plan, trial.edits)
        expect(after.board).toBe(board.id)
        const report = evaluate(after, catalogue)
        const stops = report.findings.filter(finding => isOpen(finding) && finding.severity === 'stop'
          && finding.stages.some(stage => stage !== 'boot' && stage !== 'bringup')).map(({ title }) => title)
        for (const { title } of trial.stops) expect(stops).toContain(title)
        expect(trial.stops.length > 0).toBe(stops.length > 0)
        expect(trial.carries).toBe(trial.placed && !stops.length)
        if (trial.carries) {
        // Whatever of the maker's is gone is told.
          const gone = plan.parts.filter(part =>
            !after.parts.some(other => other.id === part.id && other.type === part.type))
          for (const { name } of gone) expect(trial.givenUp.some(words => words.startsWith(name))).toBe(true)
          expect(report.findings.map(({ code }) => code)).not.toContain('header.missing')
          expect(report.findings.map(({ code }) => code)).not.toContain('adapter.missing')
        }
        const listed = report.partsList.filter(({ kind }) => kind !== 'wire')
          .reduce((sum, { count, price }) => sum + count * (price ?? 0), 0)
        expect(trial.price.total).toBeCloseTo(listed, 2)
        expect(applyEdit(after, inverse).plan).toEqual(plan)
      }), { numRuns: draws(40) })
    })

  it('law: what it places stands, by the checker that knows nothing of the search', () => {
    for (let seed = 1; seed <= 12; seed++) {
      const plan = anyPlan(seed, 4)
      for (const board of BOARDS) {
        const trial = tryBoard(plan, board, catalogue)
        if (!trial.placed) continue
        const { plan: after } = taken(plan, trial.edits)
        const places = Object.fromEntries(Object.entries(after.assignments)
          .map(([key, assignment]) => [key, refOf(assignment)]))
        expect(faultsOf(after, places, true), `${seed} ${board.id}`).toEqual([])
      }
    }
  })
})

describe('all boards together', () => {
  it('law: every board is there once, those that carry it first, and what stops it everywhere speaks against none',
    () => {
      fc.assert(fc.property(fc.nat(1e6), (seed) => {
        const trials = tryBoards(anyPlan(seed, 4), catalogue)
        expect(new Set(trials.map(({ boardId }) => boardId)).size).toBe(BOARDS.length)
        expect(trials.map(({ carries }) => carries))
          .toEqual([...trials.map(({ carries }) => carries)].sort((a, b) => Number(b) - Number(a)))
        for (const trial of trials) {
          expect(trial.against.some(title => trial.everywhere.includes(title))).toBe(false)
          if (trial.carries) expect(trial.against).toEqual([])
          else expect(trial.against.length).toBeGreaterThan(0)
        }
        expect(bestFirst([...trials].reverse())).toEqual(trials)
      }), { numRuns: 6 })
    })

  it('tells after each, and whoever waits may leave', () => {
    const seen: number[] = []
    expect(() => tryBoards(planOf(null, { screen: 'oled-i2c' }), catalogue, (_, done, of) => {
      seen.push(done)
      expect(of).toBe(BOARDS.length)
      if (done === 2) throw new Error('left')
    })).toThrow('left')
    expect(seen).toEqual([1, 2])
  })

  it('a single board has nothing that stops it everywhere', () => {
    const trial = tryBoard(planOf('forty-classic', { relay: 'relay-bare' }), BOARDS[0]!, catalogue)
    expect(compared([trial])[0]!.everywhere).toEqual([])
  })
})

describe('worked through', () => {
  // A tiny board that wants a header and adapters, against a dearer one that wants none: prices are the catalogue's,
  // made up.
  it('a screen and a keyboard: the tiny board wants pins and an adapter, and is cheaper all the same', () => {
    const trials = tryBoards(planOf(null, { screen: 'oled-i2c', keys: 'keyboard-usb' },
      { supply: { type: 'adapter-5v-2a4' } }), catalogue)
    const [tiny, classic] = ['tiny-unpopulated', 'forty-classic'].map(id =>
      trials.find(({ boardId }) => boardId === id)!)
    expect(tiny!.added.map(({ type }) => type).sort()).toEqual(['adapter-usb-micro', 'header-forty'])
    expect(classic!.added).toEqual([])
    expect(tiny!.carries && classic!.carries).toBe(true)
    // Boards 16 and 38, pins 2, adapter 3; the rest is the same on both but for the supply.
    const supply = (trial: typeof tiny) => catalogue.supplies.get(trial!.supply!.type)!.price ?? 0
    expect(classic!.price.total - supply(classic) - (tiny!.price.total - supply(tiny))).toBeCloseTo(38 - 16 - 2 - 3, 6)
    expect(against(tiny!, classic!))
      .toMatch(/cheaper.*3 USB sockets less free.*wants Header, two rows of twenty pins and Adapter, micro-USB/)
  })

  it('an early board has no position 29: what was fixed there is said to be given up, and placed elsewhere', () => {
    const terminal = `lamp.${catalogue.parts.get('led-plain')!.signals[0]!.id}`
    const given: Plan = { ...planOf('forty-classic', { lamp: 'led-plain' }),
      assignments: { [terminal]: { position: 29, fixed: true } } }
    const trial = tryBoard(given, catalogue.boards.get('early-26')!, catalogue)
    expect(trial.givenUp[0]).toContain('position 29')
    expect(trial.placed).toBe(true)
  })

  it('a battery stays, whatever the board asks of it', () => {
    const plan = { ...planOf('forty-classic', { screen: 'oled-i2c' }), supply: { type: 'cell-lithium-1' } } as Plan
    for (const board of BOARDS) expect(tryBoard(plan, board, catalogue).supply?.type).toBe('cell-lithium-1')
  })
})
