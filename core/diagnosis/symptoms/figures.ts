/** Figures in a maker's sentence: what a meter showed, addresses of a bus, positions of the header. */
import { readingIn as outcomeOf } from '../diagnose'
import type { RunRow } from '../sheet'

export interface ReadingSaid { unit: 'V' | 'Ω', value: number, rail: '5V' | '3V3' | null }

const OHMS: Readonly<Record<string, number>> = { k: 1e3, m: 1e6 }
const VOLT = /(-?\d+(?:[.,]\d+)?)\s*(m)?(?:v|volts?)\b/gi
const OHM = /(\d+(?:[.,]\d+)?)\s*(k|m)?\s*(?:Ω|ohms?\b)/gi
/** What follows names what should be there, not what is. */
const EXPECTED = /(?:instead of|not|should be|rather than|expected|than)\s*$/i
/** A rail that is spoken of, not measured. */
const NAMES_RAIL = /^\s*(?:v|volts?)?\s*-?(?:pin|rail|line|supply|header|side|position|and|to|against|input|output|feed)\b/i
const BEFORE_RAIL = /(?:\bon|\bat|\bthe|between|from|against|and)\s*$/i

const number = (text: string) => Number(text.replace(',', '.'))

/** Ohms by their factor alone, where it is said that it is a resistance. */
const FACTOR = /(\d+(?:[.,]\d+)?)\s*(k|m)\b/gi

/** What a meter showed, and of which rail; null where no figure with a unit is told. */
export function readingSaid(clause: string): ReadingSaid | null {
  const text = clause.replace(/\b3v3\b/gi, '3.3 V')
  let rail: '5V' | '3V3' | null
  if (/3[.,]3\s*v/i.test(text)) rail = '3V3'
  else rail = /(?<![.,\d])5\s*v/i.test(text) ? '5V' : null
  const ohm = [...text.matchAll(OHM), ...(/resist|ohm/i.test(text) ? text.matchAll(FACTOR) : [])].at(-1)
  if (ohm) return { unit: 'Ω', value: number(ohm[1]!) * (OHMS[ohm[2]?.toLowerCase() ?? ''] ?? 1), rail }
  const volts = [...text.matchAll(VOLT)].filter(match => !EXPECTED.test(text.slice(0, match.index)))
  const isRail = (match: RegExpMatchArray) => [5, 3.3].includes(number(match[1]!))
    && (NAMES_RAIL.test(text.slice(match.index! + match[1]!.length)) || BEFORE_RAIL.test(text.slice(0, match.index)))
  const measured = volts.filter(match => !isRail(match)).at(-1)
  // A rail that is only named was not measured.
  if (!measured || /\b(?:no|without|short|shorted|beeps?|continuity)\b/i.test(text)) return null
  return { unit: 'V', value: number(measured[1]!) / (measured[2] ? 1000 : 1), rail }
}

/** What a figure is at a test. */
export const boundOf = ({ probe, planned, outcomes }: RunRow, value: number): string =>
  outcomeOf(probe.reading!, planned, outcomes.filter(outcome => outcome !== planned), value)

/** Addresses that answer and such as do not; `isAll` where it is said that nobody else does. */
export function addressesIn(clause: string): { there: number[], gone: number[], isAll: boolean } {
  const isOfBus = /i2c|i²c|scan|answer|address|grid|shows?|\bat\b/i.test(clause)
  const words = [...clause.matchAll(/\b0x([0-9a-f]{2})\b|\b([0-7][0-9a-f])\b(?!\s*(?:v|volts?|ohms?|Ω|°|%|mm|cm|s|min|times)\b)(?![.,]\d)/gi)]
    .filter(match => match[1] !== undefined || (isOfBus && /[a-f]|[2-7]\d/i.test(match[2]!)))
  const isGone = (at: number) => /(?:\b(?:not|no|without|instead of|rather than|isn't|missing|nor)\b|n't)[^,]{0,18}$/i.test(clause.slice(0,
    at))
  const isMissing = (at: number) =>
    /^[^,]{0,16}\b(?:missing|gone|absent|lacks|does not|doesn't|isn't|is not|never|no more)\b/i.test(clause.slice(at))
  const there: number[] = []
  const gone: number[] = []
  for (const match of words) {
    const address = Number.parseInt(match[1] ?? match[2]!, 16)
    const end = match.index + match[0].length
    if (isGone(match.index) || isMissing(end)) gone.push(address)
    else there.push(address)
  }
  return { there, gone, isAll: /\b(?:only|just|alone|nothing else|nobody else)\b/i.test(clause) }
}

/** Positions of the header that a sentence names. */
export function positionsIn(clause: string): number[] {
  const found = [...clause.matchAll(/\b(?:pins?|pos(?:ition)?s?|header)\s*#?(\d{1,2})(?:\s*(?:and|to|,|&|with|\+)\s*(?:pins?\s*|position\s*)?(\d{1,2}))?/gi)]
  return found.flatMap(match => [match[1], match[2]].flatMap(text => text === undefined ? [] : Number(text)))
    .filter(position => position >= 1 && position <= 40)
}
