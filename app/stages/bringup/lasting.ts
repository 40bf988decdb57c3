/** A length of time in the unit that fits it. */
export const lasting = (seconds: number): string => {
  if (seconds < 120) return `${seconds.toFixed(0)} s`
  return seconds < 7200 ? `${(seconds / 60).toFixed(1)} min` : `${(seconds / 3600).toFixed(1)} h`
}
