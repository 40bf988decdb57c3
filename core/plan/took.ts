/** Time that steps and wires took, kept with what is done. */
import type { Plan } from './types'

type Build = Plan['build']

/** The build with times of what is done and of nothing else; without the field where there is none. */
export function withTook({ took: before, ...build }: Build, took: NonNullable<Build['took']> = before ?? {}): Build {
  const there = new Set(build.done)
  const entries = Object.entries(took).filter(([key]) => there.has(key))
  return entries.length ? { ...build, took: Object.fromEntries(entries) } : build
}

/** Seconds that all of it took together; null where nobody counted. */
export function tookTogether({ took }: Build, keys: readonly string[]): number | null {
  const counted = keys.flatMap(key => took?.[key] ?? [])
  return counted.length ? counted.reduce((sum, seconds) => sum + seconds, 0) : null
}
