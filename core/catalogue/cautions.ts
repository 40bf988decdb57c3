import type { Part } from './types'

/** Above this a voltage is dangerous to touch. published: IEC 61140, extra-low voltage, 50 V AC */
const TOUCH_V = 50

/**
 * What anybody who handles the part has to know: what its file says, and what follows from contacts that
 * switch other circuits.
 */
export function cautionsOf(part: Part): string[] {
  const { contacts, cautions = [] } = part
  if (!contacts) return cautions
  return [
    ...cautions,
    ...contacts.maxAcV > TOUCH_V
      ? ['Its contacts can carry mains: that side is for an electrician, earthed, fused and covered, and '
        + 'never on a breadboard.']
      : [],
    'When the program hangs a contact stays as it is, and while the board restarts it drops or stays: a pump, a valve '
    + 'or a heater has to be safe either way, without software.',
  ]
}
