/**
 * The menu file of an extlinux boot: directives, some of which open an entry. Published: U-Boot documentation, "Generic
 * Distro Configuration Concept".
 */
import { tableOf } from '../../collections/table'
import { joinLines, readable, splitLines, type TextLine } from './lines'

export interface MenuLine extends TextLine {
  kind: 'blank' | 'comment' | 'directive' | 'unknown'
  /** In lower case; `menu label`, `menu title` and the like are one word. */
  keyword?: string
  value?: string
  /** Where keyword and value stand in the line. */
  keywordAt?: number
  valueAt?: number
  /** The entry it belongs to; null above the first `label`. */
  entry: string | null
}

/** Directives above the entries, and those within one. */
const ABOVE = 'label|default|timeout|totaltimeout|ontimeout|prompt|fallback|include|menu '
  + 'title|menu background|menu include|say'
const WITHIN = 'menu label|menu '
  + 'default|kernel|linux|initrd|append|fdt|devicetree|fdtdir|devicetreedir|fdtoverlays|devicetree-overlay|localboot|ipappend|kaslrseed'
const named = (list: string) => list.split('|')

/** Directives that are read; what each does stands in `library/directives.ts`. */
export const DIRECTIVES: ReadonlyMap<string, { inEntry: boolean }> = new Map([ABOVE, WITHIN].flatMap((list, i) =>
  named(list).map(name => [name, { inEntry: i === 1 }] as const)))

/** Names of the same directive. */
export const SAME_DIRECTIVE = tableOf<string>({
  'linux': 'kernel', 'devicetree': 'fdt', 'devicetreedir': 'fdtdir', 'devicetree-overlay': 'fdtoverlays',
})

/** Reads a menu file. Never fails. Law: `printMenu(parseMenu(text)) === text`. */
export function parseMenu(text: string): MenuLine[] {
  let entry: string | null = null
  return splitLines(text).map((line) => {
    const { text: body, at } = readable(line)
    if (!body) return Object.assign(line, { kind: 'blank' as const, entry })
    if (body.startsWith('#')) return Object.assign(line, { kind: 'comment' as const, entry })
    const [, first = '', gap = '', rest = ''] = /^(\S+)(\s*)(.*)$/.exec(body) ?? []
    const [, second = '', secondGap = ''] = first.toLowerCase() === 'menu' ? /^(\S+)(\s*)/.exec(rest) ?? [] : []
    const keyword = `${first} ${second}`.trim().toLowerCase()
    const value = second ? rest.slice(second.length + secondGap.length) : rest
    if (keyword === 'label') entry = value.trim()
    const known = DIRECTIVES.has(keyword)
    return Object.assign(
      line,
      {
        kind: known ? 'directive' as const : 'unknown' as const, keyword, value, keywordAt: at,
        valueAt: at + first.length + gap.length + second.length + secondGap.length, entry,
      },
    )
  })
}

export const printMenu = (lines: readonly MenuLine[]): string => joinLines(lines)

/** The entry that starts by itself: the default one, else the first; null where there is none. */
export function startedEntry(lines: readonly MenuLine[]): string | null {
  const entries = lines.filter(line => line.keyword === 'label').map(line => line.value!.trim())
  const chosen = lines.findLast(line => line.keyword === 'default')?.value?.trim()
  const marked = lines.findLast(line => line.keyword === 'menu default')?.entry
  return [chosen, marked].find(name => name !== undefined && name !== null && entries.includes(name)) ?? entries[0]
    ?? null
}
