/** A store over a week with a solar panel: how full it is, hour by hour, under a made-up sky. */

export interface WeekTask {
  usableWh: number
  /** Losses between store and load. */
  efficiency: number
  startShare: number
  panelW: number
  dayLengthH: number
  /** Seven days: 1 a clear sky, 0 none. */
  weather: readonly number[]
  /** Power drawn at an hour of the day, 0 to 24. */
  loadW: (hour: number) => number
}

export interface WeekPoint {
  hour: number
  /** 0 to 1 of what may be used. */
  share: number
  sunW: number
  loadW: number
}

export interface Week {
  points: WeekPoint[]
  minShare: number
  /** Hour of the week at which it is lowest. */
  minAtH: number
  /** Hour at which it is empty for the first time; null when it never is. */
  emptyAtH: number | null
  endShare: number
  sunWh: number
  loadWh: number
  /** Sun that came when the store was full. */
  unusedWh: number
}

/** Of the panel's peak power, what arrives in the store on a clear noon: dirt, angle, warmth, charger. Memory. */
export const PANEL_SHARE = 0.7
/** Of what goes into a store, what comes out again. Memory. */
export const CHARGE_SHARE = 0.92
const STEP_H = 0.25

/** Sun at an hour of the day, 0 to 1: half a sine from sunrise to sunset around noon. */
export function sunAt(hour: number, dayLengthH: number): number {
  const sinceRise = hour - (12 - dayLengthH / 2)
  return dayLengthH > 0 && sinceRise > 0 && sinceRise < dayLengthH ? Math.sin(Math.PI * sinceRise / dayLengthH) : 0
}

/** Energy of a clear day in Wh: 2/π of the peak over the day's length, less the panel's losses. */
export const clearDayWh = (panelW: number,
  dayLengthH: number): number => panelW * PANEL_SHARE * dayLengthH * 2 / Math.PI

/**
 * Goes through the week in quarters of an hour. Laws: the share stays within 0 and 1; in = out + kept + unused
 * + charging loss.
 */
export function simulateWeek({ usableWh, efficiency, startShare, panelW, dayLengthH, weather, loadW }: WeekTask): Week {
  let storedWh = usableWh * startShare
  const week: Week = { points: [], minShare: startShare, minAtH: 0, emptyAtH: null, endShare: startShare, sunWh: 0,
    loadWh: 0,
    unusedWh: 0 }
  const share = () => usableWh > 0 ? storedWh / usableWh : 0
  for (let step = 0; step <= 7 * 24 / STEP_H; step++) {
    const hour = step * STEP_H
    const ofDay = (hour + STEP_H / 2) % 24
    const sunW = panelW * PANEL_SHARE * sunAt(ofDay, dayLengthH) * (weather[Math.floor(hour / 24) % 7] ?? 0)
    const drawnW = loadW(ofDay)
    if (Number.isInteger(hour)) week.points.push({ hour, share: share(), sunW, loadW: drawnW })
    if (hour === 7 * 24) break
    const sunWh = sunW * STEP_H
    const wantedWh = drawnW * STEP_H / efficiency
    // The sun feeds the load first; what is over is charged, what is missing comes out of the store.
    const direct = Math.min(sunWh, wantedWh)
    const over = (sunWh - direct) * CHARGE_SHARE
    const taken = Math.min(over, usableWh - storedWh)
    const missing = wantedWh - direct
    week.sunWh += sunWh
    week.loadWh += Math.min(wantedWh, direct + storedWh) * efficiency
    week.unusedWh += over - taken
    if (missing > storedWh + taken && week.emptyAtH === null) week.emptyAtH = hour
    storedWh = Math.max(0, storedWh + taken - missing)
    if (share() < week.minShare) {
      week.minShare = share()
      week.minAtH = hour + STEP_H
    }
  }
  week.endShare = share()
  return week
}
