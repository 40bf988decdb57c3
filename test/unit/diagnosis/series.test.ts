/** Lessons of the trainer: laws over demos and drawn plans. */
import { describe, expect, it } from 'vitest'
import { lessonKey, nextOf, passedOf, PASSES, seriesOf, type Played } from '../../../core/diagnosis/series'
import { modelOf } from '../../../core/diagnosis/table'
import { exercisesOf, GRADES } from '../../../core/diagnosis/trainer'
import { gatherFacts } from '../../../core/facts/gather'
import { demoPlans } from '../../../demo'
import { placedPlans } from '../../generated'
import { catalogue } from '../../plans'

const tables = [...demoPlans, ...placedPlans(6, 7300)].map(plan => modelOf(gatherFacts(plan, catalogue)).table)

describe('the series of a plan', () => {
  it('law: each exercise is one of the plan\'s, once in its lesson, and none is easier than the one before', () => {
    for (const table of tables) {
      const rows = new Map(exercisesOf(table).map(entry => [entry.row, entry]))
      for (const { exercises } of seriesOf(table)) {
        expect(exercises.length).toBeGreaterThan(0)
        expect(new Set(exercises.map(({ row }) => row)).size).toBe(exercises.length)
        for (const exercise of exercises) expect(rows.get(exercise.row)).toEqual(exercise)
        const grades = exercises.map(({ grade }) => GRADES.indexOf(grade))
        expect(grades).toEqual([...grades].sort((a, b) => a - b))
      }
    }
  })

  it('no title gives away what is hidden', () => {
    for (const table of tables) for (const { title, exercises } of seriesOf(table)) {
      for (const { row } of exercises) expect(table.faults[row]!.title.toLowerCase()).not.toContain(title.toLowerCase())
      expect(title).not.toMatch(/swap|strap|console|missing|position|filter|dead|broken/i)
    }
  })

  it('the demos together teach every usual mistake', () => {
    const kinds = new Set(tables.slice(0, 3).flatMap(table => seriesOf(table)
      .flatMap(({ exercises }) => exercises.map(({ row }) => table.faults[row]!.id.split(':')[0]!))))
    for (const kind of [
      'supply', 'open', 'at', 'swap', 'line', 'hidden', 'figure', 'strap', 'dead', 'rate', 'console', 'ground', 'card',
      'image', 'bridge',
      'short',
    ]) expect([...kinds]).toContain(kind)
  })
})

describe('how far somebody is', () => {
  const [series] = tables.map(seriesOf)
  const first = series![0]!
  const found = (nth: number, score = PASSES,
    helped = false): Played => ({ lesson: lessonKey(first, nth), score, helped })

  it('goes by what was found without help, whatever else was played', () => {
    expect(nextOf(series!, [])).toEqual({ lesson: first, nth: 0 })
    expect(nextOf(series!, [found(0, PASSES - 1), found(0, 100, true), { score: 100, helped: false }]))
      .toEqual({ lesson: first, nth: 0 })
    expect(nextOf(series!, [found(0)])).toEqual(first.exercises.length > 1
      ? { lesson: first, nth: 1 }
      : { lesson: series![1], nth: 0 })
    expect(passedOf(first, [found(0), found(0)])).toBe(1)
  })

  it('ends when all were found', () => {
    const all = series!.flatMap(lesson => lesson.exercises.map((_, nth): Played => ({
      lesson: lessonKey(lesson, nth), score: 100, helped: false,
    })))
    expect(nextOf(series!, all)).toBeNull()
    expect(nextOf(series!, all.slice(0, -1))).toMatchObject({ lesson: { id: series!.at(-1)!.id } })
  })
})
