/**
 * What is spelled out: a thing changed for another, a line of the boot file, a node, a meter's figure,
 * addresses, a position.
 */
import { deviceProbeId } from '../../plan/ids'
import { answersAt, NOTHING } from '../names'
import type { RunRow } from '../sheet'
import { given, type Clause, type SaidMark } from './clause'
import { addressesIn, boundOf, readingSaid } from './figures'
import { hasAny, isNegated, phrasesOf, stemsOf } from '../../said/stems'

/** Marks of what is spelled out; nothing where nothing is. */
export function spelledOut(clause: Clause): SaidMark[] {
  for (const read of [changed, turned, fileLine, node, reading, addresses, elsewhere]) {
    const marks = read(clause)
    if (marks.length) return marks
  }
  return []
}

const OTHER = phrasesOf('swapped|replaced|changed|exchanged|another|other|different|new|fresh|second|short|shorter|thick|thicker|better|newer|newest '
  + 'card|cable|supply|charger|adapter|adaptor|image|psu')
const THINGS = [
  { probe: 'other:card', phrases: phrasesOf('card') }, { probe: 'other:cable', phrases: phrasesOf('cable') },
  { probe: 'other:image', phrases: phrasesOf('image') }, { probe: 'other:supply',
    phrases: phrasesOf('supply|charger|adapter|adaptor|psu') },
]
const SAME = phrasesOf('same', 'still', 'NO difference|help|change|better|fix|matter')
const BETTER = phrasesOf('fixed|fixes|helps|helped|solved|solves|works|worked|runs|boots|starts|cured|good|fine')

const thingIn = (stems: readonly string[]) =>
  hasAny(OTHER, stems) ? THINGS.find(({ phrases }) => hasAny(phrases, stems)) : undefined
const effectIn = (stems: readonly string[]) => {
  if (hasAny(SAME, stems)) return 'no difference'
  return hasAny(BETTER, stems) ? 'with it, it runs' : null
}

/** Another one is told of, and not yet what came of it. */
export const isHalfSaid = (text: string): boolean =>
  thingIn(stemsOf(text)) !== undefined && effectIn(stemsOf(text)) === null

function changed(clause: Clause): SaidMark[] {
  const [thing, effect] = [thingIn(clause.whole), effectIn(clause.whole)]
  return thing && effect ? clause.at(thing.probe, effect) : []
}

const TURNED = phrasesOf('flat|ribbon backwards|turned|upside|wrong|twisted|out|loose')

/** A flat cable that is in the wrong way round, that of the part that is named or any. */
function turned(clause: Clause): SaidMark[] {
  if (!hasAny(TURNED, clause.whole)) return []
  return clause.rows('look:')
    .filter(({ probe }) => !clause.about.length || clause.about.some(({ partId }) => probe.at.parts?.includes(partId)))
    .flatMap(({ probe }) => clause.at(probe.id, 'it is turned, or not all the way in'))
}

const MISSING = phrasesOf('missing|gone|lacks|lacking|absent')
const isMissing = ({ whole }: Clause) => isNegated(whole) || hasAny(MISSING, whole)
const BELOW = phrasesOf('below|under|after filter|section')
const bare = (text: string) => text.replace(/\s+/g, '')

function fileLine(clause: Clause): SaidMark[] {
  const text = bare(clause.text)
  const row = clause.rows('file:').filter(({ probe }) => text.includes(bare(probe.at.line ?? '\n')))
    .sort((a, b) => b.probe.id.length - a.probe.id.length)[0]
  if (!row) return []
  return clause.at(row.probe.id, hasAny(BELOW, clause.whole)
    ? 'it stands below a filter of another board'
    : isMissing(clause) ? 'it is not there' : 'it stands there')
}

/** A node by its path or by its last name. */
function node(clause: Clause): SaidMark[] {
  const row = clause.rows(deviceProbeId('')).find(({ probe }) => {
    const name = probe.id.slice(probe.id.lastIndexOf('/') + 1).replace(/\*$/, '')
    return name.length > 2 && clause.text.includes(name)
  })
  return row ? clause.at(row.probe.id, isMissing(clause) ? 'it is missing' : 'it is there') : []
}

function reading(clause: Clause): SaidMark[] {
  const none = isNegated(clause.whole) && hasAny(VOLTS, clause.whole) ? rowsOfReading(clause, 'V', null) : []
  if (clause.about.length && none.length) return none.flatMap(({ probe }) => clause.at(probe.id, NOTHING))
  const said = readingSaid(clause.text)
  return said
    ? rowsOfReading(clause, said.unit, said.rail)
        .flatMap(row => given(row, boundOf(row, said.value), said.value))
    : []
}

const VOLTS = phrasesOf('voltage|volts')
const BUSY = phrasesOf('load|busy|everything')

/** Tests that take such a figure: at the part that is named, else at the rail. */
export function rowsOfReading(clause: Clause, unit: 'V' | 'Ω', rail: '5V' | '3V3' | null): RunRow[] {
  const own = clause.about.flatMap(({ partId }) => clause.ear.rows.filter(({ probe }) =>
    probe.reading?.unit === unit && probe.id.startsWith('volt:') && probe.at.parts?.includes(partId)))
  const one = (probe: string) => clause.row(probe) ?? []
  if (unit === 'Ω') {
    const through = clause.about.length ? clause.wires('through:') : []
    return through.length ? through : [one(rail === '3V3' ? 'ohm:3V3' : 'ohm:5V')].flat()
  }
  if (own.length) return own
  const named = clause.position === undefined ? rail : clause.ear.rails[clause.position]
  if (named !== null && named !== '5V') return []
  return [one(hasAny(BUSY, clause.whole) ? 'volt:load' : 'volt:5V')].flat()
}

function addresses(clause: Clause): SaidMark[] {
  const { there, gone, isAll } = addressesIn(clause.text)
  if (!there.length && !gone.length) return []
  return clause.rows('scan:').flatMap((row) => {
    const known = row.outcomes.map(outcome => ({ outcome, answers: addressesIn(outcome).there }))
    if (!known.some(({ answers }) => [...there, ...gone].some(address => answers.includes(address)))) return []
    const planned = addressesIn(row.planned).there
    const fitting = there.length && !isAll
      ? known.filter(({ answers }) =>
          there.every(address => answers.includes(address)) && !gone.some(address => answers.includes(address)))
      : []
    if (fitting.length === 1) return given(row, fitting[0]!.outcome)
    // Who is told to answer is alone in that, if planned ones are among them; who is told to be gone is alone in that.
    const isWhole = isAll || there.some(address => planned.includes(address))
    return given(row, answersAt(there.length && isWhole
      ? there
      : [...planned.filter(address => !gone.includes(address)), ...there]))
  })
}

/** A wire at a position that a slip of the hand brings it to. */
function elsewhere(clause: Clause): SaidMark[] {
  const { position } = clause
  return position === undefined || !clause.terminals.length
    ? []
    : clause.atWires('look:', `it is at position ${position}`)
}

/** A wire at any other position than its own, in words: that is no riddle. */
export function misplaced(clause: Clause): string | null {
  const { position } = clause
  const [row] = clause.terminals.length ? clause.wires('look:') : []
  const planned = row?.probe.at.positions?.[0]
  return position === undefined || planned === undefined || planned === position
    ? null
    : `${clause.terminals[0]!.label} is to be at position ${planned}, not ${position}: power off, move it there, `
      + 'and look again.'
}
