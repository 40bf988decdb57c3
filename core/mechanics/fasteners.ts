/**
 * Screws and spacers: which length holds, which is too short, which hits the ground; what to buy for a
 * board on a plate.
 */

export type Thread = 'M2.5' | 'M3'

interface Series {
  /** Nominal diameter, mm. */
  d: number
  /** Coarse pitch, mm. published: ISO 261 */
  pitchMm: number
  /** Lengths sold, mm. published: ISO 7045, ISO 888 */
  lengthsMm: readonly number[]
  /** Nut height, mm. published: ISO 4032 */
  nutMm: number
  /** Washer thickness, mm. published: ISO 7089 */
  washerMm: number
  /** Medium clearance hole, mm. published: ISO 273 */
  clearanceMm: number
  /** Head: diameter and height, mm. published: ISO 7045 */
  headMm: readonly [diameter: number, height: number]
}

export const SERIES: Readonly<Record<Thread, Series>> = {
  'M2.5': {
    d: 2.5, pitchMm: 0.45, lengthsMm: [3, 4, 5, 6, 8, 10, 12, 16, 20, 25], nutMm: 2, washerMm: 0.5, clearanceMm: 2.9,
    headMm: [5, 2.1],
  },
  'M3': {
    d: 3, pitchMm: 0.5, lengthsMm: [4, 5, 6, 8, 10, 12, 16, 20, 25, 30], nutMm: 2.4, washerMm: 0.5, clearanceMm: 3.4,
    headMm: [5.6, 2.4],
  },
}

/** Spacers as they are sold, mm. practice */
export const SPACERS_MM: readonly number[] = [5, 6, 7, 8, 10, 11, 12, 15, 18, 20, 25, 30]
/** A board, mm. memory */
export const BOARD_MM = 1.6
/** A spacer is at least so much higher than the tallest thing under the board, mm. practice */
export const AIR_MM = 1
/** So much thread has to hold, in diameters. practice */
const HOLDS_D = [1, 1.5] as const

export interface ScrewTask {
  thread: Thread
  /** What lies between head and thread, mm. */
  clampedMm: number
  /** Depth of the thread that it goes into, mm; null for a nut on the far side. */
  depthMm: number | null
  /** What ends the thread; the ground of the hole where nothing is said. */
  endsAt?: 'the other screw'
}

export interface ScrewVerdict {
  lengthMm: number
  is: 'too short' | 'right' | 'long' | 'hits'
  why: string
}

/** "2.7 mm" */
export const mm = (value: number) => `${Number(value.toFixed(2))} mm`

/**
 * Every length of the series for a task, with why. Into a thread: at least one diameter has to hold, one and a half are
 * enough, and the end may not reach the ground. Into a nut: it comes through by one turn of thread; what stands out
 * further is no harm, and said.
 */
export function screwVerdicts({ thread, clampedMm, depthMm, endsAt }: ScrewTask): ScrewVerdict[] {
  const { d, pitchMm, lengthsMm, nutMm } = SERIES[thread]
  return lengthsMm.map((lengthMm): ScrewVerdict => {
    const reach = lengthMm - clampedMm
    const say = (is: ScrewVerdict['is'], why: string): ScrewVerdict => ({ lengthMm, is, why })
    if (reach <= 0) return say('too short', `it ends in what it should hold, which is ${mm(clampedMm)} thick`)
    if (depthMm === null) {
      const min = nutMm + pitchMm
      if (reach < min - 1e-9) return say('too short', `${mm(reach)} come through, the nut and one turn want ${mm(min)}`)
      const out = reach - nutMm
      return out <= HOLDS_D[1] * d
        ? say('right', `it stands out of the nut by ${mm(out)}`)
        : say('long', `it holds, and stands out of the nut by ${mm(out)}`)
    }
    if (reach > depthMm + 1e-9) return say(
      'hits', `it wants ${mm(reach)} of thread, there are ${mm(depthMm)}: it hits ${endsAt ?? 'the ground'} by `
      + `${mm(reach - depthMm)} and holds nothing`,
    )
    if (reach < HOLDS_D[0] * d - 1e-9) return say('too short',
      `${mm(reach)} of thread hold, ${mm(HOLDS_D[0] * d)} are wanted`)
    return reach <= HOLDS_D[1] * d + 1e-9
      ? say('right', `${mm(reach)} of thread hold`)
      : say('long', `it holds, with ${mm(reach)} of thread where ${mm(HOLDS_D[1] * d)} are enough`)
  })
}

/** The screw to take: the shortest that is right, else the shortest that holds; null where none of the series does. */
export const screwFor = (task: ScrewTask): number | null => {
  const verdicts = screwVerdicts(task)
  return (verdicts.find(({ is }) => is === 'right') ?? verdicts.find(({ is }) => is === 'long'))?.lengthMm ?? null
}

export interface Mount {
  thread: Thread
  /** What the board stands on, mm. */
  plateMm: number
  /** The tallest thing under the board, mm. */
  underMm: number
  washers: boolean
}

/** A thread that ends in what it is cut into. */
export interface BlindThread {
  thread: Thread
  depthMm: number
}

export interface MountAnswer {
  spacerMm: number | null
  /** Through the board from above, through the plate from below. */
  topMm: number | null
  bottomMm: number | null
  /**
   * Stud of the spacers, where they go into threads of what is below; and washers under each, where the stud is longer
   * than they are.
   */
  studMm?: number
  studWashers?: number
  /** Thread of a spacer that is left for what comes from above. */
  openMm: number
  /** Why it does not go, or what to look at. */
  problems: string[]
  items: { what: string, count: number }[]
}

/** Boards have four holes. memory */
export const HOLES = 4

/**
 * A board on spacers on a plate, or in the threads of what is below: what to buy. Two screws share one spacer and may
 * not meet in it; a stud may not reach the ground of its thread.
 */
export function mountAnswer(mount: Mount, into?: BlindThread): MountAnswer {
  return into ? intoThreads(mount, into) : onPlate(mount)
}

/** Studs of spacers that have one, mm. practice */
export const STUDS_MM = [5, 6] as const
const MAX_WASHERS = 2

function intoThreads({ thread, underMm, washers }: Mount, into: BlindThread): MountAnswer {
  const { d, washerMm } = SERIES[thread]
  const none = (problem: string): MountAnswer => (
    { spacerMm: null, topMm: null, bottomMm: null, openMm: 0, items: [], problems: [problem] })
  if (into.thread !== thread) return none(`Its threads are ${into.thread}, and the spacers `
    + `${thread}: take ${into.thread}.`)
  const stud = [0, 1, 2].slice(0, MAX_WASHERS + 1).flatMap(count => STUDS_MM.map(studMm => ({ studMm, count })))
    .find(({ studMm, count }) => studMm - count * washerMm <= into.depthMm + 1e-9
      && studMm - count * washerMm >= d * HOLDS_D[0] - 1e-9)
  if (!stud) return none(`Its threads are ${mm(into.depthMm)} deep: the shortest stud, ${mm(STUDS_MM[0])}, `
    + 'hits the ground.')
  const clamped = BOARD_MM + (washers ? washerMm : 0)
  const lifted = stud.count * washerMm
  const spacerMm = SPACERS_MM.find(height => height + lifted >= underMm + AIR_MM - 1e-9
    && screwFor({ thread, clampedMm: clamped, depthMm: height }) !== null) ?? null
  if (spacerMm === null) return none(`No spacer is sold that is ${mm(underMm + AIR_MM)} high: take two, one `
    + 'on the other.')
  const topMm = screwFor({ thread, clampedMm: clamped, depthMm: spacerMm })!
  const washerCount = HOLES * (stud.count + Number(washers))
  return {
    spacerMm, topMm, bottomMm: null, studMm: stud.studMm, studWashers: stud.count, openMm: spacerMm, problems: [],
    items: [
      { what: `Spacer, ${thread}, stud of ${stud.studMm} mm and thread, ${spacerMm} mm`, count: HOLES },
      { what: `Screw, pan head, ${thread} × ${topMm}`, count: HOLES },
      ...washerCount ? [{ what: `Washer, ${thread}`, count: washerCount }] : [],
    ],
  }
}

function onPlate({ thread, plateMm, underMm, washers }: Mount): MountAnswer {
  const washer = washers ? SERIES[thread].washerMm : 0
  const high = SPACERS_MM.filter(height => height >= underMm + AIR_MM - 1e-9)
  const [board, plate] = [BOARD_MM + washer, plateMm + washer]
  const pairs = high.map(spacerMm => ({ spacerMm, ...screwPair(thread, board, plate, spacerMm) }))
  const found = pairs.find(({ topMm, bottomMm }) => topMm !== null && bottomMm !== null)
  if (!found) return {
    spacerMm: high[0] ?? null, topMm: pairs[0]?.topMm ?? null, bottomMm: null, openMm: 0, items: [],
    problems: [high.length
      ? `No screw of the series goes through the plate of ${mm(plateMm)} and holds: take a thinner one, or `
      + 'sink the heads.'
      : `No spacer is sold that is ${mm(underMm + AIR_MM)} high: take two, one on the other, or lower what hangs `
        + 'under the board.'],
  }
  const { spacerMm, topMm, bottomMm } = found as { spacerMm: number, topMm: number, bottomMm: number }
  const screws = [topMm, bottomMm]
  return {
    spacerMm, topMm, bottomMm, openMm: spacerMm - (bottomMm - plate), problems: [],
    items: [
      { what: `Spacer, ${thread}, thread at both ends, ${spacerMm} mm`, count: HOLES },
      ...[...new Set(screws)].map(length => (
        { what: `Screw, pan head, ${thread} × ${length}`,
          count: HOLES * screws.filter(other => other === length).length })),
      ...washers ? [{ what: `Washer, ${thread}`, count: 2 * HOLES }] : [],
    ],
  }
}

/** The board's screw as short as holds, then the plate's in what the spacer has left. */
function screwPair(thread: Thread, board: number, plate: number,
  spacerMm: number): { topMm: number | null, bottomMm: number | null } {
  const topMm = screwFor({ thread, clampedMm: board, depthMm: spacerMm })
  if (topMm === null) return { topMm, bottomMm: null }
  const left = spacerMm - (topMm - board)
  return { topMm, bottomMm: left > 0 ? screwFor({ thread, clampedMm: plate, depthMm: left }) : null }
}
