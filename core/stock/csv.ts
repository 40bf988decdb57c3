/** The stock as a table for a spreadsheet, and back. */
import Papa from 'papaparse'
import type { Problem } from '../documents/failure'
import type { StockEntry } from './shape'

const FIELDS = ['What', 'Count', 'Place', 'Note', 'Catalogue id'] as const
/** Headings by which people call the columns. */
const HEADINGS: Readonly<Record<string, keyof Omit<StockEntry, 'id'>>> = {
  'what': 'what', 'name': 'what', 'item': 'what', 'part': 'what', 'description': 'what',
  'count': 'count', 'quantity': 'count', 'qty': 'count', 'number': 'count', 'have': 'count',
  'place': 'place', 'location': 'place', 'drawer': 'place', 'box': 'place', 'where': 'place',
  'note': 'note', 'notes': 'note', 'remark': 'note', 'catalogue id': 'type', 'type': 'type', 'id': 'type',
}

/** CSV after RFC 4180. Cells that a spreadsheet would take for a formula are quoted as text. */
export function stockAsCsv(stock: readonly StockEntry[]): string {
  return Papa.unparse({
    fields: [...FIELDS],
    data: stock.map(({ what, count, place = '', note = '', type = '' }) => [what, count, place, note, type]),
  }, { escapeFormulae: true, newline: '\r\n' }) + '\r\n'
}

export interface StockRead {
  entries: Omit<StockEntry, 'id'>[]
  problems: Problem[]
}

/**
 * Rows of a table with a heading row. `nameOf` gives a catalogue id's name, `idOf` the id of a name; rows that cannot
 * be used are told by their line.
 */
export function stockFromCsv(text: string, nameOf: (type: string) => string | undefined, idOf: (name: string) =>
  string | undefined): StockRead {
  const table = text.replace(/^\uFEFF/, '')
  // What parts the columns is guessed without empty lines, which would speak for none.
  const { meta: { delimiter } } = Papa.parse(table, { skipEmptyLines: 'greedy', delimitersToGuess: [',', ';', '\t'] })
  const { data } = Papa.parse<string[]>(table, { delimiter })
  // Empty lines count as lines: a problem is looked for where the table has it.
  const lines = data.map((cells, i) => ({ cells, line: i + 1 }))
    .filter(({ cells }) => cells.some(cell => cell.trim() !== ''))
  const [{ cells: head } = { cells: [] as string[] }, ...rows] = lines
  const columns = head.map(cell => HEADINGS[cell.trim().toLowerCase()])
  if (!columns.includes('what') && !columns.includes('type')) return {
    entries: [], problems: [{ path: 'line 1', message: `There is no heading such as ${FIELDS.join(', ')}.` }],
  }
  const problems: Problem[] = []
  const entries = rows.flatMap(({ cells: row, line: number }): Omit<StockEntry, 'id'>[] => {
    const cell = (name: string) => {
      const at = columns.indexOf(name as 'what')
      // A formula that was quoted as text when it went out comes back as it was.
      return (at < 0 ? '' : row[at] ?? '').trim().replace(/^'(?=[=+\-@\t\r])/, '')
    }
    const line = `line ${number}`
    const counted = cell('count')
    const count = counted === '' ? 1 : Number(counted.replace(/\s|(?<=\d)[.,](?=\d{3}\b)/g, ''))
    const known = cell('type') && nameOf(cell('type')) !== undefined ? cell('type') : undefined
    const what = cell('what') || (known && nameOf(known)) || ''
    if (!what) {
      problems.push({ path: line, message: 'It is not said what it is.' })
      return []
    }
    if (!Number.isInteger(count) || count < 0 || count > 100_000) {
      problems.push({ path: line, message: `"${counted}" is no count.` })
      return []
    }
    const type = known ?? idOf(what)
    return [{
      what: what.slice(0, 200), count, ...type !== undefined && { type },
      ...cell('place') && { place: cell('place').slice(0, 200) },
      ...cell('note') && { note: cell('note').slice(0, 1000) },
    }]
  })
  return { entries, problems }
}

/**
 * What was read laid into what is there: a thing at a place counts once, and the table's count stands. Gives the new
 * stock and how many rows changed or came.
 */
export function joinedStock(stock: readonly StockEntry[], read: readonly Omit<StockEntry, 'id'>[], newId: () =>
string): { stock: StockEntry[], changed: number, added: number } {
  const next = [...stock]
  let [changed, added] = [0, 0]
  const same = (a: Omit<StockEntry, 'id'>, b: Omit<StockEntry, 'id'>) =>
    (a.type !== undefined && a.type === b.type
      ? true
      : a.type === b.type && a.what.toLowerCase() === b.what.toLowerCase()) && (
      a.place ?? '') === (b.place ?? '')
  for (const entry of read) {
    const at = next.findIndex(other => same(other, entry))
    if (at < 0) {
      next.push({ id: newId(), ...entry })
      added++
    }
    else if (next[at]!.count !== entry.count || next[at]!.note !== entry.note) {
      next[at] = { ...next[at]!, ...entry }
      changed++
    }
  }
  return { stock: next, changed, added }
}
