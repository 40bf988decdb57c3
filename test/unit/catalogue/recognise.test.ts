import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ownCopyOf } from '../../../core/catalogue/own'
import { readOwn } from '../../../core/catalogue/own-read'
import { displayTable } from '../../../core/signals/displays'
import { boardsMatching, nextQuestion, QUESTIONS } from '../../../core/catalogue/recognise'
import { evaluate } from '../../../core/evaluate'
import { readPlan } from '../../../core/plan/read'
import { catalogue, codesOf, planOf } from '../../plans'

const boards = [...catalogue.boards.values()]

describe('telling a board by what one sees', () => {
  it('finds every board by answering truly, in at most three questions', () => {
    for (const board of boards) {
      const answers: Record<string, string> = {}
      let asked = 0
      for (let question = nextQuestion(answers, boards); question; question = nextQuestion(answers, boards)) {
        answers[question.id] = board.signs[question.id]!
        asked++
      }
      expect(boardsMatching(answers, boards).map(entry => entry.id)).toEqual([board.id])
      expect(asked).toBeLessThanOrEqual(3)
    }
  })

  it('knows every sign that a board file gives', () => {
    for (const board of boards) {
      for (const [id, answer] of Object.entries(board.signs)) {
        expect(QUESTIONS.find(question => question.id === id)?.answers.map(entry => entry.value), `${board.id} ${id}`)
          .toContain(answer)
      }
    }
  })

  it('asks no question twice, and says none is left when nothing fits', () => {
    fc.assert(fc.property(fc.record(
      Object.fromEntries(QUESTIONS.map(question =>
        [question.id, fc.constantFrom(...question.answers.map(answer => answer.value))])),
      { requiredKeys: [] },
    ), (answers) => {
      const question = nextQuestion(answers as Record<string, string>, boards)
      if (question) expect(question.id in answers).toBe(false)
      else expect(boardsMatching(answers as Record<string, string>, boards).length < 2
        || QUESTIONS.every(entry =>
          entry.id in answers
          || new Set(boardsMatching(answers as Record<string, string>, boards)
            .map(board => board.signs[entry.id])).size < 2)).toBe(true)
    }))
  })
})

describe('parts and boards of one\'s own', () => {
  it('read back what was copied from any shipped one', () => {
    for (const entry of [...boards, ...catalogue.parts.values()]) {
      const copy = ownCopyOf(entry, new Set(catalogue.parts.keys()))
      expect(readOwn(JSON.stringify(copy)), entry.id)
        .toEqual({ ok: true, kind: 'header' in entry ? 'board' : 'part', entry: copy })
    }
  })

  it('take a free id', () => {
    expect(ownCopyOf({ id: 'a', name: 'A' }, new Set(['own-a', 'own-a-2'])).id).toBe('own-a-3')
  })

  it('are refused with the path of what is wrong', () => {
    const led = structuredClone(catalogue.parts.get('led-plain')!) as unknown as Record<string, unknown>
    const wrong = (change: Record<string, unknown>) => {
      const read = readOwn(JSON.stringify({ ...led, ...change }))
      return read.ok ? [] : read.problems.map(problem => problem.path)
    }
    expect(wrong({ group: 'cooking' })).toEqual(['group'])
    expect(wrong({ colour: 'red' })).toEqual(['colour'])
    expect(wrong({ serial: { baud: 9600, frame: '8N1', baudOption: 'rate' } })).toEqual(['serial.baudOption'])
    expect(wrong({ signals: [{ id: 'a', label: 'A', role: 'line', direction: 'in', repeat: 'n' }] }))
      .toEqual(['signals[0].repeat'])
    expect(readOwn('{').ok).toBe(false)
    expect(readOwn('[]').ok).toBe(false)
  })

  it('never throw, whatever is read', () => {
    fc.assert(fc.property(fc.json(), (text) => {
      expect(typeof readOwn(text).ok).toBe('boolean')
    }))
  })

  it('stand in the plan and are judged like shipped ones, and are checked with it', () => {
    const own = ownCopyOf(catalogue.parts.get('distance-echo-5v')!, new Set())
    const plan = planOf('forty-classic', { d: own.id },
      { own: { boards: [], parts: [own] }, assignments: { 'd.echo': { position: 16 } } })
    expect(codesOf(plan)).toContain('level.too-high')
    expect(codesOf({ ...plan, own: { boards: [], parts: [] } })).toContain('catalogue.unknown')
    const read = readPlan({ ...plan, own: { boards: [], parts: [{ ...own, group: 'cooking' }] } })
    expect(read.ok ? [] : read.problems.map(problem => problem.path)).toEqual(['own.parts[0].group'])
    const board = ownCopyOf(catalogue.boards.get('early-26')!, new Set())
    expect(evaluate(planOf(board.id, { d: 'led-plain' }, { own: { boards: [board], parts: [] } }),
      catalogue).lines.available).toBe(17)
  })
})

describe('displays side by side', () => {
  const rows = displayTable(catalogue.parts.values(), catalogue.boards.get('forty-classic')!)

  it('give size, touch, paths, positions, current and pictures a second of each', () => {
    expect(rows.length).toBeGreaterThanOrEqual(7)
    // arithmetic: 320 × 240 × 16 bits at 31.25 MHz (250 ÷ 8) and 240 × 240 at 62.5 MHz
    expect(rows.find(row => row.partId === 'screen-spi-24')!.framesPerS).toBeCloseTo(25.4, 1)
    expect(rows.find(row => row.partId === 'screen-spi-13')!.framesPerS).toBeCloseTo(67.8, 1)
    expect(rows.find(row => row.partId === 'panel-video-7'))
      .toMatchObject({ positions: 0, touchBy: 'USB', picture: 'video' })
    expect(rows.find(row => row.partId === 'panel-video-5')!.touch).toContain('stylus')
  })

  it('without a board run the bus at the part\'s own limit', () => {
    // arithmetic: 32 MHz ÷ (320 · 240 · 16) = 26.0
    expect(displayTable(catalogue.parts.values(), null).find(row => row.partId === 'screen-spi-24')!.framesPerS)
      .toBeCloseTo(26.0, 1)
  })
})
