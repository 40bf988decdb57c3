/** Wire list and parts list as tables: for a spreadsheet and for a page of text. */
import Papa from 'papaparse'
import type { StockRow } from '../stock/needs'
import type { ListedItem } from './parts-list'
import type { Wire } from './wires'

const WIRE_FIELDS = ['Step', 'Kind', 'Part', 'From', 'To', 'Position', 'Colour', 'Length (m)', 'Gauge', 'Through']
const wireCells = (wire: Wire, i: number) => [
  i + 1, wire.kind, wire.partName, wire.from, wire.to, wire.position ?? '', wire.colour, wire.lengthM || '',
  wire.awg === undefined ? '' : Math.round(wire.awg), wire.through ?? '',
]

const PARTS_FIELDS = ['Count', 'What', 'For', 'Length (m)', 'Price, each (made up)']
const STOCK_FIELDS = ['Have', 'Taken by others', 'Buy', 'Lies in']
const stockCells = ({ have, reserved, buy, places }: StockRow) => [have, reserved, buy, places.join('; ')]
const itemCells = ({ count, what, names, lengthM, price }: ListedItem) => [
  count, what, names.filter(name => name !== what).join(', '), lengthM ?? '', price ?? '',
]

/** CSV after RFC 4180, with a heading row; lengths in metres. Cells that a spreadsheet would take for a formula are quoted as text. */
const asCsv = (fields: string[], data: (string | number)[][]) => Papa.unparse(
  { fields, data }, { escapeFormulae: true, newline: '\r\n' },
) + '\r\n'

export const wiresAsCsv = (wires: Wire[]): string => asCsv(WIRE_FIELDS, wires.map(wireCells))
/** With what lies in stock, where that is known. */
export const partsAsCsv = (items: ListedItem[], stock?: (item: ListedItem) => StockRow): string => stock
  ? asCsv([...PARTS_FIELDS, ...STOCK_FIELDS], items.map(item => [...itemCells(item), ...item.kind === 'wire'
      ? ['', '', '', '']
      : stockCells(stock(item))]))
  : asCsv(PARTS_FIELDS, items.map(itemCells))

const cell = (value: string | number) => String(value).replace(/\|/g, '\\|').replace(/\s+/g, ' ')
const asRows = (fields: string[], data: (string | number)[][]) => [fields, fields.map(() => '---'), ...data]
  .map(row => `| ${row.map(cell).join(' | ')} |`)
  .join('\n')

/** Both lists as Markdown, under the plan's name. */
export function buildAsMarkdown(name: string, wires: Wire[], items: ListedItem[]): string {
  return `# ${name}\n\n## Parts list\n\n${asRows(PARTS_FIELDS, items.map(itemCells))}\n\n## Wire list, in the order of `
    + `connecting\n\nPower off first; power last.\n\n${asRows(WIRE_FIELDS, wires.map(wireCells))}\n`
}
