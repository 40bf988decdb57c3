/** Which line lies at which header position: read from pasted text, or from line names that say so. */
import type { BoardProfile } from './profile'
import { lineOf } from './pins'

export interface PositionRow {
  position: number
  kind: 'line' | '5V' | '3V3' | 'ground' | 'none'
  /** Number of the line within all banks. */
  line?: number
  /** As it was written. */
  text: string
}

export interface PositionsRead {
  rows: PositionRow[]
  problems: { line: number, message: string }[]
}

/** Most positions of a header that is read. */
export const MAX_POSITIONS = 100

/**
 * Reads a table: a position and what lies there on each line, apart by a tab, comma, semicolon or blanks: `3 PA12`,
 * `1,3V3`, `6 GND`, `11 gpio17`, `13 1-22` (bank and pin), `8 14`. Lines that begin with # and a heading without a
 * number are passed over.
 */
export function readPositions(text: string): PositionsRead {
  const rows = new Map<number, PositionRow>()
  const problems: PositionsRead['problems'] = []
  text.split(/\r?\n/).slice(0, 1000).forEach((written, i) => {
    const body = written.trim()
    if (!body || body.startsWith('#')) return
    const match = /^(\d{1,3})\s*[\t,;:= ]\s*(.+)$/.exec(body)
    if (!match) {
      if (/\d/.test(body)) problems.push({ line: i + 1,
        message: `"${body.slice(0, 40)}" is no position with a line: write, say, 3 PA12` })
      return
    }
    const position = Number(match[1])
    const row = rowOf(position, match[2]!.trim())
    if (position < 1 || position > MAX_POSITIONS) problems.push({
      line: i + 1, message: `there is no position ${position}: headers have 1 to ${MAX_POSITIONS}`,
    })
    else if (!row) problems.push({
      line: i + 1,
      message: `"${match[2]!.trim().slice(0, 40)}" is no line and no rail: write a name such as PA12 or gpio17, a `
        + 'number, 1-22 for bank and pin, 3V3, 5V or GND',
    })
    else if (rows.has(position)) problems.push({ line: i + 1, message: `position ${position} stands twice` })
    else rows.set(position, row)
  })
  return { rows: [...rows.values()].sort((a, b) => a.position - b.position), problems }
}

function rowOf(position: number, text: string): PositionRow | null {
  const word = text.split(/[\t,;]|\s{2,}/)[0]!.trim()
  if (/^(gnd|ground|vss|0v)$/i.test(word)) return { position, kind: 'ground', text: word }
  if (/^(5v|vcc_?5v0?|vdd_?5v|\+5v|5\.0v)$/i.test(word)) return { position, kind: '5V', text: word }
  if (/^(3v3|3\.3v|vcc_?3v3|vdd_?3v3|\+3v3|\+3\.3v|vcc33)$/i.test(word)) return { position, kind: '3V3', text: word }
  if (/^(nc|-|none|n\/c)$/i.test(word)) return { position, kind: 'none', text: word }
  const bankPin = /^(?:gpio)?(\d{1,2})[-_/]?([A-D])(\d)$/i.exec(word)
  if (bankPin) {
    return {
      position, kind: 'line',
      line: Number(bankPin[1]) * 32 + (bankPin[2]!.toUpperCase().charCodeAt(0) - 65) * 8 + Number(bankPin[3]),
      text: word,
    }
  }
  const pair = /^(?:gpio)?(\d{1,2})[-_/](\d{1,2})$/i.exec(word)
  if (pair && Number(pair[2]) < 32) return { position, kind: 'line', line: Number(pair[1]) * 32 + Number(pair[2]),
    text: word }
  const line = /^\d{1,3}$/.test(word) ? Number(word) : lineOf(word)
  return line === null ? null : { position, kind: 'line', line, text: word }
}

/**
 * Positions that the tree's own line names tell: `PIN11`, `pin 7`, `P8`, `7J1 Header Pin13`. Empty where they do not.
 */
export function positionsFromNames(profile: BoardProfile): PositionRow[] {
  const rows = new Map<number, PositionRow>()
  for (const { chip, line, name } of profile.lines) {
    const match = /(?:^|[^a-z])(?:header[\s_-]*)?(?:pin|p)[\s_-]?(\d{1,2})(?:\b|_|$)/i.exec(name)
    const position = match ? Number(match[1]) : 0
    const first = profile.chips.find(entry => entry.path === chip)?.first ?? null
    if (position < 1 || position > 60 || rows.has(position) || first === null) continue
    rows.set(position, { position, kind: 'line', line: first + line, text: name })
  }
  return rows.size >= 6 ? [...rows.values()].sort((a, b) => a.position - b.position) : []
}
