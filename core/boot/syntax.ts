/**
 * The key-value boot file with section filters, read line by line without losing a byte.
 * Law: `printBoot(parseBoot(text)) === text` for every text.
 */

export interface BootParam {
  name: string
  /** Empty when the parameter stands alone, which means `on`. */
  value: string
}

export interface BootLine {
  /** 1-based. */
  number: number
  text: string
  /** `\n`, `\r\n`, or empty at the end of a file without a last newline. */
  ending: string
  kind: 'blank' | 'comment' | 'filter' | 'param' | 'overlay' | 'setting' | 'include' | 'unknown'
  /** Key of a setting, name of an overlay, filter without its brackets, file of an include. */
  name?: string
  /** Value of a setting. */
  value?: string
  params?: BootParam[]
  /** `always` under `[all]` or before any filter, `never` under `[none]`, `sometimes` under any other. */
  applies: 'always' | 'never' | 'sometimes'
  filter: string
  /** For a parameter: the overlay it belongs to; empty for the base tree. */
  overlay: string
}

type Read = Pick<BootLine, 'kind' | 'name' | 'value' | 'params'>

/** Reads a boot file. Never fails: what it does not know is `unknown` and kept. */
export function parseBoot(text: string): BootLine[] {
  const lines: BootLine[] = []
  let filter = 'all'
  let overlay = ''
  for (const [i, match] of [...text.matchAll(/([^\n]*?)(\r?\n|$)/g)].entries()) {
    const [whole, line = '', ending = ''] = match
    if (whole === '' && match.index === text.length) break
    const read = readLine(i === 0 ? line.replace(/^\uFEFF/, '') : line)
    if (read.kind === 'filter') filter = read.name!
    // A filter closes the overlay above it as well: what follows may be loaded without it.
    if (read.kind === 'filter') overlay = ''
    if (read.kind === 'overlay') overlay = read.name!
    lines.push({
      number: i + 1, text: line, ending, ...read, filter, overlay,
      applies: filter === 'all' ? 'always' : filter === 'none' ? 'never' : 'sometimes',
    })
  }
  return lines
}

/** The text the lines were read from. */
export function printBoot(lines: BootLine[]): string {
  return lines.map(line => line.text + line.ending).join('')
}

function readLine(line: string): Read {
  const text = line.trim()
  if (!text) return { kind: 'blank' }
  if (text.startsWith('#')) return { kind: 'comment' }
  const filter = /^\[([^\]]*)\]$/.exec(text)
  if (filter) return { kind: 'filter', name: filter[1]!.trim().toLowerCase() }
  const include = /^include\s+(\S+)$/.exec(text)
  if (include) return { kind: 'include', name: include[1] }
  const at = text.indexOf('=')
  if (at <= 0) return { kind: 'unknown' }
  const key = text.slice(0, at).trim()
  const value = text.slice(at + 1).trim()
  if (key === 'dtparam') return { kind: 'param', params: readParams(value) }
  if (key === 'dtoverlay') {
    const [name = '', ...rest] = value.split(',')
    return { kind: 'overlay', name: name.trim(), params: readParams(rest.join(',')) }
  }
  return { kind: 'setting', name: key, value }
}

function readParams(text: string): BootParam[] {
  if (!text.trim()) return []
  return text.split(',').map((entry) => {
    const at = entry.indexOf('=')
    return at < 0 ? { name: entry.trim(), value: '' } : { name: entry.slice(0, at).trim(), value: entry.slice(at + 1).trim() }
  })
}
