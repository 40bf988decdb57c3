/** What a sign means of the parts that a clause is about, as marks of the sheet. */
import { NO_SHORT, SHORT } from '../../vocabulary/reading'
import { answersAt, DOES, FALTERS, FLICKERS, FOREIGN, GARBAGE, NO_PICTURE, NOTHING, STUCK } from '../names'
import { NOW_AND_THEN } from '../works'
import { given, type Clause, type Guess, type SaidMark } from './clause'
import { positionsIn } from './figures'
import type { Sign } from './signs'
import { rowsOfReading } from './spelled'
import { isOfBoard, partsNamed } from '../../said/subjects'
import { hasAny, isNegated, phrasesOf, stemsOf } from '../../said/stems'

const UNDER_LOAD = 'under-voltage, or it starts anew'
const STARTING = phrasesOf('boot|rainbow|ssh|login|log|panic|kernel|network|bootable')
const VOLTS = phrasesOf('voltage|volts')
const LAMPS = new Set(stemsOf('lamp light led'))
/** Words that go on about what was said before. */
const GOING_ON = phrasesOf('it|they|that|this|both|all')
const THREE = /3\.3\s*v|3v3/i
const FIVE = /(?<![.\d])5\s*v\b/i

/** All that a sign may mean: one mark is what was seen, several are asked. */
export function marksOf(clause: Clause, sign: Exclude<Sign, 'smells' | 'hot'>): Guess[] {
  switch (sign) {
    case 'now and then': return steady(clause)
    case 'under-voltage': return clause.at('load', UNDER_LOAD)
    case 'restarts': return clause.isOfBoard ? clause.at('load', UNDER_LOAD) : orAsk(clause, FALTERS, FLICKERS)
    case 'counted': return clause.at('lamps', 'green in counted flashes')
    case 'red alone': return clause.at('lamps', 'red alone')
    case 'no lamp': return lamps(clause)
    case 'no start': return clause.isOfBoard || hasAny(STARTING, clause.happens)
      ? clause.at('up', 'it does not come')
      : nothing(clause)
    case 'all answer': return clause.rows('scan:').flatMap(row => given(row, STUCK))
    case 'silent bus': return clause.about.length ? nothing(clause) : clause.atAll('scan:', answersAt([]))
    case 'foreign': return isOfPart(clause) ? clause.atWork(FOREIGN) : clause.atAll('works:', FOREIGN)
    case 'garbage': return garbage(clause)
    case 'both': return both(clause)
    case 'instead': return instead(clause)
    case 'swapped': return swapped(clause)
    case 'touching': return touching(clause)
    case 'short': return shorted(clause)
    case 'open': return clause.atWires('through:', 'open')
    case 'no picture': return isOfPart(clause) ? orAsk(clause, NO_PICTURE, NOTHING) : picture(clause)
    case 'flickers': return flickers(clause)
    case 'falters': return orAsk(clause, FALTERS, FLICKERS)
    case 'unlit': return orAsk(clause, NOTHING)
    case 'nothing': return nothing(clause)
    case 'works': return works(clause)
  }
}

/** A part is named, or one was just before. */
const isOfPart = ({ about, before }: Clause): boolean => about.length > 0 || before.length > 0

/** The first of these that is known of the parts; where none is, all that is known and not planned, to be asked. */
function orAsk(clause: Clause, ...outcomes: readonly string[]): Guess[] {
  const marks = clause.atWork(...outcomes)
  if (marks.length) return marks
  const rows = clause.parts.flatMap(({ partId }) => clause.row(`works:${partId}`) ?? [])
  return rows.flatMap(row => row.outcomes.filter(outcome => outcome !== row.planned && !/start/.test(outcome))
    .flatMap(outcome => given(row, outcome)).map((mark): Guess => ({ ...mark, isGuess: true })))
}

const lines = (clause: Clause, ...outcomes: readonly string[]): SaidMark[] =>
  clause.terminals.flatMap(({ key }) => clause.at(`line:${key}`, ...outcomes))

/** At the line that is named, or at one of the part's, to be asked. */
function both(clause: Clause): SaidMark[] {
  const outcome = 'another one moves with it'
  const own = lines(clause, outcome)
  return own.length
    ? own
    : clause.parts.flatMap(({ terminals }) =>
        terminals.flatMap(({ key }) => clause.at(`line:${key}`, outcome)))
}

/** Nothing of what a part should do: of the line that is named, or of all of it; nobody on the bus where no part is. */
function nothing(clause: Clause): SaidMark[] {
  if (!clause.parts.length) return /answer|respond|found|detect/i.test(clause.text)
    ? clause.atAll('scan:', answersAt([]))
    : []
  const own = lines(clause, 'it does not move')
  return own.length ? own : clause.atWork(NOTHING, NO_PICTURE)
}

/** Lamps are those of the board, or of a part that is one: asked where it is not told. */
function lamps(clause: Clause): SaidMark[] {
  const none = clause.at('lamps', 'none')
  if (isOfBoard(clause.happens)) return none
  const isOfAny = !partsNamed(clause.ear.subjects, clause.happens.filter(stem => !LAMPS.has(stem))).length
  return [...isOfAny ? none : [], ...clause.about.length ? nothing(clause) : []]
}

function picture(clause: Clause): SaidMark[] {
  const screens = clause.atAll('works:', NO_PICTURE)
  return screens.length ? screens : clause.at('up', 'it does not come')
}

function works(clause: Clause): SaidMark[] {
  if (/\bworked\b/i.test(clause.text)
    || (!clause.about.length && !hasAny(GOING_ON, clause.happens) && !hasAny(VOLTS, clause.whole))) return []
  if (!hasAny(VOLTS, clause.whole)) return clause.atWork(DOES)
  return rowsOfReading(clause, 'V', THREE.test(clause.text) ? '3V3' : '5V').flatMap(row => given(row, row.planned))
}

function garbage(clause: Clause): Guess[] {
  const own = clause.atWork(GARBAGE)
  if (own.length) return own
  return clause.parts.length && !/\bport|serial|uart|terminal/i.test(clause.text)
    ? orAsk(clause)
    : clause.atAll('works:', GARBAGE)
}

function flickers(clause: Clause): SaidMark[] {
  const known = clause.atWork(FLICKERS, FALTERS)
  return known.length ? known : clause.parts.flatMap(({ partId }) => clause.at(`steady:${partId}`, NOW_AND_THEN))
}

function steady(clause: Clause): SaidMark[] {
  const loose = clause.atWires('through:', 'it comes and goes')
  if (loose.length) return loose
  const own = clause.parts.flatMap(({ partId }) => clause.at(`steady:${partId}`, NOW_AND_THEN))
  return own.length ? own : clause.at('steady', 'it goes off, or starts anew')
}

/** The first line that is named is worked, the second moves. */
function instead(clause: Clause): SaidMark[] {
  const [first, second] = clause.terminals
  const row = first && clause.row(`line:${first.key}`)
  if (!row) return []
  const moved = second && /: (?:line )?([^:]+)$/.exec(clause.row(`line:${second.key}`)?.probe.title ?? '')?.[1]
  const told = moved ? clause.at(row.probe.id, `${moved} moves instead`) : []
  return told.length
    ? told
    : row.outcomes.filter(outcome => outcome.endsWith('moves instead')).flatMap(outcome => given(row, outcome))
}

function swapped(clause: Clause): SaidMark[] {
  const [first, second] = clause.terminals
  if (!first || !second) return []
  return clause.rows(`look:${first.key}@`).flatMap(row =>
    row.outcomes.filter(outcome => outcome.startsWith(`it is swapped with ${second.label}`))
      .flatMap(outcome => given(row, outcome)))
}

/** Neighbours of one row. */
function touching(clause: Clause): SaidMark[] {
  const [a, b] = positionsIn(clause.text).sort((x, y) => x - y)
  return a !== undefined && b === a + 2
    ? clause.at(`apart:${a}`, isNegated(clause.whole) ? 'they do not' : 'they touch')
    : []
}

/** Between the rail that is named and ground; both where none is. */
function shorted(clause: Clause): SaidMark[] {
  const outcome = isNegated(clause.whole) ? NO_SHORT : SHORT
  const [three, five] = [THREE.test(clause.text), FIVE.test(clause.text)]
  return [...three || !five ? clause.at('ohm:3V3', outcome) : [], ...five || !three ? clause.at('ohm:5V', outcome) : []]
}
