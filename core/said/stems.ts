/**
 * A maker's sentence as stems, and phrases that are looked for in it. Stems: Porter's algorithm, published
 * 1980, by a package.
 */
import { stemmer } from 'stemmer'

/** A word as it is compared: names of pins, figures and paths stay as they are. */
export const stemOf = (word: string): string => /[^a-z]/.test(word) ? word : stemmer(word)

/** Said of what is not there, or does not happen. */
const NEGATIONS = new Set(['no', 'not', 'never', 'nothing', 'nobody', 'none', 'without', 'neither', 'nor', 'hardly', 'fail', 'refuse',
  'stop'].map(stemOf))

/** The words of a sentence, in small letters, with "n't" as a word of its own. */
export const spokenWords = (text: string): string[] => text.toLowerCase()
  .replace(/[‘’`´]/g, '\'').replace(/\bcannot\b/g, 'can not').replace(/n't\b/g, ' not')
  .replace(/\b(cant|wont|dont|doesnt|isnt|didnt|arent)\b/g, 'not')
  .replace(/'s\b/g, '').replace(/\blight(?:s|ing)? up\b/g, 'lit').replace(/\bunder-?\s?voltage\b/g, 'undervoltage')
  .replace(/\bbrown-?\s?out\b/g, 'brownout')
  .match(/0x[0-9a-f]+|(?<!\w)\/[\w/.*-]+|[\p{L}\d]+(?:[.][\d]+)?/gu) ?? []

export const stemsOf = (text: string): string[] => spokenWords(text).map(stemOf)

/**
 * Places of a phrase: each is one of several words; a negation is `NO`. So many other words may stand
 * between two places.
 */
type Phrase = readonly ReadonlySet<string>[]
const MAX_BETWEEN = 4

/** `only|just red`: words with a bar between them stand for one another. */
const phraseOf = (text: string): Phrase => text.split(' ').map(place =>
  new Set(place.split('|').flatMap(word => word === 'NO' ? [...NEGATIONS] : stemOf(word))))

export const phrasesOf = (...texts: readonly string[]): Phrase[] => texts.map(phraseOf)

const holdsFrom = (phrase: Phrase, stems: readonly string[], place: number, from: number, reach: number): boolean => {
  if (place === phrase.length) return true
  for (let at = from; at < Math.min(stems.length, from + reach); at++) {
    if (phrase[place]!.has(stems[at]!) && holdsFrom(phrase, stems, place + 1, at + 1, MAX_BETWEEN + 1)) return true
  }
  return false
}

/** Whether one of the phrases stands in a sentence. */
export const hasAny = (phrases: readonly Phrase[], stems: readonly string[]): boolean =>
  phrases.some(phrase => holdsFrom(phrase, stems, 0, 0, stems.length))

export const isNegated = (stems: readonly string[]): boolean => stems.some(stem => NEGATIONS.has(stem))

/** Sentences and their parts that each say something of their own; points within figures and paths end none. */
export const clausesOf = (text: string): string[] => text
  .split(/[\n;!?]+|\.(?=\s|$)|,?\s+(?:but|however|though|although|yet|then)\s+|,\s+(?!(?:and\s+)?(?:0x)?[0-9a-f]{2}\b)(?:and\s+|today\s+|now\s+)?/i)
  .map(clause => clause.trim()).filter(Boolean)

/** What is changed for another, and what came of it, told one after the other, is one thing. */
export const together = (clauses: readonly string[], isHalf: (clause: string) => boolean): string[] =>
  clauses.reduce<string[]>((done, clause) => done.length && isHalf(done.at(-1)!)
    ? [...done.slice(0, -1), `${done.at(-1)}, ${clause}`]
    : [...done, clause], [])

/** What happens, and the occasion on which it does. */
export function occasionOf(clause: string): { main: string, occasion: string } {
  const at = /\b(?:when(?:ever)?|while|as soon as|every time|each time|(?<!at )once|if|after|during)\b/i.exec(clause)
  return at && at.index > 0
    ? { main: clause.slice(0, at.index).trim(), occasion: clause.slice(at.index).trim() }
    : { main: clause, occasion: '' }
}
