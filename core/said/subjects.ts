/**
 * What a maker's words are about: parts by their own name, by what they are, or by what parts of their kind are called.
 */
import type { PartGroup } from '../catalogue/types'
import type { Facts } from '../facts/types'
import { stemOf, spokenWords } from './stems'

/** A part as words speak of it. */
export interface SpokenSubject {
  partId: string
  name: string
  group: PartGroup
  /** What it is, without how it is joined. */
  kind: string
  /** Its terminals that have a place, in their order. */
  terminals: { key: string, label: string, isLine: boolean }[]
  /** What it wants at an input for a high that the board does not give, with nothing between that lifts it. */
  wants: { label: string, volts: number } | null
}

/**
 * Words for parts of a group, those together that stand for one another. A part whose kind has a word of some sets is
 * called by those alone: buttons are no "reader". Common practice, no source.
 */
const NOUNS: Readonly<Record<PartGroup, readonly (readonly string[])[]>> = {
  sensing: [['sensor', 'probe', 'detector', 'thermometer']],
  showing: [['screen', 'display', 'panel', 'oled', 'lcd', 'tft', 'picture', 'backlight', 'touch']],
  input: [['button', 'key', 'keys', 'switch'], ['reader'], ['knob', 'encoder'], ['keypad'], ['scanner'], ['joystick']],
  switching: [['relay', 'mosfet', 'contact', 'coil']],
  lighting: [['strip', 'pixel', 'lamp', 'light', 'led']],
  sounding: [['sound', 'speaker', 'audio', 'amplifier', 'music', 'player'], ['buzzer', 'beeper', 'sounder'],
    ['microphone']],
  moving: [['fan', 'blade'], ['servo'], ['motor', 'stepper']],
  talking: [['modem', 'radio'], ['printer'], ['port', 'serial', 'uart']],
  timing: [['clock', 'rtc', 'time']],
  expanding: [['expander'], ['hub', 'multiplexer'], ['converter']],
  building: [],
}

/** What a part may be called for its group. */
function nounsOf({ group, kind }: Pick<SpokenSubject, 'group' | 'kind'>): string[] {
  const own = new Set(stemsOfName(kind))
  const sets = NOUNS[group].map(set => set.map(stemOf))
  const hit = sets.filter(set => set.some(noun => own.has(noun)))
  return (hit.length ? hit : sets).flat()
}

/** What some are called that their names in the catalogue are not. Common practice. */
const ALSO: readonly [of: RegExp, words: readonly string[]][] = [
  [/positioning/i, ['gps', 'gnss', 'position']], [/temperature/i, ['temp']],
  [/probe/i, ['temp', 'thermometer']], [/addressable/i, ['strip', 'pixel']],
  [/load-cell/i, ['scale', 'weight', 'load', 'cell']],
  [/paper-like/i, ['epaper', 'eink', 'paper']], [/infrared/i, ['remote', 'ir']],
]
/** Names that say little by themselves. */
const SMALL = new Set(['the', 'a', 'an', 'of', 'in', 'on', 'by', 'with', 'and', 'to', 'at', 'for', 'its', 'own',
  'line', 'one', 'two',
  'colour', 'small', 'plain', 'wide'])
/** Words for the board as a whole. */
const BOARD = new Set(['board', 'system', 'computer', 'sbc', 'it', 'everything', 'machine', 'thing', 'whole'].map(stemOf))

/** The parts of a plan that are wired, as one speaks of them. */
export const subjectsOf = (facts: Facts): SpokenSubject[] => facts.parts.map(({ id, name, part }) => ({
  partId: id, name, group: part.group, kind: kindOf(part.name),
  wants: wantsMore(facts, id),
  terminals: facts.terminals.filter(({ owner, place }) => owner.id === id && place)
    .map(({ key, label, signal }) => ({ key, label, isLine: signal?.role === 'line' || signal?.role === 'pwm' })),
}))

/** A line of the board that is set, in volts. */
const BOARD_HIGH_V = 3.3

function wantsMore({ terminals }: Facts, id: string): SpokenSubject['wants'] {
  const input = terminals.find(({ owner, signal, place,
    between }) => owner.id === id && place?.kind === 'header' && !between
      && signal?.direction === 'in' && (signal.inputHighMinV?.value ?? 0) > BOARD_HIGH_V)
  return input ? { label: input.label, volts: input.signal!.inputHighMinV!.value } : null
}

/** `Pressure, humidity and temperature sensor` of a name that goes on with how it is joined. */
const kindOf = (name: string): string => {
  const pieces = name.split(', ')
  const joined = pieces.findIndex((piece,
    i) => i > 0 && /\d|I²C|SPI|serial|wire|analog|board|plug|level|header|bare/i.test(piece))
  return pieces.slice(0, joined < 0 ? 2 : joined).join(', ')
}

const stemsOfName = (text: string) => spokenWords(text).filter(word => !SMALL.has(word)).map(stemOf)

/**
 * A word that stands for a part's whole name while a sentence is read: what is in a name says nothing of what happens.
 */
const tokenOf = ({ partId }: SpokenSubject): string =>
  `part0${[...partId].map(letter => letter.codePointAt(0)!.toString(36)).join('')}`

/** Names of several words, the longest first. */
const longNames = (subjects: readonly SpokenSubject[]): SpokenSubject[] =>
  subjects.filter(({ name }) => /\S\s+\S/.test(name)).sort((a, b) => b.name.length - a.name.length)

/** A text with the whole names of parts as one word each, and how they were said. */
export function withTokens(subjects: readonly SpokenSubject[],
  text: string): { text: string, spoken: ReadonlyMap<string, string> } {
  const spoken = new Map<string, string>()
  const done = longNames(subjects).reduce((left, subject) => {
    const pattern = subject.name.trim().split(/\s+/).map(word => word.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'))
      .join('\\s+')
    return left.replace(new RegExp(`(?<![\\p{L}\\d])${pattern}(?![\\p{L}\\d])`, 'giu'), (name) => {
      spoken.set(tokenOf(subject), name)
      return tokenOf(subject)
    })
  }, text)
  return { text: done, spoken }
}

/** The same text as it was said. */
export const asSpoken = (text: string, spoken: ReadonlyMap<string, string>): string =>
  [...spoken].reduce((left, [token, name]) => left.replaceAll(token, name), text)

/**
 * How well a sentence names a part: its whole name most, a word of it, what it is, what its kind is called; 0 for
 * not at all.
 */
function named(subject: SpokenSubject, stems: ReadonlySet<string>): number {
  if (stems.has(tokenOf(subject))) return 100 + subject.name.length
  const own = [...new Set(stemsOfName(subject.name))]
  const hits = own.filter(stem => stems.has(stem)).length
  const kind = stemsOfName(subject.kind).filter(stem => !BOARD.has(stem))
  const also = ALSO.flatMap(([of, words]) => of.test(subject.kind) ? words : []).map(stemOf)
  const nouns = nounsOf(subject)
  const isKind = [...kind, ...also].some(stem => stems.has(stem) && !nouns.includes(stem))
  const isNoun = nouns.some(stem => stems.has(stem))
  if (own.length && hits === own.length) return 100 + own.length
  return hits * 10 + (isKind ? 4 : 0) + (isNoun ? 3 : 0)
}

/** Parts that a sentence is about: those that it names best. Several where it does not tell them apart. */
export function partsNamed(subjects: readonly SpokenSubject[], stems: readonly string[]): SpokenSubject[] {
  const words = new Set(stems)
  const scores = subjects.map(subject => named(subject, words))
  const max = Math.max(0, ...scores)
  return max ? subjects.filter((_, i) => scores[i] === max) : []
}

export const isOfBoard = (stems: readonly string[]): boolean => stems.some(stem => BOARD.has(stem))

/** The part whose terminal a sentence names by its label, where no other has one of that label. */
export function ownersOf(subjects: readonly SpokenSubject[], stems: readonly string[]): SpokenSubject[] {
  const owners = new Set(stems.filter(stem => stem.length > 1 && /[a-z]/.test(stem)).flatMap((stem) => {
    const having = subjects.filter(({ terminals }) => terminals.some(({ label }) => isLabel(label, stem)))
    return having.length === 1 ? having : []
  }))
  return [...owners]
}

/** `TX` is said of `TXD`. */
const isLabel = (label: string,
  stem: string) => bare(label) === bare(stem) || (/^[rt]x$/.test(stem) && bare(label) === `${stem}d`)
const bare = (text: string) => text.toLowerCase().replace(/[^\p{L}\d]/gu, '')

/**
 * Terminals of a part that a sentence names: by their label, or by the number after what such parts are
 * called ("button 2").
 */
export function terminalsNamed({ terminals, ...subject }: SpokenSubject,
  stems: readonly string[]): SpokenSubject['terminals'] {
  const byLabel = stems.flatMap(stem => terminals.find(({ label }) => isLabel(label, stem)) ?? [])
  if (byLabel.length) return [...new Set(byLabel)]
  const lines = terminals.filter(({ isLine }) => isLine)
  const nouns = new Set([...nounsOf(subject), ...['channel', 'input', 'output', 'number', 'bolt'].map(stemOf)])
  return stems.flatMap((stem, i) => {
    const nth = nouns.has(stem) ? Number(stems[i + 1]) : Number.NaN
    return Number.isInteger(nth) ? lines[nth - 1] ?? [] : []
  })
}
