/** Preferred values of resistors: IEC 60063. */

export type SeriesName = 'E12' | 'E24' | 'E96'

const E12 = [10, 12, 15, 18, 22, 27, 33, 39, 47, 56, 68, 82]
const E24 = [10, 11, 12, 13, 15, 16, 18, 20, 22, 24, 27, 30, 33, 36, 39, 43, 47, 51, 56, 62, 68, 75, 82, 91]
/** E96 follows its formula throughout: round(100 · 10^(n/96)). E12 and E24 differ from theirs in some values. */
const E96 = Array.from({ length: 96 }, (_, n) => Math.round(100 * 10 ** (n / 96)) / 10)

const SERIES: Record<SeriesName, readonly number[]> = { E12, E24, E96 }

/** Values of one decade as printed in the standard, 10 to below 100. */
export function decadeOf(series: SeriesName): readonly number[] {
  return SERIES[series]
}

/** All values between two limits in ohms, both included. */
export function valuesBetween(series: SeriesName, minOhm: number, maxOhm: number): number[] {
  const values: number[] = []
  for (let power = Math.floor(Math.log10(minOhm)) - 1; 10 ** power <= maxOhm; power++)
    for (const step of SERIES[series]) {
      const value = Number((step * 10 ** (power - 1)).toPrecision(4))
      if (value >= minOhm * (1 - 1e-9) && value <= maxOhm * (1 + 1e-9)) values.push(value)
    }
  return values
}

/** The smallest value of the series that is no smaller than `ohm` (above zero). */
export function nextAbove(series: SeriesName, ohm: number): number {
  return valuesBetween(series, ohm, ohm * 10)[0]!
}

/** The largest value of the series that is no larger than `ohm` (above zero). */
export function nextBelow(series: SeriesName, ohm: number): number {
  return valuesBetween(series, ohm / 10, ohm).at(-1)!
}

/** `4.7 kΩ`. */
export function ohmsInWords(ohm: number): string {
  if (ohm >= 1e6) return `${Number((ohm / 1e6).toPrecision(3))} MΩ`
  return ohm >= 1000 ? `${Number((ohm / 1000).toPrecision(3))} kΩ` : `${Number(ohm.toPrecision(3))} Ω`
}

/** Resistors side by side: 1 ÷ Σ 1/R. Infinity for none. */
export function parallelOhm(ohms: readonly number[]): number {
  return 1 / ohms.reduce((sum, ohm) => sum + 1 / ohm, 0)
}
