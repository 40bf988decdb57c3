/** What each line of the files does, in words, what of it is at a place under the pointer, and whom it serves. */
import type { Board, Origin } from '../catalogue/types'
import { parseMenu } from './dialects/extlinux'
import { DIRECTIVE_WORDS } from '../overlays/library/directives'
import { parseBoot, type BootLine } from './dialects/key-value'
import { parseCommandLine } from './dialects/command-line'
import { parseEnvironment } from './dialects/environment'
import { appearsOf, claimsOf, overlayNamed, resolveOverlay, SETTING_SPECS } from '../overlays/library'
import { BASE_PARAMS, COMMAND_WORDS, ENVIRONMENT } from '../overlays/library/settings'
import type { Resolved } from '../overlays/library'
import { COMMAND_FILE, type BootFiles } from './scope/effective'
import { filtersOf } from './scope/filters'
import { ownerOf, type OwnOverlay } from './scope/ownership'
import { readOwned } from './own/block'
import { busName } from './lint/order'

export interface Explained {
  file: string
  line: number
  /** The line as it stands, shortened. */
  text: string
  words: string
  origin?: Origin
  /** Parts of the plan it was written for. */
  partIds: string[]
  /** Owned lines: as written, changed by hand, or switched off. */
  owned?: 'written' | 'by-hand' | 'off'
  applies: 'always' | 'never' | 'sometimes'
}

const shortened = (text: string) => text.trim().length > 80 ? `${text.trim().slice(0, 77)}…` : text.trim()

/** Every line that says something, of the boot file and the command line, in order. */
export function explainFiles(files: BootFiles, board: Board | null): Explained[] {
  const owned = new Map(readOwned(files.text, files.dialect).map(entry => [entry.line, entry]))
  let lines
  if (files.dialect === 'key-value') lines = keyValueLines(files.text, board, files.overlays)
  else lines = files.dialect === 'extlinux'
    ? menuWords(files.text)
    : environmentWords(files.text)
  const boot = lines.map((line) => {
    const mine = owned.get(line.line)
    return mine ? { ...line, partIds: mine.partIds, owned: mine.state } : line
  })
  return [...boot, ...commandWords(files.commandLine ?? '')]
}

/** What the place in the text says: the parameter under the pointer, else the whole line. Null on blank ground. */
export function explainAt(files: BootFiles, board: Board | null, line: number, column: number): {
  from: number
  to: number
  words: string
  origin?: Origin
}
| null {
  if (files.dialect !== 'key-value') {
    const whole = explainFiles({ ...files, commandLine: '' }, board).find(entry => entry.line === line)
    return whole
      ? { from: 0, to: Number.MAX_SAFE_INTEGER, words: whole.words,
          ...(whole.origin && { origin: whole.origin }) }
      : null
  }
  const lines = parseBoot(files.text, filtersOf(board))
  const entry = lines[line - 1]
  if (!entry || entry.kind === 'blank') return null
  const param = entry.params?.find(item => column >= item.from && column < item.to)
  if (param) {
    const spec = specOf(entry, param.name, files.overlays)
    if (spec) return { from: param.from, to: param.to, words: `${param.name}: ${spec.what}${limits(spec)}`,
      origin: 'memory' }
  }
  const said = keyValueLine(entry, board, files.overlays)
  return { from: 0, to: entry.text.length, words: said.words, ...(said.origin && { origin: said.origin }) }
}

function limits({ default: standard, min, max, values }: {
  default?: string
  min?: number
  max?: number
  values?: readonly string[]
}): string {
  let range: string
  if (values) range = `one of ${values.join(', ')}`
  else range = min !== undefined && max !== undefined ? `${min} to ${max}` : ''
  return [range, standard === undefined ? '' : `${standard} where nothing is said`].filter(Boolean)
    .map(text => `; ${text}`).join('')
}

function keyValueLines(text: string, board: Board | null, own: readonly OwnOverlay[] | undefined): Explained[] {
  return parseBoot(text, filtersOf(board)).flatMap((line) => {
    if (line.kind === 'blank' || line.kind === 'comment') return []
    const { words, origin } = keyValueLine(line, board, own)
    return [{
      file: '', line: line.number, text: shortened(line.text), words, ...(origin && { origin }), partIds: [],
      applies: line.applies,
    }]
  })
}

function keyValueLine(line: BootLine, board: Board | null,
  own: readonly OwnOverlay[] | undefined): { words: string, origin?: Origin } {
  let hidden: string
  if (line.applies === 'never') hidden = ' Hidden from this board by the section.'
  else hidden = line.applies === 'sometimes' && line.kind !== 'filter'
    ? ` Only where [${line.filter}] holds.`
    : ''
  switch (line.kind) {
    case 'comment': return { words: 'A comment: nothing reads it.' }
    case 'filter': {
      if (line.name === 'all') return { words: 'From here on for every board.' }
      if (line.name === 'none') return { words: 'From here on for no board.' }
      const mine = board?.bootModels?.includes(line.name!) ? ', which is this board' : ''
      return { words: `From here on only where [${line.name}] holds${mine}.` }
    }
    case 'include': return { words: `Reads ${line.name} here.${hidden}` }
    case 'setting': {
      const spec = SETTING_SPECS.get(line.name!)
      return spec
        ? {
            words: `${upper(spec.what)}: `
              + `${spec.kind === 'switch' && /^[01]$/.test(line.value!)
                ? (line.value === '1' ? 'on' : 'off')
                : line.value}${spec.unit ? ` ${spec.unit}` : ''}.${hidden}`,
            origin: spec.origin,
          }
        : { words: `Not in the library; kept as it is.${hidden}` }
    }
    case 'param': return { words: line.params!.map(param => paramWords(line, param, own)).join(' ') + hidden,
      origin: 'memory' }
    case 'overlay': {
      if (!line.name) return { words: `Ends the overlay above: parameters below belong to the base tree again.${hidden}` }
      const spec = overlayNamed(line.name)
      if (!spec) return { words: `Loads the overlay ${line.name}, which is not in the library.${hidden}` }
      const resolved = resolveOverlay(spec, line.params!)
      return {
        words: `${upper(spec.what)}. ${claimWords(resolved, board)}${spec.caution ? ` ${spec.caution}` : ''}${hidden}`,
        origin: spec.origin,
      }
    }
    default: return { words: 'No line that the firmware knows; kept as it is.' }
  }
}

const upper = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

/** What a parameter is for, by the law of ownership; undefined where nobody known has it. */
function specOf(line: BootLine, name: string, own: readonly OwnOverlay[] | undefined) {
  const owner = line.kind === 'overlay' ? 'overlay' : ownerOf(name, line.overlay, own)
  return owner === 'overlay' || owner === 'unknown'
    ? overlayNamed(line.overlay)?.params.find(item => item.name === name)
    : BASE_PARAMS.find(item => item.name === name)
}

function paramWords(line: BootLine, { name, value }: { name: string, value: string },
  own: readonly OwnOverlay[] | undefined): string {
  switch (ownerOf(name, line.overlay, own)) {
    case 'base': return baseParam(name, value)
    case 'nobody': return line.overlay
      ? `${name}: neither ${line.overlay} nor the base tree has it.`
      : `${name}: not in the library.`
    default: return ownParam(line.overlay, name, value)
  }
}

function ownParam(overlay: string, name: string, value: string): string {
  const spec = overlayNamed(overlay)?.params.find(param => param.name === name)
  return `For ${overlay}: ${name}${value ? ` = ${value}` : ''}${spec ? `, ${spec.what}` : ''}.`
}

function baseParam(name: string, value: string): string {
  const spec = BASE_PARAMS.find(param => param.name === name)
  if (!spec) return `${name}: not in the library.`
  return spec.kind === 'flag'
    ? `${upper(spec.what)}: ${/^(off|no|false|0|n)$/i.test(value) ? 'off' : 'on'}.`
    : `${upper(spec.what)}: ${value}.`
}

/** What an overlay takes and brings, in a sentence or two. */
export function claimWords(resolved: Resolved, board: Board | null): string {
  const claims = claimsOf(resolved, board)
  const lines = [...new Set(claims.flatMap(claim => claim.kind === 'line' ? claim.line : []))].sort((a, b) => a - b)
  const buses = [...new Set(claims.flatMap(claim =>
    claim.kind === 'bus' || claim.kind === 'enables' ? busName(claim.bus) : []))]
  const address = claims.find(claim => claim.kind === 'address')
  const circuits = claims.flatMap(claim => claim.kind === 'circuit' ? claim.name : [])
  const takes = [...new Set([
    ...lines.length ? [`${lines.length === 1 ? 'line' : 'lines'} ${ranges(lines)}`] : [], ...buses,
    ...address?.kind === 'address' ? [`address 0x${address.address.toString(16)}`] : [], ...circuits,
  ])]
  const appears = appearsOf(resolved).map(entry => entry.path)
  return [takes.length ? `Takes ${takes.join(', ')}.` : '', appears.length
    ? `Brings ${appears.join(', ')}.`
    : ''].filter(Boolean).join(' ')
}

function ranges(lines: number[]): string {
  const parts: [number, number][] = []
  for (const line of lines) {
    const last = parts.at(-1)
    if (last && last[1] === line - 1) last[1] = line
    else parts.push([line, line])
  }
  return parts.map(([from, to]) => from === to ? String(from) : `${from}–${to}`).join(', ')
}

function menuWords(text: string): Explained[] {
  return parseMenu(text).flatMap((line) => {
    if (line.kind === 'blank' || line.kind === 'comment') return []
    const spec = DIRECTIVE_WORDS[line.keyword!]
    return [{
      file: '', line: line.number, text: shortened(line.text),
      words: spec ? `${upper(spec.what)}.` : 'No directive that the loader knows.',
      origin: 'published: U-Boot documentation', partIds: [], applies: 'always' as const,
    }]
  })
}

function environmentWords(text: string): Explained[] {
  return parseEnvironment(text).flatMap((line) => {
    if (line.kind === 'blank' || line.kind === 'comment') return []
    let words: string
    if (line.kind === 'unknown') words = 'No key=value.'
    else if (ENVIRONMENT[line.name!]) words = `${upper(ENVIRONMENT[line.name!]!)}.`
    else words = line.name!.startsWith('param_')
      ? `A parameter of an overlay: ${line.name!.slice(6)} = ${line.value}.`
      : 'Not in the library; kept as it is.'
    return [{ file: '', line: line.number, text: shortened(line.text), words, origin: 'practice', partIds: [],
      applies: 'always' as const }]
  })
}

const meaningOf = (name: string) => {
  if (COMMAND_WORDS[name]) return `${upper(COMMAND_WORDS[name]!)}.`
  return name.includes('.')
    ? `A parameter of the driver ${name.split('.')[0]}.`
    : 'Not in the library; handed to the first program.'
}

function commandWords(text: string): Explained[] {
  return parseCommandLine(text).words.map(({ name, value }) => ({
    file: COMMAND_FILE, line: 1, text: shortened(value === null ? name : `${name}=${value}`),
    words: meaningOf(name),
    origin: 'published: Linux kernel, command-line parameters', partIds: [], applies: 'always' as const,
  }))
}
