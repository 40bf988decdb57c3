/** Tells a board by what one sees on it. Each board's file carries its `signs`: question → answer. */
import type { Board } from './types'

export interface Question {
  id: string
  text: string
  /** Where to look. */
  hint: string
  answers: readonly { value: string, label: string }[]
}

export const QUESTIONS: readonly Question[] = [
  {
    id: 'power', text: 'Which socket takes the supply?', hint: 'The one beside the lamps, on the long edge.',
    answers: [{ value: 'micro-usb', label: 'micro-USB, with two slanted corners' },
      { value: 'usb-c', label: 'USB-C, oval' }],
  },
  {
    id: 'header', text: 'What does the header look like?', hint: 'Two rows along one edge.',
    answers: [
      { value: 'twenty-six', label: 'two rows of thirteen pins' },
      { value: 'forty-soldered', label: 'two rows of twenty pins' },
      { value: 'forty-holes', label: 'two rows of twenty empty holes' },
    ],
  },
  {
    id: 'video', text: 'Which video sockets are there?', hint: 'On the same edge as the supply.',
    answers: [
      { value: 'one-full', label: 'one of full size' }, { value: 'one-mini', label: 'one small one' },
      { value: 'two-small', label: 'two small ones' },
    ],
  },
  {
    id: 'network', text: 'Is there a network socket?', hint: 'A square socket with two lamps.',
    answers: [{ value: 'socket', label: 'yes' }, { value: 'none', label: 'no' }],
  },
  {
    id: 'connectors', text: 'Which flat-cable sockets are there?',
    hint: 'Thin sockets with a bar that lifts or a flap.',
    answers: [
      { value: 'camera-and-display', label: 'two wide ones, one for a camera and one for a display' },
      { value: 'camera-only', label: 'one narrow one at the end' },
      { value: 'two-combined-and-fan', label: 'two small ones side by side, and a fan socket with four pins' },
    ],
  },
]

/** Boards that agree with every answer given; a board whose file says nothing to a question is not ruled out by it. */
export function boardsMatching(answers: Readonly<Record<string, string>>, boards: Iterable<Board>): Board[] {
  return [...boards].filter(board => Object.entries(answers)
    .every(([question, answer]) => board.signs[question] === undefined || board.signs[question] === answer))
}

/** The question not yet answered that tells the boards left apart best; null when none does. */
export function nextQuestion(answers: Readonly<Record<string, string>>, boards: Iterable<Board>): Question | null {
  const left = boardsMatching(answers, boards)
  if (left.length < 2) return null
  const largestGroup = (question: Question) => {
    const sizes = new Map<string, number>()
    for (const board of left) sizes.set(board.signs[question.id] ?? '',
      (sizes.get(board.signs[question.id] ?? '') ?? 0) + 1)
    return Math.max(...sizes.values())
  }
  const open = QUESTIONS.filter(question => !(question.id in answers))
    .map(question => ({ question, rest: largestGroup(question) }))
    .filter(({ rest }) => rest < left.length)
  return open.sort((a, b) => a.rest - b.rest)[0]?.question ?? null
}
