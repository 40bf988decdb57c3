/** A sheet as a picture of its own, for paper: nothing in it comes from a style sheet. */
import { escapeMarkup } from '../documents/markup'
import type { PlacedBody } from './bodies'
import { runOf, type Run } from './runs'
import type { Sheet } from './seen'

export type Stand = 'there' | 'now' | 'later'

const MARGIN_MM = 4

/**
 * Text of an SVG document, in mm. What is new is drawn strong, what is to come is left out. `runs`: on a sheet with
 * lanes for them.
 */
export function svgOf(sheet: Sheet, standOf: (body: PlacedBody) => Stand, letterMm = 5, runs: readonly Run[] = [],
): string {
  const shapes = sheet.shapes.filter(({ body }) => standOf(body) !== 'later')
    .map(({ body, x, y, width, height, round }) => {
      const isNew = standOf(body) === 'now'
      let fill: '#f6e3d6' | '#777777' | '#eef4ee' | '#f4f4f4'
      if (isNew) fill = '#f6e3d6'
      else if (body.kind === 'pins' || body.kind === 'wire') fill = '#777777'
      else fill = body.kind === 'board'
        ? '#eef4ee'
        : '#f4f4f4'
      const stroke = isNew ? '#9c4a1f' : '#555555'
      const radius = round ? width / 2 : 0
      const max = Math.floor(width / (letterMm * 0.55))
      const isNamed = !body.id.includes('.')
        && !['wire', 'pins', 'board', 'spacer', 'plate', 'plug', 'cable', 'film'].includes(body.kind)
        && height > letterMm * 1.1 && max > 2
      const name = body.name.length <= max ? body.name : `${body.name.slice(0, Math.max(1, max - 1))}…`
      const place = `x="${mm(x)}" y="${mm(y)}" width="${mm(width)}" height="${mm(height)}" rx="${mm(radius)}"`
      return `<rect ${place} fill="${fill}" stroke="${stroke}" `
        + `stroke-width="${isNew ? 1.2 : 0.4}"/>`
        + (isNamed
          ? `<text x="${mm(x + 1)}" y="${mm(y + letterMm)}" font-size="${letterMm}" `
          + `fill="#111111">${escapeMarkup(name)}</text>`
          : '')
    })
  const ways = runs.flatMap((run, i) => {
    const way = standOf(run.body) === 'later' || standOf(run.starts[0]!) === 'later'
      ? null
      : runOf(run, i, runs.length, sheet)
    const isNew = standOf(run.body) === 'now'
    return way
      ? [`<polyline points="${way.map(point => point.map(mm).join()).join(' ')}" fill="none" `
        + `stroke="${isNew ? '#9c4a1f' : '#777777'}" stroke-width="${isNew ? 2 : 1.2}"/>`]
      : []
  })
  const box = [sheet.x - MARGIN_MM, sheet.y - MARGIN_MM, sheet.width + 2 * MARGIN_MM, sheet.height
    + 2 * MARGIN_MM].map(mm)
  const drawn = [...shapes, ...ways].join('')
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${box.join(' ')}" `
    + `width="${box[2]}" height="${box[3]}">${drawn}</svg>`
}

const mm = (value: number) => Number(value.toFixed(2))
