/**
 * What a maker says in words of their own, sorted into what was seen at which test: "screen stays white", "nothing
 * answers", "reboots when the relay pulls", "the 5 V pin has 4.2 V". What may be meant of several is asked, what says
 * nothing here is told so. English alone.
 */
import { Clause, type Ear, type Guess, type SaidMark } from './clause'
import { marksOf } from './meant'
import { signIn } from './signs'
import { isHalfSaid, misplaced, spelledOut } from './spelled'
import { asSpoken, partsNamed, withTokens, type SpokenSubject } from '../../said/subjects'
import { clausesOf, hasAny, occasionOf, phrasesOf, stemsOf, together } from '../../said/stems'

export type Said
  = | { kind: 'seen', clause: string, mark: SaidMark }
  /** It may be one of these. */
    | { kind: 'which', clause: string, marks: SaidMark[] }
  /** Nothing for the sheet, and yet something to do. */
    | { kind: 'told', clause: string, words: string }
  /** Nothing that is known here. */
    | { kind: 'unknown', clause: string }

type Meaning = Said extends infer Each ? Each extends Said ? Omit<Each, 'clause'> : never : never

/** So many are asked at most. */
const MAX_ASKED = 8

/**
 * Reads a text clause by clause; a clause without a part of its own goes on about that of the one before. Law: every
 * clause is answered, and every mark is at a test of the sheet.
 */
export function readSaid(text: string, ear: Ear): Said[] {
  let before: readonly SpokenSubject[] = []
  const { text: plain, spoken } = withTokens(ear.subjects, text)
  return together(clausesOf(plain), isHalfSaid).map((said) => {
    const occasion = occasionOf(said)
    const about = partsNamed(ear.subjects, stemsOf(occasion.main))
    const clause = new Clause(said, occasion, about, before, ear)
    const meaning = meaningOf(clause)
    before = clause.parts
    return { ...meaning, clause: asSpoken(said, spoken) }
  })
}

const HOT = 'Switch off and draw the plug at once; then feel what is hot with the back of the hand. Before it is '
  + 'switched on again, measure for a short and look for a wire at the wrong place: the first tests of the sheet.'
const levelWords = ({ name, wants }: SpokenSubject) => `${name}, ${wants!.label}, takes ${wants!.volts} V for a high, `
  + 'and the plan gives it the board\'s 3.3 V with nothing between that lifts it: that flickers, or goes well until it '
  + 'is warm. The findings have ways out.'
/** What a system prints, not what somebody sees. */
const SYSTEM = /\berror -?\d+|^\[\s*\d+\.\d+\]|\berrno\b|i\/o error|^\S+@\S+:/i
const PASTE = 'That is what the system prints: paste it as it stands, with its prompt and all its lines, and '
  + 'it is read.'
const WORKS_ANOTHER = phrasesOf('trigger|move|switch|fire|activate|change|show')

function meaningOf(clause: Clause): Meaning {
  const { text, happens, whole, parts } = clause
  if (SYSTEM.test(text)) return { kind: 'told', words: PASTE }
  const told = signIn(happens, whole)
  // Whatever else is said: what burns is switched off first.
  if (told === 'smells' || told === 'hot') return { kind: 'told', words: HOT }
  const spelled = spelledOut(clause)
  if (spelled.length) return oneOf(spelled)
  const wrong = misplaced(clause)
  if (wrong !== null) return { kind: 'told', words: wrong }
  const path = /\/(?:dev|sys|proc)\/[\w/.*-]+/.exec(text)?.[0]
  if (path) return { kind: 'told', words: `The sheet has no ${path}: nothing in the plan brings it.` }
  const isOneForOther = clause.terminals.length > 1 && hasAny(WORKS_ANOTHER, happens) && !happens.includes('and')
  const sign = isOneForOther ? 'instead' : told
  if (sign === null) return { kind: 'unknown' }
  const wanting = sign === 'flickers' ? parts.find(({ wants }) => wants) : undefined
  return wanting ? { kind: 'told', words: levelWords(wanting) } : oneOf(marksOf(clause, sign))
}

function oneOf(guesses: readonly Guess[]): Meaning {
  const isAsked = guesses.some(({ isGuess }) => isGuess)
  const marks = guesses.map(({ isGuess: _, ...mark }): SaidMark => mark)
    .filter((mark, i, all) => all.findIndex(({ words }) => words === mark.words) === i)
  const [first] = marks
  if (!first) return { kind: 'unknown' }
  return marks.length > 1 || isAsked
    ? { kind: 'which', marks: marks.slice(0, MAX_ASKED) }
    : { kind: 'seen', mark: first }
}
