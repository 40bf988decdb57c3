/**
 * Readings in a text become curves: a table with a head (commas, semicolons or tabs; decimal commas beside semicolons
 * and tabs), JSON (a list, a line for each, or one object in another), and lines as programs print them. Never throws
 * on a text.
 */
import Papa from 'papaparse'
import { clockSeconds, fromFirst, isTimeName, secondsPer } from './time'
import type { CurvesRead, MeasuredCurve } from './types'

/** Curves with fewer readings than this are none. */
const MIN = 3
export const MAX_READINGS = 200_000

interface Row { at: number | null, values: Map<string, number>, units: Map<string, string> }

const NOTHING: CurvesRead = { curves: [], times: '', stray: 0 }

export function curvesIn(text: string): CurvesRead {
  const trimmed = text.trim()
  if (!trimmed) return NOTHING
  const json = fromJson(trimmed)
  if (json) return json
  // Sentences with commas look like a table too: only one that holds figures is one.
  const table = fromTable(trimmed)
  return table?.curves.length ? table : fromLines(trimmed)
}

/** Units that the end of a name stands for. */
const ENDINGS: readonly [RegExp, string][] = [
  [/[_ ](c|degc|celsius)$/i, '°C'], [/[_ ](v|volts?)$/i, 'V'], [/[_ ]mv$/i, 'mV'], [/[_ ]ma$/i, 'mA'],
  [/[_ ]hpa$/i, 'hPa'],
  [/[_ ](pct|percent)$/i, '%'], [/[_ ](a|amps?)$/i, 'A'], [/[_ ]w(atts)?$/i, 'W'], [/[_ ]ppm$/i, 'ppm'],
  [/[_ ]lux$/i, 'lux'],
]
/** Units that are meant where none is written. Common practice, no source. */
const MEANT: readonly [RegExp, string][] = [
  [/temp/i, '°C'], [/humid/i, '%'], [/press/i, 'hPa'], [/volt/i, 'V'], [/light|lux/i, 'lux'], [/co2|carbon/i, 'ppm'],
]

/** `Temp (°C)` → its name and its unit. */
export function nameAndUnit(head: string): { name: string, unit: string } {
  const bracket = /^(.*?)\s*[([]([^)\]]{1,8})[)\]]$/.exec(head.trim())
  if (bracket?.[1]) return { name: bracket[1], unit: bracket[2]!.replace(/^°?C$/, '°C') }
  const ending = ENDINGS.find(([pattern]) => pattern.test(head))
  if (ending) return { name: head.trim().replace(ending[0], ''), unit: ending[1] }
  return { name: head.trim(), unit: MEANT.find(([pattern]) => pattern.test(head))?.[1] ?? '' }
}

function curvesOf(rows: readonly Row[], times: string, stray: number): CurvesRead {
  const names = [...new Set(rows.flatMap(({ values }) => [...values.keys()]))]
  const known = rows.filter(({ at }) => at !== null)
  const elapsed = known.length === rows.length && rows.length ? fromFirst(rows.map(({ at }) => at!)) : null
  let said: string
  if (elapsed) said = times
  else said = known.length
    ? 'its times go back: one second from row to row is taken'
    : 'no times in it: one second from row to row'
  const curves = names.flatMap((name): MeasuredCurve[] => {
    const seconds: number[] = []
    const values: number[] = []
    let unit = ''
    for (const [i, row] of rows.entries()) {
      const value = row.values.get(name)
      if (value === undefined) continue
      seconds.push(Number((elapsed?.[i] ?? i).toFixed(3)))
      values.push(value)
      unit ||= row.units.get(name) ?? ''
    }
    return values.length < MIN ? [] : [thousandths({ name, unit, seconds, values })]
  })
  return { curves, times: curves.length ? said : '', stray }
}

/** Files of the kernel give thousandths of a degree. Published: Linux, Documentation/hwmon/sysfs-interface. */
function thousandths(curve: MeasuredCurve): MeasuredCurve {
  const { name, unit, values } = curve
  // Without a name they are taken for it only where a processor's can lie.
  const [min, max] = /temp|°C/i.test(`${name} ${unit}`)
    ? [1000, Infinity]
    : name === 'value' ? [10_000, 125_000] : [Infinity, 0]
  const isThousandths = values.some(value => value !== 0)
    && values.every(value =>
      Number.isInteger(value) && (value === 0 || (Math.abs(value) >= min && Math.abs(value) <= max)))
  return isThousandths
    ? { ...curve, unit: '°C', name: name === 'value' ? 'temperature' : name, values: values.map(value => value / 1000) }
    : curve
}

/** Columns of one name are told apart by their number. */
function unlike<T extends { name: string }>(columns: readonly T[]): T[] {
  const count = new Map<string, number>()
  return columns.map((column) => {
    const nth = (count.get(column.name) ?? 0) + 1
    count.set(column.name, nth)
    return nth === 1 ? column : { ...column, name: `${column.name} ${nth}` }
  })
}

const number = (text: string, comma: boolean): number | null => {
  const plain = comma ? text.trim().replace(',', '.') : text.trim()
  return /^[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d+)?$/i.test(plain) ? Number(plain) : null
}

function fromTable(text: string): CurvesRead | null {
  const { data, meta } = Papa.parse<string[]>(text, { skipEmptyLines: 'greedy' })
  const wide = data[0]?.length ?? 0
  if (wide < 2 || data.length < MIN || data.filter(row => row.length === wide).length < data.length * 0.8) return null
  const comma = meta.delimiter !== ','
  const isFigure = (cell: string) => number(cell, comma) !== null || clockSeconds(cell) !== null
  const hasHead = data[0]!.some(cell => cell.trim() !== '' && !isFigure(cell))
  // Words in every row are a sentence, not a table.
  if (data.slice(hasHead ? 1 : 0).every(row => row.every(cell => !isFigure(cell)))) return null
  const head = hasHead ? data[0]!.map(cell => cell.trim()) : data[0]!.map((_, i) => `column ${i + 1}`)
  const body = hasHead ? data.slice(1) : data
  const isClock = (i: number) => body.length > 0 && body.every(row => clockSeconds(row[i] ?? '') !== null)
  const timeAt = head.findIndex((name, i) => isClock(i) || (hasHead && isTimeName(name)))
  const units = unlike(head.map(nameAndUnit))
  let stray = 0
  let per: number | null = null
  const rows = body.flatMap((cells): Row[] => {
    const values = new Map<string, number>()
    const own = new Map<string, string>()
    for (const [i, cell] of cells.entries()) {
      const value = number(cell, comma)
      if (i === timeAt || value === null || !units[i]) continue
      values.set(units[i].name, value)
      own.set(units[i].name, units[i].unit)
    }
    const stamp = timeAt < 0 ? null : cells[timeAt] ?? ''
    const figure = stamp === null ? null : number(stamp, comma)
    if (figure !== null) per ??= secondsPer(head[timeAt]!, figure)
    let at: number | null
    if (stamp === null) at = null
    else at = figure === null ? clockSeconds(stamp) : figure * per!
    if (!values.size) stray++
    return values.size ? [{ at, values, units: own }] : []
  })
  return curvesOf(rows, timeAt < 0 ? '' : `times from "${head[timeAt]}"`, stray)
}

function fromJson(text: string): CurvesRead | null {
  if (!/^[[{]/.test(text)) return null
  let found: unknown[]
  try {
    const whole: unknown = JSON.parse(text)
    found = Array.isArray(whole) ? whole : columnsIn(whole) ?? listIn(whole) ?? [whole]
  }
  catch {
    // Not one value: perhaps one on each line.
    const lines = text.split(/\r?\n/).filter(line => line.trim())
    const read = lines.map((line): unknown => {
      try {
        return JSON.parse(line)
      }
      catch {
        return undefined
      }
    })
    if (read.filter(entry => typeof entry === 'object' && entry !== null).length < lines.length * 0.8) return null
    found = read
  }
  let stray = 0
  let timeName = ''
  const rows = found.flatMap((entry): Row[] => {
    const row: Row = { at: null, values: new Map(), units: new Map() }
    for (const { path, value, unit } of leavesOf(entry)) {
      const name = path.at(-1) ?? 'value'
      const clock = typeof value === 'string' ? clockSeconds(value) : null
      const isTime = path.length <= 1 && isTimeName(name)
      if (isTime && row.at === null && (clock !== null || typeof value === 'number')) {
        row.at = clock ?? (value as number) * secondsPer(name, value as number)
        timeName = name
      }
      else if (typeof value === 'number') {
        const { name: plain, unit: own } = nameAndUnit(path.filter(step => step !== 'parts').join(' ') || 'value')
        row.values.set(plain, value)
        row.units.set(plain, unit ?? own)
      }
    }
    if (!row.values.size) stray++
    return row.values.size ? [row] : []
  })
  return curvesOf(rows, `times from "${timeName}"`, stray)
}

/** An object of lists as long as each other, one for each quantity: `{ "t": [ … ], "v": [ … ] }`. */
function columnsIn(whole: unknown): unknown[] | null {
  if (typeof whole !== 'object' || whole === null) return null
  const columns = Object.entries(whole).filter((entry): entry is [string, unknown[]] => Array.isArray(entry[1])
    && entry[1].every(value => typeof value !== 'object'))
  const long = columns[0]?.[1].length ?? 0
  if (long < MIN || columns.some(([, list]) => list.length !== long)) return null
  return Array.from({ length: long }, (_, i) => Object.fromEntries(columns.map(([name, list]) => [name, list[i]])))
}

/** The list in an object that has just one: `{ "readings": [ … ] }`. */
function listIn(whole: unknown): unknown[] | null {
  if (typeof whole !== 'object' || whole === null) return null
  const lists = Object.values(whole).filter(Array.isArray)
  return lists.length === 1 && typeof lists[0]![0] === 'object' ? lists[0]! as unknown[] : null
}

interface Leaf { path: string[], value: unknown, unit?: string }

/** Values in an object with the way to each; `{ "value": 21.3, "unit": "°C" }` is one of them. */
function leavesOf(entry: unknown, path: readonly string[] = []): Leaf[] {
  if (typeof entry !== 'object' || entry === null) return [{ path: [...path], value: entry }]
  if ('value' in entry) {
    const { unit } = entry as { unit?: unknown }
    return [{ path: [...path], value: entry.value, ...typeof unit === 'string' && { unit } }]
  }
  return path.length > 6 ? [] : Object.entries(entry).flatMap(([name, value]) => leavesOf(value, [...path, name]))
}

/** `name 21.3 °C`, `temp=48.3'C`, `volt: 5.02V`. */
const PAIR = /([A-Za-zµ][\w µ-]*?)\s*[:= ]\s*([-+]?\d+(?:\.\d+)?)\s*(°C|'C|%|hPa|lux|ppm|mm|mV|V|mA|A|W|g|µT|counts)?(?=$|[\s,;])/g
const STAMP = /^\[?\s*((?:\d{4}-\d\d-\d\d[T ])?\d{1,2}:\d\d:\d\d(?:[.,]\d+)?Z?|\d+\.\d{3,})\s*\]?\s*(?:s\b)?[ ,;]*/

function fromLines(text: string): CurvesRead {
  let stray = 0
  const rows = text.split(/\r?\n/).flatMap((line): Row[] => {
    if (!line.trim()) return []
    const row: Row = { at: null, values: new Map(), units: new Map() }
    const stamp = STAMP.exec(line)
    const rest = stamp ? line.slice(stamp[0].length) : line
    if (stamp && rest.trim()) row.at = clockSeconds(stamp[1]!) ?? Number(stamp[1])
    const said = row.at === null ? line : rest
    const plain = number(said, false)
    if (plain !== null) row.values.set('value', plain)
    else for (const [, name, value, unit] of said.matchAll(PAIR)) {
      const { name: short, unit: meant } = nameAndUnit(name!)
      row.values.set(short, Number(value))
      row.units.set(short, unit?.replace('\'C', '°C') ?? meant)
    }
    if (!row.values.size) stray++
    return row.values.size ? [row] : []
  })
  return curvesOf(rows, 'times at the head of its lines', stray)
}
