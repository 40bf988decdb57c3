/** Keys of a matrix: which key the kernel is told for each crossing, and what it types where that is another thing. */
import type { Facts, ResolvedPart } from '../facts/types'
import type { MatrixKey } from '../plan/host-shape'
import { homeOf } from './programs'
import { KEYS } from './keys'
import type { Row, SmallFile } from './types'

export const KEY_CODES: ReadonlyMap<string, number> = new Map(KEYS.map(([name, code]) => [name, code]))
const PLACES: ReadonlyMap<string, string> = new Map(KEYS.map(([name, , place]) => [name, place]))
const BY_CODE: ReadonlyMap<number, string> = new Map(KEYS.map(([name, code]) => [code, name]))

/** What keys of the layout `us` type, plain and shifted. common practice */
const TYPES: Readonly<Record<string, readonly [string, string]>> = {
  ...Object.fromEntries([...'abcdefghijklmnopqrstuvwxyz'].map(letter => [`KEY_${letter.toUpperCase()}`,
    [letter, letter.toUpperCase(
    )] as const])),
  KEY_1: ['1', '!'], KEY_2: ['2', '@'], KEY_3: ['3', '#'], KEY_4: ['4', '$'], KEY_5: ['5', '%'], KEY_6: ['6', '^'],
  KEY_7: ['7', '&'],
  KEY_8: ['8', '*'], KEY_9: ['9', '('], KEY_0: ['0', ')'], KEY_MINUS: ['-', '_'], KEY_EQUAL: ['=', '+'],
  KEY_LEFTBRACE: ['[', '{'],
  KEY_RIGHTBRACE: [']', '}'], KEY_SEMICOLON: [';', ':'], KEY_APOSTROPHE: ['\'', '"'], KEY_GRAVE: ['`', '~'],
  KEY_BACKSLASH: ['\\', '|'],
  KEY_COMMA: [',', '<'], KEY_DOT: ['.', '>'], KEY_SLASH: ['/', '?'], KEY_SPACE: [' ', ' '],
}

/** Rows and columns of a matrix part; null for any other. */
export function matrixSize({ part, options }: ResolvedPart): { rows: number, columns: number } | null {
  const isMatrix = part.signals.some(signal => signal.repeat === 'rows')
    && part.signals.some(signal => signal.repeat === 'columns')
  return isMatrix ? { rows: Number(options.rows), columns: Number(options.columns) } : null
}

/** Key at a crossing, both counted from 0: the maker's, else one of its own for each. */
export function keyAt(partId: string, row: number, column: number, columns: number,
  matrix: Readonly<Record<string, Record<string,
    MatrixKey>>>): MatrixKey {
  return matrix[partId]?.[`${row}.${column}`]
    ?? { code: BY_CODE.get(Math.min(255, 2 + row * columns + column)) ?? 'KEY_UNKNOWN' }
}

/** The key that types a character in the layout `us`; null where none does. */
export function keyTyping(character: string): { code: string, isShifted: boolean } | null {
  const found = Object.entries(TYPES).find(([, types]) => types.includes(character))
  return found ? { code: found[0], isShifted: found[1][0] !== character } : null
}

/** A key in a few letters, for its cap. */
export function capOf({ code, types, shifted }: MatrixKey): string {
  const plain = types ?? TYPES[code]?.[0]
  if (plain === ' ') return 'space'
  return plain !== undefined
    ? [plain.length === 1 && shifted === undefined && /[a-z]/.test(plain)
        ? plain.toUpperCase()
        : plain, ...shifted !== undefined ? [shifted] : []].join(' ')
    : code.replace(/^KEY_/, '').toLowerCase()
}

/** A character as a symbol of XKB: by its place in Unicode, which every keyboard file knows. */
const symbolOf = (character: string) => {
  const at = character.codePointAt(0)!
  return `U${at.toString(16).toUpperCase().padStart(4, '0')}`
}

/** Symbols for keys that type something of their own. published: the XKB file format, as `xkbcomp` reads it */
export function keySymbols(facts: Facts): SmallFile[] {
  return facts.parts.flatMap((owner): SmallFile[] => {
    const size = matrixSize(owner)
    const own = facts.plan.host.matrix[owner.id]
    if (!size || !own) return []
    const keys = Object.entries(own).filter(([place, key]) => {
      const [row, column] = place.split('.').map(Number) as [number, number]
      return row < size.rows && column < size.columns && key.types !== undefined && PLACES.has(key.code)
    })
    const taken = new Set<string>()
    const rows = keys.flatMap(([, { code, types, shifted }]): Row[] => {
      if (taken.has(code)) return []
      taken.add(code)
      const plain = symbolOf(types!)
      let other: string
      if (shifted !== undefined && shifted !== '') other = symbolOf(shifted)
      else other = types!.toUpperCase() !== types
        && [...types!].length === 1
        ? symbolOf(types!.toUpperCase())
        : plain
      return [[`  key <${PLACES.get(code)!}> { [ ${plain}, ${other} ] };`, `${code} types ${types}${shifted
        ? `,
        with shift ${shifted}`
        : ''}.`]]
    })
    if (!rows.length) return []
    return [{
      what: `What the keys of ${owner.name} type`,
      path: `${homeOf(facts)}/.config/xkb/symbols/${owner.id.toLowerCase()}`,
      owner: facts.plan.host.user ?? 'the user', mode: '0644', after: { is: 'new login' }, checkedBy: 'xkbcomp',
      needs: `The overlay of ${owner.name}, which tells the kernel the keys, and the layout `
        + `"${owner.id.toLowerCase()}" chosen.`,
      rows: [
        ['default partial alphanumeric_keys', ''], ['xkb_symbols "basic" {', ''],
        [`  include "${facts.plan.host.layout ?? 'us'}"`, 'Everything else as on an ordinary keyboard.'],
        [`  name[Group1] = "${owner.name.replace(/["\\]/g, '')}";`, 'What settings call it.'], ...rows, ['};', ''],
      ],
    }]
  })
}
