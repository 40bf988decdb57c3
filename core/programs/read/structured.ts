/** Reads configurations in YAML and JSON: a value is what its key, and the keys around it, say. */
import { isMap, isScalar, isSeq, LineCounter, parseDocument, type Node, type Scalar, type YAMLMap } from 'yaml'
import { DEVICE } from '../shapes'
import { isSwitching, kindByKeys, lineNumberAt, lineStarts } from '../find'
import type { Comment, Sighting, SightingKind } from '../types'
import { pinNamed, pinText, saysNoPin, wordsOf } from '../words'
import { numberIn } from './number'

interface StructuredReading {
  sightings: Sighting[]
  comments: Comment[]
  problems: string[]
  /** What keys such as `numbering` say. */
  numberingSaid: { text: string, line: number }[]
}

/** Words for a numbering, as a value of a key that names one. */
const NUMBERING_KEY = /^(numbering|pin_?mode|mode|pin_?numbering|scheme|pin_?scheme|gpio_?mode)$/i

const isLine = (item: unknown): boolean =>
  isScalar(item) && !!item.range && typeof item.value === 'number' && fits('pin', item.value)

/** `buttons: { start: 16, stop: 18 }`: names of things that are switched or watched, each with a number of its own. */
function isWiring({ items }: YAMLMap, keys: readonly string[]): boolean {
  const values = items.map(({ value }) => isScalar(value) ? value.value : null)
  return isSwitching(keys.slice(-1)) && items.length > 1 && new Set(values).size === items.length
    && items.every(({ key, value }) => isLine(value) && isScalar(key) && !saysNoPin(String(key.value)))
}

export function readStructured(text: string): StructuredReading {
  const starts = lineStarts(text)
  const found: StructuredReading = { sightings: [], comments: [], problems: [], numberingSaid: [] }
  const document = parseDocument(text, { lineCounter: new LineCounter(), strict: false, uniqueKeys: false })
  for (const error of document.errors.slice(0, 3)) found.problems.push(
    `line ${lineNumberAt(starts, error.pos[0])}: ${error.message.split('\n')[0]}`)
  for (const match of text.matchAll(/(?<=^|\s)#[^\n]*/g)) found.comments.push({
    from: match.index, to: match.index + match[0].length, text: match[0].replace(/^#+\s*/, ''),
  })
  const around: string[][] = []
  const visit = (node: Node | null, keys: readonly string[], isListed = false): void => {
    if (isMap(node)) {
      // What stands beside it names it: `name: pump`.
      const names = node.items.flatMap(pair => isScalar(pair.key) && isScalar(pair.value)
        && /^(name|id|label|friendly_name|kind|type|what)$/i
          .test(String(pair.key.value))
        ? [String(pair.value.value)]
        : [])
      around.push(names)
      if (isWiring(node, keys)) {
        for (const pair of node.items) addLine(pair.value, [...keys, String((pair.key as Scalar).value)])
        around.pop()
        return
      }
      for (const pair of node.items) {
        const key = isScalar(pair.key) ? String(pair.key.value) : ''
        // `GPIO17: lamp`, `17: lamp` below `pins`: the key is the pin.
        const named = isScalar(pair.key) ? pair.key : null
        if (named?.range && (pinText(key) || (/^\d{1,2}$/.test(key)
          && keys.some(outer => pinNamed(outer) === 2 || (/^ports?$/i.test(outer) && isSwitching(keys)))))) {
          add('pin', key, named.range[0], named.range[1],
            [...keys, ...isScalar(pair.value) ? [String(pair.value.value)] : []], 'the key')
        }
        visit(pair.value as Node | null, [...keys, key])
      }
      around.pop()
    }
    else if (isSeq(node)) {
      // `lamps: [11, 13, 15]`: one number under that name would be how many there are.
      const isNamed = pinNamed(keys.at(-1)?.replace(/s$/, '') ?? '') > 0 || isSwitching(keys.slice(-1))
      if (isNamed && node.items.length && node.items.every(isLine)) for (const item of node.items) addLine(item, keys)
      else for (const item of node.items) visit(item as Node | null, keys, true)
    }
    else if (isScalar(node)
      && node.range) readScalar(String(node.value), node.source ?? String(node.value), node.range, keys, isListed)
  }
  const addLine = (item: unknown, keys: readonly string[]): void => {
    const { range, source } = item as Scalar
    add('pin', source ?? '', range![0], range![1], keys, `the key ${keys.at(-1)}`)
  }
  const readScalar = (value: string, source: string, [from, to]: readonly number[], keys: readonly string[],
    isListed: boolean): void => {
    const key = keys.at(-1) ?? ''
    const at = text.indexOf(source, from!)
    const start = at >= 0 && at < to! ? at : from!
    if (NUMBERING_KEY.test(key) && /^(bcm|board|gpio|line|lines|header|physical|phys|position)$/i.test(value)) {
      found.numberingSaid.push({ text: value, line: lineNumberAt(starts, from!) })
      return
    }
    // A device handed on under a name: the first half is the board's.
    const [outer] = value.split(':')
    if (outer !== value
      && DEVICE.test(outer!)) return add('device', outer!, start, start + outer!.length, keys, 'the path')
    if (DEVICE.test(value)) return add('device', value, start, start + value.length, keys, 'the path')
    const bus = /^i2c-(\d{1,2})$/.exec(value)
    if (bus) return add('i2c-bus', bus[1]!, start + 4, start + value.length, keys, 'what it says')
    const kind = kindByKeys(key, keys.slice(0, -1))
    if (kind === 'clock' || kind === 'baud') {
      const scaled = /^(\d+(?:\.\d+)?)\s*(k|M)?(Hz)?$/i.exec(value)
      if (scaled) add(kind, value, start, start + value.length, keys, `the key ${key}`, Number(scaled[1]) * ({ k: 1e3,
        m: 1e6 }[scaled[2]?.toLowerCase() ?? ''] ?? 1))
    }
    // `rows: 2`: a number under a name of many is how many there are.
    else if (kind === 'pin' && /[^s]s$/i.test(key) && key.length > 3 && pinNamed(key) < 2 && !isListed) return
    else if (kind) add(kind, source.replace(/^(["'])(.*)\1$/, '$2'), start + (/^["']/.test(source) ? 1 : 0),
      start + source.length, keys, `the key ${key}`)
    // A string that says itself what it is, below any key that is no text.
    else if (pinText(value) && !/name|label|title|text|comment|note|description/i.test(key)) add('pin', value, start,
      start + value.length, keys, 'what it says')
  }
  const add = (kind: SightingKind, source: string, from: number, to: number, keys: readonly string[], by: string,
    value?: number): void => {
    const named = kind === 'pin' ? pinText(source) : null
    const number = value ?? named?.value ?? numberIn(source)
    if (kind !== 'device' && (number === null || !fits(kind, number))) return
    const at = named ? from + text.slice(from, to).indexOf(source.slice(named.digits)) : from
    const line = lineNumberAt(starts, from)
    const comment = found.comments.filter(entry => lineNumberAt(starts, entry.from) === line)
      .flatMap(entry => wordsOf(entry.text))
    found.sightings.push({
      kind, value: kind === 'device' ? source : number!, text: source, from: at,
      to: named ? at + String(named.value).length : to, line,
      name: keys.filter(key => key && !/^\d+$/.test(key)).at(-1) ?? '', by,
      words: [...new Set([...[...around.at(-1) ?? [], ...[...keys].reverse()].flatMap(wordsOf),
        ...comment.slice(0, 12)])], ...named
        && { numbering: named.numbering },
    })
  }
  visit(document.contents as Node | null, [])
  found.sightings.sort((a, b) => a.from - b.from)
  return found
}

const fits = (kind: SightingKind, value: number): boolean => {
  if (kind === 'pin') return Number.isInteger(value) && value >= 0 && value <= 57
  return kind === 'address' ? value >= 3 && value <= 0x7f : value >= 0
}
