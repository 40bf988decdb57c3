/** A node's figures: the file's, or the maker's in their place; what cannot be is said and not used. */
import type { Origin } from '../../catalogue/types'
import type { NodeRef } from '../../plan/power'
import { FIGURES, KINDS, type NodeKind } from './kinds'
import type { NodeFigure, TreeProblem } from './types'

/** A surge whose length no file gives, in s. Memory. */
export const USUAL_SURGE_S = 0.01

/** What a file says of where its figures come from. */
export interface Origins { origin: Origin, origins?: Readonly<Record<string, Origin>> }

export const originOf = ({ origin, origins }: Origins, figure: string): Origin => origins?.[figure] ?? origin

/** Figures that say how a thing is laid, not what it is: they have no origin until the maker gives one. */
const AS_LAID: ReadonlySet<string> = new Set(['measuredOhm', 'bundledPairs'])

/**
 * Figures with the maker's own in place of the file's. Own figures outside their range become problems and are left
 * out; those that its kind does not have are kept in the plan and not looked at.
 */
export function figuresOf(node: NodeRef, kind: NodeKind, file: Record<string, number>, from: Origins,
  own: Record<string, number>
    | undefined, problems: TreeProblem[]): Record<string, NodeFigure> {
  const figures: Record<string, NodeFigure> = {}
  for (const [name, value] of Object.entries(file)) figures[name] = { value,
    origin: AS_LAID.has(name) ? '' : originOf(from, name) }
  for (const [name, value] of Object.entries(own ?? {})) {
    const spec = FIGURES[name]
    if (!spec || !KINDS[kind].figures.includes(name)) continue
    if (!Number.isFinite(value) || value < spec.min
      || value > spec.max) problems.push({ kind: 'absurd', node, figure: name, value })
    else figures[name] = { value, origin: 'yours' }
  }
  return figures
}
