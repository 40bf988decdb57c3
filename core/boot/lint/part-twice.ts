/** A part that two overlays load: the one that Voltaris makes for it, and one of the library. */
import { listedName, overlayNamed } from '../../overlays/library'
import type { Asked } from '../scope/effective'
import type { LintFinding, LintRule, PlanSide } from './types'
import { commentOut, found } from './words'

type Line = Extract<Asked, { kind: 'overlay' }>

/**
 * True when a line of the library loads what the part's file asks for: the same overlay, for the same kind of part
 * where it has kinds.
 */
function loads(line: Line, { library }: PlanSide['loads'][number]): boolean {
  const spec = overlayNamed(line.name)
  return library.some((need) => {
    if (!spec || overlayNamed(need.name) !== spec) return false
    const kinds = Object.keys(need.params ?? {}).filter(name => spec.choices && Object.hasOwn(spec.choices, name))
    return kinds.every(kind => line.params.some(param => listedName(spec, param.name) === kind))
  })
}

export const loadedTwice: LintRule = ({ effective, files, plan }) => {
  if (!plan) return []
  const lines = effective.asked.filter((asked): asked is Line => asked.kind === 'overlay' && asked.applies === 'always')
  const shadowed = new Set(files.overlays?.map(overlay => overlay.name))
  return plan.loads.flatMap((part): LintFinding[] => {
    const made = lines.find(line => line.name === part.made)
    const library = made && lines.find(line => !shadowed.has(line.name) && loads(line, part)
      // Another part of the plan may ask for the same line.
      && !plan.needs.some(need =>
        need.need.kind === 'overlay' && need.need.name === line.name && !need.partIds.includes(part.partId)))
    if (!made || !library) return []
    const [surplus, kept] = part.isMade ? [library, made] : [made, library]
    return [found(
      'overlay.part-twice', 'caution', surplus.where, `${part.name} is loaded twice`,
      `Line ${made.where.line} loads the overlay made for it, line ${library.where.line} one of the `
      + 'library for the same part: its node is there twice or mixed of both, and the second driver is '
      + `refused. Keep line ${kept.where.line}.`,
      { partIds: [part.partId],
        fixes: [commentOut(`Make line ${surplus.where.line} a comment`, files, surplus.where)] },
    )]
  })
}
