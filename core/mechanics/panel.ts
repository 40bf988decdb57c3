/** Parts with threads of their own: the board can stand on some, and plates are screwed to them. */
import type { Facts, ResolvedPart } from '../facts/types'
import { mountAnswer, screwFor, type BlindThread, type Mount, type MountAnswer } from './fasteners'

export type MountFacts = Pick<Facts, 'board' | 'plan' | 'parts'>
interface Threaded extends BlindThread { xMm: number, yMm: number }

/**
 * A part that the board can stand on: its near left corner as seen from the board's own, and the threads under
 * the board's holes.
 */
export interface StandingPlate extends BlindThread {
  owner: ResolvedPart
  x0: number
  y0: number
}

/** Holes are one above the other where they differ by no more, mm. practice */
const SAME_HOLE_MM = 0.5

const threadsOf = ({ part }: ResolvedPart): Threaded[] => (part.body?.holes ?? []).flatMap(({ xMm, yMm, thread }) =>
  thread ? [{ xMm, yMm, thread: thread.size, depthMm: thread.depthMm }] : [])

/** Threads that lie under the board's holes when it is moved so; all of them, or none. */
function under(holes: readonly { xMm: number, yMm: number }[], threads: readonly Threaded[]) {
  const [first] = holes
  for (const start of first ? threads : []) {
    const [x, y] = [first!.xMm - start.xMm, first!.yMm - start.yMm]
    const met = holes.map(hole => threads.find(thread =>
      Math.hypot(thread.xMm + x - hole.xMm, thread.yMm + y - hole.yMm) <= SAME_HOLE_MM))
    if (met.every(thread => thread !== undefined)) return { x, y, met: met as Threaded[] }
  }
  return null
}

/** Parts whose threads lie as the board's holes do. */
export const groundsOf = ({ board, parts }: MountFacts): StandingPlate[] => parts.flatMap((owner) => {
  const found = under(board?.body?.holes ?? [], threadsOf(owner))
  if (!found) return []
  const depthMm = Math.min(...found.met.map(thread => thread.depthMm))
  return [{ owner, x0: found.x, y0: found.y, thread: found.met[0]!.thread, depthMm }]
})

/**
 * The board as it is mounted; null where it is not. A part that is gone, or whose threads lie elsewhere, counts
 * as a plate.
 */
export function mountOf(facts: MountFacts): { mount: Mount, ground: StandingPlate | null, answer: MountAnswer } | null {
  const { mount } = facts.plan.build
  if (!mount) return null
  const ground = groundsOf(facts).find(({ owner }) => owner.id === mount.onto) ?? null
  return { mount, ground, answer: mountAnswer(mount, ground ?? undefined) }
}

/** Threads of a part that are left for what is screwed to it, by their kind. */
export interface Fixing extends BlindThread {
  owner: ResolvedPart
  count: number
  /** What lies between head and thread, mm; null where the maker did not say. */
  clampedMm: number | null
  screwMm: number | null
}

/** Threads that the board does not stand on; of two sizes the thicker one holds the part. */
export const fixingsOf = (facts: MountFacts): Fixing[] => facts.parts.flatMap((owner) => {
  const threads = threadsOf(owner)
  const taken = under(facts.board?.body?.holes ?? [], threads)?.met ?? []
  const kinds = new Map<string, Fixing>()
  const clampedMm = facts.plan.build.places[owner.id]?.clampedMm ?? null
  const free = threads.filter(one => !taken.includes(one))
  const thickest = free.some(({ thread }) => thread === 'M3') ? 'M3' : 'M2.5'
  for (const { thread, depthMm } of free.filter(one => one.thread === thickest)) {
    const key = `${thread} ${depthMm}`
    const kind = kinds.get(key) ?? {
      owner, thread, depthMm, count: 0, clampedMm,
      screwMm: clampedMm === null ? null : screwFor({ thread, clampedMm, depthMm }),
    }
    kind.count++
    kinds.set(key, kind)
  }
  return [...kinds.values()]
})

/** Screws for what is screwed to parts, where its thickness was said. */
export const fixedWith = (facts: MountFacts): { what: string, count: number }[] => fixingsOf(facts)
  .flatMap(({ thread, screwMm, count }) =>
    screwMm === null ? [] : [{ what: `Screw, pan head, ${thread} × ${screwMm}`, count }])
