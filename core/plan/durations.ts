/** Time that steps and wires took, kept with what is done. */
import type { Plan } from './types'

type Build = Plan['build']

/** The build with times of what is done and of nothing else. */
export function withTook(build: Build, took: Build['took'] = build.took): Build {
  const there = new Set(build.done)
  return { ...build, took: Object.fromEntries(Object.entries(took).filter(([key]) => there.has(key))) }
}

/** Seconds that all of it took together; null where nobody counted. */
export function tookTogether({ took }: Build, keys: readonly string[]): number | null {
  const counted = keys.flatMap(key => took[key] ?? [])
  return counted.length ? counted.reduce((sum, seconds) => sum + seconds, 0) : null
}
