/** `gpio=` lines: what the firmware does to lines before the system starts. */
import type { Board } from '../../catalogue/types'
import type { Asked } from '../scope/effective'
import type { LintFinding } from './types'
import { found, quoted } from './words'

/**
 * Words of a `gpio=` line. Memory, of the firmware's own page: input, output, six other functions, driven high or
 * low, three pulls.
 */
const LINE_WORDS: Readonly<Record<string, 'function' | 'level' | 'pull'>> = {
  ip: 'function', op: 'function', a0: 'function', a1: 'function', a2: 'function', a3: 'function', a4: 'function',
  a5: 'function',
  dh: 'level', dl: 'level', pu: 'pull', pd: 'pull', pn: 'pull', np: 'pull',
}
/** Highest line of the chips of this dialect; the header has those up to 27. Memory. */
const LAST_LINE = 53

/** `gpio=17,22-25=op,dl`: lines that exist, words that are known, and no two of a kind. */
export function lineSetting(asked: Extract<Asked, { kind: 'setting' }>, board: Board | null): LintFinding[] {
  const { value, where } = asked
  const start = where.to - value.length
  const split = value.indexOf('=')
  const off = (from: number, text: string, title: string, sentence: string, limit: string): LintFinding => found(
    'boot.value-off', 'caution', { ...where, from: start + from, to: start + from + text.length }, title, sentence,
    { figures: [{ label: 'gpio', value: text, limit, origin: 'memory' }] },
  )
  if (split < 0) {
    return [off(0, value, 'gpio= says what a line is to be',
      'It names lines, an equals sign, and words: gpio=17=op,dl. Without words it does '
      + 'nothing.', 'lines=words')]
  }
  const findings: LintFinding[] = []
  let at = 0
  for (const part of value.slice(0, split).split(',')) {
    const [, from, to = from] = /^\s*(\d+)(?:\s*-\s*(\d+))?\s*$/.exec(part) ?? []
    if (from === undefined) {
      findings.push(off(at, part, `${quoted(part)} is no line`,
        'Lines are numbers, or two with a dash between: 17, or 22-25.',
        `0 to ${LAST_LINE}`))
    }
    else if (Number(to) > LAST_LINE || Number(from) > Number(to)) {
      findings.push(off(at, part, `There is no line ${Number(to) > LAST_LINE ? to : part.trim()}`,
        `This chip has lines 0 to ${LAST_LINE}, and `
        + 'the header those up to 27: the firmware skips the whole of it.', `0 to ${LAST_LINE}`))
    }
    else if (board && Number(to) > 27) {
      findings.push({
        ...off(at, part, `Line ${to} is not on the header`,
          'Lines from 28 on serve the board\'s own things: its lamps, '
          + 'its network, its card. Turning one round may stop it from starting.', '0 to 27'),
      })
    }
    at += part.length + 1
  }
  at = split + 1
  const seen = new Map<string, string>()
  for (const part of value.slice(split + 1).split(',')) {
    const word = part.trim()
    const kind = Object.hasOwn(LINE_WORDS, word) ? LINE_WORDS[word]! : null
    if (kind === null) {
      findings.push(off(at, part, `gpio= does not know "${word}"`,
        `The words are ${Object.keys(LINE_WORDS).join(', ')}; one it does not know is `
        + 'skipped, and with it what was meant.', Object.keys(LINE_WORDS).join(', ')))
    }
    else if (seen.has(kind) && seen.get(kind) !== word) {
      findings.push(off(at, part, `gpio= says both ${seen.get(kind)} and ${word}`,
        'Only the last of the two holds. Keep the one that is meant.',
        `one ${kind}`))
    }
    else seen.set(kind, word)
    at += part.length + 1
  }
  if (seen.has('level') && seen.has('function') && seen.get('function') !== 'op') {
    findings.push(off(split + 1, value.slice(split + 1), `${seen.get('level')} drives a line that is no output`,
      'A level is driven on outputs '
      + 'alone: write op, or leave the level out.', 'op'))
  }
  return findings
}
