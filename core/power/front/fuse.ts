/** When a fuse blows, and whether it can. */

interface TimePoint { times: number, s: number }

/**
 * Quick fuses: at this many times the rating they have blown after so many seconds at the latest, and carry it so long
 * at least. published: IEC 60127-2 sheet 2, from memory
 */
const BLOWN_BY: readonly TimePoint[] = [{ times: 2.1, s: 1800 }, { times: 2.75, s: 2 }, { times: 4, s: 0.3 },
  { times: 10, s: 0.02 }]
const CARRIES: readonly TimePoint[] = [{ times: 1.5, s: 3600 }, { times: 2.1, s: 60 }, { times: 2.75, s: 0.05 },
  { times: 4, s: 0.01 },
  { times: 10, s: 0.001 }]

/**
 * Between two points of such a curve a straight line in logarithms of both; past its last point what the last one says.
 */
function onCurve(points: readonly TimePoint[], times: number): number {
  if (times < points[0]!.times) return Infinity
  const after = points.findIndex(point => point.times >= times)
  if (after < 0) return points.at(-1)!.s
  if (after === 0) return points[0]!.s
  const a = points[after - 1]!
  const b = points[after]!
  const part = Math.log(times / a.times) / Math.log(b.times / a.times)
  return a.s * (b.s / a.s) ** part
}

/** A fuse that carries no more than this part of its rating does not age. practice */
export const STEADY_SHARE = 0.75

/** Longest time in s until a quick fuse has blown; Infinity where it may never. */
export const blowsWithinS = (ratedMa: number, currentMa: number): number => onCurve(BLOWN_BY, currentMa / ratedMa)

/** Time in s that a quick fuse carries a current at least; Infinity where it does not blow by it. */
export const carriesForS = (ratedMa: number, currentMa: number): number => onCurve(CARRIES, currentMa / ratedMa)

/**
 * What is left of a fuse's rating at a temperature, of 1 at 23 °C: a wire melts a little sooner in the warmth, a
 * polymer lets go much sooner. Memory: 0.3 and 0.9 percent a kelvin, as data sheets draw them.
 */
export function warmShare(kind: 'fuse' | 'fuse-resettable', temperatureC: number): number {
  const perKelvin = kind === 'fuse' ? 0.003 : 0.009
  return Math.min(1.3, Math.max(0.1, 1 - perKelvin * (temperatureC - 23)))
}

/** What flows into a short in mA: the voltage over all resistance on the way, or what a limited source gives. */
export function shortMa(voltageV: number, ohm: number, limitMa: number | null): number {
  const straight = voltageV / Math.max(ohm, 1e-3) * 1000
  return limitMa === null ? straight : Math.min(straight, limitMa)
}

/** A regulated adapter gives about this many times its rating before it lets go. Memory. */
export const ADAPTER_OVERLOAD = 1.3

/** Fuse ratings on sale in mA. published: IEC 60127-2, R10 steps, from memory */
export const FUSES_MA: readonly number[] = [
  250, 315, 400, 500, 630, 800, 1000, 1250, 1600, 2000, 2500, 3150, 4000, 5000, 6300, 8000, 10_000,
]

export interface FuseTask {
  steadyMa: number
  /** For a moment when it is switched on, and how long that is. */
  surgeMa: number
  surgeS: number
  /** In a short behind it. */
  shortMa: number
  /** Around it; 23 °C where nothing is said. */
  temperatureC?: number
  /** What the wire behind it stands; no limit where nothing is said. */
  wireMa?: number
}

/** A fuse has to have gone within this time in a short: a wire stands more than its rating that long. practice */
export const GONE_WITHIN_S = 2

/**
 * The smallest fuse that carries the current without ageing, outlasts the surge and blows in a short; null when no
 * fuse does all.
 */
export function fittingFuseMa({ steadyMa, surgeMa, surgeS, shortMa: faultMa, temperatureC = 23,
  wireMa = Infinity }: FuseTask): number | null {
  const warm = warmShare('fuse', temperatureC)
  return FUSES_MA.find(ma => steadyMa <= STEADY_SHARE * ma * warm && carriesForS(ma, surgeMa) >= surgeS
    && blowsWithinS(ma, faultMa) <= GONE_WITHIN_S && ma <= wireMa) ?? null
}
