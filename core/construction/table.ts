/** Wire list and parts list as tables: for a spreadsheet and for a page of text. */
import Papa from 'papaparse'
import type { StockRow } from '../stock/needs'
import { WIRE_ENDS } from '../plan/ends'
import type { PlacedBody } from '../mechanics/bodies'
import { cutListOf } from './harness'
import { endLabelsOf } from './labels'
import type { ListedItem } from './parts-list'
import type { BuildSteps } from './steps'
import { TOOL_WORDS } from './steps/types'
import type { Wire } from './wires'

const WIRE_FIELDS = ['Step', 'Kind', 'Part', 'From', 'To', 'Position', 'Colour', 'Length (m)', 'Gauge', 'Ends',
  'Through']
const wireCells = (wire: Wire, i: number) => [
  i + 1, wire.kind, wire.partName, wire.from, wire.to, wire.position ?? '', wire.colour, wire.lengthM || '',
  wire.awg === undefined ? '' : Math.round(wire.awg), wire.ends?.map(end => WIRE_ENDS[end]).join(' – ') ?? '',
  wire.through ?? '',
]

const PARTS_FIELDS = ['Count', 'What', 'For', 'Length (m)', 'Price, each (made up)']
const STOCK_FIELDS = ['Have', 'Taken by others', 'Buy', 'Lies in']
const stockCells = ({ have, reserved, buy, places }: StockRow) => [have, reserved, buy, places.join('; ')]
const itemCells = ({ count, what, names, lengthM, price }: ListedItem) => [
  count, what, names.filter(name => name !== what).join(', '), lengthM ?? '', price ?? '',
]

/**
 * CSV after RFC 4180, with a heading row; lengths in metres. Cells that a spreadsheet would take for a formula are
 * quoted as text.
 */
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
/** A table in Markdown. */
export const asRows = (fields: string[], data: (string | number)[][]) => [fields, fields.map(() => '---'), ...data]
  .map(row => `| ${row.map(cell).join(' | ')} |`)
  .join('\n')

const CUT_FIELDS = ['Count', 'Length (m)', 'Gauge', 'Colour', 'Wires']
/** What is cut from which reel; `Wires` are numbers of the wire list. */
export const cutsAsCsv = (wires: readonly Wire[]): string => asCsv(CUT_FIELDS,
  cutListOf(wires).map(({ count, lengthM, awg, colour,
    numbers }) => [
    count, lengthM, awg === undefined ? '' : Math.round(awg), colour, numbers.join(' '),
  ]))

const LABEL_FIELDS = ['Wire', 'This end', 'Other end']
/** Two rows for each wire, for a label printer. */
export const labelsAsCsv = (wires: readonly Wire[]): string => asCsv(LABEL_FIELDS,
  endLabelsOf(wires).map(({ number, here, there }) =>
    [number, here, there]))

const BODY_FIELDS = ['Body', 'Of', 'Left (mm)', 'Right', 'Near', 'Far', 'From', 'To', 'Sizes from']
const mm = (value: number) => Number(value.toFixed(2))
/** Every body with its edges from the board's near left corner, and its heights over the board's face. */
export const bodiesAsCsv = (bodies: readonly PlacedBody[]): string => asCsv(BODY_FIELDS,
  bodies.map(({ name, owner, solid, origin }) =>
    [name, owner.replace(/^@/, ''), ...[solid.x, solid.y, solid.z].flat().map(mm), origin]))

const STEP_FIELDS = ['Step', 'Id', 'What', 'Tool', 'Side up', 'Minutes', 'Wires', 'Undone by', 'Check']
export function stepsAsCsv({ steps }: BuildSteps, wires: readonly Wire[]): string {
  const numberOf = new Map(wires.map((wire, i) => [wire.key, i + 1]))
  return asCsv(STEP_FIELDS, steps.map((step, i) => [
    i + 1, step.id, step.title, TOOL_WORDS[step.tool], step.side === 'any' ? '' : step.side, step.minutes,
    step.conductors.map(id => numberOf.get(id) ?? id).join(' '), step.undo ?? 'no way back', step.check,
  ]))
}

/** A step's line under its title. */
const underTitle = ({ tool, side, minutes }: BuildSteps['steps'][number]) =>
  [TOOL_WORDS[tool], ...side === 'any' ? [] : [`${side} up`], `about ${minutes} min`].join(', ')

function stepsAsMarkdown({ steps, flips, toolChanges, minutes, leftovers, broken }: BuildSteps,
  wires: readonly Wire[]): string {
  const byKey = new Map(wires.map((wire, i) => [wire.key, { ...wire, number: i + 1 }]))
  const wireLine = (id: string) => {
    const wire = byKey.get(id)!
    return `   - [ ] ${wire.number}: ${wire.colour ? `${wire.colour}, ` : ''}${cell(wire.partName)} `
      + `${cell(wire.from)} → ${cell(wire.to)}`
  }
  const lines = steps.flatMap((step, i) => [
    `${i + 1}. **${cell(step.title)}** (${underTitle(step)})`,
    ...step.cautions.map(words => `   - Caution: ${words}`), ...step.how.map(words => `   - ${words}`),
    ...step.conductors.map(wireLine),
    ...step.undo === null ? ['   - There is no way back from here.'] : [],
    `   - [ ] ${step.hold ? 'Stop here until: ' : ''}${step.check}`,
  ])
  const many = (count: number, word: string) => `${count} ${word}${count === 1 ? '' : 's'}`
  return [
    `${steps.length} steps, about ${minutes} minutes; the board is turned over ${many(flips, 'time')}, tools change `
    + `${many(toolChanges, 'time')}.`,
    ...leftovers.map(({ words }) => `- ${words}`), ...broken.map(({ first, then, why }) =>
      `- Out of order: ${first} comes after ${then}, but ${why}.`),
    '', ...lines,
  ].join('\n')
}

/** Parts list, steps and wires as Markdown, under the plan's name. */
export function buildAsMarkdown(name: string, wires: Wire[], items: ListedItem[], build?: BuildSteps): string {
  return `# ${name}\n\n## Parts list\n\n${asRows(PARTS_FIELDS, items.map(itemCells))}\n\n${build
    ? `## Steps\n\n${stepsAsMarkdown(build, wires)}\n\n`
    : ''}## Wire list, in the order of connecting\n\nPower off first; power last.\n\n${asRows(WIRE_FIELDS, wires.map(wireCells))}\n`
}
