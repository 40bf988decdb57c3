/** The wire list as a table for a spreadsheet. */
import Papa from 'papaparse'
import type { Wire } from './wires'

/** CSV after RFC 4180, with a heading row; lengths in metres. Cells that a spreadsheet would take for a formula are quoted as text. */
export function wiresAsCsv(wires: Wire[]): string {
  return Papa.unparse({
    fields: ['Step', 'Part', 'From', 'To', 'Position', 'Colour', 'Length (m)', 'Through'],
    data: wires.map((wire, i) => [i + 1, wire.partName, wire.from, wire.to, wire.position ?? '', wire.colour, wire.lengthM, wire.through ?? '']),
  }, { escapeFormulae: true, newline: '\r\n' }) + '\r\n'
}
