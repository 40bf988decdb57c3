/**
 * The key-value boot file with section filters, read line by line without losing a byte.
 * Law: `printBoot(parseBoot(text)) === text` for every text.
 */
import { FilterState, type BoardFilters } from '../scope/filters'
import { joinLines, readable, splitLines, type TextLine } from './lines'

export interface BootParam {
  name: string
  /** Empty when the parameter stands alone, which means `on`. */
  value: string
  /** Where it stands in the line, name and value together. */
  from: number
  to: number
}

export interface BootLine extends TextLine {
  kind: 'blank' | 'comment' | 'filter' | 'param' | 'overlay' | 'setting' | 'include' | 'unknown'
  /** Key of a setting, name of an overlay, filter without its brackets, file of an include. */
  name?: string
  /** Value of a setting. */
  value?: string
  /** Where key and value stand in the line. */
  nameAt?: number
  valueAt?: number
  params?: BootParam[]
  /**
   * `always` where the filters above let it through on every board (or on the board given), `never` where none
   * does, `sometimes` otherwise.
   */
  applies: 'always' | 'never' | 'sometimes'
  /** The heading above it, `all` where there is none. */
  filter: string
  /** For a parameter: the overlay it belongs to; empty for the base tree. */
  overlay: string
}

type Read = Pick<BootLine, 'kind' | 'name' | 'value' | 'params' | 'nameAt' | 'valueAt'>

/**
 * Reads a boot file, as the given board would; without one, board filters apply only sometimes. Never fails: what it
 * does not know is `unknown` and kept.
 */
export function parseBoot(text: string, board: BoardFilters | null = null): BootLine[] {
  const filters = new FilterState(board)
  let overlay = ''
  return splitLines(text).map((line) => {
    const read = readLine(line)
    // A filter closes the overlay above it as well: what follows may be loaded without it.
    if (read.kind === 'filter') {
      filters.take(read.name!)
      overlay = ''
    }
    if (read.kind === 'overlay') overlay = read.name!
    // The lines are fresh: filling them in is ten times faster than copying each.
    return Object.assign(line, read, { filter: filters.heading, overlay, applies: filters.applies })
  })
}

let last: { text: string, models: string | null, lines: readonly BootLine[] } | null = null

/** The same, kept for the text that was read last: many rules look at one file. Not to be changed. */
export function readBoot(text: string, board: BoardFilters | null): readonly BootLine[] {
  const models = board && board.models.join()
  if (last?.text !== text || last.models !== models) last = { text, models, lines: parseBoot(text, board) }
  return last.lines
}

/** The text the lines were read from. */
export const printBoot = (lines: readonly BootLine[]): string => joinLines(lines)

/** Settings that stand without an equals sign: `initramfs FILE ADDRESS`. */
const WITHOUT_SIGN = /^(initramfs|include)\s+(\S.*)$/

function readLine(line: TextLine): Read {
  const { text, at } = readable(line)
  if (!text) return { kind: 'blank' }
  if (text.startsWith('#')) return { kind: 'comment' }
  const filter = /^\[([^\]]*)\]$/.exec(text)
  if (filter) return { kind: 'filter', name: filter[1]!.trim().toLowerCase(), nameAt: at }
  const word = WITHOUT_SIGN.exec(text)
  if (word) {
    return {
      kind: word[1] === 'include' ? 'include' : 'setting', name: word[1] === 'include' ? word[2]!.trim() : word[1],
      ...(word[1] !== 'include' && { value: word[2] }), nameAt: at,
      valueAt: at + text.indexOf(word[2]!, word[1]!.length),
    }
  }
  const sign = text.indexOf('=')
  if (sign <= 0) return { kind: 'unknown' }
  const key = text.slice(0, sign).trim()
  if (/\s/.test(key)) return { kind: 'unknown' }
  const rest = text.slice(sign + 1)
  const value = rest.trim()
  const valueAt = at + sign + 1 + (rest.length - rest.trimStart().length)
  if (key === 'dtparam') return { kind: 'param', nameAt: at, valueAt, params: readParams(value, valueAt) }
  if (key === 'dtoverlay') {
    // Early firmware also took a colon between name and parameters.
    const cut = /[,:]/.exec(value)?.index ?? value.length
    return {
      kind: 'overlay', name: value.slice(0, cut).trim(), nameAt: at, valueAt,
      params: readParams(value.slice(cut + 1), valueAt + cut + 1),
    }
  }
  return { kind: 'setting', name: key, value, nameAt: at, valueAt }
}

function readParams(text: string, at: number): BootParam[] {
  if (!text.trim()) return []
  let from = at
  return text.split(',').map((entry) => {
    const sign = entry.indexOf('=')
    const start = from + entry.length - entry.trimStart().length
    from += entry.length + 1
    return {
      name: (sign < 0 ? entry : entry.slice(0, sign)).trim(), value: sign < 0 ? '' : entry.slice(sign + 1).trim(),
      from: start, to: start + entry.trim().length,
    }
  })
}
