/**
 * Whose a parameter below an overlay is: the one law of it, for lint, explanation, writing, checking and rehearsal.
 *
 * A `dtparam` after a `dtoverlay` is offered to that overlay first: a name that the overlay has goes to it, one that it
 * does not have falls through to the base tree, and only what neither has is lost. The scope ends with the next
 * overlay, an empty `dtoverlay=` or a heading. memory
 */
import { readBlob } from '../../devicetree/blob/read'
import { parametersOf } from '../../devicetree/overlay/params'
import { compileText } from '../../devicetree/source/compile'
import { DeviceTreeError } from '../../devicetree/types'
import { bytesOf } from '../bytes'
import type { BootLine, BootParam } from '../dialects/key-value'
import { listedName, overlayNamed } from '../../overlays/library'
import { BASE_PARAMS } from '../../overlays/library/settings'
import { append } from '../../collections/append'

/** An overlay of the maker's own, by the name that the boot file calls it. */
export interface OwnOverlay {
  name: string
  kind: 'source' | 'blob'
  /** Source text, or the blob in base64. */
  content: string
}

export type ParamOwner
  = | 'overlay'
    | 'base'
  /** Neither the overlay nor the base tree has the name. */
    | 'nobody'
  /** The overlay is not known here, so that it may well have the name. */
    | 'unknown'

const BASE = new Map(BASE_PARAMS.map(param => [param.name, param]))

/** The one name of a base parameter that has several; other names come back as they are. */
export const canonicalParam = (name: string): string => BASE.get(name)?.same ?? name

/** Names that the maker's own overlays give parameters, by content: reading one takes long. The oldest goes first. */
const read = new Map<string, readonly string[] | null>()
const MAX_READ = 40

function ownParameters({ kind, content }: OwnOverlay): readonly string[] | null {
  const key = `${kind} ${content}`
  const before = read.get(key)
  if (before !== undefined) return before
  let names: readonly string[] | null
  try {
    names = [...parametersOf(kind === 'source' ? compileText(content, { symbols: true }) : readBlob(bytesOf(content)))]
  }
  catch (error) {
    if (!(error instanceof DeviceTreeError)) throw error
    // What is wrong with the file is told by the rehearsal, which loads it.
    names = null
  }
  if (read.size >= MAX_READ) read.delete(read.keys().next().value!)
  read.set(key, names)
  return names
}

/** Whose the parameter is, below the overlay; `''` for none above it. */
export function ownerOf(param: string, overlay: string, own: readonly OwnOverlay[] = []): ParamOwner {
  const inBase = BASE.has(param)
  if (overlay === '') return inBase ? 'base' : 'nobody'
  const mine = own.find(entry => entry.name === overlay)
  const spec = mine ? undefined : overlayNamed(overlay)
  const names = mine ? ownParameters(mine) : spec?.params.map(entry => entry.name) ?? null
  if (names?.includes(spec ? listedName(spec, param) : param)) return 'overlay'
  if (inBase) return 'base'
  return names ? 'nobody' : 'unknown'
}

/** Parameters of an overlay's line, with those of the `dtparam` lines below it that are the overlay's. */
export function paramsOfOverlay(lines: readonly BootLine[], at: number, own: readonly OwnOverlay[] = []): BootParam[] {
  const overlay = lines[at]!
  const found = [...overlay.params!]
  for (const line of lines.slice(at + 1)) {
    if (line.kind === 'overlay' || line.kind === 'filter') break
    if (line.kind === 'param') {
      append(found, line.params!.filter(param =>
        ['overlay', 'unknown'].includes(ownerOf(param.name, overlay.name!, own))))
    }
  }
  return found
}
