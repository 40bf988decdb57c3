/**
 * Flat cables that the plan has: between the slots of its board and those of its parts, as their files describe them.
 */
import type { FlatSlot, Opening } from '../catalogue/shapes/body'
import type { Facts } from '../facts/types'
import { plugsOf } from '../netlist/supply/plugged'
import type { PlacedBody } from './bodies'
import { flatCableFor, type Direction, type FlatCableAnswer, type FlatConnector } from './flat-cable'
import { gapOf } from './solids'

export interface PlannedFlatCable {
  partId: string
  name: string
  one: FlatConnector
  two: FlatConnector
  apartMm: number
  /**
   * Nobody said where the part lies: it can be turned until the cable goes, and the length is that of what
   * comes with it.
   */
  isLoose: boolean
  answer: FlatCableAnswer
}

/** A quarter to the left, seen from above. */
const TURNED: Readonly<Record<Direction, Direction>> = { right: 'far', far: 'left', left: 'near', near: 'right' }
const isDirection = (word: string): word is Direction => word in TURNED
const turnedOnce = <T extends string>(word: T): T => isDirection(word) ? TURNED[word] as T & Direction : word

const connector = (slot: FlatSlot, opens: Opening, isTurned: boolean): FlatConnector => {
  const turn = isTurned ? turnedOnce : <T>(word: T) => word
  return { ways: slot.ways, pitchMm: slot.pitchMm, contacts: turn(slot.contacts), opens: turn(opens),
    first: turn(slot.first), looks: 'up' }
}

/** Lead of a part whose file says none, mm. practice */
const USUAL_MM = 150

/**
 * The flat cable of each part whose slot, and the board's, are described. A part lies with its slots up, its edges
 * along the board's, as it is drawn; one that nobody placed may be turned by halves until way 1 meets way 1. `bodies`:
 * where things are; null where only the kind of cable is asked for.
 */
export function flatCablesOf({ board, parts, plan }: Pick<Facts, 'board' | 'parts' | 'plan'>,
  bodies: readonly PlacedBody[] | null,
): PlannedFlatCable[] {
  const slots = (board?.body?.standing ?? []).flatMap(entry =>
    entry.kind === 'socket' && entry.flat ? [{ ...entry, flat: entry.flat }] : [])
  const taken = new Set<string>()
  return parts.flatMap((owner): PlannedFlatCable[] => plugsOf(owner).flatMap(({ socket }) => {
    const here = slots.find(entry => entry.socket === socket && !taken.has(entry.id))
    if (!here) return []
    taken.add(here.id)
    const there = owner.part.body?.standing?.find(entry =>
      entry.kind === 'socket' && entry.socket === socket && entry.flat)
    if (there?.kind !== 'socket' || !there.flat) return []
    const body = bodies?.find(({ id }) => id === owner.id)
    const slot = bodies?.find(({ id }) => id === `@board.${here.id}`)
    const isLoose = !body || body.laid === true
    const leadMm = owner.part.leadM === undefined ? USUAL_MM : owner.part.leadM * 1000
    const apartMm = isLoose || !slot ? leadMm / 2 : Math.max(1, Math.round(gapOf(slot.solid, body.solid)))
    const one = connector(here.flat, here.opens, false)
    const asDrawn = connector(there.flat, there.opens, plan.build.places[owner.id]?.turned ?? false)
    const tries = isLoose ? turns(asDrawn) : [asDrawn]
    const answers = tries.map(two => ({ two, answer: flatCableFor(one, two, apartMm) }))
    const best = answers.find(({ answer }) => answer.fits) ?? answers[0]!
    return [{
      partId: owner.id, name: owner.name, one, two: best.two, apartMm, isLoose,
      answer: isLoose ? lengthLeftOut(best.answer) : best.answer,
    }]
  }))
}

/** Where nobody said how far apart the slots are there is nothing to say of the length. */
const lengthLeftOut = (answer: FlatCableAnswer): FlatCableAnswer => ({
  ...answer, lengthMm: null, reasons: answer.reasons.filter(reason => !/^\d+ mm long: /.test(reason)),
})

/** The same slot in each of four ways round, as it lies first. */
function turns(end: FlatConnector): FlatConnector[] {
  const all = [end]
  for (let i = 0; i < 3; i++) {
    const last = all.at(-1)!
    all.push({ ...last, contacts: turnedOnce(last.contacts), opens: turnedOnce(last.opens),
      first: turnedOnce(last.first) })
  }
  return all
}

const SIDE: Readonly<Record<string, string>> = {
  top: 'away from the circuit board', bottom: 'to the circuit board', left: 'to the left', right: 'to the right',
  near: 'to you',
  far: 'away from you',
}

/** Which way the bare contacts look at each end, with the board's header up and away from you. */
export const seatingOf = ({ name, one, two }: Pick<PlannedFlatCable, 'name' | 'one' | 'two'>): string =>
  `At the board the bare contacts look ${SIDE[one.contacts]}; at ${name} ${SIDE[two.contacts]}.`
