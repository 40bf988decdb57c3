/** The world around the thing, which one can change: air, height, light, and what somebody does at one part. */
import type { Quantity } from '../catalogue/types'

export interface Surroundings {
  airC: number
  /** Relative, in percent. */
  humidity: number
  /** Above the sea. */
  heightM: number
  lux: number
  co2Ppm: number
  distanceMm: number
  weightG: number
  /** At an analog input. */
  volts: number
}

/** A room as it usually is. Common practice, no source. */
export const USUAL: Readonly<Surroundings> = {
  airC: 21, humidity: 45, heightM: 120, lux: 300, co2Ppm: 600, distanceMm: 400, weightG: 0, volts: 1.2,
}

/** What somebody did at one part, and when, in seconds. */
export interface Touch { what: 'breath' | 'warmth', atS: number }

/** Pressure at a height, in hPa. Published: ISO 2533 / ICAO Doc 7488. */
export const pressureHpa = (heightM: number): number => 1013.25 * (1 - 2.25577e-5 * heightM) ** 5.25588

/** Breath is warm, moist and used: as it meets the sensor. Common practice, no source. */
const BREATH = { celsius: 33, humidity: 96, co2Ppm: 20_000, riseS: 1.5, fadeS: 25 }
/** A finger or a hair dryer far off; it comes and goes slowly. Common practice, no source. */
const WARMTH = { celsius: 12, riseS: 8, fadeS: 60 }

/** How much of something that was done is there: it rises, then fades, both towards their end as 1 − e^(−t/τ). */
function share(sinceS: number, { riseS, fadeS }: { riseS: number, fadeS: number }): number {
  if (sinceS < 0) return 0
  return (1 - Math.exp(-sinceS / riseS)) * Math.exp(-sinceS / fadeS)
}

/** The quantity at a part, in °C, percent, hPa, lux, ppm, mm, g or V. */
export function quantityAt(what: Quantity, world: Surroundings, touches: readonly Touch[], nowS: number): number {
  const of = (kind: Touch['what'], figures: { riseS: number, fadeS: number }) => Math.max(0, ...touches
    .filter(touch => touch.what === kind).map(({ atS }) => share(nowS - atS, figures)))
  const breath = of('breath', BREATH)
  const towards = (from: number, to: number, part: number) => from + (to - from) * part
  switch (what) {
    case 'temperature': return towards(world.airC, Math.max(world.airC, BREATH.celsius), breath * 0.3)
      + WARMTH.celsius * of('warmth', WARMTH)
    case 'humidity': return towards(world.humidity, Math.max(world.humidity, BREATH.humidity), breath)
    case 'pressure': return pressureHpa(world.heightM)
    case 'light': return world.lux
    case 'carbon-dioxide': return towards(world.co2Ppm, BREATH.co2Ppm, breath * 0.2)
    case 'distance': return world.distanceMm
    case 'weight': return world.weightG
    case 'voltage': return world.volts
  }
}
