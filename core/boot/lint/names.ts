/** Unknown keys, parameters and overlays, with what was probably meant; values that cannot be. */
import type { Board } from '../../catalogue/types'
import { listedName, numberOf, OVERLAYS, overlayNamed, resolveOverlay, SETTING_SPECS } from '../../overlays/library'
import { BASE_PARAMS, COMMAND_WORDS, ENVIRONMENT } from '../../overlays/library/settings'
import type { ParamSpec, SettingSpec } from '../../overlays/library/types'
import type { Asked, AskedParam, Where } from '../scope/effective'
import { lineSetting } from './line-setting'
import { nearest } from './near'
import type { LintFinding, LintRule } from './types'
import { findings, fix, found, insertBefore, quoted, replace, textOf } from './words'

const BASE = new Map(BASE_PARAMS.map(param => [param.name, param]))

export const settingNames: LintRule = (context) => {
  const { files, effective } = context
  if (files.dialect !== 'key-value') return []
  return findings(effective.asked, (asked): LintFinding[] => {
    // What no board reads is told once, by the rule of filters, and judged no further.
    if (asked.kind !== 'setting' || asked.applies === 'never') return []
    if (asked.name === 'gpio') return lineSetting(asked, context.board)
    const spec = SETTING_SPECS.get(asked.name) ?? ofPort(asked.name)
    if (!spec) return unknownSetting(asked, context)
    if (spec.gone) {
      return [found(
        'boot.line-without-effect', 'caution', asked.where, `"${asked.name}" does nothing`,
        `No firmware reads ${quoted(asked.name)}: ${spec.gone}.`,
        { fixes: [replace(`Write ${spec.gone.replace(/^write /, '')}`, asked.where,
          spec.gone.replace(/^write /, ''))] },
      )]
    }
    return valueOff(spec, asked)
  })
}

/** A setting for one of two screens: `hdmi_group:1`. Memory. */
function ofPort(name: string): SettingSpec | undefined {
  const [, base] = /^((?:hdmi|framebuffer|config_hdmi|display)_\w+):[01]$/.exec(name) ?? []
  return base === undefined ? undefined : SETTING_SPECS.get(base)
}

function unknownSetting(asked: Extract<Asked, { kind: 'setting' }>, { files }: Parameters<LintRule>[0]): LintFinding[] {
  const { name, where } = asked
  const text = textOf(files, where.file).slice(where.from, where.to)
  const at = where.from + text.indexOf(name)
  const place = { ...where, from: at, to: at + name.length }
  const lower = name.toLowerCase()
  if (SETTING_SPECS.has(lower)) {
    return [found(
      'boot.key-unknown', 'caution', place, `"${name}" is written in capitals`,
      `The firmware knows "${lower}" in small letters only, so the line does nothing. Write it small.`,
      { fixes: [replace(`Write ${lower}`, place, lower)] },
    )]
  }
  // A parameter or an overlay written as a setting.
  const base = BASE.get(name)
  if (base) {
    return [found(
      'boot.key-unknown', 'caution', place, `"${name}" is a parameter, not a setting`,
      'On its own the line does nothing: parameters of the base tree stand behind dtparam=. '
      + `Write dtparam=${name}=${asked.value}.`,
      { fixes: [replace(`Write dtparam=${name}`, place, `dtparam=${name}`)] },
    )]
  }
  const near = nearest(name, ['dtparam', 'dtoverlay', ...SETTING_SPECS.keys()])
  if (near) {
    return [found(
      'boot.key-unknown', 'caution', place, `"${name}" is not known: "${near}" is`,
      `The firmware skips a key it does not know, without a word. Write ${near}, or take the line out.`,
      { fixes: [replace(`Write ${near}`, place, near)] },
    )]
  }
  if (name in ENVIRONMENT && name !== 'console') {
    return [found(
      'boot.wrong-dialect', 'caution', asked.where, `"${name}" belongs to another kind of boot file`,
      `This line is of the environment list; here the firmware skips it. `
      + `${name === 'overlays' || name === 'user_overlays' ? 'Write one dtoverlay= line for each.' : 'Take it out.'}`,
      { fixes: name === 'overlays' || name === 'user_overlays'
        ? [replace('Write dtoverlay lines', asked.where, asked.value.split(/[\s,]+/)
            .filter(Boolean)
            .map(entry => `dtoverlay=${entry}`)
            .join('\n'))]
        : [fix('Make it a comment', asked.where, { from: asked.where.from, to: asked.where.from, insert: '#' })] },
    )]
  }
  if (name in COMMAND_WORDS) {
    return [found(
      'boot.wrong-file', 'caution', asked.where, `"${name}" is a word for the kernel`,
      `It belongs into the one line of cmdline.txt; here the firmware skips it.`,
      { fixes: [fix('Make it a comment', asked.where, { from: asked.where.from, to: asked.where.from, insert: '#' })] },
    )]
  }
  return [found(
    'boot.key-unknown', 'note', place, `"${name}" is not in the library`,
    'Voltaris does not know this key; newer firmware may. It is kept as it is. Check its spelling.',
  )]
}

const SWITCH = /^(0|1)$/

/** A value that its setting cannot have. */
function valueOff(spec: SettingSpec, asked: Extract<Asked, { kind: 'setting' }>): LintFinding[] {
  const { value, where } = asked
  const place = { ...where, from: where.to - value.length }
  const comment = /^(\S+)\s+#/.exec(value)
  if (comment) {
    return [found(
      'boot.comment-in-value', 'caution', place, 'A comment at the end of a line is part of its value',
      `The firmware reads the whole of ${quoted(value)} as the value. Comments stand on lines of their own.`,
      { fixes: [replace('Take the comment off the line', place, comment[1]!)] },
    )]
  }
  if (spec.kind === 'switch' && !SWITCH.test(value)) {
    const word = /^(on|yes|true|off|no|false)$/i.exec(value)
    return [found(
      'boot.value-off', 'caution', place, `${spec.name} is 0 or 1`,
      `${quoted(value)} is read as 0. Write 1 for on, 0 for off.`,
      {
        figures: [{ label: spec.name, value, limit: '0 or 1', origin: spec.origin }],
        fixes: word
          ? [replace(`Write ${/^(on|yes|true)$/i.test(value) ? 1 : 0}`, place,
              /^(on|yes|true)$/i.test(value) ? '1' : '0')]
          : [replace('Write 1', place, '1'), replace('Write 0', place, '0')],
      },
    )]
  }
  if (spec.kind === 'choice' && !spec.values!.includes(value)) {
    return [found(
      'boot.value-off', 'caution', place, `${spec.name} cannot be ${quoted(value)}`,
      `It is one of ${spec.values!.join(', ')}.`,
      {
        figures: [{ label: spec.name, value, limit: spec.values!.join(', '), origin: spec.origin }],
        fixes: spec.values!.slice(0, 2).map(entry => replace(`Write ${entry}`, place, entry)),
      },
    )]
  }
  if (spec.kind === 'number') return numberOff(spec.name, spec, value, place, spec.unit)
  return []
}

function numberOff(
  name: string, { min = -Infinity, max = Infinity,
    origin = 'memory' }: { min?: number, max?: number, origin?: string }, value: string,
  place: Where, unit?: string,
): LintFinding[] {
  const figure = numberOf(value)
  const limit = `${min} to ${max}`
  if (Number.isNaN(figure)) {
    return [found(
      'boot.value-off', 'caution', place, `${name} wants a number`,
      `${quoted(value)} is no number, and is read as 0. Write one between ${min} and ${max}.`,
      {
        figures: [{ label: name, value, unit, limit, origin }],
        fixes: nearNumber(value, min, max).map(entry => replace(`Write ${entry}`, place, entry)),
      },
    )]
  }
  if (figure >= min && figure <= max) return []
  const inside = String(figure < min ? min : max)
  return [found(
    'boot.value-off', 'caution', place, `${name}=${value} is out of range`,
    `It goes from ${min} to ${max}${unit ? ` ${unit}` : ''}; beyond that it is cut, ignored or keeps the `
    + 'board from starting.',
    { figures: [{ label: name, value: figure, unit, limit, origin }],
      fixes: [replace(`Write ${inside}`, place, inside)] },
  )]
}

/** The digits of a value with letters in it, when they make a sensible number. */
function nearNumber(value: string, min: number, max: number): string[] {
  const digits = /-?\d+/.exec(value)?.[0]
  return digits && Number(digits) >= min && Number(digits) <= max ? [digits] : []
}

export const parameterNames: LintRule = (context) => {
  const { effective, files } = context
  if (files.dialect !== 'key-value') return []
  const own = new Set(files.overlays?.map(overlay => overlay.name))
  return findings(effective.asked, (asked): LintFinding[] => {
    if ('applies' in asked && asked.applies === 'never') return []
    if (asked.kind === 'param') return baseParam(asked, context)
    if (asked.kind !== 'overlay' || own.has(asked.name)
      || context.plan?.loads.some(part => part.made === asked.name)) return []
    const spec = overlayNamed(asked.name)
    if (!spec) return unknownOverlay(asked, context)
    const missing: LintFinding[] = []
    const resolved = resolveOverlay(spec, asked.params)
    if (spec.choices && !resolved.chosen) {
      const flags = Object.keys(spec.choices)
      const misspelt = asked.params.some(param => nearest(param.name, flags))
      if (!misspelt) {
        missing.push(found(
          'overlay.nothing-chosen', 'caution', asked.where, `${spec.name} does not say which part`,
          `The overlay serves several parts and loads nothing until one is named: `
          + `${flags.slice(0, 6).join(', ')}${flags.length > 6 ? ' …' : ''}.`,
          { fixes: flags.slice(0, 3)
            .map(flag => fix(`Write ${flag}`, asked.where,
              { from: asked.where.to, to: asked.where.to, insert: `,${flag}` })) },
        ))
      }
    }
    return [...missing, ...asked.params.flatMap((param): LintFinding[] => {
      const known = spec.params.find(entry => entry.name === listedName(spec, param.name))
      if (known) return paramValue(known, param, spec.origin, context.board)
      // A parameter of the base behind an overlay is told by the rule of scopes.
      if (BASE.has(param.name)) return []
      const near = nearest(param.name, spec.params.map(entry => entry.name))
      const place = { ...param.where, to: param.where.from + param.name.length }
      // The library is from memory: without a near miss a name is not known here, and may well be one.
      return [found(
        'overlay.param-unknown', near ? 'caution' : 'note', place,
        near ? `${spec.name} has no parameter "${param.name}"` : `"${param.name}" of ${spec.name} is not known here`,
        near
          ? `The loader stops at a parameter it does not know and may drop the overlay with it. Write ${near}.`
          : 'Where the image\'s overlay does not have it, the loader stops there and may drop the overlay. Known of it '
            + `here: ${spec.params.slice(0, 8).map(entry => entry.name).join(', ') || 'none'}. The README of the `
            + 'image\'s overlays has the last word.',
        {
          figures: [{ label: 'from', value: 'overlay library', origin: spec.origin }],
          fixes: near ? [replace(`Write ${near}`, place, near)] : [dropHere(param, context)],
        },
      )]
    })]
  })
}

function dropHere(param: AskedParam, { files }: Parameters<LintRule>[0]) {
  const text = textOf(files, param.where.file)
  const comma = text[param.where.from - 1] === ','
  return fix('Take it out', param.where,
    { from: comma ? param.where.from - 1 : param.where.from, to: param.where.to, insert: '' })
}

function baseParam(asked: Extract<Asked, { kind: 'param' }>,
  { effective, files, board }: Parameters<LintRule>[0]): LintFinding[] {
  const known = BASE.get(asked.name)
  if (known) return paramValue(known, asked, 'memory', board)
  const place = { ...asked.where, to: asked.where.from + asked.name.length }
  // It may be meant for an overlay that stands further down.
  const later = effective.asked.find((other): other is Extract<Asked, { kind: 'overlay' }> =>
    other.kind === 'overlay' && other.where.file === asked.where.file && other.where.from > asked.where.from
    && !!overlayNamed(other.name)?.params.some(param => param.name === asked.name))
  if (later) {
    const value = asked.value ? `${asked.name}=${asked.value}` : asked.name
    return [found('boot.param-too-early', 'caution', place, `"${asked.name}" stands above the overlay it is meant for`,
      `A dtparam above `
      + `the first dtoverlay belongs to the base tree, which has no "${asked.name}": it is lost. It belongs behind `
      + `dtoverlay=${later.name} in line ${later.where.line}.`, {
        fixes: [{
          label: `Move it to ${later.name}`, file: asked.where.file,
          changes: [...dropParamChanges(asked, files),
            { from: later.where.to, to: later.where.to, insert: `,${value}` }],
        }],
      })]
  }
  if (asked.below) {
    const own = nearest(asked.name, overlayNamed(asked.below)?.params.map(param => param.name) ?? [])
    if (own) {
      return [found(
        'overlay.param-unknown', 'caution', place, `${asked.below} has no parameter "${asked.name}": "${own}" is one`,
        `Neither the overlay above nor the base tree has the name, so the line does nothing. Write ${own}.`,
        { fixes: [replace(`Write ${own}`, place, own)] },
      )]
    }
  }
  const near = nearest(asked.name, BASE.keys())
  if (near) {
    return [found(
      'boot.param-unknown', 'caution', place, `There is no parameter "${asked.name}": "${near}" is one`,
      `The base tree does not know it, and the line does nothing. Write ${near}.`,
      { fixes: [replace(`Write ${near}`, place, near)] },
    )]
  }
  const overlay = OVERLAYS.get(asked.name)
  if (overlay) {
    return [found(
      'boot.param-unknown', 'caution', place, `"${asked.name}" is an overlay`,
      `It is loaded with dtoverlay=, not with dtparam=.`,
      { fixes: [insertBefore(`Write dtoverlay=${asked.name} above`, files, asked.where, `dtoverlay=${asked.name}`)] },
    )]
  }
  return [found(
    'boot.param-unknown', 'note', place, `"${asked.name}" is not in the library`,
    'Voltaris does not know this parameter of the base tree. It is kept as it is. Check its spelling.',
  )]
}

function dropParamChanges(asked: AskedParam, files: Parameters<LintRule>[0]['files']) {
  const text = textOf(files, asked.where.file)
  const start = text.lastIndexOf('\n', asked.where.from - 1) + 1
  const newline = text.indexOf('\n', asked.where.to)
  const stop = newline < 0 ? text.length : newline + 1
  if (text[asked.where.from - 1] === ',') return [{ from: asked.where.from - 1, to: asked.where.to, insert: '' }]
  if (text[asked.where.to] === ',') return [{ from: asked.where.from, to: asked.where.to + 1, insert: '' }]
  return [{ from: start, to: stop, insert: '' }]
}

const FLAG = /^(|on|off|yes|no|true|false|0|1|y|n|okay|disabled)$/i

function paramValue(spec: ParamSpec, { name, value, where }: AskedParam, origin: string,
  board: Board | null): LintFinding[] {
  const from = where.to - value.length
  const place = value ? { ...where, from } : where
  const comment = /^(\S*)\s+#/.exec(value)
  if (comment) {
    return [found(
      'boot.comment-in-value', 'caution', place, 'A comment at the end of a line is part of its value',
      `The loader reads the whole of ${quoted(value)} as the value of ${name}. Comments stand on lines of their own.`,
      { fixes: [replace('Take the comment off the line', place, comment[1]!)] },
    )]
  }
  if (spec.kind === 'flag') {
    return FLAG.test(value)
      ? []
      : [found(
          'boot.value-off', 'caution', place, `${name} is on or off`,
          `${quoted(value)} is neither. Write ${name} alone, or on, or off.`,
          {
            figures: [{ label: name, value, limit: 'on or off', origin }],
            fixes: [replace('Write on', place, 'on'), replace('Write off', place, 'off')],
          },
        )]
  }
  if (spec.kind === 'choice') {
    return spec.values!.includes(value)
      ? []
      : [found(
          'boot.value-off', 'caution', place, `${name} cannot be ${quoted(value)}`,
          `It is one of ${spec.values!.join(', ')}.`,
          {
            figures: [{ label: name, value, limit: spec.values!.join(', '), origin }],
            fixes: value ? spec.values!.slice(0, 3).map(entry => replace(`Write ${entry}`, place, entry)) : [],
          },
        )]
  }
  if (spec.kind === 'line' && value !== '') {
    const line = numberOf(value)
    if (Number.isNaN(line)) {
      const digits = /\d+/.exec(value)?.[0]
      return [found(
        'boot.value-off', 'caution', place, `${name} wants a line number`,
        `${quoted(value)} is none: write the number of the line, 0 to 27, without letters.`,
        { fixes: digits && Number(digits) <= 27 ? [replace(`Write ${digits}`, place, digits)] : [] },
      )]
    }
  }
  if (spec.kind === 'line' || spec.kind === 'number' || spec.kind === 'address') {
    if (value === '') {
      return [found(
        'boot.value-off', 'caution', where, `${name} wants a value`,
        `Without one it is read as 0. Write ${name}=${spec.default ?? spec.min ?? 0}.`,
        {
          fixes: [fix(
            `Write ${name}=${spec.default ?? spec.min ?? 0}`, where,
            { from: where.to, to: where.to, insert: `=${spec.default ?? spec.min ?? 0}` },
          )],
        },
      )]
    }
    const off = numberOff(name, { min: spec.min, max: spec.max, origin }, value, place)
    if (off.length && spec.kind === 'line') {
      const meant = board?.header.find(entry => entry.position === numberOf(value))?.line
      return [{
        ...off[0]!, title: `${name}=${value} is no line of the header`,
        sentence: `The header has lines 0 to 27. `
          + `${meant === undefined
            ? 'Was a header position meant? Look up its line number.'
            : `Position ${value} is line ${meant}: was that meant?`}`,
        fixes: meant === undefined
          ? []
          : [replace(`Write ${meant}, the line at position ${value}`, place, String(meant))],
      }]
    }
    return off
  }
  return []
}

function unknownOverlay(asked: Extract<Asked, { kind: 'overlay' }>, { files }: Parameters<LintRule>[0]): LintFinding[] {
  const text = textOf(files, asked.where.file)
  const at = files.dialect === 'key-value'
    ? text.indexOf(asked.name, text.indexOf('=', asked.where.from))
    : asked.where.from
  const place = { ...asked.where, from: at, to: at + asked.name.length }
  const bare = asked.name.replace(/\.dtbo?$/, '').replace(/-overlay$/, '')
  if (bare !== asked.name && overlayNamed(bare)) {
    return [found(
      'overlay.unknown', 'caution', place, 'The overlay is named without its ending',
      `The firmware adds the ending itself and looks for ${asked.name}.dtbo. Write ${bare}.`,
      { fixes: [replace(`Write ${bare}`, place, bare)] },
    )]
  }
  const near = nearest(bare.toLowerCase(), OVERLAYS.keys())
  if (near) {
    return [found(
      'overlay.unknown', 'caution', place, `There is no overlay "${asked.name}": "${near}" is one`,
      `A file ${asked.name}.dtbo is not on the image; the firmware goes on without it and says nothing. Write ${near}.`,
      { fixes: [replace(`Write ${near}`, place, near)] },
    )]
  }
  return [found(
    'overlay.not-in-library', 'note', place, `"${asked.name}" is not in the library`,
    'Voltaris cannot say what it takes. Drop its .dtbo or .dts file here, and it is read and rehearsed. On the card it '
    + 'must lie in the folder overlays.',
  )]
}
