/**
 * The environment list: one `key=value` a line; overlay names by spaces, their parameters as keys of
 * their own. practice
 */
import { joinLines, readable, splitLines, type TextLine } from './lines'

export interface EnvironmentLine extends TextLine {
  kind: 'blank' | 'comment' | 'setting' | 'unknown'
  name?: string
  value?: string
  nameAt?: number
  valueAt?: number
}

/** Reads an environment list. Never fails. Law: `printEnvironment(parseEnvironment(text)) === text`. */
export function parseEnvironment(text: string): EnvironmentLine[] {
  return splitLines(text).map((line) => {
    const { text: body, at } = readable(line)
    if (!body) return Object.assign(line, { kind: 'blank' as const })
    if (body.startsWith('#')) return Object.assign(line, { kind: 'comment' as const })
    const sign = body.indexOf('=')
    if (sign <= 0 || /\s/.test(body.slice(0, sign))) return Object.assign(line, { kind: 'unknown' as const })
    return Object.assign(
      line, { kind: 'setting' as const, name: body.slice(0, sign), value: body.slice(sign + 1), nameAt: at,
        valueAt: at + sign + 1 },
    )
  })
}

export const printEnvironment = (lines: readonly EnvironmentLine[]): string => joinLines(lines)
