/** What may be written at a place of a file. */
import type { Board } from '../catalogue/types'
import { parseBoot } from './dialects/key-value'
import type { Grammar } from './dialects/tokens'
import { DIRECTIVE_WORDS } from '../overlays/library/directives'
import { OVERLAYS, overlayNamed, SETTING_SPECS } from '../overlays/library'
import { BASE_PARAMS, COMMAND_WORDS, ENVIRONMENT } from '../overlays/library/settings'
import type { ParamSpec } from '../overlays/library/types'
import { MODELS } from './scope/filters'

export interface Completion {
  label: string
  /** Said beside it. */
  what: string
  /** Written in its place, where that is more than the label. */
  insert?: string
}

export interface Completions {
  /** Column from which the text is replaced. */
  from: number
  options: Completion[]
}

/** Which boards a section is for, in words. */
function boardsOf(section: string, models: readonly string[]): string {
  if (section === 'all') return 'every board'
  if (section === 'none') return 'no board'
  return models.includes(section) ? 'this board' : 'another board'
}

/** Completions at a column of a line; null where nothing is known. `text` is the whole file. */
export function completeAt(text: string, grammar: Grammar, lineNumber: number, column: number,
  board: Board | null): Completions | null {
  const line = text.split('\n')[lineNumber - 1]?.replace(/\r$/, '') ?? ''
  const before = line.slice(0, column)
  const start = (pattern: RegExp) => column - (pattern.exec(before)?.[0].length ?? 0)
  switch (grammar) {
    case 'key-value': return keyValue(text, before, lineNumber, column, board)
    case 'environment': {
      if (/=/.test(before)) return /^(user_)?overlays=/.test(before)
        ? { from: start(/[^\s=]*$/), options: overlays() }
        : null
      return { from: start(/\w*$/),
        options: Object.entries(ENVIRONMENT).map(([label, what]) => ({ label, what, insert: `${label}=` })) }
    }
    case 'extlinux': return /^\s*\w*$/.test(before)
      ? { from: start(/\w*$/),
          options: Object.entries(DIRECTIVE_WORDS).map(([label, { what }]) => ({ label, what, insert: `${label} ` })) }
      : null
    case 'command-line': return /=\S*$/.test(before)
      ? null
      : { from: start(/\S*$/), options: Object.entries(COMMAND_WORDS).map(([label, what]) => ({ label, what })) }
    case 'source': case 'plain': return null
  }
}

const overlays = (): Completion[] => [...OVERLAYS.values()].map(spec => ({ label: spec.name, what: spec.what }))

const parameter = (spec: ParamSpec): Completion => ({
  label: spec.name, what: `${spec.what}${spec.default === undefined ? '' : ` (${spec.default})`}`,
  ...(spec.kind !== 'flag' && { insert: `${spec.name}=` }),
})

function keyValue(text: string, before: string, lineNumber: number, column: number,
  board: Board | null): Completions | null {
  const at = (pattern: RegExp) => column - (pattern.exec(before)?.[0].length ?? 0)
  if (/^\s*\[/.test(before)) {
    return {
      from: at(/[^[]*$/),
      options: [
        'all', 'none', ...board?.bootModels ?? [], ...[...MODELS].filter(model => !board?.bootModels?.includes(model)),
      ].map(label => ({ label, what: boardsOf(label, board?.bootModels ?? []), insert: `${label}]` })),
    }
  }
  const overlay = /^\s*dtoverlay=([^,:]*)(?:[,:](.*))?$/.exec(before)
  if (overlay) {
    if (overlay[2] === undefined) return { from: column - overlay[1]!.length, options: overlays() }
    return paramAt(overlayNamed(overlay[1]!.trim())?.params ?? [], before, column)
  }
  if (/^\s*dtparam=/.test(before)) {
    const open = parseBoot(text)[lineNumber - 1]?.overlay
    return paramAt([...open ? overlayNamed(open)?.params ?? [] : [], ...BASE_PARAMS.filter(param => !param.same)],
      before, column)
  }
  const setting = /^\s*([a-z_0-9]+)=([^\s]*)$/.exec(before)
  if (setting) {
    const spec = SETTING_SPECS.get(setting[1]!)
    const values = spec?.values ?? (spec?.kind === 'switch' ? ['0', '1'] : [])
    return values.length
      ? { from: column - setting[2]!.length, options: values.map(label => ({ label, what: spec!.what })) }
      : null
  }
  if (!/^\s*\w*$/.test(before)) return null
  return {
    from: at(/\w*$/),
    options: [
      { label: 'dtparam', what: 'a parameter of the base tree', insert: 'dtparam=' },
      { label: 'dtoverlay', what: 'an overlay', insert: 'dtoverlay=' },
      { label: 'include', what: 'another file', insert: 'include ' },
      ...[...SETTING_SPECS.values()]
        .filter(spec => spec.group !== 'line')
        .map(spec => ({ label: spec.name, what: spec.what, insert: `${spec.name}=` })),
    ],
  }
}

function paramAt(params: readonly ParamSpec[], before: string, column: number): Completions | null {
  const entry = /[^,=]*(?:=[^,=]*)?$/.exec(before.slice(before.indexOf('=') + 1))![0]
  const sign = entry.indexOf('=')
  if (sign < 0) return { from: column - entry.length, options: params.map(parameter) }
  const spec = params.find(param => param.name === entry.slice(0, sign))
  const usual = spec?.default === undefined ? [] : [spec.default]
  const values = spec?.values ?? (spec?.kind === 'flag' ? ['on', 'off'] : usual)
  return values.length
    ? { from: column - (entry.length - sign - 1), options: values.map(label => ({ label, what: spec!.what })) }
    : null
}
