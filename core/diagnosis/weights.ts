/**
 * How often a kind of fault is met, beside the others: our own order of common mistakes (common practice, no source).
 */
export const WEIGHTS = {
  open: 4, loose: 2, lowLevel: 2, neighbour: 1.5, partner: 1, swap: 3, flat: 5, seat: 1.5, bridge: 0.5, strap: 4,
  dead: 1,
  inside: 0.7, missing: 6, figure: 3, thinGround: 2, pull: 1,
  hidden: 2, copy: 4, console: 5, rate: 5, noSupply: 2, weakSupply: 5, thinCable: 4, card: 3, oldImage: 2,
} as const
