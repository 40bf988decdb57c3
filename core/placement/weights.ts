/** What placement prefers, in one table. Units are arbitrary; only their ratios matter. */
export const WEIGHTS = {
  /** Two parts at one address on one bus. */
  addressClash: 1000,
  /** Leaving an optional terminal unplaced. */
  leftOut: 400,
  /** Moving a terminal that already had a place. */
  moved: 30,
  /** A controller that is not a default one. */
  otherInstance: 20,
  /** A strip on an SPI bus rather than on a PWM channel. */
  stripOnSpi: 12,
  /** A relay, fan or lamp on a line whose reset pull would switch it on; a still input on a moving line. */
  movesAtStart: 15,
  /** A terminal behind a hub or an expander rather than on the header. */
  behindAnother: 6,
  /** Each default function of a line that a plain signal takes away from others. */
  defaultFunction: 5,
  /** Each other function of it. */
  otherFunction: 0.5,
  /** Each column between a line and the rest of its part. */
  apart: 0.4,
  /** Each further wire on a supply or ground position. */
  sharedSupply: 10,
} as const
