/**
 * Lessons in fault finding: each is about one question, and holds a few hidden faults of the usual mistakes,
 * the easiest first. The title gives none of them away; what it teaches is said when it is done. The order is
 * our own, common practice.
 */
import { exercisesOf, GRADES, type Exercise } from './trainer'
import type { Table } from './types'

export interface Lesson {
  id: string
  title: string
  /** What one knows when all of it was found. */
  teaches: string
  exercises: Exercise[]
}

interface Theme extends Omit<Lesson, 'exercises'> {
  /** Kinds of faults, by how their names begin; one exercise of each, in this order. */
  kinds: readonly RegExp[]
}

const THEMES: readonly Theme[] = [
  {
    id: 'current', title: 'Where does the current stop?',
    kinds: [/^supply:none/, /^short:/, /^open:[^:]*(vcc|vin|5v|3v3|vdd)\b/i],
    teaches: 'Lamps first, then volts from the supply onward: it lies between the last place that has them and the '
      + 'first that lacks them.',
  },
  {
    id: 'start', title: 'Why does it not start?', kinds: [/^card/, /^image/, /^bridge:/],
    teaches: 'Red alone is the card or its image; no lamp is the supply or a short. All is well with a part pulled '
      + 'off: it was that one.',
  },
  {
    id: 'wire', title: 'Which wire is it?', kinds: [/^open:/, /^at:/, /^swap:/],
    teaches: 'One part dead and the others well: its own wires. Measure from end to end with the power off, count from '
      + 'the square pad, and look for the pair that changed places.',
  },
  {
    id: 'file', title: 'Is it the file or the wire?', kinds: [/^line:(?!copy)/, /^hidden:/, /^line:copy/, /^figure:/],
    teaches: 'No device node: the file, its filter, or the copy that nobody reads. The node is there and nobody '
      + 'answers: the wire or the part.',
  },
  {
    id: 'bus', title: 'Who answers, and where?', kinds: [/^strap:/, /^dead:/, /^swap:.*(sda|scl)/i, /^pull:/],
    teaches: 'A scan tells three things: at another address it is the strap, nobody of several is the bus, one of '
      + 'several is that part.',
  },
  {
    id: 'serial', title: 'Signs that make no sense', kinds: [/^rate:/, /^console:/, /^swap:.*(tx|rx)/i],
    teaches: 'Join transmit and receive: what comes back clears port and file. Twice the signs is half the rate; lines '
      + 'that nobody sent are the console.',
  },
  {
    id: 'load', title: 'Well alone, ill together', kinds: [/^supply:weak/, /^supply:cable/, /^ground:/],
    teaches: 'Measure while everything runs, at the header and along the way back: the supply sags there, its cable '
      + 'loses there, a thin ground lifts one part alone.',
  },
  {
    id: 'plug', title: 'It sat well yesterday', kinds: [/^seat:/, /^turned:/, /^bridge:/, /^loose:/],
    teaches: 'A board pushed on one column off and a cable turned over do harm before they tell: look from the side '
      + 'before the power goes in. What stops now and then is moved wire by wire, until it does it again.',
  },
]

/** So many exercises of a kind are looked through for the easiest. */
const easiestFirst = (a: Exercise, b: Exercise) => GRADES.indexOf(a.grade) - GRADES.indexOf(b.grade) || a.row - b.row

/**
 * The lessons that a plan gives, without those of which it has no fault. Law: within a lesson it never becomes easier.
 */
export function seriesOf(table: Table): Lesson[] {
  const all = exercisesOf(table).sort(easiestFirst)
  return THEMES.flatMap(({ kinds, ...theme }): Lesson[] => {
    const taken = new Set<number>()
    const exercises = kinds.flatMap((kind): Exercise[] => {
      const found = all.find(({ row }) => !taken.has(row) && kind.test(table.faults[row]!.id))
      if (found) taken.add(found.row)
      return found ? [found] : []
    }).sort(easiestFirst)
    return exercises.length ? [{ ...theme, exercises }] : []
  })
}

/** From here on an exercise counts as found, of 100. */
export const PASSES = 60

export interface Played { lesson?: string, score: number, helped: boolean }

/** Name by which a result says which exercise of which lesson it was. */
export const lessonKey = (lesson: Pick<Lesson, 'id'>, nth: number): string => `${lesson.id}.${nth}`

/** Whether an exercise was found without help, wherever that was. */
export const passedAt = (lesson: Pick<Lesson, 'id'>, nth: number, results: readonly Played[]): boolean =>
  results.some(({ lesson: key, score, helped }) => key === lessonKey(lesson, nth) && score >= PASSES && !helped)

/** How many exercises of a lesson were found without help, wherever that was. */
export const passedOf = (lesson: Lesson, results: readonly Played[]): number =>
  lesson.exercises.filter((_, nth) => passedAt(lesson, nth, results)).length

/** The first exercise of the series that was not found yet; null when all were. */
export function nextOf(series: readonly Lesson[], results: readonly Played[]): { lesson: Lesson, nth: number } | null {
  for (const lesson of series) {
    const nth = lesson.exercises.findIndex((_, i) => !passedAt(lesson, i, results))
    if (nth >= 0) return { lesson, nth }
  }
  return null
}
