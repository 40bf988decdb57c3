/**
 * What the loader is asked, in order, whatever the dialect: settings, parameters of the base tree, overlays with their
 * parameters, words for the kernel. Filters, the ownership of parameters, the entry that starts and included files are
 * worked out here, once for all.
 */
import type { Board } from '../../catalogue/types'
import { parseCommandLine } from '../dialects/command-line'
import { parseEnvironment } from '../dialects/environment'
import { parseMenu, SAME_DIRECTIVE, startedEntry } from '../dialects/extlinux'
import { parseBoot, readBoot, type BootLine } from '../dialects/key-value'
import { splitLines } from '../dialects/lines'
import type { Dialect } from '../dialects/tell'
import { filtersOf } from './filters'
import { ownerOf, type OwnOverlay } from './ownership'
import { COMMAND_FILE } from '../../plan/text'
import { append } from '../../collections/append'

export interface BootFiles {
  dialect: Dialect
  text: string
  path?: string
  commandLine?: string
  /** Files that `include` lines name. */
  includes?: Readonly<Record<string, string>>
  overlays?: readonly OwnOverlay[]
}

/** Where something stands: the boot file itself is `''`. Offsets count from the file's start. */
export interface Where {
  file: string
  line: number
  from: number
  to: number
}

export interface AskedParam {
  name: string
  value: string
  where: Where
}

export type Applies = 'always' | 'never' | 'sometimes'

export type Asked
  = | { kind: 'setting', name: string, value: string, applies: Applies, where: Where }
  /** `below`: it stands below this overlay, and neither that nor the base tree has the name. */
    | { kind: 'param', name: string, value: string, applies: Applies, where: Where, below?: string }
    | { kind: 'overlay', name: string, params: AskedParam[], applies: Applies, where: Where }
  /** A file that is included and not read: not here, within itself, too deep, or past what is read at all. */
    | { kind: 'missing-file', name: string, applies: Applies, where: Where, why?: 'ring' | 'deep' | 'many' }

export interface Effective {
  asked: Asked[]
  /** Words for the kernel, wherever the dialect keeps them. */
  words: { name: string, value: string | null, where: Where }[]
}

export { COMMAND_FILE }

/** Deepest nesting of included files, and how many are read in all: a file may be included more than once. */
const MAX_INCLUDES = 8
const MAX_READ = 64

export function effectiveOf(files: BootFiles, board: Board | null): Effective {
  switch (files.dialect) {
    case 'key-value': return { asked: keyValue(files, board), words: wordsIn(files.commandLine ?? '', COMMAND_FILE, 0) }
    case 'extlinux': return menu(files)
    case 'environment': return environment(files)
  }
}

function wordsIn(text: string, file: string, offset: number, line = 1): Effective['words'] {
  return parseCommandLine(text).words.map(({ name, value, from, to }) => ({
    name, value, where: { file, line, from: offset + from, to: offset + to },
  }))
}

const whole = (line: BootLine,
  file: string): Where => ({ file, line: line.number, from: line.from, to: line.from + line.text.length })

function keyValue(files: BootFiles, board: Board | null): Asked[] {
  const filters = filtersOf(board)
  const asked: Asked[] = []
  let readInAll = 0
  const read = (text: string, file: string, around: readonly string[], outer: Applies) => {
    let open: Extract<Asked, { kind: 'overlay' }> | null = null
    for (const line of around.length === 1 ? readBoot(text, filters) : parseBoot(text, filters)) {
      let applies: 'always' | 'never' | 'sometimes'
      if (outer === 'always') applies = line.applies
      else applies = line.applies === 'never' ? 'never' : outer
      const where = whole(line, file)
      if (line.kind === 'filter') open = null
      else if (line.kind === 'setting') asked.push({ kind: 'setting', name: line.name!, value: line.value!, applies,
        where })
      else if (line.kind === 'overlay') {
        open = null
        if (!line.name) continue
        open = { kind: 'overlay', name: line.name, applies, where, params: paramsOf(line, file) }
        asked.push(open)
      }
      else if (line.kind === 'param') {
        for (const param of paramsOf(line, file)) {
          const owner = ownerOf(param.name, open?.name ?? '', files.overlays)
          if (open && (owner === 'overlay' || owner === 'unknown')) open.params.push(param)
          else asked.push({ kind: 'param', ...param, applies, ...(open && owner === 'nobody' && { below: open.name }) })
        }
      }
      else if (line.kind === 'include') {
        const name = line.name!
        const included = files.includes && Object.hasOwn(files.includes, name) ? files.includes[name] : undefined
        let why: 'ring' | 'deep' | 'many' | undefined
        if (around.includes(name)) why = 'ring' as const
        else if (around.length > MAX_INCLUDES) why = 'deep' as const
        else why = readInAll >= MAX_READ ? 'many' as const : undefined
        if (included === undefined || why) {
          asked.push({ kind: 'missing-file', name, applies, where, ...included !== undefined && why && { why } })
        }
        else {
          readInAll++
          read(included, name, [...around, name], applies)
        }
      }
    }
  }
  read(files.text, '', [''], 'always')
  return asked
}

const paramsOf = (line: BootLine, file: string): AskedParam[] =>
  line.params!.filter(param => param.name)
    .map(({ name, value, from, to }) => ({ name, value,
      where: { file, line: line.number, from: line.from + from, to: line.from + to } }))

/** Names by spaces in a value, each with its place. */
function* names(value: string, at: number): Generator<{ name: string, from: number, to: number }> {
  for (const match of value.matchAll(/[^\s,]+/g)) yield { name: match[0], from: at + match.index,
    to: at + match.index + match[0].length }
}

/** `/boot/overlays/clock.dtbo` is the overlay `clock`. */
export const overlayName = (path: string) => path.split('/').at(-1)!.replace(/\.dtbo?$/, '')

function menu(files: BootFiles): Effective {
  const lines = parseMenu(files.text)
  const started = startedEntry(lines)
  const asked: Asked[] = []
  const words: Effective['words'] = []
  for (const line of lines) {
    if (line.kind !== 'directive') continue
    const keyword = SAME_DIRECTIVE[line.keyword!] ?? line.keyword!
    const applies: Applies = line.entry === null || line.entry === started ? 'always' : 'never'
    const at = line.from + line.valueAt!
    if (keyword === 'fdtoverlays') for (const { name, from, to } of names(line.value!, at)) {
      asked.push({ kind: 'overlay', name: overlayName(name), params: [], applies,
        where: { file: '', line: line.number, from, to } })
    }
    else if (keyword === 'append') {
      if (applies === 'always') append(words, wordsIn(line.value!, '', at, line.number))
    }
    else if (keyword === 'include' || keyword === 'menu include') asked.push({
      kind: 'missing-file', name: line.value!.trim(), applies,
      where: { file: '', line: line.number, from: at, to: at + line.value!.length },
    })
    else asked.push({
      kind: 'setting', name: keyword, value: line.value!.trim(), applies,
      where: { file: '', line: line.number, from: line.from, to: line.from + line.text.length },
    })
  }
  return { asked, words }
}

function environment(files: BootFiles): Effective {
  const asked: Asked[] = []
  const words: Effective['words'] = []
  const lines = parseEnvironment(files.text)
  // The last line of a name counts: the list is read into variables first.
  const last = new Map(lines.filter(line => line.kind === 'setting').map(line => [line.name!, line]))
  const overlays: Extract<Asked, { kind: 'overlay' }>[] = []
  for (const line of lines) {
    if (line.kind !== 'setting') continue
    const applies: Applies = last.get(line.name!) === line ? 'always' : 'never'
    const at = line.from + line.valueAt!
    if (line.name === 'overlays' || line.name === 'user_overlays') {
      for (const { name, from, to } of names(line.value!, at)) {
        overlays.push({ kind: 'overlay', name: overlayName(name), params: [], applies,
          where: { file: '', line: line.number, from, to } })
      }
    }
    else if (/^extra(board)?args$/.test(line.name!)) append(words, wordsIn(line.value!, '', at, line.number))
    else asked.push({
      kind: 'setting', name: line.name!, value: line.value!, applies,
      where: { file: '', line: line.number, from: line.from, to: line.from + line.text.length },
    })
  }
  return { asked: [...asked, ...overlays], words }
}

/** How many lines a text has; at least one. */
export const lineCount = (text: string) => Math.max(1, splitLines(text).length)
