/** Boards that are pushed on: where each comes to lie, and the spacers and screws that hold it on what is below. */
import { coverOf } from '../facts/seats'
import type { Facts, ResolvedPart } from '../facts/types'
import { BOARD_MM, mm, screwFor, SERIES, SPACERS_MM, STUDS_MM, type Thread } from './fasteners'
import { fixedWith, mountOf, type MountFacts } from './panel'

/** From the board's face to the underside of what is pushed on, mm. memory: 11 to 12 */
export const SEATED_MM = 11
/** Distance of two positions of a header, mm. published: IEC 60603-11 */
export const PITCH_MM = 2.54
/** An insulating film, mm. practice */
export const FILM_MM = 0.2
/** Holes are one above the other where they differ by no more, mm. practice */
const SAME_HOLE_MM = 0.5
/** A socket may stand off its seat by so much and still hold its pins, mm. practice */
const OFF_SEAT_MM = 1

/** A board on the header, in the measure of the board below all. */
export interface BoardSeat {
  owner: ResolvedPart
  /** Its near left corner. */
  x0: number
  y0: number
  underMm: number
  faceMm: number
}

/**
 * Every board that is pushed on and whose size is known, from the lowest up: each over its positions, above what
 * covers them already.
 */
export function seatsOf({ board, stack, plan }: Pick<Facts, 'board' | 'stack' | 'plan'>): BoardSeat[] {
  const at = board?.body?.headerAt
  const seats: (BoardSeat & { from: number, to: number })[] = []
  for (const owner of at ? stack : []) {
    const cover = coverOf(owner)
    const { body } = owner.part
    if (!cover || !body) continue
    const own = body.headerAt ?? at!
    const over = Math.max(0,
      ...seats.flatMap(({ from, to, faceMm }) => from <= cover.to && to >= cover.from ? faceMm : []))
    const underMm = over + SEATED_MM + (plan.build.places[owner.id]?.liftMm ?? 0)
    seats.push({
      owner, x0: at!.xMm + (Math.ceil(cover.from / 2) - 1) * PITCH_MM - own.xMm, y0: at!.yMm - own.yMm, underMm,
      faceMm: underMm + (body.boardMm ?? 0), ...cover,
    })
  }
  return seats
}

interface Point { x: number, y: number, dMm: number }
const holesOf = (seat: Pick<BoardSeat, 'x0' | 'y0'>,
  holes: readonly { xMm: number, yMm: number, dMm: number }[] = []): Point[] =>
  holes.map(({ xMm, yMm, dMm }) => ({ x: seat.x0 + xMm, y: seat.y0 + yMm, dMm }))

/** Spacers between a board that is pushed on and the board below it. */
export interface StackLevel {
  partId: string
  name: string
  /** The part below; null for the board itself. */
  below: string | null
  gapMm: number
  /** Holes that lie one above the other, in the measure of the board. */
  holes: { x: number, y: number }[]
  spacerMm: number | null
  /** Washers under each spacer, where none is sold that is high enough. */
  washers: number
  /** How it is held below: a stud into the spacer under that board, or a screw from below. Mm. */
  studMm: number | null
  screwBelowMm: number | null
  /** The screw from above; null where the stud of the next level is in its place. */
  screwAboveMm: number | null
  problem: string | null
}

export interface StackAnswer {
  thread: Thread
  levels: StackLevel[]
  /** Screws of the board on its plate that studs take the place of. */
  insteadOfMount: number
}

/** The lowest spacer that reaches over a gap and leaves the socket on its pins; with washers where none does. */
function spacerFor(gapMm: number, thread: Thread): { spacerMm: number, washers: number } | null {
  const { washerMm } = SERIES[thread]
  for (const washers of [0, 1, 2]) {
    const spacerMm = SPACERS_MM.find((height) => {
      const over = height + washers * washerMm - gapMm
      return over >= -1e-9 && over <= OFF_SEAT_MM + 1e-9
    })
    if (spacerMm !== undefined) return { spacerMm, washers }
  }
  return null
}

/**
 * Spacers and screws for every board that is pushed on and has two holes or more over those of a board below;
 * the lowest first.
 */
export function stackOnSpacers(facts: MountFacts & Pick<Facts, 'stack'>): StackAnswer {
  const { board, plan: { build: { mount } } } = facts
  const thread = mount?.thread ?? 'M2.5'
  const { d } = SERIES[thread]
  const base = mountOf(facts)?.answer ?? null
  const boardMm = board?.body?.boardMm ?? BOARD_MM
  const seats = seatsOf(facts)
  const levels: StackLevel[] = []
  /** What is left of the thread of a level's spacer for what comes from above. */
  const left = new Map<string, number>()
  let insteadOfMount = 0
  for (const [i, seat] of seats.entries()) {
    const mine = holesOf(seat, seat.owner.part.body!.holes)
    const over = (others: readonly Point[]) => mine.filter(one => others.some(other =>
      Math.hypot(one.x - other.x, one.y - other.y) <= SAME_HOLE_MM))
    const lower = seats.slice(0, i).reverse()
      .find(other => over(holesOf(other, other.owner.part.body!.holes)).length > 1)
    const holes = over(lower
      ? holesOf(lower, lower.owner.part.body!.holes)
      : holesOf({ x0: 0, y0: 0 }, board?.body?.holes))
    if (holes.length < 2) continue
    const gapMm = Number((seat.underMm - (lower?.faceMm ?? 0)).toFixed(2))
    const found = spacerFor(gapMm, thread)
    const level: StackLevel = {
      partId: seat.owner.id, name: seat.owner.name, below: lower?.owner.id ?? null, gapMm,
      holes: holes.map(({ x, y }) => ({ x, y })),
      spacerMm: found?.spacerMm ?? null, washers: found?.washers ?? 0, studMm: null, screwBelowMm: null,
      screwAboveMm: null, problem: null,
    }
    levels.push(level)
    const tight = holes.find(({ dMm }) => dMm < d)
    if (tight) level.problem = `${thread} does not go through the holes of ${mm(tight.dMm)}: leave it to the header, `
      + 'or hold it otherwise.'
    else if (!found) level.problem = `No spacer is sold for the ${mm(gapMm)} between them: a riser of another `
      + 'height changes that.'
    else fasten(level, found.spacerMm, lower ?? null, seat.owner.part.body!.boardMm ?? BOARD_MM)
  }
  return { thread, levels, insteadOfMount }

  function fasten(level: StackLevel, spacerMm: number, lower: BoardSeat | null, topMm: number): void {
    const under = lower ? levels.find(({ partId }) => partId === lower.owner.id) : null
    const washers = level.washers * SERIES[thread].washerMm
    const belowMm = lower ? lower.owner.part.body!.boardMm ?? BOARD_MM : boardMm
    /** Thread of what holds the board below, which a stud may take. */
    let open: number | undefined
    if (lower) open = left.get(lower.owner.id)
    else open = base?.items.length ? base.openMm : undefined
    let taken = 0
    if (open === undefined) {
      if (lower) return void (level.problem = `${lower.owner.name} stands on no spacers itself: there is nothing `
        + 'to screw into.')
      level.screwBelowMm = screwFor({ thread, clampedMm: belowMm + washers, depthMm: spacerMm })
      if (level.screwBelowMm === null) return void (level.problem = 'No screw of the series goes through '
        + `${mm(belowMm)} and holds.`)
      taken = level.screwBelowMm - belowMm - washers
    }
    else {
      const reach = (stud: number) => stud - belowMm - washers
      level.studMm = STUDS_MM.find(stud => reach(stud) >= d - 1e-9 && reach(stud) <= open + 1e-9) ?? null
      if (level.studMm === null) return void (level.problem = `No stud goes through ${mm(belowMm)} and holds in `
        + 'the spacer below.')
      if (under) under.screwAboveMm = null
      else insteadOfMount = Math.max(insteadOfMount, level.holes.length)
    }
    level.screwAboveMm = screwFor({ thread, clampedMm: topMm, depthMm: spacerMm - taken })
    if (level.screwAboveMm === null) return void (level.problem = `No screw of the series goes through ${mm(topMm)} and holds.`)
    left.set(level.partId, spacerMm - taken)
  }
}

export interface Fastener {
  what: string
  count: number
  /** From where a screw goes in, where there are two ways. */
  from?: 'below' | 'above'
}

/** "4 × Screw, pan head, M2.5 × 5, from below; …" */
export const fastenersInWords = (list: readonly Fastener[]): string =>
  list.map(({ what, count, from }) => `${count} × ${what}${from ? `, from ${from}` : ''}`).join('; ')

/** What one level wants. */
export function levelItems({ holes, spacerMm, washers, studMm, screwBelowMm, screwAboveMm, problem }: StackLevel,
  thread: Thread): Fastener[] {
  if (problem !== null || spacerMm === null) return []
  const count = holes.length
  return [
    {
      what: studMm === null
        ? `Spacer, ${thread}, thread at both ends, ${spacerMm} mm`
        : `Spacer, ${thread}, stud of ${studMm} mm and thread, ${spacerMm} mm`, count,
    },
    ...washers ? [{ what: `Washer, ${thread}`, count: count * washers }] : [],
    ...([[screwBelowMm, 'below'], [screwAboveMm, 'above']] as const).flatMap(([length, from]) =>
      length === null ? [] : [{ what: `Screw, pan head, ${thread} × ${length}`, count, from }]),
  ]
}

/** All that holds the board on its plate: without the screws that studs of the boards above take the place of. */
export function mountItems(facts: MountFacts & Pick<Facts, 'stack'>): Fastener[] {
  const { mount, spacers } = facts.plan.build
  if (!mount) return []
  const { items, topMm } = mountOf(facts)!.answer
  const instead = spacers ? stackOnSpacers(facts).insteadOfMount : 0
  // Their washers stay in the box too: under a spacer they would lift the board off its seat.
  const goes = new Set([`Screw, pan head, ${mount.thread} × ${topMm}`, `Washer, ${mount.thread}`])
  return items.map(item => goes.has(item.what) ? { ...item, count: item.count - instead } : item)
    .filter(({ count }) => count > 0)
}

/** Films that insulate a board from what is below it, each as large as its board. */
export const filmsOf = (facts: MountFacts & Pick<Facts, 'stack'>): Fastener[] => seatsOf(facts)
  .flatMap(({ owner: { id, part } }) =>
    facts.plan.build.places[id]?.film
      ? [{ what: `Insulating film, ${mm(FILM_MM)}, ${part.body!.widthMm} × ${part.body!.depthMm} mm`, count: 1 }]
      : [])

/** Every fastener and film of the plan, like ones together. */
export function fastenersOf(facts: MountFacts & Pick<Facts, 'stack'>): Fastener[] {
  const { thread, levels } = stackOnSpacers(facts)
  const all = [
    ...mountItems(facts), ...fixedWith(facts), ...filmsOf(facts),
    ...facts.plan.build.spacers ? levels.flatMap(level => levelItems(level, thread)) : [],
  ]
  const counts = new Map<string, number>()
  for (const { what, count } of all) counts.set(what, (counts.get(what) ?? 0) + count)
  return [...counts].map(([what, count]) => ({ what, count }))
}
