/**
 * Lines as text: too long, no line at all, written for another dialect; and the file as a whole: the wrong copy,
 * the wrong kind.
 */
import { readBoot } from '../dialects/key-value'
import { filtersOf } from '../scope/filters'
import { splitLines } from '../dialects/lines'
import { BASE_PARAMS } from '../../overlays/library/settings'
import { OVERLAYS, SETTING_SPECS } from '../../overlays/library'
import { DIRECTIVES } from '../dialects/extlinux'
import { tellDialect } from '../dialects/tell'
import type { Where } from '../scope/effective'
import { nearest } from './near'
import type { LintFinding, LintRule } from './types'
import { findings, fix, found, quoted, replace } from './words'

/** Early firmware reads so many characters of a line and drops the rest. memory */
export const MAX_LETTERS = 98

export const longLines: LintRule = ({ files, board }) => files.dialect !== 'key-value'
  ? []
  : findings(readBoot(files.text, filtersOf(board)), (line): LintFinding[] => {
      if (line.kind === 'comment' || line.kind === 'blank' || line.text.length <= MAX_LETTERS) return []
      const where = { file: '', line: line.number, from: line.from, to: line.from + line.text.length }
      const newline = line.ending || '\n'
      let split: string[] | null
      if (line.kind === 'overlay' && line.params!.length) split = [`dtoverlay=${line.name}`,
        ...packed(line.params!.map(param => param.value ? `${param.name}=${param.value}` : param.name))]
      else split = line.kind === 'param' && line.params!.length > 1
        ? packed(line.params!.map(param => param.value
            ? `${param.name}=${param.value}`
            : param.name))
        : null
      return [found(
        'boot.line-too-long', 'caution', where, `Line ${line.number} is too long`,
        `Early firmware reads ${MAX_LETTERS} characters of a line and drops the `
        + `rest${split ? ': the last parameters are lost. The overlay\'s parameters may stand on dtparam lines below it' : ''}. `
        + 'Split it.',
        {
          figures: [{ label: 'length', value: line.text.length, limit: MAX_LETTERS, unit: 'characters',
            origin: 'memory' }],
          fixes: split ? [replace('Split it', where, split.join(newline))] : [],
        },
      )]
    })

/** Parameters on as few dtparam lines as hold them. */
function packed(params: string[]): string[] {
  const lines: string[] = []
  for (const param of params) {
    const last = lines.at(-1)
    if (last && `${last},${param}`.length <= MAX_LETTERS) lines[lines.length - 1] = `${last},${param}`
    else lines.push(`dtparam=${param}`)
  }
  return lines
}

export const noLines: LintRule = ({ files, board }) => files.dialect !== 'key-value'
  ? []
  : findings(readBoot(files.text, filtersOf(board)), (line): LintFinding[] => {
      const where: Where = { file: '', line: line.number, from: line.from, to: line.from + line.text.length }
      const body = line.text.trim()
      if (line.kind === 'setting' && /\s=|=\s/.test(body) && SETTING_SPECS.has(line.name!)) return []
      if (line.kind !== 'unknown') return []
      const comment = [fix('Make it a comment', where, { from: line.from, to: line.from, insert: '# ' })]
      const open = /^\[([^\]]*)$/.exec(body) ?? /^([^[]+)\]$/.exec(body)
      if (open) {
        return [found(
          'boot.line-unknown', 'caution', where, 'A section heading without its bracket',
          `${quoted(body)} is read as nothing, and the lines below stay under the heading `
          + `above. Write [${open[1]!.trim()}].`,
          { fixes: [replace(`Write [${open[1]!.trim()}]`, where, `[${open[1]!.trim()}]`)] },
        )]
      }
      const word = /^(dtparam|dtoverlay)[\s:]+(\S.*)$/.exec(body) ?? (/^([a-z_0-9]+)[\s:]+(\S+)$/.exec(body)
        && SETTING_SPECS.has(/^\w+/.exec(body)![0])
        ? /^([a-z_0-9]+)[\s:]+(\S+)$/.exec(body)
        : null)
      if (word) {
        return [found(
          'boot.sign-missing', 'caution', where, 'The equals sign is missing',
          `${quoted(body)} is read as nothing. Write ${word[1]}=${word[2]}.`,
          { fixes: [replace(`Write ${word[1]}=${word[2]}`, where, `${word[1]}=${word[2]}`)] },
        )]
      }
      if (OVERLAYS.has(body)) {
        return [found(
          'boot.sign-missing', 'caution', where, `"${body}" alone loads nothing`,
          `It is an overlay: write dtoverlay=${body}.`,
          { fixes: [replace(`Write dtoverlay=${body}`, where, `dtoverlay=${body}`)] },
        )]
      }
      if (BASE_PARAMS.some(param => param.name === body)) {
        return [found(
          'boot.sign-missing', 'caution', where, `"${body}" alone switches nothing`,
          `It is a parameter: write dtparam=${body}=on.`,
          { fixes: [replace(`Write dtparam=${body}=on`, where, `dtparam=${body}=on`)] },
        )]
      }
      const first = body.split(/\s/)[0]!.toLowerCase()
      if (DIRECTIVES.has(first) && body.includes(' ')) {
        return [found(
          'boot.wrong-dialect', 'caution', where, `"${first}" belongs to a menu file`,
          'This line is of an extlinux file; here the firmware skips it.', { fixes: comment },
        )]
      }
      if (/^\/\/|^;|^--/.test(body)) {
        return [found(
          'boot.line-unknown', 'note', where, 'Comments begin with #',
          `${quoted(body)} is skipped, but only because it is no key.`,
          { fixes: [replace('Write it with #', where, `# ${body.replace(/^(\/\/|;|--)\s*/, '')}`)] },
        )]
      }
      const near = nearest(body, [...SETTING_SPECS.keys()])
      return [found(
        'boot.line-unknown', 'note', where, `Line ${line.number} says nothing the firmware knows`,
        `${quoted(body)} is neither key=value, a comment, a filter nor an `
        + `include${near ? `; ${near}=… was probably meant` : ''}. It is kept as it is.`,
        { fixes: comment },
      )]
    })

/** The copy that is not read on this generation of image, or a file of another kind than the board reads. */
export const wrongFile: LintRule = ({ files, image, board }) => {
  const where: Where = { file: '', line: 1, from: 0, to: splitLines(files.text)[0]?.text.length ?? 0 }
  const moved = files.text.split(/\r?\n/, 12)
    .findIndex(line => /do not edit this file|has (been )?moved to/i.test(line))
  if (moved >= 0) {
    const line = splitLines(files.text)[moved]!
    return [found(
      'boot.wrong-copy', 'stop', { file: '', line: line.number, from: line.from, to: line.from + line.text.length },
      'This is the copy that nobody reads',
      'On newer images this file only says where the real one lies: /boot/firmware/config.txt. What is written here '
      + 'does nothing. Open that one.',
    )]
  }
  const findings: LintFinding[] = []
  const path = files.path ?? ''
  const newer = image === 'newer' || (image === undefined && board?.bootPath.startsWith('/boot/firmware/'))
  if (files.dialect === 'key-value' && path.startsWith('/boot/') && path.startsWith('/boot/firmware/') !== newer
    && (image !== undefined || newer)) {
    const right = newer ? path.replace('/boot/', '/boot/firmware/') : path.replace('/boot/firmware/', '/boot/')
    findings.push(found(
      'boot.wrong-path', 'caution', where, `On ${newer ? 'newer' : 'older'} images the file lies elsewhere`,
      `This one came from ${path}. ${newer ? 'Newer' : 'Older'} images read ${right}; the other copy is left alone or `
      + 'is not there.',
      { figures: [{ label: 'path', value: path, limit: right, origin: 'memory' }] },
    ))
  }
  const wanted = board?.bootDialect ?? (board ? 'key-value' : undefined)
  const told = tellDialect(files.text, path)
  // One stray line does not make it another kind of file.
  const telling = files.text.split(/\r?\n/).filter(line => line.trim() && !line.trim().startsWith('#')).length
  if (wanted && told !== wanted && told !== 'key-value' && telling > 1) {
    findings.push(found(
      'boot.wrong-dialect', 'stop', where, `This board reads another kind of boot file`,
      `The file is written as ${DIALECT_WORDS[told]}; this board reads ${DIALECT_WORDS[wanted]}, ${board!.bootPath}. `
      + 'Nothing in it applies.',
    ))
  }
  return findings
}

export const DIALECT_WORDS = {
  'key-value': 'key=value with section filters', 'extlinux': 'an extlinux menu', 'environment': 'an environment list',
} as const
