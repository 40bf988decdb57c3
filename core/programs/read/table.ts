/** Reads tables of connections: a cell is what its column says, or what it says itself. */
import { lineNumberAt, lineStarts } from '../find'
import type { Clue, Sighting } from '../types'
import { pinText, wordsOf } from '../words'

interface Cell { text: string, from: number }

const SEPARATOR = /^[\s|:+=-]+$/
const HEADER_COLUMN = /\b(physical|header|position|board pin|pin ?(no|nr|number|#)|phys)\b|^pin$/i
const LINE_COLUMN = /\b(gpio|bcm|line|lines)\b/i

function cellsOf(line: string, start: number, by: '|' | '\t' | ';' | ',' | 'blanks'): Cell[] {
  const pattern = by === 'blanks' ? /\S+(?: \S+)*/g : new RegExp(`[^${by === '|' ? '|' : by}]+`, 'g')
  return [...line.matchAll(pattern)].map((match) => {
    const lead = match[0].length - match[0].trimStart().length
    return { text: match[0].trim().replace(/^[*_`]+|[*_`]+$/g, ''),
      from: start + match.index + lead + (/^[*_`]+/.exec(match[0].trim())?.[0].length ?? 0) }
  }).filter(cell => cell.text !== '' || by !== 'blanks')
}

/** How the cells of the table are parted; null where it is none. */
export function partedBy(lines: readonly string[]): '|' | '\t' | ';' | ',' | 'blanks' | null {
  const max = (sign: string) => lines.filter(line => line.includes(sign)).length
  for (const sign of ['|', '\t', ';', ','] as const) if (max(sign) >= Math.max(2, lines.length * 0.6)) return sign
  return lines.filter(line => /\S(?: {2,}|\s*(?:->|→|=>|—|–)\s*)\S/.test(line)).length >= Math.max(2,
    lines.length * 0.6)
    ? 'blanks'
    : null
}

export function readTable(text: string): { sightings: Sighting[], evidence: Clue[] } {
  const starts = lineStarts(text)
  const lines = starts.map((start,
    i) => ({ start, text: text.slice(start, starts[i + 1] ?? text.length).replace(/\r?\n$/, '') }))
    .filter(line => line.text.trim() !== '' && !SEPARATOR.test(line.text))
  const by = partedBy(lines.map(line => line.text)) ?? 'blanks'
  const arrowed = lines.map(line => ({ ...line, text: by === 'blanks'
    ? line.text.replace(/->|→|=>|—|–|:(?= )/g, match => ' '.repeat(match.length).padEnd(2))
    : line.text }))
  // In sentences each part between commas is about one thing.
  const rows = arrowed.flatMap(line => by === 'blanks'
    ? [...line.text.matchAll(/(?:[^,]|,(?! ))+/g)].map(match => cellsOf(match[0], line.start + match.index, by))
    : [cellsOf(line.text, line.start, by)]).filter(row => row.length)
  const evidence: Clue[] = []
  // Words may stand before a table, and a second one after the first.
  let head: readonly Cell[] = []
  let columns: ('line' | 'header' | null)[] = []
  const isHead = (row: readonly Cell[]) => row.length > 1
    && !row.some(cell => /^\d+$/.test(cell.text) || pinsIn(cell.text).length)
    && row.some(cell => HEADER_COLUMN.test(cell.text) || LINE_COLUMN.test(cell.text))
  const begin = (row: readonly Cell[]) => {
    head = row
    columns = row.map((cell) => {
      let numbering: 'line' | 'header' | null
      if (LINE_COLUMN.test(cell.text)) numbering = 'line' as const
      else numbering = HEADER_COLUMN.test(cell.text) ? 'header' as const : null
      if (numbering) evidence.push({
        line: lineNumberAt(starts, cell.from), says: `the column is called "${cell.text}"`, for: numbering,
        weight: /^pin$/i.test(cell.text) ? 1 : 4,
      })
      return numbering
    })
  }
  const plain = rows.some(isHead) ? null : countedBy(rows)
  if (plain) evidence.push({ line: lineNumberAt(starts, rows[plain.row]![0]!.from), says: plain.says,
    for: plain.numbering, weight: 4 })
  const sightings: Sighting[] = []
  for (const row of rows) {
    if (isHead(row)) {
      begin(row)
      continue
    }
    const said = row.map(cell => pinsIn(cell.text))
    const words = row.flatMap((cell, i) => said[i]!.length || /^\d+$/.test(cell.text) ? [] : wordsOf(cell.text))
    const name = row.find((cell, i) => !said[i]!.length && !/^\d+$/.test(cell.text))?.text ?? ''
    if (/\b(gnd|ground|3v3|3\.3 ?v|5 ?v|vcc|vdd|vin)\b/i.test(row.map(cell => cell.text).join(' '))
      && !said.some(list => list.some(entry => entry.numbering === 'line'))) continue
    const places: Sighting[] = []
    for (const [i, cell] of row.entries()) {
      const line = lineNumberAt(starts, cell.from)
      for (const { value, numbering, at, source } of said[i]!) places.push({
        kind: 'pin', value, text: source, from: cell.from + at, to: cell.from + at + String(value).length, line, name,
        words,
        by: 'what it says', numbering,
      })
      const numbering = columns[i] ?? plain?.numbering
      if (/^\d{1,2}$/.test(cell.text) && numbering) places.push({
        kind: 'pin', value: Number(cell.text), text: cell.text, from: cell.from, to: cell.from + cell.text.length,
        line, name, words,
        by: head[i] ? `the column ${head[i].text}` : 'the list', numbering,
      })
      const address = /^(?:.*\s)?(0x[0-7][\da-f])\.?$/i.exec(cell.text)
      if (address) {
        const from = cell.from + cell.text.lastIndexOf(address[1]!)
        sightings.push({
          kind: 'address', value: Number(address[1]), text: address[1]!, from, to: from + 4, line, name, words,
          by: 'what it says',
        })
      }
    }
    // Two columns for one place are one pin: the line says it best.
    sightings.push(...places.some(({ numbering }) => numbering === 'line')
      ? places.filter(({ numbering }) => numbering === 'line')
      : places)
  }
  return { sightings: sightings.filter(({ kind, value }) => kind !== 'pin' || Number(value) <= 57)
    .sort((a, b) => a.from - b.from),
  evidence }
}

/**
 * Where the header has its buses and its supply, as position and as line: every board with that
 * header, common practice.
 */
const KNOWN: readonly (readonly [RegExp, readonly number[], number | null])[] = [
  [/^sda$/i, [3], 2], [/^scl$/i, [5], 3], [/^tx[d0]?$/i, [8, 10], 14], [/^rx[d0]?$/i, [8, 10], 15],
  [/^(mosi|sdi|din)$/i, [19], 10],
  [/^(miso|sdo|dout)$/i, [21], 9], [/^s?clk$|^sck$/i, [23], 11],
  [/^(gnd|ground)$/i, [6, 9, 14, 20, 25, 30, 34, 39], null],
  [/^(3v3|3\.3 ?v|5 ?v|vcc|vdd|vin)$/i, [1, 2, 4, 17], null],
]

/**
 * A list of names with a number each and no heading: how it counts, by where the header has what the names say. Null
 * where that tells nothing.
 */
function countedBy(rows: readonly (readonly Cell[])[]): { numbering: 'header' | 'line', row: number, says: string }
  | null {
  const pairs = rows.flatMap((row, index) => row.length === 2 && /^\d{1,2}$/.test(row[1]!.text)
    ? [{ name: row[0]!.text, number: Number(row[1]!.text), index }]
    : [])
  if (pairs.length < 2 || pairs.length < rows.length * 0.6) return null
  const told = pairs.flatMap(({ name, number, index }) => {
    const known = KNOWN.find(([pattern]) => pattern.test(name))
    let numbering: 'line' | 'header' | null
    if (!known) numbering = null
    else if (known[1].includes(number)) numbering = 'header' as const
    else numbering = known[2] === number ? 'line' as const : null
    return numbering
      ? [{ numbering, row: index,
          says: `${name} is ${numbering === 'line' ? 'line' : 'position'} ${number}` }]
      : []
  })
  return told.length >= 2 && told.every(({ numbering }) => numbering === told[0]!.numbering) ? told[0]! : null
}

/** `GPIO2 (pin 3)` → line 2 and position 3. */
function pinsIn(text: string): { value: number, numbering: 'header' | 'line', at: number, source: string }[] {
  return [...text.matchAll(/\b(GPIO|BCM|line|physical pin|header pin|position|pin|BOARD|P1|J8)[ _:.#-]{0,2}(\d{1,2})\b/gi)].flatMap((match) => {
    const read = pinText(`${/^(gpio|bcm|line)$/i.test(match[1]!) ? 'GPIO' : 'BOARD'}${match[2]}`)
    return read
      ? [{ value: read.value, numbering: read.numbering, at: match.index + match[0].length - match[2]!.length,
          source: match[0] }]
      : []
  })
}
