/** Moments as they stand in tables and logs: in seconds of whatever clock the text has. */

const CLOCK = /^(?:(\d{4})[-/](\d\d)[-/](\d\d)[T ])?(\d{1,2}):(\d\d)(?::(\d\d(?:[.,]\d+)?))?(?:Z| ?UTC)?$/
/** Day first, with points between. */
const DAY_FIRST = /^(\d{1,2})\.(\d{1,2})\.(\d{4}),? (.*)$/
/** Larger figures are seconds since 1970, and larger ones still milliseconds. */
const EPOCH_S = 1e9, EPOCH_MS = 1e12

/** Seconds of a moment that is written out: `2026-04-18T15:00:19`, `15:00:19`, `15:00`; null for anything else. */
export function clockSeconds(text: string): number | null {
  const turned = text.trim().replace(DAY_FIRST, (_, day: string, month: string, year: string, clock: string) =>
    `${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')} ${clock}`)
  const match = CLOCK.exec(turned)
  if (!match) return null
  const [, year, month, day, hour, minute, second = '0'] = match
  const ofDay = Number(hour) * 3600 + Number(minute) * 60 + Number(second.replace(',', '.'))
  return year === undefined ? ofDay : Date.UTC(Number(year), Number(month) - 1, Number(day)) / 1000 + ofDay
}

/** How many seconds one of a column's figures is, by the column's name and its first figure. */
export function secondsPer(name: string, first: number): number {
  if (first >= EPOCH_MS) return 0.001
  if (first >= EPOCH_S) return 1
  if (/\b(ms|millis\w*)\b/i.test(name)) return 0.001
  if (/\b(min|minutes?)\b/i.test(name)) return 60
  return /\b(h|hours?)\b/i.test(name) ? 3600 : 1
}

export const isTimeName = (name: string): boolean => /^(time|date|timestamp|when|at|t|s|sec|seconds?|min|minutes?|ms|millis|h|hours?|elapsed|uptime)\b/i
  .test(name.trim())

const DAY_S = 86_400

/** From the first on; a clock that goes back by hours has passed midnight. Null where it goes back otherwise. */
export function fromFirst(moments: readonly number[]): number[] | null {
  const found: number[] = []
  let days = 0
  for (const [i, moment] of moments.entries()) {
    const before = moments[i - 1]
    if (before !== undefined && moment < before && before < DAY_S) {
      if (before - moment < DAY_S / 2) return null
      days += DAY_S
    }
    else if (before !== undefined && moment < before) return null
    found.push(moment + days - moments[0]!)
  }
  return found
}
