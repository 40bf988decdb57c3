/** A length of time in the unit that fits it. */
export const lasting = (seconds: number): string => seconds < 120
  ? `${seconds.toFixed(0)} s`
  : seconds < 7200 ? `${(seconds / 60).toFixed(1)} min` : `${(seconds / 3600).toFixed(1)} h`
