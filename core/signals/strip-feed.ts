/**
 * The fall of the voltage along a light strip. Textbook: every pixel draws the same, through what lies between it
 * and the feed.
 */

/**
 * Volts lost from the feed to the pixel that is worst off, `n` pixels of `pixelMa` with `ohm` from one to the next: fed
 * at one end the last one, I·R·n·(n + 1) ÷ 2; fed at both the middle one, each end carrying half of them.
 */
export function stripDropV(n: number, pixelMa: number, ohm: number, bothEnds: boolean): number {
  const carried = bothEnds ? n / 2 : n
  return pixelMa / 1000 * ohm * carried * (carried + 1) / 2
}
