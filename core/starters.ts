/** First plans for somebody who has none: a few things that people begin with, each made of parts that go together. */
import type { Catalogue } from './catalogue/types'
import { placementEdits, placePlan } from './placement/place'
import { emptyPlan } from './plan/create'
import { applyEdit } from './plan/edits'
import type { Plan } from './plan/types'

export interface Starter {
  id: string
  title: string
  says: string
  /** Parts by type, with the names they get. */
  parts: readonly (readonly [type: string, name: string])[]
}

export const STARTERS: readonly Starter[] = [
  {
    id: 'air', title: 'Measure the air', says: 'Pressure, humidity and temperature, shown on a small screen: four wires that both share.',
    parts: [['pressure-humidity-i2c', 'Weather'], ['oled-i2c', 'Screen']],
  },
  {
    id: 'hall', title: 'Light when somebody comes', says: 'A motion detector and a lamp with a resistor: one line in, one line out.',
    parts: [['motion-passive', 'Hall'], ['led-plain', 'Lamp']],
  },
  {
    id: 'switch', title: 'Switch something', says: 'A relay board and a button: what hangs on the contacts has a circuit of its own.',
    parts: [['relay-board-1', 'Relay'], ['button-1', 'Button']],
  },
  {
    id: 'time', title: 'Keep the time', says: 'A clock that goes on without current and without a network, and a button to set '
      + 'something going.',
    parts: [['clock-cell-i2c', 'Clock'], ['button-1', 'Button']],
  },
]

/** A plan with a board, a supply and what one begins with, everything placed that can be. Pure. */
export function firstPlan(
  { name, board, supply, starter }: { name: string, board: string, supply: string | null, starter: Starter }, catalogue: Catalogue,
): Plan {
  const plan: Plan = {
    ...emptyPlan(name), board, supply: supply ? { type: supply } : null,
    parts: starter.parts.map(([type, called], i) => ({ id: `${type.split('-')[0]!}-${i + 1}`, type, name: called })),
  }
  const placed = placePlan(plan, catalogue, { scope: 'rest' })
  return placed.ok ? applyEdit(plan, { edit: 'all', edits: placementEdits(plan, placed) }).plan : plan
}
