/**
 * How a text counts pins, by evidence: what it says of it, what its libraries are known for, what its comments
 * translate, and which numbers can be positions or lines at all.
 */
import type { Comment, Clue, Numbering, Program, Sighting } from './types'
import { lineNumberAt } from './find'

/** Positions of lines on a header of forty: facts of the trade, as in the handbook's table. practice */
const LINE_AT: Readonly<Record<number, number>> = {
  3: 2, 5: 3, 7: 4, 8: 14, 10: 15, 11: 17, 12: 18, 13: 27, 15: 22, 16: 23, 18: 24, 19: 10, 21: 9, 22: 25, 23: 11,
  24: 8, 26: 7, 27: 0,
  28: 1,
  29: 5, 31: 6, 32: 12, 33: 13, 35: 19, 36: 16, 37: 26, 38: 20, 40: 21,
}
export const POSITION_OF: ReadonlyMap<number, number> = new Map(Object.entries(LINE_AT)
  .map(([position, line]) => [line, Number(position)]))
/** A numbering that one family of C libraries counts by. memory */
const OWN_LINES = [17, 18, 27, 22, 23, 24, 25, 4, 2, 3, 8, 7, 10, 9, 11, 14, 15, -1, -1, -1, -1, 5, 6, 13, 19, 26, 12,
  16, 20, 21, 0, 1]

/** The line of a number, counted in a way; null where there is none. */
export function lineOfPin(value: number, numbering: Numbering): number | null {
  if (numbering === 'line') return value
  const line = numbering === 'header' ? LINE_AT[value] : OWN_LINES[value]
  return line === undefined || line < 0 ? null : line
}

/** The number of a line, counted in a way; null where it has none. */
export function pinOfLine(line: number, numbering: Numbering): number | null {
  if (numbering === 'line') return line
  if (numbering === 'header') return POSITION_OF.get(line) ?? null
  const at = OWN_LINES.indexOf(line)
  return at < 0 ? null : at
}

const SAID: readonly { pattern: RegExp, numbering: Numbering, says: string }[] = [
  { pattern: /\bset_?mode\s*\(\s*[\w.]*\b(BOARD|PHYS|HEADER)\b/i, numbering: 'header',
    says: 'it is set to count by board position' },
  { pattern: /\bset_?mode\s*\(\s*[\w.]*\b(BCM|SOC|GPIO)\s*\)/i, numbering: 'line', says: 'it is set to count by line' },
  { pattern: /\b\w+SetupPhys\s*\(/, numbering: 'header', says: 'its set-up counts by board position' },
  { pattern: /\b\w+Setup(Gpio|Sys)\s*\(/, numbering: 'line', says: 'its set-up counts by line' },
  { pattern: /\b(?!spi|SPI|i2c|I2C|serial)\w+[a-z]Setup\s*\(\s*\)/, numbering: 'own',
    says: 'its set-up counts by a numbering of that library\'s own' },
  { pattern: /\bmapping\s*:\s*['"](physical|board)['"]/i, numbering: 'header',
    says: 'its mapping is by board position' },
  { pattern: /\bmapping\s*:\s*['"](gpio|bcm)['"]/i, numbering: 'line', says: 'its mapping is by line' },
  { pattern: /\bBoardPinFactory|PinFactory\s*\(\s*['"]?board/i, numbering: 'header',
    says: 'its pins are made by board position' },
]

export function numberingOf(
  { text, program, comments, sightings, said = [] }: {
    text: string
    program?: Program
    comments: readonly Comment[]
    sightings: readonly Sighting[]
    said?: readonly Clue[]
  },
): { numbering: Numbering, isUnsure: boolean, evidence: Clue[] } {
  const starts = [0, ...[...text.matchAll(/\n/g)].map(match => match.index + 1)]
  const isHidden = (at: number) => comments.some(({ from, to }) => at >= from && at < to)
    || (program?.dead ?? []).some(({ from, to }) => at >= from && at < to)
  const evidence: Clue[] = [...said]
  for (const { pattern, numbering, says } of SAID) {
    for (const match of text.matchAll(new RegExp(pattern, 'g' + pattern.flags.replace('g', '')))) {
      if (!isHidden(match.index)) evidence.push({ line: lineNumberAt(starts, match.index), says, for: numbering,
        weight: 20 })
    }
  }
  const open = sightings.filter(({ kind, numbering }) => kind === 'pin' && numbering === undefined)
  evidence.push(...ofNumbers(open), ...ofNames(open), ...ofComments(open, comments, starts))
  const total = (numbering: Numbering) =>
    evidence.filter(entry => entry.for === numbering).reduce((sum, { weight }) => sum + weight, 0)
  const usual = open.filter(({ by }) => COUNTS_BY_LINE.test(by))
  if (usual.length && !evidence.some(({ weight }) => weight >= 20)) evidence.push({
    line: usual[0]!.line, says: `${usual[0]!.by.replace(/\(…\)$/, '')} counts by line unless told otherwise`,
    for: 'line', weight: 6,
  })
  const ranked = (['line', 'header', 'own'] as const).map(numbering => ({ numbering, points: total(numbering) }))
    .sort((a, b) => b.points - a.points)
  const [best, second] = ranked as [typeof ranked[0], typeof ranked[0]]
  // Nothing speaks for either: most programs count by line today.
  if (best.points <= 0) return {
    numbering: 'line', isUnsure: open.length > 0, evidence: open.length
      ? [{ line: 0, says: 'nothing says how pins are counted; most programs count by line', for: 'line', weight: 0 }]
      : evidence,
  }
  return { numbering: best.numbering, isUnsure: best.points - second.points < 3,
    evidence: evidence.sort((a, b) => b.weight - a.weight) }
}

const COUNTS_BY_LINE = /^(?:[\w.]*\b)?(\w*(LED|Button|Device|Buzzer|Servo|Sensor|Motor|Encoder|Strip|Pixel|Gpio)\w*|set_PWM\w*|hardware_PWM|gpio\w+|set_pull_up_down)\(…\)$/

/** Numbers that cannot be one or the other. */
function ofNumbers(open: readonly Sighting[]): Clue[] {
  const found: Clue[] = []
  for (const { value, line } of open) {
    const number = Number(value)
    if (number > 27 && LINE_AT[number] !== undefined) found.push({ line,
      says: `${number} is a position; lines end at 27`,
      for: 'header', weight: 5 })
    else if (number <= 27 && LINE_AT[number] === undefined) found.push({
      line, says: `position ${number} of the header is ${number === 0 ? 'none' : 'a supply or a ground'}, line `
        + `${number} is one`,
      for: 'line', weight: 4,
    })
  }
  return found
}

function ofNames(open: readonly Sighting[]): Clue[] {
  return open.flatMap(({ name, line }): Clue[] => {
    if (/(^|_|[a-z])(BCM|GPIO|Gpio|Bcm|gpio|bcm)(_|\d|$|[A-Z])/.test(name)) return [{ line,
      says: `the name ${name} says line`, for: 'line', weight: 4 }]
    return /(^|_)(PHYS|PHYSICAL|HEADER|BOARD_PIN|phys|physical|header)(_|$)|boardPin|headerPin/.test(name)
      ? [{ line, says: `the name ${name} says position`, for: 'header', weight: 4 }]
      : []
  })
}

/** `LED = 11  # GPIO17`: the comment translates the number. */
function ofComments(open: readonly Sighting[], comments: readonly Comment[], starts: readonly number[]): Clue[] {
  return open.flatMap(({ value, line }): Clue[] => {
    const said = comments.filter(comment => lineNumberAt(starts, comment.from) === line).map(comment => comment.text)
      .join(' ')
    if (!said) return []
    const number = Number(value)
    const lineSaid = /\b(?:GPIO|BCM|line)[ _#]*(\d{1,2})\b/i.exec(said)
    const positionSaid = /\b(?:physical|header|board|pin|position|phys)\.?(?: (?:pin|position|no\.?|number))?[ _#]*(\d{1,2})\b/i.exec(said)
    if (lineSaid) {
      const it = Number(lineSaid[1])
      if (it === number) return [{ line, says: `the comment calls it line ${it}`, for: 'line', weight: 6 }]
      if (LINE_AT[number] === it) return [{ line,
        says: `the comment says line ${it}, which lies at position ${number}`, for: 'header',
        weight: 8 }]
    }
    if (positionSaid) {
      const it = Number(positionSaid[1])
      if (LINE_AT[it] === number) return [{ line, says: `the comment says position ${it}, where line ${number} lies`,
        for: 'line',
        weight: 8 }]
      if (it === number && LINE_AT[number] !== undefined) return [{ line, says: `the comment calls it position ${it}`,
        for: 'header',
        weight: 3 }]
    }
    if (/\b(physical|board) (pin|position|number)/i.test(said)) return [{ line,
      says: 'the comment speaks of physical pins', for: 'header', weight: 4 }]
    return /\b(BCM|line number)\b/.test(said)
      ? [{ line, says: 'the comment speaks of line numbers', for: 'line', weight: 4 }]
      : []
  })
}
