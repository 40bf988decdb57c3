/** When a fuse blows, and whether it can. */

/** Quick fuses: at this many times the rating they have blown after so many seconds. published: IEC 60127-2 sheet 2, from memory */
export const QUICK_FUSE: readonly { times: number, mostS: number }[] = [
  { times: 2.1, mostS: 1800 }, { times: 2.75, mostS: 2 }, { times: 4, mostS: 0.3 }, { times: 10, mostS: 0.02 },
]

/** A fuse that carries no more than this part of its rating does not age. practice */
export const STEADY_SHARE = 0.75

/** Longest time in s until a quick fuse has blown; Infinity where it may never. */
export function blowsWithinS(ratedMa: number, currentMa: number): number {
  return QUICK_FUSE.findLast(({ times }) => currentMa >= times * ratedMa)?.mostS ?? Infinity
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

/** The smallest fuse that carries the current without ageing, and blows in a short; null when no fuse does both. */
export function fittingFuseMa(steadyMa: number, shortCircuitMa: number, surgeMa: number): number | null {
  return FUSES_MA.find(ma => steadyMa <= STEADY_SHARE * ma && surgeMa < 4 * ma && shortCircuitMa >= 2.75 * ma) ?? null
}
