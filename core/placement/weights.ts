/**
 * What placement prefers, in one table. Units are arbitrary; only their ratios matter. The maker may replace
 * any of them.
 */
import type { Plan } from '../plan/types'

interface WeightRow {
  value: number
  /** For the person who adjusts it. */
  meaning: string
}

export const WEIGHT_TABLE = {
  addressClash: { value: 1000, meaning: 'two parts at one address on one bus' },
  leftOut: { value: 400, meaning: 'an optional terminal left unplaced' },
  pwmShared: { value: 200, meaning: 'a further output on one PWM channel: same frequency, same duty' },
  unsafeAtStart: { value: 80, meaning: 'something that must be still, on a line that moves while the board starts' },
  softwareBus: { value: 60, meaning: 'a part on a bus made in software' },
  driverless: { value: 50, meaning: 'a part whose driver no overlay line can load where it lies' },
  longPins: { value: 45,
    meaning: 'a header with long pins below an add-on board, so that the positions under it can be used' },
  console: { value: 40, meaning: 'an output of a part, or a contact, on a line that the boot console drives' },
  moved: { value: 30, meaning: 'a terminal that leaves the place it had' },
  madeOverlay: { value: 25,
    meaning: 'a part whose overlay has to be made, because the one of the image cannot be told of its place' },
  otherInstance: { value: 20, meaning: 'a controller that is not a default one' },
  movesAtStart: { value: 15, meaning: 'an input that idles the other way than the line is pulled at start' },
  stripOnSound: { value: 10, meaning: 'a light strip on the sound bus rather than on a PWM channel' },
  stripOnSpi: { value: 12, meaning: 'a light strip on an SPI bus rather than on a PWM channel' },
  sharedSupply: { value: 10, meaning: 'each further wire on one supply or ground position' },
  behindAnother: { value: 6, meaning: 'a terminal behind a hub or an expander rather than on the header' },
  defaultFunction: { value: 5, meaning: 'a plain signal on a line that a default controller could use' },
  strapChanged: { value: 3, meaning: 'an address strap set otherwise than it comes' },
  otherWay: { value: 1, meaning: 'each less usual way to bring a controller out' },
  otherFunction: { value: 0.5, meaning: 'the same for each other controller; each later select of a bus' },
  apart: { value: 0.4, meaning: 'each column between a line and the middle of its part' },
  farFromEnd: { value: 0.06, meaning: 'each column from the nearer end of the header: hard to count' },
  outOfOrder: { value: 0.04, meaning: 'signals of a part against the order of its connector' },
} as const satisfies Record<string, WeightRow>

export type WeightName = keyof typeof WEIGHT_TABLE
export type Weights = Readonly<Record<WeightName, number>>

export const WEIGHT_NAMES = Object.keys(WEIGHT_TABLE) as WeightName[]

/** The table with the maker's own figures in it. */
export function weightsOf(plan: Pick<Plan, 'weights'>): Weights {
  return Object.fromEntries(WEIGHT_NAMES.map(name => [name, plan.weights[name] ?? WEIGHT_TABLE[name].value])) as Weights
}

/**
 * All costs of a placement are whole multiples of this: with the shipped weights 0.02; with weights of the maker's own
 * that are no multiples of it, next to nothing.
 */
export function quantumOf(weights: Weights): number {
  const whole = (value: number) => Math.abs(value - Math.round(value)) < 1e-9
  return WEIGHT_NAMES.every(name => whole(weights[name] / 0.02)) && whole(weights.apart / 0.04)
    && whole(weights.outOfOrder / 0.04)
    ? 0.02
    : 1e-6
}

/** Costs this small tell apart places that nothing else does: the second channel of a hub from the first. */
export const TRIFLE = 0.02
