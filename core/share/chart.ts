/** Curves as a picture that stands by itself, with axes, units and a legend; and as a table for a spreadsheet. */
import Papa from 'papaparse'
import { escapeMarkup as escape } from '../documents/markup'

export interface ChartCurve {
  label: string
  unit: string
  points: readonly { x: number, y: number }[]
  /** As CSS writes it. */
  colour: string
  dashed?: boolean
  stepped?: boolean
  /** Its axis is the right one. */
  right?: boolean
}

const WIDTH = 760
const HEIGHT = 360
const LEFT = 62
const RIGHT = 62
const TOP = 54
const BOTTOM = 48

const short = (value: number): string => String(Number(value.toPrecision(6)))

/** Round steps of 1, 2 or 5 that part a range into about so many. */
export function ticksOf(min: number, max: number, about = 5): number[] {
  if (!(max > min)) return [min]
  const rough = (max - min) / about
  const power = 10 ** Math.floor(Math.log10(rough))
  const step = [1, 2, 5, 10].map(n => n * power).find(n => n >= rough * 0.999)!
  const first = Math.ceil(min / step - 1e-9)
  return Array.from({ length: Math.floor(max / step + 1e-9) - first + 1 },
    (_, i) => Number(((first + i) * step).toPrecision(12)))
}

/** SVG of the curves. Pure; empty curves give a picture without lines. */
export function curvesAsSvg(title: string, xLabel: string, curves: readonly ChartCurve[]): string {
  const all = curves.flatMap(curve => curve.points)
  const xs = range(all.map(point => point.x))
  const sides = ([false, true] as const).map((right) => {
    const mine = curves.filter(curve => (curve.right ?? false) === right)
    const span = range(mine.flatMap(curve => curve.points.map(point => point.y)))
    return { right, mine, span, units: [...new Set(mine.map(curve => curve.unit))].join(', ') }
  }).filter(side => side.mine.length)
  const x = (value: number) => LEFT + (value - xs.min) / (xs.max - xs.min) * (WIDTH - LEFT - RIGHT)
  const y = (value: number,
    span: Span) => HEIGHT - BOTTOM - (value - span.min) / (span.max - span.min) * (HEIGHT - TOP - BOTTOM)
  const grid = ticksOf(xs.min, xs.max, 7).map(value =>
    `<line x1="${short(x(value))}" y1="${TOP}" x2="${short(x(value))}" y2="${HEIGHT - BOTTOM}" stroke="#ddd"/>`
    + `<text x="${short(x(value))}" y="${HEIGHT - BOTTOM + 16}" text-anchor="middle">${short(value)}</text>`)
  const axes = sides.map(({ right, span, units }) => {
    const at = right ? WIDTH - RIGHT : LEFT
    const marks = ticksOf(span.min, span.max).map((value) => {
      const up = y(value, span)
      // Lines across belong to the left axis.
      const line = right
        ? ''
        : `<line x1="${LEFT}" y1="${short(up)}" x2="${WIDTH - RIGHT}" y2="${short(up)}" stroke="#ddd"/>`
      const [from, anchor] = right ? [at + 6, 'start'] : [at - 6, 'end']
      return `${line}<text x="${from}" y="${short(up + 4)}" text-anchor="${anchor}">${short(value)}</text>`
    })
    return marks.join('') + `<text x="${at}" y="${TOP - 8}" text-anchor="middle">${escape(units)}</text>`
  })
  const lines = sides.flatMap(({ mine, span }) => mine.map((curve) => {
    const path = curve.points.map((point, i) => {
      const to = `${short(x(point.x))},${short(y(point.y, span))}`
      const before = curve.points[i - 1]
      if (i === 0) return `M${to}`
      return curve.stepped && before ? `L${short(x(before.x))},${short(y(point.y, span))}L${to}` : `L${to}`
    }).join('')
    const dashes = curve.dashed ? ' stroke-dasharray="6 4"' : ''
    return `<path d="${path}" fill="none" stroke="${escape(curve.colour)}" stroke-width="2"${dashes}/>`
  }))
  const legend = curves.map((curve, i) => {
    const left = LEFT + i * 170
    return `<line x1="${left}" y1="30" x2="${left + 22}" y2="30" `
      + `stroke="${escape(curve.colour)}" `
      + `stroke-width="2"${curve.dashed ? ' stroke-dasharray="6 4"' : ''}/><text `
      + `x="${left + 28}" y="34">${escape(`${curve.label} (${curve.unit})`)}</text>`
  })
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${WIDTH} ${HEIGHT}" width="${WIDTH}" height="${HEIGHT}" `
    + `font-family="system-ui, sans-serif" font-size="11" fill="#222"><rect width="100%" height="100%" fill="#fff"/>`
    + `<text x="${LEFT}" y="17" font-size="13" font-weight="700">${escape(title)}</text>${legend.join('')}${grid.join('')}${axes.join('')}`
    + `${lines.join('')}<text x="${(LEFT + WIDTH - RIGHT) / 2}" y="${HEIGHT - 10}" text-anchor="middle">${escape(xLabel)}</text></svg>\n`
}

/** The table beside the curves, after RFC 4180. */
export const chartAsCsv = (columns: readonly string[], rows: readonly (readonly string[])[]): string =>
  Papa.unparse({ fields: [...columns], data: rows.map(row => [...row]) }, { escapeFormulae: true, newline: '\r\n' })
  + '\r\n'

interface Span { min: number, max: number }

/** From the least to the most; a range without width gets one. */
function range(values: readonly number[]): Span {
  if (!values.length) return { min: 0, max: 1 }
  const [min, max] = [Math.min(...values), Math.max(...values)]
  if (max > min) return { min, max }
  return { min: min - Math.max(1, Math.abs(min)) * 0.1, max: max + Math.max(1, Math.abs(max)) * 0.1 }
}
