/** The menu file of an extlinux boot: directives, some of which open an entry. Published: U-Boot documentation, "Generic Distro Configuration Concept". */
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

/** Directives that are read, with what they take. */
export const DIRECTIVES: Readonly<Record<string, { takes: 'text' | 'number' | 'flag', inEntry: boolean, what: string }>> = {
  'label': { takes: 'text', inEntry: false, what: 'opens an entry; what follows belongs to it' },
  'default': { takes: 'text', inEntry: false, what: 'the entry that starts by itself' },
  'timeout': { takes: 'number', inEntry: false, what: 'waits this many tenths of a second for a key' },
  'totaltimeout': { takes: 'number', inEntry: false, what: 'waits at most this many tenths of a second' },
  'ontimeout': { takes: 'text', inEntry: false, what: 'the entry that starts when nobody presses a key' },
  'prompt': { takes: 'flag', inEntry: false, what: '1 shows the prompt, 0 starts at once' },
  'fallback': { takes: 'text', inEntry: false, what: 'the entry that starts when the default one fails' },
  'include': { takes: 'text', inEntry: false, what: 'reads another file here' },
  'menu title': { takes: 'text', inEntry: false, what: 'the title of the menu' },
  'menu background': { takes: 'text', inEntry: false, what: 'the picture behind the menu' },
  'menu include': { takes: 'text', inEntry: false, what: 'reads another file here' },
  'menu label': { takes: 'text', inEntry: true, what: 'the entry\'s name in the menu' },
  'menu default': { takes: 'flag', inEntry: true, what: 'this entry starts by itself' },
  'kernel': { takes: 'text', inEntry: true, what: 'the kernel that is started' },
  'linux': { takes: 'text', inEntry: true, what: 'the kernel that is started' },
  'initrd': { takes: 'text', inEntry: true, what: 'the first file system of the kernel' },
  'append': { takes: 'text', inEntry: true, what: 'the kernel command line' },
  'fdt': { takes: 'text', inEntry: true, what: 'the device tree of the board' },
  'devicetree': { takes: 'text', inEntry: true, what: 'the device tree of the board' },
  'fdtdir': { takes: 'text', inEntry: true, what: 'the folder in which the board\'s device tree is looked for' },
  'devicetreedir': { takes: 'text', inEntry: true, what: 'the folder in which the board\'s device tree is looked for' },
  'fdtoverlays': { takes: 'text', inEntry: true, what: 'overlays laid onto the device tree, in order, by path' },
  'devicetree-overlay': { takes: 'text', inEntry: true, what: 'overlays laid onto the device tree, in order, by path' },
  'localboot': { takes: 'text', inEntry: true, what: 'starts what is on the board itself' },
  'ipappend': { takes: 'number', inEntry: true, what: 'adds network addresses to the command line' },
  'kaslrseed': { takes: 'flag', inEntry: true, what: 'gives the kernel a random seed' },
  'say': { takes: 'text', inEntry: false, what: 'prints a line' },
}

/** Names of the same directive. */
export const SAME_DIRECTIVE: Readonly<Record<string, string>> = { 'linux': 'kernel', 'devicetree': 'fdt', 'devicetreedir': 'fdtdir', 'devicetree-overlay': 'fdtoverlays' }

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
    const known = Object.hasOwn(DIRECTIVES, keyword)
    return Object.assign(line, { kind: known ? 'directive' as const : 'unknown' as const, keyword, value, keywordAt: at, valueAt: at + first.length + gap.length + second.length + secondGap.length, entry })
  })
}

export const printMenu = (lines: readonly MenuLine[]): string => joinLines(lines)

/** The entry that starts by itself: the default one, else the first; null where there is none. */
export function startedEntry(lines: readonly MenuLine[]): string | null {
  const entries = lines.filter(line => line.keyword === 'label').map(line => line.value!.trim())
  const chosen = lines.findLast(line => line.keyword === 'default')?.value?.trim()
  const marked = lines.findLast(line => line.keyword === 'menu default')?.entry
  return [chosen, marked].find(name => name !== undefined && name !== null && entries.includes(name)) ?? entries[0] ?? null
}
