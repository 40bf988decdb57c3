/** Reads the grid that `i2cdetect -y N` prints, and holds it against what is expected. */

export interface GridAnswer {
  address: number
  /** `UU`: a driver of the kernel holds the device, so it was not asked. */
  held: boolean
}

export type GridResult
  = | { ok: true, answers: GridAnswer[], tested: number[] }
    | { ok: false, message: string }

export interface ScanVerdict {
  present: { address: number, names: string[], held: boolean }[]
  missing: { address: number, names: string[] }[]
  unexpected: GridAnswer[]
  /** Expected, but the scan did not ask there. */
  untested: { address: number, names: string[] }[]
}

/** `0x3c` for 60. */
export function hexAddress(address: number): string {
  return `0x${address.toString(16).padStart(2, '0')}`
}

/**
 * Reads a pasted grid: a heading of columns 0–f and rows `00:` to `70:`, whatever stands around it (prompts, blank
 * lines). Cells are read by their column when rows are short at either end, as the first and last rows are.
 */
export function readGrid(text: string): GridResult {
  const rows = text.split(/\r?\n/).map(line => /(?:^|\s)([0-7]0):(.*)$/.exec(line)).filter(match => match !== null)
  if (!rows.length) {
    return { ok: false, message: 'No row such as "40: -- -- 42 …" was found. Paste the whole output of i2cdetect -y '
      + 'with the bus number.' }
  }
  const answers = new Map<number, GridAnswer>()
  const tested = new Set<number>()
  for (const [, base, rest] of rows) {
    const start = Number.parseInt(base!, 16)
    for (const { column, cell } of cellsOf(rest!, start)) {
      const address = start + column
      if (cell === '--') tested.add(address)
      else if (cell.toUpperCase() === 'UU') {
        tested.add(address)
        answers.set(address, { address, held: true })
      }
      else if (Number.parseInt(cell, 16) === address) {
        tested.add(address)
        answers.set(address, { address, held: false })
      }
      else return {
        ok: false,
        message: `Row ${base}: the cell "${cell}" stands where ${address.toString(16).padStart(2, '0')} belongs. Paste `
          + 'the grid with its spaces as they were printed.',
      }
    }
  }
  return { ok: true, answers: [...answers.values()].sort((a, b) => a.address - b.address),
    tested: [...tested].sort((a, b) => a - b) }
}

/**
 * Cells with their columns. Printed cells are three characters wide; a row whose spaces were squeezed is filled from
 * its right end in row 00 and from its left in others.
 */
function cellsOf(rest: string, start: number): { column: number, cell: string }[] {
  const found = [...rest.matchAll(/--|UU|uu|[0-9a-fA-F]{2}/g)]
  const byWidth = found.map(match => ({ column: (match.index - 1) / 3, cell: match[0] }))
  if (byWidth.every(({ column }) => Number.isInteger(column) && column >= 0 && column < 16)
    && (start !== 0 || found.length === 16 || byWidth[0]?.column !== 0)) {
    return byWidth
  }
  const offset = start === 0 ? 16 - found.length : 0
  return found.map((match, i) => ({ column: offset + i, cell: match[0] }))
}

/** What a bus should show. `optional`: boards of its kind may have it and may not. */
interface Awaited { address: number, names: string[], optional?: true }

/** What is there, missing and unexpected. `expected` holds only what this bus should show. */
export function compareScan(answers: GridAnswer[], tested: number[], expected: Awaited[]): ScanVerdict {
  const asked = new Set(tested)
  const verdict: ScanVerdict = { present: [], missing: [], unexpected: [], untested: [] }
  for (const entry of expected) {
    const answer = answers.find(other => other.address === entry.address)
    if (answer) verdict.present.push({ ...entry, held: answer.held })
    else if (entry.optional) continue
    else if (asked.has(entry.address)) verdict.missing.push(entry)
    else verdict.untested.push(entry)
  }
  verdict.unexpected = answers.filter(answer => !expected.some(entry => entry.address === answer.address))
  return verdict
}
