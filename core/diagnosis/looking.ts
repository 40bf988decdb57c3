/** What all probes are made with. */
import type { Probe } from './types'
import type { World } from './world'

/** A probe with what the model sees at it. */
export interface Looking { probe: Probe, see: (world: World) => string }

/** Common practice, no source. */
export const MINUTES = { look: 0.5, ohm: 1.5, lamp: 0.5, volt: 1.5, list: 0.5, scan: 0.5, read: 1, try: 2, steady: 3,
  load: 10, replace: 15,
  card: 20 } as const

export const MUST = 'Power off, plug drawn. '

/** Said wherever contacts of a part are tried. */
export const CONTACTS = 'With nothing on the contacts: loads unplugged. Mains is for a licensed electrician, and is '
  + 'not measured here.'
