/** Rehearsing and reading trees off the main thread, so that typing is never blocked. */
import { PADS } from '~~/core/devicetree/board/pads'
import { shippedCatalogue } from '~~/core/catalogue'
import { readBlob } from '~~/core/devicetree/blob/read'
import { profileOf } from '~~/core/devicetree/board/profile'
import { printSource } from '~~/core/devicetree/source/print'
import { gatherFacts } from '~~/core/facts/gather'
import { baseFor, rehearse } from '~~/core/boot/rehearse/rehearse'
import type { Board } from '~~/core/catalogue/types'
import type { Plan } from '~~/core/plan/types'

export const service = {
  rehearse(plan: Plan, onStep: (done: number, of: number) => void) {
    const { tree, ...story } = rehearse(gatherFacts(plan, shippedCatalogue), onStep)
    return { ...story, source: printSource(tree, { labels: true }) }
  },
  /** What there is to see of the tree that ships for a board. */
  sample(board: Board) {
    return profileOf(baseFor(board), { pads: PADS })
  },
  profile(bytes: Uint8Array) {
    return profileOf(readBlob(bytes), { pads: PADS })
  },
}

export type BootService = typeof service
