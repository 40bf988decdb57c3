/** Sizes that the maker measured at a thing: they stand in for those of its file, and say so. */
import type { Board, Part } from '../catalogue/types'
import type { Body } from '../catalogue/shapes/body'
import type { Plan } from '../plan/types'

export const BOARD_KEY = '@board'
type Sizes = Plan['build']['measured'][string]

const FIGURES = ['widthMm', 'depthMm', 'aboveMm', 'belowMm'] as const

/** A body with measured sizes; one that its file knows nothing of needs width, depth and height. */
function withSizes(body: Body | undefined, sizes: Sizes): Body | undefined {
  const own = Object.fromEntries(FIGURES.flatMap(name =>
    sizes[name] === undefined ? [] : [[name, sizes[name]]])) as Partial<Body>
  if (!body) {
    const { widthMm, depthMm, aboveMm } = own
    return widthMm && depthMm && aboveMm !== undefined
      ? { ...own, widthMm, depthMm, aboveMm, origin: 'measured' }
      : undefined
  }
  if (!Object.keys(own).length) return body
  return { ...body, ...own,
    origins: { ...body.origins, ...Object.fromEntries(Object.keys(own).map(name => [name, 'measured'])) } }
}

/** The part as it was measured. Of a cooler the measured height counts from the board, as in its file. */
export function measuredPart(part: Part, sizes: Sizes | undefined): Part {
  if (!sizes || !Object.keys(sizes).length) return part
  const { thing } = part
  const height = thing?.cooler !== undefined && thing.enclosure === undefined ? sizes.aboveMm : undefined
  const lid = thing?.enclosure !== undefined ? sizes.lidMm : undefined
  return {
    ...part, body: withSizes(part.body, sizes),
    ...thing && (height || lid)
      ? { thing: { ...thing, ...height && { heightMm: height }, ...lid && { lidMm: lid }, origin: 'measured' } }
      : {},
  }
}

export const measuredBoard = (board: Board | null, sizes: Sizes | undefined): Board | null =>
  board && sizes && Object.keys(sizes).length ? { ...board, body: withSizes(board.body, sizes) } : board
